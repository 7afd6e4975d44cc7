import { CorbixError, type Finding, suggestName, wordsOf } from "../../common/index.js";
import { say } from "../../words/index.js";
import type { Decision } from "../decision.js";
import type { IntakeRules } from "../rules.js";
import { Kind, RawSheet } from "./raw-sheet.js";
import { decodeBytes } from "./read-text.js";
import type { ChosenSheet } from "./read-workbook.js";

/** Records nested deeper are refused; an honest one has two or three levels. */
const MAX_DEPTH = 64;

/** Whether a text begins as JSON does: an array, or an object. */
export function looksLikeJson(bytes: Uint8Array): boolean {
  const start = decodeBytes(bytes.subarray(0, 4096)).buffer.toString("utf8").trimStart();
  return /^\[\s*[[{\]]/.test(start) || /^\{\s*"/.test(start);
}

/**
 * The records of a JSON array, of an array in a JSON object, or of JSON lines. A list of objects inside a record becomes its lines:
 * each row carries the record's own fields; where there are several, `list` says which. Throws `BAD_TABLE_FILE`, `NO_TABLE` or
 * `LIMIT_EXCEEDED`.
 */
export function readJson(bytes: Uint8Array, where: string, rules: IntakeRules = {}): ChosenSheet {
  const { buffer, encoding } = decodeBytes(bytes, rules.encoding);
  const text = withLongNumbers(buffer.toString("utf8"));
  const { records, kind } = parseRecords(text, where);
  const sheet = new RawSheet(where, { kind, encoding }, true);
  if (records.length === 0) return { sheet, decisions: [], others: [] };
  if (records.every(isArray)) {
    records.forEach((record, index) => {
      sheet.startRow(index + 1);
      record.forEach((value, column) => {
        putValue(sheet, column, value);
      });
    });
    return { sheet, decisions: [], others: [] };
  }
  const reader = new RecordReader(where, rules.list);
  const whole = records.map((record, index): Fields => {
    if (!isFields(record))
      throw new CorbixError("BAD_TABLE_FILE", say().table.cannotReadRecordObject(), {
        where: say().table.record({ where, index: index + 1 }),
        advice: say().table.eachRecordNeedsNamesValues(),
      });
    reader.look(record, "");
    return record;
  });
  reader.decide();
  const rows = reader.allRows(whole);
  const columns = reader.names(rows);
  sheet.startRow(0);
  sheet.headerAt = 0;
  for (const [name, column] of columns.values()) sheet.putText(column, name);
  rows.forEach((row, index) => {
    sheet.startRow(index + 1);
    for (const [path, value] of row) putValue(sheet, columns.get(path)?.[1] ?? 0, value);
  });
  return { sheet, decisions: reader.decisions, others: [], findings: reader.findings(rows) };
}

/** Whole numbers of 16 digits and more are ids: read as numbers they would lose their last digits. */
function withLongNumbers(text: string): string {
  return text.replace(/"(?:[^"\\]|\\.)*"|-?\d{16,}(?![\d.eE])/g, (token) => (token[0] === '"' ? token : `"${token}"`));
}

/** A text of JSON as its value, with long ids as texts; nothing for any other text. */
export function maybeJsonValue(text: string): unknown {
  try {
    return JSON.parse(withLongNumbers(text.replace(/^\ufeff/, "")));
  } catch {
    return undefined;
  }
}

/**
 * A record as flat rows, its fields by their short names: one for each entry of the list inside, or one. Throws `NO_TABLE` where
 * several lists could be meant, or `list` is none.
 */
export function flatRecord(record: Fields, where: string, list?: string): Readonly<Record<string, unknown>>[] {
  const reader = new RecordReader(where, list);
  reader.look(record, "");
  reader.decide();
  const rows = reader.rows(record, where);
  const names = reader.names(rows);
  return rows.map((row) => Object.fromEntries([...row].map(([path, value]) => [names.get(path)?.[0] ?? path, value])));
}

type Fields = Readonly<Record<string, unknown>>;
/** Values by their path: `people[].name`. */
type PathValues = ReadonlyMap<string, unknown>;

/** Reads records into rows: one for each entry of the list inside, or one for each record. */
class RecordReader {
  readonly decisions: Decision[] = [];
  /** Paths of lists of objects, with how many entries they have in all. */
  private readonly lists = new Map<string, number>();
  /** Lists that become lines, from the outer to the inner. */
  private chosen: readonly string[] = [];

  constructor(
    private readonly where: string,
    private readonly asked: string | undefined,
  ) {}

  /** Finds the lists of objects in a record. */
  look(value: Fields, path: string, depth = 0): void {
    if (depth > MAX_DEPTH)
      throw new CorbixError("LIMIT_EXCEEDED", say().table.cannotReadRecordNestedDeeper({ maxDepth: MAX_DEPTH }), {
        where: this.where,
      });
    for (const [key, inner] of Object.entries(value)) {
      const name = path === "" ? key : `${path}.${key}`;
      if (isList(inner)) {
        this.lists.set(`${name}[]`, (this.lists.get(`${name}[]`) ?? 0) + inner.length);
        for (const one of inner) if (isFields(one)) this.look(one, `${name}[]`, depth + 1);
      } else if (isFields(inner)) this.look(inner, name, depth + 1);
    }
  }

  /** Which lists become lines: the only one, with those inside it, or the one that was asked for. Throws `NO_TABLE`. */
  decide(): void {
    const all = [...this.lists.keys()];
    const plain = (path: string): string => path.replaceAll("[]", "");
    const inside = (path: string, outer: string): boolean => path === outer || path.startsWith(outer);
    // Every list that is not inside another's entries, or that another is inside of, stands for itself: they have to be one chain.
    const ends = all.filter((path) => !all.some((other) => other !== path && inside(other, path)));
    const wanted = this.asked;
    const end =
      wanted === undefined
        ? ends[0]
        : all.find(
            (path) => [path, plain(path)].includes(wanted.replace(/\[\]$/, "")) || plain(path) === plain(wanted),
          );
    if (wanted !== undefined && end === undefined)
      throw new CorbixError("NO_TABLE", say().table.cannotFindListRecords({ wanted }), {
        where: this.where,
        advice: suggestName(wanted, all.map(plain), "lists"),
      });
    if (wanted === undefined && ends.length > 1)
      throw new CorbixError(
        "NO_TABLE",
        say().table.cannotTellListHoldsRows({
          ends: ends.map((path) => `\`${plain(path)}\` (${entries(this.lists.get(path) ?? 0)})`).join(", "),
        }),
        {
          where: this.where,
          advice: say().table.correctListThemSuchOthers({ plain: plain(ends[0]) }),
        },
      );
    if (end === undefined) return;
    this.chosen = all.filter((path) => inside(end, path)).sort((a, b) => a.length - b.length);
    this.decisions.push({
      what: "records",
      chosen: plain(end),
      why: say().table.onlyListInsideRecordsEach({ wanted }),
      corrected: wanted !== undefined,
    });
  }

  allRows(records: readonly Fields[]): PathValues[] {
    return records.flatMap((record, index) =>
      this.rows(record, say().table.record({ where: this.where, index: index + 1 })),
    );
  }

  rows(record: Fields, where: string): PathValues[] {
    return this.expand(record, "", new Map(), where, 0);
  }

  /** A record's row, or the rows of the list in it. */
  private expand(value: Fields, path: string, above: PathValues, where: string, depth: number): PathValues[] {
    const own = new Map(above);
    let list: { readonly path: string; readonly entries: readonly unknown[] } | undefined;
    const visit = (fields: Fields, prefix: string, level: number): void => {
      if (level > MAX_DEPTH)
        throw new CorbixError("LIMIT_EXCEEDED", say().table.cannotReadRecordNestedDeeper({ maxDepth: MAX_DEPTH }), {
          where,
        });
      for (const [key, inner] of Object.entries(fields)) {
        const name =
          prefix === "" || prefix.endsWith("[]") ? `${prefix}${prefix === "" ? "" : "."}${key}` : `${prefix}.${key}`;
        if (isList(inner) && this.chosen.includes(`${name}[]`)) list = { path: `${name}[]`, entries: inner };
        else if (isFields(inner) && Object.keys(inner).length > 0) visit(inner, name, level + 1);
        else own.set(name, inner);
      }
    };
    visit(value, path, depth);
    // A record without an entry keeps its row.
    if (list === undefined || list.entries.length === 0) return [own];
    const { path: inside, entries } = list;
    return entries.flatMap((entry) =>
      isFields(entry) ? this.expand(entry, inside, own, where, depth + 1) : [new Map([...own, [inside, entry]])],
    );
  }

  /** What each path is called, and its column: the fields of entries go by their own names where nothing else has them. */
  names(rows: readonly PathValues[]): Map<string, [string, number]> {
    const paths = new Set<string>();
    // The records' own fields stand first, in the order in which they come up.
    for (const row of rows) for (const path of row.keys()) paths.add(path);
    const ordered = [...paths].sort((a, b) => depthOf(a) - depthOf(b));
    const taken = new Set<string>();
    const names = new Map<string, [string, number]>();
    ordered.forEach((path, column) => {
      const name = namesOf(path).find((one) => !taken.has(one.toLowerCase())) ?? path;
      taken.add(name.toLowerCase());
      names.set(path, [name, column]);
    });
    return names;
  }

  /** What was kept as text, since it is a list or an object of its own. */
  findings(rows: readonly PathValues[]): Finding[] {
    const kept = new Map<string, number>();
    for (const row of rows)
      for (const [path, value] of row)
        if (Array.isArray(value) && value.length > 0) kept.set(path, (kept.get(path) ?? 0) + 1);
    return [...kept].map(([path, count]): Finding => {
      const isPlain = !this.lists.has(`${path}[]`);
      return {
        code: "list-kept-as-text",
        // Who named another list knows of it.
        severity: isPlain || this.asked !== undefined ? "note" : "warn",
        where: this.where,
        what: say().table.listKeptText({ path: path.replaceAll("[]", ""), count }),
        advice: say().table.nothingDoUnlessEachEntries({ isPlain, path: path.replaceAll("[]", "") }),
        count,
      };
    });
  }
}

/** What a path may be called: its own name, then with the lists it lies in. `visits[].people[].name`: `name`, `people.name`, … */
function namesOf(path: string): string[] {
  const parts = path.split("[]").map((part) => part.replace(/^\./, ""));
  // An entry that is no object goes by its list.
  if (parts[parts.length - 1] === "") parts.splice(-2, 2, parts[parts.length - 2]);
  return parts.map((_, at) => parts.slice(parts.length - 1 - at).join("."));
}

const entries = (count: number): string => (count === 1 ? "1 entry" : `${count} entries`);

function depthOf(path: string): number {
  return path.split("[]").length;
}

function isArray(value: unknown): value is readonly unknown[] {
  return Array.isArray(value);
}

function isMatrix(value: unknown): value is readonly (readonly unknown[])[] {
  return isArray(value) && value.length > 0 && value.every(isArray);
}

function isFields(value: unknown): value is Fields {
  return value !== null && typeof value === "object" && !Array.isArray(value);
}

/** Names of columns beside rows that are lists: `{ "columns": ["site", "fee"], "data": [["Dock", 3]] }`. */
function isHeads(value: unknown, width: number): boolean {
  return Array.isArray(value) && value.length === width && value.every((one) => typeof one === "string");
}

/** A list of objects; one of plain values is a cell. */
function isList(value: unknown): value is readonly unknown[] {
  return Array.isArray(value) && value.some(isFields);
}

function parseRecords(text: string, where: string): { records: readonly unknown[]; kind: string } {
  let whole: unknown;
  try {
    whole = JSON.parse(text);
  } catch (cause) {
    const lines = text.split(/\r?\n/);
    if (lines.filter((line) => line.trim() !== "").length < 2 || !/^\s*[{[].*[}\]]\s*$/.test(lines[0]))
      throw jsonError(where, cause);
    return { kind: "JSON lines", records: lines.flatMap((line, at) => parseLine(line, at, where)) };
  }
  if (Array.isArray(whole)) return { records: whole, kind: "JSON" };
  // An object is one record: the list in it becomes the rows, and its own fields stand beside them.
  const fields = isFields(whole) ? Object.values(whole) : [];
  const matrices = fields.filter(isMatrix);
  if (matrices.length === 1 && !fields.some(isList)) {
    const [rows] = matrices;
    const heads = fields.find((value) => isHeads(value, rows[0].length));
    return { records: heads ? [heads, ...rows] : rows, kind: "JSON" };
  }
  const isEmpty = fields.some((value) => Array.isArray(value) && value.length === 0) && !fields.some(isList);
  return { records: isEmpty ? [] : [whole], kind: "JSON" };
}

function parseLine(line: string, at: number, where: string): unknown[] {
  if (line.trim() === "") return [];
  try {
    return [JSON.parse(line)];
  } catch (cause) {
    throw jsonError(`${where}, line ${at + 1}`, cause);
  }
}

function jsonError(where: string, cause: unknown): CorbixError {
  return new CorbixError("BAD_TABLE_FILE", say().table.cannotReadFileJson({ wordsOf: wordsOf(cause) }), {
    where,
    advice: say().table.exportAgainArrayRecordsRecord(),
    cause,
  });
}

function putValue(sheet: RawSheet, column: number, value: unknown): void {
  if (value === null || value === undefined) return;
  if (typeof value === "number") sheet.put(column, Kind.number, value);
  else if (typeof value === "boolean") sheet.put(column, value ? Kind.true : Kind.false, 0);
  else if (typeof value === "string") sheet.putText(column, value);
  else if (Array.isArray(value) && value.every((one) => one === null || typeof one !== "object"))
    sheet.putText(column, value.map((one) => String(one ?? "")).join(", "));
  else sheet.putText(column, JSON.stringify(value));
}
