/** Functions of dates and times: ECMA-376 part 1, 18.17.7. */
import { addMonths, type DateParts, dateFromSerial, partsFromSerial, serialFromParts } from "../../common/index.js";
import { momentInText } from "../coercion.js";
import { CellError, cellsOf, numberOf, type Operand, scalarOf } from "../value.js";
import { type FormulaFunction, NUM, ofNumbers, VALUE } from "./support/arguments.js";

/** The first serial that is no day any more: 1 January 10000. */
const END_OF_DAYS = 2_958_466;

/** A day's serial; beyond the days that there are, a number is none. */
function dateOf(operand: Operand): number | CellError {
  const serial = numberOf(operand);
  if (serial instanceof CellError) return serial;
  return serial < 0 || serial >= END_OF_DAYS ? NUM : serial;
}

/** Parts of a day as the 1900 system counts them: it has a day 0 of January 1900 and a 29th of February in that year (18.17.4.1). */
function civil(serial: number): DateParts {
  const day = Math.floor(serial);
  if (day === 0) return { year: 1900, month: 1, day: 0 };
  if (day === 60) return { year: 1900, month: 2, day: 29 };
  return partsFromSerial(day < 60 ? day + 1 : day);
}

function datePart(part: (serial: number) => number): FormulaFunction {
  return ([arg]) => {
    const serial = dateOf(arg());
    return serial instanceof CellError ? serial : part(serial);
  };
}

/** Years before 1900 count from there; days before March 1900 as that system has them. */
function makeDate(year: number, month: number, day: number): number {
  const full = Math.trunc(year) < 1900 ? Math.trunc(year) + 1900 : Math.trunc(year);
  const first = serialFromParts(full, Math.trunc(month), 1);
  return (first < 61 ? first - 1 : first) + Math.trunc(day) - 1;
}

/** The same day so many months later, or that month's last. */
function monthsLater(serial: number, months: number): number | CellError {
  const { year, month, day } = civil(serial);
  const at = year * 12 + month - 1 + Math.trunc(months);
  const [inYear, inMonth] = [Math.floor(at / 12), (at % 12) + 1];
  if (serial < 0 || inYear < 1900 || inYear > 9999) return NUM;
  const last = makeDate(inYear, inMonth + 1, 1) - 1;
  return Math.min(makeDate(inYear, inMonth, Math.max(day, 1)), last);
}

function weekday(serial: number, kind: number): number | CellError {
  const monday = (dateFromSerial(Math.floor(serial)).getUTCDay() + 6) % 7;
  if (kind === 1) return ((monday + 1) % 7) + 1;
  if (kind === 2) return monday + 1;
  return kind === 3 ? monday : NUM;
}

const yearOf = (serial: number): number => partsFromSerial(serial).year;

