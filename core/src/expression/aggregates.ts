import type { Decimal } from "decimal.js";
import { Exact } from "../common/index.js";
import { asNumber, compareValues, sameKey } from "./operators.js";
import { isEmpty, type Value, type ValueType } from "./value.js";

export interface AggregateSpec {
  /**
   * `values` are the first argument for each line that passes `where`, one after the other: over a million lines none of them is kept.
   * `rest` are the further arguments, evaluated once.
   */
  readonly call: (values: Iterable<Value>, rest: readonly Value[], show: (value: Value) => string) => Value;
  readonly type: ValueType;
  /** Further arguments it takes at most. */
  readonly rest: number;
}

function* filled(values: Iterable<Value>): Generator<Value> {
  for (const value of values) if (!isEmpty(value)) yield value;
}

function distinct(values: Iterable<Value>): Value[] {
  const found = new Map<Value, Value>();
  for (const value of filled(values)) {
    const key = sameKey(value);
    if (!found.has(key)) found.set(key, value);
  }
  return [...found.values()];
}

function summed(values: Iterable<Value>): { readonly total: Decimal; readonly count: number } {
  let total: Decimal = new Exact(0);
  let count = 0;
  for (const value of filled(values)) {
    total = total.plus(asNumber(value));
    count++;
  }
  return { total, count };
}

function average(values: Iterable<Value>): Value {
  const { total, count } = summed(values);
  return count === 0 ? null : total.dividedBy(count);
}

/** The value that the choice leaves over, one pair after the other; nothing where there is none. */
function chosen(values: Iterable<Value>, keepsNext: (best: Value, next: Value) => boolean): Value {
  let best: Value = null;
  let isFirst = true;
  for (const value of filled(values)) {
    if (isFirst || keepsNext(best, value)) best = value;
    isFirst = false;
  }
  return best;
}

/** Functions over all lines of a group. Blanks are passed over. */
export const AGGREGATES: Readonly<Record<string, AggregateSpec>> = {
  sum: { call: (values) => summed(values).total, type: "number", rest: 0 },
  count: { call: (values) => new Exact(countOf(filled(values))), type: "number", rest: 0 },
  average: { call: average, type: "number", rest: 0 },
  min: { call: (values) => chosen(values, (best, next) => compareValues(next, best) < 0), type: "any", rest: 0 },
  max: { call: (values) => chosen(values, (best, next) => compareValues(next, best) > 0), type: "any", rest: 0 },
  first: { call: (values) => chosen(values, () => false), type: "any", rest: 0 },
  last: { call: (values) => chosen(values, () => true), type: "any", rest: 0 },
  distinct: { call: (values) => new Exact(distinct(values).length), type: "number", rest: 0 },
  list: {
    call: (values, [separator], show) =>
      distinct(values)
        .map(show)
        .join(separator === undefined ? ", " : show(separator)),
    type: "text",
    rest: 1,
  },
};

function countOf(values: Iterable<Value>): number {
  let count = 0;
  for (const _ of values) count++;
  return count;
}
