/** Marks that say what repeats and what is shown: `{{repeat line by district}}`, `{{when …}}`, `{{otherwise}}`, `{{end}}`. */

import { CorbixError, columnKey, groupKey, suggestName } from "../common/index.js";
import {
  type Env,
  type Field,
  isEmpty,
  linesOf,
  OWN_LINES,
  type Scope,
  showValue,
  withLine,
  withLines,
} from "../expression/index.js";
import type { ColumnInfo } from "../table/index.js";
import { say } from "../words/index.js";
import { bindField, cutMarks, parseMark, STRUCTURE, withPlace } from "./marks.js";
import { capitalise, parseTableColumns, type TableColumn } from "./table-columns.js";

export type Structure =
  | {
      readonly kind: "repeat";
      /** The folded name of the lines it stands for. */
      readonly lines: string;
      /** To the right instead of downwards. */
      readonly across: boolean;
      /** Of a document: each repetition but the first begins a page. */
      readonly paged: boolean;
      readonly where: Field | undefined;
      readonly by: Field | undefined;
      readonly source: string;
      readonly slides?: OfSlides;
    }
  | { readonly kind: "when"; readonly test: Field; readonly source: string; readonly slides?: OfSlides }
  | { readonly kind: "otherwise" | "end"; readonly source: string; readonly slides?: OfSlides }
  | {
      /** A whole table of the lines. */
      readonly kind: "table";
      /** The folded name of the lines it shows. */
      readonly lines: string;
      readonly columns: readonly TableMarkColumn[] | undefined;
      readonly where: Field | undefined;
      /** Name of a table style. */
      readonly style: string | undefined;
      readonly source: string;
      readonly slides?: undefined;
    };

/** Of a slide deck: whether it stands for the slide it is on, or for all from there to where it ends. */
export type OfSlides = "one" | "many" | undefined;

/** A column of `{{table line: …}}`: a field over a line, and whether its values are added up below. */
export interface TableMarkColumn {
  readonly heading: string;
  readonly field: Field;
  readonly total: boolean;
}

