/** Defined tables of a workbook: ECMA-376 part 1, 18.5. */

import { columnKey } from "../../common/index.js";
import { CellError, type FormulaCell, type SheetArea, type TableReference } from "../../formula/index.js";
import { type CellRange, maybeRange, type Workbook } from "../../spreadsheet/index.js";
import type { SheetMap } from "../fill/axis-map.js";

export interface DefinedTable {
  readonly name: string;
  readonly part: string;
  /** Index of its sheet. */
  readonly sheet: number;
  readonly range: CellRange;
  /** Rows of headings and of totals, 0 or 1. */
  readonly headings: number;
  readonly totals: number;
  readonly columns: readonly string[];
}

export function readTables(workbook: Workbook): DefinedTable[] {
  return workbook.sheets.flatMap((sheet, index) =>
    workbook.package
      .relationships(sheet.part)
      .filter((relation) => relation.type === "table" && workbook.package.has(relation.target))
      .flatMap(({ target }) => {
        const root = workbook.package.getXml(target);
        const range = maybeRange(root.attr("ref") ?? "");
        if (!range) return [];
        return [
          {
            name: root.attr("displayName") ?? root.attr("name") ?? "",
            part: target,
            sheet: index,
            range,
            headings: Number(root.attr("headerRowCount") ?? 1),
            totals: Number(root.attr("totalsRowCount") ?? 0),
            columns: (root.child("tableColumns")?.elements("tableColumn") ?? []).map(
              (column) => column.attr("name") ?? "",
            ),
          },
        ];
      }),
  );
}

/** Where a table reference leads in the filled workbook. */
export function locateInTable(
  tables: readonly DefinedTable[],
  reference: TableReference,
  cell: FormulaCell,
  mapOf: (sheet: number) => SheetMap,
): SheetArea | CellError {
  const placed = (table: DefinedTable): CellRange => {
    const { rows, columns } = mapOf(table.sheet);
    const { top, left, bottom, right } = table.range;
    return { top: rows.at(top), bottom: rows.last(bottom), left: columns.at(left), right: columns.last(right) };
  };
  const table = tables.find((one) => {
    if (reference.table !== undefined) return one.name.toLowerCase() === reference.table.toLowerCase();
    const { top, left, bottom, right } = placed(one);
    const isInside = cell.row >= top && cell.row <= bottom && cell.column >= left && cell.column <= right;
    return one.sheet === cell.sheet && isInside;
  });
  if (!table) return CellError.of("#REF!");
  const whole = placed(table);
  const { rows, columns } = mapOf(table.sheet);
  const dataTop = rows.at(table.range.top + table.headings);
  const dataBottom = rows.last(table.range.bottom - table.totals);
  const indexes = reference.columns.map((name) =>
    table.columns.findIndex((column) => columnKey(column) === columnKey(unescapeHeading(name))),
  );
  if (indexes.some((index) => index < 0)) return CellError.of("#REF!");
  const at = { sheet: table.sheet, left: whole.left, right: whole.right };
  if (indexes.length > 0) {
    at.left = columns.at(table.range.left + Math.min(...indexes));
    at.right = columns.last(table.range.left + Math.max(...indexes));
  }
  const has = (section: string): boolean => reference.sections.includes(section);
  if (has("this row"))
    return cell.sheet === table.sheet && cell.row >= dataTop && cell.row <= dataBottom
      ? { ...at, top: cell.row, bottom: cell.row }
      : CellError.of("#VALUE!");
  if (has("all")) return { ...at, top: whole.top, bottom: whole.bottom };
  const isData = has("data") || reference.sections.length === 0;
  if ((has("headers") && !isData && table.headings === 0) || (has("totals") && !isData && table.totals === 0))
    return CellError.of("#REF!");
  return {
    ...at,
    top: has("headers") ? whole.top : isData ? dataTop : whole.bottom,
    bottom: has("totals") ? whole.bottom : isData ? dataBottom : whole.top,
  };
}

/** A quote before a sign of the language takes it literally (18.2.7). */
function unescapeHeading(name: string): string {
  return name.replace(/'(['#[\]@])/g, "$1");
}
