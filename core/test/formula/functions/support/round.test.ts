import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { roundDecimal } from "../../../../src/formula/functions/support/round.js";

describe("rounding in decimals", () => {
  it.each([
    [1.005, 2, "near", 1.01],
    [2.5, 0, "near", 3],
    [-2.5, 0, "near", -3],
    [0.285, 2, "near", 0.29],
    [1.0049999, 2, "near", 1],
    [1234.5, -2, "near", 1200],
    [1250, -2, "near", 1300],
    [1.1, 1, "up", 1.1],
    [1.11, 1, "up", 1.2],
    [-1.11, 1, "up", -1.2],
    [0.3, 1, "down", 0.3],
    [2.999999, 0, "down", 2],
    [-2.9, 0, "down", -2],
    [1e15 + 0.3, 0, "near", 1e15],
    [1e-10, 2, "up", 0.01],
    [123_456_789.125, 2, "near", 123_456_789.13],
  ] as const)("%d to %d places, %s, is %d", (value, places, mode, rounded) => {
    expect(roundDecimal(value, places, mode)).toBe(rounded);
  });

  it("rounds each decimal as its digits say", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -10_000_000, max: 10_000_000 }),
        fc.integer({ min: 0, max: 2 }),
        (whole, places) => {
          const size = 10 ** (3 - places);
          const near = (Math.sign(whole) * Math.floor(Math.abs(whole) / size + 0.5)) / 10 ** places;
          const down = (Math.sign(whole) * Math.floor(Math.abs(whole) / size)) / 10 ** places;
          const up = (Math.sign(whole) * Math.ceil(Math.abs(whole) / size)) / 10 ** places;
          const value = whole / 1000;
          expect(roundDecimal(value, places, "near") + 0).toBe(near + 0);
          expect(roundDecimal(value, places, "down") + 0).toBe(down + 0);
          expect(roundDecimal(value, places, "up") + 0).toBe(up + 0);
        },
      ),
    );
  });
});
