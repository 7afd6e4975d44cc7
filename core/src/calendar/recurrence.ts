/** When a report runs: days by a rule of RFC 5545 or counted in a period, moved off days off, at a wall-clock time in an IANA time zone. */

import { DateTime } from "luxon";
import { CorbixError, isoFromSerial, maybeSerialFromIso } from "../common/index.js";
import { say } from "../words/index.js";
import type { Calendar } from "./calendar.js";
import type { PeriodKind } from "./period.js";
import { periodsFor } from "./periods.js";
import { nearRules, parseRule, type Rule, ruleDays } from "./rule.js";
import { WorkingDays } from "./working-days.js";

/** The nth working day, or the nth day, of each period; from its end where it is negative. */
export type CountedDay =
  | { readonly working: number; readonly of: PeriodKind }
  | { readonly date: number; readonly of: PeriodKind };

export interface Schedule {
  /** `FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1`; or a counted day. */
  readonly rule?: string | undefined;
  readonly day?: CountedDay | undefined;
  /** Name of the calendar that says what is worked. */
  readonly calendar?: string | undefined;
  /** What becomes of a day off; as it is if not given. */
  readonly off?: "stay" | "before" | "after" | "skip" | undefined;
  /** Whether days of which half is worked count as worked; they do if not given. */
  readonly halfDays?: "work" | "off" | undefined;
  /** Wall-clock time, `07:15`. */
  readonly at: string;
  readonly zone: string;
  /** First day that counts, `2026-01-01`. */
  readonly from: string;
  /** Last day that counts. */
  readonly until?: string | undefined;
}

/** One time of a schedule. */
export interface ScheduledTime {
  readonly at: Date;
  /** The day it falls on. */
  readonly day: string;
  /** The day off that it was moved from, and what that is called. */
  readonly movedFrom: { readonly day: string; readonly name: string | undefined } | undefined;
}

/** Throws `BAD_RULE` where rule, time or zone cannot be read, or where the schedule has no time at all; with one near it that has. */
export function checkSchedule(schedule: Schedule, calendar?: Calendar): void {
  if (firstDay(schedule, calendar) !== undefined) return;
  const { until, from, rule, day, off = "stay" } = schedule;
  if (until !== undefined && until < from)
    throw badSchedule(say().calendar.endsBeforeItBegins({ from, until }), "until", say().calendar.setUntilLater());
  const near =
    (off === "skip"
      ? tryNear(
          schedule,
          calendar,
          ["before", "after"].map((one) => ({ off: one as "before" })),
        )
      : undefined) ??
    tryNear(schedule, calendar, rule === undefined ? nearDays(day) : nearRules(rule).map((one) => ({ rule: one })));
  const what = rule ?? JSON.stringify(day);
  throw badSchedule(
    say().calendar.neverFires({ what }),
    rule === undefined ? "day" : "rule",
    near === undefined ? say().calendar.seeTimesOfRule() : say().calendar.nearRule(near),
  );
}

function nearDays(day: CountedDay | undefined): { day: CountedDay }[] {
  if (!day || !("working" in day)) return [];
  return [{ day: { ...day, working: day.working > 0 ? -1 : 1 } }];
}

/** The first of some changes that gives a schedule times. */
function tryNear(
  schedule: Schedule,
  calendar: Calendar | undefined,
  changes: readonly Partial<Schedule>[],
): { readonly near: string; readonly first: string } | undefined {
  for (const change of changes) {
    try {
      const first = firstDay({ ...schedule, ...change }, calendar);
      const [[name, value] = []] = Object.entries(change);
      if (first !== undefined)
        return {
          near: `${name}: ${typeof value === "string" ? value : JSON.stringify(value)}`,
          first: isoFromSerial(first),
        };
    } catch {
      // A change that makes no rule is none to be proposed.
    }
  }
  return undefined;
}

