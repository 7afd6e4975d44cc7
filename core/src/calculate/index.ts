export { type Calculated, type Calculation, calculate, type FormulaCell } from "./calculator.js";
export { type CompiledFormula, compileFormula, type FormulaMode } from "./compile.js";
export { FUNCTION_NAMES } from "./function-list.js";
export { functionsPage } from "./functions-page.js";
export { referenceOf } from "./references.js";
export { type BookFacts, type FormulaReference, type Place, shiftedPlace, type TableReference } from "./site.js";
export { OUTSIDE_THE_FILE, STANDARD_FUNCTIONS } from "./standard-functions.js";
export { CellError, type Matrix, numberText, type Scalar } from "./value.js";
