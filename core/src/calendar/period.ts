import {
  isDay,
  isoFromSerial,
  isRealDay,
  maybeSerialFromIso,
  partsFromSerial,
  serialFromParts,
} from "../common/index.js";

/** Kinds of periods that everybody's calendar has. */
export const PLAIN_KINDS = ["day", "week", "half-month", "month", "quarter", "year"] as const;
/** Kinds that a named calendar says. */
export const NAMED_KINDS = ["fiscal-month", "fiscal-quarter", "fiscal-year", "own"] as const;
export const PERIOD_KINDS = [...PLAIN_KINDS, ...NAMED_KINDS] as const;
export type PlainKind = (typeof PLAIN_KINDS)[number];
export type PeriodKind = (typeof PERIOD_KINDS)[number];

/**
 * A span of days, both ends included. `key` is its ISO 8601 form where there is one: `2026-10`, `2026-W41`, `2026-Q4`, `2026`,
 * `2026-10-05`; `2026-10-H1` for half a month, `FY2026-M03` for a fiscal one. Keys of a kind sort as their days do.
 */
export interface Period {
  readonly kind: PeriodKind;
  readonly key: string;
  /** First and last day as serials. */
  readonly from: number;
  readonly to: number;
  /** What people call it, where a calendar says so. */
  readonly label?: string;
}

/** How a person calls it: `October 2026`, `2026 W41`, `Q4 2026`. Month names follow the locale. */
export function periodLabel(period: Period, locale: string): string {
  if (period.label !== undefined) return period.label;
  const format = (options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat =>
    new Intl.DateTimeFormat(locale, { ...options, timeZone: "UTC" });
  switch (period.kind) {
    case "day":
      return format({ day: "numeric", month: "long", year: "numeric" }).format(utc(period.from));
    case "week":
      return period.key.replace("-W", " W");
    case "half-month":
      return format({ day: "numeric", month: "long", year: "numeric" }).formatRange(utc(period.from), utc(period.to));
    case "month":
      return format({ month: "long", year: "numeric" }).format(utc(period.from));
    case "quarter":
      return period.key.replace(/^(\d+)-Q(\d)$/, "Q$2 $1");
    default:
      return period.key;
  }
}

/** The period of a kind that a day lies in. */
export function plainPeriodOf(serial: number, kind: PlainKind): Period {
  const day = Math.floor(serial);
  const { year, month, day: date } = partsFromSerial(day);
  switch (kind) {
    case "day":
      return { kind, key: isoFromSerial(day), from: day, to: day };
    case "week": {
      const monday = day - weekdayIndex(day);
      const week = isoWeek(monday);
      return { kind, key: `${week.year}-W${pad(week.number)}`, from: monday, to: monday + 6 };
    }
    case "half-month": {
      const isFirst = date <= 15;
      return {
        kind,
        key: `${year}-${pad(month)}-H${isFirst ? 1 : 2}`,
        from: serialFromParts(year, month, isFirst ? 1 : 16),
        to: isFirst ? serialFromParts(year, month, 15) : serialFromParts(year, month + 1, 1) - 1,
      };
    }
    case "month":
      return {
        kind,
        key: `${year}-${pad(month)}`,
        from: serialFromParts(year, month, 1),
        to: serialFromParts(year, month + 1, 1) - 1,
      };
    case "quarter": {
      const quarter = Math.floor((month - 1) / 3);
      const from = serialFromParts(year, quarter * 3 + 1, 1);
      return { kind, key: `${year}-Q${quarter + 1}`, from, to: serialFromParts(year, quarter * 3 + 4, 1) - 1 };
    }
    case "year":
      return { kind, key: String(year), from: serialFromParts(year, 1, 1), to: serialFromParts(year, 12, 31) };
  }
}

/** First day of the period that a key names; nothing where it names none. */
export function plainStart(key: string, kind: PlainKind): number | undefined {
  const match = PATTERNS[kind].exec(key);
  const start = match ? STARTS[kind](match.slice(1).map(Number)) : undefined;
  return start !== undefined && isDay(start) ? start : undefined;
}

const PATTERNS: Record<PlainKind, RegExp> = {
  day: /^(\d{4})-(\d{2})-(\d{2})$/,
  week: /^(\d{4})-?W(\d{2})$/i,
  "half-month": /^(\d{4})-(\d{2})-?H([12])$/i,
  month: /^(\d{4})-(\d{2})$/,
  quarter: /^(\d{4})-?Q([1-4])$/i,
  year: /^(\d{4})$/,
};

const STARTS: Record<PlainKind, (numbers: readonly number[]) => number | undefined> = {
  day: ([year, month, day]) => (isRealDay(year, month, day) ? serialFromParts(year, month, day) : undefined),
  week: ([year, week]) => {
    const fourth = serialFromParts(year, 1, 4);
    const start = fourth - weekdayIndex(fourth) + (week - 1) * 7;
    return isoWeek(start).year === year && week >= 1 ? start : undefined;
  },
  "half-month": ([year, month, half]) =>
    month >= 1 && month <= 12 ? serialFromParts(year, month, half === 1 ? 1 : 16) : undefined,
  month: ([year, month]) => (month >= 1 && month <= 12 ? serialFromParts(year, month, 1) : undefined),
  quarter: ([year, quarter]) => serialFromParts(year, quarter * 3 - 2, 1),
  year: ([year]) => serialFromParts(year, 1, 1),
};

/** 0 is Monday. Serial 2 (1900-01-01) was a Monday. */
export function weekdayIndex(serial: number): number {
  return (((Math.floor(serial) - 2) % 7) + 7) % 7;
}

/** ISO 8601: the week belongs to the year that holds its Thursday. */
function isoWeek(monday: number): { year: number; number: number } {
  const { year } = partsFromSerial(monday + 3);
  const fourth = serialFromParts(year, 1, 4);
  return { year, number: (monday - (fourth - weekdayIndex(fourth))) / 7 + 1 };
}

export function pad(number: number): string {
  return String(number).padStart(2, "0");
}

function utc(serial: number): Date {
  const { year, month, day } = partsFromSerial(serial);
  return new Date(Date.UTC(year, month - 1, day));
}

/** A day as it is written in a calendar, as its serial. */
export function serialOf(day: string): number {
  return maybeSerialFromIso(day) ?? Number.NaN;
}
