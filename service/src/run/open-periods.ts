/** Which periods of a report are over and not delivered: what a run takes where nobody names one. */
import { type PeriodKind, periodOf, previousPeriod } from "@corbix/core/calendar";
import { CorbixError, columnKey, maybeSerialFromIso } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import type { Context } from "../process/context.js";
import { type EditionRow, type PeriodChoice, readEdition, wholeRuns } from "../records/index.js";

export interface PeriodStates {
  /** Over, with rows, not delivered and not under way; the earliest first. */
  readonly open: readonly string[];
  /** With a run that is not released yet. */
  readonly underWay: readonly { readonly period: string; readonly run: string; readonly state: string }[];
}

/**
 * The periods of an edition that are over on a day, by what became of them. A period counts as delivered when a run over all its
 * groups and rows was released for it; one group sent by hand, or rows picked by a search, leave it open.
 */
export async function periodStates(
  context: Context,
  report: Report,
  edition: EditionRow,
  day: number,
): Promise<PeriodStates> {
  const { period, schedule } = report;
  if (!period) return { open: [], underWay: [] };
  const last = previousPeriod(day, period.every).key;
  // A schedule begins with what its first day looks back on.
  const first = schedule ? maybeSerialFromIso(schedule.from) : undefined;
  const from = first === undefined ? "" : previousPeriod(first, period.every).key;
  const there = (await periodsIn(context, edition, period.column, period.every)).filter(
    (key) => key <= last && key >= from,
  );
  const runs = await wholeRuns(context.database, report.report);
  const delivered = new Set(runs.filter((run) => run.released).map((run) => run.period));
  const waiting = runs.filter((run) => !run.released && run.state !== "stopped" && !delivered.has(run.period));
  const held = new Set(waiting.map((run) => run.period));
  return {
    open: there.filter((key) => !delivered.has(key) && !held.has(key)),
    underWay: waiting.map((run) => ({ period: run.period, run: run.id, state: run.state })),
  };
}

/** The earliest period that is over and not delivered, and which others are open. Throws `CONFLICT` where there is none. */
export async function choosePeriod(
  context: Context,
  report: Report,
  edition: EditionRow,
  day: number,
): Promise<PeriodChoice> {
  const { open, underWay } = await periodStates(context, report, edition, day);
  const [chosen, ...others] = open;
  if (chosen !== undefined) return { chosen, open: others };
  const waits = underWay.map((one) => `${one.period} is ${one.state} as run ${one.run}`);
  throw new CorbixError(
    "CONFLICT",
    `Cannot choose a period for \`${report.report}\`: every one that is over and has rows was delivered${waits.length > 0 ? `, or is under way (${waits.slice(0, 3).join("; ")})` : ""}.`,
    {
      where: `edition ${edition.number} of ${report.data}`,
      advice: "Load newer data, or name the period that shall be run.",
    },
  );
}

/** Keys of all periods that an edition has rows of, in order. */
async function periodsIn(context: Context, edition: EditionRow, column: string, kind: PeriodKind): Promise<string[]> {
  const name = edition.columns.find((one) => columnKey(one.name) === columnKey(column))?.name;
  if (name === undefined) return [];
  const table = await readEdition(context.database, edition, { columns: [name] });
  const days = new Set<number>();
  for (const value of table.columns[0]?.values ?? []) if (typeof value === "number") days.add(Math.floor(value));
  return [...new Set([...days].map((one) => periodOf(one, kind)))]
    .map((period) => period.key)
    .filter((key, index, all) => all.indexOf(key) === index)
    .sort();
}
