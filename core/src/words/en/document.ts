export const document = {
  cannotUseLinetotalFieldsTable: () => "Cannot use lineTotal or fields with a table of a document.",
  nameColumnsTotalSumThose: () => "Name columns, with `total: sum` for those to be added up.",
  cannotFindColumn: ({ column }: { column: string }) => `Cannot find the column \`${column}\`.`,
  cannotMakeChart: ({ source }: { source: string }) => `Cannot make a chart of \`{{${source}}}\`.`,
  nameCategoriesThenValues: () =>
    'Name the categories, then the values: {{chart line: unit, hours, fee headed "Fees"}}.',
  cannotUseChartFieldLine: ({ source }: { source: string }) =>
    `Cannot use \`${source}\` in a chart: it is no field of a line.`,
  chartShowsFirstCategoriesOthers: ({ most, most2 }: { most: number; most2: number }) =>
    `The chart shows the first ${most} of ${most2} categories; the others' values are not in it.`,
  letCountSomethingFewerValues: () => "Let it count by something with fewer values, such as a month or a district.",
  cannotUsePicture: ({ text, image }: { text: string; image: string }) =>
    `Cannot use \`${text}\` as a picture: it is ${image === "other" ? "neither PNG nor JPEG" : "damaged"}.`,
  cannotDrawTooLongCharacters: ({ text, code }: { text: string; code: string }) =>
    `Cannot draw \`${text}\` as a ${code === "qr" ? "QR code" : "bar code"}: it is too long or has characters there is no sign for.`,
  cannotFindPicture: ({ text }: { text: string }) => `Cannot find the picture \`${text}\`.`,
  putBesideTemplates: ({ suggestion }: { suggestion: string }) => `Put it beside the templates. ${suggestion}`,
  cannotAddSectionDocumentGoes: ({ period, last }: { period: string; last: string }) =>
    `Cannot add a section for ${period}: the document goes on to ${last} already.`,
  runPeriodsOrderPeriodMade: () =>
    "Run the periods in order; a period is made again from the document of the one before.",
  cannotUseColumnFieldLine: ({ source }: { source: string }) =>
    `Cannot use \`${source}\` as a column: it is no field of a line.`,
  nameColumnLinesSuchUnit: ({ lines }: { lines: string }) => `Name a column of the lines, such as ${lines}.unit.`,
  cannotFindTableStyle: ({ style }: { style: string }) => `Cannot find the table style "${style}".`,
  tableColumnsDoFitBeside: ({ columnCount }: { columnCount: number }) =>
    `The table has ${columnCount} columns, which do not fit beside each other: words break inside cells.`,
  nameFewerColumnsTurnPage: () => "Name fewer columns, or turn the page of this section to landscape.",
  cannotFindEnd: ({ source }: { source: string }) => `Cannot find the end of \`{{${source}}}\`.`,
  putBehindBelongsSameText: () => "Put {{end}} behind what belongs to it, in the same text, table or cell.",
  cannotFindBelongs: ({ source }: { source: string }) => `Cannot find what \`{{${source}}}\` belongs to.`,
  putBeforeSameTextTable: ({ kind }: { kind: string }) =>
    kind === "end"
      ? "Put {{repeat line}} or {{when …}} before it, in the same text, table or cell."
      : "Put {{when …}} before it, in the same text, table or cell.",
  cannotUseDocument: ({ source }: { source: string }) => `Cannot use \`{{${source}}}\` in a document.`,
  repeatRowsParagraphsColumnsRepeat: () => "Repeat rows, or paragraphs; columns repeat in workbooks only.",
  cannotRepeatRowOnce: ({ lines, other }: { lines: string; other: string }) =>
    `Cannot repeat a row for \`${lines}\` and for \`${other}\` at once.`,
  giveEachRowOwnPut: ({ other }: { other: string }) =>
    `Give each a row of its own, or put {{repeat ${other}}} and {{end}} inside a cell.`,
  cannotFillFieldHereStands: ({ lines }: { lines: string }) =>
    `Cannot fill a \`${lines}.\` field here: it stands in no table row.`,
  putRowTableBetweenUse: ({ lines }: { lines: string }) =>
    `Put it into a row of a table, between {{repeat ${lines}}} and {{end}}, or use sum(…), count(…) or list(…).`,
  cannotFindBookmarkTemplate: ({ name }: { name: string }) => `Cannot find the bookmark \`${name}\` in the template.`,
  cannotReadFileDocument: ({ what }: { what: string }) => `Cannot read the file as a document: ${what}.`,
  giveDocxFile: () => "Give a .docx file.",
  table: ({ name }: { name: string }) => `table at ${name}`,
  signLetterText: () => "There is no sign for a letter of the text.",
  tableStyles: () => "table styles",
  paragraph: ({ where, paragraphs }: { where: string; paragraphs: number }) => `${where}, paragraph ${paragraphs}`,
  bookmark: ({ where, name }: { where: string; name: string }) => `${where}, bookmark ${name}`,
  empty: ({ byteCount, isPackage }: { byteCount: number; isPackage: boolean }) =>
    byteCount === 0 ? "it is empty" : isPackage ? "the package holds none" : "it is no zip package",
  cannotRepeatColumnsTwice: ({ source }: { source: string }) =>
    `Cannot use \`{{${source}}}\` here: columns of this table repeat already.`,
  repeatColumnsOnceTable: () => "Let columns of a table repeat once, or use two tables.",
};
