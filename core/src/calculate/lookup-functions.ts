/** Functions that look values up in ranges. */
import { wildcard } from "./criteria.js";
import type { FormulaFunction } from "./functions.js";
import {
  CellError,
  compareScalars,
  isMatrix,
  type Matrix,
  numberOf,
  type Operand,
  type Scalar,
  scalarOf,
  truthOf,
} from "./value.js";

const NA = CellError.of("#N/A");

/** An operand as rows of cells. */
export const asMatrix = (operand: Operand): Matrix => (isMatrix(operand) ? operand : [[operand]]);

/** Position of a value in a list: exact (with wildcards), or the last that is not larger (`order` 1) or smaller (-1). */
function position(wanted: Scalar, cells: readonly Scalar[], order: number): number {
  if (order === 0) {
    if (typeof wanted === "string" && /[*?~]/.test(wanted)) {
      const pattern = wildcard(wanted);
      return cells.findIndex((cell) => typeof cell === "string" && pattern.test(cell));
    }
    return cells.findIndex(
      (cell) =>
        cell !== null &&
        !(cell instanceof CellError) &&
        typeof cell === typeof wanted &&
        compareScalars(cell, wanted) === 0,
    );
  }
  let found = -1;
  for (let at = 0; at < cells.length; at++) {
    const cell = cells[at];
    if (cell === null || typeof cell !== typeof wanted) continue;
    if (order * compareScalars(cell, wanted) > 0) break;
    found = at;
  }
  return found;
}

function lookUp(vertical: boolean): FormulaFunction {
  return ([wantedArg, tableArg, indexArg, nearArg]) => {
    const wanted = scalarOf(wantedArg());
    if (wanted instanceof CellError) return wanted;
    const table = asMatrix(tableArg());
    const index = numberOf(indexArg());
    if (index instanceof CellError) return index;
    const near = nearArg ? truthOf(nearArg()) : true;
    const keys = vertical ? table.map((row) => row[0]) : [...table[0]];
    const at = position(wanted ?? 0, keys, near ? 1 : 0);
    if (at < 0) return NA;
    const found = vertical ? table[at][index - 1] : table[index - 1]?.[at];
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
    const at = position(wanted ?? 0, asMatrix(listArg()).flat(), Math.sign(order));
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
  XLOOKUP: ([wantedArg, listArg, resultArg, otherwise]) => {
    const wanted = scalarOf(wantedArg());
    if (wanted instanceof CellError) return wanted;
    const keys = asMatrix(listArg());
    const at = position(wanted ?? 0, keys.flat(), 0);
    if (at < 0) return otherwise ? otherwise() : NA;
    const results = asMatrix(resultArg());
    return keys.length > 1
      ? results[at]?.length === 1
        ? results[at][0]
        : [results[at]]
      : results.length === 1
        ? results[0][at]
        : results.map((row) => [row[at]]);
  },
};
