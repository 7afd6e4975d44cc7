export { type LoadedTable, type LoadOptions, loadTable } from "./load.js";
export { type Cell, type Column, type ColumnInfo, type ColumnType, type Table, takeRows } from "./table.js";
export { readNumber } from "./type-columns.js";
