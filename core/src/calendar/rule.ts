/**
 * Recurrence rules of RFC 5545, 3.3.10, over days. Every day from the first on is asked whether the rule means it, so that a rule which
 * means none costs no more than its horizon.
 */
import { CorbixError, maybeSerialFromIso, partsFromSerial, serialFromParts, suggestName } from "../common/index.js";
import { say } from "../words/index.js";
import { WEEKDAYS, type Weekday } from "./calendar.js";
import { weekdayIndex } from "./period.js";

const FREQUENCIES = ["DAILY", "WEEKLY", "MONTHLY", "YEARLY"] as const;
const PARTS = [
  "FREQ",
  "INTERVAL",
  "COUNT",
  "UNTIL",
  "BYDAY",
  "BYMONTHDAY",
  "BYYEARDAY",
  "BYWEEKNO",
  "BYMONTH",
  "BYSETPOS",
  "WKST",
] as const;
type Frequency = (typeof FREQUENCIES)[number];
type Part = (typeof PARTS)[number];

export interface Rule {
  readonly frequency: Frequency;
  readonly interval: number;
  readonly count: number | undefined;
  /** Last day as a serial. */
  readonly until: number | undefined;
  /** Weekdays, each with its number in the month or year where it has one. */
  readonly days: readonly { readonly weekday: number; readonly nth: number | undefined }[];
  readonly monthDays: readonly number[];
  readonly yearDays: readonly number[];
  readonly weeks: readonly number[];
  readonly months: readonly number[];
  readonly positions: readonly number[];
  /** The weekday a week begins with; 0 is Monday. */
  readonly weekStart: number;
}

/** Highest numbers that parts can hold. */
const LIMITS: Partial<Record<Part, number>> = {
  INTERVAL: 1000,
  COUNT: 100_000,
  BYMONTHDAY: 31,
  BYYEARDAY: 366,
  BYWEEKNO: 53,
  BYMONTH: 12,
  BYSETPOS: 366,
};
const MAY_COUNT_BACK = new Set<Part>(["BYMONTHDAY", "BYYEARDAY", "BYWEEKNO", "BYSETPOS"]);

/** Throws `BAD_RULE` with the part that cannot be read, and the nearest that can. */
export function parseRule(text: string): Rule {
  const bad = (what: string, advice: string = say().calendar.writeIcalendarRfcSuchFreq()): never => {
    throw new CorbixError("BAD_RULE", say().calendar.cannotReadRecurrenceRule({ rule: text, what }), {
      where: "schedule, rule",
      advice,
    });
  };
  const parts = new Map<Part, string>();
  for (const piece of text
    .trim()
    .replace(/^RRULE:/i, "")
    .split(";")) {
    if (piece.trim() === "") continue;
    const [name = "", ...rest] = piece.split("=");
    const part = PARTS.find((one) => one === name.trim().toUpperCase());
    const value = rest.join("=").trim().toUpperCase();
    if (/^BY(HOUR|MINUTE|SECOND)$/i.test(name.trim()))
      bad(say().calendar.partIsTime({ part: name.trim() }), say().calendar.timeStandsInAt());
    if (!part)
      bad(say().calendar.noSuchPart({ part: name.trim() }), suggestName(name.trim().toUpperCase(), PARTS, "parts"));
    else if (parts.has(part)) bad(say().calendar.partTwice({ part }));
    else if (value === "") bad(say().calendar.partBlank({ part }));
    else parts.set(part, value);
  }
  const frequency = parts.get("FREQ");
  const known = FREQUENCIES.find((one) => one === frequency);
  if (frequency === undefined) return bad(say().calendar.frequencyMissing());
  if (/^(SECONDLY|MINUTELY|HOURLY)$/.test(frequency)) return bad(say().calendar.smallestStepDaily({ frequency }));
  if (!known)
    return bad(say().calendar.noSuchFrequency({ frequency }), suggestName(frequency, FREQUENCIES, "frequencies"));
  const numbers = (part: Part): number[] =>
    (parts.get(part)?.split(",") ?? []).map((one) => {
      const most = LIMITS[part] ?? 0;
      const isNumber = /^[+-]?\d{1,6}$/.test(one.trim());
      const number = Number(one);
      const least = MAY_COUNT_BACK.has(part) ? -most : 1;
      if (!isNumber || number === 0 || number < least || number > most)
        bad(say().calendar.partOutOfRange({ part, value: one, least, most }));
      return number;
    });
  const single = (part: Part): number | undefined => {
    const all = numbers(part);
    if (all.length > 1) bad(say().calendar.partTakesOne({ part }));
    return all[0];
  };
  const weekdayOf = (value: string, part: Part): number => {
    const at = WEEKDAYS.indexOf(value as Weekday);
    if (at < 0) bad(say().calendar.noSuchWeekday({ part, value }), say().calendar.weekdaysAre());
    return at;
  };
  const days = (parts.get("BYDAY")?.split(",") ?? []).map((one) => {
    const [, nth, weekday] = /^([+-]?\d{1,2})?\s*(.*)$/.exec(one.trim()) as RegExpExecArray;
    const own = weekdayOf(weekday, "BYDAY");
    if (nth === undefined) return { weekday: own, nth: undefined };
    if (known === "DAILY" || known === "WEEKLY") bad(say().calendar.numberedWeekday({ value: one, frequency: known }));
    if (Number(nth) === 0 || Math.abs(Number(nth)) > 53)
      bad(say().calendar.partOutOfRange({ part: "BYDAY", value: one, least: -53, most: 53 }));
    return { weekday: own, nth: Number(nth) };
  });
  const until = parts.get("UNTIL");
  const untilDay = until && maybeSerialFromIso(until.replace(/^(\d{4})(\d{2})(\d{2}).*$/, "$1-$2-$3").slice(0, 10));
  if (until !== undefined && typeof untilDay !== "number") return bad(say().calendar.untilNoDay({ until }));
  if (until !== undefined && parts.has("COUNT")) return bad(say().calendar.untilAndCount());
  if (parts.has("BYSETPOS") && parts.size === 2) return bad(say().calendar.positionsOfNothing());
  return {
    frequency: known,
    interval: single("INTERVAL") ?? 1,
    count: single("COUNT"),
    until: typeof untilDay === "number" ? untilDay : undefined,
    days,
    monthDays: numbers("BYMONTHDAY"),
    yearDays: numbers("BYYEARDAY"),
    weeks: numbers("BYWEEKNO"),
    months: numbers("BYMONTH"),
    positions: numbers("BYSETPOS"),
    weekStart: parts.has("WKST") ? weekdayOf(parts.get("WKST") as string, "WKST") : 0,
  };
}

