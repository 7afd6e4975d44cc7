import { CellError, type Scalar } from "@corbix/core/formula";
import { describe, expect, it } from "vitest";
import {
  criterion,
  hasWildcard,
  wildcard,
  wildcardWithin,
} from "../../../../src/formula/functions/support/criteria.js";

const CELLS: Scalar[] = [7, "7", 10, -1, "Dock", "dock west", "Quay", "", null, true, false, CellError.of("#N/A"), "*"];
const kept = (condition: Scalar): Scalar[] => CELLS.filter(criterion(condition));

describe("the condition of sums and counts", () => {
  it.each<[string, Scalar, Scalar[]]>([
    ["a number", 7, [7, "7"]],
    ["a number in a text", "7", [7, "7"]],
    ["an equal number", "=7", [7, "7"]],
    ["at least", ">=7", [7, 10]],
    ["more", ">7", [10]],
    ["below", "<7", [-1]],
    ["at most", "<=7", [7, -1]],
    ["a text in either case", "DOCK", ["Dock"]],
    ["a beginning", "dock*", ["Dock", "dock west"]],
    ["one sign", "Doc?", ["Dock"]],
    ["a sign taken literally", "~*", ["*"]],
    ["texts behind another", ">dock west", ["Quay"]],
    ["a truth value", true, [true]],
    ["a truth value in a text", "false", [false]],
    ["an error", "#N/A", [CellError.of("#N/A")]],
    ["an error itself", CellError.of("#N/A"), [CellError.of("#N/A")]],
    ["nothing at all", "=", [null]],
    ["a blank text", "", ["", null]],
    ["something", "<>", CELLS.filter((cell) => cell !== null)],
    ["not a number", "<>7", CELLS.filter((cell) => cell !== 7 && cell !== "7")],
    ["not a text", "<>dock*", CELLS.filter((cell) => cell !== "Dock" && cell !== "dock west")],
    ["below an error", "<#N/A", []],
  ])("%s", (_, condition, cells) => {
    expect(kept(condition)).toEqual(cells);
  });

  it("of a blank cell asks for nought", () => {
    expect([0, "0", null, 7].filter(criterion(null))).toEqual([0, "0"]);
  });

  it("reads days as the numbers they are", () => {
    expect([46_327, 46_328, 46_329].filter(criterion(">=2 Nov 2026"))).toEqual([46_328, 46_329]);
  });
});

describe("signs that stand for others", () => {
  it("are told", () => {
    expect(["a*", "a?", "a~", "a"].map(hasWildcard)).toEqual([true, true, true, false]);
  });

  it("reach over lines, and what programs read as patterns is only text", () => {
    expect(wildcard("a*b").test("a\nb")).toBe(true);
    expect(wildcard("a.b").test("axb")).toBe(false);
    expect(wildcard("(a)[b]^$").test("(a)[b]^$")).toBe(true);
    expect(wildcard("a~").test("a~")).toBe(true);
  });

  it("within a text find the first and shortest place", () => {
    expect("xx a1b a22b".match(wildcardWithin("a*b"))).toEqual(["a1b", "a22b"]);
  });
});
