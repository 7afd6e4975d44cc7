/** A table whose cells have their places: what rows are laid from and drawn from. */
import type { TableBlock, TableCellBlock, TableRowBlock } from "../blocks.js";
import { type Fragment, stackHeight } from "../fragment.js";

export interface PlacedCell {
  readonly cell: TableCellBlock;
  /** First grid column. */
  readonly column: number;
  readonly x: number;
  readonly width: number;
  readonly fragments: readonly Fragment[];
  /** Rows it reaches over. */
  readonly rows: number;
}

export interface PlacedRow {
  readonly row: TableRowBlock;
  readonly cells: readonly PlacedCell[];
}

/** A table laid out: what its rows share. */
export interface PlacedTable {
  readonly table: TableBlock;
  readonly rows: readonly PlacedRow[];
  readonly heights: readonly number[];
  readonly columns: number;
}

/** The height a cell needs; turned text needs as much as its longest line is given. */
export function cellHeight({ cell, fragments }: PlacedCell): number {
  const margins = (cell.margins.top ?? 0) + (cell.margins.bottom ?? 0);
  return cell.turned ? margins : stackHeight(fragments) + margins;
}
