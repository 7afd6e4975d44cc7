export { type CompiledFormula, compileFormula, type FormulaMode } from "./compile/compile.js";
export { type Calculated, type Calculation, calculate, type FormulaCell } from "./engine.js";
export {
  type BookFacts,
  type FormulaReference,
  type SheetArea,
  shiftedPlace,
  type TableReference,
} from "./evaluation-context.js";
export { FUNCTION_NAMES } from "./functions/index.js";
export { functionsPage } from "./functions-page.js";
export { readReference, referenceOf, writeReference } from "./references.js";
export { OUTSIDE_THE_FILE, STANDARD_FUNCTIONS } from "./standard-functions.js";
export { CellError, type Matrix, numberText, type Scalar } from "./value.js";
