/** Formulas as text with their references apart, so that a moved formula is written without being parsed again. */
import { type RangeA1, tokenize } from "@borgar/fx/xlsx";
import { memoize } from "../../common/index.js";
import { readReference, writeReference } from "../../formula/index.js";
import type { AxisMap, Instance, Path, SheetMap } from "../fill/axis-map.js";

interface ReferencePiece {
  readonly sheet: string | undefined;
  readonly range: RangeA1;
  readonly written: string;
  readonly single: boolean;
}

/** Text and references in turn. */
export type FormulaText = readonly (string | ReferencePiece)[];

/** Finds the references in a formula as stored. A text that cannot be read stays as it is. */
export const parseFormulaText = memoize((formula: string): FormulaText => {
  try {
    return tokenize(formula, { mergeRefs: true }).map((token) => {
      if (token.type !== "range" && token.type !== "range_beam") return token.value;
      const parsed = readReference(token.value);
      if (!parsed?.range || parsed.workbookName) return token.value;
      return {
        sheet: parsed.sheetName || undefined,
        range: parsed.range,
        written: token.value,
        single: !token.value.includes(":"),
      };
    });
  } catch {
    return [formula];
  }
});

/** Whose rows and columns move how. `own` is the sheet the formula stands on. */
export interface Moves {
  readonly own: string;
  readonly map: (sheet: string) => SheetMap | undefined;
  /** New names of sheets, by their old ones. */
  readonly renamed: ReadonlyMap<string, string>;
  readonly instance?: Instance | undefined;
}

export function writeFormula(text: FormulaText, moves: Moves): string {
  let written = "";
  for (const piece of text) written += typeof piece === "string" ? piece : writePiece(piece, moves);
  return written;
}

function writePiece(piece: ReferencePiece, moves: Moves): string {
  const sheet = piece.sheet ?? moves.own;
  const newName = piece.sheet === undefined ? undefined : moves.renamed.get(piece.sheet.toLowerCase());
  const map = moves.map(sheet);
  if (newName === undefined && !map) return piece.written;
  const range = map
    ? moveRange(piece.range, piece.single, map, sheet === moves.own ? moves.instance : undefined)
    : piece.range;
  const written = writeReference(range, newName ?? piece.sheet);
  // A range of one cell stays a range: written as one cell it would not grow when the file is filled or edited again.
  return piece.single || written.includes(":") ? written : `${written}:${written.slice(written.lastIndexOf("!") + 1)}`;
}

/**
 * Where a reference points after rows and columns moved. What is relative goes with the formula's own repetition, as far
 * as both stand in the same, what is fixed with its sub-group; beyond that a range grows from the first repetition to the
 * last, and a single cell is the first.
 */
export function moveRange(range: RangeA1, single: boolean, map: SheetMap, instance: Instance | undefined): RangeA1 {
  const rows = moveEnds([range.top, range.bottom], [range.$top, range.$bottom], single, map.rows, instance?.rows);
  const columns = moveEnds(
    [range.left, range.right],
    [range.$left, range.$right],
    single,
    map.columns,
    instance?.columns,
  );
  return {
    ...range,
    ...(rows && { top: rows[0], bottom: rows[1] }),
    ...(columns && { left: columns[0], right: columns[1] }),
  };
}

/** What is fixed stays in its own sub-group, and is one for all its lines. */
function ofSubGroup(path: Path | undefined): Path | undefined {
  const line = path?.findIndex(({ section }) => section.kind === "line") ?? -1;
  return line < 0 ? path : path?.slice(0, line);
}

type End = number | null | undefined;

/** Where a range begins and ends on one axis; `undefined` where it has no ends, as whole columns have no rows. */
function moveEnds(
  [from, to]: readonly [End, End],
  isFixed: readonly (boolean | null | undefined)[],
  single: boolean,
  map: AxisMap,
  path: Path | undefined,
): readonly [number, number] | undefined {
  if (typeof from !== "number" || typeof to !== "number") return undefined;
  if (!map.moves) return [from, to];
  const first = map.at(from, isFixed[0] ? ofSubGroup(path) : path);
  return [first, single ? first : Math.max(first, map.last(to, isFixed[1] ? ofSubGroup(path) : path))];
}

/** What a chart or a name draws from: a cell in rows that repeat means all of them, as neither has a way to say so. */
export function growingCells(text: FormulaText, moves: Moves): FormulaText {
  return text.map((piece) =>
    typeof piece !== "string" && piece.single && isRepeated(piece, moves.map(piece.sheet ?? moves.own))
      ? { ...piece, single: false }
      : piece,
  );
}

/** Whether a cell stands in rows or columns that repeat. */
export function isRepeated(reference: { readonly range: RangeA1 }, map: SheetMap | undefined): boolean {
  const { top, left } = reference.range;
  if (!map || typeof top !== "number" || typeof left !== "number") return false;
  const repeats = (axis: AxisMap, line: number): boolean =>
    axis.around({ from: line, to: line }).some(({ kind }) => kind === "line" || kind === "by");
  return repeats(map.rows, top) || repeats(map.columns, left);
}

/** Moves a formula written once for a block of cells (a shared formula) to another cell, as filling down and right does. */
export function shiftFormula(formula: string, rows: number, columns: number): string {
  return parseFormulaText(formula)
    .map((piece) => {
      if (typeof piece === "string") return piece;
      const { range } = piece;
      const move = (value: number | null, by: number, absolute: boolean | null | undefined): number | null =>
        value === null || absolute ? value : value + by;
      const moved: RangeA1 = {
        ...range,
        top: move(range.top, rows, range.$top),
        left: move(range.left, columns, range.$left),
        ...(range.bottom === undefined ? {} : { bottom: move(range.bottom, rows, range.$bottom) }),
        ...(range.right === undefined ? {} : { right: move(range.right, columns, range.$right) }),
      };
      if ([moved.top, moved.left].some((value) => typeof value === "number" && value < 0)) return "#REF!";
      return writeReference(moved, piece.sheet);
    })
    .join("");
}

const parseRange = memoize((text: string) => readReference(text)?.range ?? null);

/** Moves plain ranges such as `A1:B2 D4`, as formats and validations name them: repeated ones become one range or several. */
export function moveRanges(text: string, map: SheetMap, several = true): string {
  return text
    .split(" ")
    .flatMap((part) => {
      const range = parseRange(part);
      if (!range) return [part];
      const instances = several ? repetitionsOf(range, map) : [undefined];
      return instances.map((instance) => {
        const moved = moveRange(range, false, map, instance);
        const single = moved.top === moved.bottom && moved.left === moved.right;
        const written = writeReference(moved);
        return single && !part.includes(":") ? written.split(":")[0] : written;
      });
    })
    .join(" ");
}

/** The repetitions in which a range stands whole; rows that repeat without a gap count as one range. */
function repetitionsOf(range: RangeA1, map: SheetMap): (Instance | undefined)[] {
  const paths = (axis: AxisMap, from: End, to: End): readonly Path[] => {
    if (typeof from !== "number" || typeof to !== "number") return [[]];
    const around = axis.around({ from, to });
    while (around.length > 0 && around[around.length - 1].kind === "line") around.pop();
    return around.length === 0 ? [[]] : axis.paths(around);
  };
  const rows = paths(map.rows, range.top, range.bottom);
  const columns = paths(map.columns, range.left, range.right);
  return rows.flatMap((row) => columns.map((column) => ({ rows: row, columns: column })));
}
