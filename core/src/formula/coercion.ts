/**
 * Texts that read as numbers, where a formula asks for a number: 18.17.2.5 leaves their forms to whoever evaluates. Taken are plain
 * numbers, percentages, money, groups of thousands, brackets for a minus, days and times. A day whose number and month could change
 * places, such as 5/3/2026, is none: which it is hangs on the maker's country.
 */
import { isRealDay, serialFromParts } from "../common/index.js";

const PLAIN = /^[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d+)?$/;
const GROUPED = /^[-+]?\d{1,3}(,\d{3})+(\.\d*)?$/;
const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
const MONTH =
  "(jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)\\.?";
const DAY_MONTH_YEAR = new RegExp(`^(\\d{1,2})(?:st|nd|rd|th)?[-/. ]+${MONTH}(?:[-/., ]+(\\d{4}|\\d{2}))?$`, "i");
const MONTH_DAY_YEAR = new RegExp(`^${MONTH}[-/. ]+(\\d{1,2})(?:st|nd|rd|th)?,?[-/. ]+(\\d{4})$`, "i");
const MONTH_YEAR = new RegExp(`^${MONTH}[-/., ]+(\\d{4})$`, "i");
const TIME = /^(\d{1,4})(?::(\d{1,2})(?::(\d{1,2}(?:\.\d+)?))?)?\s*([ap])?\.?(?:m\.?)?$/i;

/** The number a text stands for, or `undefined`. `year` is that of days written without one. */
export function numberInText(text: string, year?: number): number | undefined {
  const trimmed = text.trim();
  if (PLAIN.test(trimmed)) return Number(trimmed);
  if (trimmed === "") return undefined;
  return moneyOrShare(trimmed) ?? momentInText(trimmed, year) ?? fraction(trimmed);
}

function moneyOrShare(text: string): number | undefined {
  let rest = text;
  let sign = 1;
  const bracketed = /^([€£$¥]?)\s*\((.*)\)\s*([€£$¥%]?)$/.exec(rest);
  if (bracketed) {
    rest = `${bracketed[1]}${bracketed[2]}${bracketed[3]}`;
    sign = -1;
  }
  const share = /^(.*\S)\s*%$|^%\s*(\S.*)$/.exec(rest);
  if (share) rest = share[1] ?? share[2];
  const money = /^([-+]?)\s*[€£$¥]\s*([-+]?.*)$/.exec(rest) ?? /^()(.*\S)\s*[€£$¥]$/.exec(rest);
  if (money) rest = money[1] + money[2].trim();
  if (!share && !money && !bracketed && !GROUPED.test(rest)) return undefined;
  if (/^[-+]{2}/.test(rest) || (bracketed && /^[-+]/.test(rest))) return undefined;
  if (!PLAIN.test(rest) && !GROUPED.test(rest)) return undefined;
  return (sign * Number(rest.replaceAll(",", ""))) / (share ? 100 : 1);
}

/** `1 1/2`, as cells take it. */
function fraction(text: string): number | undefined {
  const found = /^([-+]?)(\d+) (\d+)\/(\d+)$/.exec(text);
  if (!found || Number(found[4]) === 0) return undefined;
  const value = Number(found[2]) + Number(found[3]) / Number(found[4]);
  return found[1] === "-" ? -value : value;
}

/** A day, a time or both as a serial, or `undefined`. */
export function momentInText(text: string, year?: number): number | undefined {
  const trimmed = text.trim();
  const day = dayInText(trimmed, year);
  if (day !== undefined) return day;
  const time = timeInText(trimmed);
  if (time !== undefined) return time;
  const split = /^(.*\S)(?:T|\s+)(\d{1,2}(?::\d{1,2}){0,2}(?:\.\d+)?\s*(?:[ap]\.?m\.?)?)Z?$/i.exec(trimmed);
  const [date, clock] = split ? [dayInText(split[1], year), timeInText(split[2])] : [];
  return date === undefined || clock === undefined ? undefined : date + clock;
}

function dayInText(text: string, year: number | undefined): number | undefined {
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(text);
  if (iso) return serialOf(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const named = DAY_MONTH_YEAR.exec(text);
  if (named) {
    const inYear = named[3] === undefined ? year : fullYear(named[3]);
    return inYear === undefined ? undefined : serialOf(inYear, monthOf(named[2]), Number(named[1]));
  }
  const american = MONTH_DAY_YEAR.exec(text);
  if (american) return serialOf(Number(american[3]), monthOf(american[1]), Number(american[2]));
  const month = MONTH_YEAR.exec(text);
  if (month) return serialOf(Number(month[2]), monthOf(month[1]), 1);
  const numbers = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4}|\d{2})$/.exec(text);
  if (!numbers) return undefined;
  const [a, b, inYear] = [Number(numbers[1]), Number(numbers[2]), fullYear(numbers[3])];
  if (a > 12 && b <= 12) return serialOf(inYear, b, a);
  if (b > 12 && a <= 12) return serialOf(inYear, a, b);
  return a === b ? serialOf(inYear, a, b) : undefined;
}

const monthOf = (name: string): number => MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1;

/** Two digits of a year are of 1930 to 2029. */
function fullYear(text: string): number {
  const year = Number(text);
  return text.length > 2 ? year : year < 30 ? 2000 + year : 1900 + year;
}

function serialOf(year: number, month: number, day: number): number | undefined {
  if (year > 9999 || !isRealDay(year, month, day)) return undefined;
  const serial = serialFromParts(year, month, day);
  // The system has a 29th of February 1900, so days before it count from one less.
  return serial < 61 ? serial - 1 : serial;
}

function timeInText(text: string): number | undefined {
  const found = TIME.exec(text);
  if (!found) return undefined;
  const [, hourText, minuteText, secondText, half] = found;
  if (minuteText === undefined && half === undefined) return undefined;
  let hours = Number(hourText);
  const [minutes, seconds] = [Number(minuteText ?? 0), Number(secondText ?? 0)];
  if (half !== undefined) {
    if (hours < 1 || hours > 12) return undefined;
    hours = (hours % 12) + (half.toLowerCase() === "p" ? 12 : 0);
  }
  if (minutes > 59 || seconds >= 60) return undefined;
  return (hours * 3600 + minutes * 60 + seconds) / 86_400;
}
