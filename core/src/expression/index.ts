export { AGGREGATES } from "./aggregates.js";
export { type Ast, namesIn } from "./ast.js";
export {
  compileExpression,
  compileField,
  compileParsedField,
  type Env,
  type Expression,
  isPerLine,
  type Scope,
  type TextField,
} from "./compile.js";
export { FUNCTIONS } from "./functions.js";
export { areEqual, compareValues } from "./operators.js";
export { type Field, parseExpression, parseField } from "./parse.js";
export { showValue } from "./show.js";
export {
  cellFromValue,
  DateValue,
  isEmpty,
  typeOfValue,
  type Value,
  type ValueType,
  valueFromCell,
} from "./value.js";
