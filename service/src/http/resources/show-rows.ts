import { isoCell } from "@corbix/core/grid";
import { type Cell, type ColumnInfo, columnInfo, type Table } from "@corbix/core/table";
import { type PageWish, pageOf } from "../../records/index.js";

/** Rows with their cells as the contract spells them. */
export function isoRows(columns: readonly ColumnInfo[], rows: readonly (readonly Cell[])[]): Cell[][] {
  return rows.map((row) => row.map((cell, index) => isoCell(columns[index]?.type ?? "text", cell)));
}

/** A table as a page of rows, as grids show it. */
export function showRows(table: Table, wish: PageWish) {
  const page = pageOf(
    table.rowNumbers.map((_, row) => row),
    wish,
  );
  const columns = table.columns.map(columnInfo);
  return {
    columns,
    rowNumbers: page.items.map((row) => table.rowNumbers[row] ?? 0),
    rows: isoRows(
      columns,
      page.items.map((row) => table.columns.map((column) => column.values[row] ?? null)),
    ),
    total: table.rowCount,
    next: page.next,
  };
}
