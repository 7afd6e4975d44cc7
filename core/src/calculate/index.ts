export { type Calculated, type Calculation, calculate, type FormulaCell, type Place } from "./calculator.js";
export { type CompiledFormula, compileFormula, type FormulaReference, referenceOf } from "./compile.js";
export { FUNCTIONS as FORMULA_FUNCTIONS } from "./functions.js";
export { CellError, numberText, type Scalar } from "./value.js";
