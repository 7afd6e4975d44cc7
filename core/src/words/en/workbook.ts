export const workbook = {
  cannotRepeatColumnsInsideDefined: () => "Cannot repeat columns inside a defined table.",
  table: ({ where, attr }: { where: string; attr: string }) => `${where}, table ${attr}`,
  turnTablePlainCellsRepeat: () => "Turn the table into plain cells, or repeat its columns outside of it.",
  saysPlace: () => "it says no place",
  valuesStandBelowEachOther: () => "its values stand below each other",
  fieldRows: () => "it has no field in its rows",
  values: () => "it has no values",
  valuesStandBeforeOtherColumns: () => "its values stand before other columns",
  groupsDatesNumbers: () => "it groups dates or numbers",
  fieldsOwn: () => "it has fields of its own",
  namesField: () => "it names a field that is not there",
  laidOutWayOwn: () => "it is laid out in a way of its own",
  leavesOutRowsFilterLabels: () => "it leaves out rows by a filter of labels or values",
  itemsOwn: () => "it has items of its own",
  labelsMerged: () => "its labels are merged",
  totalsCountHiddenRows: () => "its totals count hidden rows",
  showsValuesRelationOthers: () => "it shows values in relation to others",
  subtotalsAnotherKind: () => "it has subtotals of another kind",
  blankRowsBetweenItems: () => "it has blank rows between its items",
  itemsSortedColumns: () => "its items are sorted by one of its columns",
  hidesValuesNewOnes: () => "it hides values one by one, and there are new ones",
  sortedValuesDoesShow: () => "it is sorted by values that it does not show",
  moreLinesSheetRoom: () => "it has more lines than a sheet has room for",
  sourceToldFormula: () => "its source is told by a formula",
  sourceColumn: ({ attr }: { attr: undefined | string }) => `its source has no column "${attr}"`,
  rowValueChosenAbove: () => "no row has the value that is chosen above it",
  conditionalFormatsNameSingleItems: () => "its conditional formats name single items",
  roomCellFilled: ({ cellName }: { cellName: string }) => `it has no room: cell ${cellName} is filled`,
  sheet: () => "its sheet is not there",
  chartPivotSeveralFieldsRows: ({ name }: { name: string }) =>
    `The chart of the pivot "${name}" has several fields in its rows or columns; it still draws the template's figures until the workbook is opened.`,
  drawChartFieldRowsCells: () => "Draw the chart from one field of rows, or from cells beside the pivot.",
  pivotComputedHereSinceMade: ({ name, why }: { name: string; why: string }) =>
    `The pivot "${name}" is not computed here, since ${why}; it is made anew from the filled rows when the workbook is opened, and until then, and in a PDF, it shows the template's figures.`,
  layPivotOutFieldsRows: () =>
    "Lay the pivot out with fields in rows and columns and plain sums, open the file and save it, or show the figures by formulas such as SUMIFS.",
  cannotUseWorkbook: ({ source }: { source: string }) => `Cannot use \`{{${source}}}\` in a workbook.`,
  nameCellLayTableTables: ({ kind }: { kind: string }) =>
    kind === "table"
      ? "Name the cell, and lay the table there with `tables` in the report's definition."
      : "Leave `paged` away, and set a page break in the sheet.",
  cannotFindBelongs: ({ source }: { source: string }) => `Cannot find what \`{{${source}}}\` belongs to.`,
  putAboveBeforeRow: ({ kind }: { kind: string }) =>
    kind === "end"
      ? "Put {{repeat line}} or {{when …}} above it, or before it in its row."
      : "Put {{when …}} above it.",
  cannotFindEnd: ({ source }: { source: string }) => `Cannot find the end of \`{{${source}}}\`.`,
  putLastRowBelongs: () => "Put {{end}} in the last row that belongs to it.",
  cannotRepeatRowOnce: ({ lines, lines2 }: { lines: string; lines2: string }) =>
    `Cannot repeat a row for \`${lines}\` and for \`${lines2}\` at once.`,
  giveEachRowOwnLet: ({ lines, lines2 }: { lines: string; lines2: string }) =>
    `Give each a row of its own, or let them stand beside each other: {{repeat ${lines}}} … {{end}} in some columns, {{repeat ${lines2}}} … {{end}} in others.`,
  cannotNestStructureBeginsInside: () => "Cannot nest this structure: it begins inside another and ends outside.",
  letAreasBesideEachOther: () =>
    "Let areas beside each other begin and end in the same rows, and inner ones end before outer ones.",
  dataTable: () => "a data table",
  name: ({ sheet }: { sheet: string }) => `name of ${sheet}`,
  markPartBrokenFormattingStays: () => "A mark in this part is broken by formatting and stays as it is.",
  typeMarkAgainGoWithout: () => "Type the mark again in one go, without changing its looks in the middle.",
  calculated: () => "not-calculated",
  cellUsesCalculatedHereWorkbook: ({ what }: { what: string }) =>
    `The cell uses ${what}, which is not calculated here; the workbook will be recalculated when it is opened, and a PDF shows the template's value.`,
  formulaLeadsBackItself: () => "The formula leads back to itself.",
  lookOnceFilledFile: ({ severity }: { severity: string }) =>
    severity === "note" ? "Look at it once in the filled file." : "Use another formula in the template.",
  cannotFindColumn: ({ name }: { name: string }) => `Cannot find the column \`${name}\`.`,
  cannotAddUpLinesNone: () => "Cannot add up lines: none of the columns holds numbers.",
  nameColumnsNumbersLeaveLinetotal: () => "Name columns of numbers, or leave lineTotal away.",
  cannotLayTableCellBlank: ({ cellName }: { cellName: string }) =>
    `Cannot lay the table: cell ${cellName} is not blank.`,
  namePlaceRoomAllColumns: () => "Name a place with room for all its columns.",
  cannotFindTemplate: ({ name }: { name: string }) => `Cannot find \`${name}\` in the template.`,
  letNameLeadCellsSheet: ({ isDefined, suggestion }: { isDefined: boolean; suggestion: string }) =>
    isDefined
      ? "Let the name lead to cells of a sheet."
      : `${suggestion} A cell is written with its sheet, as in Summary!B2.`,
  cannotTellRowsBelowHeadings: ({ name }: { name: string }) =>
    `Cannot tell which rows below the headings of \`${name}\` are samples.`,
  nameRangeSampleRowsGo: () =>
    "Name the range with its sample rows, which go; with the first alone, if what stands below it is to stay.",
  cannotFindHeadingTable: ({ heading, name }: { heading: string; name: string }) =>
    `Cannot find the heading \`${heading}\` in the table \`${name}\`.`,
  cannotFillTableHeadingColumn: ({ name }: { name: string }) =>
    `Cannot fill the table \`${name}\`: no heading is a column's name.`,
  headingsColumns: ({ columns, columns2 }: { columns: string; columns2: string }) =>
    `Its headings are: ${columns}. The columns are: ${columns2}.`,
  cannotFillTableCellStands: ({ name, cellName }: { name: string; cellName: string }) =>
    `Cannot fill the table \`${name}\`: cell ${cellName} stands beside its sample rows, which go.`,
  leaveRowTemplateSTable: () => "Leave one row in the template's table, or move the cell beside the first.",
  cannotKeepSheetNoneFilled: ({ name }: { name: string }) =>
    `Cannot keep the sheet \`${name}\`: there is none in the filled workbook.`,
  cannotFindSheetTemplate: ({ wanted }: { wanted: string }) => `Cannot find the sheet \`${wanted}\` in the template.`,
  cannotMakeSheetsExpectedMost: ({ groupCount, maxSheets }: { groupCount: number; maxSheets: number }) =>
    `Cannot make ${groupCount} sheets, expected at most ${maxSheets}.`,
  makeFilePerGroupInstead: () => "Make a file per group instead.",
  beside: ({ label }: { label: string }) => `beside “${label}”`,
  cannotRecalculateTemplateHoldsMark: ({ source }: { source: string }) =>
    `Cannot recalculate a template: it holds the mark {{ ${source} }}.`,
  fillFirst: () => "Fill it first.",
  valueCannotCalculatedHereBlank: ({ leftCount, left, value }: { leftCount: number; left: string; value: string }) =>
    `${leftCount === 1 ? "A formula has" : `${leftCount} formulas have`} no value and cannot be calculated here: ${left}${value}; ${leftCount === 1 ? "its cell is" : "their cells are"} blank.`,
  openWorkbookProgramMadeLet: () => "Open the workbook in the program that made it, let it calculate, and save it.",
  nameSheet: ({ where }: { where: string }) => `${where}, name of the sheet`,
  sheetCell: ({ name, columnLetters, row }: { name: string; columnLetters: string; row: number }) =>
    `sheet ${name}, cell ${columnLetters}${row}`,
  cellHoldsStoredValueKept: ({ what }: { what: string }) => `The cell holds ${what}; its stored value was kept.`,
  sheetCellOf: ({ name, cellName }: { name: string; cellName: string }) => `sheet ${name}, cell ${cellName}`,
  nameIn: ({ where, name }: { where: string; name: string }) => `${where}, name ${name}`,
};
