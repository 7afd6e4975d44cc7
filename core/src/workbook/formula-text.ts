/** Formulas as text with their references apart, so that a moved formula is written without being parsed again. */
import { parseA1Ref, type RangeA1, stringifyA1Ref, tokenize } from "@borgar/fx/xlsx";
import type { Instance, RowMap } from "./row-map.js";

interface ReferencePiece {
  readonly sheet: string | undefined;
  readonly range: RangeA1;
  readonly written: string;
  readonly single: boolean;
}

/** Text and references in turn. */
export type FormulaText = readonly (string | ReferencePiece)[];

/** Finds the references in a formula as stored. A text that cannot be read stays as it is. */
export function parseFormulaText(formula: string): FormulaText {
  try {
    return tokenize(formula, { mergeRefs: true }).map((token) => {
      if (token.type !== "range" && token.type !== "range_beam") return token.value;
      const parsed = parseA1Ref(token.value) as
        | { workbookName?: string; sheetName?: string; range?: RangeA1 }
        | undefined;
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
}

/** Whose rows move how. `own` is the sheet the formula stands on. */
export interface Moves {
  readonly own: string;
  readonly map: (sheet: string) => RowMap | undefined;
  /** New names of sheets, by their old ones. */
  readonly renamed: ReadonlyMap<string, string>;
  readonly instance?: Instance;
}

export function writeFormula(text: FormulaText, moves: Moves): string {
  let written = "";
  for (const piece of text) written += typeof piece === "string" ? piece : writeReference(piece, moves);
  return written;
}

function writeReference(piece: ReferencePiece, moves: Moves): string {
  const sheet = piece.sheet ?? moves.own;
  const newName = piece.sheet === undefined ? undefined : moves.renamed.get(piece.sheet.toLowerCase());
  const map = moves.map(sheet);
  if (newName === undefined && !map) return piece.written;
  const range = map
    ? moveRange(piece.range, piece.single, map, sheet === moves.own ? moves.instance : undefined)
    : piece.range;
  const written = stringifyA1Ref({ sheetName: newName ?? piece.sheet ?? "", range } as Parameters<
    typeof stringifyA1Ref
  >[0]);
  // A range of one cell stays a range: written as one cell it would not grow when the file is filled or edited again.
  return piece.single || written.includes(":") ? written : `${written}:${written.slice(written.lastIndexOf("!") + 1)}`;
}

/**
 * Where a reference points after the rows moved. A relative row in the formula's own block goes with its repetition;
 * seen from elsewhere, a range grows from a block's first repetition to its last, and a single cell is the first.
 */
export function moveRange(range: RangeA1, single: boolean, map: RowMap, instance: Instance | undefined): RangeA1 {
  const { top, bottom } = range;
  if (top === null || bottom === null || top === undefined || bottom === undefined) return range;
  const inOwn = (row: number, absolute: boolean | null | undefined): boolean =>
    !absolute && instance !== undefined && map.blockAt(row)?.top === instance.block.top;
  const newTop = inOwn(top, range.$top) ? map.at(top, instance?.index) : map.at(top);
  if (single) return { ...range, top: newTop, bottom: newTop };
  const newBottom = inOwn(bottom, range.$bottom) ? map.at(bottom, instance?.index) : map.last(bottom);
  return { ...range, top: newTop, bottom: newBottom };
}

/** Moves a formula written once for a block of cells (a shared formula) to another cell, as filling down and right does. */
export function shiftFormula(formula: string, rows: number, columns: number): string {
  return parseFormulaText(formula)
    .map((piece) => {
      if (typeof piece === "string") return piece;
      const { range } = piece;
      const move = (
        value: number | null | undefined,
        by: number,
        absolute: boolean | null | undefined,
      ): number | null | undefined => (value === null || value === undefined || absolute ? value : value + by);
      const moved = {
        ...range,
        top: move(range.top, rows, range.$top),
        bottom: move(range.bottom, rows, range.$bottom),
        left: move(range.left, columns, range.$left),
        right: move(range.right, columns, range.$right),
      };
      if ([moved.top, moved.left].some((value) => typeof value === "number" && value < 0)) return "#REF!";
      return stringifyA1Ref({ sheetName: piece.sheet ?? "", range: moved } as Parameters<typeof stringifyA1Ref>[0]);
    })
    .join("");
}

/** Moves plain ranges such as `A1:B2 D4`, as merged cells, formats and validations name them. */
export function moveRanges(text: string, map: RowMap): string {
  return text
    .split(" ")
    .map((part) => {
      const parsed = parseA1Ref(part) as { range?: RangeA1 } | undefined;
      if (!parsed?.range) return part;
      const range = moveRange(parsed.range, false, map, undefined);
      const single = range.top === range.bottom && range.left === range.right;
      const written = stringifyA1Ref({ range } as Parameters<typeof stringifyA1Ref>[0]);
      return single && !part.includes(":") ? written.split(":")[0] : written;
    })
    .join(" ");
}
