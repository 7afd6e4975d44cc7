export { type ByName, type NamedTable, placeByName } from "./by-name.js";
export { type CellDifference, compareWorkbooks, type WorkbookComparison } from "./compare-workbooks.js";
export { BoundWorkbook, type FilledWorkbook } from "./fill.js";
export type { RecalculatedCell } from "./filling.js";
export { PlainWorkbook, type PlainWorkbookSpec } from "./plain-workbook.js";
export { type Recalculated, recalculateWorkbook } from "./recalculate.js";
export { type Replaced, type ReplacedCell, replaceWords, type WordRule } from "./replace-words.js";
export { WorkbookTemplate } from "./template.js";
export { valuesOnly } from "./values-only.js";
