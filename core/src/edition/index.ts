export { type Appended, appendTable } from "./append.js";
export { compareEditions, differenceFindings, type EditionDifference } from "./compare.js";
export { type Drift, driftFindings, findDrift } from "./drift.js";
export { newestPeriod } from "./newest-period.js";
export {
  type EditionPiece,
  type PackedTable,
  PIECE_ROWS,
  type PieceFacts,
  packTable,
  ROW_NUMBERS,
  rowsWithText,
  unpackColumns,
  unpackTable,
  withTexts,
} from "./pack.js";
export { findPartners, type Partners } from "./partners.js";
export { keyOfRecord, recordTable } from "./record-table.js";
