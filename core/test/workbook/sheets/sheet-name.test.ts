/** Names of sheets that every program takes: 18.2.19 of ECMA-376 part 1. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sheetName, uniqueNames } from "../../../src/workbook/sheets/sheet-name.js";

const isTaken = (name: string): boolean =>
  name.length > 0 && name.length <= 31 && !/[[\]:*?/\\]/.test(name) && !/^'|'$/.test(name) && name.trim() === name;

describe("a sheet's name", () => {
  it.each([
    ["Dock", "Dock"],
    ["A/B [1]: *?\\", "A B  1"],
    ["'quoted'", "quoted"],
    ["it's", "it's"],
    ["", "Sheet"],
    ["'''", "Sheet"],
    ["a".repeat(40), "a".repeat(31)],
    [`${"a".repeat(30)}'b`, "a".repeat(30)],
    ["\u{1f6d7}".repeat(20), "\u{1f6d7}".repeat(15)],
  ])("%j is %j", (wanted, name) => {
    expect(sheetName(wanted)).toBe(name);
  });

  it("is one that programs take, and no two are alike, whatever is wished", () => {
    const wish = fc.oneof(
      fc.constantFrom(
        "Dock",
        "dock",
        "DOCK ",
        "",
        "'",
        "a".repeat(40),
        "A".repeat(31),
        "x [2]",
        "\u{1f6d7}".repeat(18),
      ),
      fc.string({ maxLength: 40, unit: "grapheme" }),
    );
    fc.assert(
      fc.property(fc.array(wish, { maxLength: 12 }), fc.array(wish, { maxLength: 4 }), (wanted, others) => {
        const taken = others.map(sheetName);
        const names = uniqueNames(wanted, taken);
        expect(names.length).toBe(wanted.length);
        for (const name of names) expect(isTaken(name), JSON.stringify(name)).toBe(true);
        const all = [...names, ...new Set(taken.map((name) => name.toLowerCase()))].map((name) => name.toLowerCase());
        expect(new Set(all).size).toBe(all.length);
      }),
    );
  });
});
