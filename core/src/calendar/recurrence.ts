/** Recurrence rules of RFC 5545, 3.3.10, at a wall-clock time in an IANA time zone. */

import { DateTime } from "luxon";
import rrulePackage from "rrule";
import { CorbixError, wordsOf } from "../common/index.js";
import { say } from "../words/index.js";

const { RRule } = rrulePackage;

export interface Schedule {
  /** `FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1` */
  readonly rule: string;
  /** Wall-clock time, `07:15`. */
  readonly at: string;
  readonly zone: string;
  /** First day that counts, `2026-01-01`. */
  readonly from: string;
  /** Last day that counts. */
  readonly until?: string | undefined;
}

/** A rule that never hits is given up after so many candidates. */
const MAX_STEPS = 5000;

/** Throws `BAD_RULE` where rule, time or zone cannot be read. */
export function checkSchedule(schedule: Schedule): void {
  nextTimes(schedule, new Date(Date.UTC(2026, 0, 1)), 1);
}

/** The next `count` times after `after`, as instants. A time that the clock skips in spring is moved on by the gap. */
export function nextTimes(schedule: Schedule, after: Date, count: number): Date[] {
  const rule = parseRule(schedule);
  const times: Date[] = [];
  // The rule runs on wall-clock days kept in UTC fields, so that it knows nothing of zones; a day's margin covers all of them.
  let at = new Date(after.getTime() - 2 * 86_400_000);
  for (let step = 0; times.length < count && step < MAX_STEPS; step++) {
    const next = rule.after(at, false);
    if (!next) break;
    at = next;
    const instant = toInstant(next, schedule);
    if (schedule.until !== undefined && next.toISOString().slice(0, 10) > schedule.until) break;
    if (instant.getTime() > after.getTime()) times.push(instant);
  }
  return times;
}

function parseRule(schedule: Schedule): InstanceType<typeof RRule> {
  const bad = (what: string, advice: string): CorbixError =>
    new CorbixError("BAD_RULE", what, { where: "schedule", advice });
  if (!/^([01]\d|2[0-3]):[0-5]\d$/.test(schedule.at))
    throw bad(say().calendar.cannotReadExpectedTime({ at: schedule.at }), say().calendar.writeTime());
  if (!DateTime.local().setZone(schedule.zone).isValid)
    throw bad(say().calendar.cannotFindTimeZone({ zone: schedule.zone }), say().calendar.writeNameIanaListSuch());
  const start = DateTime.fromISO(`${schedule.from}T${schedule.at}:00Z`, { zone: "utc" });
  if (!start.isValid)
    throw bad(say().calendar.cannotReadExpectedDate({ from: schedule.from }), say().calendar.writeDate());
  try {
    if (!/(^|;)FREQ=/i.test(schedule.rule)) throw new Error("FREQ is missing");
    if (/FREQ=(SECONDLY|MINUTELY|HOURLY)/i.test(schedule.rule)) throw new Error("the smallest step is DAILY");
    return new RRule({
      ...RRule.parseString(schedule.rule.replace(/^RRULE:/i, "")),
      dtstart: start.toJSDate(),
      byhour: null,
      byminute: null,
      bysecond: null,
    });
  } catch (cause) {
    throw bad(
      say().calendar.cannotReadRecurrenceRule({ rule: schedule.rule, wordsOf: wordsOf(cause) }),
      say().calendar.writeIcalendarRfcSuchFreq(),
    );
  }
}

function toInstant(wall: Date, schedule: Schedule): Date {
  const iso = wall.toISOString().slice(0, 10);
  return DateTime.fromISO(`${iso}T${schedule.at}:00`, { zone: schedule.zone }).toJSDate();
}

/** The calendar day of an instant in a zone, as `2026-10-31`. */
export function dayInZone(instant: Date, zone: string): string {
  return DateTime.fromJSDate(instant).setZone(zone).toISODate() ?? instant.toISOString().slice(0, 10);
}

/** The time of day in a zone at an instant: `09:15`. */
export function timeInZone(instant: Date, zone: string): string {
  return DateTime.fromJSDate(instant).setZone(zone).toFormat("HH:mm");
}

/** Day and time in a zone as headers and footers of pages show them. */
export function printedAt(instant: Date, zone: string): { readonly date: string; readonly time: string } {
  return { date: dayInZone(instant, zone), time: timeInZone(instant, zone) };
}
