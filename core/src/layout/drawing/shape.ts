/** Shapes with their text: ECMA-376 part 1, 20.1.2.2.33 and 20.5.2.29. */
import type { Fonts } from "../../fonts/index.js";
import type { XmlElement } from "../../ooxml/index.js";
import { type Box, type Matrix, moveItems, type PageItem, type StructureNode, untagged } from "../../page/index.js";
import type { Theme } from "../../spreadsheet/index.js";
import { type Paint, paintIn } from "./colors.js";
import { type FillSite, fillItems, lineItems } from "./fill-items.js";
import { EMU_PER_PT, geometryOf, type OutlinePath, outlinesOf } from "./geometry.js";
import { type Fill, fillOf, lineOf, type Outline, styleFill } from "./paint.js";
import { type Placement, placementOf } from "./placement.js";
import { hasText, layBody } from "./text-body.js";

export { EMU_PER_PT };

/** What a shape is painted with. */
export interface ShapePaint {
  readonly fill: Fill | "none" | undefined;
  readonly line: Outline | "none" | undefined;
  readonly shadow: Shadow | undefined;
}

interface Shadow extends Paint {
  /** In points. */
  readonly dx: number;
  readonly dy: number;
}

/** The name of a shape's outline that is not known, and a rectangle stands for. */
export function plainerOutline(shape: XmlElement): string | undefined {
  return geometryOf(shape.child("spPr")).unknown;
}

/** What a shape's properties ask for, and where they leave it open its style; a group's fill where they refer to it. */
export function paintOf(
  properties: XmlElement | undefined,
  style: XmlElement | undefined,
  theme: Theme,
  groupFill?: Fill | "none",
): ShapePaint {
  const inherited = properties?.child("grpFill") ? groupFill : undefined;
  return {
    fill: inherited ?? fillOf(properties, theme) ?? styleFill(style?.child("fillRef"), theme),
    line: lineOf(properties?.child("ln"), style?.child("lnRef"), theme),
    shadow: shadowOf(properties, style, theme),
  };
}

function shadowOf(properties: XmlElement | undefined, style: XmlElement | undefined, theme: Theme): Shadow | undefined {
  const own = properties?.child("effectLst");
  const reference = style?.child("effectRef");
  const index = Number(reference?.attr("idx") ?? 0);
  const styled =
    index > 0 ? theme.formats?.child("effectStyleLst")?.elements()[index - 1]?.child("effectLst") : undefined;
  const shadow = (own ?? styled)?.child("outerShdw");
  if (!shadow) return undefined;
  const placeholder = paintIn(reference, theme)?.color;
  const paint = paintIn(shadow, own ? theme : { ...theme, placeholder }) ?? { color: "000000", opacity: 0.5 };
  const distance = Number(shadow.attr("dist") ?? 0) / EMU_PER_PT;
  const angle = (Number(shadow.attr("dir") ?? 0) / 60_000) * (Math.PI / 180);
  // Its edge is not blurred: what it covers is lighter for that.
  const blurred = Number(shadow.attr("blurRad") ?? 0) > 0 ? 0.6 : 1;
  return {
    color: paint.color,
    opacity: paint.opacity * blurred,
    dx: distance * Math.cos(angle),
    dy: distance * Math.sin(angle),
  };
}

/** How much lighter or darker a part of a shape is than its fill (20.1.10.37). */
const SHADES: Readonly<Record<string, readonly [end: number, share: number]>> = {
  lighten: [255, 0.4],
  lightenLess: [255, 0.2],
  darken: [0, 0.4],
  darkenLess: [0, 0.2],
};

function shaded(fill: Fill, how: string): Fill {
  const shade = SHADES[how];
  if (!shade) return fill;
  const [end, share] = shade;
  const mixed = (color: string): string =>
    [0, 2, 4]
      .map((at) => Math.round(Number.parseInt(color.slice(at, at + 2), 16) * (1 - share) + end * share))
      .map((part) => part.toString(16).padStart(2, "0"))
      .join("")
      .toUpperCase();
  return { color: mixed(fill.color), opacity: fill.opacity };
}

