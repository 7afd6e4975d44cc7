import { CellError } from "@corbix/core/formula";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compareItems, itemKey } from "../../../src/workbook/pivot/items.js";

const item = fc.oneof(
  fc.constant(null),
  fc.boolean(),
  fc.integer(),
  fc.string({ maxLength: 3 }),
  fc.constantFrom("Dock", "dock", "", "7"),
  fc.constant(CellError.of("#N/A")),
);

describe("values a pivot groups by", () => {
  it("are one item in either case, and blank in either way", () => {
    expect(itemKey("Dock")).toBe(itemKey("DOCK"));
    expect(itemKey("")).toBe(itemKey(null));
  });

  it("are told apart by kind", () => {
    const values = [7, "7", true, "true", CellError.of("#N/A"), "#N/A", null, "blank"];
    expect(new Set(values.map(itemKey)).size).toBe(values.length);
  });

  it("come as numbers, texts, truth values, errors and blanks", () => {
    const values = [null, CellError.of("#N/A"), true, false, "Quay", "dock", "Dock 10", 7, -3, ""];
    expect([...values].sort(compareItems)).toEqual([
      -3,
      7,
      "dock",
      "Dock 10",
      "Quay",
      false,
      true,
      CellError.of("#N/A"),
      null,
      "",
    ]);
  });

  it("have one order, in which only the same item is equal", () => {
    fc.assert(
      fc.property(item, item, item, (a, b, c) => {
        expect(Math.sign(compareItems(a, b))).toBe(-Math.sign(compareItems(b, a)) + 0);
        if (compareItems(a, b) <= 0 && compareItems(b, c) <= 0) expect(compareItems(a, c)).toBeLessThanOrEqual(0);
        if (itemKey(a) === itemKey(b)) expect(compareItems(a, b)).toBe(0);
      }),
    );
  });
});
