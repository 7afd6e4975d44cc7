export const serviceIntake = {
  cannotLoadAnythingArchived: ({ now }: { now: string }) => `Cannot load anything into \`${now}\`: it is archived.`,
  bringBackFirst: () => "Bring it back first.",
  cannotAddEditionBeforeKey: () => "Cannot add to the edition before: no key is set.",
  nameColumnsTellRowsApart: () => "Name the columns that tell rows apart.",
  cannotTakeMailPort: ({ port, message }: { port: number; message: string }) =>
    `Cannot take mail on port ${port}: ${message}.`,
  setAnotherPort: () => "Set another port.",
  datasetTakesFiles: ({ address }: { address: string }) => `No dataset takes files at ${address}.`,
  allowedSendFiles: ({ writers, dataset }: { writers: string; dataset: string }) =>
    `${writers || "Nobody"} is not allowed to send files for ${dataset}.`,
  cannotFindTableAmongAttachments: ({ tableCount, tables }: { tableCount: number; tables: string }) =>
    tableCount === 0
      ? "Cannot find a table among the attachments."
      : `Cannot tell which attachment is the table: there are ${tables}.`,
  sendWorkbookTextJsonFile: () => "Send one workbook, text or JSON file per message.",
  somethingWentWrongService: ({ wordsOf }: { wordsOf: string }) => `Something went wrong in the service: ${wordsOf}`,
  loadedFolderCannotWrittenSo: ({ file }: { file: string }) =>
    `${file} was not loaded: its folder cannot be written, so it could not be moved away afterwards.`,
  loadedButCouldMovedAway: ({ file, wordsOf }: { file: string; wordsOf: string }) =>
    `${file} was loaded, but could not be moved away: ${wordsOf}`,
  loaded: ({ file, dataset, message }: { file: string; dataset: string; message: string }) =>
    `${file} was not loaded into ${dataset}.\n\n${message}\n`,
  mayNotSendFor: ({ from, dataset }: { from: string; dataset: string }) =>
    `${from || "An unnamed sender"} is not allowed to send files for ${dataset}.`,
};
