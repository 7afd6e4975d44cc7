/** The columns a list shows, with their values as texts or as they are. */
import { CorbixError, columnKey, Exact, formatValue, isoFromSerial, suggestName } from "../common/index.js";
import { type Env, linesOf, type Scope } from "../expression/index.js";
import type { Cell, ColumnInfo } from "../table/index.js";
import { columnsOf, linesNamed } from "../template/index.js";
import { say } from "../words/index.js";

export interface ListColumnSpec {
  readonly column: string;
  readonly heading?: string | undefined;
  readonly format?: string | undefined;
  readonly width?: number | undefined;
  readonly align?: "left" | "right" | undefined;
}

export interface ListColumn extends Omit<ListColumnSpec, "column" | "heading"> {
  readonly info: ColumnInfo;
  readonly index: number;
  readonly heading: string;
}

/** The lines a list is made of, and their columns. */
export interface ShownLines {
  readonly lines: string;
  readonly columns: readonly ListColumn[];
}

/** Throws `BAD_DEFINITION` for lines or a column there are not, or for one heading twice, with the place. */
export function bindColumns(
  spec: { readonly lines?: string | undefined; readonly columns?: readonly (string | ListColumnSpec)[] | undefined },
  scope: Scope,
  where: string,
): ShownLines {
  const lines = linesNamed(spec.lines, scope, `${where}, lines`);
  const all = columnsOf(lines, scope);
  const taken = new Set<string>();
  const columns = (spec.columns ?? all.map(({ name }) => name)).map((one): ListColumn => {
    const { column: name, heading, ...rest } = typeof one === "string" ? { column: one } : one;
    const index = all.findIndex((column) => columnKey(column.name) === columnKey(name));
    const info = all[index];
    if (!info)
      throw new CorbixError("BAD_DEFINITION", say().workbook.cannotFindColumn({ name }), {
        where: `${where}, columns`,
        advice: suggestName(
          name,
          all.map((column) => column.name),
          "columns",
        ),
      });
    const called = heading ?? info.name;
    if (taken.has(called))
      throw new CorbixError("BAD_DEFINITION", say().list.headingTwice({ heading: called }), {
        where: `${where}, columns`,
        advice: say().list.giveAnotherHeading(),
      });
    taken.add(called);
    return { info, index, heading: called, ...rest };
  });
  return { lines, columns };
}

/** The values of each line, in the order of the columns. */
export function* rowsOf(
  { lines, columns }: ShownLines,
  env: Env,
): Generator<{ readonly row: number; readonly cells: readonly Cell[] }> {
  const { table, lines: rows } = linesOf(env, lines);
  for (const row of rows) yield { row, cells: columns.map(({ index }) => table.columns[index]?.values[row] ?? null) };
}

/** A number in digits alone, without an exponent, as exact as it is kept. */
export function plainNumber(value: number): string {
  const text = String(value);
  return text.includes("e") ? new Exact(value).toFixed() : text;
}

/** How numbers and days of a list are written. */
export interface TextWays {
  readonly locale: string;
  /** The decimal sign of all numbers; as the locale has it where it is not said and a format is. */
  readonly decimal?: "." | ",";
}

/** A value as a machine reads it, unless the column has a format: ISO 8601 dates, numbers with a decimal sign and nothing else. */
export function plainText(value: Cell, { info, format }: Pick<ListColumn, "info" | "format">, ways: TextWays): string {
  if (value === null) return "";
  if (typeof value === "boolean") return value ? "true" : "false";
  if (typeof value === "string") return value;
  if (format !== undefined) return formatted(value, info, format, ways);
  if (info.type === "date") return isoFromSerial(Math.floor(value));
  if (info.type === "datetime") return isoFromSerial(wholeSeconds(value)).padEnd(19, "T00:00:00");
  if (info.type === "time")
    return isoFromSerial(wholeSeconds(1 + (value % 1)))
      .slice(11)
      .padEnd(8, "00:00:00");
  return ways.decimal === "," ? plainNumber(value).replace(".", ",") : plainNumber(value);
}

function wholeSeconds(serial: number): number {
  return Math.floor(serial) + Math.round((serial % 1) * 86_400) / 86_400;
}

/** The decimal sign that is asked for holds for formats too; thousands are then parted by the other one. */
function formatted(value: number, { type }: ColumnInfo, format: string, { locale, decimal }: TextWays): string {
  if (type !== "number" || decimal === undefined) return formatValue(value, format, locale);
  const text = formatValue(value, format, "en");
  return decimal === "." ? text : text.replace(/[.,]/g, (sign) => (sign === "." ? "," : "."));
}

/** A value as people read it: days as their language writes them. */
export function readableText(value: Cell, column: ListColumn, locale: string): string {
  const usual = { date: "dd/mm/yyyy", datetime: "dd/mm/yyyy hh:mm", time: "hh:mm" }[column.info.type as "date"];
  if (typeof value === "number" && column.format === undefined && usual !== undefined)
    return formatValue(value, usual, locale);
  return plainText(value, column, { locale });
}
