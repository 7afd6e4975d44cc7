/** Every function that can be evaluated. */
import type { FormulaFunction } from "./adapters.js";
import { ARRAY_FUNCTIONS } from "./array-functions.js";
import { DATE_FUNCTIONS } from "./date-functions.js";
import { FUNCTIONS } from "./functions.js";
import { LOOKUP_FUNCTIONS } from "./lookup-functions.js";
import { MORE_FUNCTIONS } from "./more-functions.js";
import { REFERENCE_FUNCTIONS } from "./reference-functions.js";
import { TEXT_FUNCTIONS } from "./text-functions.js";

export { AREA_FUNCTIONS } from "./reference-functions.js";

/** By its name in the file format, without the prefix of later functions. */
const ALL: ReadonlyMap<string, FormulaFunction> = new Map(
  [
    MORE_FUNCTIONS,
    FUNCTIONS,
    TEXT_FUNCTIONS,
    DATE_FUNCTIONS,
    LOOKUP_FUNCTIONS,
    REFERENCE_FUNCTIONS,
    ARRAY_FUNCTIONS,
  ].flatMap((list) => Object.entries(list)),
);

export function lookUpFunction(name: string): FormulaFunction | undefined {
  return ALL.get(name);
}

/** Names of all functions that can be evaluated; LET is a construct and not listed. */
export const FUNCTION_NAMES: readonly string[] = [...ALL.keys()].sort();
