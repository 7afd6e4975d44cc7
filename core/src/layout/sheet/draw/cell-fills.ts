/** Grounds of cells that are more than one colour: lines, gradients, bars, icons. */

import { type Box, ellipse, type PageItem, type PathCommand, rectangle } from "../../../page/index.js";
import { type Ground, mixColors } from "../../../spreadsheet/index.js";
import type { Bar } from "../read/conditional-formatting.js";

/** Distance of a pattern's lines in points, and how thick they are. */
const PITCH = 3;
const STEPS = 24;

export function groundItems(ground: Ground, box: Box): PageItem[] {
  if (ground.kind === "lines") return [hatch(ground.pattern, ground.color, box)];
  const { stops, degree } = ground;
  if (stops.length === 0) return [];
  if (degree !== undefined) return [{ kind: "shade", ...box, angle: degree, stops }];
  return fromInside(ground, box);
}

/** Colours from an inner rectangle outwards, in steps as fine as paper shows. */
function fromInside(ground: Ground & { kind: "gradient" }, box: Box): PageItem[] {
  const { inner, stops } = ground;
  const items: PageItem[] = [];
  for (let step = STEPS; step >= 0; step--) {
    const share = step / STEPS;
    const left = box.x + box.width * inner.left * (1 - share);
    const top = box.y + box.height * inner.top * (1 - share);
    const right = box.x + box.width - box.width * (1 - inner.right) * (1 - share);
    const bottom = box.y + box.height - box.height * (1 - inner.bottom) * (1 - share);
    const [width, height] = [Math.max(0, right - left), Math.max(0, bottom - top)];
    items.push({ kind: "fill", x: left, y: top, width, height, color: colorAt(stops, share) });
  }
  return items;
}

function colorAt(stops: readonly { at: number; color: string }[], share: number): string {
  const next = stops.findIndex((stop) => stop.at >= share);
  if (next <= 0) return stops[Math.max(0, next)]?.color ?? stops[stops.length - 1].color;
  const [from, to] = [stops[next - 1], stops[next]];
  return mixColors(to.color, from.color, (share - from.at) / (to.at - from.at || 1));
}

function hatch(pattern: string, color: string, box: Box): PageItem {
  const commands: PathCommand[] = [];
  const width = pattern.startsWith("dark") ? 1.2 : 0.4;
  const name = pattern.toLowerCase();
  const { x, y, width: w, height: h } = box;
  const isGrid = name.includes("grid");
  const isTrellis = name.includes("trellis");
  if (name.includes("horizontal") || isGrid)
    for (let at = PITCH / 2; at < h; at += PITCH) commands.push(["M", x, y + at], ["L", x + w, y + at]);
  if (name.includes("vertical") || isGrid)
    for (let at = PITCH / 2; at < w; at += PITCH) commands.push(["M", x + at, y], ["L", x + at, y + h]);
  if (name.includes("down") || isTrellis)
    for (let at = -h; at < w; at += PITCH) commands.push(["M", x + at, y], ["L", x + at + h, y + h]);
  if (name.includes("up") || isTrellis)
    for (let at = 0; at < w + h; at += PITCH) commands.push(["M", x + at, y], ["L", x + at - h, y + h]);
  return { kind: "path", commands, stroke: { color, width }, clip: box };
}

export function barItems(bar: Bar, box: Box): PageItem[] {
  const inside = { x: box.x + 1, y: box.y + 1, width: box.width - 2, height: box.height - 2 };
  const x = inside.x + inside.width * bar.from;
  const width = inside.width * (bar.to - bar.from);
  const items: PageItem[] = [];
  if (width > 0) {
    const place = { x, y: inside.y, width, height: inside.height };
    const pale = mixColors(bar.color, "FFFFFF", 0.15);
    if (!bar.isGradient) items.push({ kind: "fill", ...place, color: bar.color });
    else
      items.push({
        kind: "shade",
        ...place,
        angle: bar.axis !== undefined && bar.to <= bar.axis ? 180 : 0,
        stops: [
          { at: 0, color: bar.color },
          { at: 1, color: pale },
        ],
      });
    if (bar.border) items.push({ kind: "path", commands: rectangle(place), stroke: { color: bar.border, width: 0.5 } });
  }
  if (bar.axis !== undefined) {
    const at = inside.x + inside.width * bar.axis;
    const ends = { x1: at, x2: at, y1: box.y, y2: box.y + box.height };
    items.push({ kind: "line", ...ends, width: 0.5, color: "000000", dash: [1.5, 1] });
  }
  return items;
}

const GOOD = "4F9D5C";
const FAIR = "E3A93B";
const POOR = "CC4B3E";
const GREY = "808080";
const BLACK = "404040";

/** Sets of four colours, from the least to the greatest value (18.18.42). */
const FOUR: Readonly<Record<string, readonly string[]>> = {
  "4RedToBlack": [BLACK, "A6A6A6", "E5A19A", POOR],
  "4TrafficLights": [BLACK, POOR, FAIR, GOOD],
};

