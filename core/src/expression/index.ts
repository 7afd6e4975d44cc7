export { AGGREGATES } from "./aggregates.js";
export { type Ast, namesIn } from "./ast.js";
export { compileExpression, compileField, compileParsedField } from "./compile.js";
export { FUNCTIONS } from "./functions.js";
export {
  type FurtherLines,
  type LineSet,
  type LinesColumns,
  linesOf,
  OWN_LINES,
  withLine,
  withLines,
} from "./lines.js";
export { areEqual, compareValues } from "./operators.js";
export { type Field, parseExpression, parseField } from "./parse.js";
export type { Env, Expression, Scope, TextField } from "./scope.js";
export { showValue } from "./show.js";
export { addedLines, isPerLine, neededLines, saysInstead, showsRows } from "./touched-lines.js";
export {
  cellFromValue,
  DateValue,
  isEmpty,
  typeOfValue,
  type Value,
  type ValueType,
  valueFromCell,
} from "./value.js";
export { writeExpression } from "./write.js";
