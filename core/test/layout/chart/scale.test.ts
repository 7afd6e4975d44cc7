import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { stackValues, valueScale } from "../../../src/layout/chart/scale.js";
import { axis, plot, series } from "../../support/chart-pen.js";

describe("the scale of an axis", () => {
  it.each([
    [0, 87, [0, 20, 40, 60, 80, 100]],
    [3, 9, [0, 2, 4, 6, 8, 10]],
    [-8, 20, [-10, -5, 0, 5, 10, 15, 20, 25]],
    [-9, -3, [-10, -8, -6, -4, -2, 0]],
    [0, 0, [0, 0.2, 0.4, 0.6, 0.8, 1, 1.2]],
    [0, 0.03, [0, 0.005, 0.01, 0.015, 0.02, 0.025, 0.03, 0.035]],
  ])("from %d to %d counts as people do", (low, high, ticks) => {
    expect(valueScale(axis(), low, high, 6).ticks).toEqual(ticks);
  });

  it("shows values that lie close together far from nought without it", () => {
    expect(valueScale(axis(), 995, 1005, 5).min).toBeGreaterThan(900);
  });

  it("keeps to the ends and the step that are said", () => {
    const { ticks, min, max, at } = valueScale(axis({ min: 10, max: 30, unit: 10 }), 0, 100, 5);
    expect({ ticks, min, max }).toEqual({ ticks: [10, 20, 30], min: 10, max: 30 });
    expect([at(10), at(20), at(40)]).toEqual([0, 0.5, 1.5]);
  });

  it("a step so small that nobody could read it is passed over", () => {
    expect(valueScale(axis({ unit: 0.001 }), 0, 100, 5).ticks.length).toBeLessThan(12);
  });

  it("holds values that rounding leaves beside a tick by a hair", () => {
    const { min, max } = valueScale(axis(), -9999.97, -9999.96, 2);
    expect([min, max].map((one) => Number(one.toFixed(6)))).toEqual([-9999.97, -9999.96]);
    expect(max).toBeGreaterThanOrEqual(-9999.96);
  });

  it("holds all values, has few ticks, and each at its place", () => {
    const value = fc.integer({ min: -1_000_000, max: 1_000_000 }).map((whole) => whole / 100);
    fc.assert(
      fc.property(value, value, fc.integer({ min: 2, max: 10 }), (a, b, wanted) => {
        const { min, max, ticks, at } = valueScale(axis(), a, b, wanted);
        expect(min).toBeLessThanOrEqual(Math.min(a, b));
        expect(max).toBeGreaterThanOrEqual(Math.max(a, b));
        expect(ticks.length).toBeGreaterThanOrEqual(2);
        expect(ticks.length).toBeLessThanOrEqual(3 * wanted + 3);
        for (const [place, tick] of ticks.entries()) {
          expect(at(tick)).toBeGreaterThanOrEqual(-1e-6);
          expect(at(tick)).toBeLessThanOrEqual(1 + 1e-6);
          if (place > 0) expect(tick).toBeGreaterThan(ticks[place - 1]);
        }
      }),
    );
  });

  it("of powers has a tick for each", () => {
    const { ticks, at } = valueScale(axis({ log: 10 }), 3, 2000, 5);
    expect(ticks.map((tick) => Math.round(tick * 1000) / 1000)).toEqual([1, 10, 100, 1000, 10_000]);
    expect(at(100)).toBeCloseTo(0.5, 9);
    expect(at(0)).toBeLessThan(0);
  });

  it("without any value goes from nought to one", () => {
    const { min, max } = valueScale(axis(), Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 5);
    expect(min).toBe(0);
    expect(max).toBeCloseTo(1.2, 9);
  });
});

describe("values on top of each other", () => {
  const two = [series({ values: [3, -1, undefined] }), series({ values: [1, -3, 4] })];

  it("stand on nought where they are not stacked", () => {
    expect(stackValues(plot({ series: two }))).toEqual([
      [[0, 3], [0, -1], undefined],
      [
        [0, 1],
        [0, -3],
        [0, 4],
      ],
    ]);
  });

  it("rise above nought and hang below it apart", () => {
    expect(stackValues(plot({ grouping: "stacked", series: [...two, series({ values: [-2, 5] })] }))[2]).toEqual([
      [0, -2],
      [0, 5],
      undefined,
    ]);
    expect(stackValues(plot({ grouping: "stacked", series: two }))[1]).toEqual([
      [3, 4],
      [-1, -4],
      [0, 4],
    ]);
  });

  it("as shares add up to one", () => {
    expect(stackValues(plot({ grouping: "percentStacked", series: two }))[1]).toEqual([
      [0.75, 1],
      [-0.25, -1],
      [0, 1],
    ]);
    expect(stackValues(plot({ grouping: "percentStacked", series: [series({ values: [0] })] }))).toEqual([[[0, 0]]]);
  });
});
