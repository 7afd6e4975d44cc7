export const report = {
  cannotReadReport: ({ describeProblems }: { describeProblems: string }) =>
    `Cannot read the report: ${describeProblems}.`,
  fieldsToldDocsDefinitionMd: () => "The fields are told in docs/definition.md.",
  cannotReadTextLongerSigns: ({ mostSigns, mostEntries }: { mostSigns: number; mostEntries: number }) =>
    `Cannot read the text: it is longer than ${mostSigns} signs, or has more than ${mostEntries} entries.`,
  writeLessDefinitionLongTexts: () => "Write less into one definition; long texts can stand in templates.",
  cannotReadTextYaml: ({ message }: { message: string }) => `Cannot read the text as YAML: ${message}.`,
  lineColumn: ({ where, line, col }: { where: string; line: number; col: number }) =>
    `${where}, line ${line}, column ${col}`,
  cannotReadAsYaml: ({ wordsOf }: { wordsOf: string }) => `Cannot read the text as YAML: ${wordsOf}.`,
  cannotAttachReportMakesSuch: ({ name }: { name: string }) =>
    `Cannot send \`${name}\`: the report makes no such file.`,
  cannotAttachPdfMade: ({ name, file }: { name: string; file: string }) =>
    `Cannot send \`${name}\`: no PDF is made of \`${file}\`.`,
  setPdfTooOnly: () => "Set its pdf to too or only.",
  cannotKeepMessageWithoutText: () => "Cannot keep a message without the text that everybody gets.",
  writeBesideThoseOtherLanguages: () => "Write it beside those in other languages.",
  cannotKeepTwoTextsFile: ({ template }: { template: string }) => `Cannot keep two texts in one file, \`${template}\`.`,
  giveEachLanguageFileOwn: () => "Give each language a file of its own, or write one of them in the definition.",
  cannotChangeNameTextStands: ({ report }: { report: string }) =>
    `Cannot change the name in the text of \`${report}\`: it stands behind an anchor.`,
  report: ({ report, path }: { report: string; path: string }) => `report ${report}, ${path}`,
  writeNameOutEachPlaces: () => "Write the name out at each of its places, save the report, and try again.",
};
