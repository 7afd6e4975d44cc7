/** Days off from a file of events (iCalendar, RFC 5545): public holidays, closing days. */
import ICAL from "ical.js";
import { CorbixError, isoFromSerial, serialFromParts } from "../common/index.js";
import { say } from "../words/index.js";
import type { DayOff } from "./calendar.js";

/** Events that come again and again are followed for so many years from the given one on. */
const YEARS = 10;
const MOST_DAYS = 5_000;

/**
 * Each event of a whole day, or of a part of one, as a day off. An event of every year on the same date stays one entry; other rules
 * are followed for ten years from `year` on. Events that are called off are left out. Throws `BAD_RULE` for a text that is no iCalendar.
 */
export function daysOffFromCalendar(text: string, where: string, year: number): DayOff[] {
  const events = eventsOf(text, where);
  const found = new Map<string, DayOff>();
  for (const event of events) {
    if (String(event.component.getFirstPropertyValue("status") ?? "").toUpperCase() === "CANCELLED") continue;
    for (const one of daysOfEvent(event, year)) {
      const key = `${one.day} ${one.until ?? ""} ${one.name ?? ""}`;
      if (!found.has(key)) found.set(key, one);
      if (found.size > MOST_DAYS)
        throw new CorbixError("LIMIT_EXCEEDED", say().calendar.tooManyDaysOff({ most: MOST_DAYS }), { where });
    }
  }
  return [...found.values()].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}

function eventsOf(text: string, where: string): ICAL.Event[] {
  try {
    const root = ICAL.Component.fromString(text.replace(/^\ufeff/, "").replace(/\r\n?|\n/g, "\r\n"));
    const events = root.getAllSubcomponents("vevent").map((one) => new ICAL.Event(one));
    if (root.name !== "vcalendar") throw new Error("no VCALENDAR");
    return events;
  } catch (cause) {
    throw new CorbixError("BAD_RULE", say().calendar.cannotReadCalendarFile(), {
      where,
      advice: say().calendar.saveAsIcalendar(),
      cause,
    });
  }
}

function daysOfEvent(event: ICAL.Event, year: number): DayOff[] {
  const { startDate: start } = event;
  if (!start) return [];
  const name = event.summary?.trim().slice(0, 200) || undefined;
  const days = wholeDays(event);
  const off = (from: number): DayOff => ({
    day: isoFromSerial(from),
    ...(days > 1 ? { until: isoFromSerial(from + days - 1) } : {}),
    ...(name === undefined ? {} : { name }),
    half: !start.isDate && days === 1,
  });
  if (!event.isRecurring()) return [off(serialOfTime(start))];
  if (days === 1 && isYearly(event)) {
    const { day: _, ...rest } = off(serialOfTime(start));
    return [{ day: isoFromSerial(serialOfTime(start)).slice(5), ...rest }];
  }
  const found: DayOff[] = [];
  const iterator = event.iterator();
  for (let time = iterator.next(); time && time.year < year + YEARS; time = iterator.next())
    if (time.year >= year - 1) found.push(off(serialOfTime(time)));
  return found;
}

/** Whether an event is on the same date of every year, without an end. */
function isYearly(event: ICAL.Event): boolean {
  const rules = event.component.getAllProperties("rrule");
  const rule = rules[0]?.getFirstValue() as ICAL.Recur | undefined;
  if (rules.length !== 1 || !rule || event.component.getAllProperties("exdate").length > 0) return false;
  const parts = Object.keys(rule.parts).filter((part) => part !== "BYMONTH" && part !== "BYMONTHDAY");
  return rule.freq === "YEARLY" && rule.interval === 1 && !rule.count && !rule.until && parts.length === 0;
}

function wholeDays({ startDate, endDate }: ICAL.Event): number {
  if (!endDate) return 1;
  // The end of an event of whole days is the day behind its last one.
  const days = serialOfTime(endDate) - serialOfTime(startDate) + (endDate.isDate ? 0 : 1);
  return Math.max(days, 1);
}

function serialOfTime({ year, month, day }: ICAL.Time): number {
  return serialFromParts(year, month, day);
}
