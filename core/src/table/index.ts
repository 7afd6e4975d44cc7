export type { ChangedCells } from "./cell-reader.js";
export {
  type CodedData,
  type ColumnData,
  cellAt,
  cellsOf,
  columnData,
  joinColumn,
  packColumn,
  unpackColumn,
} from "./column-data.js";
export type { Decision } from "./decision.js";
export type { LeftOutLines, LeftOutReason } from "./left-out.js";
export { type LoadedTable, type LoadOptions, loadTable, splitPart } from "./load.js";
export { readNumber } from "./read-number.js";
export { rowKey, showRowKey, sumOf } from "./rows.js";
export { type ColumnRule, columnRuleSchema, type IntakeRules, intakeRulesSchema, mergeRules } from "./rules.js";
export {
  type Cell,
  type Column,
  type ColumnInfo,
  type ColumnType,
  columnInfo,
  type Table,
  takeRows,
} from "./table.js";
