export type { Decision } from "./decision.js";
export { flatRecord, maybeJsonValue } from "./formats/read-json.js";
export type { LeftOutLines, LeftOutReason } from "./left-out.js";
export { type LoadedTable, type LoadOptions, loadTable, splitPart } from "./load.js";
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
export type { ChangedCells } from "./types/cell-reader.js";
export {
  type CodedData,
  type ColumnData,
  cellAt,
  cellsOf,
  columnData,
  joinColumn,
  packColumn,
  unpackColumn,
} from "./types/column-data.js";
export { readNumber } from "./types/read-number.js";
