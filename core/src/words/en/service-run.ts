import { thousands } from "./numbers.js";

export const serviceRun = {
  nothingToSendFor: ({ report, period, account }: { report: string; period: string; account: string }) =>
    `${report}, ${period}: nothing to send. ${account}`,
  delivery: () => "delivery, from",
  cannotSend: ({ sender, notSender }: { sender: string; notSender: string }) =>
    `Cannot send as ${sender}: ${notSender}.`,
  addAddressIdentitySSenders: () => "Add the address to the identity's senders, or take it out of the report.",
  cannotSendDomain: ({ wrong, notDomain }: { wrong: string; notDomain: string }) =>
    `Cannot send to ${wrong}: ${notDomain}.`,
  correctAddressAddDomainIdentity: () => "Correct the address, or add the domain to the identity.",
  cannotNarrowRecipientListSuch: ({ field }: { field: string }) =>
    `Cannot narrow by \`${field}\`: the recipient list has no such field.`,
  deliveryNarrow: () => "delivery, narrow",
  cannotNarrowNobodyList: ({ value, known }: { value: string; known: string }) =>
    `Cannot narrow to \`${value}\`: nobody of the list has it as ${known}.`,
  senderAllowed: () => "sender-not-allowed",
  wouldSent: ({ sender, notSender }: { sender: string; notSender: string }) =>
    `It would be sent as ${sender}, and ${notSender}.`,
  addSenderThenRun: () => "Add the address to the identity's senders, or take it out of the report; then run again.",
  domainAllowed: () => "domain-not-allowed",
  wouldGo: ({ address, notDomain }: { address: string; notDomain: string }) =>
    `It would go to ${address}, and ${notDomain}.`,
  correctThenRun: () => "Correct the address, or add the domain to the identity; then run again.",
  cannotFindGroupNothingChanged: ({ value, unknown }: { value: string; unknown: string }) =>
    `Cannot find the group${value} ${unknown}. Nothing was changed.`,
  cannotChoosePeriodEveryOver: ({ report, waitCount, waits }: { report: string; waitCount: number; waits: string }) =>
    `Cannot choose a period for \`${report}\`: every one that is over and has rows was delivered${waitCount > 0 ? `, or is under way (${waits})` : ""}.`,
  edition: ({ number, data }: { number: number; data: string }) => `edition ${number} of ${data}`,
  period: () => "period",
  deliveredWith: ({ later }: { later: string }) => `delivered with ${later} already`,
  periodStandsInFiles: ({ period, run, later }: { period: string; run: string; later: string }) =>
    `${period} stands in the files of ${later} already: run ${run} made up for it.`,
  stopRunUnlessAgain: () => "Stop this run, unless people are to get the period by itself as well.",
  loadNewerDataNamePeriod: () => "Load newer data, or name the period that shall be run.",
  cannotRunRenamedPutAway: ({ name }: { name: string }) =>
    `Cannot run \`${name}\`: it was renamed or put away meanwhile.`,
  seeListReports: () => "See the list of reports.",
  cannotRunReportPeriod: ({ report, period }: { report: string; period: string }) =>
    `Cannot run \`${report}\` for \`${period}\`: the report has no period.`,
  leavePeriodOutAddReport: () => "Leave the period out, or add one to the report.",
  cannotFindRun: ({ id }: { id: string }) => `Cannot find the run \`${id}\`.`,
  seeListRuns: () => "See the list of runs.",
  cannotReleaseRunExpectedHeld: ({ state }: { state: string }) =>
    `Cannot release the run: it is ${state}, expected held.`,
  released: ({ by, on }: { by: string | null; on: string }) => `It was released by ${by} on ${on}.`,
  waitUntilHeld: () => "Wait until it is held, or start another.",
  cannotReleaseRun: ({ what }: { what: string }) => `Cannot release the run: ${what}`,
  cannotReleaseRunApprovedAlready: ({ by, whenOf }: { by: string; whenOf: string }) =>
    `Cannot release the run: ${by} has approved it already, on ${whenOf}, and another person has to.`,
  hasToBeAnother: ({ by, isStarter }: { by: string; isStarter: boolean }) =>
    `Cannot release the run: ${by} ${isStarter ? "started it" : "saved its report last"}, and another person has to.`,
  approvedForFewer: ({ by, count }: { by: string; count: number }) =>
    `Cannot release the run: ${by} has approved ${count} ${count === 1 ? "group" : "groups"} of it only.`,
  releaseThoseGroups: () => "Release those groups, or ask for the others to be approved too.",
  askColleagueLookProofRelease: () => "Ask a colleague to look at the proof and release it.",
  cannotReleaseRunTimeOver: () => "Cannot release the run at a time that is over.",
  cannotSetTimeTwoPeople: () => "Cannot set a time: two people have to release this run.",
  cannotSetTimeRunExpected: ({ state }: { state: string }) =>
    `Cannot set a time for the run: it is ${state}, expected held.`,
  cannotStopRunAlready: ({ state }: { state: string }) => `Cannot stop the run: it is ${state} already.`,
  cannotHandOutFilesRun: ({ state }: { state: string }) => `Cannot hand out the files: the run is ${state}.`,
  cannotHandOutMadeAnother: ({ path }: { path: string }) => `Cannot hand out "${path}": it was made for another group.`,
  runGroup: ({ runId, label }: { runId: string; label: string }) => `run ${runId}, group ${label}`,
  cannotHandOutDeletedWhen: ({ path }: { path: string }) =>
    `Cannot hand out "${path}": it was deleted when its time was over.`,
  cannotWriteBesideManyFile: ({ clash, clash2 }: { clash: string; clash2: string }) =>
    `Cannot write "${clash}" beside "${clash2}": for many file systems they are one.`,
  nameFilesFoldersApartReport: () => "Name the files or folders apart in the report. Nothing was written.",
  cannotPutBytesZipFile: ({ bytes }: { bytes: number }) => `Cannot put ${bytes} bytes into one zip file.`,
  takeSomeGroupsTimeWrite: () => "Take some of the groups at a time, or write them to a folder.",
  cannotPrintRunPdfs: () => "Cannot print the run: it has no PDFs.",
  letReportMakePdfsPdf: () => "Let the report make PDFs: pdf: too.",
  cannotWriteLiesOutsideOutgoing: ({ path }: { path: string }) =>
    `Cannot write "${path}": it lies outside of the outgoing folder.`,
  cannotWriteReadsOtherwiseWritten: ({ path }: { path: string }) =>
    `Cannot write "${path}": it reads otherwise than it was written.`,
  seeFolderRoomWellNothing: () => "See that the folder has room and is well. Nothing was written.",
  cannotWriteFilesSpaceLeft: () => "Cannot write the files: no space is left in the outgoing folder.",
  makeRoomThenTryAgain: () => "Make room there, then try again. Nothing was written.",
  cannotWriteAnotherFileName: ({ path }: { path: string }) =>
    `Cannot write "${path}": another file of that name is there.`,
  nameAnotherFolderMoveFile: () => "Name another folder, or move that file away. Nothing was written.",
  cannotPutFile: ({ path, words }: { path: string; words: string }) => `Cannot put "${path}": ${words}.`,
  cannotReachWebFolder: ({ wordsOf }: { wordsOf: string }) => `Cannot reach the web folder: ${wordsOf}.`,
  seeAddressRightCanReached: () => "See that its address is right and that it can be reached from here.",
  filesPutBefore: ({ put }: { put: number }) => `${put} files were put before.`,
  afterRunPlanned: ({ origin, isNow }: { origin: string; isNow: boolean }) =>
    `"${origin}" was ${isNow ? "changed" : "taken away"} after the run was planned.`,
  runAgainSoGoesOut: () => "Run again, so that what goes out is what was looked at.",
  messageAboutKbIdentitySends: ({ round, from, round2 }: { round: number; from: string; round2: number }) =>
    `Its message has about ${thousands(round)} kB; the identity ${from} sends at most ${thousands(round2)} kB.`,
  groupAnd: ({ label, where }: { label: string; where: string }) => `group ${label}, ${where}`,
  filesNotMade: () => "Its files could not be made.",
  correctAndRunAgain: () => "Correct the template or the data, and run again.",
  parcels: ({ what, count }: { what: string; count: undefined | number }) => `${what} (in ${count} parcels)`,
  identityMaySend: ({ name }: { name: string }) => `the identity \`${name}\` may not send as it`,
  identityMaySendOnly: ({ name, domains }: { name: string; domains: string }) =>
    `the identity \`${name}\` may send to ${domains} only`,
  periodUnderWay: ({ period, state, run }: { period: string; state: string; run: string }) =>
    `${period} is ${state} as run ${run}`,
  deliveredAlready: ({ day }: { day: string }) => `delivered already on ${day}`,
  chosenWhenRunReleased: ({ by }: { by: string }) => `not chosen by ${by} when the run was released`,
  timeSet: () => "the time that was set",
  runStopped: ({ by }: { by: string }) => `the run was stopped by ${by}`,
  reportItself: () => "the report itself",
  makeFilesSmaller: () => "Make the files smaller, or let the identity zip them or send links.",
  attachmentsZipped: () => "Its attachments are put into a zip file.",
  linksInstead: () => "Links to its files are put in place of its attachments.",
  processEnded: () =>
    "the sending process ended between taking this message up and writing down what became of it: it may have gone out or not",
  figuresBy: ({ run }: { run: string }) => `run ${run}`,
  figuresNotMade: ({ report, why }: { report: string; why: string }) =>
    `${report}: its figures were not made, so nothing that follows was started. ${why}`,
  noFiguresYet: () => "Cannot make data of its figures: the run was not released.",
  releaseFirst: () => "Release it first: what was not let go is no figure.",
  noMessage: () => "no message",
  figuresDataset: () => "figures, dataset",
  datasetIsLoaded: ({ name, origin }: { name: string; origin: string }) =>
    `Cannot put figures into \`${name}\`: it is loaded from files, the newest "${origin}".`,
  nameAnotherDataset: ({ name }: { name: string }) => `Name a dataset of their own, such as ${name}-figures.`,
  figuresCircle: ({ data }: { data: string }) =>
    `Cannot keep figures there: they would lead back to \`${data}\` and start this report again and again.`,
  breakTheCircle: () => "Let one of the reports start by hand or by a schedule: startOnData: false.",
  amongRowsTicked: () => "not among the rows that were ticked",
  leftOutRow: () => "left out by the preparation",
  noRowOfNumber: ({ row, dataset, edition }: { row: number; dataset: string; edition: number }) =>
    `Cannot find row ${row} in ${dataset} edition ${edition}.`,
  tickRowsAgain: () => "Pick the rows again: the data may have changed.",
};
