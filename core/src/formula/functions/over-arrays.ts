/** Functions that go over arrays with a function. */
import {
  asMatrix,
  CellError,
  type Matrix,
  numberOf,
  type Operand,
  type Scalar,
  scalarOf,
  spreadCell,
} from "../value.js";

type Apply = (...values: Operand[]) => Operand;

const VALUE = CellError.of("#VALUE!");
/** More cells are not made by one formula. */
const MAX_CELLS = 1_000_000;

/** One value of what a function gave for a cell: an array in a cell is no value. */
function cellOf(result: Operand): Scalar {
  const matrix = asMatrix(result);
  return matrix.length > 1 || matrix[0].length > 1 ? CellError.of("#CALC!") : scalarOf(result);
}

function scanned(start: Operand, table: Matrix, apply: Apply): { readonly all: Scalar[][]; readonly last: Operand } {
  let last: Operand = start;
  const all = table.map((row) =>
    row.map((value) => {
      last = apply(last, value);
      return scalarOf(last);
    }),
  );
  return { all, last };
}

/** What goes over, and the function; the value before the first of REDUCE and SCAN may be left out. */
export const OVER_FUNCTIONS: Readonly<Record<string, (args: readonly Operand[], apply: Apply) => Operand>> = {
  MAP: (args, apply) => {
    const rows = Math.max(...args.map((arg) => asMatrix(arg).length));
    const columns = Math.max(...args.map((arg) => asMatrix(arg)[0].length));
    return Array.from({ length: rows }, (_, row) =>
      Array.from({ length: columns }, (__, column) =>
        cellOf(apply(...args.map((arg) => spreadCell(arg, row, column)))),
      ),
    );
  },
  REDUCE: (args, apply) => scanned(args.length > 1 ? args[0] : null, asMatrix(args[args.length - 1]), apply).last,
  SCAN: (args, apply) => scanned(args.length > 1 ? args[0] : null, asMatrix(args[args.length - 1]), apply).all,
  BYROW: ([table], apply) => asMatrix(table).map((row) => [cellOf(apply([row]))]),
  BYCOL: ([table], apply) => {
    const rows = asMatrix(table);
    return [rows[0].map((_, column) => cellOf(apply(rows.map((row) => [row[column]]))))];
  },
  MAKEARRAY: ([rowsArg, columnsArg], apply) => {
    const [rows, columns] = [numberOf(rowsArg), numberOf(columnsArg)];
    if (rows instanceof CellError) return rows;
    if (columns instanceof CellError) return columns;
    const [height, width] = [Math.trunc(rows), Math.trunc(columns)];
    if (height < 1 || width < 1 || height * width > MAX_CELLS) return VALUE;
    return Array.from({ length: height }, (_, row) =>
      Array.from({ length: width }, (__, column) => cellOf(apply(row + 1, column + 1))),
    );
  },
};
