import { deflateSync, inflateSync } from "node:zlib";
import type { Cell, ColumnInfo, Table } from "@corbix/core/table";

interface Packed {
  readonly rowNumbers: readonly number[];
  readonly columns: readonly (readonly Cell[])[];
}

/** The lines of a parcel as deflated JSON, column by column. */
export function packLines(table: Table): Buffer {
  const packed: Packed = { rowNumbers: table.rowNumbers, columns: table.columns.map((column) => column.values) };
  return deflateSync(JSON.stringify(packed), { level: 1 });
}

/** A table from its columns' names and one or several packed pieces, in order. */
export function unpackLines(columns: readonly ColumnInfo[], pieces: readonly Buffer[]): Table {
  const read = pieces.map((piece) => JSON.parse(inflateSync(piece).toString("utf8")) as Packed);
  const rowNumbers = read.flatMap((piece) => piece.rowNumbers);
  return {
    columns: columns.map((column, index) => ({
      ...column,
      values: read.flatMap((piece) => piece.columns[index] ?? []),
    })),
    rowCount: rowNumbers.length,
    rowNumbers,
  };
}
