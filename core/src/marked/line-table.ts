/** A table of lines where a mark stands for it: its columns, what they show, how wide they are. */
import { CorbixError, Exact } from "../common/index.js";
import { type Env, isEmpty, parseField, type Scope, showValue, type TextField } from "../expression/index.js";
import type { ColumnInfo } from "../table/index.js";
import {
  type BoundStructure,
  bindField,
  bindStructure,
  capitalise,
  columnsOf,
  lineField,
  repetitions,
  withPlace,
} from "../template/index.js";
import { say } from "../words/index.js";
import type { TablePiece } from "./template-nodes.js";

export interface BoundColumn {
  readonly heading: string;
  readonly field: TextField;
  readonly total: boolean;
  readonly isNumber: boolean;
}

export interface LineTable {
  readonly columns: readonly BoundColumn[];
  readonly bound: BoundStructure;
  readonly where: string;
}

/** Throws `BAD_EXPRESSION` for an unknown column, with the place. */
export function bindLineTable(structure: TablePiece["structure"], scope: Scope, where: string): LineTable {
  const { lines } = structure;
  const bound = bindStructure(structure, scope, where);
  const wanted =
    structure.columns ??
    columnsOf(lines, scope).map((column) => ({
      heading: capitalise(column.name),
      field: parseField(`${lineField(lines, column.name)}${formatOf(column)}`),
      total: false,
    }));
  const columns = wanted.map(({ heading, field, total }): BoundColumn => {
    const own = bindField(field, scope, where);
    if (!own.needs.has(lines))
      throw new CorbixError("BAD_MARK", say().document.cannotUseColumnFieldLine({ source: field.source }), {
        where,
        advice: say().document.nameColumnLinesSuchUnit({ lines }),
      });
    return { heading, field: own, total, isNumber: own.type === "number" };
  });
  return { columns, bound, where };
}

function formatOf({ type, unit }: ColumnInfo): string {
  if (type === "date") return ' as "dd/mm/yyyy"';
  if (type !== "number" || unit === undefined) return "";
  return unit === "%" ? ' as "0.0%"' : ' as "#,##0.00"';
}

/** What the lines show in each column, and the totals where columns have them. */
export function shownLines(
  { columns, bound, where }: LineTable,
  env: Env,
): { texts: readonly (readonly string[])[]; totals: readonly string[] | undefined } {
  const lines = repetitions(bound, env);
  const texts = withPlace(where, () => lines.map((line) => columns.map(({ field }) => field.show(line))));
  const totals = columns.some((column) => column.total)
    ? columns.map((column, index) => (column.total ? totalOf(column, lines, env.locale) : index === 0 ? "Total" : ""))
    : undefined;
  return { texts, totals };
}

function totalOf(column: BoundColumn, lines: readonly Env[], locale: string): string {
  let sum = new Exact(0);
  for (const line of lines) {
    const value = column.field.evaluate(line);
    if (value instanceof Exact) sum = sum.plus(value);
    else if (!isEmpty(value)) return "";
  }
  return showValue(sum, column.field.format, locale);
}

/** Room beside a cell's text, in twentieths of a point. */
const MARGINS = 216;
/** Width of a character beside the text's size. */
const CHARACTER = 0.53;
const MEASURED_LINES = 2_000;
const WIDEST_CHARACTERS = 60;
const NARROWEST_CHARACTERS = 4;

/** Words stay whole: where they do not at the usual size, the text is smaller. */
export interface ColumnWidths {
  readonly widths: number[];
  /** In points; `undefined` where the usual one will do. */
  readonly size: number | undefined;
  /** Whether words break even at the smallest size. */
  readonly isTooWide: boolean;
}

/** Text smaller than this is not read. */
export const SMALLEST = 6;

/** As wide as their texts need, spread over the page's width, and no narrower than their longest word where that can be. */
export function columnWidths(
  columns: readonly BoundColumn[],
  texts: readonly (readonly string[])[],
  totals: readonly string[] | undefined,
  /** In twentieths of a point, and the usual size of the text in points. */
  { width, size: usual }: { readonly width: number; readonly size: number },
): ColumnWidths {
  const all = [columns.map((column) => column.heading), ...(totals ? [totals] : []), ...texts.slice(0, MEASURED_LINES)];
  const words = columns.map((_, at) =>
    all.reduce((most, line) => Math.max(most, ...line[at].split(/[\s-]+/).map((word) => word.length)), 1),
  );
  const room = (size: number): number[] => words.map((count) => count * CHARACTER * size * 20 + MARGINS);
  const isTight = sumOf(room(usual)) > width;
  const fitting = (width - columns.length * MARGINS) / (sumOf(words) * CHARACTER * 20);
  const size = isTight ? Math.max(SMALLEST, Math.floor(fitting * 2) / 2) : undefined;
  const needed = columns.map((column, at) => {
    let longest = column.heading.length;
    for (const line of totals ? [totals, ...texts.slice(0, MEASURED_LINES)] : texts.slice(0, MEASURED_LINES))
      for (const part of line[at].split("\n")) longest = Math.max(longest, part.length);
    return Math.min(WIDEST_CHARACTERS, Math.max(NARROWEST_CHARACTERS, longest));
  });
  const wanted = needed.map((count) => count * CHARACTER * usual * 20 + MARGINS);
  const least = room(size ?? usual);
  const shared = wanted.map((one) => (one / sumOf(wanted)) * width);
  const parts = shared.every((one, at) => one >= least[at]) ? shared : sharedBeyond(least, wanted, width);
  const widths = parts.map((one) => Math.floor((one / sumOf(parts)) * width));
  widths[widths.length - 1] += width - sumOf(widths);
  return { widths, size, isTooWide: isTight && fitting < SMALLEST };
}

/** The longest words first, and what is left of the width to the columns that want more. */
function sharedBeyond(least: readonly number[], wanted: readonly number[], width: number): number[] {
  const free = width - sumOf(least);
  const more = wanted.map((one, at) => Math.max(0, one - least[at]));
  if (free <= 0 || sumOf(more) === 0) return [...least];
  return least.map((one, at) => one + (free * more[at]) / sumOf(more));
}

function sumOf(some: readonly number[]): number {
  return some.reduce((total, one) => total + one, 0);
}
