import { CorbixError, cleanKey } from "../common/index.js";
import { Kind, type RawSheet } from "./raw-sheet.js";

/** The lines of a header, as indexes into the sheet's rows. */
export interface Header {
  readonly from: number;
  readonly to: number;
  readonly why: string;
  /** For a line whose names count for several columns: the name of each column. */
  readonly spread?: ReadonlyMap<number, readonly (string | undefined)[]>;
}

/** A header is looked for in so many rows from the top. */
const HEADER_SEARCH_ROWS = 50;

/** The row that looks most like a header: many filled texts, all different, with filled rows below. Throws `NO_TABLE`. */
export function findHeader(sheet: RawSheet, first: number, last: number): number {
  let best = { index: -1, score: 0 };
  for (let row = 0; row < Math.min(HEADER_SEARCH_ROWS, sheet.rowCount); row++) {
    const score = headerScore(sheet, row, first, last) - row * 0.01;
    if (score > best.score) best = { index: row, score };
  }
  if (best.index < 0) {
    throw new CorbixError("NO_TABLE", `Cannot find a header row in the first ${HEADER_SEARCH_ROWS} rows.`, {
      where: sheet.where,
      advice: "The table needs one row with a name above each column.",
    });
  }
  return best.index;
}

function headerScore(sheet: RawSheet, row: number, first: number, last: number): number {
  const filled = sheet.filled(row).filter((column) => column >= first && column <= last);
  const texts = filled.filter((column) => isName(sheet, row, column));
  if (texts.length === 0 || texts.length < filled.length * 0.6) return 0;
  const distinct = new Set(texts.map((column) => cleanKey(sheet.text(row, column)))).size;
  let below = 0;
  let cells = 0;
  for (let next = row + 1; next < Math.min(row + 6, sheet.rowCount); next++) {
    below++;
    cells += sheet.filled(next).filter((column) => column >= first && column <= last).length;
  }
  const width = below === 0 ? 0 : cells / below;
  const misfit = Math.abs(width - filled.length) > filled.length / 2 ? filled.length : 0;
  return distinct * 2 - (filled.length - distinct) * 2 + Math.min(width, filled.length) - misfit;
}

function isName(sheet: RawSheet, row: number, column: number): boolean {
  return sheet.isText(row, column) && !looksLikeData(sheet.text(row, column));
}

function looksLikeData(text: string): boolean {
  return /^[-+]?[\d.,'\s]+%?$/.test(text.trim()) || /^\d{1,4}[-./]\d{1,2}[-./]\d{1,4}/.test(text.trim());
}

/** Whether a row within a sheet is the header of a table of its own: names over rows that hold something else than names. */
export function looksLikeHeader(sheet: RawSheet, row: number, first: number, last: number): boolean {
  const filled = sheet.filled(row).filter((column) => column >= first && column <= last);
  if (filled.length < 2 || !filled.every((column) => isName(sheet, row, column))) return false;
  if (new Set(filled.map((column) => cleanKey(sheet.text(row, column)))).size < filled.length) return false;
  const next = row + 1;
  if (next >= sheet.rowCount || sheet.rowNumbers[next] !== sheet.rowNumbers[row] + 1) return false;
  const values = filled.filter((column) => !sheet.isBlank(next, column));
  return values.length >= filled.length / 2 && values.some((column) => !isName(sheet, next, column));
}

/**
 * Joins the header with the line above or below it where both name columns: by merged cells, or where the two fill each
 * other's gaps.
 */
export function joinHeader(sheet: RawSheet, found: number, first: number, last: number): Header {
  const alone: Header = { from: found, to: found, why: "" };
  return joined(sheet, found - 1, found, first, last) ?? joined(sheet, found, found + 1, first, last) ?? alone;
}

function joined(sheet: RawSheet, upper: number, lower: number, first: number, last: number): Header | undefined {
  if (upper < 0 || lower >= sheet.rowCount - 1) return undefined;
  if (sheet.rowNumbers[lower] !== sheet.rowNumbers[upper] + 1) return undefined;
  const inside = (row: number): number[] => sheet.filled(row).filter((column) => column >= first && column <= last);
  const [above, below] = [inside(upper), inside(lower)];
  if (above.length < 2 && below.length < 2) return undefined;
  if (
    ![...above.map((column) => [upper, column]), ...below.map((column) => [lower, column])].every(([row, column]) =>
      isName(sheet, row, column),
    )
  )
    return undefined;
  const row = sheet.rowNumbers[upper] - 1;
  const wide = sheet.merges.filter(
    (merge) => merge.top === row && merge.bottom === row && merge.right > merge.left && merge.left >= first,
  );
  const tall = sheet.merges.filter((merge) => merge.top === row && merge.bottom === row + 1);
  const spread: (string | undefined)[] = [];
  for (const merge of wide) {
    const name = sheet.text(upper, merge.left);
    for (let column = merge.left; column <= Math.min(merge.right, last); column++) spread[column] = name;
  }
  const covers = wide.filter(
    (merge) => below.filter((column) => column >= merge.left && column <= merge.right).length > 1,
  );
  // One merged cell over the whole table is a title.
  const isTitle = wide.length === 1 && above.length === 1;
  if (!isTitle && (covers.length > 0 || tall.length > 1)) {
    return { from: upper, to: lower, why: "two lines joined by merged cells", spread: new Map([[upper, spread]]) };
  }
  if (sheet.merges.length > 0 || above.length < 2) return undefined;
  return withoutMerges(sheet, upper, lower, above, below);
}

/** Text files know no merged cells: an upper name counts for the columns behind it that only the lower line names. */
function withoutMerges(
  sheet: RawSheet,
  upper: number,
  lower: number,
  above: readonly number[],
  below: readonly number[],
): Header | undefined {
  const onlyAbove = above.filter((column) => !below.includes(column));
  const onlyBelow = below.filter((column) => !above.includes(column));
  const both = above.filter((column) => below.includes(column));
  if (onlyAbove.length === 0 || onlyBelow.length === 0 || both.length === 0) return undefined;
  const next = lower + 1;
  const hasData = below.some(
    (column) => !sheet.isBlank(next, column) && sheet.columns[column]?.kind(next) !== Kind.text,
  );
  if (!hasData && !below.some((column) => looksLikeData(sheet.text(next, column)))) return undefined;
  const spread: (string | undefined)[] = [];
  for (const column of onlyBelow) {
    const before = above.filter((one) => one < column).at(-1);
    if (before !== undefined && both.includes(before)) spread[column] = sheet.text(upper, before);
  }
  return {
    from: upper,
    to: lower,
    why: "two lines that name each other's gaps",
    spread: new Map([[upper, spread]]),
  };
}