/** An icon of a rule's set in a square: worse to better by `index` of `count`. */
export function iconItems(set: string, index: number, count: number, square: Box): PageItem[] {
  const { x, y, width: size } = square;
  const share = count > 1 ? index / (count - 1) : 1;
  const tone = FOUR[set]?.[index] ?? (set.includes("Gray") ? GREY : share >= 0.75 ? GOOD : share <= 0.25 ? POOR : FAIR);
  const fill = (commands: PathCommand[], color = tone): PageItem => ({ kind: "path", commands, fill: color });
  const middle = { x: x + size / 2, y: y + size / 2 };
  const polygon = (...points: readonly (readonly [number, number])[]): PathCommand[] => [
    ...points.map(([px, py], at): PathCommand => [at === 0 ? "M" : "L", x + px * size, y + py * size]),
    ["Z"],
  ];
  if (set.includes("Arrows") || set.includes("Triangles")) {
    // From straight down to straight up.
    const angle = ((0.5 - share) * Math.PI * 2) / 2;
    const turn = ([px, py]: readonly [number, number]): [number, number] => [
      0.5 + (px - 0.5) * Math.cos(angle) - (py - 0.5) * Math.sin(angle),
      0.5 + (px - 0.5) * Math.sin(angle) + (py - 0.5) * Math.cos(angle),
    ];
    const arrow: [number, number][] = [
      [1, 0.5],
      [0.55, 0.08],
      [0.55, 0.34],
      [0.05, 0.34],
      [0.05, 0.66],
      [0.55, 0.66],
      [0.55, 0.92],
    ];
    return [fill(polygon(...arrow.map(turn)))];
  }
  if (set.includes("Rating") || set.includes("Boxes")) {
    const bars = count - 1;
    return Array.from({ length: bars }, (_, at): PageItem => {
      const height = size * (0.3 + (0.7 * (at + 1)) / bars);
      const width = size / bars - size * 0.06;
      const place = { x: x + (at * size) / bars, y: y + size - height, width, height };
      return { kind: "fill", ...place, color: at < index ? "4A6FA5" : "C9D3E0" };
    });
  }
  if (set.includes("Quarters")) {
    const circle = fill(ellipse(middle.x, middle.y, size / 2, size / 2), "D9D9D9");
    if (share === 0) return [circle];
    if (share === 1) return [fill(ellipse(middle.x, middle.y, size / 2, size / 2), "404040")];
    return [circle, fill(pie(middle, size / 2, 0, share), "404040")];
  }
  if (set.includes("Flags"))
    return [
      fill(polygon([0.2, 0.05], [0.9, 0.3], [0.2, 0.55])),
      {
        kind: "line",
        x1: x + size * 0.2,
        x2: x + size * 0.2,
        y1: y + size * 0.05,
        y2: y + size,
        width: size * 0.08,
        color: "595959",
      },
    ];
  if (set.includes("Signs") && share < 1)
    return [
      fill(share > 0 ? polygon([0.5, 0.05], [1, 0.95], [0, 0.95]) : polygon([0.5, 0], [1, 0.5], [0.5, 1], [0, 0.5])),
    ];
  const circle = fill(ellipse(middle.x, middle.y, size / 2, size / 2));
  if (!set.includes("Symbols")) return [circle];
  const stroke = { color: "FFFFFF", width: size * 0.13 };
  const sign: PathCommand[] =
    share >= 0.75
      ? [
          ["M", x + size * 0.25, y + size * 0.52],
          ["L", x + size * 0.43, y + size * 0.7],
          ["L", x + size * 0.75, y + size * 0.32],
        ]
      : share <= 0.25
        ? [
            ["M", x + size * 0.3, y + size * 0.3],
            ["L", x + size * 0.7, y + size * 0.7],
            ["M", x + size * 0.7, y + size * 0.3],
            ["L", x + size * 0.3, y + size * 0.7],
          ]
        : [
            ["M", x + size * 0.5, y + size * 0.2],
            ["L", x + size * 0.5, y + size * 0.6],
            ["M", x + size * 0.5, y + size * 0.7],
            ["L", x + size * 0.5, y + size * 0.82],
          ];
  return [circle, { kind: "path", commands: sign, stroke }];
}

/** A slice of a circle from one share of it to another, from the top clockwise. */
export function pie(
  { x: cx, y: cy }: { readonly x: number; readonly y: number },
  radius: number,
  from: number,
  to: number,
  inner = 0,
): PathCommand[] {
  const at = (share: number, r: number): [number, number] => {
    const angle = share * 2 * Math.PI - Math.PI / 2;
    return [cx + r * Math.cos(angle), cy + r * Math.sin(angle)];
  };
  const arc = (start: number, end: number, r: number): PathCommand[] => {
    const pieces = Math.max(1, Math.ceil(Math.abs(end - start) * 8));
    return Array.from({ length: pieces }, (_, piece): PathCommand => {
      const [a, b] = [start + ((end - start) * piece) / pieces, start + ((end - start) * (piece + 1)) / pieces];
      const pull = (4 / 3) * Math.tan(((b - a) * 2 * Math.PI) / 4) * r;
      const [p, q] = [at(a, r), at(b, r)];
      const [u, v] = [a, b].map((share) => share * 2 * Math.PI - Math.PI / 2);
      return [
        "C",
        p[0] - pull * Math.sin(u),
        p[1] + pull * Math.cos(u),
        q[0] + pull * Math.sin(v),
        q[1] - pull * Math.cos(v),
        q[0],
        q[1],
      ];
    });
  };
  const start = at(from, radius);
  if (inner > 0) {
    const back = at(to, inner);
    return [["M", ...start], ...arc(from, to, radius), ["L", ...back], ...arc(to, from, inner), ["Z"]];
  }
  return [["M", cx, cy], ["L", ...start], ...arc(from, to, radius), ["Z"]];
}
