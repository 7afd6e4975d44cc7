/** Marks in double braces out of the way while the words around them are read. */

/** A mark stands aside here; words have no business with these characters. */
const OPEN = "\ue000";
const CLOSE = "\ue001";
/** A mark that stands aside, as it is and as addresses write it; its number is caught. */
export const ASIDE = new RegExp(
  `(?:${OPEN}|${encodeURIComponent(OPEN)})(\\d+)(?:${CLOSE}|${encodeURIComponent(CLOSE)})`,
  "g",
);
const MARK = /\{\{[\s\S]*?\}\}/g;

export function marksAside(text: string): { text: string; marks: string[] } {
  const marks: string[] = [];
  const aside = text
    .replaceAll(OPEN, "")
    .replaceAll(CLOSE, "")
    .replace(MARK, (mark) => `${OPEN}${marks.push(mark) - 1}${CLOSE}`);
  return { text: aside, marks };
}

export const withMarks = (text: string, marks: readonly string[]): string =>
  text.replace(ASIDE, (_, number: string) => marks[Number(number)] ?? "");

export const isRowsTable = (mark: string): boolean => /^\{\{\s*table\b/.test(mark);
