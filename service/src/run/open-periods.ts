/** Which periods of a report are over and not delivered: what a run takes where nobody names one. */

import { type PeriodKind, periodOf, previousPeriod } from "@corbix/core/calendar";
import { CorbixError, columnKey, maybeSerialFromIso } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { type EditionRow, type PeriodChoice, readEdition, wholeRuns } from "../records/index.js";

export interface PeriodStates {
  /** Over, with rows, not delivered and not under way; the earliest first. */
  readonly open: readonly string[];
  /** With a run that is not released yet. */
  readonly underWay: readonly { readonly period: string; readonly run: string; readonly state: string }[];
}

/** `early`: over before the schedule began. `running`: not over yet. */
export type PeriodState = "open" | "under way" | "delivered" | "early" | "running";

/** A period that an edition has rows of, or that was run, and what became of it. */
export interface ShownPeriod {
  readonly key: string;
  readonly state: PeriodState;
  readonly rows: number;
  /** The newest run over all of it that was released, or else that is under way. */
  readonly run: { readonly id: string; readonly state: string; readonly releasedAt: Date | null } | undefined;
}

/** Periods with rows or runs, the newest first; none where the report has no period. */
export async function periodsOf(
  context: Context,
  report: Report,
  edition: EditionRow,
  day: number,
): Promise<ShownPeriod[]> {
  const { period, schedule } = report;
  if (!period) return [];
  const last = previousPeriod(day, period.every).key;
  // A schedule begins with what its first day looks back on.
  const first = schedule ? maybeSerialFromIso(schedule.from) : undefined;
  const from = first === undefined ? "" : previousPeriod(first, period.every).key;
  const rows = await rowsByPeriod(context, edition, period.column, period.every);
  const runs = await wholeRuns(context.database, report.report);
  const keys = [...new Set([...rows.keys(), ...runs.map((run) => run.period)])].sort().reverse();
  return keys.map((key) => {
    const own = runs.filter((run) => run.period === key);
    const released = own.find((run) => run.releasedAt !== null);
    const run = released ?? own.find((one) => one.state !== "stopped");
    const asItIs = key > last ? "running" : key < from ? "early" : "open";
    return { key, state: released ? "delivered" : run ? "under way" : asItIs, rows: rows.get(key) ?? 0, run };
  });
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
  const periods = await periodsOf(context, report, edition, day);
  return {
    open: periods
      .filter(({ state }) => state === "open")
      .map(({ key }) => key)
      .reverse(),
    underWay: periods.flatMap(({ key, state, run }) =>
      state === "under way" && run ? [{ period: key, run: run.id, state: run.state }] : [],
    ),
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
  const waits = underWay.map((one) =>
    say().serviceRun.periodUnderWay({ period: one.period, state: one.state, run: one.run }),
  );
  throw new CorbixError(
    "CONFLICT",
    say().serviceRun.cannotChoosePeriodEveryOver({
      report: report.report,
      waitCount: waits.length,
      waits: waits.slice(0, 3).join("; "),
    }),
    {
      where: say().serviceRun.edition({ number: edition.number, data: report.data }),
      advice: say().serviceRun.loadNewerDataNamePeriod(),
    },
  );
}

/** How many rows an edition has of each period. */
async function rowsByPeriod(
  context: Context,
  edition: EditionRow,
  column: string,
  kind: PeriodKind,
): Promise<ReadonlyMap<string, number>> {
  const name = edition.columns.find((one) => columnKey(one.name) === columnKey(column))?.name;
  if (name === undefined) return new Map();
  const table = await readEdition(context.database, edition, { columns: [name] });
  const days = new Map<number, number>();
  for (const value of table.columns[0]?.values ?? [])
    if (typeof value === "number") days.set(Math.floor(value), (days.get(Math.floor(value)) ?? 0) + 1);
  const rows = new Map<string, number>();
  for (const [one, count] of days) {
    const { key } = periodOf(one, kind);
    rows.set(key, (rows.get(key) ?? 0) + count);
  }
  return rows;
}
