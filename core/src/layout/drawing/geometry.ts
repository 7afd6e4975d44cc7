/** Outlines of shapes from formulas, preset and custom: ECMA-376 part 1, 20.1.9. */
import type { XmlElement } from "../../ooxml/index.js";
import type { Box, PathCommand } from "../../page/index.js";
import { presetGeometry } from "./presets/index.js";

/** English metric units in a point. */
export const EMU_PER_PT = 12_700;

export interface GeometryPath {
  /** The size its numbers are in; the shape's own, in English metric units, without it. */
  readonly width: number | undefined;
  readonly height: number | undefined;
  /** `norm`, `none`, or how much lighter or darker than the shape's fill (20.1.10.37). */
  readonly fill: string;
  readonly isStroked: boolean;
  /** A letter and its operands: names of guides, or numbers. */
  readonly commands: readonly (readonly string[])[];
}

export interface Geometry {
  /** What may be adjusted, with its usual formulas. */
  readonly adjust: readonly (readonly [string, string])[];
  readonly guides: readonly (readonly [string, string])[];
  /** Sides of the rectangle for text: left, top, right, bottom. */
  readonly room: readonly string[] | undefined;
  readonly paths: readonly GeometryPath[];
}

/** One path of a shape's outline, in points. */
export interface OutlinePath {
  readonly commands: readonly PathCommand[];
  readonly fill: string;
  readonly isStroked: boolean;
}

export interface Outlines {
  readonly paths: readonly OutlinePath[];
  /** Where text stands, in points. */
  readonly room: Box;
}

/** The geometry that shape properties ask for, with their adjustments; a usual one where they name none, or one nobody knows. */
export function geometryOf(
  properties: XmlElement | undefined,
  usual = "rect",
): { geometry: Geometry; unknown: string | undefined } {
  const custom = properties?.child("custGeom");
  if (custom) return { geometry: customGeometry(custom), unknown: undefined };
  const preset = properties?.child("prstGeom");
  const name = preset?.attr("prst") ?? usual;
  const known = presetGeometry(name === "textBox" ? "rect" : name);
  const base = known ?? presetGeometry(usual);
  if (!base) return { geometry: EMPTY, unknown: name };
  const own = new Map(guidesIn(preset?.child("avLst")));
  const adjust = base.adjust.map(([guide, usual]) => [guide, own.get(guide) ?? usual] as const);
  return { geometry: own.size === 0 ? base : { ...base, adjust }, unknown: known ? undefined : name };
}

const EMPTY: Geometry = { adjust: [], guides: [], room: undefined, paths: [] };

function guidesIn(list: XmlElement | undefined): [string, string][] {
  return (list?.elements("gd") ?? []).map((guide) => [guide.attr("name") ?? "", guide.attr("fmla") ?? "val 0"]);
}

function customGeometry(custom: XmlElement): Geometry {
  const rect = custom.child("rect");
  return {
    adjust: guidesIn(custom.child("avLst")),
    guides: guidesIn(custom.child("gdLst")),
    room: rect && ["l", "t", "r", "b"].map((side) => rect.attr(side) ?? side),
    paths: (custom.child("pathLst")?.elements("path") ?? []).map((path) => ({
      width: Number(path.attr("w") ?? 0) || undefined,
      height: Number(path.attr("h") ?? 0) || undefined,
      fill: path.attr("fill") ?? "norm",
      isStroked: path.attr("stroke") !== "0" && path.attr("stroke") !== "false",
      commands: path.elements().map(customCommand),
    })),
  };
}

const LETTERS: Readonly<Record<string, string>> = {
  moveTo: "M",
  lnTo: "L",
  arcTo: "A",
  quadBezTo: "Q",
  cubicBezTo: "C",
  close: "Z",
};

function customCommand(element: XmlElement): string[] {
  const letter = LETTERS[element.local] ?? "Z";
  if (letter === "A") return [letter, ...["wR", "hR", "stAng", "swAng"].map((name) => element.attr(name) ?? "0")];
  return [letter, ...element.elements("pt").flatMap((point) => [point.attr("x") ?? "0", point.attr("y") ?? "0"])];
}

