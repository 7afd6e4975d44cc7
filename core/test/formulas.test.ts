import { CellError, calculate, compileFormula, type FormulaCell, type Scalar } from "@corbix/core/calculate";
import { serialFromParts } from "@corbix/core/common";
import { describe, expect, it } from "vitest";
import { CELLS, EXPECTED } from "./tables/formulas.js";

const values = new Map<number, Map<number, Scalar>>();
for (const [name, value] of Object.entries(CELLS)) {
  const [column, row] = [name.charCodeAt(0) - 65, Number(name.slice(1)) - 1];
  const cell = typeof value === "string" && value.startsWith("#") ? CellError.of(value as "#N/A") : value;
  values.set(row, (values.get(row) ?? new Map()).set(column, cell));
}

function evaluate(source: string): Scalar {
  const cell: FormulaCell = {
    sheet: 0,
    row: 99,
    column: 25,
    formula: compileFormula(source),
    stored: "stored",
    locate: ({ range }) => ({
      sheet: 0,
      top: range.top ?? 0,
      left: range.left ?? 0,
      bottom: range.bottom ?? 1_048_575,
      right: range.right ?? 16_383,
    }),
  };
  const now = serialFromParts(2026, 11, 2) + 0.5;
  return calculate({ values: [values], formulas: [cell], name: () => undefined, now }).results[0].value;
}

const told = Object.entries(EXPECTED).flatMap(([group, list]) =>
  list.map(([source, expected]) => [group, source, expected] as const),
);

describe("what formulas give", () => {
  it.each(told)("%s: %s", (_, source, expected) => {
    const found = evaluate(source);
    const value = found instanceof CellError ? found.name : found;
    if (typeof expected !== "number") expect(value).toBe(expected);
    else {
      expect(typeof value).toBe("number");
      expect(Math.abs((value as number) - expected)).toBeLessThanOrEqual(Math.max(1e-9, Math.abs(expected) * 1e-9));
    }
  });
});
