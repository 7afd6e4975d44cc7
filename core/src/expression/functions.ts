import { Decimal } from "decimal.js";
import {
  addMonths,
  dateFromSerial,
  Exact,
  maybeSerialFromIso,
  partsFromSerial,
  serialFromParts,
} from "../common/index.js";
import { say } from "../words/index.js";
import { areEqual, asNumber, asTruth, compareValues, OperandError } from "./operators.js";
import { DateValue, isEmpty, type Value, type ValueType } from "./value.js";

/** What a function may know beyond its arguments. */
export interface CallContext {
  /** The run's own day as a serial: no function reads the clock. */
  readonly today: number;
  readonly show: (value: Value, format?: string) => string;
}

export interface FunctionSpec {
  readonly min: number;
  /** Most arguments; `Infinity` for any number. */
  readonly max: number;
  readonly type: ValueType;
  readonly call: (args: readonly Value[], context: CallContext) => Value;
}

const text = (value: Value, context: CallContext): string => context.show(value);
/** A whole number, cut as spreadsheets cut it. */
const count = (value: Value): number => asNumber(value).trunc().toNumber();

/** A number of characters. */
function length(value: Value): number {
  const characters = count(value);
  if (characters < 0) throw new OperandError(say().expression.numberCharactersCannotLess());
  return characters;
}

/** Places after the decimal sign; more than these change no number. */
const MOST_PLACES = 400;
const FIRST_YEAR = 1900;
const LAST_YEAR = 9999;

/** As `serialFromParts`, for a year that a reader takes for one: nobody means 1926 by 26. */
function dateFromParts(year: number, month: number, day: number): DateValue {
  if (year < FIRST_YEAR || year > LAST_YEAR)
    throw new OperandError(say().expression.year({ firstYear: FIRST_YEAR, lastYear: LAST_YEAR }));
  return dateValue(serialFromParts(year, month, day));
}

function dateOf(value: Value): number {
  if (value instanceof DateValue) return value.serial;
  const serial = typeof value === "string" ? maybeSerialFromIso(value) : undefined;
  if (serial === undefined) throw new OperandError(say().expression.date());
  return serial;
}

const dateValue = (serial: number): DateValue => new DateValue(serial, "date");

function roundTo(mode: Decimal.Rounding): FunctionSpec {
  return {
    min: 1,
    max: 2,
    type: "number",
    call: ([value, places = new Exact(0)]) => {
      const digits = Math.max(-MOST_PLACES, Math.min(MOST_PLACES, count(places)));
      if (digits >= 0) return asNumber(value).toDecimalPlaces(digits, mode);
      const unit = new Exact(10).pow(-digits);
      return asNumber(value).dividedBy(unit).toDecimalPlaces(0, mode).times(unit);
    },
  };
}

const extreme = (sign: 1 | -1): FunctionSpec => ({
  min: 1,
  max: Number.POSITIVE_INFINITY,
  type: "any",
  call: (args) =>
    args
      .filter((value) => !isEmpty(value))
      .reduce<Value>((best, value) => (best === null || sign * compareValues(value, best) < 0 ? value : best), null),
});

const textFunction = (change: (text: string) => string): FunctionSpec => ({
  min: 1,
  max: 1,
  type: "text",
  call: ([value], context) => change(text(value, context)),
});

const datePart = (part: (serial: number) => number): FunctionSpec => ({
  min: 1,
  max: 1,
  type: "number",
  call: ([value]) => (isEmpty(value) ? null : new Exact(part(dateOf(value)))),
});

