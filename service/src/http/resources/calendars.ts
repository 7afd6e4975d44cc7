import type { calendarEndpoints } from "@corbix/api";
import {
  type Calendar,
  PERIOD_KINDS,
  type Period,
  type PeriodKind,
  periodLabel,
  periodsFor,
  readCalendarFile,
  WorkingDays,
} from "@corbix/core/calendar";
import { isoFromSerial, serialFromParts } from "@corbix/core/common";
import {
  calendars,
  calendarVersion,
  deleteCalendar,
  getCalendar,
  setCalendar,
  type UsedCalendar,
} from "../../library/calendars.js";
import { pageOf } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

export const calendarHandlers: HandlersOf<typeof calendarEndpoints> = {
  listCalendars: async ({ context, query }) => {
    const { items, next } = pageOf(await calendars(context), query);
    return { items: items.map(summaryOf), next };
  },

  showCalendar: async ({ context, params, tell }) => {
    const found = await getCalendar(context, params.name);
    tell(calendarVersion(found));
    return { ...summaryOf(found), definition: { ...found.definition } };
  },

  saveCalendar: async ({ context, params, body, user, expected, created, tell }) => {
    const isNew = await setCalendar(context, params.name, body, user.name, expected);
    if (isNew) created(`/calendars/${params.name}`);
    const found = await getCalendar(context, params.name);
    tell(calendarVersion(found));
    return { ...summaryOf(found), definition: { ...found.definition } };
  },

  deleteCalendar: async ({ context, params, user }) => {
    await deleteCalendar(context, params.name, user.name);
    return { ok: true };
  },

  showCalendarYear: async ({ params: { year }, body }) => {
    const working = new WorkingDays(body);
    const [first, last] = [serialFromParts(year, 1, 1), serialFromParts(year, 12, 31)];
    const days = Array.from({ length: last - first + 1 }, (_, at) => first + at).flatMap((day) => {
      const note = working.noteOf(day);
      return note ? [{ day: isoFromSerial(day), name: note.name ?? null, half: note.half }] : [];
    });
    const kinds = PERIOD_KINDS.filter(
      (kind) => (kind === "own" && body.periods.length > 0) || (kind.startsWith("fiscal-") && body.fiscal),
    );
    return { days, periods: kinds.flatMap((kind) => periodsBetween(body, kind, first, last)) };
  },

  readCalendarFile: async ({ context, query: { file }, body }) => {
    const found = readCalendarFile(body, file, context.now().getUTCFullYear());
    return { off: found.off.map((one) => ({ ...one })), periods: found.periods.map((one) => ({ ...one })) };
  },
};

/** Periods of a kind that lie in a span of days, or partly. */
function periodsBetween(calendar: Calendar, every: PeriodKind, first: number, last: number) {
  const periods = periodsFor({ every }, calendar);
  const found: Period[] = [];
  let one = periods.maybeOf(first) ?? periods.nextFrom(first);
  for (; one && one.from <= last; one = periods.nextFrom(one.to + 1)) found.push(one);
  return found.map((period) => ({
    kind: period.kind,
    key: period.key,
    label: periodLabel(period, "en-GB"),
    from: isoFromSerial(period.from),
    to: isoFromSerial(period.to),
  }));
}

function summaryOf({ name, definition, usedBy, changedAt, createdBy }: UsedCalendar) {
  return {
    name,
    title: definition.title,
    daysOff: definition.off.length,
    periods: definition.periods.length,
    fiscal: definition.fiscal !== undefined,
    usedBy: [...usedBy],
    changedAt: iso(changedAt),
    changedBy: createdBy,
  };
}