/** A rule that has meant no day for so long means none: 29 February comes again within 8 years, on a given weekday within 40. */
const HORIZON_YEARS = 41;
const MOST_YEARS = 200;

/**
 * The days that a rule means in order, from its first day on, or from about `from` on where it counts none; ends where it means no
 * further one.
 */
export function* ruleDays(rule: Rule, first: number, from = first): Generator<number> {
  const full = withDefaults(rule, first);
  const horizon = Math.min(HORIZON_YEARS * rule.interval, MOST_YEARS) * 366;
  const begin = rule.count === undefined ? Math.max(first, from) : first;
  let found = 0;
  let lastFound = begin;
  let span: number[] = [];
  let index = Number.NaN;
  const pick = (): number[] => picked(span, rule.positions).filter((day) => day >= first);
  // A set that the first day lies in begins before it.
  for (let day = spanStart(rule, begin); day <= lastFound + horizon; day++) {
    if (rule.until !== undefined && day > rule.until && span.length === 0) return;
    const own = spanIndex(rule, day, first);
    if (own !== index) {
      for (const one of pick()) {
        if (rule.until !== undefined && one > rule.until) return;
        yield one;
        lastFound = one;
        if (++found === rule.count) return;
      }
      span = [];
      index = own;
    }
    if (own % rule.interval === 0 && isMeant(full, day)) span.push(day);
  }
}

/** What a rule does not say it takes from its first day. */
function withDefaults(rule: Rule, first: number): Rule {
  const { month, day } = partsFromSerial(first);
  const bare = rule.days.length + rule.monthDays.length + rule.yearDays.length === 0;
  const weekday = [{ weekday: weekdayIndex(first), nth: undefined }];
  if (!bare || rule.frequency === "DAILY") return rule;
  if (rule.frequency === "WEEKLY" || rule.weeks.length > 0) return { ...rule, days: weekday };
  if (rule.frequency === "MONTHLY" || rule.months.length > 0) return { ...rule, monthDays: [day] };
  return { ...rule, monthDays: [day], months: [month] };
}

