export { type CellValue, cellValues } from "./cell-values.js";
export {
  type CellRange,
  cellName,
  columnIndex,
  columnLetters,
  MAX_COLUMNS,
  MAX_ROWS,
  maybeCell,
  maybeRange,
  quoteSheet,
  rangeHolds,
  rangeName,
  sheetsNamedIn,
  splitSheet,
} from "./reference.js";
export { type ScannedCell, scanCells } from "./scan-cells.js";
export {
  type BorderLine,
  type CellAlignment,
  type CellBorder,
  type CellFont,
  type CellFormat,
  type FormatChange,
  type Ground,
  isDateCode,
  isTrue,
  mixColors,
  readCellFont,
  type Styles,
} from "./styles.js";
export {
  type Channels,
  channelsOf,
  channelsOfHsl,
  colorOf,
  hslOf,
  readTheme,
  resolveColor,
  type Theme,
  tintColor,
  withOverride,
} from "./theme.js";
export {
  type DefinedName,
  openWorkbook,
  phoneticReadings,
  type SheetInfo,
  type Workbook,
  workbookFromPackage,
} from "./workbook.js";
