/**
 * Dates as serial numbers: days since 1899-12-30, the count of ECMA-376 part 1, 18.17.4.1 (1900 date base,
 * right from 1900-03-01 on). The fraction is the time of day.
 */

export const MS_PER_DAY = 86_400_000;
const EPOCH_MS = Date.UTC(1899, 11, 30);

export interface DateParts {
  readonly year: number;
  /** 1 to 12 */
  readonly month: number;
  readonly day: number;
}

/** Days and months beyond their range count on: day 0 is the last of the month before. */
export function serialFromParts(year: number, month: number, day: number): number {
  // By its parts a `Date` takes years below 100 for those of the last century.
  return Math.round((new Date(0).setUTCFullYear(year, month - 1, day) - EPOCH_MS) / MS_PER_DAY);
}

/** The last day that a date can be, 9999-12-31. */
const LAST_DAY = 2_958_465;

/** Whether a serial is of a day that a date can be: 1899-12-30 to 9999-12-31. */
export function isDay(serial: number): boolean {
  return serial >= 0 && serial < LAST_DAY + 1;
}

/** The same day `months` later, or that month's last where it has no such day. */
export function addMonths(serial: number, months: number): number {
  const { year, month, day } = partsFromSerial(serial);
  const last = serialFromParts(year, month + months + 1, 0);
  return Math.min(serialFromParts(year, month + months, day), last);
}

export function partsFromSerial(serial: number): DateParts {
  const date = dateFromSerial(Math.floor(serial));
  return { year: date.getUTCFullYear(), month: date.getUTCMonth() + 1, day: date.getUTCDate() };
}

/** A `Date` whose UTC fields are the serial's wall-clock fields. */
export function dateFromSerial(serial: number): Date {
  return new Date(EPOCH_MS + Math.round(serial * MS_PER_DAY));
}

/** `2026-10-05`, or with a time of day `2026-10-05T14:30:00`. */
export function isoFromSerial(serial: number): string {
  const iso = dateFromSerial(serial).toISOString();
  return Number.isInteger(serial) ? iso.slice(0, 10) : iso.slice(0, 19);
}

const ISO = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2}))?)?$/;

/** The serial of an ISO 8601 date or local date-time, or `undefined` where the text is none. */
export function maybeSerialFromIso(text: string): number | undefined {
  const match = ISO.exec(text);
  if (!match) return undefined;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  if (!isRealDay(year, month, day)) return undefined;
  const seconds = Number(match[4] ?? 0) * 3600 + Number(match[5] ?? 0) * 60 + Number(match[6] ?? 0);
  return serialFromParts(year, month, day) + seconds / 86_400;
}

/** The first year whose days can be counted. */
const FIRST_YEAR = 1900;

/** Whether there is such a day, and a serial can count it: from 1900-01-01 on. */
export function isRealDay(year: number, month: number, day: number): boolean {
  return (
    year >= FIRST_YEAR &&
    month >= 1 &&
    month <= 12 &&
    day >= 1 &&
    day <= new Date(Date.UTC(year, month, 0)).getUTCDate()
  );
}
