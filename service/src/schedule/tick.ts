import { timeOfDay, timesBetween } from "@corbix/core/calendar";
import { CorbixError } from "@corbix/core/common";
import { onceOf } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { calendarsOf, planNextRun } from "../library/calendars.js";
import { getReport } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import {
  type DueSchedule,
  dueSchedules,
  endWait,
  getEdition,
  takeDueData,
  takeSchedule,
  type WaitingSchedule,
  waitForData,
  waitingSchedules,
  wasReleasedFor,
} from "../records/index.js";
import { startRun } from "../run/start-run.js";
import { tell } from "../tell/notices.js";
import { datasetsMissing } from "./new-data.js";
import { start } from "./start.js";

type Schedule = NonNullable<Report["schedule"]>;

/** A time that passed so long ago was missed: the service was down. */
const MISSED_AFTER_MS = 10 * 60_000;
/** Missed times that are made up for one by one; of more the latest. */
const MOST_MISSED = 100;

/**
 * Starts the reports whose time has come, whose data have come, or both: each for the period that is due. Groups that have theirs
 * already are skipped by the run itself, and named before it is released.
 */
export async function tick(context: Context): Promise<void> {
  const now = context.now();
  // What is wrong with one report keeps no other from its time.
  for (const due of await dueSchedules(context.database, now))
    await start(context, due.report, "schedule", () => startDue(context, due, now));
  for (const waiting of await waitingSchedules(context.database))
    await start(context, waiting.report, "schedule", () => lookForData(context, waiting, now));
  for (const { report, edition } of await takeDueData(context.database, now))
    await start(context, report, "new data", () => startRun(context, { report, edition }, "new data"));
}

async function startDue(context: Context, due: DueSchedule, now: Date): Promise<void> {
  const name = due.report;
  // Used up before anything else: what goes wrong is told once, not at every look.
  if (!(await takeSchedule(context.database, name, now))) return;
  const report = (await getReport(context, name)).definition;
  await planNextRun(context, report, now);
  const { schedule } = report;
  if (!schedule) return;
  const { times, skipped } = await timesToStart(context, schedule, due.nextAt, now);
  if (skipped > 0)
    await tell(context, {
      kind: "schedule-missed",
      report: name,
      what: say().serviceSchedule.timesMissed({ report: report.title, count: skipped, missed: schedule.missed }),
      advice: say().serviceSchedule.startByHand(),
    });
  if (schedule.waitFor) {
    // Of several that passed the latest waits: data come once for all of them.
    for (const at of times.slice(-1)) await waitSince(context, report, schedule, at);
    return;
  }
  for (const _ of times) await start(context, name, "schedule", () => startScheduled(context, name));
}

/** The times that a start is made for, of those that have come since the one that was due; and how many are passed over. */
async function timesToStart(
  context: Context,
  schedule: Schedule,
  dueAt: Date,
  now: Date,
): Promise<{ readonly times: readonly Date[]; readonly skipped: number }> {
  const { schedule: calendar } = await calendarsOf(context, { schedule, period: undefined });
  const all = timesBetween(schedule, new Date(dueAt.getTime() - 1), now, Number.POSITIVE_INFINITY, calendar);
  const passed = all.length === 0 ? [dueAt] : all;
  const last = passed[passed.length - 1] as Date;
  if (schedule.missed === "all")
    return { times: passed.slice(-MOST_MISSED), skipped: Math.max(passed.length - MOST_MISSED, 0) };
  if (schedule.missed === "none" && now.getTime() - last.getTime() > MISSED_AFTER_MS)
    return { times: [], skipped: passed.length };
  return { times: [last], skipped: schedule.missed === "none" ? passed.length - 1 : 0 };
}

async function waitSince(context: Context, report: Report, schedule: Schedule, at: Date): Promise<void> {
  const { notAfter, zone } = schedule;
  const before = (await waitingSchedules(context.database)).find((one) => one.report === report.report);
  if (before && before.since.getTime() !== at.getTime()) await giveUp(context, report, before);
  const until = notAfter === undefined ? null : timeOfDay(at, notAfter, zone);
  await waitForData(context.database, { report: report.report, since: at, until });
}

/** Starts what waited for data, once all of them are there; gives up when its hour is over. */
async function lookForData(context: Context, waiting: WaitingSchedule, now: Date): Promise<void> {
  const name = waiting.report;
  const report = (await getReport(context, name)).definition;
  const names = report.schedule?.waitFor;
  if (!names) {
    await endWait(context.database, name);
    return;
  }
  const missing = await datasetsMissing(context, name, names);
  if (missing.length === 0) {
    if (await endWait(context.database, name))
      await start(context, name, "schedule", () => startScheduled(context, name));
  } else if (waiting.until && now > waiting.until && (await endWait(context.database, name)))
    await giveUp(context, report, waiting);
}

async function giveUp(context: Context, report: Report, { since, until }: WaitingSchedule): Promise<void> {
  const zone = report.schedule?.zone ?? context.settings.zone;
  const missing = await datasetsMissing(context, report.report, report.schedule?.waitFor ?? []);
  await tell(context, {
    kind: "nothing-came",
    report: report.report,
    what: say().serviceSchedule.nothingCame({
      report: report.title,
      datasets: missing.join(", "),
      since: shownTime(since, zone),
      until: until && shownTime(until, zone),
    }),
    advice: say().serviceSchedule.loadAndStartByHand(),
  });
  await noteAction(context.database, "schedule", "report not started", report.report, { missing });
}

async function startScheduled(context: Context, name: string): Promise<void> {
  const report = (await getReport(context, name)).definition;
  if (onceOf(report).kind === "edition") {
    const { number } = await getEdition(context.database, report.data);
    if (await wasReleasedFor(context.database, name, `edition ${number}`))
      throw new CorbixError("CONFLICT", say().serviceSchedule.editionDeliveredAlready({ number, data: report.data }), {
        where: name,
        advice: say().serviceSchedule.loadNewerSayReportMay(),
      });
  }
  await startRun(context, { report: name }, "schedule");
}

/** A moment in a zone as people read it. */
function shownTime(at: Date, zone: string): string {
  return new Intl.DateTimeFormat("en-GB", { timeZone: zone, dateStyle: "medium", timeStyle: "short" }).format(at);
}
