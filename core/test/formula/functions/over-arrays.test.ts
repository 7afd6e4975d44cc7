import { CellError, type Scalar } from "@corbix/core/formula";
import { describe, expect, it } from "vitest";
import { OVER_FUNCTIONS } from "../../../src/formula/functions/over-arrays.js";
import type { Operand } from "../../../src/formula/value.js";

const TABLE = [
  [1, 2],
  [3, 4],
];
const number = (value: Operand | undefined): number => (typeof value === "number" ? value : Number.NaN);
const sum = (...values: Operand[]): Scalar =>
  values.flat(3).reduce<number>((all, value) => all + number(value as Operand), 0);

describe("functions that go over arrays", () => {
  it("map each value, and several arrays as far as the longest goes", () => {
    expect(OVER_FUNCTIONS.MAP([TABLE], (value) => number(value) * 10)).toEqual([
      [10, 20],
      [30, 40],
    ]);
    const add = (a: Operand | undefined, b: Operand | undefined) =>
      b instanceof CellError ? b : number(a) + number(b);
    expect(
      OVER_FUNCTIONS.MAP(
        [
          [[1], [2], [3]],
          [[10], [20]],
        ],
        add,
      ),
    ).toEqual([[11], [22], [CellError.of("#N/A")]]);
    expect(OVER_FUNCTIONS.MAP([[[1], [2]], [[10]]], add)).toEqual([[11], [12]]);
  });

  it("go on from what came before", () => {
    expect(OVER_FUNCTIONS.REDUCE([100, TABLE], sum)).toBe(110);
    expect(OVER_FUNCTIONS.SCAN([0, TABLE], sum)).toEqual([
      [1, 3],
      [6, 10],
    ]);
    expect(OVER_FUNCTIONS.REDUCE([[[7]]], (last, value) => (last === null ? value : 0))).toBe(7);
  });

  it("take rows and columns as a whole", () => {
    expect(OVER_FUNCTIONS.BYROW([TABLE], sum)).toEqual([[3], [7]]);
    expect(OVER_FUNCTIONS.BYCOL([TABLE], sum)).toEqual([[4, 6]]);
    expect(OVER_FUNCTIONS.BYROW([TABLE], (row) => row)).toEqual([[CellError.of("#CALC!")], [CellError.of("#CALC!")]]);
  });

  it("make arrays of a size, and none beyond what a formula makes", () => {
    expect(OVER_FUNCTIONS.MAKEARRAY([2.9, 2], (row, column) => number(row) * 10 + number(column))).toEqual([
      [11, 12],
      [21, 22],
    ]);
    for (const [rows, columns] of [
      [0, 1],
      [1, -1],
      [2_000, 2_000],
    ])
      expect(OVER_FUNCTIONS.MAKEARRAY([rows, columns], () => 1)).toBe(CellError.of("#VALUE!"));
    expect(OVER_FUNCTIONS.MAKEARRAY([CellError.of("#REF!"), 1], () => 1)).toBe(CellError.of("#REF!"));
  });
});
