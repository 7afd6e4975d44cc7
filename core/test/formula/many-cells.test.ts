/** Functions over more cells than a call of a program takes arguments. */
import { CellError, calculate, compileFormula, type Scalar } from "@corbix/core/formula";
import { describe, expect, it } from "vitest";

const COUNT = 140_000;
const SHEET = new Map(
  Array.from(
    { length: COUNT },
    (_, row) =>
      [
        row,
        new Map<number, Scalar>([
          [0, row + 1],
          [1, row % 2 === 0 ? "a" : "b"],
        ]),
      ] as const,
  ),
);

function evaluate(source: string): Scalar {
  const { results } = calculate({
    values: [SHEET, SHEET],
    formulas: [
      {
        sheet: 0,
        row: 0,
        column: 9,
        formula: compileFormula(source),
        stored: "stored",
        locate: ({ range, sheet }) => ({
          sheet: sheet === "Two" ? 1 : 0,
          top: range.top ?? 0,
          left: range.left ?? 0,
          bottom: range.bottom ?? COUNT - 1,
          right: range.right ?? 1,
        }),
      },
    ],
    sheetNames: ["One", "Two"],
    sheetIndex: (name) => ["One", "Two"].indexOf(name),
    name: () => undefined,
    now: 46_328,
  });
  return results[0].value;
}

describe("more cells than a call takes", () => {
  it.each<[string, Scalar]>([
    ['MAXIFS(A1:A140000,B1:B140000,"a")', COUNT - 1],
    ['MINIFS(A1:A140000,B1:B140000,"b")', 2],
    ["MAX(A1:A140000)", COUNT],
    ["MODE(A1:A140000)", CellError.of("#N/A")],
    ["SUM(One:Two!A1:A140000)", COUNT * (COUNT + 1)],
    ["MEDIAN(A1:A140000)", (COUNT + 1) / 2],
    ["LARGE(A1:A140000,2)", COUNT - 1],
    ["PERCENTILE(A1:A140000,1)", COUNT],
    ["ROWS(UNIQUE(A1:A140000))", COUNT],
    ["INDEX(SORT(A1:A140000,,-1),1)", COUNT],
    ["ROWS(VSTACK(A1:A140000,A1:A140000))", 2 * COUNT],
    ['COUNTIF(B1:B140000,"a")', COUNT / 2],
    ["SUMPRODUCT(A1:A140000,A1:A140000)", (COUNT * (COUNT + 1) * (2 * COUNT + 1)) / 6],
    ["LEN(CONCAT(B1:B30000))", 30_000],
    ["RANK(5,A1:A140000,1)", 5],
    ["STDEV(A1:A140000)>0", true],
    ['LARGE(FILTER(A1:A140000,B1:B140000="a"),1)', COUNT - 1],
    ["FREQUENCY(A1:A140000,10)", 10],
    ["MATCH(140000,A1:A140000,0)", COUNT],
    ["AGGREGATE(4,6,A1:A140000)", COUNT],
    ["SUBTOTAL(4,A1:A140000)", COUNT],
  ])("%s", (source, value) => {
    expect(evaluate(source)).toEqual(value);
  });
});
