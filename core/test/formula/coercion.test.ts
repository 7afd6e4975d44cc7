import { isoFromSerial } from "@corbix/core/common";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { momentInText, numberInText } from "../../src/formula/coercion.js";

describe("texts that read as numbers", () => {
  it.each([
    ["12", 12],
    [" -12.5 ", -12.5],
    [".5", 0.5],
    ["1e3", 1000],
    ["1,234", 1234],
    ["1,234,567.8", 1_234_567.8],
    ["50%", 0.5],
    ["% 50", 0.5],
    ["€ 12", 12],
    ["12 €", 12],
    ["-£1,200.50", -1200.5],
    ["$-3", -3],
    ["(12)", -12],
    ["$(1,200)", -1200],
    ["(5%)", -0.05],
    ["1 1/2", 1.5],
    ["-2 3/4", -2.75],
    ["12:00", 0.5],
    ["6 pm", 0.75],
  ])("%j is %d", (text, number) => {
    expect(numberInText(text)).toBeCloseTo(number, 12);
  });

  it.each([
    "",
    "Dock",
    "12,34",
    "1,2345",
    "--3",
    "(-3)",
    "1 1/0",
    "25:61",
    "13 pm",
    "0 am",
    "5 lifts",
    "€",
    "%",
    "1.2.3",
    "Infinity",
    "0x10",
  ])("%j is none", (text) => {
    expect(numberInText(text)).toBeUndefined();
  });

  it("numbers with groups of thousands are what they were written from", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1000, max: 2_000_000_000 }), (number) => {
        expect(numberInText(number.toLocaleString("en-GB"))).toBe(number);
        expect(numberInText(`(${number.toLocaleString("en-GB")})`)).toBe(-number);
      }),
    );
  });
});

describe("texts that read as days and times", () => {
  it.each([
    ["2026-11-02", "2026-11-02"],
    ["2026/11/02", "2026-11-02"],
    ["2 Nov 2026", "2026-11-02"],
    ["2nd November, 2026", "2026-11-02"],
    ["2-Nov-26", "2026-11-02"],
    ["2 Nov", "2030-11-02"],
    ["November 2, 2026", "2026-11-02"],
    ["Nov 2026", "2026-11-01"],
    ["25/3/2026", "2026-03-25"],
    ["3/25/2026", "2026-03-25"],
    ["7.7.2026", "2026-07-07"],
    ["1/1/29", "2029-01-01"],
    ["1/1/30", "1930-01-01"],
    ["29 Feb 2028", "2028-02-29"],
  ])("%j is %s", (text, day) => {
    expect(isoFromSerial(momentInText(text, 2030) ?? 0)).toBe(day);
  });

  it.each(["5/3/2026", "29 Feb 2026", "31/11/2026", "32/1/2026", "1/1/1899", "2 Foo 2026"])(
    "%j is none, or could be two",
    (text) => {
      expect(momentInText(text, 2030)).toBeUndefined();
    },
  );

  it("a day without a year asks for one", () => {
    expect(momentInText("2 Nov")).toBeUndefined();
  });

  it.each([
    ["12:30", 12.5],
    ["12:30:36", 12.51],
    ["12 am", 0],
    ["12:30 p.m.", 12.5],
    ["30:00", 30],
  ])("%j is %d hours", (text, hours) => {
    expect((momentInText(text) ?? Number.NaN) * 24).toBeCloseTo(hours, 9);
  });

  it.each(["2026-11-02 12:00", "2026-11-02T12:00", "2026-11-02T12:00Z", "2 Nov 2026 12 pm"])(
    "%j is noon of that day",
    (text) => {
      expect(momentInText(text)).toBe(46_328.5);
    },
  );

  it("days of early 1900 count as the system's calendar does", () => {
    expect([momentInText("1900-01-01"), momentInText("1900-02-28"), momentInText("1900-03-01")]).toEqual([1, 59, 61]);
  });
});
