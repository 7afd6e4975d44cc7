/** Parts of a formula that are areas of cells: what they give as values, and what two of them have in common. */
import type { EvaluationContext, SheetArea } from "./evaluation-context.js";
import { CellError, isMatrix, type Operand } from "./value.js";

export type Evaluate = (context: EvaluationContext) => Operand;

/** Where a formula leads, for what gives cells and not values: `undefined` where it gives a value this time. */
export type EvaluateArea = (context: EvaluationContext) => SheetArea | CellError | undefined;

/**
 * What is asked of a part of a formula: one `value` (of a range the cell in the formula's own row or column),
 * the `range` as it is, or an `array`, where operations too go through ranges cell by cell.
 */
export type EvaluationMode = "value" | "range" | "array";

export interface FormulaNode {
  readonly evaluate: Evaluate;
  readonly area?: EvaluateArea | undefined;
  /** Whether the result can be an array, as far as the text tells. */
  readonly mayBeArray: boolean;
}

/** Cells at a place as they are asked for. */
export function fromArea(area: EvaluateArea, asked: EvaluationMode, otherwise?: Evaluate): FormulaNode {
  const evaluate: Evaluate = (context) => {
    const place = area(context);
    if (place === undefined) return otherwise ? otherwise(context) : CellError.of("#REF!");
    if (place instanceof CellError) return place;
    if (asked === "value") return intersected(place, context);
    return asked === "array" ? context.allCells(place) : context.cells(place);
  };
  return { evaluate, area, mayBeArray: asked !== "value" || otherwise !== undefined };
}

/** Of a range the cell in the formula's own row or column (18.17.2.4): no such cell is an error. */
export function intersected(place: SheetArea, context: EvaluationContext): Operand {
  const { sheet, top, left, bottom, right } = place;
  const one = (row: number, column: number): Operand => {
    const cells = context.cells({ sheet, top: row, left: column, bottom: row, right: column });
    return isMatrix(cells) ? (cells[0]?.[0] ?? null) : cells;
  };
  const isRow = context.row >= top && context.row <= bottom;
  const isColumn = context.column >= left && context.column <= right;
  if (left === right) return top === bottom ? one(top, left) : isRow ? one(context.row, left) : CellError.of("#VALUE!");
  if (top === bottom) return isColumn ? one(top, context.column) : CellError.of("#VALUE!");
  return isRow && isColumn ? one(context.row, context.column) : CellError.of("#VALUE!");
}

/** All cells that the array formula in a cell fills. */
export function spilled(anchor: FormulaNode, asked: EvaluationMode): FormulaNode {
  return fromArea((context) => {
    const place = anchor.area?.(context);
    if (place === undefined) return CellError.of("#REF!");
    return place instanceof CellError ? place : (context.spillOf(place) ?? CellError.of("#REF!"));
  }, asked);
}

export function around(a: SheetArea, b: SheetArea): SheetArea {
  return {
    sheet: a.sheet,
    top: Math.min(a.top, b.top),
    left: Math.min(a.left, b.left),
    bottom: Math.max(a.bottom, b.bottom),
    right: Math.max(a.right, b.right),
  };
}

export function shared(a: SheetArea, b: SheetArea): SheetArea | CellError {
  const place = {
    sheet: a.sheet,
    top: Math.max(a.top, b.top),
    left: Math.max(a.left, b.left),
    bottom: Math.min(a.bottom, b.bottom),
    right: Math.min(a.right, b.right),
  };
  return place.top > place.bottom || place.left > place.right ? CellError.of("#NULL!") : place;
}
