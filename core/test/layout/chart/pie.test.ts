import { describe, expect, it } from "vitest";
import { drawPie } from "../../../src/layout/chart/pie.js";
import type { Plot } from "../../../src/layout/chart/read-chart.js";
import { boxOf, labels, penFor, plot, series } from "../../support/chart-pen.js";

const ROOM = { x: 0, y: 0, width: 208, height: 108 };
const MIDDLE = { x: 104, y: 54 };

function drawn(more: Partial<Plot>) {
  const { pen, texts, paths } = penFor([]);
  drawPie(pen, plot({ kind: "pie", ...more }), ROOM);
  return { texts, paths: paths(), boxes: paths().map(boxOf) };
}
const rounded = (box: ReturnType<typeof boxOf>) => ({
  left: Math.round(box.x),
  right: Math.round(box.x + box.width),
  top: Math.round(box.y),
  bottom: Math.round(box.y + box.height),
});

describe("a pie", () => {
  it("begins at the top and goes round with the clock, each part as large as its value", () => {
    const { boxes, paths } = drawn({ series: [series({ values: [1, 2, 1] })] });
    expect(boxes.map(rounded)).toEqual([
      { left: 104, right: 154, top: 4, bottom: 54 },
      { left: 54, right: 154, top: 54, bottom: 104 },
      { left: 54, right: 104, top: 4, bottom: 54 },
    ]);
    expect(paths.map(({ fill }) => fill)).toEqual(["color 0.0", "color 0.1", "color 0.2"]);
  });

  it("begins where it says, and draws nothing of noughts and blanks", () => {
    const { boxes, paths } = drawn({ firstAngle: 90, series: [series({ values: [1, 0, undefined, 3] })] });
    expect(paths.map(({ fill }) => fill)).toEqual(["color 0.0", "color 0.3"]);
    expect(rounded(boxes[0])).toEqual({ left: 104, right: 154, top: 54, bottom: 104 });
  });

  it("shows only its first series, a ring all of them", () => {
    const two = [series({ values: [1, 1] }), series({ values: [1, 3], order: 1 })];
    expect(drawn({ series: two }).paths).toHaveLength(2);
    const ring = drawn({ kind: "doughnut", hole: 50, series: two });
    expect(ring.paths).toHaveLength(4);
    expect(rounded(ring.boxes[0])).toMatchObject({ right: 104 + 38 });
    expect(rounded(ring.boxes[2])).toMatchObject({ right: 104 + 50 });
  });

  it("moves a pulled part away from the middle, and makes room for it", () => {
    const { boxes } = drawn({
      series: [series({ values: [1, 1], points: new Map([[0, { fill: undefined, pulled: 100 }]]) })],
    });
    expect(rounded(boxes[0])).toMatchObject({ left: 129, right: 154 });
    expect(rounded(boxes[1])).toMatchObject({ left: 79, right: 104 });
  });

  it("has white lines between its parts, or its own, or none", () => {
    const strokeOf = (line: Parameters<typeof series>[0]) =>
      drawn({ series: [series({ values: [1], ...line })] }).paths[0].stroke;
    expect(strokeOf({})?.color).toBe("FFFFFF");
    expect(strokeOf({ line: { color: "112233", width: 1, dash: undefined } } as never)?.color).toBe("112233");
    expect(strokeOf({ line: "none" })).toBeUndefined();
  });
});

describe("labels of a pie", () => {
  const said = (position: string | undefined, name = "North") =>
    drawn({
      series: [
        series({
          categories: [name, "S"],
          values: [1, 1],
          labels: labels({ category: true, percent: true, position }),
        }),
      ],
    }).texts.map(({ text, x, align }) => [text, Math.round(x), align]);

  it("stand in their parts, nearer to the edge, or outside", () => {
    expect(said("ctr")).toEqual([
      ["North; 1; 50%", 135, "center"],
      ["S; 1; 50%", 73, "center"],
    ]);
    expect(said("inEnd").map(([, x]) => x)).toEqual([145, 63]);
    expect(said("outEnd").map(([, x, align]) => [x, align])).toEqual([
      [MIDDLE.x + 43, "left"],
      [MIDDLE.x - 43, "right"],
    ]);
  });

  it("go outside where they would not fit", () => {
    expect(said(undefined, "A district with a long name")[0][2]).toBe("left");
    const short = drawn({ series: [series({ values: [1, 1], labels: labels() })] });
    expect(short.texts[0].align).toBe("center");
  });

  it("are left out where they are hidden", () => {
    const { texts } = drawn({ series: [series({ values: [1, 1], labels: labels({ hidden: new Set([0]) }) })] });
    expect(texts).toHaveLength(1);
  });
});
