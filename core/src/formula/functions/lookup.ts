/** Functions that look values up in ranges. */

import {
  asMatrix,
  CellError,
  compareScalars,
  type Matrix,
  numberOf,
  type Operand,
  type Scalar,
  scalarOf,
  truthOf,
} from "../value.js";
import type { FormulaFunction } from "./support/arguments.js";
import { wildcard } from "./support/criteria.js";

const NA = CellError.of("#N/A");

/** Where each value of a long list stands first: look-ups ask the same list again and again. */
const FIRST_PLACES = new WeakMap<readonly Scalar[], Map<Scalar, number>>();
const LONG_LIST = 24;

function firstPlaces(cells: readonly Scalar[]): Map<Scalar, number> {
  let places = FIRST_PLACES.get(cells);
  if (!places) {
    places = new Map();
    for (let at = cells.length - 1; at >= 0; at--) {
      const cell = cells[at];
      if (cell !== null && !(cell instanceof CellError)) places.set(foldCase(cell), at);
    }
    FIRST_PLACES.set(cells, places);
  }
  return places;
}

const foldCase = (value: Scalar): Scalar => (typeof value === "string" ? value.toLowerCase() : value);

const LISTS = new WeakMap<Matrix, Map<string, readonly Scalar[]>>();

/** A row or column of a table as a list, or all its cells; the same list for the same table. */
function listOf(matrix: Matrix, which: "first column" | "first row" | "all"): readonly Scalar[] {
  const known = LISTS.get(matrix) ?? new Map<string, readonly Scalar[]>();
  LISTS.set(matrix, known);
  let list = known.get(which);
  if (!list) {
    list =
      which === "first column" ? matrix.map((row) => row[0]) : which === "first row" ? [...matrix[0]] : matrix.flat();
    known.set(which, list);
  }
  return list;
}

const hasWildcard = (wanted: Scalar): wanted is string => typeof wanted === "string" && /[*?~]/.test(wanted);

/** Position of a value in a list: exact (with wildcards where asked), or the last that is not larger (`order` 1) or smaller (-1). */
function position(wanted: Scalar, cells: readonly Scalar[], order: number, wildcards = true): number {
  if (order === 0) {
    if (wildcards && hasWildcard(wanted)) {
      const pattern = wildcard(wanted);
      return cells.findIndex((cell) => typeof cell === "string" && pattern.test(cell));
    }
    if (cells.length > LONG_LIST) return firstPlaces(cells).get(foldCase(wanted)) ?? -1;
    return cells.findIndex((cell) => isSame(cell, wanted));
  }
  // Sorted lists are searched by halves, as look-ups do; blanks and values of another kind are passed over.
  const comparable = (at: number): Scalar => {
    const cell = cells[at];
    return cell !== null && typeof cell === typeof wanted && !(cell instanceof CellError) ? cell : null;
  };
  let [low, high] = [0, cells.length - 1];
  let found = -1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    let at = middle;
    while (at >= low && comparable(at) === null) at--;
    if (at < low) {
      low = middle + 1;
      continue;
    }
    const compared = order * compareScalars(comparable(at), wanted);
    if (compared <= 0) {
      found = at;
      low = middle + 1;
    } else high = at - 1;
  }
  return found;
}

function isSame(cell: Scalar, wanted: Scalar): boolean {
  return (
    cell !== null && !(cell instanceof CellError) && typeof cell === typeof wanted && compareScalars(cell, wanted) === 0
  );
}

/** As XLOOKUP and XMATCH search: 0 exact, -1 or the next smaller, 1 or the next larger, 2 with wildcards; from the end for a negative `way`. */
function freePosition(wanted: Scalar, cells: readonly Scalar[], kind: number, way: number): number {
  if (kind === 0 && way === 1) return position(wanted, cells, 0, false);
  if (kind === 2 && way === 1) return position(wanted, cells, 0);
  const pattern = kind === 2 && hasWildcard(wanted) ? wildcard(wanted) : undefined;
  let best = -1;
  for (let step = 0; step < cells.length; step++) {
    const at = way < 0 ? cells.length - 1 - step : step;
    const cell = cells[at];
    if (pattern ? typeof cell === "string" && pattern.test(cell) : isSame(cell, wanted)) return at;
    if (Math.abs(kind) !== 1 || cell === null || cell instanceof CellError || typeof cell !== typeof wanted) continue;
    const isOnSide = kind * compareScalars(cell, wanted) > 0;
    if (isOnSide && (best < 0 || kind * compareScalars(cell, cells[best]) < 0)) best = at;
  }
  return best;
}