/** `repeat line …`, `table costs: …`: the name of the lines and the rest. */
const LINES_NAMED = /^(?:repeat|table)\s+([\p{L}_][\p{L}\p{M}\p{N}_]*)(?![\p{L}\p{N}_.(])([\s\S]*)$/u;

const FORM = "Write {{repeat line}}, {{repeat line where …}}, {{repeat line by …}} or {{repeat line across}}.";
const TABLE_FORM = 'Write {{table line}} or {{table line: unit, fee headed "Fee" as "0.00" total, remarks where …}}.';

/** The structures in a text, and the text without them. Throws `BAD_MARK` with the place. */
export function cutStructures(text: string, where: string): { structures: Structure[]; rest: string } {
  const structures: Structure[] = [];
  let rest = "";
  for (const piece of cutMarks(text, where)) {
    if (piece.kind === "text") rest += piece.text;
    else if (STRUCTURE.test(piece.source)) structures.push(parseStructure(piece.source, where));
    else rest += `{{${piece.source}}}`;
  }
  return { structures, rest };
}

/** Reads what stands in the braces of a structure. Throws `BAD_MARK` with the place. */
export function parseStructure(source: string, where: string): Structure {
  const refuse = (advice: string): CorbixError =>
    new CorbixError("BAD_MARK", say().template.cannotUseHere({ source }), { where, advice });
  if (source === "end" || source === "otherwise") return { kind: source, source };
  const when = /^when\s+([\s\S]+)$/.exec(source);
  if (when) return { kind: "when", test: parseMark(when[1], where), source };
  if (source.startsWith("table")) return parseTable(source, where, refuse);
  const repeat = LINES_NAMED.exec(source);
  if (!repeat) throw refuse(FORM);
  const parts = cutWords(repeat[2], /\b(across|paged|where|by)\b/);
  const across = parts.has("across");
  const paged = parts.has("paged");
  for (const word of ["", "across", "paged"]) if ((parts.get(word) ?? "") !== "") throw refuse(FORM);
  const field = (word: string): Field | undefined => {
    const text = parts.get(word);
    if (text === "") throw refuse(FORM);
    return text === undefined ? undefined : parseMark(text, where);
  };
  return { kind: "repeat", lines: columnKey(repeat[1]), across, paged, where: field("where"), by: field("by"), source };
}

function parseTable(source: string, where: string, refuse: (advice: string) => CorbixError): Structure {
  const table = LINES_NAMED.exec(source);
  if (!table) throw refuse(TABLE_FORM);
  const lines = columnKey(table[1]);
  const parts = cutWords(table[2].replace(/^\s*:/, ""), /\b(where|style)\b/);
  const style = parts.get("style")?.replace(/^"(.*)"$/, "$1");
  const condition = parts.get("where");
  const columns = parseTableColumns(parts.get("") ?? "", where);
  return {
    kind: "table",
    lines,
    columns: columns.length === 0 ? undefined : columns.map((column) => markColumn(column, lines, where)),
    where: condition === undefined ? undefined : parseMark(condition, where),
    style: style || undefined,
    source,
  };
}

function markColumn({ source, heading, format, total }: TableColumn, lines: string, where: string): TableMarkColumn {
  const plain = plainColumn(source, lines);
  const code = format === undefined ? "" : ` as "${format.replaceAll('"', '""')}"`;
  const name = plain === undefined ? source : lineField(lines, plain);
  return {
    heading: heading ?? capitalise(plain ?? source),
    field: parseMark(`${name}${code}`, where),
    total,
  };
}

/** What stands behind each of the words, outside of quotes. */
function cutWords(text: string, words: RegExp): Map<string, string> {
  const parts = new Map<string, string>();
  let word = "";
  let from = 0;
  const pattern = new RegExp(`"(?:[^"]|"")*"|\`[^\`]*\`|${words.source}`, "g");
  for (const match of text.matchAll(pattern)) {
    if (match[1] === undefined) continue;
    parts.set(word, text.slice(from, match.index).trim());
    word = match[1];
    from = match.index + word.length;
  }
  parts.set(word, text.slice(from).trim());
  return parts;
}

/** Conditions and keys of a structure, ready for a group's lines. */
export interface BoundStructure {
  /** The folded name of the lines it goes over. */
  readonly lines: string;
  readonly where: ((env: Env, line: number) => boolean) | undefined;
  readonly by: ((env: Env, line: number) => string) | undefined;
  readonly test: ((env: Env) => boolean) | undefined;
}

/**
 * A bare column in a condition or key is that of the line. Throws `BAD_EXPRESSION`, and `BAD_MARK` for lines the report does not have,
 * with the place.
 */
export function bindStructure(structure: Structure, scope: Scope, where: string): BoundStructure {
  const at = <T>(evaluate: () => T): T => withPlace(where, evaluate);
  if (structure.kind === "when") {
    const test = bindField(structure.test, scope, where);
    return {
      lines: OWN_LINES,
      where: undefined,
      by: undefined,
      test: (env) =>
        isTruth(
          at(() => test.evaluate(env)),
          structure.source,
          where,
        ),
    };
  }
  if (structure.kind !== "repeat" && structure.kind !== "table")
    return { lines: OWN_LINES, where: undefined, by: undefined, test: undefined };
  const { lines } = structure;
  refuseUnknownLines(structure, scope, where);
  const ofLines = lines === OWN_LINES ? scope : { ...scope, bare: lines };
  const oneLine = (env: Env, line: number): Env =>
    lines === OWN_LINES ? { ...env, lines: [line], row: line } : withLine(env, lines, line);
  const condition = structure.where && bindField(structure.where, ofLines, where);
  const key = structure.kind === "repeat" && structure.by && bindField(structure.by, ofLines, where);
  return {
    lines,
    where:
      condition &&
      ((env, line) =>
        isTruth(
          at(() => condition.evaluate(oneLine(env, line))),
          structure.source,
          where,
        )),
    by: !key
      ? undefined
      : (env, line) => {
          const value = at(() => key.evaluate(oneLine(env, line)));
          return isEmpty(value) ? "" : showValue(value, undefined, env.locale);
        },
    test: undefined,
  };
}

function refuseUnknownLines(
  { lines, source }: Structure & { readonly lines: string },
  scope: Scope,
  where: string,
): void {
  const known = [OWN_LINES, ...Object.keys(scope.further ?? {})];
  scope.onLines?.(lines);
  if (known.includes(lines)) return;
  throw new CorbixError("BAD_MARK", say().template.cannotUseLinesCalled({ source, lines }), {
    where,
    advice: say().template.writeLineGroupSOwn({
      knownCount: known.length,
      suggestion: suggestName(lines, known, "lines"),
    }),
  });
}

/** The folded name of lines that a definition names; the group's own without one. Throws `BAD_DEFINITION` with near names. */
export function linesNamed(name: string | undefined, scope: Scope, where: string): string {
  const known = [OWN_LINES, ...Object.keys(scope.further ?? {})];
  const lines = name === undefined ? OWN_LINES : columnKey(name);
  scope.onLines?.(lines);
  if (known.includes(lines)) return lines;
  throw new CorbixError("BAD_DEFINITION", say().template.cannotFindLines({ name }), {
    where,
    advice: say().template.furtherLinesNamedUnderLines({ suggestion: suggestName(name ?? "", known, "lines") }),
  });
}

/** Columns of lines by their folded name. */
export function columnsOf(lines: string, scope: Scope): readonly ColumnInfo[] {
  return lines === OWN_LINES ? scope.columns : (scope.further?.[lines] ?? []);
}

/** A column of lines as an expression names it. */
export function lineField(lines: string, column: string): string {
  return `${lines}.\`${column.trim()}\``;
}

/** The column that stands alone in an expression over lines, with their name or without; `undefined` for anything else. */
export function plainColumn(source: string, lines: string): string | undefined {
  const plain = /^(?:([\p{L}_][\p{L}\p{M}\p{N}_]*)\.)?(?:`([^`]+)`|([\p{L}_][\p{L}\p{M}\p{N}_ -]*))$/u.exec(source);
  if (!plain) return undefined;
  const [, of, quoted, bare = ""] = plain;
  return of === undefined || columnKey(of) === lines ? (quoted ?? bare).trim() : undefined;
}

function isTruth(value: unknown, source: string, where: string): boolean {
  if (typeof value === "boolean") return value;
  if (value === null) return false;
  throw new CorbixError("BAD_EXPRESSION", say().template.cannotDecideConditionNeitherTrue({ source }), {
    where,
    advice: say().template.compareSomething(),
  });
}

/**
 * What a group's lines look like in each repetition: for `by` the lines of each sub-group, in the order in which they come
 * first; else each line that counts as the current one.
 */
export function repetitions(
  { lines: name, where, by }: Pick<BoundStructure, "lines" | "where" | "by">,
  env: Env,
): Env[] {
  const all = linesOf(env, name).lines;
  const lines = where ? all.filter((line) => where(env, line)) : all;
  if (!by) return lines.map((row) => withLine(env, name, row));
  const groups = new Map<string, number[]>();
  for (const line of lines) {
    const key = groupKey(by(env, line));
    const known = groups.get(key);
    if (known) known.push(line);
    else groups.set(key, [line]);
  }
  return [...groups.values()].map((group) => withLines(env, name, group));
}
