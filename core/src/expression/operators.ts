import { Decimal } from "decimal.js";
import { Exact, groupKey, isDay } from "../common/index.js";
import { say } from "../words/index.js";
import type { BinaryOp } from "./ast.js";
import { DateValue, isEmpty, type Value } from "./value.js";

/** What an operator could not do; the compiler adds the place. */
export class OperandError extends Error {}

/** A value as a number: blanks count 0, as in a spreadsheet. Text is refused rather than guessed. */
export function asNumber(value: Value): Decimal {
  if (value instanceof Decimal) return value;
  if (isEmpty(value)) return new Exact(0);
  if (value instanceof DateValue) return new Exact(value.serial);
  throw new OperandError(say().expression.noNumber({ kind: typeof value, text: String(value) }));
}

/** Beyond this a number cannot be stored in a cell. */
const GREATEST = 1e300;

/** A value as it came out, where it is one. Throws for what is no number, or beyond those that can be stored and shown. */
export function checkedValue(value: Value): Value {
  if (value instanceof Decimal) {
    if (value.isNaN()) throw new OperandError(say().expression.number());
    if (value.abs().greaterThan(GREATEST)) throw new OperandError(say().expression.numberTooLarge());
  } else if (value instanceof DateValue && !isDay(value.serial))
    throw new OperandError(say().expression.beyondDaysDateCan());
  return value;
}

export function asTruth(value: Value): boolean {
  if (typeof value === "boolean") return value;
  if (value === null) return false;
  throw new OperandError(say().expression.neitherTrueNorFalse());
}

/** Equal as a reader sees it: text compared cleaned (blanks, case), blank and empty text the same. */
export function areEqual(a: Value, b: Value): boolean {
  if (isEmpty(a) || isEmpty(b)) return isEmpty(a) && isEmpty(b);
  if (typeof a === "string" && typeof b === "string") return a === b || groupKey(a) === groupKey(b);
  if (a instanceof Decimal && b instanceof Decimal) return a.equals(b);
  if (a instanceof DateValue && b instanceof DateValue) return a.serial === b.serial;
  return a === b;
}

/** What equal values share, and different ones do not: `areEqual` by a look-up, for values that are not empty. */
export function sameKey(value: Value): string | boolean | null {
  if (typeof value === "string") return `text ${groupKey(value)}`;
  if (value instanceof Decimal) return value.toString();
  return value instanceof DateValue ? `date ${value.serial}` : value;
}

/** Order for sorting and comparing: blanks last, numbers by size, dates by time, text by alphabet. */
export function compareValues(a: Value, b: Value): number {
  if (isEmpty(a) || isEmpty(b)) return isEmpty(a) ? (isEmpty(b) ? 0 : 1) : -1;
  if (a instanceof Decimal && b instanceof Decimal) return a.comparedTo(b);
  if (a instanceof DateValue && b instanceof DateValue) return a.serial - b.serial;
  if (typeof a === "string" && typeof b === "string") return collator.compare(a, b);
  if (typeof a === "boolean" && typeof b === "boolean") return Number(a) - Number(b);
  return rank(a) - rank(b);
}

const collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

function rank(value: Value): number {
  if (value instanceof Decimal) return 0;
  if (value instanceof DateValue) return 1;
  return typeof value === "string" ? 2 : 3;
}

function compareOrdered(a: Value, b: Value): number {
  if (!isEmpty(a) && !isEmpty(b) && rank(a) !== rank(b))
    throw new OperandError(say().expression.valuesDifferentKindsCannotPut());
  return compareValues(a, b);
}

function add(a: Value, b: Value): Value {
  if (a instanceof DateValue && b instanceof DateValue) throw new OperandError(say().expression.twoDatesCannotAdded());
  const date = a instanceof DateValue ? a : b instanceof DateValue ? b : undefined;
  if (!date) return asNumber(a).plus(asNumber(b));
  return new DateValue(asNumber(a).plus(asNumber(b)).toNumber(), date.type);
}

function subtract(a: Value, b: Value): Value {
  const difference = asNumber(a).minus(asNumber(b));
  return a instanceof DateValue && !(b instanceof DateValue)
    ? new DateValue(difference.toNumber(), a.type)
    : difference;
}

function divide(a: Value, b: Value): Value {
  const divisor = asNumber(b);
  if (divisor.isZero()) throw new OperandError(say().expression.dividesZero());
  return asNumber(a).dividedBy(divisor);
}

function power(a: Value, b: Value): Value {
  const base = asNumber(a);
  const exponent = asNumber(b);
  if (base.isZero() && exponent.isNegative()) throw new OperandError(say().expression.dividesZero());
  return base.pow(exponent);
}

export type Binary = (a: Value, b: Value, show: (value: Value) => string) => Value;

/** `and` and `or` stand in the compiler, since they look at their second side only when needed. */
export const OPERATORS: Readonly<Record<Exclude<BinaryOp, "and" | "or">, Binary>> = {
  "=": (a, b) => areEqual(a, b),
  "<>": (a, b) => !areEqual(a, b),
  "<": (a, b) => !isEmpty(a) && !isEmpty(b) && compareOrdered(a, b) < 0,
  "<=": (a, b) => !isEmpty(a) && !isEmpty(b) && compareOrdered(a, b) <= 0,
  ">": (a, b) => !isEmpty(a) && !isEmpty(b) && compareOrdered(a, b) > 0,
  ">=": (a, b) => !isEmpty(a) && !isEmpty(b) && compareOrdered(a, b) >= 0,
  "&": (a, b, show) => show(a) + show(b),
  "+": add,
  "-": subtract,
  "*": (a, b) => asNumber(a).times(asNumber(b)),
  "/": divide,
  "^": power,
};
