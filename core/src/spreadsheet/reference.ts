/** Cell references of ECMA-376 part 1, 18.17.2.3.1. Rows and columns count from 0 inside, from 1 and A outside. */

export const MAX_ROWS = 1_048_576;
export const MAX_COLUMNS = 16_384;

/** A rectangle of cells, both corners included. */
export interface CellRange {
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

const LETTERS: string[] = [];

/** `0` is `A`, `26` is `AA`. */
export function columnLetters(column: number): string {
  const known = LETTERS[column];
  if (known !== undefined) return known;
  let letters = "";
  for (let rest = column + 1; rest > 0; rest = Math.floor((rest - 1) / 26))
    letters = String.fromCharCode(65 + ((rest - 1) % 26)) + letters;
  LETTERS[column] = letters;
  return letters;
}

export function columnIndex(letters: string): number {
  let index = 0;
  for (const letter of letters.toUpperCase()) index = index * 26 + letter.charCodeAt(0) - 64;
  return index - 1;
}

export function cellName(row: number, column: number): string {
  return columnLetters(column) + (row + 1);
}

const CELL = /^\$?([A-Za-z]{1,3})\$?(\d{1,7})$/;

/** Row and column of `B3` or `$B$3`. */
export function maybeCell(name: string): { row: number; column: number } | undefined {
  const match = CELL.exec(name);
  return match ? { row: Number(match[2]) - 1, column: columnIndex(match[1]) } : undefined;
}

/** `A1:C3` or a single cell; whole rows (`1:2`) and columns (`A:C`) run to the sheet's edge. */
export function maybeRange(text: string): CellRange | undefined {
  const [from, to = from] = text.split(":");
  const first = maybeCell(from);
  const last = maybeCell(to);
  if (first && last) {
    return {
      top: Math.min(first.row, last.row),
      left: Math.min(first.column, last.column),
      bottom: Math.max(first.row, last.row),
      right: Math.max(first.column, last.column),
    };
  }
  const rows = /^\$?(\d+):\$?(\d+)$/.exec(text);
  if (rows) return { top: Number(rows[1]) - 1, left: 0, bottom: Number(rows[2]) - 1, right: MAX_COLUMNS - 1 };
  const columns = /^\$?([A-Za-z]{1,3}):\$?([A-Za-z]{1,3})$/.exec(text);
  if (columns) return { top: 0, left: columnIndex(columns[1]), bottom: MAX_ROWS - 1, right: columnIndex(columns[2]) };
  return undefined;
}

export function rangeName(range: CellRange): string {
  const first = cellName(range.top, range.left);
  return range.top === range.bottom && range.left === range.right
    ? first
    : `${first}:${cellName(range.bottom, range.right)}`;
}

export function rangeHolds(range: CellRange, row: number, column: number): boolean {
  return row >= range.top && row <= range.bottom && column >= range.left && column <= range.right;
}

/** Splits `'Site list'!A1:B2` into the sheet's name and the rest. */
export function splitSheet(reference: string): { sheet?: string; rest: string } {
  const match = /^(?:'((?:[^']|'')+)'|([^'!]+))!(.*)$/.exec(reference);
  return match ? { sheet: (match[1] ?? match[2]).replaceAll("''", "'"), rest: match[3] } : { rest: reference };
}

/** A sheet's name as it has to stand in a reference. */
export function quoteSheet(name: string): string {
  return /^[\p{L}_][\p{L}\p{N}_.]*$/u.test(name) && !/^[A-Za-z]{1,3}\d+$|^r\d*c?\d*$/i.test(name)
    ? name
    : `'${name.replaceAll("'", "''")}'`;
}

/** Names of the sheets that a formula leads to, as they are called. */
export function sheetsNamedIn(formula: string): string[] {
  return [...formula.matchAll(/'((?:[^']|'')+)'!|([^\s'!(),:;+*/^&=<>"{}-]+)!/g)].map(
    ([, quoted, plain]) => quoted?.replaceAll("''", "'") ?? plain,
  );
}
