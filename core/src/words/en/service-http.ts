export const serviceHttp = {
  cannotFindWatcher: ({ name }: { name: string }) => `Cannot find anybody called \`${name}\` who is told.`,
  cannotFindSender: ({ name }: { name: string }) => `Cannot find the sender \`${name}\`.`,
  file: () => "This file is not there.",
  cannotUseIdempotencyKeyExpected: ({ maxKey }: { maxKey: number }) =>
    `Cannot use the Idempotency-Key: expected 1 to ${maxKey} characters.`,
  cannotUseIdempotencyKeyAnother: () => "Cannot use this Idempotency-Key: another call was made with it.",
  giveEachCallKeyOwn: () => "Give each call a key of its own; the same key only where the same is asked once more.",
  cannotAnswerYetCallIdempotency: () => "Cannot answer yet: the call with this Idempotency-Key is being done.",
  tryAgainMomentIfStays: () =>
    "Try again in a moment. If it stays so, the service ended meanwhile: see whether it was done.",
  cannotFindDataset: ({ name }: { name: string }) => `Cannot find the dataset \`${name}\`.`,
  cannotCompareFirstEditionNone: () => "Cannot compare the first edition: there is none before it.",
  nameAnotherEdition: () => "Name another edition.",
  cannotReadCorrections: ({ message }: { message: undefined | string }) =>
    `Cannot read the corrections: ${message ?? "no JSON"}.`,
  giveThemJsonSuchHeader: () => 'Give them as JSON, such as {"header":"none","names":["Site","Fee"]}.',
  cannotFindUploadedFileAny: () => "Cannot find the uploaded file any more.",
  uploadAgain: () => "Upload it again.",
  cannotFindVersion: ({ number, name }: { number: number; name: string }) =>
    `Cannot find version ${number} of \`${name}\`.`,
  seeListVersions: () => "See the list of its versions.",
  cannotFindAttachmentLetter: ({ index, id }: { index: number; id: string }) =>
    `Cannot find attachment ${index} of letter ${id}.`,
  cannotFindSendingIdentity: ({ name }: { name: string }) => `Cannot find the sending identity \`${name}\`.`,
  cannotFindRule: ({ id }: { id: number }) => `Cannot find the rule ${id}.`,
  cannotFindLetter: ({ id }: { id: string }) => `Cannot find letter ${id}.`,
  cannotFindRowList: ({ row }: { row: number }) => `Cannot find row ${row} in the list.`,
  cannotShowRowsTheyDeleted: () => "Cannot show the rows: they were deleted when their time was over.",
  editionTheyCameThemIf: () => "The edition they came from has them, if it is still there.",
  cannotFindFile: ({ id }: { id: string }) => `Cannot find the file \`${id}\`.`,
  cannotOpenDeletedWhenTime: ({ path }: { path: string }) =>
    `Cannot open "${path}": it was deleted when its time was over.`,
  reportSaysRetentionHowLong: () => "Its report says in its retention how long files are kept.",
  cannotFindParcelRun: ({ number, runId }: { number: number; runId: string }) =>
    `Cannot find parcel ${number} of run \`${runId}\`.`,
  nothingVerifiedSinceServiceStarted: () => "Nothing was verified since the service was started.",
  startCorbixVerify: () => "Start it: corbix verify.",
  cannotWorkNothingRequestHolds: () => "Cannot work on nothing: the request holds no file.",
  sendWorkbookXlsxBody: () => "Send a workbook (.xlsx) as the body.",
  cannotReadWordsGivePairs: () => "Cannot read the words: give `from` and `to`, or `pairs` as a list of both.",
  oldMillNewMill: () => '[{"from": "Old Mill", "to": "New Mill"}]',
  cannotFindAddressApi: () => "Cannot find this address in the API.",
  apiLiesUnderSeeOpenapi: ({ base }: { base: string }) => `The API lies under ${base}; see /openapi.json.`,
  seeOpenapiJson: () => "See /openapi.json.",
  cannotAddressTakes: ({ method, methods }: { method: string; methods: string }) =>
    `Cannot ${method} this address: it takes ${methods}.`,
  cannotUse: ({ where, describeProblems }: { where: string; describeProblems: string }) =>
    `Cannot use the ${where}: ${describeProblems}.`,
  cannotAnswerWithoutSign: () => "Cannot answer without a sign-in.",
  signSendTokenAuthorizationBearer: () => "Sign in, or send a token: Authorization: Bearer …",
  cannotTakeCallAnotherSite: () => "Cannot take this call from another site.",
  cannotAnswerNowDatabaseCannot: () => "Cannot answer now: the database cannot be reached.",
  tryAgainMomentNothingChanged: () => "Try again in a moment; nothing was changed.",
  cannotTakeBodyOverLimit: ({ limit }: { limit: undefined | number }) =>
    `Cannot take the body: it is over the limit of ${limit} bytes.`,
  sendLessTablesSentAddresses: () =>
    "Send less; tables are sent to the addresses of datasets, which take them as they come.",
  cannotReadBodyJson: () => "Cannot read the body as JSON.",
  cannotReadCall: () => "Cannot read the call.",
  earliestOverDelivered: ({ label, rest, more }: { label: string; rest: string; more: string }) =>
    `${label} is the earliest that is over and not delivered${rest === "" ? "" : `; also open: ${rest}${more}`}.`,
  newestOverDelivered: ({ label, along }: { label: string; along: string }) =>
    `${label} is the newest that is over and not delivered; what the files go on without is made up for: ${along}.`,
  somethingWentWrong: () => "Something went wrong in the service; its log tells more.",
  filesFor: ({ label }: { label: string }) => `Files for ${label}`,
  showHere: () => "show it here",
  worksUntil: ({ until }: { until: string }) => `This page works until ${until}.`,
};