export const DATE_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  DATE: ofNumbers((year, month, day) => {
    const serial = makeDate(year, month, day);
    return year < 0 || year > 9999 || serial < 0 || serial >= 2_958_466 ? NUM : serial;
  }),
  TODAY: (_, context) => Math.floor(context.now),
  NOW: (_, context) => context.now,
  YEAR: datePart((serial) => civil(serial).year),
  MONTH: datePart((serial) => civil(serial).month),
  DAY: datePart((serial) => civil(serial).day),
  HOUR: datePart((serial) => dateFromSerial(serial).getUTCHours()),
  MINUTE: datePart((serial) => dateFromSerial(serial).getUTCMinutes()),
  WEEKDAY: ofNumbers((serial, kind = 1) => weekday(serial, kind)),
  EDATE: ofNumbers(monthsLater),
  EOMONTH: ofNumbers((serial, months) => {
    const { year, month } = civil(serial);
    const end = makeDate(year, month + Math.trunc(months) + 1, 1) - 1;
    return serial < 0 || end < 0 ? NUM : end;
  }),
  DAYS: ofNumbers((end, start) => Math.floor(end) - Math.floor(start)),
  SECOND: datePart((serial) => dateFromSerial(serial).getUTCSeconds()),
  TIME: ofNumbers((hours, minutes, seconds) => {
    const time = (Math.trunc(hours) * 3600 + Math.trunc(minutes) * 60 + Math.trunc(seconds)) / 86_400;
    return time < 0 ? NUM : time - Math.floor(time);
  }),
  DATEVALUE: ([arg], context) => {
    const value = scalarOf(arg());
    if (value instanceof CellError) return value;
    const serial = typeof value === "string" ? momentInText(value, yearOf(context.now)) : undefined;
    return serial === undefined ? VALUE : Math.floor(serial);
  },
  TIMEVALUE: ([arg], context) => {
    const value = scalarOf(arg());
    if (value instanceof CellError) return value;
    const serial = typeof value === "string" ? momentInText(value, yearOf(context.now)) : undefined;
    return serial === undefined ? VALUE : serial - Math.floor(serial);
  },
  WEEKNUM: ofNumbers((serial, kind = 1) => (kind === 21 ? isoWeek(serial) : weekOfYear(serial, kind))),
  ISOWEEKNUM: ofNumbers(isoWeek),
  DAYS360: ofNumbers((start, end, european = 0) => days360(start, end, european !== 0)),
  YEARFRAC: ofNumbers(yearFraction),
  DATEDIF: ([startArg, endArg, unitArg]) => {
    const [start, end] = [dateOf(startArg()), dateOf(endArg())];
    if (start instanceof CellError) return start;
    if (end instanceof CellError) return end;
    return start > end
      ? NUM
      : difference(Math.floor(start), Math.floor(end), String(scalarOf(unitArg())).toUpperCase());
  },
  NETWORKDAYS: ([start, end, holidays]) => workingDays(start(), end(), 1, holidays?.()),
  "NETWORKDAYS.INTL": ([start, end, weekend, holidays]) => workingDays(start(), end(), weekend?.() ?? 1, holidays?.()),
  WORKDAY: ([start, days, holidays]) => workingDay(start(), days(), 1, holidays?.()),
  "WORKDAY.INTL": ([start, days, weekend, holidays]) => workingDay(start(), days(), weekend?.() ?? 1, holidays?.()),
};

/** Weekdays off, Monday first: by number (1 Saturday and Sunday, 2 Sunday and Monday, … 11 Sunday only …) or as `0000011`. */
function daysOff(weekend: Operand): boolean[] | CellError {
  const given = scalarOf(weekend);
  if (typeof given === "string" && /^[01]{7}$/.test(given)) return [...given].map((day) => day === "1");
  const kind = numberOf(given);
  if (kind instanceof CellError) return kind;
  const off = new Array<boolean>(7).fill(false);
  if (kind >= 1 && kind <= 7) for (const day of [kind + 4, kind + 5]) off[day % 7] = true;
  else if (kind >= 11 && kind <= 17) off[(kind - 11 + 6) % 7] = true;
  else return NUM;
  return off;
}

function holidaySet(holidays: Operand | undefined): Set<number> {
  const days = new Set<number>();
  for (const { value } of cellsOf(holidays === undefined ? [] : [holidays]))
    if (typeof value === "number") days.add(Math.floor(value));
  return days;
}

const mondayBased = (serial: number): number => (dateFromSerial(serial).getUTCDay() + 6) % 7;

function workingDays(start: Operand, end: Operand, weekend: Operand, holidays: Operand | undefined): Operand {
  const [from, to, off] = [dateOf(start), dateOf(end), daysOff(weekend)];
  if (from instanceof CellError) return from;
  if (to instanceof CellError) return to;
  if (off instanceof CellError) return off;
  const free = holidaySet(holidays);
  const [low, high] = [Math.floor(Math.min(from, to)), Math.floor(Math.max(from, to))];
  const perWeek = off.filter((isOff) => !isOff).length;
  const weeks = Math.floor((high - low + 1) / 7);
  let count = weeks * perWeek;
  for (let day = low + weeks * 7; day <= high; day++) if (!off[mondayBased(day)]) count++;
  for (const day of free) if (day >= low && day <= high && !off[mondayBased(day)]) count--;
  return from > to ? -count : count;
}