/** Functions of single values. Those over all lines of a group stand in aggregates.ts. */
export const FUNCTIONS: Readonly<Record<string, FunctionSpec>> = {
  if: { min: 2, max: 3, type: "any", call: ([test, yes, no = null]) => (asTruth(test) ? yes : no) },
  round: roundTo(Decimal.ROUND_HALF_UP),
  roundup: roundTo(Decimal.ROUND_UP),
  rounddown: roundTo(Decimal.ROUND_DOWN),
  int: { min: 1, max: 1, type: "number", call: ([value]) => asNumber(value).floor() },
  abs: { min: 1, max: 1, type: "number", call: ([value]) => asNumber(value).abs() },
  mod: {
    min: 2,
    max: 2,
    type: "number",
    call: ([value, by]) => {
      const divisor = asNumber(by);
      if (divisor.isZero()) throw new OperandError(say().expression.dividesZero());
      return asNumber(value).minus(divisor.times(asNumber(value).dividedBy(divisor).floor()));
    },
  },
  min: extreme(1),
  max: extreme(-1),
  upper: textFunction((value) => value.toLocaleUpperCase("en")),
  lower: textFunction((value) => value.toLocaleLowerCase("en")),
  proper: textFunction((value) =>
    value
      .toLocaleLowerCase("en")
      .replace(
        /(^|[^\p{L}\p{M}'])(\p{L})/gu,
        (_, before: string, letter: string) => before + letter.toLocaleUpperCase("en"),
      ),
  ),
  trim: textFunction((value) => value.replace(/\s+/g, " ").trim()),
  len: { min: 1, max: 1, type: "number", call: ([value], context) => new Exact([...text(value, context)].length) },
  left: {
    min: 1,
    max: 2,
    type: "text",
    call: ([value, n = new Exact(1)], context) => [...text(value, context)].slice(0, length(n)).join(""),
  },
  right: {
    min: 1,
    max: 2,
    type: "text",
    call: ([value, n = new Exact(1)], context) =>
      length(n) === 0 ? "" : [...text(value, context)].slice(-length(n)).join(""),
  },
  mid: {
    min: 3,
    max: 3,
    type: "text",
    call: ([value, start, n], context) => {
      const from = count(start) - 1;
      if (from < 0) throw new OperandError(say().expression.placeTextCounted());
      return [...text(value, context)].slice(from, from + length(n)).join("");
    },
  },
  substitute: {
    min: 3,
    max: 3,
    type: "text",
    call: ([value, old, by], context) =>
      isEmpty(old)
        ? text(value, context)
        : text(value, context).replaceAll(text(old, context), () => text(by, context)),
  },
  contains: {
    min: 2,
    max: 2,
    type: "boolean",
    call: ([value, part], context) =>
      text(value, context).toLocaleLowerCase("en").includes(text(part, context).toLocaleLowerCase("en")),
  },
  startswith: {
    min: 2,
    max: 2,
    type: "boolean",
    call: ([value, part], context) =>
      text(value, context).toLocaleLowerCase("en").startsWith(text(part, context).toLocaleLowerCase("en")),
  },
  text: {
    min: 2,
    max: 2,
    type: "text",
    call: ([value, format], context) => context.show(value, text(format, context)),
  },
  number: {
    min: 1,
    max: 1,
    type: "number",
    call: ([value]) => {
      if (typeof value !== "string" || value === "") return isEmpty(value) ? null : asNumber(value);
      const plain = value.replace(/[\s',\u2019]/g, "");
      if (!/^-?\d+(\.\d+)?$/.test(plain)) throw new OperandError(say().expression.textNumber({ value }));
      return new Exact(plain);
    },
  },
  isblank: { min: 1, max: 1, type: "boolean", call: ([value]) => isEmpty(value) },
  coalesce: {
    min: 1,
    max: Number.POSITIVE_INFINITY,
    type: "any",
    call: (args) => args.find((value) => !isEmpty(value)) ?? null,
  },
  choose: {
    min: 3,
    max: Number.POSITIVE_INFINITY,
    type: "any",
    call: ([value, ...pairs]) => {
      for (let index = 0; index + 1 < pairs.length; index += 2)
        if (areEqual(value, pairs[index])) return pairs[index + 1];
      return pairs.length % 2 === 1 ? pairs[pairs.length - 1] : null;
    },
  },
  today: { min: 0, max: 0, type: "date", call: (_, context) => new DateValue(context.today, "date") },
  date: {
    min: 1,
    max: 3,
    type: "date",
    call: (args) =>
      args.length === 3
        ? dateFromParts(count(args[0]), count(args[1]), count(args[2]))
        : isEmpty(args[0])
          ? null
          : new DateValue(Math.floor(dateOf(args[0])), "date"),
  },
  year: datePart((serial) => partsFromSerial(serial).year),
  month: datePart((serial) => partsFromSerial(serial).month),
  day: datePart((serial) => partsFromSerial(serial).day),
  /** 1 is Monday, as in ISO 8601. */
  weekday: datePart((serial) => ((dateFromSerial(Math.floor(serial)).getUTCDay() + 6) % 7) + 1),
  edate: {
    min: 2,
    max: 2,
    type: "date",
    call: ([value, months]) => (isEmpty(value) ? null : dateValue(addMonths(dateOf(value), count(months)))),
  },
  eomonth: {
    min: 2,
    max: 2,
    type: "date",
    call: ([value, months]) => {
      if (isEmpty(value)) return null;
      const { year, month } = partsFromSerial(dateOf(value));
      return dateValue(serialFromParts(year, month + count(months) + 1, 0));
    },
  },
};
