export const command = {
  cannotReadFileNone: () => "Cannot read the file: there is none.",
  cannotReadFile: ({ why }: { why: string }) => `Cannot read the file: ${why}.`,
  cannotWriteFolderEmpty: () => "Cannot write into the folder: it is not empty.",
  nameNewFolderEmpty: () => "Name a new folder, or empty this one.",
  cannotUseExpectedWholeNumber: ({ option, text }: { option: string; text: string }) =>
    `Cannot use ${option} ${text}, expected a whole number from 1.`,
  cannotUnderstandType: ({ text }: { text: string }) => `Cannot understand the type \`${text}\`.`,
  writeDueDateDayFirst: () => 'Write "Due=date day-first", "Fee=number comma" or "Code=text".',
  cannotTakeFilesAnybodySender: () => "Cannot take files from anybody: no sender is named.",
  nameAddressDomainLiftsExample: () => "Name an address, or a domain as @lifts.example; or give --stop.",
  cannotFindEdition: ({ dataset }: { dataset: string }) => `Cannot find an edition of \`${dataset}\`.`,
  loadFileFirst: () => "Load a file into it first.",
  cannotUnderstandFilter: ({ text }: { text: string }) => `Cannot understand the filter \`${text}\`.`,
  writeFeeSiteDockRemarks: () => 'Write "Fee >= 9", "Site = Dock", "Remarks has oil", "Result is blank".',
  cannotMergeSpellingCountsMissing: () => "Cannot merge: the spelling it counts as is missing.",
  corbixMerge: ({ dataset, quoted, quoted2 }: { dataset: string; quoted: string; quoted2: string }) =>
    `corbix merge ${dataset} ${quoted} ${quoted2} "…"`,
  cannotDecideMessage: ({ as }: { as: string }) => `Cannot decide a message as "${as}".`,
  sayArrivedAgain: () => "Say arrived, or again.",
  cannotLeaveGroupsOutWithout: () => "Cannot leave groups out without their names.",
  addGroupOftenGroups: () => "Add --group, as often as there are groups.",
  cannotNameRunIdentityIdentity: ({ what }: { what: string }) =>
    `Cannot ${what}: name a run, or an identity with --identity.`,
  seeCorbixRunsCorbixIdentities: () => "See corbix runs and corbix identities.",
  cannotFindMessageNumber: ({ id }: { id: string }) => `Cannot find a message by "${id}": it has a number.`,
  seeCorbixOutbox: () => "See corbix outbox.",
  cannotSetIdentityWithoutName: () => "Cannot set an identity without its name.",
  writeTopSuchNameOffice: () => "Write it at the top, such as name: office.",
  cannotReadTime: ({ text }: { text: string }) => `Cannot read the time "${text}".`,
  writeTime: () => "Write it as 2026-11-03T07:30, or never.",
  cannotFetchFilesRunMade: ({ id }: { id: string }) => `Cannot fetch files of run \`${id}\`: it has made none.`,
  seeCorbixShow: ({ id }: { id: string }) => `See corbix show ${id}.`,
  cannotTellHowListShall: () => "Cannot tell how the list shall be saved.",
  letNameEndCsvXlsx: () => "Let the name end with .csv, .xlsx or .vcf.",
  cannotTellExpectedReportDataset: ({ kind }: { kind: string }) =>
    `Cannot tell what \`${kind}\` is, expected report, dataset or template.`,
  cannotAttachFolderTemplates: ({ name }: { name: string }) =>
    `Cannot attach "${name}": it is not in the folder of the templates.`,
  putNameAnotherFolderTemplates: () => "Put it there, or name another folder with --templates.",
  cannotUseDataCalledSo: ({ option, name }: { option: string; name: string }) =>
    `Cannot use ${option} for \`${name}\`: no --data is called so.`,
  cannotReadExpectedName: ({ spec, option, value }: { spec: string; option: string; value: string }) =>
    `Cannot read \`${spec}\` for ${option}, expected NAME=${value}.`,
  cannotUseCalendar: ({ problems }: { problems: string }) => `Cannot use the calendar: ${problems}`,
  cannotUseCorrections: ({ describeProblems }: { describeProblems: string }) =>
    `Cannot use the corrections: ${describeProblems}.`,
  giveCorrectionsDatasetSuchVisits: () =>
    "Give corrections by dataset, such as visits: { sheet: October, headerRow: 3 }.",
  cannotReplaceNothingWordReplaced: () => "Cannot replace nothing: the word to be replaced is blank.",
  cannotReplaceWordsWithoutFiles: () => "Cannot replace words without files to look into.",
  nameWorkbooksFoldersBehindWords: () => "Name workbooks or folders behind the words.",
  cannotReadListNeedsTwo: () => "Cannot read the list: it needs two columns, a word and what it becomes.",
  cannotMakeWithoutDataset: ({ report, data }: { report: string; data: string }) =>
    `Cannot make \`${report}\` without its dataset \`${data}\`.`,
  giveDataFile: ({ data }: { data: string }) => `Give --data ${data}=FILE.`,
  cannotMakeReportWithout: ({ kind }: { kind: string }) => `Cannot make the report without its ${kind}.`,
  givePeriod: () => "Give --for, such as --for 2026-10.",
  cannotReadDateExpectedDate: ({ text }: { text: string }) =>
    `Cannot read \`${text}\` for --date, expected a date such as 2026-11-02.`,
  cannotUseDate: ({ date }: { date: undefined | string }) => `Cannot use the date \`${date}\`.`,
  writeDate: () => "Write it as 2026-11-02.",
  cannotRenderFileShowsNothing: () => "Cannot render the file: it shows nothing.",
  giveFileContentVisibleSheet: () => "Give a file with content on a visible sheet.",
  cannotGoOnFrom: ({ folder }: { folder: string }) =>
    `Cannot go on from \`${folder}\`: no report that grows was made there.`,
  nameFolderOfMake: () => "Name the folder that `corbix make --out` wrote for the period before.",
  pageOfOneRow: ({ form }: { form: string }) => `Cannot make \`${form}\` of the whole list: it is the page of one row.`,
  nameTheRow: () => "Name the row by its number in the list, such as --row 12.",
  cannotReadField: ({ text }: { text: string }) => `Cannot read the field \`${text}\`.`,
  writeField: () => 'Write field=value, such as "site=Alder Court"; corbix enquiries NAME tells the fields.',
  pickRows: () => "Cannot look at picked rows: none are picked.",
  pickRowsSo: () => 'Pick them with --row 12, --where "Site = Dock" or --search.',
};
