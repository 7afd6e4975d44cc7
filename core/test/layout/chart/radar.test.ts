import { describe, expect, it } from "vitest";
import { drawRadar } from "../../../src/layout/chart/radar.js";
import type { Axis, Plot } from "../../../src/layout/chart/read-chart.js";
import { axis, boxOf, category, labels, penFor, plot, series } from "../../support/chart-pen.js";

/** The labels take 18 points on each side: rings of up to 50 points about (68, 68). */
const ROOM = { x: 0, y: 0, width: 136, height: 136 };
const AXES = [category(), axis({ min: 0, max: 10, unit: 10 })];

function drawn(more: Partial<Plot>, axes: readonly Axis[] = AXES) {
  const { pen, texts, paths } = penFor(axes);
  drawRadar(pen, [plot({ kind: "radar", grouping: "standard", ...more })], ROOM);
  const all = paths();
  // Two rings of the grid and four spokes come first.
  return { texts, paths: all, own: all.slice(6), grid: all.slice(0, 6) };
}
const SERIES = series({ categories: ["Brake", "Rope", "Door", "Light"], values: [10, 5, 10, 5] });

describe("a radar", () => {
  it("has a ring for each tick and a spoke for each category, with their names around", () => {
    const { grid, texts } = drawn({ series: [SERIES] });
    expect(boxOf(grid[1])).toEqual({ x: 18, y: 18, width: 100, height: 100 });
    expect(grid.slice(2).every(({ commands }) => commands.length === 2)).toBe(true);
    expect(texts.slice(0, 4).map(({ text, align }) => [text, align])).toEqual([
      ["Brake", "center"],
      ["Rope", "left"],
      ["Door", "center"],
      ["Light", "right"],
    ]);
    expect(texts.slice(4).map(({ text }) => text)).toEqual(["0", "10"]);
  });

  it("joins its values to a ring, the first at the top and round with the clock", () => {
    const [ring] = drawn({ series: [SERIES] }).own;
    const points = ring.commands
      .slice(0, -1)
      .map((command) => command.slice(1).map((value) => Math.round(Number(value))));
    expect(points).toEqual([
      [68, 18],
      [93, 68],
      [68, 118],
      [43, 68],
    ]);
    expect(ring.commands.at(-1)).toEqual(["Z"]);
    expect(ring.fill).toBeUndefined();
  });

  it("is filled where it says so, and broken or passed over where a value is missing", () => {
    const gap = { ...SERIES, values: [10, undefined, 10, 5] };
    expect(drawn({ radarStyle: "filled", series: [SERIES] }).own.map(({ fill, stroke }) => [fill, stroke])).toEqual([
      ["color 0", undefined],
    ]);
    const [open] = drawn({ series: [gap] }).own;
    // From behind the gap round to the point before it.
    expect(open.commands.map(([kind]) => kind)).toEqual(["M", "L", "L"]);
    expect(drawn({ blanks: "span", series: [gap] }).own[0].commands.map(([kind]) => kind)).toEqual([
      "M",
      "L",
      "L",
      "Z",
    ]);
  });

  it("shows markers where its style or its series asks for them", () => {
    const square = { ...SERIES, marker: { symbol: "square", size: 4, fill: undefined } };
    const auto = { ...SERIES, marker: { symbol: "auto", size: 4, fill: undefined } };
    expect(drawn({ series: [square] }).own).toHaveLength(5);
    expect(drawn({ series: [auto] }).own).toHaveLength(1);
    expect(drawn({ radarStyle: "marker", series: [auto] }).own).toHaveLength(5);
  });

  it("leaves out the labels of an axis that is left out, and says values where it is asked", () => {
    const { texts } = drawn({ series: [{ ...SERIES, labels: labels() }] }, [AXES[0], { ...AXES[1], deleted: true }]);
    expect(texts.slice(4).map(({ text }) => text)).toEqual(["10", "5", "10", "5"]);
  });

  it("without axes is nothing", () => {
    expect(drawn({ series: [SERIES] }, []).paths).toEqual([]);
  });
});
