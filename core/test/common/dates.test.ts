import {
  addMonths,
  isDay,
  isoFromSerial,
  isRealDay,
  maybeSerialFromIso,
  partsFromSerial,
  serialFromParts,
} from "@corbix/core/common";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

describe("days as serials", () => {
  it("are read back as they were written, every one of them", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 2_958_465 }), (serial) => {
        const { year, month, day } = partsFromSerial(serial);
        expect(serialFromParts(year, month, day)).toBe(serial);
        expect(maybeSerialFromIso(isoFromSerial(serial))).toBe(serial);
        expect([isRealDay(year, month, day), isDay(serial)]).toEqual([true, true]);
      }),
    );
  });

  it("count on beyond the end of a month or a year", () => {
    expect(serialFromParts(2026, 14, 1)).toBe(serialFromParts(2027, 2, 1));
    expect(serialFromParts(2026, 3, 0)).toBe(serialFromParts(2026, 2, 28));
    expect(serialFromParts(2026, 1, -1)).toBe(serialFromParts(2025, 12, 30));
  });

  it("of years below 100 are not those of the last century", () => {
    expect(serialFromParts(26, 11, 2)).toBeLessThan(-600_000);
    expect(serialFromParts(1926, 11, 2)).toBe(9_803);
  });

  it.each(["0026-11-02", "1899-12-31", "2026-02-29", "2026-13-01", "2026-00-10", "26-11-02", "2026-1-1", "x"])(
    "%s is none",
    (text) => {
      expect(maybeSerialFromIso(text)).toBeUndefined();
    },
  );

  it("with a time of day have its share of the day", () => {
    expect(maybeSerialFromIso("2026-11-02T18:00")).toBe(46_328.75);
    expect(isoFromSerial(46_328.75)).toBe("2026-11-02T18:00:00");
  });
});

describe("months later", () => {
  it("is the same day, or the last of a shorter month", () => {
    const shift = (day: string, months: number) => isoFromSerial(addMonths(maybeSerialFromIso(day) ?? 0, months));
    expect(shift("2026-01-31", 1)).toBe("2026-02-28");
    expect(shift("2024-01-31", 1)).toBe("2024-02-29");
    expect(shift("2026-11-15", 3)).toBe("2027-02-15");
    expect(shift("2026-03-31", -1)).toBe("2026-02-28");
  });
});
