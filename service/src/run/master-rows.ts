/** The rows of the master that a run is planned of. */
import { columnKey } from "@corbix/core/common";
import type { LeftOutRows } from "@corbix/core/prepare";
import type { Report } from "@corbix/core/report";
import { notReadReasons, type RunFacts } from "@corbix/core/run";
import type { Table } from "@corbix/core/table";
import type { Context } from "../process/context.js";
import { getEdition, type RunRow, readEdition, readPeriod } from "../records/index.js";

/** The edition's rows that the run can need: of a period, only pieces that hold its dates are read, and the others counted. */
export async function readMaster(
  context: Context,
  run: RunRow,
  report: Report,
  facts: RunFacts,
): Promise<{ table: Table; notRead: LeftOutRows[] }> {
  const { database } = context;
  const edition = await getEdition(database, report.data, run.editions[report.data]);
  const column =
    report.period && edition.columns.find((one) => columnKey(one.name) === columnKey(report.period?.column ?? ""));
  if (!facts.period || !column || (column.type !== "date" && column.type !== "datetime"))
    return { table: await readEdition(database, edition), notRead: [] };
  const { table, outside, blank, rowNumbers } = await readPeriod(database, edition, column.name, facts.period);
  return { table, notRead: notReadReasons(column.name, facts.period, { outside, blank, rowNumbers }) };
}