/** Which of its days, weeks, months or years a day lies in, counted from the first day's. */
function spanIndex({ frequency, weekStart }: Rule, day: number, first: number): number {
  if (frequency === "DAILY") return day - first;
  if (frequency === "WEEKLY") return Math.round((weekBegin(day, weekStart) - weekBegin(first, weekStart)) / 7);
  const [own, begin] = [partsFromSerial(day), partsFromSerial(first)];
  const years = own.year - begin.year;
  return frequency === "YEARLY" ? years : years * 12 + own.month - begin.month;
}

function spanStart({ frequency, weekStart }: Rule, first: number): number {
  const { year, month } = partsFromSerial(first);
  if (frequency === "DAILY") return first;
  if (frequency === "WEEKLY") return weekBegin(first, weekStart);
  return serialFromParts(year, frequency === "YEARLY" ? 1 : month, 1);
}

function weekBegin(day: number, weekStart: number): number {
  return day - ((weekdayIndex(day) - weekStart + 7) % 7);
}

function isMeant({ frequency, days, monthDays, yearDays, weeks, months, weekStart }: Rule, serial: number): boolean {
  const { year, month, day } = partsFromSerial(serial);
  if (months.length > 0 && !months.includes(month)) return false;
  if (monthDays.length > 0) {
    const last = partsFromSerial(serialFromParts(year, month + 1, 0)).day;
    if (!monthDays.includes(day) && !monthDays.includes(day - last - 1)) return false;
  }
  const [begin, end] = [serialFromParts(year, 1, 1), serialFromParts(year, 12, 31)];
  if (yearDays.length > 0 && !yearDays.includes(serial - begin + 1) && !yearDays.includes(serial - end - 1))
    return false;
  if (weeks.length > 0) {
    const week = weekOfYear(serial, weekStart);
    if (!weeks.includes(week.number) && !weeks.includes(week.number - week.count - 1)) return false;
  }
  if (days.length === 0) return true;
  const ofMonth = frequency === "MONTHLY" || months.length > 0;
  const from = ofMonth ? serialFromParts(year, month, 1) : begin;
  const to = ofMonth ? serialFromParts(year, month + 1, 0) : end;
  return days.some(
    ({ weekday, nth }) =>
      weekday === weekdayIndex(serial) &&
      (nth === undefined ||
        (nth > 0 ? Math.floor((serial - from) / 7) + 1 === nth : -(Math.floor((to - serial) / 7) + 1) === nth)),
  );
}

/** Weeks belong to the year that holds four of their days (RFC 5545, 3.3.10, BYWEEKNO). */
function weekOfYear(serial: number, weekStart: number): { readonly number: number; readonly count: number } {
  const { year } = partsFromSerial(weekBegin(serial, weekStart) + 3);
  const firstWeek = (of: number): number => weekBegin(serialFromParts(of, 1, 4), weekStart);
  return {
    number: (weekBegin(serial, weekStart) - firstWeek(year)) / 7 + 1,
    count: (firstWeek(year + 1) - firstWeek(year)) / 7,
  };
}

function picked(days: readonly number[], positions: readonly number[]): readonly number[] {
  if (positions.length === 0) return days;
  return days.filter((_, at) => positions.includes(at + 1) || positions.includes(at - days.length));
}

/** Rules near one that means no day, the likeliest first. */
export function nearRules(text: string): string[] {
  const parts = text
    .replace(/^RRULE:/i, "")
    .split(";")
    .filter((part) => part.trim() !== "");
  const change = (name: string, to: (value: string) => string | undefined): string[] => {
    const found = parts.find((part) => part.toUpperCase().startsWith(`${name}=`));
    if (found === undefined) return [];
    const value = to(found.slice(name.length + 1));
    return [
      parts.flatMap((part) => (part !== found ? [part] : value === undefined ? [] : [`${name}=${value}`])).join(";"),
    ];
  };
  return [
    ...change("BYMONTHDAY", (value) => (value.startsWith("-") ? "1" : "-1")),
    ...change("BYSETPOS", (value) => (value.startsWith("-") ? "1" : "-1")),
    ...change("BYDAY", (value) => value.replace(/\+?\d+(?=[A-Z])/gi, "1")),
    ...change("BYYEARDAY", () => "-1"),
    ...change("BYWEEKNO", () => "-1"),
    ...change("BYMONTH", () => undefined),
    ...change("BYSETPOS", () => undefined),
    ...change("INTERVAL", () => undefined),
    ...change("BYWEEKNO", () => undefined),
  ];
}
