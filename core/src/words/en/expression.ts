export const expression = {
  noNumber: ({ kind, text }: { kind: string; text: string }) =>
    kind === "boolean" ? "a truth value is no number" : `the text "${text}" is no number`,
  number: () => "this is no number",
  numberTooLarge: () => "this number is too large",
  beyondDaysDateCan: () => "this is beyond the days that a date can be",
  neitherTrueNorFalse: () => "this is neither true nor false",
  valuesDifferentKindsCannotPut: () => "values of different kinds cannot be put in order",
  twoDatesCannotAdded: () => "two dates cannot be added",
  dividesZero: () => "this divides by zero",
  character: ({ value, at }: { value: string; at: number }) => `\`${value}\`, character ${at}`,
  cannotReadExpressionLongerCharacters: ({ maxLength }: { maxLength: number }) =>
    `Cannot read the expression: it is longer than ${maxLength} characters.`,
  nestedDeeperLevels: ({ maxDepth }: { maxDepth: number }) => `it is nested deeper than ${maxDepth} levels`,
  behindStandsNumberFormatDouble: () => 'behind `as` stands a number format in double quotes, as "#,##0.00"',
  somethingLeftOverBehindExpression: () => "there is something left over behind the expression",
  joinsMoreOperators: ({ maxLinks }: { maxLinks: number }) => `it joins more than ${maxLinks} operators`,
  endsTooEarly: ({ kind, text }: { kind: string; text: string }) =>
    kind === "end" ? "it ends too early" : `\`${text}\` cannot stand here`,
  nameStandBehindDot: () => "a name has to stand behind the dot",
  missing: ({ sign }: { sign: string }) => `\`${sign}\` is missing`,
  cannotReadExpression: ({ what }: { what: string }) => `Cannot read the expression: ${what}.`,
  numberCharactersCannotLess: () => "a number of characters cannot be less than 0",
  year: ({ firstYear, lastYear }: { firstYear: number; lastYear: number }) =>
    `a year is one from ${firstYear} to ${lastYear}`,
  date: () => "this is no date",
  placeTextCounted: () => "a place in a text is counted from 1",
  textNumber: ({ value }: { value: string }) => `the text "${value}" is no number`,
  cannotFind: ({ parts }: { parts: string }) => `Cannot find \`${parts}\`.`,
  beforeDotMayStand: ({ known }: { known: string }) => `Before the dot may stand: ${known}.`,
  cannotTellMeantGroupS: ({ name, bare }: { name: string; bare: string }) =>
    `Cannot tell which \`${name}\` is meant: \`${bare}\` and the group's lines both have it.`,
  writeFirstLineGroup: ({ bare, name }: { bare: string; name: string }) =>
    `Write ${bare}.${name} for that of ${bare}, first(line.${name}) for that of the group.`,
  cannotTakeHereCurrentLine: ({ lines, name }: { lines: string; name: string }) =>
    `Cannot take \`${lines}.${name}\` here: there is no current line.`,
  useSumCountListOver: () => "Use sum(…), count(…) or list(…) over the lines.",
  cannotFindIn: ({ space, name }: { space: string; name: string }) => `Cannot find \`${space}.${name}\`.`,
  cannotFindColumn: ({ name }: { name: string }) => `Cannot find the column \`${name}\`.`,
  cannotTakeValueGroupLines: ({ name, distinctCount }: { name: string; distinctCount: number }) =>
    `Cannot take one value of \`${name}\` for the group: its lines hold ${distinctCount} different ones.`,
  cannotUseHereNeedsLine: ({ name, column }: { name: string; column: string }) =>
    `Cannot use \`${name}\` here: it needs \`line.\` and a column, as in ${name}(line.${column ?? "fee"}).`,
  cannotFindFunction: ({ name }: { name: string }) => `Cannot find a function \`${name}\`.`,
  cannotUseWhereExpectedFunction: ({ name }: { name: string }) =>
    `Cannot use \`where\` in \`${name}\`, expected a function over lines.`,
  cannotCallValuesExpected: ({ name, argCount, wanted }: { name: string; argCount: number; wanted: string }) =>
    `Cannot call \`${name}\` with ${argCount} values, expected ${wanted}.`,
  cannotUseOverLinesWhile: ({ name }: { name: string }) =>
    `Cannot use \`${name}\` over lines while rows are being prepared.`,
  cannotCallValuesExpectedMost: ({ name, argCount, rest }: { name: string; argCount: number; rest: number }) =>
    `Cannot call \`${name}\` with ${argCount} values, expected at most ${rest}.`,
  cannotUseOverOnce: ({ name, lines, other }: { name: string; lines: string; other: string }) =>
    `Cannot use \`${name}\` over \`${lines}.\` and \`${other}.\` at once.`,
  goOverThemSayLines: () => `Go over one of them, and say which lines of the other belong to each behind \`where\`.`,
  cannotCalculateText: () => "Cannot calculate with text.",
  turnNumberNumberJoinText: () => "Turn it into a number with number(…), or join text with &.",
  cannotCalculate: ({ message, rowWords }: { message: string; rowWords: string }) =>
    `Cannot calculate: ${message}${rowWords}.`,
  quoteClosed: ({ char }: { char: string }) =>
    char === '"' || char === "`" ? "a quote is not closed" : `\`${char}\` cannot stand here`,
  names: ({ space }: { space: string }) => `names in ${space}`,
  useLineLineRepeatsFirst: ({ name }: { name: string }) =>
    `Use line.${name} in a line that repeats, or first(line.${name}), list(line.${name}), count(…), sum(…).`,
  to: ({ min, max }: { min: number; max: number }) =>
    min === max ? `${min}` : `${min} to ${Number.isFinite(max) ? max : "any number"}`,
  rowTable: ({ row, rowNumber }: { row: number; rowNumber: number }) =>
    row >= 0 ? `, in row ${rowNumber} of the table` : "",
};
