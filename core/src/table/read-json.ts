import { CorbixError } from "../common/index.js";
import type { Decision } from "./decision.js";
import { Kind, RawSheet } from "./raw-sheet.js";
import { decodeBytes } from "./read-text.js";
import type { ChosenSheet } from "./read-workbook.js";
import type { IntakeRules } from "./rules.js";

/** Records nested deeper are refused; an honest one has two or three levels. */
const MAX_DEPTH = 64;

/** Whether a text begins as JSON does: an array, or an object. */
export function looksLikeJson(bytes: Uint8Array): boolean {
  const start = decodeBytes(bytes.subarray(0, 4096)).buffer.toString("utf8").trimStart();
  return /^\[\s*[[{\]]/.test(start) || /^\{\s*"/.test(start);
}

/** The records of a JSON array, of the one array in a JSON object, or of JSON lines. Throws `BAD_TABLE_FILE`. */
export function readJson(bytes: Uint8Array, where: string, rules: IntakeRules = {}): ChosenSheet {
  const { buffer, encoding } = decodeBytes(bytes, rules.encoding);
  // Whole numbers of 16 digits and more are ids: read as numbers they would lose their last digits.
  const text = buffer
    .toString("utf8")
    .replace(/"(?:[^"\\]|\\.)*"|-?\d{16,}(?![\d.eE])/g, (token) => (token[0] === '"' ? token : `"${token}"`));
  const decisions: Decision[] = [];
  const { records, kind } = parseRecords(text, where, decisions);
  const sheet = new RawSheet(where, { kind, encoding }, true);
  if (records.length === 0) return { sheet, decisions, others: [] };
  if (records.every(Array.isArray)) {
    records.forEach((record, index) => {
      sheet.startRow(index + 1);
      (record as unknown[]).forEach((value, column) => {
        putValue(sheet, column, value);
      });
    });
    return { sheet, decisions, others: [] };
  }
  const columns = new Map<string, number>();
  const rows = records.map((record, index) => flatten(record, `${where}, record ${index + 1}`, columns));
  sheet.startRow(0);
  sheet.headerAt = 0;
  for (const [name, column] of columns) sheet.putText(column, name);
  rows.forEach((row, index) => {
    sheet.startRow(index + 1);
    for (const [column, value] of row) putValue(sheet, column, value);
  });
  return { sheet, decisions, others: [] };
}

function parseRecords(
  text: string,
  where: string,
  decisions: Decision[],
): { records: readonly unknown[]; kind: string } {
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
  const arrays = Object.entries(whole as object).filter(([, value]) => Array.isArray(value));
  if (arrays.length === 1) {
    decisions.push({
      what: "records",
      chosen: arrays[0][0],
      why: "the only array in the file's object",
      corrected: false,
    });
    return { records: arrays[0][1] as unknown[], kind: "JSON" };
  }
  if (arrays.length === 0) return { records: [whole], kind: "JSON" };
  throw new CorbixError(
    "NO_TABLE",
    `Cannot tell which array holds the records: there are ${arrays.map(([name]) => `\`${name}\``).join(", ")}.`,
    { where, advice: "Export one of them alone." },
  );
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
  return new CorbixError("BAD_TABLE_FILE", `Cannot read the file as JSON: ${(cause as Error).message}.`, {
    where,
    advice: "Export it again: an array of records, or one record per line.",
    cause,
  });
}

/** A record's values by column; values inside objects get names with a dot, lists of plain values are joined. */
function flatten(record: unknown, where: string, columns: Map<string, number>): Map<number, unknown> {
  const row = new Map<number, unknown>();
  const visit = (value: unknown, name: string, depth: number): void => {
    if (depth > MAX_DEPTH)
      throw new CorbixError("LIMIT_EXCEEDED", `Cannot read a record nested deeper than ${MAX_DEPTH} levels.`, {
        where,
      });
    if (value !== null && typeof value === "object" && !Array.isArray(value)) {
      for (const [key, inner] of Object.entries(value)) visit(inner, name === "" ? key : `${name}.${key}`, depth + 1);
      return;
    }
    if (name === "")
      throw new CorbixError("BAD_TABLE_FILE", "Cannot read a record that is no object.", {
        where,
        advice: "Each record needs names for its values.",
      });
    let column = columns.get(name);
    if (column === undefined) {
      column = columns.size;
      columns.set(name, column);
    }
    row.set(column, value);
  };
  visit(record, "", 0);
  return row;
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
