import { describe, expect, it } from "vitest";
import { BorderSet } from "../../../../src/layout/sheet/draw/borders.js";

const line = (style: string, color = "000000") => ({ style, color });
function drawn(fill: (borders: BorderSet) => void, scale = 1) {
  const borders = new BorderSet(scale);
  fill(borders);
  return borders
    .items()
    .map(({ x1, y1, x2, y2, width, color, dash }) => ({ ends: [x1, y1, x2, y2], width, color, dash }));
}

describe("lines on edges of cells", () => {
  it("that follow each other and look alike are one", () => {
    const items = drawn((borders) => {
      borders.horizontal(10, 20, 5, line("thin"));
      borders.horizontal(0, 10, 5.001, line("thin"));
      borders.horizontal(20, 30, 5, line("thin", "FF0000"));
    });
    expect(items.map(({ ends, color }) => [ends, color])).toEqual([
      [[0, 5, 20, 5], "000000"],
      [[20, 5, 30, 5], "FF0000"],
    ]);
  });

  it("that lie over each other show the heavier, once", () => {
    const items = drawn((borders) => {
      borders.vertical(7, 0, 10, line("thin"));
      borders.vertical(7, 0, 10, line("medium", "00FF00"));
      borders.vertical(7, 0, 10, line("hair"));
    });
    expect(items).toEqual([{ ends: [7, 0, 7, 10], width: 1.5, color: "00FF00", dash: undefined }]);
  });

  it("are two thin ones where they are double, and dashed where they are dashed, on any scale", () => {
    const double = drawn((borders) => borders.horizontal(0, 10, 5, line("double")), 2);
    expect(double.map(({ ends, width }) => [ends, width])).toEqual([
      [[0, 6.5, 10, 6.5], 1.5],
      [[0, 3.5, 10, 3.5], 1.5],
    ]);
    expect(drawn((borders) => borders.vertical(0, 0, 9, line("dashed")), 0.5)[0]).toMatchObject({
      width: 0.375,
      dash: [1.5, 0.75],
    });
  });

  it("of an unknown style are thin, none are none, and slanting ones lie where they lie", () => {
    expect(drawn((borders) => borders.horizontal(0, 1, 0, line("new")))[0].width).toBe(0.75);
    expect(drawn((borders) => borders.horizontal(0, 1, 0, undefined))).toEqual([]);
    expect(drawn((borders) => borders.free(0, 0, 3, 4, line("thin")))[0].ends).toEqual([0, 0, 3, 4]);
  });
});
