/** Fills and lines of a shape's outline as items of a page. */

import type { XmlElement } from "../../ooxml/index.js";
import {
  type Box,
  type PageItem,
  type PathCommand,
  type RasterImage,
  type Recolor,
  rectangle,
  type ShadeItem,
} from "../../page/index.js";
import type { Theme } from "../../spreadsheet/index.js";
import { paintIn, percentage } from "./colors.js";
import { EMU_PER_PT } from "./geometry.js";
import type { Fill, Gradient, LineEnd, Outline } from "./paint.js";
import { patternRuns } from "./patterns.js";

/** Pictures by the relationship that leads to them; words where one cannot be drawn. */
export type ImageSource = (id: string) => RasterImage | string;

export interface FillSite {
  readonly theme: Theme;
  readonly image?: ImageSource | undefined;
  /** Told what is not drawn as it should be. */
  readonly missing?: ((what: string) => void) | undefined;
}

/** An area filled: its outline, and the box that gradients and pictures lie in. */
export function fillItems(commands: readonly PathCommand[], box: Box, fill: Fill, site: FillSite): PageItem[] {
  const { opacity } = fill;
  if (fill.gradient)
    return [{ kind: "group", clip: undefined, outline: commands, items: shades(box, fill.gradient, opacity) }];
  if (fill.pattern) return patternItems(commands, box, fill, fill.pattern);
  if (fill.picture) {
    const items = pictureFill(fill.picture, box, site);
    if (items) return [{ kind: "group", clip: undefined, outline: commands, items }];
  }
  return [{ kind: "path", commands, fill: fill.color, opacity }];
}

/** A pattern's point, in points of the page. */
const POINT = 0.75;

function patternItems(
  commands: readonly PathCommand[],
  box: Box,
  { color, opacity }: Fill,
  { name, ground }: { readonly name: string; readonly ground: { readonly color: string; readonly opacity: number } },
): PageItem[] {
  const cell = { x: box.x, y: box.y, width: 8 * POINT, height: 8 * POINT };
  const items = patternRuns(name).map(({ x, y, width }): PageItem => {
    const run = { x: x * POINT, y: y * POINT, width: width * POINT, height: POINT };
    return { kind: "path", commands: rectangle(run), fill: color, opacity };
  });
  return [
    { kind: "path", commands, fill: ground.color, opacity: ground.opacity },
    { kind: "group", clip: undefined, outline: commands, items: [{ kind: "tile", ...box, cell, items }] },
  ];
}

/** Colours along a line, or outwards: in circles, or in four parts of a rectangle, each along a line of its own. */
function shades(box: Box, { angle, stops, outwards }: Gradient, opacity: number): PageItem[] {
  if (!outwards) return [{ kind: "shade", ...box, angle, stops, opacity }];
  const [left, right] = [box.x + outwards.left * box.width, box.x + box.width * (1 - outwards.right)];
  const [top, bottom] = [box.y + outwards.top * box.height, box.y + box.height * (1 - outwards.bottom)];
  if (outwards.shape === "circle") {
    const from = {
      x: ((left + right) / 2 - box.x) / (box.width || 1),
      y: ((top + bottom) / 2 - box.y) / (box.height || 1),
    };
    return [{ kind: "shade", ...box, angle, stops, from, opacity }];
  }
  const [edgeX, edgeY] = [box.x + box.width, box.y + box.height];
  const inside = { x: left, y: top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) };
  const part = (corners: readonly (readonly [number, number])[], area: Box, turn: number): PageItem => {
    const outline = corners.map(([x, y], index): PathCommand => [index === 0 ? "M" : "L", x, y]);
    const shade: ShadeItem = { kind: "shade", ...area, angle: turn, stops, opacity };
    return { kind: "group", clip: undefined, outline: [...outline, ["Z"]], items: [shade] };
  };
  const { x, y, width, height } = box;
  return [
    part(
      [
        [x, y],
        [edgeX, y],
        [right, top],
        [left, top],
      ],
      { x, y, width, height: top - y },
      270,
    ),
    part(
      [
        [edgeX, y],
        [edgeX, edgeY],
        [right, bottom],
        [right, top],
      ],
      { x: right, y, width: edgeX - right, height },
      0,
    ),
    part(
      [
        [x, edgeY],
        [edgeX, edgeY],
        [right, bottom],
        [left, bottom],
      ],
      { x, y: bottom, width, height: edgeY - bottom },
      90,
    ),
    part(
      [
        [x, y],
        [x, edgeY],
        [left, bottom],
        [left, top],
      ],
      { x, y, width: left - x, height },
      180,
    ),
    { kind: "path", commands: rectangle(inside), fill: stops[0].color, opacity: stops[0].opacity ?? opacity },
  ];
}

