export { type CellDifference, compareWorkbooks, type WorkbookComparison } from "./compare-workbooks.js";
export { BoundWorkbook, type FilledWorkbook } from "./fill.js";
export type { RecalculatedCell } from "./filling.js";
export { PlainWorkbook, type PlainWorkbookSpec } from "./plain-workbook.js";
export { type Recalculated, recalculateWorkbook } from "./recalculate.js";
export { WorkbookTemplate } from "./template.js";
export { valuesOnly } from "./values-only.js";
