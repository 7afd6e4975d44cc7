export const template = {
  cannotReadMarkClosed: ({ rest }: { rest: string }) => `Cannot read the mark \`${rest}\`: it is not closed.`,
  close: () => "Close it with }}.",
  cannotUseHere: ({ source }: { source: string }) => `Cannot use \`{{${source}}}\` here.`,
  useFieldsLineFieldsRow: () => "Use fields, and line. fields in a row that shall repeat.",
  cannotReadColumn: ({ text }: { text: string }) => `Cannot read \`${text}\` as a column.`,
  cannotUseLinesCalled: ({ source, lines }: { source: string; lines: string }) =>
    `Cannot use \`{{${source}}}\`: there are no lines called \`${lines}\`.`,
  writeLineGroupSOwn: ({ knownCount, suggestion }: { knownCount: number; suggestion: string }) =>
    knownCount === 1
      ? "Write `line` for the group's own lines, or name further ones under `lines` in the report."
      : suggestion,
  cannotFindLines: ({ name }: { name: undefined | string }) => `Cannot find the lines \`${name}\`.`,
  furtherLinesNamedUnderLines: ({ suggestion }: { suggestion: string }) =>
    `${suggestion} Further lines are named under \`lines\` in the report.`,
  cannotDecideConditionNeitherTrue: ({ source }: { source: string }) =>
    `Cannot decide \`{{${source}}}\`: the condition is neither true nor false.`,
  compareSomething: () => 'Compare something, as in {{when site = "Dock"}}.',
};