/** An outline painted, in its own box whose upper left corner is nought. */
export function paintedOutline(
  paths: readonly OutlinePath[],
  size: Pick<Box, "width" | "height">,
  { fill, line, shadow }: ShapePaint,
  site: FillSite,
): PageItem[] {
  const box = { ...size, x: 0, y: 0 };
  const items: PageItem[] = [];
  const isFilled = fill !== undefined && fill !== "none";
  if (shadow && isFilled) {
    const { dx, dy, color, opacity } = shadow;
    const cast = paths
      .filter((path) => path.fill !== "none")
      .map((path): PageItem => ({ kind: "path", commands: path.commands, fill: color, opacity }));
    items.push(...moveItems(cast, dx, dy));
  }
  for (const path of paths) {
    if (isFilled && path.fill !== "none") items.push(...fillItems(path.commands, box, shaded(fill, path.fill), site));
    if (line && line !== "none" && path.isStroked) items.push(...lineItems(path.commands, line));
  }
  return items;
}

/** How a box is turned and flipped about its middle (20.1.7.6); nothing for one that stands as it is. */
export function turnOf(
  { degrees, flipX, flipY }: Omit<Placement, "box">,
  { width, height }: Pick<Box, "width" | "height">,
): { readonly ground: Matrix; readonly text: Matrix } | undefined {
  if (degrees === 0 && !flipX && !flipY) return undefined;
  const about = (angle: number, sx: number, sy: number): Matrix => {
    const radians = (angle * Math.PI) / 180;
    const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
    const [a, b, c, d] = [cos * sx, sin * sx, -sin * sy, cos * sy];
    const [mx, my] = [width / 2, height / 2];
    return [a, b, c, d, mx - a * mx - c * my, my - b * mx - d * my];
  };
  // Text is never seen from behind; upside down it is turned.
  return { ground: about(degrees, flipX ? -1 : 1, flipY ? -1 : 1), text: about(degrees + (flipY ? 180 : 0), 1, 1) };
}

/** Where text stands in a shape that is seen in a mirror: its room is mirrored, its letters are not. */
export function textRoom(room: Box, { flipX, flipY }: Omit<Placement, "box">, width: number): Box {
  // Upside down, text is turned about the middle, which mirrors its room both ways.
  return flipX !== flipY ? { ...room, x: width - room.x - room.width } : room;
}

export function turned(items: readonly PageItem[], matrix: Matrix | undefined): PageItem[] {
  return matrix && items.length > 0 ? [{ kind: "turned", matrix, items }] : [...items];
}

/** A shape in a box, in points. */
export function drawShape(shape: XmlElement, box: Box, fonts: Fonts, theme: Theme): PageItem[] {
  const properties = shape.child("spPr");
  const style = shape.child("style");
  const { geometry } = geometryOf(properties, shape.local === "cxnSp" ? "line" : "rect");
  const { paths, room } = outlinesOf(geometry, box.width, box.height);
  const frame = properties?.child("xfrm");
  const turn = frame && turnOf(placementOf(frame), box);
  const ground = paintedOutline(paths, box, paintOf(properties, style, theme), { theme });
  const body = shape.child("txBody");
  const items = turned(ground, turn?.ground);
  if (body && hasText(body)) {
    const color = paintIn(style?.child("fontRef"), theme)?.color ?? theme.colors[1] ?? "000000";
    const node: StructureNode = { role: "P", children: [] };
    const sources = { lists: [], bodies: [], usual: { size: 11, color, font: theme.minorFont } };
    const laid = layBody(body, room, sources, { fonts, theme, node });
    const at = frame ? textRoom(room, placementOf(frame), box.width) : room;
    items.push(...turned(untagged(moveItems(laid.items, at.x, at.y)), turn?.text));
  }
  return moveItems(items, box.x, box.y);
}
