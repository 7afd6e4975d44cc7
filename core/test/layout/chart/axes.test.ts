import { describe, expect, it } from "vitest";
import { drawAxes } from "../../../src/layout/chart/axes.js";
import type { Axis, Chart, Plot } from "../../../src/layout/chart/read-chart.js";
import { axis, boxOf, category, LOOK, penFor, plot, series } from "../../support/chart-pen.js";

const ROOM = { x: 0, y: 0, width: 300, height: 200 };
const NAMES = ["Dock", "Quay", "Pier"];
const BARS = plot({ series: [series({ categories: NAMES, values: [10, 40, 25] })] });

function drawn(axes: readonly Axis[], plots: readonly Plot[] = [BARS], more: Partial<Chart> = {}) {
  const { pen, texts, paths } = penFor(axes, more);
  const frame = drawAxes(pen, plots, ROOM, undefined);
  const said = (text: string) => texts.find((one) => one.text === text) as (typeof texts)[number];
  return { frame, texts, paths: paths(), said };
}

describe("the room of a chart", () => {
  it("is what labels and titles leave, and holds points from its lower left on", () => {
    const { frame } = drawn([category(), axis()]);
    const { box } = frame;
    expect(box.x).toBeGreaterThan(10);
    expect(box.y + box.height).toBeLessThan(195);
    expect(frame.point(0, 0)).toEqual([box.x, box.y + box.height]);
    expect(frame.point(1, 1)).toEqual([box.x + box.width, box.y]);
    const titled = drawn([category({ title: { text: "Site", look: LOOK } }), axis()]).frame;
    expect(titled.box.height).toBe(box.height - 14);
  });

  it("is the one that is said, and all of it where axes are left out", () => {
    const { pen } = penFor([category(), axis()]);
    expect(drawAxes(pen, [BARS], ROOM, { x: 9, y: 9, width: 50, height: 40 }).box.x).toBe(9);
    expect(drawn([category({ deleted: true }), axis({ deleted: true })]).frame.box).toEqual({
      x: 2,
      y: 4,
      width: 290,
      height: 194,
    });
  });
});

describe("labels of values", () => {
  it("stand left of the room at their height, in the axis' format", () => {
    const { frame, said, texts } = drawn([category(), axis({ format: '0 "CHF"' })]);
    const { box } = frame;
    expect(said("0 CHF")).toMatchObject({ align: "right", y: box.y + box.height + 3.5 });
    expect(said("0 CHF").x).toBe(box.x - 4);
    expect(texts.filter(({ text }) => text.endsWith("CHF")).map(({ text }) => text)).toEqual([
      "0 CHF",
      "10 CHF",
      "20 CHF",
      "30 CHF",
      "40 CHF",
      "50 CHF",
    ]);
  });

  it("are told apart where the steps are small, and shares are per cent", () => {
    const small = plot({ series: [series({ categories: NAMES, values: [0.01, 0.02, 0.05] })] });
    const said = drawn([category(), axis()], [small]).texts.map(({ text }) => text);
    expect(new Set(said).size).toBe(said.length);
    const shares = { ...BARS, grouping: "percentStacked" as const };
    expect(drawn([category(), axis()], [shares]).texts.map(({ text }) => text)).toContain("100%");
  });

  it("of a second axis stand on the other side, over a scale of its own", () => {
    const second = plot({
      kind: "line",
      grouping: "standard",
      series: [series({ values: [1000, 2000, 3000] })],
      axes: ["x2", "y2"],
    });
    const axes = [
      category(),
      axis(),
      category({ id: "x2", deleted: true }),
      axis({ id: "y2", side: "l", crosses: "max" }),
    ];
    const { frame, said } = drawn(axes, [BARS, second]);
    expect(said("3000")).toMatchObject({ align: "left", x: frame.box.x + frame.box.width + 4 });
    expect(frame.scaleOf(BARS).max).toBe(50);
    expect(frame.scaleOf(second).max).toBeGreaterThanOrEqual(3000);
  });

  it("downwards are turned about", () => {
    const { frame, said } = drawn([category(), axis({ reversed: true, min: 0, max: 50 })]);
    expect(said("0").y).toBeLessThan(said("50").y);
    expect(frame.scaleOf(BARS).at(50)).toBe(0);
  });
});

