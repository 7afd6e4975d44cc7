import { readFileSync } from "node:fs";
import { serialFromParts } from "@corbix/core/common";
import {
  CellError,
  calculate,
  compileFormula,
  type FormulaCell,
  FUNCTION_NAMES,
  functionsPage,
  OUTSIDE_THE_FILE,
  type Scalar,
  STANDARD_FUNCTIONS,
} from "@corbix/core/formula";
import { describe, expect, it } from "vitest";
import { CELLS, EXPECTED } from "../support/tables/formulas.js";

const values = new Map<number, Map<number, Scalar>>();
for (const [name, value] of Object.entries(CELLS)) {
  const [column, row] = [name.charCodeAt(0) - 65, Number(name.slice(1)) - 1];
  const cell = typeof value === "string" && value.startsWith("#") ? CellError.of(value as "#N/A") : value;
  values.set(row, (values.get(row) ?? new Map()).set(column, cell));
}

function evaluate(source: string, cells: ReadonlyMap<number, ReadonlyMap<number, Scalar>> = values): Scalar {
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
  return calculate({ values: [cells], formulas: [cell], name: () => undefined, now }).results[0].value;
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

const worked = JSON.parse(
  readFileSync(new URL("../support/tables/worked-formulas.json", import.meta.url), "utf8"),
) as Record<string, readonly (readonly [string, number | string | boolean])[]>;
const X = [3.5, 1.25, 7.0, 4.75, 9.5, 6.0, 2.5, 8.25, 5.5, 10.0, 4.0, 7.75];
const Y = [12.1, 6.2, 21.9, 15.8, 29.4, 19.2, 9.7, 25.3, 18.1, 31.0, 13.2, 24.6];
const lists = new Map(
  X.map((value, row) => [
    row,
    new Map<number, Scalar>([
      [0, value],
      [1, Y[row]],
    ]),
  ]),
);

describe("what formulas give, worked out in another language", () => {
  it.each(Object.entries(worked))("%s", (_, list) => {
    const wrong: string[] = [];
    for (const [source, expected] of list) {
      const found = evaluate(source, lists);
      const value = found instanceof CellError ? found.name : found;
      const isRight =
        typeof expected === "number"
          ? typeof value === "number" && Math.abs(value - expected) <= Math.max(1e-9, Math.abs(expected) * 1e-7)
          : value === expected;
      if (!isRight) wrong.push(`${source} gives ${String(value)}, not ${String(expected)}`);
    }
    expect(wrong).toEqual([]);
  });

  it("are at least a thousand with those above", () => {
    const count = told.length + Object.values(worked).flat().length;
    expect(count).toBeGreaterThanOrEqual(1000);
  });
});

describe("references over sheets", () => {
  const sheet = (value: number) => new Map([[0, new Map<number, Scalar>([[0, value]])]]);
  const names = ["January", "February", "Mar 26"];
  const over = (source: string): Scalar => {
    const cell: FormulaCell = {
      sheet: 0,
      row: 9,
      column: 9,
      formula: compileFormula(source),
      stored: "stored",
      locate: ({ sheet: name, range }) => ({
        sheet: name === undefined ? 0 : names.indexOf(name),
        top: range.top ?? 0,
        left: range.left ?? 0,
        bottom: range.bottom ?? 1_048_575,
        right: range.right ?? 16_383,
      }),
    };
    const sheetIndex = (name: string) => {
      const at = names.findIndex((one) => one.toLowerCase() === name.toLowerCase());
      return at < 0 ? undefined : at;
    };
    const { results } = calculate({
      values: [sheet(1), sheet(10), sheet(100)],
      formulas: [cell],
      name: () => undefined,
      sheetIndex,
      sheetNames: names,
      now: 46_328,
    });
    return results[0].value;
  };

  it.each([
    ["SUM(January:February!A1)", 11],
    ["SUM('January:Mar 26'!A1)", 111],
    ["SUM('January:Mar 26'!A1:B2)", 111],
    ["AVERAGE('Mar 26:January'!A1)", 37],
    ["MAX('January:Mar 26'!A1)", 100],
    ["COUNT('January:Mar 26'!A1:A5)", 3],
    ["SUM(January:April!A1)", "#REF!"],
    ["SHEETS()", 3],
  ])("%s", (source, expected) => {
    const value = over(source);
    expect(value instanceof CellError ? value.name : value).toBe(expected);
  });
});

const MISSING: readonly string[] = [];

describe("the page of formulas", () => {
  it("tells what the code has, and counts it", () => {
    const page = readFileSync(new URL("../../../docs/formulas.md", import.meta.url), "utf8");
    expect(page).toBe(functionsPage());
    const names = STANDARD_FUNCTIONS.flatMap((group) => group.names);
    const missing = names.filter((name) => !FUNCTION_NAMES.includes(name) && !OUTSIDE_THE_FILE.has(name));
    // What is missing is listed by name, so that none goes unseen.
    expect(missing).toEqual(MISSING);
    expect(new Set(names).size).toBe(names.length);
  });
});
