export const serviceLibrary = {
  cannotSaveSinceRead: ({ by }: { by: undefined | string }) =>
    `Cannot save: ${by === undefined ? "it was changed" : `${by} saved it`} since it was read.`,
  readAgainCopyYouWrote: () => "Read it again; copy what you wrote first.",
  cannotUseTemplateSName: ({ name }: { name: string }) =>
    `Cannot use \`${name}\` as a template's name, expected a file name ending in .xlsx, .docx, .pptx, .html, .md, .txt, .png, .jpg, .pdf, .csv, .ics or .zip.`,
  cannotUsePicture: ({ name, image }: { name: string; image: string }) =>
    `Cannot use \`${name}\` as a picture: it is ${image === "other" ? "neither PNG nor JPEG" : "damaged"}.`,
  cannotFindTemplate: ({ name }: { name: string }) => `Cannot find the template \`${name}\`.`,
  cannotKeepReportNameBut: ({ report, expectedName }: { report: string; expectedName: string }) =>
    `Cannot keep the report: its name is \`${report}\`, but the address says \`${expectedName}\`.`,
  cannotKeepAnythingCalledNow: ({ name, now }: { name: string; now: string }) =>
    `Cannot keep anything as \`${name}\`: it is called \`${now}\` now.`,
  useNameChooseAnother: () => "Use that name, or choose another one.",
  cannotUseArchived: ({ name }: { name: string }) => `Cannot use \`${name}\`: it is archived.`,
  bringBackFirst: () => "Bring it back first.",
  cannotFindDataset: ({ data }: { data: string }) => `Cannot find the dataset \`${data}\`.`,
  loadFileFirstCorrectName: ({ suggestion }: { suggestion: string }) =>
    `Load a file into it first, or correct the name. ${suggestion}`,
  cannotFindReport: ({ name }: { name: string }) => `Cannot find the report \`${name}\`.`,
  cannotFindCalendar: ({ name }: { name: string }) => `Cannot find the calendar \`${name}\`.`,
  calendarIsUsed: ({ name, usedBy }: { name: string; usedBy: string }) =>
    `Cannot delete the calendar \`${name}\`: these reports go by it: ${usedBy}.`,
  changeReportsFirst: () => "Let them go by another calendar first.",
  cannotUseRecipientList: ({ what }: { what: string }) => `Cannot use the recipient list: ${what}`,
  cannotKeepEntry: ({ what }: { what: string }) => `Cannot keep the entry: ${what}`,
  cannotRenameSomebodyChangedRecipient: () => "Cannot rename: somebody changed the recipient list just now.",
  tryAgain: () => "Try again.",
  cannotFindRowList: ({ row }: { row: number }) => `Cannot find row ${row} in the list.`,
  lookListAgainSomebodyMay: () => "Look at the list again; somebody may have changed it.",
  cannot: ({ deed, called, name, whyNot }: { deed: string; called: string; name: string; whyNot: string }) =>
    `Cannot ${deed} the ${called} \`${name}\`: ${whyNot}.`,
  cannotUseFileSName: ({ kind, to, ending }: { kind: string; to: string; ending: string }) =>
    kind === "templates"
      ? `Cannot use \`${to}\` as the file's name, expected letters, digits, blanks, dots and hyphens, and ${ending} at the end as before.`
      : `Cannot use \`${to}\` as a name, expected small letters, digits and hyphens, such as site-statement.`,
  cannotUseNameTaken: ({ to }: { to: string }) => `Cannot use the name \`${to}\`: it is taken.`,
  chooseAnother: () => "Choose another one.",
  cannotChangeSomebodyElseJust: ({ name }: { name: string }) =>
    `Cannot change \`${name}\`: somebody else has just done so.`,
  seeListAgain: () => "See the list again.",
  cannotRenameSomebodyElseSaved: ({ name }: { name: string }) =>
    `Cannot rename: somebody else saved \`${name}\` just now.`,
  cannotFindColumn: ({ one, name }: { one: string; name: string }) => `Cannot find the column \`${one}\` in ${name}.`,
  cannotMergeRowNothingChanged: ({
    what,
    spelling,
    name,
    column,
  }: {
    what: string;
    spelling: string;
    name: string;
    column: string;
  }) =>
    `Cannot merge ${what === "from" ? "" : "into "}\`${spelling}\`: no row of ${name} has it as ${column}. Nothing was changed.`,
  cannotUseAddressTakesFiles: ({ box, name }: { box: string; name: string }) =>
    `Cannot use the address \`${box}\`: it takes files for ${name}.`,
  chooseAnotherName: () => "Choose another name.",
  cannotUseFontSName: ({ name }: { name: string }) =>
    `Cannot use \`${name}\` as a font's name, expected one ending in .ttf or .woff.`,
  cannotKeepFontReadsOtherwise: () => "Cannot keep the font: it reads otherwise than it was written.",
  seeDiskWellNothingKept: () => "See that the disk is well. Nothing was kept.",
  cannotHoldMadeTooLarge: () => "Cannot hold what was made: it is too large to be looked at.",
  makeCommandMakeLess: () => "Make it with the command, or make less of it.",
  cannotFindFileHeldShort: () => "Cannot find the file: it is held for a short while only.",
  makeAgain: () => "Make it again.",
  cannotFindFileReport: ({ file }: { file: string }) => `Cannot find the file \`${file}\` in the report.`,
  report: ({ keys }: { keys: string }) => `The report has: ${keys}.`,
  runOver: ({ names }: { names: string }) => `a run of it is not over (${names})`,
  nameStandsText: ({ names }: { names: string }) => `its name stands in the text of ${names}`,
  archivedReportMade: ({ names }: { names: string }) => `an archived report is made from it (${names})`,
  reportMade: ({ names }: { names: string }) => `a report is made from it (${names})`,
  releaseFirst: () => "Release or stop it first.",
  changeNameFirst: () => "Change the name there first, after adding the file under its new name.",
  archiveReportFirst: () => "Archive or change that report first.",
  deleteReportFirst: () => "Delete that report first.",
};
