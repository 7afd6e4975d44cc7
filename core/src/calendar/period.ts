import { CorbixError, isDay, partsFromSerial, serialFromParts } from "../common/index.js";
import { say } from "../words/index.js";

export type PeriodKind = "day" | "week" | "month" | "quarter" | "year";

/** A span of days, both ends included. `key` is its ISO 8601 form: `2026-10`, `2026-W41`, `2026-Q4`, `2026`, `2026-10-05`. */
export interface Period {
  readonly kind: PeriodKind;
  readonly key: string;
  /** First and last day as serials. */
  readonly from: number;
  readonly to: number;
}

/** The period a key names. Throws `BAD_PERIOD`. */
export function parsePeriod(key: string, kind: PeriodKind): Period {
  const match = PATTERNS[kind].exec(key.trim());
  const start = match ? STARTS[kind](match.slice(1).map(Number)) : undefined;
  if (start === undefined || !isDay(start)) {
    throw new CorbixError(
      "BAD_PERIOD",
      say().calendar.cannotReadExpectedSomethingLike({ key, kind, examples: EXAMPLES[kind] }),
      { where: "period" },
    );
  }
  return periodOf(start, kind);
}

/** The period a day lies in. */
export function periodOf(serial: number, kind: PeriodKind): Period {
  const day = Math.floor(serial);
  const { year, month } = partsFromSerial(day);
  switch (kind) {
    case "day":
      return { kind, key: isoDay(day), from: day, to: day };
    case "week": {
      const monday = day - weekdayIndex(day);
      const week = isoWeek(monday);
      return { kind, key: `${week.year}-W${pad(week.number)}`, from: monday, to: monday + 6 };
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

/** The last period that is over on a day. */
export function previousPeriod(serial: number, kind: PeriodKind): Period {
  return periodOf(periodOf(serial, kind).from - 1, kind);
}

/** How a person calls it: `October 2026`, `week 41 of 2026`, `4th quarter 2026`. Month names follow the locale. */
export function periodLabel(period: Period, locale: string): string {
  const { year, month, day } = partsFromSerial(period.from);
  const format = (options: Intl.DateTimeFormatOptions): string =>
    new Intl.DateTimeFormat(locale, { ...options, timeZone: "UTC" }).format(new Date(Date.UTC(year, month - 1, day)));
  switch (period.kind) {
    case "day":
      return format({ day: "numeric", month: "long", year: "numeric" });
    case "week":
      return period.key.replace("-W", " W");
    case "month":
      return format({ month: "long", year: "numeric" });
    case "quarter":
      return period.key.replace(/^(\d+)-Q(\d)$/, "Q$2 $1");
    case "year":
      return period.key;
  }
}

const PATTERNS: Record<PeriodKind, RegExp> = {
  day: /^(\d{4})-(\d{2})-(\d{2})$/,
  week: /^(\d{4})-?W(\d{2})$/i,
  month: /^(\d{4})-(\d{2})$/,
  quarter: /^(\d{4})-?Q([1-4])$/i,
  year: /^(\d{4})$/,
};

const EXAMPLES: Record<PeriodKind, string> = {
  day: "2026-10-05",
  week: "2026-W41",
  month: "2026-10",
  quarter: "2026-Q4",
  year: "2026",
};

/** First day of the period, or `undefined` where the numbers make none. */
const STARTS: Record<PeriodKind, (numbers: readonly number[]) => number | undefined> = {
  day: ([year, month, day]) => {
    const serial = serialFromParts(year, month, day);
    const parts = partsFromSerial(serial);
    return parts.month === month && parts.day === day ? serial : undefined;
  },
  week: ([year, week]) => {
    const fourth = serialFromParts(year, 1, 4);
    const start = fourth - weekdayIndex(fourth) + (week - 1) * 7;
    return isoWeek(start).year === year && week >= 1 ? start : undefined;
  },
  month: ([year, month]) => (month >= 1 && month <= 12 ? serialFromParts(year, month, 1) : undefined),
  quarter: ([year, quarter]) => serialFromParts(year, quarter * 3 - 2, 1),
  year: ([year]) => serialFromParts(year, 1, 1),
};

/** 0 is Monday. Serial 2 (1900-01-01) was a Monday. */
function weekdayIndex(serial: number): number {
  return (((serial - 2) % 7) + 7) % 7;
}

/** ISO 8601: the week belongs to the year that holds its Thursday. */
function isoWeek(monday: number): { year: number; number: number } {
  const { year } = partsFromSerial(monday + 3);
  const fourth = serialFromParts(year, 1, 4);
  return { year, number: (monday - (fourth - weekdayIndex(fourth))) / 7 + 1 };
}

function pad(number: number): string {
  return String(number).padStart(2, "0");
}

function isoDay(serial: number): string {
  const { year, month, day } = partsFromSerial(serial);
  return `${year}-${pad(month)}-${pad(day)}`;
}
