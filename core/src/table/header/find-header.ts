import { CorbixError, groupKey } from "../../common/index.js";
import { say } from "../../words/index.js";
import { Kind, type RawSheet } from "../formats/raw-sheet.js";
import { HEADER_SEARCH_ROWS, headerCandidates, isName, looksLikeData, REPEATS, sequenceNames } from "./score-header.js";

/** The lines of a header, as indexes into the sheet's rows. */
export interface Header {
  readonly from: number;
  readonly to: number;
  readonly why: string;
  /** For a line whose names count for several columns: the name of each column. */
  readonly spread?: ReadonlyMap<number, readonly (string | undefined)[]>;
}

/** Scores nearer than this are two readings of one file. */
const NEAR = 6;
/** A barred row that differs from the rows below it so much more than the one chosen is told. */
const TELLING = 0.15;

/** The row that was taken for the header, with the one that could be it too. */
export interface FoundHeader {
  readonly row: number;
  readonly why: string;
  readonly other: number | undefined;
  /** Columns whose name reads like one of the values below it: the file may have no header. */
  readonly alike: readonly number[];
}

/**
 * The row that looks most like a header: it names the columns filled below it, differs from the rows below, and no row above it is
 * as full as they are. Throws `NO_TABLE`.
 */
export function findHeader(sheet: RawSheet, first: number, last: number): FoundHeader {
  const candidates = headerCandidates(sheet, first, last);
  const best = candidates.find((one) => !one.isBarred);
  if (!best) {
    throw new CorbixError("NO_TABLE", say().table.cannotFindHeaderRowFirst({ headerSearchRows: HEADER_SEARCH_ROWS }), {
      where: sheet.where,
      advice: say().table.tableNeedsRowNameAbove(),
    });
  }
  const other = candidates.find(
    (one) =>
      one !== best &&
      (one.isBarred
        ? one.score > best.score && one.contrast > best.contrast + TELLING
        : one.score > best.score - NEAR && one.row !== best.row + 1 && one.row !== best.row - 1),
  );
  return { row: best.row, why: best.why, other: other?.row, alike: best.alike };
}

/** Whether a row within a sheet is the header of a table of its own: names over rows that hold something else than names. */
export function looksLikeHeader(sheet: RawSheet, row: number, first: number, last: number): boolean {
  const filled = sheet.filled(row).filter((column) => column >= first && column <= last);
  if (filled.length < 2 || !filled.every((column) => isName(sheet, row, column))) return false;
  if (new Set(filled.map((column) => groupKey(sheet.text(row, column)))).size < filled.length) return false;
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

/** A title over columns is longer than the name of a group of columns. */
const GROUP_NAME = 40;

function joined(sheet: RawSheet, upper: number, lower: number, first: number, last: number): Header | undefined {
  if (upper < 0 || lower >= sheet.rowCount - 1) return undefined;
  if (sheet.rowNumbers[lower] !== sheet.rowNumbers[upper] + 1) return undefined;
  const inside = (row: number): number[] => sheet.filled(row).filter((column) => column >= first && column <= last);
  const [above, below] = [inside(upper), inside(lower)];
  if (above.length < 2 && below.length < 2) return undefined;
  const areNames = (row: number, columns: readonly number[]): boolean => {
    const counted = sequenceNames(sheet, row, columns);
    return columns.every((column) => counted.has(column) || isName(sheet, row, column));
  };
  if (!areNames(upper, above) || !areNames(lower, below)) return undefined;
  const row = sheet.rowNumbers[upper] - 1;
  const wide = sheet.merges.filter(
    (merge) => merge.top === row && merge.bottom === row && merge.right > merge.left && merge.left >= first,
  );
  const tall = sheet.merges.filter((merge) => merge.top === row && merge.bottom === row + 1);
  const spread: (string | undefined)[] = [];
  for (const merge of wide) {
    const name = sheet.heading(upper, merge.left);
    for (let column = merge.left; column <= Math.min(merge.right, last); column++) spread[column] = name;
  }
  const groups = wide.filter(
    (merge) =>
      !sheet.isBlank(upper, merge.left) &&
      below.filter((column) => column >= merge.left && column <= merge.right).length > 1,
  );
  if (groups.length > 0 || tall.length > 1) {
    const isNeeded = tells(sheet, lower, below, spread) || namesGaps(above, below, spread);
    const isTitle = groups.some((merge) => sheet.text(upper, merge.left).trim().length > GROUP_NAME);
    if ((isNeeded || tall.length > 1 || groups.length > 1) && !isTitle)
      return {
        from: upper,
        to: lower,
        why: say().table.twoLinesJoinedMergedCells(),
        spread: new Map([[upper, spread]]),
      };
    return undefined;
  }
  if (above.length < 2) return undefined;
  return repeatedGroups(sheet, upper, lower, above, below) ?? withoutMerges(sheet, upper, lower, above, below);
}

/** Whether names of the lower line that stand there twice become different by what stands above them. */
function tells(sheet: RawSheet, lower: number, below: readonly number[], spread: readonly (string | undefined)[]) {
  const names = below.map((column) => groupKey(sheet.text(lower, column)));
  const whole = below.map((column, at) => `${groupKey(spread[column] ?? "")} ${names[at]}`);
  return new Set(names).size < names.length && new Set(whole).size > new Set(names).size;
}

/** Whether the upper line names columns, outside its groups, that the lower line leaves without a name. */
function namesGaps(above: readonly number[], below: readonly number[], spread: readonly (string | undefined)[]) {
  return above.some((column) => spread[column] === undefined && !below.includes(column));
}

/** A group's name said again above each of its columns. */
function repeatedGroups(
  sheet: RawSheet,
  upper: number,
  lower: number,
  above: readonly number[],
  below: readonly number[],
): Header | undefined {
  const spread: string[] = [];
  for (const column of above) spread[column] = sheet.heading(upper, column);
  const names = above.map((column) => groupKey(spread[column]));
  if (new Set(names).size > names.length * REPEATS || !tells(sheet, lower, below, spread)) return undefined;
  return { from: upper, to: lower, why: say().table.twoLinesUpperNamesGroups() };
}

/** Without merged cells an upper name counts for the columns behind it that only the lower line names. */
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
  if (onlyBelow.length === 0 || both.length === 0) return undefined;
  const next = lower + 1;
  const hasData = below.some(
    (column) => !sheet.isBlank(next, column) && sheet.columns[column]?.kind(next) !== Kind.text,
  );
  if (!hasData && !below.some((column) => looksLikeData(sheet.text(next, column)))) return undefined;
  const spread: (string | undefined)[] = [];
  for (const column of onlyBelow) {
    const before = above.filter((one) => one < column).at(-1);
    if (before !== undefined && both.includes(before)) spread[column] = sheet.heading(upper, before);
  }
  for (const column of both) spread[column] = sheet.heading(upper, column);
  const isTold = tells(sheet, lower, below, spread);
  if (onlyAbove.length === 0 && !isTold) return undefined;
  // A line with one group only is as often a title with something beside it.
  if (both.length < 2 && !isTold) return undefined;
  return {
    from: upper,
    to: lower,
    why: say().table.twoLinesNameEachOther(),
    spread: new Map([[upper, spread]]),
  };
}
