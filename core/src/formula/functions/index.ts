/** Every function that can be evaluated. */

import { convert } from "./convert.js";
import { DATABASE_FUNCTIONS } from "./database.js";
import { DATE_FUNCTIONS } from "./date.js";
import { DISTRIBUTIONS } from "./distributions.js";
import { ARRAY_FUNCTIONS } from "./dynamic-array.js";
import { FINANCE_FUNCTIONS } from "./financial.js";
import { MORE_FUNCTIONS } from "./from-package.js";
import { LOOKUP_FUNCTIONS } from "./lookup.js";
import { MATH_FUNCTIONS } from "./math.js";
import { OVER_FUNCTIONS } from "./over-arrays.js";
import { REFERENCE_FUNCTIONS } from "./reference.js";
import { STATISTICS } from "./statistics.js";
import type { FormulaFunction } from "./support/arguments.js";
import { guarded } from "./support/guard.js";
import { TEXT_FUNCTIONS } from "./text.js";

export { AREA_FUNCTIONS } from "./reference.js";

/** By its name in the file format, without the prefix of later functions. */
const ALL: ReadonlyMap<string, FormulaFunction> = new Map(
  [
    MORE_FUNCTIONS,
    MATH_FUNCTIONS,
    TEXT_FUNCTIONS,
    DATE_FUNCTIONS,
    LOOKUP_FUNCTIONS,
    REFERENCE_FUNCTIONS,
    ARRAY_FUNCTIONS,
    STATISTICS,
    FINANCE_FUNCTIONS,
    DATABASE_FUNCTIONS,
    DISTRIBUTIONS,
    { CONVERT: convert },
  ].flatMap((list) => Object.entries(list)),
);

export function lookUpFunction(name: string): FormulaFunction | undefined {
  return GUARDED.get(name);
}

const GUARDED: ReadonlyMap<string, FormulaFunction> = new Map(
  [...ALL].map(([name, body]) => [name, guarded(body)] as const),
);

/** Names of all functions that can be evaluated, with the constructs LET and LAMBDA and those that go over arrays with a function. */
export const FUNCTION_NAMES: readonly string[] = [
  ...ALL.keys(),
  ...Object.keys(OVER_FUNCTIONS),
  "LAMBDA",
  "LET",
].sort();
