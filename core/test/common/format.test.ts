import { formatValue } from "@corbix/core/common";
import { describe, expect, it } from "vitest";

describe("a value by its number format", () => {
  it.each([
    [1234.5, "#,##0.00", "en-GB", "1,234.50"],
    [1234.5, "#,##0.00", "de-DE", "1.234,50"],
    [0.075, "0.0%", "en-GB", "7.5%"],
    [-3, "0;[Red](0)", "en-GB", "(3)"],
    [46_328, "yyyy-mm-dd", "en-GB", "2026-11-02"],
    [0.5, "hh:mm", "en-GB", "12:00"],
    ["Dock", "@", "en-GB", "Dock"],
    [true, "0.00", "en-GB", "TRUE"],
    [null, "0.00", "en-GB", ""],
  ])("%j as %s in %s is %s", (value, code, locale, shown) => {
    expect(formatValue(value, code, locale)).toBe(shown);
  });

  it("names months in the language asked for, with either spelling of its tag", () => {
    const march = 46_083;
    expect(formatValue(march, "d mmmm yyyy", "de-DE")).toBe("2 März 2026");
    expect(formatValue(march, "d mmmm yyyy", "de_DE")).toBe("2 März 2026");
  });

  it("shows the plain value where a format cannot be read, and the day where it was one of days", () => {
    expect(formatValue(12.5, '0.00"open')).toBe("12.5");
    expect(formatValue(46_328, 'dd.mm."open')).toBe("2026-11-02");
  });
});