/** A picture that fills a box, stretched or tiled (20.1.8.14); `undefined` where it cannot be drawn, which is told. */
export function pictureFill(fill: XmlElement, box: Box, site: FillSite): PageItem[] | undefined {
  const blip = fill.child("blip");
  const id = blip && [...blip.attributes].find(([name]) => name.endsWith(":embed") || name.endsWith(":link"))?.[1];
  if (id === undefined || !site.image) return undefined;
  const image = site.image(id);
  if (typeof image === "string") {
    site.missing?.(image);
    return undefined;
  }
  const looks = { opacity: opacityOf(blip), recolor: recolorOf(blip, site.theme) };
  const tile = fill.child("tile");
  if (tile) {
    const scale = (name: string): number => percentage(tile.attr(name)) ?? 1;
    // A picture's own size is taken at 96 points to the inch.
    const width = Math.max(1, image.width * POINT * scale("sx"));
    const height = Math.max(1, image.height * POINT * scale("sy"));
    const offset = (name: string): number => Number(tile.attr(name) ?? 0) / EMU_PER_PT;
    const align = tile.attr("algn") ?? "tl";
    const across = /l$/.test(align) ? 0 : /r$/.test(align) ? 1 : 0.5;
    const deep = /^t/.test(align) ? 0 : /^b/.test(align) ? 1 : 0.5;
    const cell = {
      x: box.x + (box.width - width) * across + offset("tx"),
      y: box.y + (box.height - height) * deep + offset("ty"),
      width,
      height,
    };
    return [{ kind: "tile", ...box, cell, items: [{ kind: "image", image, x: 0, y: 0, width, height, ...looks }] }];
  }
  const sides = (element: XmlElement | undefined): readonly number[] =>
    ["l", "t", "r", "b"].map((side) => percentage(element?.attr(side)) ?? 0);
  const [cutLeft, cutTop, cutRight, cutBottom] = sides(fill.child("srcRect"));
  const [left, top, right, bottom] = sides(fill.path("stretch", "fillRect"));
  const seen = {
    x: box.x + left * box.width,
    y: box.y + top * box.height,
    width: box.width * (1 - left - right),
    height: box.height * (1 - top - bottom),
  };
  const width = seen.width / Math.max(0.01, 1 - cutLeft - cutRight);
  const height = seen.height / Math.max(0.01, 1 - cutTop - cutBottom);
  const whole = { x: seen.x - cutLeft * width, y: seen.y - cutTop * height, width, height };
  return [{ kind: "group", clip: seen, items: [{ kind: "image", image, ...whole, ...looks }] }];
}

function opacityOf(blip: XmlElement | undefined): number | undefined {
  const amount = percentage(blip?.child("alphaModFix")?.attr("amt"));
  return amount === undefined || amount >= 1 ? undefined : amount;
}

/** What becomes of a picture's colours: 20.1.8.34, 20.1.8.23, 20.1.8.11, 20.1.8.42. */
function recolorOf(blip: XmlElement | undefined, theme: Theme): Recolor | undefined {
  const changes = (blip?.elements() ?? []).flatMap((change): Recolor[number][] => {
    switch (change.local) {
      case "grayscl":
        return [{ kind: "gray" }];
      case "biLevel":
        return [{ kind: "split", at: percentage(change.attr("thresh")) ?? 0.5 }];
      case "duotone": {
        const [dark, light] = change.elements().map((one) => paintIn(change.withChildren([one]), theme)?.color);
        return dark && light ? [{ kind: "between", dark, light }] : [];
      }
      case "lum":
        return [
          {
            kind: "light",
            bright: percentage(change.attr("bright")) ?? 0,
            contrast: percentage(change.attr("contrast")) ?? 0,
          },
        ];
      default:
        return [];
    }
  });
  return changes.length > 0 ? changes : undefined;
}

/** A line along an outline, with the heads of its open ends. */
export function lineItems(commands: readonly PathCommand[], line: Outline): PageItem[] {
  const { color, opacity, width, dash, cap } = line;
  const stroke = { color, width, dash, cap };
  const isOpen = !commands.some(([letter]) => letter === "Z");
  if (!isOpen || (!line.start && !line.end)) return [{ kind: "path", commands, stroke, opacity }];
  const heads: PageItem[] = [];
  let shown = commands;
  if (line.end) {
    const made = withHead(shown, line.end, line);
    shown = made.commands;
    heads.push(...made.items);
  }
  if (line.start) {
    const made = withHead(backwards(shown), line.start, line);
    shown = backwards(made.commands);
    heads.push(...made.items);
  }
  return [{ kind: "path", commands: shown, stroke, opacity }, ...heads];
}

