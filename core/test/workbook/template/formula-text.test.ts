import { describe, expect, it } from "vitest";
import { AxisMap } from "../../../src/workbook/fill/axis-map.js";
import {
  growingCells,
  isRepeated,
  type Moves,
  moveRanges,
  parseFormulaText,
  shiftFormula,
  writeFormula,
} from "../../../src/workbook/template/formula-text.js";
import { envOf, rowsOf, span } from "../../support/axis.js";

const line = span("line", 1, 1);
/** Row 2 stands three times: rows from the third on move down by two. */
const MAP = rowsOf([line], ["a", "b", "c"]);
const moves = (more: Partial<Moves> = {}): Moves => ({
  own: "Visits",
  map: (sheet) => (sheet === "Visits" ? MAP : undefined),
  renamed: new Map(),
  ...more,
});
const moved = (formula: string, more: Partial<Moves> = {}) => writeFormula(parseFormulaText(formula), moves(more));
const second = { rows: [{ section: line, index: 1 }], columns: [] };

describe("a formula whose rows move", () => {
  it.each([
    ["SUM(A2:A2)", "SUM(A2:A4)"],
    ["A2", "A2"],
    ["A1+A3", "A1+A5"],
    ["SUM(Visits!A2:A3)", "SUM(Visits!A2:A5)"],
    ["SUM(Other!A2:A2)", "SUM(Other!A2:A2)"],
    ['IF(A3="A2",1,"A3")', 'IF(A5="A2",1,"A3")'],
    ["SUM(A:A)", "SUM(A:A)"],
    ["SUM(2:2)", "SUM(2:4)"],
    ["SUM([1]Visits!A2:A2)", "SUM([1]Visits!A2:A2)"],
    ["SUM(A1:A1)", "SUM(A1:A1)"],
    ["this is (no formula", "this is (no formula"],
  ])("%s becomes %s", (before, after) => {
    expect(moved(before)).toBe(after);
  });

  it("goes with its own repetition, fixed or not, as far as it stands in it", () => {
    expect(moved("A2*2", { instance: second })).toBe("A3*2");
    expect(moved("SUM(A2:B2)", { instance: second })).toBe("SUM(A3:B3)");
    expect(moved("A$2*2", { instance: second })).toBe("A$2*2");
    expect(moved("SUM(A$2:A2)", { instance: second })).toBe("SUM(A$2:A3)");
    expect(moved("Visits!A2", { instance: second })).toBe("Visits!A3");
  });

  it("follows sheets that are called otherwise", () => {
    const renamed = new Map([["visits", "Dock west"]]);
    expect(moved("Visits!A3+Other!A3", { renamed })).toBe("'Dock west'!A5+Other!A3");
    expect(moved("A3", { renamed })).toBe("A5");
  });

  it("of a chart or a name takes a repeated cell for all of them", () => {
    const text = parseFormulaText("Visits!$A$2");
    expect(writeFormula(growingCells(text, moves()), moves())).toBe("Visits!$A$2:$A$4");
    expect(writeFormula(growingCells(parseFormulaText("Visits!$A$3"), moves()), moves())).toBe("Visits!$A$5");
  });
});

describe("repeated cells", () => {
  it("are those in rows or columns that stand for lines", () => {
    const at = (top: number) => ({ range: { top, left: 0, bottom: top, right: 0 } });
    expect([isRepeated(at(1), MAP), isRepeated(at(2), MAP), isRepeated(at(1), undefined)]).toEqual([
      true,
      false,
      false,
    ]);
    const across = { rows: new AxisMap([], envOf([])), columns: new AxisMap([span("line", 0, 0)], envOf(["a", "b"])) };
    expect(isRepeated(at(9), across)).toBe(true);
  });
});

describe("a formula written for a block", () => {
  it.each([
    ["A1+$B$2", 2, 1, "B3+$B$2"],
    ["SUM($A1:A$9)", 1, 1, "SUM($A2:B$9)"],
    ['Visits!A1&"A1"', 1, 0, 'Visits!A2&"A1"'],
    ["A:A", 3, 1, "B:B"],
    ["B2", -2, 0, "#REF!"],
    ["B2", -1, -1, "A1"],
  ])("%s moved by %d and %d is %s", (formula, rows, columns, after) => {
    expect(shiftFormula(formula, rows, columns)).toBe(after);
  });
});

describe("plain ranges", () => {
  it("move, grow over what repeats, and stay lists", () => {
    expect(moveRanges("A2:B2 D5", MAP)).toBe("A2:B4 D7");
    expect(moveRanges("A1", MAP)).toBe("A1");
    expect(moveRanges("no range", MAP)).toBe("no range");
  });

  it("inside of sub-groups stand once in each", () => {
    const by = span("by", 1, 2, { by: (_, at) => ["a", "b"][at], children: [] });
    const map = rowsOf([by], ["a", "b"]);
    expect(moveRanges("A2:A3", map)).toBe("A2:A3 A4:A5");
    expect(moveRanges("A2:A3", map, false)).toBe("A2:A5");
  });
});