/** Outlines of shapes that are as the standard has them, by their size. */
const drawn = new WeakMap<Geometry, Map<string, Outlines>>();
/** Sizes that are kept of each. */
const KEPT_SIZES = 500;

/** The outline of a shape in a box of a size in points, whose upper left corner is nought. */
export function outlinesOf(geometry: Geometry, width: number, height: number): Outlines {
  let sizes = drawn.get(geometry);
  if (!sizes || sizes.size > KEPT_SIZES) {
    sizes = new Map();
    drawn.set(geometry, sizes);
  }
  const key = `${width} ${height}`;
  const outlines = sizes.get(key) ?? readOutlines(geometry, width, height);
  sizes.set(key, outlines);
  return outlines;
}

function readOutlines(geometry: Geometry, width: number, height: number): Outlines {
  const values = new GuideValues(width * EMU_PER_PT, height * EMU_PER_PT);
  for (const [name, formula] of [...geometry.adjust, ...geometry.guides]) values.set(name, formula);
  const at = (name: string): number => values.get(name) / EMU_PER_PT;
  const [left, top, right, bottom] = (geometry.room ?? ["l", "t", "r", "b"]).map(at);
  return {
    room: { x: left, y: top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) },
    paths: geometry.paths.map((path) => ({
      fill: path.fill,
      isStroked: path.isStroked,
      commands: commandsOf(path, values, {
        x: path.width === undefined ? 1 / EMU_PER_PT : width / path.width,
        y: path.height === undefined ? 1 / EMU_PER_PT : height / path.height,
      }),
    })),
  };
}

/** Angles are 60,000ths of a degree. */
const ANGLE = Math.PI / 180 / 60_000;

/** Values of guides; those that every shape has are there from the beginning (20.1.9.11). */
class GuideValues {
  private readonly values = new Map<string, number>();

  constructor(w: number, h: number) {
    const [ls, ss] = [Math.max(w, h), Math.min(w, h)];
    const given: Record<string, number> = { w, h, l: 0, t: 0, r: w, b: h, hc: w / 2, vc: h / 2, ls, ss };
    for (const part of [2, 3, 4, 5, 6, 8, 10, 12, 16, 32]) {
      given[`wd${part}`] = w / part;
      given[`hd${part}`] = h / part;
      given[`ssd${part}`] = ss / part;
    }
    for (const [name, value] of Object.entries(given)) this.values.set(name, value);
    const turn = 21_600_000;
    for (const [name, value] of [
      ["cd2", turn / 2],
      ["cd4", turn / 4],
      ["cd8", turn / 8],
      ["3cd4", (turn * 3) / 4],
      ["3cd8", (turn * 3) / 8],
      ["5cd8", (turn * 5) / 8],
      ["7cd8", (turn * 7) / 8],
    ] as const)
      this.values.set(name, value);
  }

  get(name: string): number {
    const known = this.values.get(name);
    if (known !== undefined) return known;
    const number = Number(name);
    return Number.isFinite(number) ? number : 0;
  }

  set(name: string, formula: string): void {
    const [operator, ...operands] = formula.trim().split(/\s+/);
    const [x = 0, y = 0, z = 0] = operands.map((operand) => this.get(operand));
    const value = compute(operator, x, y, z);
    this.values.set(name, Number.isFinite(value) ? value : 0);
  }
}

/** Operators of formulas (20.1.9.11). */
function compute(operator: string, x: number, y: number, z: number): number {
  switch (operator) {
    case "*/":
      return z === 0 ? 0 : (x * y) / z;
    case "+-":
      return x + y - z;
    case "+/":
      return z === 0 ? 0 : (x + y) / z;
    case "?:":
      return x > 0 ? y : z;
    case "abs":
      return Math.abs(x);
    case "at2":
      return Math.atan2(y, x) / ANGLE;
    case "cat2":
      return x * Math.cos(Math.atan2(z, y));
    case "sat2":
      return x * Math.sin(Math.atan2(z, y));
    case "cos":
      return x * Math.cos(y * ANGLE);
    case "sin":
      return x * Math.sin(y * ANGLE);
    case "tan":
      return x * Math.tan(y * ANGLE);
    case "max":
      return Math.max(x, y);
    case "min":
      return Math.min(x, y);
    case "mod":
      return Math.hypot(x, y, z);
    case "pin":
      return y < x ? x : Math.min(y, z);
    case "sqrt":
      return Math.sqrt(x);
    default:
      return x;
  }
}