describe("labels of categories", () => {
  it("stand below the middle of their place", () => {
    const { frame, said } = drawn([category(), axis()]);
    const { box } = frame;
    expect(said("Dock")).toMatchObject({ align: "center" });
    expect(said("Dock").x).toBeCloseTo(box.x + box.width / 6, 6);
    expect(said("Pier").x).toBeCloseTo(box.x + (box.width * 5) / 6, 6);
    expect(said("Dock").y).toBeGreaterThan(box.y + box.height);
  });

  it("stand at the points of a line that begins on the axis", () => {
    const line = { ...BARS, kind: "line" as const, grouping: "standard" as const };
    const { frame, said } = drawn([category(), axis({ betweenTicks: false })], [line]);
    expect(said("Dock").x).toBe(frame.box.x);
    expect(said("Pier").x).toBe(frame.box.x + frame.box.width);
  });

  it("turn where they would run into each other, and stand upright where even that is too wide", () => {
    const turnOf = (length: number) => {
      const long = plot({
        series: [series({ categories: NAMES.map((name) => name.padEnd(length, "x")), values: [1, 2, 3] })],
      });
      return drawn([category(), axis()], [long]).texts.find(({ text }) => text.startsWith("Dock"))?.turn;
    };
    expect([turnOf(10), turnOf(30), turnOf(80)]).toEqual([undefined, 45, 90]);
  });

  it("are passed over where there are more than can be read, or as many as it says", () => {
    const many = plot({
      series: [
        series({ categories: Array.from({ length: 200 }, (_, at) => `Lift ${at}`), values: new Array(200).fill(1) }),
      ],
    });
    const count = (more: Partial<Axis>) =>
      drawn([category(more), axis()], [many]).texts.filter(({ text }) => text.startsWith("Lift")).length;
    expect(count({})).toBeLessThan(40);
    expect(count({ skip: 50 })).toBe(4);
  });

  it("are days in the axis' format, and numbers where a point has no name", () => {
    const days = plot({
      series: [series({ categories: [46_328], categoryFormat: "yyyy-mm-dd", values: [1, 2] })],
    });
    const { texts } = drawn([category(), axis()], [days]);
    expect(texts.map(({ text }) => text)).toEqual(expect.arrayContaining(["2026-11-02", "2"]));
  });

  it("of lying bars stand beside them, the first at the bottom", () => {
    const { said } = drawn([category({ side: "l" }), axis({ side: "b" })], [{ ...BARS, lying: true }]);
    expect(said("Dock").y).toBeGreaterThan(said("Pier").y);
    expect(said("Dock").align).toBe("right");
  });
});

describe("lines of axes", () => {
  it("are drawn for categories, and at nought where values go below it", () => {
    const below = plot({ series: [series({ categories: NAMES, values: [-10, 10, 5] })] });
    const { frame, paths } = drawn([category(), axis({ min: -10, max: 10 })], [below]);
    expect(paths).toHaveLength(1);
    expect(boxOf(paths[0]).y).toBe(frame.box.y + frame.box.height / 2);
    expect(drawn([category({ line: "none" }), axis()]).paths).toHaveLength(0);
  });

  it("of the grid stand at every tick, behind the ground of the plot", () => {
    const { paths, texts } = drawn([category({ line: "none" }), axis({ hasGrid: true })], [BARS], {
      plotGround: { color: "EEEEEE", opacity: 1 },
    });
    expect(paths.map(({ fill, stroke }) => fill ?? stroke?.color)).toEqual(["EEEEEE", "D9D9D9"]);
    const ticks = texts.filter(({ text }) => /^\d+$/.test(text));
    expect(paths[1].commands).toHaveLength(ticks.length * 2);
  });
});

describe("titles of axes", () => {
  it("stand in the middle of their axis, upright ones turned", () => {
    const look = LOOK;
    const { frame, said } = drawn([
      category({ title: { text: "Site", look } }),
      axis({ title: { text: "Fee", look } }),
    ]);
    expect(said("Fee")).toMatchObject({ turn: 90, y: frame.box.y + frame.box.height / 2 });
    expect(said("Fee").x).toBeLessThan(frame.box.x - 10);
    expect(said("Site").x).toBe(frame.box.x + frame.box.width / 2);
    expect(said("Site").y).toBeGreaterThan(said("Dock").y);
  });
});
