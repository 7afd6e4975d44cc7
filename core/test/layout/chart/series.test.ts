import { describe, expect, it } from "vitest";
import { drawAxes } from "../../../src/layout/chart/axes.js";
import type { Axis, Plot } from "../../../src/layout/chart/read-chart.js";
import { drawLabels, drawSeries, labelOf, markerPath, polygon } from "../../../src/layout/chart/series.js";
import { axis, boxOf, category, labels, penFor, plot, series } from "../../support/chart-pen.js";

const ROOM = { x: 0, y: 0, width: 200, height: 100 };
const VALUES = axis({ deleted: true, min: 0, max: 10 });
const NAMES = category({ deleted: true });

function drawn(one: Plot, axes: readonly Axis[] = [NAMES, VALUES]) {
  const { pen, texts, paths } = penFor(axes);
  const frame = drawAxes(pen, [one], ROOM, ROOM);
  pen.items.length = 0;
  drawSeries(pen, one, frame);
  return { paths: paths(), texts, boxes: paths().map(boxOf) };
}

describe("bars", () => {
  it("stand beside each other with a gap as wide as one of them", () => {
    const { boxes } = drawn(plot({ series: [series({ values: [10, 5] }), series({ values: [2] })], gap: 100 }));
    const each = 100 / 3;
    expect(boxes.map(({ x, y, width, height }) => [x, y, width, height].map((value) => Math.round(value)))).toEqual(
      [
        [each / 2, 0, each, 100],
        [100 + each / 2, 50, each, 50],
        [each * 1.5, 80, each, 20],
      ].map((box) => box.map((value) => Math.round(value))),
    );
  });

  it("on top of each other share a lane", () => {
    const { boxes } = drawn(
      plot({ grouping: "stacked", gap: 0, series: [series({ values: [4] }), series({ values: [6] })] }),
    );
    expect(boxes).toEqual([
      { x: 0, y: 60, width: 200, height: 40 },
      { x: 0, y: 0, width: 200, height: 60 },
    ]);
  });

  it("lie with the first category at the bottom", () => {
    const { boxes } = drawn(plot({ lying: true, gap: 0, series: [series({ values: [10, 5] })] }));
    expect(boxes).toEqual([
      { x: 0, y: 50, width: 200, height: 50 },
      { x: 0, y: 0, width: 100, height: 50 },
    ]);
  });

  it("hang below nought, and reach no further than the axis", () => {
    const { boxes } = drawn(plot({ gap: 0, series: [series({ values: [-10, 99] })] }), [
      NAMES,
      { ...VALUES, min: -10 },
    ]);
    expect(boxes.map(({ y, height }) => [y, height])).toEqual([
      [50, 50],
      [0, 50],
    ]);
  });

  it("have the look of their point, their outline, and none where there is no value", () => {
    const line = { color: "111111", width: 2, dash: undefined, opacity: 1 };
    const { paths } = drawn(
      plot({
        series: [
          series({
            values: [1, undefined, 3],
            line,
            points: new Map([[2, { fill: "none", pulled: 0 }]]),
          }),
        ],
      }),
    );
    expect(paths.map(({ fill, stroke }) => [fill, stroke?.color])).toEqual([
      ["color 0.0", undefined],
      [undefined, "111111"],
      [undefined, "111111"],
    ]);
  });

  it("have their label above, below, or inside", () => {
    const said = (values: number[], position?: string) =>
      drawn(plot({ gap: 0, series: [series({ values, labels: labels({ position }) })] }), [
        NAMES,
        { ...VALUES, min: -10 },
      ]).texts.map(({ text, x, y }) => [text, x, y]);
    expect(said([5])).toEqual([["5", 100, 22]]);
    expect(said([-5])).toEqual([["-5", 100, 85]]);
    expect(said([5], "ctr")).toEqual([["5", 100, 41]]);
  });
});

