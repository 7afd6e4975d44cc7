/** Named calendars: kept, changed, and given to whoever asks how periods fall or which days are off. */
import { type Calendar, checkSchedule, nextTimes, type Periods, periodsFor } from "@corbix/core/calendar";
import { CorbixError, suggestName } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  addCalendar,
  allCalendars,
  type CalendarRow,
  maybeCalendar,
  newestReports,
  removeCalendar,
  replaceCalendar,
  setNextRun,
  versionOf,
} from "../records/index.js";
import { checkExpected } from "./expected.js";

/** A calendar with the reports that go by it. */
export interface UsedCalendar extends CalendarRow {
  readonly usedBy: readonly string[];
}

export async function calendars(context: Context): Promise<UsedCalendar[]> {
  const reports = (await newestReports(context.database)).map(({ definition }) => definition);
  return (await allCalendars(context.database)).map((row) => ({ ...row, usedBy: usersOf(row.name, reports) }));
}

/** Throws `NOT_FOUND` with the nearest name. */
export async function getCalendar(context: Context, name: string): Promise<UsedCalendar> {
  const all = await calendars(context);
  const found = all.find((one) => one.name === name);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceLibrary.cannotFindCalendar({ name }), {
    where: "calendars",
    advice: suggestName(
      name,
      all.map((one) => one.name),
      "calendars",
    ),
  });
}

export function calendarVersion({ definition }: CalendarRow): string {
  return versionOf(definition);
}

/** Keeps a calendar, new or known; the reports that go by it have their next time anew. Gives whether it is new. */
export async function setCalendar(
  context: Context,
  name: string,
  definition: Calendar,
  by: string,
  expected?: string,
): Promise<boolean> {
  const users = (await newestReports(context.database))
    .map((one) => one.definition)
    .filter((one) => namesOf(one).includes(name));
  for (const report of users) checkWith(report, new Map([[name, definition]]), report.report);
  for (;;) {
    const known = await maybeCalendar(context.database, name);
    checkExpected(expected, known && calendarVersion(known), say().place.calendar({ name }), known?.createdBy);
    const isKept = known
      ? await replaceCalendar(context.database, known, definition, by)
      : await addCalendar(context.database, name, definition, by);
    if (!isKept) continue;
    for (const report of users) await planNextRun(context, report, context.now());
    await noteAction(context.database, by, known ? "calendar changed" : "calendar added", name);
    await announce(context.database, { kind: "report", subject: "" });
    return known === undefined;
  }
}

/** Throws `CONFLICT` while reports go by it. */
export async function deleteCalendar(context: Context, name: string, by: string): Promise<void> {
  const { usedBy } = await getCalendar(context, name);
  if (usedBy.length > 0)
    throw new CorbixError("CONFLICT", say().serviceLibrary.calendarIsUsed({ name, usedBy: usedBy.join(", ") }), {
      where: "calendars",
      advice: say().serviceLibrary.changeReportsFirst(),
    });
  await removeCalendar(context.database, name);
  await noteAction(context.database, by, "calendar deleted", name);
}

/** The calendars that a report names. */
function namesOf({ period, schedule }: Pick<Report, "period" | "schedule">): string[] {
  return [period?.calendar, schedule?.calendar].filter((one) => one !== undefined);
}

function usersOf(name: string, reports: readonly Report[]): string[] {
  return reports.filter((report) => namesOf(report).includes(name)).map((one) => one.report);
}

/** The calendars that a report goes by. */
export interface ReportCalendars {
  readonly period: Calendar | undefined;
  readonly schedule: Calendar | undefined;
}

/** Throws `BAD_DEFINITION` for one that is not there. */
export async function calendarsOf(
  context: Context,
  { period, schedule }: Pick<Report, "period" | "schedule">,
): Promise<ReportCalendars> {
  const find = async (name: string | undefined, where: string): Promise<Calendar | undefined> => {
    if (name === undefined) return undefined;
    const found = await maybeCalendar(context.database, name);
    if (found) return found.definition;
    const names = (await allCalendars(context.database)).map((one) => one.name);
    throw new CorbixError("BAD_DEFINITION", say().serviceLibrary.cannotFindCalendar({ name }), {
      where,
      advice: suggestName(name, names, "calendars"),
    });
  };
  return {
    period: await find(period?.calendar, "period, calendar"),
    schedule: await find(schedule?.calendar ?? undefined, "schedule, calendar"),
  };
}

/** How the periods of a report fall now; nothing where it has none. */
export async function periodsOfReport(context: Context, report: Report): Promise<Periods | undefined> {
  if (!report.period) return undefined;
  return periodsFor(report.period, (await calendarsOf(context, { period: report.period, schedule: undefined })).period);
}

/** Of a calendar what periods need: what a run keeps, so that its periods stay as they were. */
export function forPeriods(calendar: Calendar): Calendar {
  return { ...calendar, off: [], half: [] };
}

/** Throws where a schedule or the periods of a report do not go with its calendars. */
export async function checkCalendars(context: Context, report: Report): Promise<void> {
  const { period, schedule } = await calendarsOf(context, report);
  const found = new Map<string, Calendar>();
  if (period && report.period?.calendar) found.set(report.period.calendar, period);
  if (schedule && report.schedule?.calendar) found.set(report.schedule.calendar, schedule);
  checkWith(report, found);
}

function checkWith(report: Report, found: ReadonlyMap<string, Calendar>, name?: string): void {
  try {
    const { period, schedule } = report;
    if (period && (period.calendar === undefined || found.has(period.calendar)))
      periodsFor(period, period.calendar === undefined ? undefined : found.get(period.calendar));
    if (schedule && (schedule.calendar === undefined || found.has(schedule.calendar)))
      checkSchedule(schedule, schedule.calendar === undefined ? undefined : found.get(schedule.calendar));
  } catch (error) {
    if (!(error instanceof CorbixError) || name === undefined) throw error;
    throw new CorbixError(error.code, error.message, {
      where: [say().place.report({ name }), error.where].filter(Boolean).join(", "),
      ...(error.advice ? { advice: error.advice } : {}),
    });
  }
}

/** Writes down when a report runs by itself next; none where it has no schedule. */
export async function planNextRun(context: Context, report: Report, after: Date): Promise<void> {
  const { schedule } = report;
  const calendar = schedule && (await calendarsOf(context, { schedule, period: undefined })).schedule;
  const [next] = schedule ? nextTimes(schedule, after, 1, calendar) : [];
  await setNextRun(context.database, report.report, next);
}