const numberArg = (arg: (() => Operand) | undefined, otherwise: number): number => {
  const value = arg ? numberOf(arg() ?? otherwise) : otherwise;
  return value instanceof CellError ? otherwise : value;
};

function lookUp(vertical: boolean): FormulaFunction {
  return ([wantedArg, tableArg, indexArg, nearArg]) => {
    const wanted = scalarOf(wantedArg());
    if (wanted instanceof CellError) return wanted;
    const table = asMatrix(tableArg());
    const index = numberOf(indexArg());
    if (index instanceof CellError) return index;
    if (index < 1) return CellError.of("#VALUE!");
    const near = nearArg ? truthOf(nearArg()) : true;
    const keys = listOf(table, vertical ? "first column" : "first row");
    const at = position(wanted ?? 0, keys, near ? 1 : 0);
    if (at < 0) return NA;
    const found = vertical ? table[at][Math.trunc(index) - 1] : table[Math.trunc(index) - 1]?.[at];
    return found === undefined ? CellError.of("#REF!") : found;
  };
}

export const LOOKUP_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  VLOOKUP: lookUp(true),
  HLOOKUP: lookUp(false),
  MATCH: ([wantedArg, listArg, orderArg]) => {
    const wanted = scalarOf(wantedArg());
    if (wanted instanceof CellError) return wanted;
    const order = orderArg ? numberOf(orderArg()) : 1;
    if (order instanceof CellError) return order;
    const at = position(wanted ?? 0, listOf(asMatrix(listArg()), "all"), Math.sign(order));
    return at < 0 ? NA : at + 1;
  },
  INDEX: ([tableArg, rowArg, columnArg]) => {
    const table = asMatrix(tableArg());
    let row = numberOf(rowArg ? rowArg() : 0);
    let column = columnArg ? numberOf(columnArg()) : 0;
    if (row instanceof CellError) return row;
    if (column instanceof CellError) return column;
    if (!columnArg && table.length === 1) [row, column] = [1, row];
    if (row > table.length || column > table[0].length || row < 0 || column < 0) return CellError.of("#REF!");
    if (row === 0) return column === 0 ? table : table.map((line) => [line[column - 1]]);
    return column === 0 && table[0].length > 1 ? [table[row - 1]] : table[row - 1][Math.max(column, 1) - 1];
  },
  XMATCH: ([wantedArg, listArg, kindArg, wayArg]) => {
    const wanted = scalarOf(wantedArg());
    if (wanted instanceof CellError) return wanted;
    const list = listOf(asMatrix(listArg()), "all");
    const at = freePosition(wanted ?? 0, list, numberArg(kindArg, 0), Math.sign(numberArg(wayArg, 1)));
    return at < 0 ? NA : at + 1;
  },
  XLOOKUP: ([wantedArg, listArg, resultArg, otherwise, kindArg, wayArg]) => {
    const wanted = scalarOf(wantedArg());
    if (wanted instanceof CellError) return wanted;
    const keys = asMatrix(listArg());
    const at = freePosition(wanted ?? 0, listOf(keys, "all"), numberArg(kindArg, 0), Math.sign(numberArg(wayArg, 1)));
    if (at < 0) return otherwise ? (otherwise() ?? NA) : NA;
    const results = asMatrix(resultArg());
    if (keys.length > 1 || keys[0].length === 1) return results[at]?.length === 1 ? results[at][0] : [results[at]];
    return results.length === 1 ? results[0][at] : results.map((row) => [row[at]]);
  },
  LOOKUP: ([wantedArg, listArg, resultArg]) => {
    const wanted = scalarOf(wantedArg());
    if (wanted instanceof CellError) return wanted;
    const list = asMatrix(listArg());
    const isWide = list[0].length > list.length;
    const keys = resultArg !== undefined ? listOf(list, "all") : listOf(list, isWide ? "first row" : "first column");
    const at = position(wanted ?? 0, keys, 1);
    if (at < 0) return NA;
    if (resultArg !== undefined) return listOf(asMatrix(resultArg()), "all")[at] ?? NA;
    return isWide ? list[list.length - 1][at] : list[at][list[at].length - 1];
  },
};