function firstDay(schedule: Schedule, calendar: Calendar | undefined): number | undefined {
  for (const { day } of scheduledDays(checked(schedule), calendar, undefined)) return day;
  return undefined;
}

/** When a schedule comes due, in words. */
export function scheduleSentence({ rule, day, at, zone, calendar, off = "stay", until }: Schedule): string {
  return say().calendar.schedule({
    rule,
    counted:
      day &&
      ("working" in day
        ? { working: true, number: day.working, of: day.of }
        : { working: false, number: day.date, of: day.of }),
    at,
    zone,
    calendar,
    off,
    until,
  });
}

/** The next `count` times after `after`, as instants. A time that the clock skips in spring is moved on by the gap. */
export function nextTimes(schedule: Schedule, after: Date, count: number, calendar?: Calendar): Date[] {
  const found: Date[] = [];
  for (const { at } of timesAfter(schedule, after, calendar)) {
    if (found.length === count) break;
    found.push(at);
  }
  return found;
}

/** The times of so many days after `after`, no more than `most`, each with the day off that it was moved from. */
export function timesWithin(
  schedule: Schedule,
  after: Date,
  { days, most }: { readonly days: number; readonly most: number },
  calendar?: Calendar,
): ScheduledTime[] {
  const found: ScheduledTime[] = [];
  const end = after.getTime() + days * 86_400_000;
  for (const time of timesAfter(schedule, after, calendar)) {
    if (found.length === most || time.at.getTime() > end) break;
    found.push(time);
  }
  return found;
}

/** Times of a schedule between two instants, the first excluded, the last included; no more than `most`, the latest of them. */
export function timesBetween(schedule: Schedule, after: Date, until: Date, most: number, calendar?: Calendar): Date[] {
  const found: Date[] = [];
  for (const { at } of timesAfter(schedule, after, calendar)) {
    if (at.getTime() > until.getTime()) break;
    found.push(at);
  }
  return found.slice(-most);
}

function* timesAfter(schedule: Schedule, after: Date, calendar: Calendar | undefined): Generator<ScheduledTime> {
  const ready = checked(schedule);
  // A day's margin covers all zones.
  const from = Math.floor(made(maybeSerialFromIso(after.toISOString().slice(0, 10)))) - 2;
  for (const { day, movedFrom } of scheduledDays(ready, calendar, from)) {
    const at = instantOn(day, schedule);
    if (at.getTime() > after.getTime()) yield { at, day: isoFromSerial(day), movedFrom };
  }
}

function made(serial: number | undefined): number {
  return serial ?? 0;
}

interface CheckedSchedule extends Schedule {
  readonly first: number;
  readonly parsed: Rule | undefined;
}

function checked(schedule: Schedule): CheckedSchedule {
  const { at, zone, from, until, rule, day } = schedule;
  checkTime(at, "at");
  zoneOf(zone, "zone");
  const first = maybeSerialFromIso(from);
  for (const [name, value] of [
    ["from", from],
    ["until", until],
  ] as const)
    if (value !== undefined && (maybeSerialFromIso(value) === undefined || value.length !== 10))
      throw badSchedule(say().calendar.cannotReadExpectedDate({ value, name }), name, say().calendar.writeDate());
  if ((rule === undefined) === (day === undefined))
    throw badSchedule(say().calendar.ruleOrDay(), "rule", say().calendar.writeIcalendarRfcSuchFreq());
  return { ...schedule, first: made(first), parsed: rule === undefined ? undefined : parseRule(rule) };
}

/** Throws `BAD_RULE` for what is no time zone. */
export function zoneOf(zone: string, field: string): string {
  if (DateTime.local().setZone(zone).isValid) return zone;
  throw badSchedule(say().calendar.cannotFindTimeZone({ zone }), field, say().calendar.writeNameIanaListSuch());
}

