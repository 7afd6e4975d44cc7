export { type ColumnProfile, exactSum, Grid, type GridColumn } from "./grid.js";
export { EVERYTHING, type GridFilter, type GridQuery, gridQuerySchema } from "./query.js";
