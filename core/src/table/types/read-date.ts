/** Dates and times as people write them. */
import { isRealDay, serialFromParts } from "../../common/index.js";

export type DayMonthOrder = "day-first" | "month-first";

export interface WrittenDate {
  /** What the text says for sure of the order of day and month; `either` where both would be a real day. */
  readonly order: DayMonthOrder | "sure" | "either";
  /** Serial with the day first, and with the month first; the same unless the order is `either`. */
  readonly dayFirst: number;
  readonly monthFirst: number;
  readonly hasTime: boolean;
  /** Whether a zone or an offset stood behind the time; the time is taken as written. */
  readonly hasZone: boolean;
}

const ISO = /^(\d{4})([-/.])(\d{1,2})\2(\d{1,2})(?:[T ]+(.+))?$/;
const NUMERIC = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{2})(?:,?[T ]+(.+))?$/;
const DAY_NAMED = /^(\d{1,2})(?:st|nd|rd|th)?[ .-]+(?:of )?(\p{L}{3,12})\.?[ ,.-]+(\d{4}|\d{2})(?:,?[T ]+(.+))?$/u;
const NAMED_DAY = /^(\p{L}{3,12})\.?[ -]+(\d{1,2})(?:st|nd|rd|th)?,?[ -]+(\d{4})(?:,?[T ]+(.+))?$/u;
const WEEKDAY = /^\p{L}{2,12}\.?, +(?=\d|\p{L})/u;
const TIME = /^(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,]\d{1,9})?)?\s*([ap])?\.?m?\.?\s*(Z|UTC|[-+]\d{2}:?\d{2})?$/i;

/** Reads a date, with or without a time of day; `undefined` for anything else. */
export function readWrittenDate(text: string): WrittenDate | undefined {
  const iso = ISO.exec(text);
  if (iso) return sure(Number(iso[1]), Number(iso[3]), Number(iso[4]), iso[5]);
  const plain = text.replace(WEEKDAY, "");
  const numeric = NUMERIC.exec(plain);
  if (numeric) return fromNumbers(numeric);
  const named = DAY_NAMED.exec(plain);
  if (named) return sure(fullYear(named[3]), monthNumber(named[2]), Number(named[1]), named[4]);
  const american = NAMED_DAY.exec(plain);
  return american ? sure(Number(american[3]), monthNumber(american[1]), Number(american[2]), american[4]) : undefined;
}

function sure(year: number, month: number, day: number, rest: string | undefined): WrittenDate | undefined {
  const time = rest === undefined ? { serial: 0, hasZone: false } : readTimeAndZone(rest);
  if (!time || !isRealDay(year, month, day)) return undefined;
  const serial = serialFromParts(year, month, day) + time.serial;
  return { order: "sure", dayFirst: serial, monthFirst: serial, hasTime: rest !== undefined, hasZone: time.hasZone };
}

function fromNumbers([, a, sign, b, yearText, rest]: RegExpExecArray): WrittenDate | undefined {
  const time = rest === undefined ? { serial: 0, hasZone: false } : readTimeAndZone(rest);
  if (!time) return undefined;
  const year = fullYear(yearText);
  const [first, second] = [Number(a), Number(b)];
  const asDayFirst = isRealDay(year, second, first);
  const asMonthFirst = isRealDay(year, first, second);
  if (!asDayFirst && !asMonthFirst) return undefined;
  const dayFirst = asDayFirst ? serialFromParts(year, second, first) + time.serial : Number.NaN;
  const monthFirst = asMonthFirst ? serialFromParts(year, first, second) + time.serial : Number.NaN;
  const shape = { hasTime: rest !== undefined, hasZone: time.hasZone };
  if (asDayFirst && asMonthFirst) {
    // Dots are used where the day comes first; and of two equal numbers nothing can be mistaken.
    if (first === second) return { order: "sure", dayFirst, monthFirst, ...shape };
    return {
      order: sign === "." ? "day-first" : "either",
      dayFirst,
      monthFirst: sign === "." ? dayFirst : monthFirst,
      ...shape,
    };
  }
  const serial = asDayFirst ? dayFirst : monthFirst;
  return { order: asDayFirst ? "day-first" : "month-first", dayFirst: serial, monthFirst: serial, ...shape };
}

/** Years of two digits are those from 1970 to 2069. */
function fullYear(text: string): number {
  const year = Number(text);
  return text.length > 2 ? year : year + (year < 70 ? 2000 : 1900);
}

/** A time of day as a fraction of the day: `14:30`, `14:30:05`, `2:30 pm`. */
export function readWrittenTime(text: string): number | undefined {
  return readTimeAndZone(text)?.serial;
}

function readTimeAndZone(text: string): { serial: number; hasZone: boolean } | undefined {
  const match = TIME.exec(text);
  if (!match) return undefined;
  let hours = Number(match[1]);
  const [minutes, seconds] = [Number(match[2]), Number(match[3] ?? 0)];
  if (match[4] !== undefined) {
    if (hours < 1 || hours > 12) return undefined;
    hours = (hours % 12) + (match[4].toLowerCase() === "p" ? 12 : 0);
  }
  if (hours > 23 || minutes > 59 || seconds > 59) return undefined;
  return { serial: (hours * 3600 + minutes * 60 + seconds) / 86_400, hasZone: match[5] !== undefined };
}

const LANGUAGES = ["en", "de", "fr", "it", "es", "pt", "nl", "da", "sv", "nb", "fi", "pl", "cs"];
let months: Map<string, number> | undefined;

/** 1 to 12 by a month's name, whole or shortened, in the languages there are; 0 for any other word. */
function monthNumber(word: string): number {
  months ??= monthNames();
  return months.get(fold(word)) ?? 0;
}

function monthNames(): Map<string, number> {
  const names = new Map<string, number>();
  for (const language of LANGUAGES) {
    for (const style of ["long", "short"] as const) {
      const format = new Intl.DateTimeFormat(language, { month: style, day: "numeric", timeZone: "UTC" });
      for (let month = 1; month <= 12; month++) {
        const part = format.formatToParts(Date.UTC(2026, month - 1, 15)).find(({ type }) => type === "month");
        const name = fold(part?.value ?? "");
        if (name.length >= 3 && !/\d/.test(name) && !names.has(name)) names.set(name, month);
      }
    }
  }
  for (const [month, name] of [...names].map(([name, month]) => [month, name] as const))
    if (name.length > 3 && !names.has(name.slice(0, 3))) names.set(name.slice(0, 3), month);
  return names;
}

function fold(word: string): string {
  return word
    .normalize("NFD")
    .replace(/[\p{M}.]/gu, "")
    .toLowerCase();
}
