import type { Decimal } from "decimal.js";
import { Exact } from "../common/index.js";
import { asNumber, compareValues, sameKey } from "./operators.js";
import { isEmpty, type Value, type ValueType } from "./value.js";

export interface AggregateSpec {
  /** `values` are the first argument for each line that passes `where`; `rest` the further arguments, evaluated once. */
  readonly call: (values: readonly Value[], rest: readonly Value[], show: (value: Value) => string) => Value;
  readonly type: ValueType;
  /** Further arguments it takes at most. */
  readonly rest: number;
}

const filled = (values: readonly Value[]): Value[] => values.filter((value) => !isEmpty(value));

function distinct(values: readonly Value[]): Value[] {
  const found = new Map<Value, Value>();
  for (const value of filled(values)) {
    const key = sameKey(value);
    if (!found.has(key)) found.set(key, value);
  }
  return [...found.values()];
}

const sum = (values: readonly Value[]): Decimal =>
  filled(values).reduce<Decimal>((total, value) => total.plus(asNumber(value)), new Exact(0));

const extreme =
  (sign: 1 | -1) =>
  (values: readonly Value[]): Value =>
    filled(values).reduce<Value>(
      (best, value) => (best === null || sign * compareValues(value, best) < 0 ? value : best),
      null,
    );

/** Functions over all lines of a group. Blanks are passed over. */
export const AGGREGATES: Readonly<Record<string, AggregateSpec>> = {
  sum: { call: sum, type: "number", rest: 0 },
  count: { call: (values) => new Exact(filled(values).length), type: "number", rest: 0 },
  average: {
    call: (values) => (filled(values).length === 0 ? null : sum(values).dividedBy(filled(values).length)),
    type: "number",
    rest: 0,
  },
  min: { call: extreme(1), type: "any", rest: 0 },
  max: { call: extreme(-1), type: "any", rest: 0 },
  first: { call: (values) => filled(values)[0] ?? null, type: "any", rest: 0 },
  last: { call: (values) => filled(values).at(-1) ?? null, type: "any", rest: 0 },
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
