/** The rows that a pivot is made from, as the filled workbook holds them. */

import { greatest } from "../../common/index.js";
import { CellError, type Scalar } from "../../formula/index.js";
import type { XmlElement } from "../../ooxml/index.js";
import {
  type CellRange,
  type CellValue,
  cellValues,
  maybeRange,
  splitSheet,
  type Workbook,
} from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { readTables } from "../template/defined-tables.js";
import { NotComputed } from "./read-pivot.js";

export interface PivotSource {
  /** One row of the source each, with a value for each field of the cache. */
  readonly records: readonly (readonly Scalar[])[];
  /** By field the format code of its dates; `undefined` where its numbers are none. */
  readonly dateCodes: readonly (string | undefined)[];
}

/** Where a cache's rows stand: its own range, a table, or a name that is a range. */
export interface SourcePlace {
  readonly sheet: string;
  readonly range: CellRange;
}

/** `undefined` where it is told by a formula, or stands in another file. */
export function sourcePlace(workbook: Workbook, cells: XmlElement): SourcePlace | undefined {
  const range = maybeRange(cells.attr("ref") ?? "");
  const sheet = cells.attr("sheet");
  if (range && sheet !== undefined) return { sheet, range };
  const name = (cells.attr("name") ?? "").toLowerCase();
  const table = readTables(workbook).find((one) => one.name.toLowerCase() === name);
  if (table) {
    const { top, left, bottom, right } = table.range;
    return { sheet: workbook.sheets[table.sheet].name, range: { top, left, bottom: bottom - table.totals, right } };
  }
  const formula = workbook.names.find((one) => one.name.toLowerCase() === name)?.formula ?? "";
  const split = splitSheet(formula.replace(/^=/, ""));
  const named = maybeRange((split.rest ?? "").replaceAll("$", ""));
  return split.sheet !== undefined && named ? { sheet: split.sheet, range: named } : undefined;
}

/** Throws `NotComputed` where the source is not to be found, or a heading of the cache is not in it. */
export function readSource(workbook: Workbook, cache: XmlElement): PivotSource {
  const cells = cache.path("cacheSource", "worksheetSource");
  const place = cells && sourcePlace(workbook, cells);
  const info = place && workbook.sheets.find((one) => one.name.toLowerCase() === place.sheet.toLowerCase());
  if (!place || !info) throw new NotComputed(say().workbook.sourceToldFormula());
  const rows = cellValues(workbook, info.part);
  const { top, left, bottom, right } = place.range;
  const headings = Array.from({ length: right - left + 1 }, (_, at) =>
    plain(String(rows.get(top)?.get(left + at)?.value ?? "")),
  );
  const fields = (cache.child("cacheFields")?.elements("cacheField") ?? []).map((field, at) => {
    if (field.attr("databaseField") === "0") return -1;
    const name = plain(field.attr("name") ?? "");
    const found = headings[at] === name ? at : headings.indexOf(name);
    if (found < 0) throw new NotComputed(say().workbook.sourceColumn({ attr: field.attr("name") }));
    return left + found;
  });
  const records: Scalar[][] = [];
  const last = Math.max(top, greatest([...rows.keys()].filter((row) => row <= bottom)));
  for (let row = top + 1; row <= last; row++) {
    const line = rows.get(row);
    records.push(fields.map((column) => (column < 0 ? null : scalar(line?.get(column)))));
  }
  // Rows below the last filled one are one item, that of blanks, however many they are.
  if (last < bottom) records.push(fields.map(() => null));
  return {
    records,
    dateCodes: fields.map((column) =>
      column < 0 ? undefined : dateCode(workbook, rows, column, { top: top + 1, bottom: last }),
    ),
  };
}

function plain(heading: string): string {
  return heading
    .replace(/_x000[aAdD]_|\s+/g, " ")
    .trim()
    .toLowerCase();
}

function scalar(cell: CellValue | undefined): Scalar {
  if (!cell) return null;
  return cell.isError ? CellError.named(cell.value) : cell.value;
}

function dateCode(
  workbook: Workbook,
  rows: ReadonlyMap<number, ReadonlyMap<number, CellValue>>,
  column: number,
  span: { readonly top: number; readonly bottom: number },
): string | undefined {
  let code: string | undefined;
  for (let row = span.top; row <= span.bottom; row++) {
    const cell = rows.get(row)?.get(column);
    if (typeof cell?.value !== "number") continue;
    const format = workbook.styles.formats[cell.style];
    if (!format?.isDate) return undefined;
    code ??= format.code;
  }
  return code;
}
