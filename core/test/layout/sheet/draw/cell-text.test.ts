import type { CellFormat } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { narrowNumber, showCell } from "../../../../src/layout/sheet/draw/cell-text.js";

const show = (value: string | number | boolean, code = "General", isError = false) =>
  showCell({ value, isError } as Parameters<typeof showCell>[0], { code } as CellFormat);

describe("what a cell shows", () => {
  it.each([
    [12.5, "0.00", "12.50"],
    [46_328, "dd.mm.yyyy", "02.11.2026"],
    [0.075, "0.0%", "7.5%"],
    ["Dock", "General", "Dock"],
    ["Dock", "@", "Dock"],
    ["Dock", '"Site: "@', "Site: Dock"],
    [true, "0.00", "TRUE"],
  ])("%s by %s is %s", (value, code, text) => {
    expect(show(value, code).text).toBe(text);
  });

  it.each([
    [0.1 + 0.2, "0.3"],
    [1234567890123, "1.23457E+12"],
    [12345678901, "12345678901"],
    [1 / 3, "0.333333333"],
    [100 / 3, "33.33333333"],
    [-2 / 3, "-0.666666667"],
    [1e-10, "1E-10"],
    [0, "0"],
  ])("the general number %d is %s", (value, text) => {
    expect(show(value).text).toBe(text);
  });

  it("says what is a number, and the colour a format asks for", () => {
    expect(show(-3, "0;[Red]-0")).toEqual({ text: "-3", color: "FF0000", isNumber: true });
    expect(show(3, "0;[Red]-0").color).toBeUndefined();
    expect(show("#N/A", "0.00", true)).toEqual({ text: "#N/A", color: undefined, isNumber: false });
  });
});

describe("a number in a cell too narrow for it", () => {
  const narrow = (value: number, width: number) => narrowNumber(value, (text) => text.length <= width);

  it("has fewer places, then an exponent, and never another size", () => {
    expect([narrow(33.333_333_33, 6), narrow(33.333_333_33, 2), narrow(1.96, 3)]).toEqual(["33.333", "33", "2"]);
    expect(narrow(123_456_789, 7)).toBe("1.2E+08");
    expect(narrow(123_456_789, 5)).toBe("1E+08");
    expect(narrow(123_456_789, 3)).toBeUndefined();
    expect(narrow(0.000_012_345, 6)).toBe("1E-05");
  });
});
