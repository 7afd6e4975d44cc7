import { counted } from "./numbers.js";

/** Files of plain forms. */
export const list = {
  headingTwice: ({ heading }: { heading: string }) => `Cannot write two columns under the heading \`${heading}\`.`,
  giveAnotherHeading: () => "Give one of them another heading.",
  needsQuotes: ({ column, text }: { column: string; text: string }) =>
    `Cannot write \`${text}\` of the column ${column} without quotes: it holds the delimiter or a line end.`,
  letQuote: () => "Choose quotes: needed, or another delimiter.",
  cellsLikeFormulas: ({ count, isGuarded }: { count: number; isGuarded: boolean }) =>
    isGuarded
      ? `${counted(count, "text", "texts")} that a spreadsheet would take for a formula ${count === 1 ? "has" : "have"} an apostrophe before ${count === 1 ? "it" : "them"}.`
      : `${counted(count, "text begins", "texts begin")} as a formula does; a spreadsheet that opens the file calculates ${count === 1 ? "it" : "them"}.`,
  guardCanBeOff: () => "With guard: false they stay as they are, for programs that are no spreadsheets.",
  turnGuardOn: () => "Set guard: true, unless the file is for a program that is no spreadsheet.",
  needsWidth: ({ column }: { column: string }) => `Cannot write text of fixed widths: the column ${column} has none.`,
  giveEachWidth: () => "Name the columns, each with a width: { column: unit, width: 12 }.",
  tooWide: ({ column, text, length, width }: { column: string; text: string; length: number; width: number }) =>
    `Cannot write \`${text}\` in the column ${column}: it has ${length} signs, and there is room for ${width}.`,
  giveMoreWidth: () => "Give the column more width, or shorten the value in the preparation; nothing is cut off.",
  line: ({ where, number }: { where: string; number: number }) => `${where}, line ${number}`,
  cannotEncode: ({ encoding, lost }: { encoding: string; lost: string }) =>
    `Cannot write the file in ${encoding}: it has no sign for ${lost}.`,
  useUtf8: () => "Choose utf-8, or replace those signs in the preparation.",
  linesWithoutDay: ({ count, source }: { count: number; source: string }) =>
    `${counted(count, "line has", "lines have")} no day under ${source}, and ${count === 1 ? "is" : "are"} no entry.`,
  linesWithoutDayLeft: () => "Fill the day in the data if they should be entries.",
  noDay: ({ value }: { value: string }) => `Cannot read \`${value}\` as a day or a time.`,
};