/** The same way from its end to its beginning. */
function backwards(commands: readonly PathCommand[]): PathCommand[] {
  const ends = commands.map((command) => command.slice(-2) as [number, number]);
  const made: PathCommand[] = [];
  for (let at = commands.length - 1; at > 0; at--) {
    const command = commands[at];
    if (made.length === 0) made.push(["M", ...ends[at]]);
    if (command[0] === "C") made.push(["C", command[3], command[4], command[1], command[2], ...ends[at - 1]]);
    else made.push([command[0] === "M" ? "M" : "L", ...ends[at - 1]]);
  }
  return made.length === 0 ? [...commands] : made;
}

/** Puts a head at the end of a way, which is made shorter by what the head covers. */
function withHead(
  commands: readonly PathCommand[],
  head: LineEnd,
  line: Outline,
): { commands: readonly PathCommand[]; items: PageItem[] } {
  const last = commands[commands.length - 1];
  const before = commands[commands.length - 2];
  if (!last || !before || last[0] === "Z" || before[0] === "Z") return { commands, items: [] };
  const [x, y] = last.slice(-2) as [number, number];
  const [fromX, fromY] = last[0] === "C" ? [last[3], last[4]] : (before.slice(-2) as [number, number]);
  const away = Math.hypot(x - fromX, y - fromY);
  if (away < 1e-6) return { commands, items: [] };
  const [ux, uy] = [(x - fromX) / away, (y - fromY) / away];
  // Thin lines have heads that can be seen all the same.
  const unit = Math.max(line.width, 1.5);
  const [long, half] = [head.length * unit, (head.width * unit) / 2];
  const at = (back: number, side: number): [number, number] => [x - ux * back - uy * side, y - uy * back + ux * side];
  const way = (...points: readonly (readonly [number, number])[]): PathCommand[] =>
    points.map(([px, py], index) => [index === 0 ? "M" : "L", px, py]);
  const { color, opacity } = line;
  const filled = (...points: readonly (readonly [number, number])[]): PageItem => ({
    kind: "path",
    commands: [...way(...points), ["Z"]],
    fill: color,
    opacity,
  });
  const shortened = (by: number): readonly PathCommand[] => {
    const [ex, ey] = at(Math.min(by, last[0] === "L" ? away * 0.99 : by), 0);
    const end: PathCommand = last[0] === "C" ? ["C", last[1], last[2], last[3], last[4], ex, ey] : ["L", ex, ey];
    return [...commands.slice(0, -1), end];
  };
  switch (head.kind) {
    case "triangle":
      return { commands: shortened(long * 0.9), items: [filled(at(0, 0), at(long, half), at(long, -half))] };
    case "stealth":
      return {
        commands: shortened(long * 0.7),
        items: [filled(at(0, 0), at(long, half), at(long * 0.7, 0), at(long, -half))],
      };
    case "diamond":
      return { commands, items: [filled(at(-long / 2, 0), at(0, half), at(long / 2, 0), at(0, -half))] };
    case "oval": {
      const k = 0.5523;
      const [a, b] = [long / 2, half];
      const curve = (points: readonly (readonly [number, number])[]): PathCommand => {
        const [one, two, end] = points.map(([back, side]) => at(back, side));
        return ["C", ...one, ...two, ...end];
      };
      const round: PathCommand[] = [
        ["M", ...at(a, 0)],
        curve([
          [a, b * k],
          [a * k, b],
          [0, b],
        ]),
        curve([
          [-a * k, b],
          [-a, b * k],
          [-a, 0],
        ]),
        curve([
          [-a, -b * k],
          [-a * k, -b],
          [0, -b],
        ]),
        curve([
          [a * k, -b],
          [a, -b * k],
          [a, 0],
        ]),
        ["Z"],
      ];
      return { commands, items: [{ kind: "path", commands: round, fill: color, opacity }] };
    }
    default:
      // An open head: two strokes.
      return {
        commands,
        items: [
          {
            kind: "path",
            commands: way(at(long, half), at(0, 0), at(long, -half)),
            stroke: { color, width: line.width, cap: "round" },
            opacity,
          },
        ],
      };
  }
}
