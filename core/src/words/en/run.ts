import { thousands } from "./numbers.js";

export const run = {
  documentGoesWithoutDeliveredGroup: ({
    named,
    missingCount,
    gapsNamed,
    missingCount2,
  }: {
    named: string;
    missingCount: number;
    gapsNamed: number;
    missingCount2: number;
  }) =>
    `The file goes on without ${named}${missingCount > gapsNamed ? ` and ${missingCount2} more` : ""}: not delivered to this group.`,
  madeUpFor: ({ period, account }: { period: string; account: string }) =>
    `Made up for ${period} in the files that grow: ${account}`,
  deliverMissingFirstLetGo: () =>
    "Load data that has rows of it, or deliver it first, or let the file go without; what is delivered later is put in its place next time.",
  cannotProtectFileBlank: ({ what }: { what: string }) => `Cannot protect the file: its ${what} is blank.`,
  protect: ({ what }: { what: string }) => `protect, ${what}`,
  fillGroupDataRecipientList: () => "Fill it in for this group, in the data or the recipient list.",
  cannotTakePeriodColumnHolds: ({ name, type }: { name: string; type: string }) =>
    `Cannot take the period from \`${name}\`: the column holds ${type}, expected dates.`,
  nameColumnDateDecides: () => "Name the column with the date that decides.",
  without: ({ column }: { column: string }) => `without ${column}`,
  groupRun: ({ counted, name, rowsIn, named }: { counted: string; name: string; rowsIn: number; named: string }) =>
    `${counted} of ${name} ${rowsIn === 1 ? "belongs" : "belong"} to no group of this run: ${named}.`,
  seeWhetherTheirGroupsRows: () =>
    "See whether their groups have no rows this time, or are spelled otherwise; then merge them.",
  severalGroupsEach: ({
    counted,
    name,
    rowsIn,
    named,
  }: {
    counted: string;
    name: string;
    rowsIn: number;
    named: string;
  }) => `${counted} of ${name} ${rowsIn === 1 ? "goes" : "go"} to several groups each: ${named}.`,
  ifEachGroupSOnly: () => "If each is one group's only, match by the column that the report is split by as well.",
  cannotFillExpectedTemplateEnding: ({ file }: { file: string }) =>
    `Cannot fill \`${file}\`, expected a template ending in .xlsx, .docx or .pptx.`,
  cannotUseCellsSheetperDocument: () => "Cannot use cells or sheetPer with a document.",
  useMarksBookmarksDocument: () => "Use marks or bookmarks in the document.",
  cannotUseFieldLinesName: () => "Cannot use a field of lines in a name: a group has many lines.",
  useValueGroupSharesFirst: () => "Use a value the group shares, or first(…).",
  cannotLookNothingNamesGroup: ({ found }: { found: string }) =>
    `Cannot look for \`${found}\`: nothing in it names the group, so every group would get the same file.`,
  nameGroupSuchSayAll: () =>
    "Name the group in it, such as {{ group.label }}, or say that it is for all: forAll: true.",
  cannotFindTemplate: ({ name }: { name: string }) => `Cannot find the template \`${name}\`.`,
  blankMiddleText: ({ source, label, count }: { source: string; label: string; count: number }) =>
    `{{ ${source} }} is blank for ${label}${count > 1 ? `, ${count} times` : ""}, in the middle of a text.`,
  fillSayStandsInstead: ({ source }: { source: string }) =>
    `Fill it in, or say what stands instead: {{ coalesce(${source}, "…") }}.`,
  sheetHoldsRowsAllGroups: ({ sheet }: { sheet: string }) =>
    `Its sheet "${sheet}" holds rows of all groups, and stays.`,
  nameUnderSheetsOnlyThose: () => "Name under sheets only those that stay.",
  chartDrawsCellsSheetRows: () => "A chart in it draws cells of a sheet with rows of all groups, and stores them.",
  letChartDrawCellsSheet: () => "Let the chart draw cells of a sheet that stays.",
  nameAnotherGroupStandsInside: ({ name }: { name: string }) => `The name of another group, "${name}", stands inside.`,
  doSendTakeOutTemplate: () =>
    "Do not send. Take it out of the template or the data, or leave the seal off if the word is meant otherwise.",
  filledRowsAllGroupsWould: () => "It is filled with rows of all groups, and would leave with them.",
  letLeaveValuesOnlyWithout: () =>
    "Let it leave with values only and without the sheet that holds them: values: true, and under sheets those that stay. Or give the lines a match.",
  showsRowsAllGroups: () => "It shows rows of all groups.",
  showSumsOverThemOnly: () => "Show sums over them only, or give the lines a match.",
  rowsCameButGroupsLeft: ({
    master,
    made,
    inGroups,
    leftOut,
  }: {
    master: number;
    made: number;
    inGroups: number;
    leftOut: number;
  }) =>
    `${master} rows came in${made === 0 ? "" : ` and ${made} were made`}, but ${inGroups} are in groups and ${leftOut} left out.`,
  doSendTellWhoeverLooks: () => "Do not send. Tell whoever looks after the service.",
  total: ({ name }: { name: string }) => `total ${name}`,
  masterButParcelsLeftOut: ({
    name,
    master,
    parcels,
    leftOut,
  }: {
    name: string;
    master: string;
    parcels: undefined | string;
    leftOut: string;
  }) => `${name} is ${master} in the master, but ${parcels} in the parcels and ${leftOut} left out.`,
  nothingToSend: ({ leftOut }: { leftOut: number }) =>
    `There is nothing to send this time: ${leftOut === 1 ? "the one row was" : `all ${thousands(leftOut)} rows were`} left out, with the reasons above.`,
  nothingToDoEmpty: () => "Nothing is made and nothing goes out; look at the reasons if that surprises.",
  rowsLeftSoNothingMake: () => "No rows are left, so there is nothing to make.",
  lookPeriodRowsLeftOut: () => "Look at the period and at the rows left out.",
  rowsWrittenWaysFormulasTemplate: ({
    label,
    spellingCount,
    spellings,
  }: {
    label: string;
    spellingCount: number;
    spellings: string;
  }) =>
    `The rows of "${label}" are written in ${spellingCount} ways: ${spellings}. Formulas of a template that look for its name in its own rows miss the others; in rows of all groups (lines: all) they are written alike.`,
  writeRowsAlikePreparationReplace: () =>
    "Write the rows alike in the preparation (replace), or fill the data area with lines: all.",
  cannotFindGroup: ({ value, unknown }: { value: string; unknown: string }) =>
    `Cannot find the group${value} ${unknown}.`,
  cannotTryTemplateReportMakes: () => "Cannot try the template: the report makes no groups for this period.",
  choosePeriodRows: () => "Choose a period that has rows.",
  cannotFindGroupPeriod: ({ wanted }: { wanted: string }) => `Cannot find the group \`${wanted}\` in this period.`,
  groupLeftOut: ({ what }: { what: string }) => `${what} Its group is left out.`,
  putFileThenRunAgain: () => "Put the file there, then run again for this group: it stays due.",
  messageGoesWithout: () => "Its message goes without.",
  fileFolderAttachments: ({ name }: { name: string }) => `No file "${name}" is in the folder of attachments.`,
  putThenRunAgain: () => "Put it there, then run again.",
  meansFiles: ({ name, foundCount, found }: { name: string; foundCount: number; found: string }) =>
    `"${name}" means ${foundCount} files: ${found}.`,
  nameMoreNarrowlyTakeOthers: () => "Name it more narrowly, or take the others away.",
  wouldGoGroups: ({ path, otherCount, list }: { path: string; otherCount: number; list: string }) =>
    `"${path}" would go to ${otherCount} groups: ${list}.`,
  nameGroupFileSName: () => "Name the group in the file's name, or say in the report that it is for all: forAll: true.",
  namesWouldGo: ({ path, other, label }: { path: string; other: string; label: string }) =>
    `"${path}" names "${other}", and would go to "${label}".`,
  nameMoreNarrowlyRenameFile: () =>
    "Name it more narrowly, or rename the file, or say in the report that it is for all: forAll: true.",
  empty: ({ isThere, path }: { isThere: boolean; path: string }) =>
    isThere ? `"${path}" is empty.` : `"${path}" cannot be read.`,
  mayStillWayPutWhole: () => "It may still be on its way: put it there whole, then run again.",
  filesMade: ({ fileCount, plannedFiles }: { fileCount: number; plannedFiles: number }) =>
    `${fileCount} of ${plannedFiles} files were made.`,
  makeRunAgain: () => "Make the run again.",
  fileEmpty: ({ path }: { path: string }) => `"${path}" is empty.`,
  madeGroupSRows: ({ path }: { path: string }) => `"${path}" was not made of this group's rows.`,
  doSendMakeRunAgain: () => "Do not send. Make the run again.",
  cannotUseRecordExpectedObject: () => "Cannot use the record, expected one object with named fields.",
  templateMarksNothingCalledField: () =>
    "The template has no marks, and nothing in it is called as a field of the record; it came out as it went in.",
  writeMarksSuchHeadTable: () =>
    "Write marks such as {{ site }} into it, or head a table of it by the names of the lines' fields.",
  cannotUseFieldExpectedText: () => "Cannot use this field, expected a text, number, date or truth value.",
  cannotUseExpectedListObjects: ({ list }: { list: string }) =>
    `Cannot use \`${list}\`, expected a list of objects with named fields.`,
  and: ({ count, only, first, last }: { count: number; only: string; first: string; last: string }) =>
    count < 2 ? only : `${first} and ${last}`,
  earlierPeriod: ({ name }: { name: string }) => `${name} of an earlier period`,
  withoutValue: ({ name }: { name: string }) => `without ${name}`,
  notIn: ({ column, key }: { column: string; key: string }) => `${column} not in ${key}`,
  matchColumn: ({ where, data }: { where: string; data: string }) => `${where}, match, column of ${data}`,
  belongGroup: () => "belong to no group",
  fileOfGroup: ({ groupWords, name }: { groupWords: string; name: string }) => `${groupWords}, file ${name}`,
  message: ({ own }: { own: string }) => `message to ${own}`,
  withoutColumns: ({ splitColumns }: { splitColumns: string }) => `without ${splitColumns}`,
  groupsChosen: () => "in groups that were not chosen",
  structureItself: () => "the structure itself",
  groupSLines: ({ columnKey, first }: { columnKey: string; first: string }) =>
    columnKey === "line" ? "the group's lines" : `column ${first}, which all lines of the group share`,
  columnEachLine: ({ second }: { second: string }) => `column ${second} of each line`,
  columnOfLines: ({ each, second }: { each: boolean; second: string }) =>
    each ? `column ${second} of each line` : `column ${second} over the group's lines`,
  mostRows: ({ rows }: { rows: string }) => `most rows (${rows})`,
  fewestRows: ({ rows }: { rows: string }) => `fewest rows (${rows})`,
  sealed: ({ groups, found, count }: { groups: string; found: number; count: string }) =>
    `Sealed: every file and message was searched for the names of ${groups}; ${found === 0 ? "none stands in another's" : `${count} stand in another's`}.`,
  rowsAddUp: ({
    master,
    made,
    madeShown,
    inGroups,
    groups,
    leftOut,
  }: {
    master: string;
    made: undefined | number;
    madeShown: string;
    inGroups: string;
    groups: string;
    leftOut: string;
  }) => `${master} rows${made ? ` + ${madeShown} made by stacking` : ""} = ${inGroups} in ${groups} + ${leftOut}.`,
  furtherRowsAddUp: ({
    name,
    rows,
    inGroups,
    leftOut,
  }: {
    name: string;
    rows: string;
    inGroups: string;
    leftOut: string;
  }) => `${name}: ${rows} = ${inGroups} in groups + ${leftOut}.`,
  leftOut: ({ count, reasons }: { count: string; reasons: string }) => `${count} left out${reasons}`,
  overAllRowsKept: ({ name, shown }: { name: string; shown: string }) => `${name} is ${shown} over all rows kept.`,
  rowsGroup: ({ leftOut, shown }: { leftOut: number; shown: string }) =>
    leftOut === 0 ? "" : ` + ${shown} in rows of no group`,
  totalAddsUp: ({
    name,
    master,
    sign,
    parcels,
    rest,
  }: {
    name: string;
    master: string;
    sign: string;
    parcels: string;
    rest: string;
  }) => `${name}: ${master} in the master ${sign} ${parcels} in the parcels${rest}.`,
  noneEmpty: ({ made, empty, number }: { made: number; empty: number; number: string }) =>
    made === 0 ? "" : empty === 0 ? ", none empty" : `, ${number} of them empty`,
  filesMadeOf: ({ made, planned, emptiness }: { made: string; planned: string; emptiness: string }) =>
    `${made} of ${planned} files made${emptiness}.`,
  messagesTo: ({ messages, people, sizes }: { messages: string; people: string; sizes: string }) =>
    `${messages} to ${people}${sizes}.`,
  sameNameOnWay: ({ name }: { name: string }) =>
    `Cannot write over what is there: more than one file of the run would be "${name}".`,
  nameFilesApart: () => "Let folder or name hold something of each group, such as {{ group.key }}.",
  filesToWay: ({ files, way }: { files: string; way: string }) => `${files} to the way out ${way}.`,
  record: () => "the record",
  sizes: ({ together, largest }: { together: string; largest: string }) =>
    `, ${together} together, the largest ${largest}`,
  ofRecipientList: () => "the recipient list",
  ofPeriod: () => "the period",
  ofRun: () => "the run",
  ofGroup: () => "the group",
  ofAllGroups: () => "all groups",
  cannotFillDeckByName: () => "Cannot use cells, tables or sheetPer with a slide deck.",
  useMarksOfDeck: () => "Use marks on its slides: {{table line}}, {{repeat slide line by …}}.",
};
