import { thousands } from "./numbers.js";

export const edition = {
  tooManyLines: ({ most }: { most: number }) => `Cannot take more than ${most.toLocaleString("en")} lines at once.`,
  record: ({ number }: { number: number }) => `record ${number}`,
  lineOfRecord: ({ place, number }: { place: string; number: number }) => `${place}, line ${number}`,
  nameTheLines: () => "Name the one in the report: records, lines.",
  cannotReadField: ({ name, value, expected }: { name: string; value: string; expected: string }) =>
    `Cannot read \`${value}\` in the field ${name}, expected ${expected}.`,
  asTheDatasetHas: () => "Write it as the dataset's column has it.",
  aPlainValue: () => "a plain value",
  aNumber: () => "a number such as 1234.5",
  aShorterNumber: () => "a number of up to 15 digits",
  trueOrFalse: () => "true or false",
  aDay: () => "a day such as 2026-11-02, or one with a time",
  aTime: () => "a time such as 09:30",
  noKeyColumn: ({ name }: { name: string }) => `Cannot tell the record from others: it has no field \`${name}\`.`,
  noOneKey: ({ name, count }: { name: string; count: number }) =>
    count === 0
      ? `Cannot tell the record from others: its field ${name} is blank.`
      : `Cannot tell the record from others: its field ${name} has several values.`,
  fillTheKey: () => "Give each record one value there, or send an Idempotency-Key.",
  cannotFindKeyColumn: ({ name }: { name: string }) => `Cannot find the key column \`${name}\`.`,
  keysStandMoreOnceFile: ({ doubleCount, showRowKey }: { doubleCount: number; showRowKey: string }) =>
    `${doubleCount} keys stand more than once in the file, such as "${showRowKey}"; the last row of each was taken.`,
  makeKeyUniqueSourceChoose: () => "Make the key unique in the source, or choose another one.",
  rowsAddedReplacedKeyEdition: ({ added, replaced, rowCount }: { added: number; replaced: number; rowCount: number }) =>
    `${thousands(added)} rows were added and ${thousands(replaced)} replaced by key; ${thousands(rowCount)} of the edition before stay.`,
  nothingDo: () => "Nothing to do.",
  lookWhetherRight: () => "Look whether that is right.",
  rowsEditionBeforeHad: ({ after, before }: { after: number; before: number }) =>
    `There are ${thousands(after)} rows, the edition before had ${thousands(before)}.`,
  askWhetherExportWhole: () => "Ask whether the export is whole.",
  anotherTableNoneColumnsEdition: ({ list, list2 }: { list: string; list2: string }) =>
    `This is another table: it has none of the columns of the edition before (${list}), but ${list2}.`,
  loadRightFileSheetTable: () =>
    "Load the right file, sheet or table; if this is a table of its own, load it as another dataset.",
  columnRenamed: ({ name, to, why, usedBy }: { name: string; to: string; why: string; usedBy: string }) =>
    `The column "${name}" is gone; "${to}" is probably the same (${why}).${usedBy}`,
  columnMissing: ({ name, usedBy }: { name: string; usedBy: string }) =>
    `The column "${name}" of the edition before is missing.${usedBy}`,
  useOneName: () => "Give it its old name in the source, or change the reports to the new one.",
  loadWithColumn: () => "Ask whether the export has changed; load it again with the column.",
  columnNew: ({ name }: { name: string }) => `The column "${name}" is new.`,
  columnNow: ({ name, from, to, usedBy }: { name: string; from: string; to: string; usedBy: string }) =>
    `The column "${name}" was ${from} and is ${to} now.${usedBy}`,
  lookCellsIfTypeWrong: () => "Look at its cells; if the type is wrong, correct it once for the dataset.",
  theyHoldSameValues: () => "they hold the same values",
  namesAlike: () => "the names are alike",
  didStandEditionBefore: () => "did not stand in the edition before",
  editionBeforeRowsAnyMore: () => "of the edition before have no rows any more",
};
