import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { determinant, inverse, solve } from "../../../../src/formula/functions/support/matrices.js";

const entry = fc.integer({ min: -9, max: 9 });
const square = fc
  .integer({ min: 1, max: 5 })
  .chain((size) =>
    fc.array(fc.array(entry, { minLength: size, maxLength: size }), { minLength: size, maxLength: size }),
  );

const times = (a: number[][], b: number[][]): number[][] =>
  a.map((row) => b[0].map((_, column) => row.reduce((sum, value, at) => sum + value * b[at][column], 0)));
/** By the first row's minors: slow, and surely right for whole numbers. */
const byMinors = (matrix: number[][]): number =>
  matrix.length === 0
    ? 1
    : matrix[0].reduce(
        (sum, value, at) =>
          sum + (at % 2 === 0 ? 1 : -1) * value * byMinors(matrix.slice(1).map((row) => row.toSpliced(at, 1))),
        0,
      );

describe("squares of numbers", () => {
  it("have the determinant of their minors", () => {
    fc.assert(
      fc.property(square, (matrix) => {
        expect(determinant(matrix)).toBeCloseTo(byMinors(matrix), 5);
      }),
    );
  });

  it("times their inverse are the unit square; without one they have no determinant", () => {
    fc.assert(
      fc.property(square, (matrix) => {
        const inverted = inverse(matrix);
        if (byMinors(matrix) === 0) expect(inverted).toBeUndefined();
        else
          for (const [at, row] of times(matrix, inverted as number[][]).entries())
            for (const [column, value] of row.entries()) expect(value).toBeCloseTo(at === column ? 1 : 0, 6);
      }),
    );
  });

  it("turn what is solved into what was asked for, and stay as they were", () => {
    fc.assert(
      fc.property(square, fc.array(entry, { minLength: 5, maxLength: 5 }), (matrix, numbers) => {
        const before = JSON.stringify(matrix);
        const target = numbers.slice(0, matrix.length);
        const solved = solve(matrix, target);
        expect(JSON.stringify(matrix)).toBe(before);
        const column = (solved ?? []).map((value) => [value]);
        if (solved)
          for (const [at, [value]] of times(matrix, column).entries()) expect(value).toBeCloseTo(target[at], 6);
      }),
    );
  });
});
