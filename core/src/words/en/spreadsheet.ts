export const spreadsheet = {
  cannotReadRowExpectedMost: ({ row, maxRows }: { row: number; maxRows: number }) =>
    `Cannot read row ${row}, expected at most ${maxRows} rows.`,
  cannotReadColumnExpectedMost: ({ column, maxColumns }: { column: number; maxColumns: number }) =>
    `Cannot read column ${column}, expected at most ${maxColumns} columns.`,
  cannotReadSheetEndsMiddle: () => "Cannot read the sheet: it ends in the middle of a cell.",
  cannotReadFileWorkbookPackage: () => "Cannot read the file as a workbook: the package holds none.",
  giveXlsxXlsmFile: () => "Give an .xlsx or .xlsm file.",
  cannotReadFileWorkbook: ({ what }: { what: string }) => `Cannot read the file as a workbook: ${what}.`,
  empty: () => "it is empty",
  exportAgain: () => "Export it again.",
  encryptedWorkbookOlderBinaryKind: () => "it is an encrypted workbook or one of the older binary kind",
  saveXlsxWithoutPassword: () => "Save it as .xlsx without a password.",
  zipPackage: () => "it is no zip package",
  giveXlsxFileLoadCsv: () => "Give an .xlsx file, or load it as CSV.",
};
