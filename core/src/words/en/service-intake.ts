export const serviceIntake = {
  signInNeedsTls: () =>
    "Cannot ask for a sign-in where files come by mail: without a certificate it would go over an open line.",
  giveCertificate: () => "Give tlsCertificate and tlsKey, or take intakeMailSignIn out.",
  wrongToken: () => "Cannot sign in: this is not the name and a token of somebody here.",
  mayNotPrepare: ({ name }: { name: string }) => `Cannot take files from ${name}: they may not prepare.`,
  recordFileTooLarge: ({ most }: { most: number }) =>
    `Cannot take records of more than ${most.toLocaleString("en")} bytes in a file.`,
  noReportTakesRecords: ({ dataset }: { dataset: string }) => `No report over ${dataset} takes single records.`,
  recordsRun: ({ runs }: { runs: string }) => `run ${runs}`,
  takesNoRecords: ({ report }: { report: string }) => `The report \`${report}\` takes no single records.`,
  sayTakesRecords: () => "Say in its definition that it does: records: { key: [training_no] }.",
  noRecords: ({ most }: { most: number }) =>
    `Expected one record, or a list of up to ${most.toLocaleString("en")} of them.`,
  recordWithoutKey: () => "Cannot tell the record from others: it has no key.",
  sendKey: () => "Send an Idempotency-Key, or name the columns that tell records apart in the report: records, key.",
  recordOrigin: ({ key }: { key: string }) => `record ${key}`,
  otherRecordUnderKey: ({ key }: { key: string }) => `Another record came under the key \`${key}\` before.`,
  giveNewKey: () =>
    "A record that was changed needs a key of its own; the same record again is answered as the first time.",
  callbackNotAllowed: ({ callback }: { callback: string }) =>
    `Cannot tell \`${callback}\`: the report does not allow it.`,
  allowCallback: () => "Name the address, or its beginning, in the report: records, callbacks.",
  notTheForm: () => "Cannot read the body, expected a record or a list of records as JSON, or the fields of a form.",
  sendAsJson: () => "Send it as application/json or application/x-www-form-urlencoded.",
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
