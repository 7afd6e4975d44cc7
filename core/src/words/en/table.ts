import { thousands } from "./numbers.js";

export const table = {
  cannotReadTableSpansMore: ({ maxCells }: { maxCells: number }) =>
    `Cannot read the table: it spans more than ${maxCells} cells.`,
  removeStrayCellsFarRight: () => "Remove stray cells far to the right or below, or load it in parts.",
  linesLeftOut: ({
    place,
    why,
    text,
    count,
    others,
  }: {
    place: string;
    why: string;
    text: string;
    count: number;
    others: number;
  }) => `${place} ${why}: "${text}"${count > 1 ? ` and ${others} more` : ""}.`,
  ifLineDataGiveKey: ({ reason }: { reason: string }) =>
    reason === "total" ? "If this line is data, give its key another name than a total's." : "Nothing to do.",
  cannotReadFileTableHolds: () => "Cannot read the file as a table: it holds zero bytes, so it is no text.",
  giveWorkbookXlsxOdsText: () => "Give a workbook (.xlsx, .ods) or a text file (.csv).",
  cannotUseDelimiterSignAscii: ({ delimiter }: { delimiter: string }) =>
    `Cannot use "${delimiter}" as the delimiter: it is not one sign of ASCII.`,
  nameCommaSemicolonTabulatorBar: () => "Name comma, semicolon, tabulator or bar, or give one sign.",
  corrected: () => "it was corrected",
  fileReadGuessFewLetters: ({
    encoding,
    word,
    encoding2,
    otherWord,
  }: {
    encoding: string;
    word: string;
    encoding2: string;
    otherWord: string;
  }) =>
    `The file was read as ${encoding}, which is a guess from few letters ("${word}"); as ${encoding2} they read "${otherWord}".`,
  ifRightCorrectEncodingBetter: ({ encoding }: { encoding: string }) =>
    `If that is right, correct the encoding to ${encoding}; better, export the file as UTF-8.`,
  cellsToldApartGuessCuts: ({ delimiterNames, delimiterNames2 }: { delimiterNames: string; delimiterNames2: string }) =>
    `Cells were told apart by the ${delimiterNames}, which is a guess: the ${delimiterNames2} cuts the lines nearly as well.`,
  ifRightCorrectDelimiter: ({ delimiterNames }: { delimiterNames: string }) =>
    `If that is right, correct the delimiter to ${delimiterNames}.`,
  cannotReadFileTable: ({ found }: { found: string }) => `Cannot read the file as a table: ${found}.`,
  cannotReadFileSuchEncoding: ({ asked }: { asked: unknown }) =>
    `Cannot read the file as ${asked}: there is no such encoding.`,
  nameSuchUtfWindowsIso: () => "Name one such as UTF-8, windows-1250, ISO-8859-2, KOI8-R, CP852 or macRoman.",
  cannotReadFileTableQuoted: () => "Cannot read the file as a table: a quoted field has no end.",
  line: ({ where, record }: { where: string; record: number }) => `${where}, line ${record}`,
  lookQuoteClosed: () => "Look for a quote that is not closed.",
  cannotReadMoreColumns: ({ maxColumns }: { maxColumns: number }) => `Cannot read more than ${maxColumns} columns.`,
  lookWhetherLineEndsRight: () => "Look whether the line ends are right.",
  firstRowNamesColumnsFilled: () => "the first row that names the columns filled below it",
  cannotFindSheet: ({ name }: { name: string }) => `Cannot find the sheet \`${name}\`.`,
  asked: () => "it was asked for",
  cannotFindVisibleSheetCells: () => "Cannot find a visible sheet with cells in the workbook.",
  nameHiddenSheetIf: ({ some }: { some: boolean }) =>
    some ? "Name the hidden sheet, if it is the one." : "Export it again.",
  onlyVisibleSheetCells: ({ visibleCount }: { visibleCount: number }) =>
    visibleCount === 1
      ? "the only visible sheet with cells"
      : `it holds the largest table of ${visibleCount} visible sheets`,
  sheetReadHoldsTableNearly: ({ read, other, sameNames }: { read: string; other: string; sameNames: boolean }) =>
    `The sheet "${read}" was read; "${other}" holds a table of nearly the same size${sameNames ? " with the same columns" : ""}, and was not.`,
  ifOtherTableCorrectSheet: ({ name }: { name: string }) =>
    `If the other one is the table, correct the sheet to "${name}"; if both are, load them as two datasets or add them to each other.`,
  cannotFindHeaderRowFirst: ({ headerSearchRows }: { headerSearchRows: number }) =>
    `Cannot find a header row in the first ${headerSearchRows} rows.`,
  tableNeedsRowNameAbove: () =>
    "The table needs one row with a name above each column. If the file has none, say so: the header is none, and the columns are called by the names you give.",
  twoLinesJoinedMergedCells: () => "two lines joined by merged cells",
  twoLinesUpperNamesGroups: () => "two lines, the upper of which names groups of columns",
  twoLinesNameEachOther: () => "two lines that name each other's gaps",
  sheetDefines: ({ rangeName }: { rangeName: string }) => `the sheet defines it as ${rangeName}`,
  cannotFindTableNamedRange: ({ wanted }: { wanted: string }) => `Cannot find a table or named range \`${wanted}\`.`,
  namedRange: () => "named range",
  askedFor: ({ rest, name }: { rest: string; name: string }) => `it was asked for; it is ${rest} in ${name}`,
  cannotReadRecordObject: () => "Cannot read a record that is no object.",
  record: ({ where, index }: { where: string; index: number }) => `${where}, record ${index}`,
  eachRecordNeedsNamesValues: () => "Each record needs names for its values.",
  cannotReadRecordNestedDeeper: ({ maxDepth }: { maxDepth: number }) =>
    `Cannot read a record nested deeper than ${maxDepth} levels.`,
  cannotFindListRecords: ({ wanted }: { wanted: string }) => `Cannot find a list \`${wanted}\` in the records.`,
  cannotTellListHoldsRows: ({ ends }: { ends: string }) =>
    `Cannot tell which list holds the rows: the records have ${ends}.`,
  correctListThemSuchOthers: ({ plain }: { plain: string }) =>
    `Correct the list to one of them, such as ${plain}; the others are then kept as text beside it.`,
  onlyListInsideRecordsEach: ({ wanted }: { wanted: undefined | string }) =>
    wanted === undefined
      ? "the only list inside the records; each of its entries is a row, with its record's fields"
      : "it was corrected",
  listKeptText: ({ path, count }: { path: string; count: number }) =>
    `The list "${path}" is kept as text in ${count} ${count === 1 ? "row" : "rows"}.`,
  nothingDoUnlessEachEntries: ({ isPlain, path }: { isPlain: boolean; path: string }) =>
    isPlain
      ? "Nothing to do, unless each of its entries should be a row."
      : `If its entries are the rows, correct the list to ${path}.`,
  cannotReadFileJson: ({ wordsOf }: { wordsOf: string }) => `Cannot read the file as JSON: ${wordsOf}.`,
  exportAgainArrayRecordsRecord: () => "Export it again: an array of records, or one record per line.",
  cannotReadFileSpreadsheetContent: () => "Cannot read the file as a spreadsheet: it has no content.",
  cannotReadSpreadsheetProtectedPassword: () => "Cannot read the spreadsheet: it is protected by a password.",
  saveWithoutPasswordXlsx: () => "Save it without a password, or as .xlsx with one.",
  cannotFindNamedRange: ({ wanted }: { wanted: string }) => `Cannot find a named range \`${wanted}\`.`,
  cannotReadCellRepeatedBeyond: () => "Cannot read a cell that is repeated beyond the sheet's limits.",
  sheetMostRowsColumns: ({ maxRows, maxColumns }: { maxRows: number; maxColumns: number }) =>
    `A sheet has at most ${maxRows} rows and ${maxColumns} columns.`,
  outsideTableSheetDefinesRead: ({ what }: { what: string }) =>
    `Outside the table that the sheet defines, and not read: ${what}.`,
  ifBelongsTableCorrectHeader: () =>
    "If that belongs to the table, correct the header row, or widen the table in the source.",
  summaryOtherCellsRead: ({ summaries }: { summaries: string }) =>
    `${summaries} is a summary of other cells and was not read.`,
  nothingDo: () => "Nothing to do.",
  aboveHeaderFullRowsBelow: ({ fullCount, rowList }: { fullCount: number; rowList: string }) =>
    `Above the header ${fullCount === 1 ? "a row is" : `${fullCount} rows are`} as full as the rows below it (${rowList}), and not read.`,
  ifTheyRowsTableCorrect: () =>
    "If they are rows of the table, correct the header row; if they are another table, nothing is to do.",
  cannotUseRowHeaderBlank: ({ asked }: { asked: number }) => `Cannot use row ${asked} as the header: it is blank.`,
  correctHeaderRowDataset: () => "Correct the header row of the dataset.",
  asCorrected: () => "as corrected",
  correctedNamesGiven: ({ isNames }: { isNames: boolean }) =>
    isNames ? "it was corrected; the names were given" : "it was corrected; columns go by their letters",
  rowReadHeaderRowCould: ({
    rowNumber,
    namesIn,
    rowNumber2,
    namesIn2,
  }: {
    rowNumber: number;
    namesIn: string;
    rowNumber2: number;
    namesIn2: string;
  }) => `Row ${rowNumber} (${namesIn}) was read as the header; row ${rowNumber2} (${namesIn2}) could be it too.`,
  ifOtherRightCorrectHeader: ({ rowNumber }: { rowNumber: number }) =>
    `If the other one is right, correct the header row to ${rowNumber}.`,
  headerReadsLikeRowsBelow: ({ words }: { words: string }) =>
    `The header reads like the rows below it (${words}); the file may have no header, and this may be its first row.`,
  ifSoCorrectHeaderNone: () => "If so, correct the header to none and name the columns.",
  columnValuesButNameCalled: ({ columnLetters, used, name }: { columnLetters: string; used: number; name: string }) =>
    `Column ${columnLetters} has ${used} values but no name; it is called "${name}".`,
  giveHeadingSource: () => "Give it a heading in the source.",
  twoColumnsCalledLaterCalled: ({ name, times }: { name: string; times: number }) =>
    `Two columns are called "${name}"; the later one is called "${name} ${times}".`,
  giveEachColumnOwnHeading: () => "Give each column its own heading in the source.",
  moreNamesGivenColumnsNothing: ({ left }: { left: string }) =>
    `More names were given than there are columns: nothing is called ${left}.`,
  seeNamesStandRightColumns: () =>
    "See that the names stand for the right columns, and that nothing is missing in the file.",
  columnsAnotherTableBesideRead: ({ span, other }: { span: string; other: string }) =>
    `Columns ${span} (${other}) are another table beside this one and were not read.`,
  ifTheyWantedCorrectFirst: ({ span }: { span: string }) =>
    `If they are wanted, correct the first and last column to ${span}.`,
  columnsStandApartBehindBlank: ({ span }: { span: string }) =>
    `columns ${span} stand apart behind a blank column and end in another row`,
  rowBelowBlankLineHeader: ({ rowNumber }: { rowNumber: number }) =>
    `row ${rowNumber} below a blank line is the header of another table`,
  anotherTableBeginsRowOnly: ({ rowNumber, namesIn }: { rowNumber: number; namesIn: string }) =>
    `Another table begins in row ${rowNumber} (${namesIn}); only the first one was read.`,
  ifOtherWantedCorrectHeader: ({ rowNumber }: { rowNumber: number }) =>
    `If the other one is wanted, correct the header row to ${rowNumber}; if it is all one table, set the end to the last row.`,
  singleValueSuchTheyKept: ({ foundCount, rowList, text }: { foundCount: number; rowList: string; text: string }) =>
    `${foundCount === 1 ? "A row holds" : `${foundCount} rows hold`} a single value (${rowList}), such as "${text}"; they were kept as rows.`,
  ifTheyHeadingsBlockLeave: () =>
    "If they are headings of a block, leave them out in the report, or correct the source.",
  timesNameZoneOffsetThey: ({ zones }: { zones: number }) =>
    `${thousands(zones)} times name a zone or an offset; they were taken as written.`,
  ifTheyLocalTimesLet: () => "If they have to be local times, let the source write them so.",
  type: ({ name }: { name: string }) => `type of ${name}`,
  allCellsBlank: () => "all its cells are blank",
  dates: ({ share, type }: { share: string; type: string }) =>
    `${share} are dates${type === "datetime" ? ", some with a time" : ""}`,
  codesBeginZeroLongerNumber: ({ codes }: { codes: number }) =>
    `codes: ${codes} begin with a zero or are longer than a number keeps`,
  numbers: ({ share }: { share: string }) => `${share} are numbers`,
  trueFalse: ({ share }: { share: string }) => `${share} are true or false`,
  times: ({ share }: { share: string }) => `${share} are times`,
  onlyCouldReadAnythingElse: ({ best, filled, share }: { best: number; filled: number; share: string }) =>
    best > filled ? `only ${share} could be read as anything else` : "words",
  datesWrittenSoDayMonth: ({ undecided, type }: { undecided: number; type: string }) =>
    `${thousands(undecided)} dates are written so that day and month could be swapped, and nothing in the file tells which comes first; ${type === "text" ? "the column is kept as text" : "they are taken as blank"}.`,
  sayOnceDatasetComesFirst: () =>
    "Say once for the dataset which comes first, or let the source write dates as 2026-10-31.",
  numbersWrittenSignBeforeThree: ({ either, sample }: { either: number; sample: string }) =>
    `${thousands(either)} numbers are written with one sign before three digits, such as ${sample}, which could group thousands or be decimal.`,
  lookFewSayOnceDataset: () => "Look at a few, and say once for the dataset which sign is decimal.",
  cellsNumbersOthersColumnKept: ({ number, filled }: { number: number; filled: number }) =>
    `${thousands(number)} of ${thousands(filled)} cells are numbers, the others are not; the column is kept as text, and nothing adds it up.`,
  lookOthersIfTheyNone: () =>
    "Look at the others; if they are none of the table, correct the type to number, and they become blank.",
  amountsSeveralCurrenciesSumOver: ({ all }: { all: string }) =>
    `The amounts are in several currencies: ${all}. A sum over them means nothing.`,
  splitCurrencyKeepReport: () => "Split by currency, or keep one in the report.",
  cannotFindTableRows: () => "Cannot find a table: there are no rows.",
  cannotReadFileEmpty: () => "Cannot read the file: it is empty.",
  exportAgain: () => "Export it again.",
  cannotFindTableFileWorkbook: ({ table }: { table: undefined | string }) =>
    `Cannot find the table \`${table}\`: the file is no workbook.`,
  cellsHoldBytesLetterShown: ({
    cellCount,
    noCharacter,
    list,
    more,
  }: {
    cellCount: number;
    noCharacter: string;
    list: string;
    more: string;
  }) => `${cellCount} cells hold bytes that are no letter, shown as ${noCharacter}: ${list}${more}.`,
  correctTheseCellsSourceExport: () => "Correct these cells in the source, or export it anew as UTF-8.",
  correctionNamesColumnFile: ({ name }: { name: string }) =>
    `A correction names the column "${name}", which is not in the file.`,
  correctDatasetSCorrectionsIf: () => "Correct the dataset's corrections, if the column is called otherwise now.",
  rowsHiddenFilteredAwayFile: ({ hidden }: { hidden: number }) =>
    `${hidden} rows are hidden or filtered away in the file; they are loaded all the same.`,
  ifTheyShouldCountRemove: () => "If they should not count, remove them in the source.",
  read: ({ others, value }: { others: string; value: string }) => `Not read: ${others}${value}.`,
  ifAnotherTableCorrectSheet: () => "If another one is the table, correct the sheet of the dataset.",
  rowColumn: ({ where, rowNumber, name }: { where: string; rowNumber: number; name: string }) =>
    `${where}, row ${rowNumber}, column ${name}`,
  totalLineSaysButRows: ({ said, toNumber }: { said: number; toNumber: number }) =>
    `The total line says ${thousands(said)}, but the rows add up to ${thousands(toNumber)}.`,
  lookWhetherRowsMissingTotal: () => "Look whether rows are missing, or the total is of something else.",
  totalLineAgreesRows: ({ agrees }: { agrees: string }) => `The total line agrees with the rows: ${agrees}.`,
  cannotReadKeptRowsThey: () => "Cannot read the kept rows: they are of an unknown form.",
  rowsListed: ({ count, only, listed, rest }: { count: number; only: number; listed: string; rest: string }) =>
    count === 1 ? `Row ${only}` : `Rows ${listed}${rest}`,
  utfByteOrderMark: () => "UTF-8 with byte-order mark",
  fileFilters: ({ kind }: { kind: string }) => (kind === "filter" ? "the file filters by it" : `the file's ${kind}`),
  aloneSetBold: () => "it alone is set in bold",
  namesDifferKindStandsBelow: () => "its names differ in kind from what stands below",
  rowSpan: ({
    from,
    to,
    rowNumber,
    rowNumber2,
  }: {
    from: number;
    to: number;
    rowNumber: number;
    rowNumber2: number;
  }) => (from === to ? `row ${rowNumber}` : `rows ${rowNumber} to ${rowNumber2}`),
  sheet: ({ name, hidden }: { name: string; hidden: boolean }) => `sheet "${name}"${hidden ? ", which is hidden" : ""}`,
  counted: ({ date1904 }: { date1904: boolean }) => (date1904 ? "counted from 1904" : "counted from 1900"),
  tablesRangesSheets: () => "tables, ranges and sheets",
  askedLies: ({ name }: { name: string }) => `it was asked for; it lies in ${name}`,
  opendocumentSpreadsheet: () => "OpenDocument spreadsheet",
  table: ({ name }: { name: string }) => `the table ${name}`,
  firstRowTable: ({ isRange, corrected }: { isRange: boolean; corrected: boolean }) =>
    isRange
      ? `the first row of the table that ${corrected ? "was asked for" : "the sheet defines"}`
      : "it was corrected",
  to: ({ columnLetters, columnLetters2 }: { columnLetters: string; columnLetters2: string }) =>
    `${columnLetters} to ${columnLetters2}`,
  blanksEndsDoubledInsideThey: ({ count, isOne, list }: { count: string; isOne: boolean; list: string }) =>
    `${count} ${isOne ? "has" : "have"} blanks at the ends or doubled inside; they were folded (${list}).`,
  storedSuchRead: ({
    count,
    isOne,
    article,
    raw,
    list,
  }: {
    count: string;
    isOne: boolean;
    article: string;
    raw: string;
    list: string;
  }) => `${count} ${isOne ? "was" : "were"} not stored as ${article}, such as "${raw}", and read as one (${list}).`,
  cannotReadSuchTakenBlank: ({
    count,
    article,
    raw,
    isOne,
    list,
  }: {
    count: string;
    article: string;
    raw: string;
    isOne: boolean;
    list: string;
  }) =>
    `${count} cannot be read as ${article}, such as "${raw}", and ${isOne ? "is" : "are"} taken as blank (${list}).`,
  correctSourceLoadAgain: () => "Correct it in the source and load again.",
  errorValueSuchTakenBlank: ({
    count,
    isOne,
    raw,
    list,
  }: {
    count: string;
    isOne: boolean;
    raw: string;
    list: string;
  }) =>
    `${count} ${isOne ? "holds" : "hold"} an error value, such as ${raw}, and ${isOne ? "is" : "are"} taken as blank (${list}).`,
  correctFormulaSourceLoadAgain: () => "Correct the formula in the source and load again.",
  dateTime: ({ type }: { type: string }) =>
    type === "datetime" ? "a date with a time" : type === "boolean" ? "a truth value" : `a ${type}`,
  datesDayMonthCannotTold: () =>
    "dates in which day and month cannot be told apart; kept as text until it is corrected",
  allCells: ({ count, filled, floor }: { count: number; filled: number; floor: string }) =>
    count === filled ? "all its cells" : `${floor}% of its cells`,
  orderWhy: ({
    ownOrder,
    asked,
    orderFrom,
    sample,
  }: {
    ownOrder: undefined | string;
    asked: boolean;
    orderFrom: string;
    sample: undefined | string;
  }) => (ownOrder === undefined ? (asked ? "as corrected" : `as in ${orderFrom}`) : `as in ${sample}`),
  asIn: ({
    ownDecimal,
    decimal,
    decimalFrom,
  }: {
    ownDecimal: undefined | string;
    decimal: undefined | string;
    decimalFrom: string;
  }) => (ownDecimal === undefined ? (decimal === undefined ? "" : `, as in ${decimalFrom}`) : ""),
  decimal: ({ decimal, sample, from }: { decimal: string; sample: undefined | string; from: string }) =>
    `decimal ${decimal}${sample === undefined ? "" : `, as in ${sample}`}${from}`,
  inText: ({ count, currency }: { count: number; currency: string }) => `${count} in ${currency}`,
  rowValue: ({ row, column, text }: { row: number; column: string; text: string }) =>
    `row ${row}, ${column}: "${text}"`,
  heading: ({ name }: { name: string }) => `heading "${name}"`,
  filesSemicolons: () => "files with semicolons",
  titlesNoData: () => "above the header are titles, not data",
  totalLine: () => "is a total line and was left out, so nothing is counted twice",
  noteBelow: () => "below the table is a note",
  repeatsHeader: () => "repeats the header",
  mailMessage: () => "it is a mail message",
  saveAttachment: () => "Save its attachment and load that, or let the dataset take files by mail.",
  webPage: () => "it is a web page",
  savePage: () => "Save it as a workbook (.xlsx) or as CSV.",
  xml: () => "it is XML",
  exportXml: () => "Export it as a workbook, CSV or JSON.",
  pdf: () => "it is a PDF",
  askForTable: () => "Ask for the table itself, as a workbook or CSV.",
  textDocument: () => "it is a text document",
  saveTable: () => "Save its table as a workbook or CSV.",
  calendarOrCard: () => "it is a calendar or an address card",
  exportList: () => "Export the list as CSV.",
};
