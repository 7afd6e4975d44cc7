/** Grounds of cells that are more than one colour, bars and icons: inside their box, and telling what they are to tell. */
import type { FillItem, PageItem, PathItem } from "@corbix/core/page";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { barItems, groundItems, iconItems, pie } from "../../../../src/layout/sheet/draw/cell-fills.js";

const BOX = { x: 10, y: 20, width: 60, height: 15 };
const SQUARE = { x: 0, y: 0, width: 10, height: 10 };
const places = (items: readonly PageItem[]): [number, number][] =>
  items.flatMap((item): [number, number][] => {
    if (item.kind === "path")
      return item.commands.flatMap((command) => (command[0] === "Z" ? [] : [command.slice(-2) as [number, number]]));
    if (item.kind === "fill" || item.kind === "shade")
      return [
        [item.x, item.y],
        [item.x + item.width, item.y + item.height],
      ];
    return item.kind === "line"
      ? [
          [item.x1, item.y1],
          [item.x2, item.y2],
        ]
      : [];
  });
const colors = (items: readonly PageItem[]) =>
  items.flatMap((item) => (item.kind === "path" && item.fill ? [item.fill] : item.kind === "fill" ? [item.color] : []));

describe("patterns", () => {
  const lines = (pattern: string) => {
    const [item] = groundItems({ kind: "lines", pattern, color: "123456" }, BOX) as PathItem[];
    expect(item.clip).toEqual(BOX);
    const drawn: [number, number][] = [];
    item.commands.forEach((command, at) => {
      const before = item.commands[at - 1];
      if (command[0] === "L" && before[0] !== "Z")
        drawn.push([Math.sign(command[1] - (before[1] as number)), Math.sign(command[2] - (before[2] as number))]);
    });
    return { width: item.stroke?.width, ways: [...new Set(drawn.map(String))].sort() };
  };

  it.each([
    ["lightHorizontal", 0.4, ["1,0"]],
    ["darkHorizontal", 1.2, ["1,0"]],
    ["lightVertical", 0.4, ["0,1"]],
    ["darkGrid", 1.2, ["0,1", "1,0"]],
    ["lightDown", 0.4, ["1,1"]],
    ["lightUp", 0.4, ["-1,1"]],
    ["darkTrellis", 1.2, ["-1,1", "1,1"]],
  ])("%s are lines of their own way and strength", (pattern, width, ways) => {
    expect(lines(pattern)).toEqual({ width, ways });
  });

  it("of colours go along an angle, or from an inner place outwards; without colours there is nothing", () => {
    const stops = [
      { at: 0, color: "FFFFFF" },
      { at: 1, color: "000000" },
    ];
    const inner = { left: 0.5, right: 0.5, top: 0.5, bottom: 0.5 };
    expect(groundItems({ kind: "gradient", degree: 90, stops, inner } as never, BOX)).toEqual([
      { kind: "shade", ...BOX, angle: 90, stops },
    ]);
    const steps = groundItems({ kind: "gradient", degree: undefined, stops, inner } as never, BOX) as FillItem[];
    expect([steps[0], steps.at(-1)]).toMatchObject([
      { ...BOX, color: "000000" },
      { width: 0, height: 0, color: "FFFFFF" },
    ]);
    expect(steps.every((one) => one.x >= BOX.x && one.x + one.width <= BOX.x + BOX.width + 1e-9)).toBe(true);
    expect(groundItems({ kind: "gradient", degree: undefined, stops: [], inner } as never, BOX)).toEqual([]);
    const late = groundItems(
      { kind: "gradient", degree: undefined, stops: [{ at: 0.5, color: "FF0000" }], inner } as never,
      BOX,
    );
    expect(new Set(colors(late))).toEqual(new Set(["FF0000"]));
  });
});

describe("a bar", () => {
  it("covers its share, in one colour or paling, with an edge and an axis where it has them", () => {
    const bar = { from: 0.25, to: 0.75, color: "638EC6", isGradient: false, border: "111111", axis: 0.25 };
    const [fill, edge, line] = barItems(bar as never, BOX);
    expect(fill).toMatchObject({ kind: "fill", x: 11 + 58 * 0.25, width: 29, color: "638EC6" });
    expect([edge.kind, line]).toMatchObject(["path", { kind: "line", x1: 11 + 58 * 0.25, dash: [1.5, 1] }]);
    const [shade] = barItems({ ...bar, isGradient: true, border: undefined } as never, BOX);
    expect(shade).toMatchObject({ kind: "shade", angle: 0 });
    expect(barItems({ ...bar, isGradient: true, from: 0, to: 0.25 } as never, BOX)[0]).toMatchObject({ angle: 180 });
    expect(barItems({ ...bar, to: 0.25 } as never, BOX).map((item) => item.kind)).toEqual(["line"]);
    expect(barItems({ ...bar, to: 0.25, axis: undefined } as never, BOX)).toEqual([]);
  });
});

describe("icons", () => {
  const sets = [
    "3Arrows",
    "3ArrowsGray",
    "3Flags",
    "3TrafficLights1",
    "3Signs",
    "3Symbols",
    "3Symbols2",
    "4Arrows",
    "4RedToBlack",
    "4TrafficLights",
    "4Rating",
    "5Arrows",
    "5Quarters",
    "5Boxes",
    "3Triangles",
    "3Stars",
  ];

  it.each(sets)("of the set %s are different from worst to best, and lie in their square", (set) => {
    const count = Number(set[0]);
    const drawn = Array.from({ length: count }, (_, at) => iconItems(set, at, count, SQUARE));
    expect(new Set(drawn.map((items) => JSON.stringify(items))).size).toBe(count);
    for (const items of drawn)
      for (const [x, y] of places(items))
        expect([x > -1.01 && x < 11.01, y > -1.01 && y < 11.01], JSON.stringify([x, y])).toEqual([true, true]);
  });

  it("go from red over yellow to green, grey sets stay grey, and one alone is the best", () => {
    const tones = (set: string, count: number) =>
      Array.from({ length: count }, (_, at) => colors(iconItems(set, at, count, SQUARE))[0]);
    expect(tones("3TrafficLights1", 3)).toEqual(["CC4B3E", "E3A93B", "4F9D5C"]);
    expect(new Set(tones("3ArrowsGray", 3))).toEqual(new Set(["808080"]));
    expect(tones("3Flags", 1)).toEqual(["4F9D5C"]);
  });
});

describe("a slice", () => {
  it("begins where the last one ended, and all of them make the whole, with a hole or without", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 1, maxLength: 8 }),
        fc.constantFrom(0, 3),
        (parts, inner) => {
          const total = parts.reduce((sum, one) => sum + one, 0);
          let from = 0;
          for (const part of parts) {
            const commands = pie({ x: 0, y: 0 }, 10, from, from + part / total, inner);
            for (const command of commands)
              if (command[0] !== "Z") {
                const [x, y] = command.slice(-2) as [number, number];
                const far = Math.hypot(x, y);
                expect([0, inner, 10].some((radius) => Math.abs(far - radius) < 1e-6)).toBe(true);
              }
            from += part / total;
          }
          expect(from).toBeCloseTo(1, 9);
        },
      ),
    );
  });
});