/** Throws `BAD_RULE` for what is no time of a day. */
export function checkTime(time: string, name: string): void {
  if (/^([01]\d|2[0-3]):[0-5]\d$/.test(time)) return;
  throw badSchedule(say().calendar.cannotReadExpectedTime({ at: time, name }), name, say().calendar.writeTime());
}

function badSchedule(what: string, field: string, advice: string): CorbixError {
  return new CorbixError("BAD_RULE", what, { where: `schedule, ${field}`, advice });
}

interface ScheduledDay {
  readonly day: number;
  readonly movedFrom: ScheduledTime["movedFrom"];
}

/** Days in order, each once; from about `from` on. */
function* scheduledDays(
  schedule: CheckedSchedule,
  calendar: Calendar | undefined,
  from: number | undefined,
): Generator<ScheduledDay> {
  const { first, until, off = "stay", halfDays } = schedule;
  const last = until === undefined ? Number.POSITIVE_INFINITY : made(maybeSerialFromIso(until));
  const working = new WorkingDays(calendar, halfDays);
  let before = Number.NEGATIVE_INFINITY;
  for (const meant of daysMeant(schedule, calendar, working, from)) {
    const day = meant === undefined ? undefined : movedDay(meant, off, working);
    if (meant === undefined || day === undefined || day <= before) continue;
    // A day off may have been moved behind the last day, and the next one not.
    if (day > last && meant > last) return;
    if (day > last || day < first) continue;
    before = day;
    const movedFrom = day === meant ? undefined : { day: isoFromSerial(meant), name: working.noteOf(meant)?.name };
    yield { day, movedFrom };
  }
}

function movedDay(day: number, off: NonNullable<Schedule["off"]>, working: WorkingDays): number | undefined {
  if (off === "stay" || working.isWorked(day)) return day;
  return off === "skip" ? undefined : working.nearest(day, off === "before" ? -1 : 1);
}

/** A counted day that no period has for so many periods has none. */
const MOST_PERIODS = 500;
/** Periods of one's own may begin so long after the day that is asked for. */
const MOST_SKIPPED_DAYS = 15_000;

/** What the schedule means, before days off are looked at. `undefined`: nothing in one period. */
function* daysMeant(
  { parsed, day: counted, first, calendar: name }: CheckedSchedule,
  calendar: Calendar | undefined,
  working: WorkingDays,
  from: number | undefined,
): Generator<number | undefined> {
  if (parsed) {
    let skipped = 0;
    // A day that is moved may come from some time before.
    for (const day of ruleDays(parsed, first, from === undefined ? first : from - MOST_MOVED)) {
      if (from !== undefined && day < from - MOST_MOVED) continue;
      yield day;
      // Days that are all off are given up.
      if (++skipped > MOST_SKIPPED_DAYS) return;
    }
    return;
  }
  if (!counted) return;
  const periods = periodsFor({ every: counted.of, calendar: name }, calendar);
  const start = Math.max(first, (from ?? first) - MOST_MOVED);
  let period = periods.maybeOf(start) ?? periods.nextFrom(start);
  for (let seen = 0; period && seen < MOST_PERIODS; seen++) {
    const { from: begin, to } = period;
    if ("working" in counted) yield working.nth(begin, to, counted.working);
    else yield counted.date > 0 ? Math.min(begin + counted.date - 1, to) : Math.max(to + counted.date + 1, begin);
    period = periods.nextFrom(to + 1);
  }
}

/** A day is moved by no more than this. */
const MOST_MOVED = 40;

/** The instant of a wall-clock time on a day. */
function instantOn(day: number, { at, zone }: Pick<Schedule, "at" | "zone">): Date {
  return DateTime.fromISO(`${isoFromSerial(day)}T${at}:00`, { zone }).toJSDate();
}

/** The instant of a wall-clock time on the day that an instant falls on in a zone. */
export function timeOfDay(instant: Date, at: string, zone: string): Date {
  return DateTime.fromISO(`${dayInZone(instant, zone)}T${at}:00`, { zone }).toJSDate();
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
