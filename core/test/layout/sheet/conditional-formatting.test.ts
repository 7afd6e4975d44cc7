import { cellValues, openWorkbook } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { applyRules, type RuledLook } from "../../../src/layout/sheet/read/conditional-formatting.js";
import { makeElsewhere } from "../../support/helpers.js";

type Given = string | number | boolean | null;

/** 2 November 2026, a Monday. */
const TODAY = 46328;

/** What a rule makes of cells in one column, by row from 0. `rules` is Python, a rule for each column. */
function apply(columns: readonly { readonly values: readonly Given[]; readonly rule: string }[]) {
  const code = columns.map(({ values, rule }, column) => {
    const letter = String.fromCharCode(65 + column);
    const cells = values.map((value, row) => `sheet["${letter}${row + 1}"] = ${python(value)}`).join("\n");
    return `${cells}\nsheet.conditional_formatting.add("${letter}1:${letter}${values.length}", ${rule})`;
  });
  const bytes = makeElsewhere(
    `from openpyxl.formatting.rule import *\nlook = differential.DifferentialStyle(fill=PatternFill(bgColor="FF0000"))\nred = PatternFill(bgColor="FF0000")\n${code.join("\n")}`,
  );
  const workbook = openWorkbook(bytes, "t.xlsx");
  const { part } = workbook.sheets[0];
  const cells = cellValues(workbook, part) as unknown as Parameters<typeof applyRules>[3];
  const { looks, unknown } = applyRules(workbook, 0, workbook.package.getXml(part), cells, TODAY);
  const look = (column: number, row: number): RuledLook | undefined => looks.get(row)?.get(column);
  return { look, unknown };
}

const python = (value: Given): string =>
  value === null ? "None" : typeof value === "boolean" ? (value ? "True" : "False") : JSON.stringify(value);