function commandsOf(
  path: GeometryPath,
  values: GuideValues,
  scale: { readonly x: number; readonly y: number },
): PathCommand[] {
  const made: PathCommand[] = [];
  // The place of the pen, in the path's own numbers, and where its part began.
  let [px, py, sx, sy] = [0, 0, 0, 0];
  for (const [letter, ...operands] of path.commands) {
    const numbers = operands.map((operand) => values.get(operand));
    switch (letter) {
      case "M":
      case "L":
        [px, py] = numbers;
        if (letter === "M") [sx, sy] = [px, py];
        made.push([letter, px * scale.x, py * scale.y]);
        break;
      case "C":
        made.push(curve(numbers, scale));
        [px, py] = numbers.slice(4);
        break;
      case "Q": {
        const [qx, qy, ex, ey] = numbers;
        const near = [px + ((qx - px) * 2) / 3, py + ((qy - py) * 2) / 3];
        const far = [ex + ((qx - ex) * 2) / 3, ey + ((qy - ey) * 2) / 3];
        made.push(curve([...near, ...far, ex, ey], scale));
        [px, py] = [ex, ey];
        break;
      }
      case "A": {
        const arc = arcFrom(px, py, numbers);
        for (const one of arc.curves) made.push(curve(one, scale));
        [px, py] = arc.end;
        break;
      }
      default:
        made.push(["Z"]);
        [px, py] = [sx, sy];
    }
  }
  return made;
}

function curve(
  [ax, ay, bx, by, cx, cy]: readonly number[],
  { x, y }: { readonly x: number; readonly y: number },
): PathCommand {
  return ["C", ax * x, ay * y, bx * x, by * y, cx * x, cy * y];
}

/**
 * An arc of an ellipse from where the pen stands, as curves of at most a quarter. Its angles are those seen from the ellipse's middle,
 * not those of its parameter (20.1.9.2).
 */
function arcFrom(
  x: number,
  y: number,
  [rx, ry, start, sweep]: readonly number[],
): { curves: number[][]; end: [number, number] } {
  if (rx === 0 || ry === 0 || sweep === 0) return { curves: [], end: [x, y] };
  const turned = (angle: number): number => {
    const full = angle * ANGLE;
    const rounds = Math.round(full / (2 * Math.PI)) * 2 * Math.PI;
    return rounds + Math.atan2(rx * Math.sin(full - rounds), ry * Math.cos(full - rounds));
  };
  const from = turned(start);
  let to = turned(start + sweep);
  // A whole round is one, however its ends are turned.
  if (Math.abs(sweep) >= 21_600_000) to = from + Math.sign(sweep) * 2 * Math.PI;
  const [cx, cy] = [x - rx * Math.cos(from), y - ry * Math.sin(from)];
  const count = Math.max(1, Math.ceil(Math.abs(to - from) / (Math.PI / 2) - 1e-9));
  const step = (to - from) / count;
  const pull = (4 / 3) * Math.tan(step / 4);
  const curves = Array.from({ length: count }, (_, index) => {
    const [a, b] = [from + index * step, from + (index + 1) * step];
    return [
      cx + rx * (Math.cos(a) - pull * Math.sin(a)),
      cy + ry * (Math.sin(a) + pull * Math.cos(a)),
      cx + rx * (Math.cos(b) + pull * Math.sin(b)),
      cy + ry * (Math.sin(b) - pull * Math.cos(b)),
      cx + rx * Math.cos(b),
      cy + ry * Math.sin(b),
    ];
  });
  return { curves, end: [cx + rx * Math.cos(to), cy + ry * Math.sin(to)] };
}
