export { type Calculated, calculate, type Calculation, type FormulaCell, type Place } from "./calculator.js";
export { compileFormula, type CompiledFormula, type FormulaReference, referenceOf } from "./compile.js";
export { FUNCTIONS as FORMULA_FUNCTIONS } from "./functions.js";
export { CellError, numberText, type Scalar } from "./value.js";