describe("a rule of a sheet", () => {
  const figures = [5, 1, 4, 2, 3];
  const words = ["Dock gate", "dock", "the Dock", "Mill", null];
  const cases: readonly (readonly [string, readonly Given[], string, readonly number[]])[] = [
    ["equal", figures, 'CellIsRule(operator="equal", formula=["4"], fill=red)', [2]],
    ["not equal", figures, 'CellIsRule(operator="notEqual", formula=["4"], fill=red)', [0, 1, 3, 4]],
    ["below", figures, 'CellIsRule(operator="lessThan", formula=["3"], fill=red)', [1, 3]],
    ["at most", figures, 'CellIsRule(operator="lessThanOrEqual", formula=["3"], fill=red)', [1, 3, 4]],
    ["at least", figures, 'CellIsRule(operator="greaterThanOrEqual", formula=["4"], fill=red)', [0, 2]],
    ["between", figures, 'CellIsRule(operator="between", formula=["2", "4"], fill=red)', [2, 3, 4]],
    ["outside", figures, 'CellIsRule(operator="notBetween", formula=["2", "4"], fill=red)', [0, 1]],
    ["a text", words, `CellIsRule(operator="equal", formula=['"DOCK"'], fill=red)`, [1]],
    ["two highest", figures, 'Rule(type="top10", rank=2, dxf=look)', [0, 2]],
    ["two lowest", figures, 'Rule(type="top10", rank=2, bottom=True, dxf=look)', [1, 3]],
    ["highest with ties", [3, 3, 1, 3], 'Rule(type="top10", rank=1, dxf=look)', [0, 1, 3]],
    ["a fifth", figures, 'Rule(type="top10", rank=20, percent=True, dxf=look)', [0]],
    ["a little more than nothing", figures, 'Rule(type="top10", rank=1, percent=True, dxf=look)', [0]],
    ["more than there are", figures, 'Rule(type="top10", rank=10, dxf=look)', [0, 1, 2, 3, 4]],
    ["above the mean", figures, 'Rule(type="aboveAverage", dxf=look)', [0, 2]],
    ["below the mean", figures, 'Rule(type="aboveAverage", aboveAverage=False, dxf=look)', [1, 3]],
    ["at or above it", figures, 'Rule(type="aboveAverage", equalAverage=True, dxf=look)', [0, 2, 4]],
    // The mean of three times 0.1 is 0.1, whatever binary fractions make of it.
    ["no one below an equal mean", [0.1, 0.1, 0.1], 'Rule(type="aboveAverage", aboveAverage=False, dxf=look)', []],
    ["all at it", [0.1, 0.1, 0.1], 'Rule(type="aboveAverage", equalAverage=True, dxf=look)', [0, 1, 2]],
    ["several", ["a", "A", "b", null, null], 'Rule(type="duplicateValues", dxf=look)', [0, 1]],
    ["once", ["a", "A", "b", null, null], 'Rule(type="uniqueValues", dxf=look)', [2]],
    ["numbers are not texts", [1, "1", 2], 'Rule(type="uniqueValues", dxf=look)', [0, 1, 2]],
    [
      "a word inside",
      words,
      `Rule(type="containsText", operator="containsText", text="dock", formula=['NOT(ISERROR(SEARCH("dock",X1)))'], dxf=look)`,
      [0, 1, 2],
    ],
    ["a truth of another cell", figures, 'FormulaRule(formula=["MOD(ROW(X1),2)=0"], fill=red)', [1, 3]],
    ["nothing where a formula is an error", figures, 'FormulaRule(formula=["1/(X1-4)>0"], fill=red)', [0]],
  ];
  const made = apply(
    cases.map(([, values, rule], column) => ({
      values,
      rule: rule.replaceAll("X1", `${String.fromCharCode(65 + column)}1`),
    })),
  );

  it.each(cases.map(([name, values, , rows], column) => [name, column, values.length, rows] as const))(
    "finds: %s",
    (_name, column, count, rows) => {
      const found = Array.from({ length: count }, (_, row) => row).filter((row) => made.look(column, row));
      expect(found).toEqual(rows);
    },
  );

  it("names no kind that it knows as unknown", () => {
    expect(made.unknown).toEqual([]);
  });

  it("mixes colours between its limits, of two and of three", () => {
    const { look } = apply([
      {
        values: [0, 5, 10, 99, "n/a"],
        rule: 'ColorScaleRule("num", 0, "000000", None, None, None, "num", 10, "FFFFFF")',
      },
      {
        values: [0, 25, 50, 75, 100],
        rule: 'ColorScaleRule("min", None, "FF0000", "percentile", 50, "FFFFFF", "max", None, "0000FF")',
      },
      {
        values: [7, 7, 7],
        rule: 'ColorScaleRule("min", None, "FF0000", None, None, None, "max", None, "0000FF")',
      },
    ]);
    expect([0, 1, 2, 3, 4].map((row) => look(0, row)?.fill)).toEqual([
      "000000",
      "808080",
      "FFFFFF",
      "FFFFFF",
      undefined,
    ]);
    expect([0, 1, 2, 3, 4].map((row) => look(1, row)?.fill)).toEqual([
      "FF0000",
      "FF8080",
      "FFFFFF",
      "8080FF",
      "0000FF",
    ]);
    // All the same: one colour for all.
    expect(new Set([0, 1, 2].map((row) => look(2, row)?.fill)).size).toBe(1);
  });

  it("draws bars as long as their share, and icons by their limits", () => {
    const { look } = apply([
      { values: [0, 50, 100, 200], rule: 'DataBarRule("num", 0, "num", 100, color="638EC6")' },
      { values: [0, 32, 33, 67, 100], rule: 'IconSetRule("3TrafficLights1", "num", [0, 33, 67])' },
      {
        values: [0, 32, 33, 67, 100],
        rule: 'IconSetRule("3Arrows", "num", [0, 33, 67], reverse=True, showValue=False)',
      },
      { values: [1, 2, 3, 4], rule: 'IconSetRule("4Rating", "percent", [0, 25, 50, 75])' },
    ]);
    const lengths = [0, 1, 2, 3].map((row) => look(0, row)?.bar?.to ?? Number.NaN);
    // Between a tenth and nine tenths of the cell, if not said otherwise; what is beyond a limit stops there.
    expect(lengths).toEqual([0.1, 0.5, 0.9, 0.9].map((length) => expect.closeTo(length, 6)));
    expect([0, 1, 2, 3, 4].map((row) => look(1, row)?.icon?.index)).toEqual([0, 0, 1, 2, 2]);
    expect([0, 1, 2, 3, 4].map((row) => look(2, row)?.icon?.index)).toEqual([2, 2, 1, 0, 0]);
    expect([look(1, 0)?.hidesValue, look(2, 0)?.hidesValue]).toEqual([false, true]);
    expect([0, 1, 2, 3].map((row) => look(3, row)?.icon?.index)).toEqual([0, 1, 2, 3]);
  });
});
