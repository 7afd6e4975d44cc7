/** Squares of numbers, by elimination with the largest pivot. */

interface Eliminated {
  readonly rows: number[][];
  readonly determinant: number;
}

/** Brings the left square of rows to the unit square; `undefined` where it has no inverse. */
function eliminate(rows: number[][], size: number): Eliminated | undefined {
  let determinant = 1;
  for (let column = 0; column < size; column++) {
    let pivot = column;
    for (let row = column + 1; row < size; row++)
      if (Math.abs(rows[row][column]) > Math.abs(rows[pivot][column])) pivot = row;
    const largest = rows[pivot][column];
    if (largest === 0 || Math.abs(largest) < 1e-14 * Math.max(...rows.map((row) => Math.abs(row[column])), 1e-300))
      return undefined;
    if (pivot !== column) {
      [rows[pivot], rows[column]] = [rows[column], rows[pivot]];
      determinant = -determinant;
    }
    determinant *= largest;
    rows[column] = rows[column].map((value) => value / largest);
    for (let row = 0; row < size; row++) {
      const factor = rows[row][column];
      if (row === column || factor === 0) continue;
      rows[row] = rows[row].map((value, at) => value - factor * rows[column][at]);
    }
  }
  return { rows, determinant };
}

export function determinant(matrix: readonly (readonly number[])[]): number {
  return (
    eliminate(
      matrix.map((row) => [...row]),
      matrix.length,
    )?.determinant ?? 0
  );
}

export function inverse(matrix: readonly (readonly number[])[]): number[][] | undefined {
  const size = matrix.length;
  const wide = matrix.map((row, at) => [...row, ...matrix.map((_, column) => (column === at ? 1 : 0))]);
  return eliminate(wide, size)?.rows.map((row) => row.slice(size));
}

/** The vector that the matrix turns into `target`. */
export function solve(matrix: readonly (readonly number[])[], target: readonly number[]): number[] | undefined {
  const size = matrix.length;
  return eliminate(
    matrix.map((row, at) => [...row, target[at]]),
    size,
  )?.rows.map((row) => row[size]);
}