describe("lines", () => {
  const line = (more: Partial<Plot>) => plot({ kind: "line", grouping: "standard", ...more });

  it("go from the middle of each category to the next, and break where a value is missing", () => {
    const { paths } = drawn(line({ series: [series({ values: [0, 10, undefined, 5] })] }));
    expect(paths[0].commands).toEqual([
      ["M", 25, 100],
      ["L", 75, 0],
      ["M", 175, 50],
    ]);
    const spanned = drawn(line({ blanks: "span", series: [series({ values: [0, 10, undefined, 5] })] }));
    expect(spanned.paths[0].commands.map(([kind]) => kind)).toEqual(["M", "L", "L"]);
  });

  it("bend through every point where they are smooth", () => {
    const { paths } = drawn(line({ series: [series({ values: [0, 10, 0], smooth: true })] }));
    const [, second, third] = paths[0].commands;
    expect([second[0], third[0]]).toEqual(["C", "C"]);
    expect(second.slice(-2)).toEqual([100, 0]);
    // At the top the line is level: what leads into it and out of it stands at its height.
    const heights = [Number(second[4]), Number(third[2])];
    for (const height of heights) expect(height).toBeCloseTo(0, 9);
  });

  it("have markers where they say so, in the point's own colour", () => {
    const marked = series({
      values: [1, undefined, 2],
      marker: { symbol: "square", size: 6, fill: undefined },
      points: new Map([[2, { fill: { color: "ABCDEF", opacity: 1 }, pulled: 0 }]]),
    });
    const { paths } = drawn(line({ series: [marked] }));
    expect(paths.slice(1).map(({ fill }) => fill)).toEqual(["color 0", "ABCDEF"]);
  });

  it("of points alone have none unless they say so", () => {
    const points = series({
      values: [1, 2],
      categories: [0, 10],
      marker: { symbol: "auto", size: 6, fill: undefined },
    });
    const axes = [axis({ id: "x", side: "b", deleted: true, min: 0, max: 10 }), VALUES];
    const { paths, boxes } = drawn(plot({ kind: "scatter", grouping: "standard", series: [points] }), axes);
    expect(paths.every(({ stroke }) => stroke === undefined)).toBe(true);
    expect(boxes.map(({ x, width }) => x + width / 2)).toEqual([0, 200]);
  });
});

describe("areas", () => {
  it("reach down to nought, and those behind are drawn first", () => {
    const { paths } = drawn(
      plot({
        kind: "area",
        grouping: "standard",
        series: [series({ values: [5, 10] }), series({ values: [8, 8], order: 1 })],
      }),
    );
    expect(paths.map(({ fill }) => fill)).toEqual(["color 1.-1", "color 0.-1"]);
    expect(paths[1].commands).toEqual([["M", 50, 50], ["L", 150, 0], ["L", 150, 100], ["L", 50, 100], ["Z"]]);
  });
});

describe("bubbles", () => {
  it("cover as much as their size says, the largest an eighth of the room", () => {
    const { boxes } = drawn(
      plot({
        kind: "bubble",
        grouping: "standard",
        series: [series({ values: [5, 5], categories: [2, 8], sizes: [100, 25] })],
      }),
      [axis({ id: "x", side: "b", deleted: true, min: 0, max: 10 }), VALUES],
    );
    expect(boxes.map(({ width }) => width)).toEqual([25, 12.5]);
  });
});

describe("labels of points", () => {
  const one = series({
    name: "Fees",
    categories: ["Dock", 46_328],
    categoryFormat: "yyyy-mm-dd",
    values: [12.5, 7],
    valueFormat: "0.00",
  });

  it("say what they are asked to, each in its format", () => {
    expect(labelOf(one, 0, labels({ series: true, category: true }))).toBe("Fees; Dock; 12.50");
    expect(labelOf(one, 1, labels({ category: true, value: false }))).toBe("2026-11-02");
    expect(labelOf(one, 0, labels({ format: "0" }))).toBe("13");
    expect(labelOf(one, 0, labels({ percent: true, value: false }), 0.256)).toBe("26%");
    expect(labelOf(one, 0, labels({ percent: true, format: "0.0%" }), 0.256)).toBe("12.50; 25.6%");
    expect(labelOf(one, 5, labels({ category: true }))).toBe("6");
  });

  it("stand where they are asked to, and not where they are hidden", () => {
    const placed = (position: string | undefined, hidden: number[] = []) => {
      const { pen, texts } = penFor([]);
      drawLabels(pen, { ...one, labels: labels({ position, hidden: new Set(hidden) }) }, [[50, 50], undefined]);
      return texts.map(({ x, y, align }) => [x, y, align]);
    };
    expect(placed("r")).toEqual([[55, 53.5, "left"]]);
    expect(placed("l")).toEqual([[45, 53.5, "right"]]);
    expect(placed("b")).toEqual([[50, 64, "center"]]);
    expect(placed("ctr")).toEqual([[50, 53.5, "center"]]);
    expect(placed("t")).toEqual([[50, 45, "center"]]);
    expect(placed("t", [0])).toEqual([]);
  });
});

describe("marks of points", () => {
  it.each(["square", "dash", "triangle", "diamond", "x", "plus", "star", "circle", "picture"])(
    "%s lies about its point",
    (symbol) => {
      const { x, y, width, height } = boxOf({ kind: "path", commands: markerPath(symbol, [10, 20], 3) });
      expect([x + width / 2, y + height / 2]).toEqual([10, 20]);
      expect(Math.max(width, height)).toBeCloseTo(6, 6);
    },
  );

  it("a polygon is closed", () => {
    expect(
      polygon([
        [1, 2],
        [3, 4],
        [5, 6],
      ]),
    ).toEqual([["M", 1, 2], ["L", 3, 4], ["L", 5, 6], ["Z"]]);
  });
});
