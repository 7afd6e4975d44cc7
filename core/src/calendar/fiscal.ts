/** Fiscal years, quarters and months: of calendar months from any month on, or of whole weeks (52 or 53 of them). */
import { partsFromSerial, serialFromParts } from "../common/index.js";
import { type Fiscal, WEEKDAYS } from "./calendar.js";
import { type Period, type PeriodKind, pad, weekdayIndex } from "./period.js";

export type FiscalKind = Extract<PeriodKind, `fiscal-${string}`>;

/** First days of the twelve months of a fiscal year, and of the year behind it: thirteen. `year` as the calendar calls it. */
function monthStarts(fiscal: Fiscal, year: number): number[] {
  const begin = fiscal.named === "begin" || isCalendarYear(fiscal) ? year : year - 1;
  if ("begins" in fiscal) return Array.from({ length: 13 }, (_, at) => serialFromParts(begin, fiscal.begins + at, 1));
  // The year before ends in the calendar year before the one this one ends in.
  const ends = fiscal.named === "begin" ? year + (fiscal.month === 12 ? 0 : 1) : year;
  const from = lastDay(fiscal, ends - 1) + 1;
  const behind = lastDay(fiscal, ends) + 1;
  const starts = [from];
  const weeks = fiscal.weeks.split("-").map(Number);
  for (let at = 0; at < 11; at++) starts.push((starts.at(-1) as number) + (weeks[at % 3] as number) * 7);
  // A fifty-third week belongs to the last month.
  return [...starts, behind];
}

function isCalendarYear(fiscal: Fiscal): boolean {
  return "begins" in fiscal && fiscal.begins === 1;
}

type OfWeeks = Extract<Fiscal, { weeks: string }>;

/** The day a fiscal year ends on that ends in a calendar year. */
function lastDay({ ends, near, month }: OfWeeks, year: number): number {
  const end = serialFromParts(year, month + 1, 1) - 1;
  const back = (weekdayIndex(end) - WEEKDAYS.indexOf(ends) + 7) % 7;
  const last = end - back;
  return near === "nearest" && back > 3 ? last + 7 : last;
}

/** The fiscal period of a kind that a day lies in. */
export function fiscalPeriodOf(day: number, kind: FiscalKind, fiscal: Fiscal): Period {
  const { year } = partsFromSerial(Math.floor(day));
  for (const one of [year - 1, year, year + 1, year + 2]) {
    const starts = monthStarts(fiscal, one);
    if (day >= starts[0] && day < starts[12]) {
      const at = starts.findLastIndex((start, index) => index < 12 && day >= start);
      return periodAt(
        kind,
        fiscal,
        one,
        kind === "fiscal-year" ? 0 : kind === "fiscal-quarter" ? Math.floor(at / 3) : at,
      );
    }
  }
  throw new Error(`no fiscal year of ${day}`);
}

/** The fiscal period that a key names; nothing where it names none. */
export function fiscalPeriodFrom(key: string, kind: FiscalKind, fiscal: Fiscal): Period | undefined {
  const [, year, number] = PATTERNS[kind].exec(key) ?? [];
  if (year === undefined) return undefined;
  const at = number === undefined ? 0 : Number(number) - 1;
  return at >= 0 && at < COUNTS[kind] ? periodAt(kind, fiscal, Number(year), at) : undefined;
}

const COUNTS: Record<FiscalKind, number> = { "fiscal-year": 1, "fiscal-quarter": 4, "fiscal-month": 12 };

const PATTERNS: Record<FiscalKind, RegExp> = {
  "fiscal-year": /^FY ?(\d{4})$/i,
  "fiscal-quarter": /^FY ?(\d{4})-?Q(\d)$/i,
  "fiscal-month": /^FY ?(\d{4})-?M(\d{1,2})$/i,
};

function periodAt(kind: FiscalKind, fiscal: Fiscal, year: number, at: number): Period {
  const starts = monthStarts(fiscal, year);
  const months = 12 / COUNTS[kind];
  const own = { year: String(year), shortYear: pad(year % 100), number: String(at + 1) };
  const { labels } = fiscal;
  const [key, label] = {
    "fiscal-year": [`FY${year}`, labels.year],
    "fiscal-quarter": [`FY${year}-Q${at + 1}`, labels.quarter],
    "fiscal-month": [`FY${year}-M${pad(at + 1)}`, labels.month],
  }[kind];
  return {
    kind,
    key,
    from: starts[at * months],
    to: starts[(at + 1) * months] - 1,
    label: label.replace(/\{(year|shortYear|number)\}/g, (_, name: keyof typeof own) => own[name]),
  };
}
