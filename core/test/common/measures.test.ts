import { describe, expect, it } from "vitest";
import { readMeasure } from "../../src/common/measures.js";

describe("lengths as files write them", () => {
  it.each([
    ["240", 20, 12],
    ["12pt", 20, 12],
    ["1in", 20, 72],
    ["2.54cm", 20, 72],
    ["25.4mm", 12_700, 72],
    ["1pc", 20, 12],
    ["1pi", 20, 12],
    ["-240", 20, -12],
    [" .5in ", 20, 36],
  ])("%j with %d to a point is %d points", (text, perPoint, points) => {
    expect(readMeasure(text, perPoint)).toBeCloseTo(points, 9);
  });

  it.each([undefined, "", "auto", "12 pt", "1e3", "12px", "50%"])("%j is no length", (text) => {
    expect(readMeasure(text, 20)).toBeUndefined();
  });
});
