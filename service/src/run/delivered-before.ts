/** Rows of a report that have gone out already, for runs in which a row goes out once. */

import { columnKey } from "@corbix/core/common";
import { type GoneRows, type Once, onceOf, rowContentReader, rowKeyReader, rowsGone } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import type { PlanInput } from "@corbix/core/run";
import type { Group } from "@corbix/core/split";
import type { ColumnInfo, Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { deliveredParcels, deliveredRows, type RunRow, unpackLines } from "../records/index.js";

export interface RowsOnce {
  readonly delivered: NonNullable<PlanInput["delivered"]>;
  /** What the records keep of a parcel's rows, to tell that they went out. */
  readonly keys: (table: Table, group: Group) => string[];
}

/**
 * How rows of a run are told apart where they go out once: by their key as the report says, or, for rows picked by a search, by
 * what stands in them. `undefined` where whole groups are delivered.
 */
export async function rowsOnce(
  context: Context,
  run: RunRow,
  report: Report,
  masterColumns: readonly ColumnInfo[],
): Promise<RowsOnce | undefined> {
  const once = onceOf(report);
  if (run.rehearsalTo !== null) return undefined;
  if (once.kind === "row") return byKey(context, run, once);
  if (run.onlyRows !== null && once.kind !== "hand") return byContent(context, run, report, masterColumns);
  return undefined;
}

/** Rows of a report that have gone out, where each goes out once. */
export async function rowsDelivered(context: Context, report: string, { per }: Once): Promise<GoneRows> {
  const rows = await deliveredRows(context.database, report, context.settings.zone);
  return { per, days: Object.fromEntries(rows.map((one) => [`${one.groupKey} ${one.rowKey}`, one.day])) };
}

async function byKey(context: Context, run: RunRow, once: Once): Promise<RowsOnce> {
  const gone = await rowsDelivered(context, run.report, once);
  return {
    delivered: (table, group) => (run.againReason === null ? rowsGone(gone, table, group) : new Map()),
    keys: (table, group) => {
      const read = rowKeyReader(table, once.per);
      return [...new Set(group.rows.flatMap((row) => read(row) ?? []))];
    },
  };
}

/** Rows picked by a search count as delivered when one of the same content went to the group, in whichever run of the report. */
async function byContent(
  context: Context,
  run: RunRow,
  report: Report,
  masterColumns: readonly ColumnInfo[],
): Promise<RowsOnce> {
  const names = masterColumns.map((column) => columnKey(column.name));
  const of = { report: run.report, period: report.period && run.period };
  const days = run.againReason === null ? await deliveredContents(context, of, names) : new Map<string, string>();
  return {
    delivered: (table, group) => {
      const digest = rowContentReader(table, names);
      return new Map(
        group.rows.flatMap((row): [number, string][] => {
          const day = days.get(`${group.key} ${digest(row)}`);
          return day === undefined ? [] : [[row, say().serviceRun.deliveredAlready({ day })]];
        }),
      );
    },
    keys: (table, group) => {
      const digest = rowContentReader(table, names);
      return [...new Set(group.rows.map(digest))];
    },
  };
}

/** Parcels read at a time. */
const BATCH = 200;

/** The day on which rows of each content went to each group, for a period or ever: by the group's key and the digest with a blank between. */
export async function deliveredContents(
  context: Context,
  { report, period }: { readonly report: string; readonly period: string | undefined },
  names: readonly string[],
): Promise<Map<string, string>> {
  const days = new Map<string, string>();
  for (let after = "0"; ; ) {
    const of = { report, period, zone: context.settings.zone };
    const parcels = await deliveredParcels(context.database, of, after, BATCH);
    for (const parcel of parcels) {
      const table = unpackLines(parcel.columns, [parcel.lines]);
      const digest = rowContentReader(table, names);
      for (let row = 0; row < table.rowCount; row++) days.set(`${parcel.groupKey} ${digest(row)}`, parcel.day);
    }
    if (parcels.length < BATCH) return days;
    after = parcels.at(-1)?.id ?? after;
  }
}
