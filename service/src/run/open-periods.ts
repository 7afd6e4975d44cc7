/** Which periods of a report are over and not delivered: what a run takes where nobody names one. */

import { maybeTakenPeriod, type Periods } from "@corbix/core/calendar";
import { CorbixError, columnKey, made, maybeSerialFromIso } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { periodsOfReport } from "../library/calendars.js";
import type { Context } from "../process/context.js";
import { type EditionRow, type PeriodChoice, readEdition, wholeRuns } from "../records/index.js";
import { growsWhole } from "./catch-up.js";

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
  const periods = made(await periodsOfReport(context, report), "the periods of a report that has some");
  // What is meant of a schedule begins with what its first day looks back on.
  const first = schedule ? maybeSerialFromIso(schedule.from) : undefined;
  const from = first === undefined ? "" : (periods.lastBefore(first)?.key ?? "");
  const taken = maybeTakenPeriod(periods, period.take, day)?.key;
  const looksBack = (period.take ?? "over") === "over";
  const last = looksBack ? (taken ?? "") : (periods.lastBefore(day)?.key ?? "");
  const rows = await rowsByPeriod(context, edition, report, periods);
  // Whether a period is due is said by the day alone where the rows say nothing of it.
  if (taken !== undefined && (period.column === undefined || !looksBack))
    rows.set(taken, rows.get(taken) ?? edition.rowCount);
  const runs = await wholeRuns(context.database, report.report);
  const isWhole = growsWhole(report);
  const keys = [...new Set([...rows.keys(), ...runs.map((run) => run.period)])].sort().reverse();
  return keys.map((key) => {
    const own = runs.filter((run) => run.period === key || (isWhole && run.madeUpFor.includes(key)));
    const released = own.find((run) => run.releasedAt !== null || run.state === "done");
    const run = released ?? own.find((one) => one.state !== "stopped");
    const isDue = looksBack ? key <= last : key === taken;
    const asItIs = key > last && !isDue ? "running" : key < from || !isDue ? "early" : "open";
    return { key, state: released ? "delivered" : run ? "under way" : asItIs, rows: rows.get(key) ?? 0, run };
  });
}

/** The period that is due, and which others are open. Throws `CONFLICT` where there is none. */
export async function choosePeriod(
  context: Context,
  report: Report,
  edition: EditionRow,
  day: number,
): Promise<PeriodChoice> {
  const periods = await periodsOf(context, report, edition, day);
  const choice = nextPeriod(report, periods);
  if (choice) return choice;
  const waits = periods
    .filter(({ state }) => state === "under way")
    .reverse()
    .flatMap(({ key, run }) =>
      run ? [say().serviceRun.periodUnderWay({ period: key, state: run.state, run: run.id })] : [],
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

/**
 * The earliest period that is over and not delivered. Where all files grow it is the newest since the first that was delivered: they
 * make up for those between. A period counts as delivered when a run over all its groups and rows was released for it; one group
 * sent by hand, or rows picked by a search, leave it open. `periods`: the newest first.
 */
export function nextPeriod(report: Report, periods: readonly ShownPeriod[]): PeriodChoice | undefined {
  const inState = (state: PeriodState): ShownPeriod[] => periods.filter((one) => one.state === state).reverse();
  const open = inState("open").map(({ key }) => key);
  const [first] = growsWhole(report) ? inState("delivered") : [];
  const later = open.filter((key) => first !== undefined && key > first.key);
  const newest = later.at(-1);
  if (newest !== undefined)
    return { chosen: newest, open: open.filter((key) => !later.includes(key)), along: later.slice(0, -1) };
  const [chosen, ...others] = open;
  return chosen === undefined ? undefined : { chosen, open: others };
}

/** How many rows an edition has of each period. */
export async function rowsByPeriod(
  context: Context,
  edition: EditionRow,
  { period }: Pick<Report, "period">,
  periods: Periods | undefined,
): Promise<Map<string, number>> {
  const name = edition.columns.find((one) => columnKey(one.name) === columnKey(period?.column ?? ""))?.name;
  if (!periods || name === undefined) return new Map();
  const table = await readEdition(context.database, edition, { columns: [name] });
  const days = new Map<number, number>();
  for (const value of table.columns[0]?.values ?? [])
    if (typeof value === "number") days.set(Math.floor(value), (days.get(Math.floor(value)) ?? 0) + 1);
  const rows = new Map<string, number>();
  for (const [one, count] of days) {
    const key = periods.maybeOf(one)?.key;
    if (key !== undefined) rows.set(key, (rows.get(key) ?? 0) + count);
  }
  return rows;
}