function workingDay(start: Operand, days: Operand, weekend: Operand, holidays: Operand | undefined): Operand {
  const [from, count, off] = [dateOf(start), numberOf(days), daysOff(weekend)];
  if (from instanceof CellError) return from;
  if (count instanceof CellError) return count;
  if (off instanceof CellError) return off;
  if (off.every(Boolean) || Math.abs(count) > 1_000_000) return VALUE;
  const free = holidaySet(holidays);
  let day = Math.floor(from);
  for (let left = Math.abs(Math.trunc(count)); left > 0; ) {
    day += Math.sign(count);
    if (!off[mondayBased(day)] && !free.has(day)) left--;
  }
  return day < 0 ? NUM : day;
}

function isoWeek(serial: number): number {
  const thursday = Math.floor(serial) - mondayBased(serial) + 3;
  return Math.floor((thursday - makeDate(partsFromSerial(thursday).year, 1, 1)) / 7) + 1;
}

/** Weeks counted from the one of the first of January; they start on Sunday (1) or Monday (2), or by 11 to 17. */
function weekOfYear(serial: number, kind: number): number | CellError {
  const starts = kind === 1 || kind === 17 ? 6 : kind === 2 ? 0 : kind >= 11 && kind <= 16 ? kind - 11 : undefined;
  if (starts === undefined) return NUM;
  const first = makeDate(partsFromSerial(serial).year, 1, 1);
  const lead = (mondayBased(first) - starts + 7) % 7;
  return Math.floor((Math.floor(serial) - first + lead) / 7) + 1;
}

/** Months of thirty days: 18.17.7.90. */
function days360(start: number, end: number, european: boolean): number {
  const [a, b] = [partsFromSerial(start), partsFromSerial(end)];
  const isLast = (serial: number): boolean => partsFromSerial(serial + 1).day === 1;
  const day = european ? Math.min(a.day, 30) : isLast(start) ? 30 : a.day;
  const last = european ? Math.min(b.day, 30) : b.day === 31 && day >= 30 ? 30 : b.day;
  return (b.year - a.year) * 360 + (b.month - a.month) * 30 + last - day;
}

/** Share of a year by basis: 0 and 4 months of thirty days, 1 real days, 2 of 360, 3 of 365. */
function yearFraction(start: number, end: number, basis = 0): number | CellError {
  const [from, to] = start <= end ? [Math.floor(start), Math.floor(end)] : [Math.floor(end), Math.floor(start)];
  if (basis === 0 || basis === 4) return days360(from, to, basis === 4) / 360;
  if (basis === 2) return (to - from) / 360;
  if (basis === 3) return (to - from) / 365;
  if (basis !== 1) return NUM;
  const [first, last] = [partsFromSerial(from).year, partsFromSerial(to).year];
  const lengthOf = (year: number): number => makeDate(year + 1, 1, 1) - makeDate(year, 1, 1);
  if (to <= addMonths(from, 12)) {
    const leapDay = [first, last].find((year) => {
      const day = lengthOf(year) === 366 ? makeDate(year, 2, 29) : -1;
      return day >= from && day <= to;
    });
    const isLeap = first === last ? lengthOf(first) === 366 : leapDay !== undefined;
    return (to - from) / (isLeap ? 366 : 365);
  }
  let days = 0;
  for (let year = first; year <= last; year++) days += lengthOf(year);
  return (to - from) / (days / (last - first + 1));
}

function difference(start: number, end: number, unit: string): number | CellError {
  const [a, b] = [partsFromSerial(start), partsFromSerial(end)];
  const months = (b.year - a.year) * 12 + b.month - a.month - (b.day < a.day ? 1 : 0);
  switch (unit) {
    case "D":
      return end - start;
    case "M":
      return months;
    case "Y":
      return Math.trunc(months / 12);
    case "YM":
      return months % 12;
    case "MD":
      return end - serialFromParts(a.year, a.month + months, a.day);
    case "YD":
      return end - serialFromParts(a.year + Math.trunc(months / 12), a.month, a.day);
    default:
      return NUM;
  }
}
