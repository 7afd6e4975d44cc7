import type { Period, Periods } from "../calendar/index.js";
import { type PackedTable, unpackColumns } from "./pack.js";

/**
 * The last period that is over on a day and has rows, by the column of that index; the last that is over where no row is
 * as old. Reads the one column alone. `today` is a serial day.
 */
export function newestPeriod(table: PackedTable, column: number, periods: Periods, today: number): Period | undefined {
  const last = periods.lastBefore(today);
  if (!last) return undefined;
  const own = { ...table, columns: table.columns.slice(column, column + 1) };
  const pieces = table.pieces.filter((piece) => piece.column === column).map((piece) => ({ ...piece, column: 0 }));
  const data = unpackColumns({ ...own, pieces }).columns[0]?.data;
  const days = data?.kind === "codes" ? data.dictionary : (data?.numbers ?? []);
  let newest = Number.NEGATIVE_INFINITY;
  // A moment of the last day is a part of it.
  for (const day of days) if (typeof day === "number" && day < last.to + 1 && day > newest) newest = day;
  return (newest === Number.NEGATIVE_INFINITY ? undefined : periods.maybeOf(newest)) ?? last;
}
