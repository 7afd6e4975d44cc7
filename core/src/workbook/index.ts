export { BoundWorkbook, type FilledWorkbook } from "./fill.js";
export { WorkbookTemplate } from "./template.js";
