export type { AskedQuery, Choice, Choices } from "./asked.js";
export { type ColumnProfile, exactSum, Grid, type GridColumn } from "./grid.js";
export { isoCell } from "./iso-cell.js";
export { EVERYTHING, type GridFilter, type GridQuery, gridQuerySchema } from "./query.js";
