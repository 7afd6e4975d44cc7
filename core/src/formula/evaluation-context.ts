/** What a formula asks of the workbook it stands in. */
import type { RangeA1 } from "@borgar/fx/xlsx";
import type { CompiledFormula } from "./compile/compile.js";
import { CellError, type CellFunction, type Operand } from "./value.js";

export type Local = Operand | CellFunction;

/** A rectangle of cells on a sheet, 0-based, corners included. */
export interface SheetArea {
  readonly sheet: number;
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

/** A reference in a formula, as written: `sheet` is undefined for the formula's own. */
export interface FormulaReference {
  readonly sheet: string | undefined;
  readonly range: RangeA1;
  /** Written as one cell: `A1`, while `A1:A1` is a range that can grow. */
  readonly single: boolean;
}

/** A reference to a table by its headings (18.2.7); without a table's name that of the formula's own cell. */
export interface TableReference {
  readonly table: string | undefined;
  /** First and last heading; none for all columns. */
  readonly columns: readonly string[];
  /** Words of the brackets in small letters: `this row`, `headers`, `data`, `totals`, `all`; none for the data. */
  readonly sections: readonly string[];
}

/** What SUBTOTAL does not count: cells that are subtotals themselves, and for its kinds above 100 hidden rows (18.17.7.313). */
export interface SubtotalFilter {
  readonly hiddenRows: boolean;
  readonly subtotals: boolean;
}

/** What functions ask of the workbook as a whole. */
export interface BookFacts {
  /** Readings that are stored with texts (phonetic guides, 18.4.3 to 18.4.6), by the text. */
  readonly readings: ReadonlyMap<string, string>;
  /** Whether the workbook is calculated only when it is asked for (18.2.2). */
  readonly isCalculatedByHand: boolean;
}

export interface EvaluationContext {
  readonly sheet: number;
  /** Row and column of the formula's own cell, 0-based. */
  readonly row: number;
  readonly column: number;
  /** The run's own instant as a serial. */
  readonly now: number;
  /** Where a reference lies now; `undefined` for a sheet that is not there. */
  readonly locate: (reference: FormulaReference) => SheetArea | undefined;
  readonly locateTable: (reference: TableReference) => SheetArea | CellError;
  /** The formula behind a defined name, with where its own references lie. */
  readonly name: (
    name: string,
  ) => { readonly formula: CompiledFormula; readonly context: EvaluationContext } | undefined;
  /** The cells of a place as rows, as far as there are any; for subtotals without the cells they pass over. */
  readonly cells: (place: SheetArea, passOver?: SubtotalFilter) => Operand;
  /** The same with the blank cells beyond the last one used, as long as they are not too many. */
  readonly allCells: (place: SheetArea) => Operand;
  /** The cells that the array formula in a cell takes up; `undefined` where there is none. */
  readonly spillOf: (place: SheetArea) => SheetArea | undefined;
  /** Index of the sheet with this name. */
  readonly sheetIndex: (name: string) => number | undefined;
  /** Names of the sheets from one to another, as they stand in the workbook; `undefined` where one is not there. */
  readonly sheetsBetween: (from: string, to: string) => readonly string[] | undefined;
  readonly sheetCount: number;
  /** The formula of a cell, as it is stored; `undefined` where it has none. */
  readonly formulaAt: (place: SheetArea) => string | undefined;
  /** What the workbook says of itself beside its cells. */
  readonly book: BookFacts;
  /** What LET and LAMBDA have named, by number. */
  readonly locals: readonly Local[];
  /** The same with one more. */
  readonly withLocal: (value: Local) => EvaluationContext;
}

/** What functions are told that ask nothing of where they stand. */
export const NOWHERE: EvaluationContext = {
  sheet: 0,
  row: 0,
  column: 0,
  now: 0,
  locate: () => undefined,
  locateTable: () => CellError.of("#REF!"),
  name: () => undefined,
  cells: () => null,
  allCells: () => null,
  spillOf: () => undefined,
  sheetIndex: () => undefined,
  sheetsBetween: () => undefined,
  sheetCount: 0,
  formulaAt: () => undefined,
  book: { readings: new Map(), isCalculatedByHand: false },
  locals: [],
  withLocal: () => NOWHERE,
};

/** Raised where a name's formula cannot be evaluated; the cell keeps its stored value then. */
export class Unsupported {
  constructor(readonly what: string) {}
}

/** Where a reference leads from a cell so many rows below and columns right of where it is written for. */
export function shiftedPlace(reference: FormulaReference, sheet: number, down: number, across: number): SheetArea {
  const { range } = reference;
  const move = (value: number | null | undefined, by: number, isFixed: unknown, otherwise: number): number =>
    typeof value !== "number" ? otherwise : isFixed ? value : value + by;
  return {
    sheet,
    top: move(range.top, down, range.$top, 0),
    left: move(range.left, across, range.$left, 0),
    bottom: move(range.bottom, down, range.$bottom, 1_048_575),
    right: move(range.right, across, range.$right, 16_383),
  };
}
