/** Rows whose date lies in the run's period. */

import type { Period } from "../../calendar/index.js";
import { CorbixError } from "../../common/index.js";
import { findColumn, type LeftOutRows, leftOutOf } from "../../prepare/index.js";
import { type Table, takeRows } from "../../table/index.js";
import { say } from "../../words/index.js";

/** Without a column or a period all rows stay. Throws `BAD_DEFINITION` for a column that holds no dates. */
export function rowsInPeriod(
  table: Table,
  by: string | undefined,
  period: Period | undefined,
  where: string,
): { table: Table; leftOut: LeftOutRows[] } {
  if (by === undefined || !period) return { table, leftOut: [] };
  const column = table.columns[findColumn(table.columns, by, where)];
  if (column.type !== "date" && column.type !== "datetime") {
    throw new CorbixError(
      "BAD_DEFINITION",
      say().run.cannotTakePeriodColumnHolds({ name: column.name, type: column.type }),
      { where, advice: say().run.nameColumnDateDecides() },
    );
  }
  const inside: number[] = [];
  const blank: number[] = [];
  const outside: number[] = [];
  column.values.forEach((value, row) => {
    if (typeof value !== "number") blank.push(row);
    else if (Math.floor(value) >= period.from && Math.floor(value) <= period.to) inside.push(row);
    else outside.push(row);
  });
  const leftOut = [
    ...leftOutOf(table, outside, notInPeriod(column.name, period)),
    ...leftOutOf(table, blank, say().run.withoutValue({ name: column.name })),
  ];
  return { table: takeRows(table, inside), leftOut };
}

function notInPeriod(column: string, period: Period): string {
  return say().run.notIn({ column, key: period.key });
}

/** Rows known not to lie in a period without reading them, in the words of those that were read. */
export function notReadReasons(
  column: string,
  period: Period,
  counts: { readonly outside: number; readonly blank: number; readonly rowNumbers: readonly number[] },
): LeftOutRows[] {
  const { outside, blank, rowNumbers } = counts;
  return [
    // Where none of them is blank, the first row numbers are known to be of rows outside.
    { reason: notInPeriod(column, period), count: outside, rowNumbers: blank === 0 ? rowNumbers : [] },
    { reason: say().run.without({ column }), count: blank, rowNumbers: [] },
  ].filter((entry) => entry.count > 0);
}
