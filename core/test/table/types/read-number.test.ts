import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readNumber, readWrittenNumber } from "../../../src/table/types/read-number.js";

describe("numbers as people write them", () => {
  it.each([
    ["12", "none", 12, 12],
    ["-3", "none", -3, -3],
    ["\u22123", "none", -3, -3],
    ["3-", "none", -3, -3],
    ["(3)", "none", -3, -3],
    ["+3", "none", 3, 3],
    ["1'234.50", "point", 1234.5, 1234.5],
    ["1’234", "none", 1234, 1234],
    ["1 234 567,8", "comma", 1_234_567.8, 1_234_567.8],
    ["1\u202f234", "none", 1234, 1234],
    ["1,234.50", "point", 1234.5, 1234.5],
    ["1,234,567", "point", 1_234_567, 1_234_567],
    ["1.234,50", "comma", 1234.5, 1234.5],
    ["1.234.567", "comma", 1_234_567, 1_234_567],
    ["1,234", "either", 1234, 1.234],
    ["1.234", "either", 1.234, 1234],
    ["0,234", "comma", 0.234, 0.234],
    ["0.234", "point", 0.234, 0.234],
    ["12,5", "comma", 12.5, 12.5],
    [".5", "point", 0.5, 0.5],
    ["1e3", "none", 1000, 1000],
    ["1.5E-3", "point", 0.0015, 0.0015],
  ] as const)("%s shows %s: %d, or %d", (text, sign, point, comma) => {
    expect(readWrittenNumber(text)).toMatchObject({ sign, point, comma, isPercent: false });
  });

  it.each([
    ["CHF 20.00", 20, "CHF"],
    ["20.00 CHF", 20, "CHF"],
    ["€ 20", 20, "€"],
    ["20€", 20, "€"],
    ["-€20", -20, "€"],
    ["€-20", -20, "€"],
    ["(CHF 20.00)", -20, "CHF"],
    ["CHF. 20", 20, "CHF"],
  ])("%s is %d of %s", (text, point, currency) => {
    expect(readWrittenNumber(text)).toMatchObject({ point, currency });
  });

  it("shares are exact", () => {
    expect(readWrittenNumber("0.1%")).toMatchObject({ point: 0.001, isPercent: true });
    expect(readWrittenNumber("12,5 %")).toMatchObject({ comma: 0.125, isPercent: true });
    expect(readWrittenNumber("-7%")?.point).toBe(-0.07);
  });

  it.each([
    "",
    "Dock",
    "1 23",
    "1,23,456.7.8",
    "1.2.3",
    "--3",
    "-3-",
    "(-3)",
    "XYZ 20",
    "1'23",
    "5 m",
    "12:30",
    "2026-11-02",
    "1e999",
    "%",
    "L1",
    "3 4",
  ])("%j is none", (text) => {
    expect(readWrittenNumber(text)).toBeUndefined();
  });

  it("are what they were written from, in the ways of several countries", () => {
    const value = fc.integer({ min: -999_999_999, max: 999_999_999 }).map((whole) => whole / 100);
    fc.assert(
      fc.property(value, fc.constantFrom("en-GB", "de-DE", "de-CH", "fr-FR", "es-ES"), (number, locale) => {
        const text = number.toLocaleString(locale, { minimumFractionDigits: 2 });
        const read = readWrittenNumber(text);
        expect(read?.sign === "comma" || read?.sign === "either" ? read.comma : read?.point).toBe(number + 0);
      }),
    );
    expect(readNumber("1,234.5")).toBe(1234.5);
  });
});
