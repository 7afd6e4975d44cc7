export const serviceRecords = {
  changeFailed: ({ name, why }: { name: string; why: string }) =>
    `Cannot bring the database to this version: the change ${name} failed. ${why} Nothing was changed.`,
  databaseAsBefore: () => "The version before goes on with it as it was.",
  cannotUseDatabaseNewerVersion: ({ newer }: { newer: string }) =>
    `Cannot use the database: a newer version of Corbix has changed it (${newer}).`,
  startNewerVersionRestoreBackup: () => "Start the newer version, or restore the backup that was made before it.",
  cannotReachDatabase: ({ wordsOf }: { wordsOf: string }) => `Cannot reach the database: ${wordsOf}.`,
  seePostgresqlRunsNamePassword: () => "See that PostgreSQL runs there and that name and password are right.",
  cannotGoCursorPageList: () => "Cannot go on from this cursor: no page of this list has given it.",
  takeNextPageBeforeSame: () =>
    "Take `next` of the page before, with the same search and order; or begin without a cursor.",
  cannotGoListChangedMeanwhile: () => "Cannot go on in this list: it was changed meanwhile.",
  beginAgainWithoutCursor: () => "Begin again without a cursor.",
  editionEmptied: ({ number, on }: { number: number; on: string }) =>
    `The rows of edition ${number} were deleted on ${on}.`,
  takeNewerEdition: () => "Take a newer edition; number, digest and counts of this one stay.",
  fileErased: ({ number }: { number: number }) =>
    `The file of edition ${number} was deleted when somebody was erased from its rows.`,
  rowsAreThere: () => "Its rows are there, without them.",
  editionIsNewest: ({ number, name }: { number: number; name: string }) =>
    `Cannot delete the rows of edition ${number}: it is the newest of ${name}.`,
  loadNewerFirst: () => "Load a newer one first, or archive the dataset.",
  editionIsUsed: ({ number, runs }: { number: number; runs: string }) =>
    `Cannot delete the rows of edition ${number}: runs that are under way use it (${runs}).`,
  finishRunsFirst: () => "Let them finish, or stop them.",
  cannotStoreFileFileStore: ({ limit }: { limit: number }) =>
    `Cannot store the file: the file store may hold ${limit} bytes.`,
  nothingKeptRaiseLimitLet: () =>
    "Nothing of it was kept. Raise the limit, or let reports delete what is over by their retention.",
  cannotAddEditionBeforeAnother: () => "Cannot add to the edition before: another one came in between.",
  loadFileAgain: () => "Load the file again.",
  fileSameByteByteEdition: ({ number }: { number: undefined | number }) =>
    `This file is the same, byte for byte, as edition ${number}.`,
  ifNewExpectedExportAgain: () => "If a new one was expected, export again.",
  cannotFindDataset: ({ name }: { name: string }) => `Cannot find the dataset \`${name}\`.`,
  cannotFindEdition: ({ number, dataset }: { number: number; dataset: string }) =>
    `Cannot find edition ${number} of \`${dataset}\`.`,
  loadFileFirst: () => "Load a file into it first.",
};
