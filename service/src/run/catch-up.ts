/** Periods that a run makes up for in files that grow: over, not delivered, and left behind by the one it is for. */
import type { Period } from "@corbix/core/calendar";
import type { Finding } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import {
  type CaughtPeriod,
  type HeldPeriods,
  officeKind,
  type Plan,
  type PlanInput,
  periodsMissed,
  planCaughtUp,
  type RunPeriod,
} from "@corbix/core/run";
import type { Group } from "@corbix/core/split";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { tidyMemory } from "../process/memory.js";
import { groupsMadeUpFor, heldPeriods, type RunRow, wholeRuns } from "../records/index.js";
import { readMaster } from "./master-rows.js";

/** Whether all that a report makes grows: then a period that is made up for leaves nothing else to be delivered. */
export function growsWhole({ files }: Pick<Report, "files">): boolean {
  const all = Object.values(files);
  return all.length > 0 && all.every((file) => file.grows);
}

/** What the run makes up for, the earliest period first. Rows picked by a search are a delivery of their own, and make up for none. */
export async function caughtPeriods(
  context: Context,
  run: RunRow,
  input: Omit<PlanInput, "table">,
  plan: Plan,
): Promise<CaughtPeriod[]> {
  const { report, facts } = input;
  if (!facts.period || run.onlyRows !== null) return [];
  const due = new Set(plan.parcels.map(({ group }) => group.key));
  const held = await heldOf(context, report, run.period);
  const found: CaughtPeriod[] = [];
  for (const { period, ...whose } of periodsMissed(held, { ...facts, period: facts.period }, due)) {
    const own = { ...facts, period };
    const { table, notRead } = await readMaster(context, run, report, own);
    const caught = planCaughtUp({ ...input, table, notRead, facts: own }, whose);
    if (caught) found.push(caught);
    tidyMemory();
  }
  return found;
}

/** What the files of a report that grow were delivered with before a period, by group. */
async function heldOf(context: Context, { report, files }: Report, before: string): Promise<HeldPeriods[]> {
  const held: HeldPeriods[] = [];
  for (const [file, { grows, template }] of Object.entries(files)) {
    const kind = officeKind(template ?? "");
    if (!grows || kind === undefined) continue;
    held.push(...(await heldPeriods(context.database, { report, file, kind, before })));
  }
  return held;
}

/** Periods that a run for one would make up for, as far as the data have rows of them. */
export async function periodsToMakeUp(context: Context, report: Report, own: RunPeriod): Promise<Period[]> {
  return periodsMissed(await heldOf(context, report, own.period.key), own).map((one) => one.period);
}

/**
 * Rows of the run's period that stay out since their group had it in a file for a later one; nothing where no group had. A file that
 * does not grow may still be due, and who says again means it.
 */
export async function rowsMadeUpFor(
  context: Context,
  run: RunRow,
  report: Report,
): Promise<((group: Group) => ReadonlyMap<number, string>) | undefined> {
  if (!report.period || !growsWhole(report) || run.rehearsalTo !== null || run.againReason !== null) return undefined;
  const had = await groupsMadeUpFor(context.database, { report: run.report, period: run.period });
  if (had.size === 0) return undefined;
  return ({ key, rows }) => {
    const later = had.get(key);
    return new Map(later === undefined ? [] : rows.map((row) => [row, say().serviceRun.deliveredWith({ later })]));
  };
}

/** Said of a run for a period that stands in the files of a later one already. */
export async function madeUpFindings(context: Context, run: RunRow, report: Report): Promise<Finding[]> {
  if (!report.period || !growsWhole(report) || run.rehearsalTo !== null || run.onlyRows !== null) return [];
  const later = (await wholeRuns(context.database, run.report)).find(
    (one) => one.releasedAt !== null && one.madeUpFor.includes(run.period),
  );
  if (!later) return [];
  return [
    {
      code: "period-made-up-for",
      severity: "warn",
      where: say().serviceRun.period(),
      what: say().serviceRun.periodStandsInFiles({ period: run.period, run: later.id, later: later.period }),
      advice: say().serviceRun.stopRunUnlessAgain(),
    },
  ];
}
