/** Shapes with text: ECMA-376 part 1, 20.1.9 and 20.5.2.29. */
import type { Fonts } from "../../fonts/index.js";
import type { XmlElement } from "../../ooxml/index.js";
import type { Box, PageItem, PathCommand } from "../../page/index.js";
import { shapeWords, widthOf, wrapText } from "../../page/index.js";
import { isTrue, type Theme } from "../../spreadsheet/index.js";
import { ellipse, rectangle } from "../sheet/draw/cell-fills.js";
import { type Fill, fillOf, type Outline, outlineOf, paintIn, type TextLook, textLook } from "./paint.js";

/** English metric units in a point. */
export const EMU_PER_PT = 12_700;

/** Shapes whose outline is drawn as it is; others are drawn as their rectangle. */
const POLYGONS: Readonly<Record<string, readonly (readonly [number, number])[]>> = {
  triangle: [
    [0.5, 0],
    [1, 1],
    [0, 1],
  ],
  rtTriangle: [
    [0, 0],
    [1, 1],
    [0, 1],
  ],
  diamond: [
    [0.5, 0],
    [1, 0.5],
    [0.5, 1],
    [0, 0.5],
  ],
  parallelogram: [
    [0.25, 0],
    [1, 0],
    [0.75, 1],
    [0, 1],
  ],
  trapezoid: [
    [0.25, 0],
    [0.75, 0],
    [1, 1],
    [0, 1],
  ],
  pentagon: [
    [0.5, 0],
    [1, 0.38],
    [0.81, 1],
    [0.19, 1],
    [0, 0.38],
  ],
  hexagon: [
    [0.25, 0],
    [0.75, 0],
    [1, 0.5],
    [0.75, 1],
    [0.25, 1],
    [0, 0.5],
  ],
  octagon: [
    [0.29, 0],
    [0.71, 0],
    [1, 0.29],
    [1, 0.71],
    [0.71, 1],
    [0.29, 1],
    [0, 0.71],
    [0, 0.29],
  ],
  homePlate: [
    [0, 0],
    [0.75, 0],
    [1, 0.5],
    [0.75, 1],
    [0, 1],
  ],
  chevron: [
    [0, 0],
    [0.75, 0],
    [1, 0.5],
    [0.75, 1],
    [0, 1],
    [0.25, 0.5],
  ],
  rightArrow: [
    [0, 0.25],
    [0.6, 0.25],
    [0.6, 0],
    [1, 0.5],
    [0.6, 1],
    [0.6, 0.75],
    [0, 0.75],
  ],
  leftArrow: [
    [1, 0.25],
    [0.4, 0.25],
    [0.4, 0],
    [0, 0.5],
    [0.4, 1],
    [0.4, 0.75],
    [1, 0.75],
  ],
  upArrow: [
    [0.25, 1],
    [0.25, 0.4],
    [0, 0.4],
    [0.5, 0],
    [1, 0.4],
    [0.75, 0.4],
    [0.75, 1],
  ],
  downArrow: [
    [0.25, 0],
    [0.25, 0.6],
    [0, 0.6],
    [0.5, 1],
    [1, 0.6],
    [0.75, 0.6],
    [0.75, 0],
  ],
  plus: [
    [0.33, 0],
    [0.67, 0],
    [0.67, 0.33],
    [1, 0.33],
    [1, 0.67],
    [0.67, 0.67],
    [0.67, 1],
    [0.33, 1],
    [0.33, 0.67],
    [0, 0.67],
    [0, 0.33],
    [0.33, 0.33],
  ],
};

const RECTANGLES = new Set(["rect", "flowChartProcess", "textBox", ""]);
const LINES = new Set(["line", "straightConnector1", "bentConnector2", "bentConnector3"]);

function presetOf(shape: XmlElement): string {
  const properties = shape.child("spPr");
  return properties?.child("prstGeom")?.attr("prst") ?? (properties?.child("custGeom") ? "custom" : "");
}

/** The name of a shape's outline where a rectangle stands for it. */
export function plainerOutline(shape: XmlElement): string | undefined {
  const preset = presetOf(shape);
  const isKnown =
    RECTANGLES.has(preset) ||
    LINES.has(preset) ||
    shape.local === "cxnSp" ||
    preset in POLYGONS ||
    preset === "roundRect" ||
    preset === "ellipse";
  return isKnown ? undefined : preset;
}

/** A shape in a box, in points. */
export function drawShape(shape: XmlElement, box: Box, fonts: Fonts, theme: Theme): PageItem[] {
  const properties = shape.child("spPr");
  const preset = presetOf(shape);
  const { fill, line } = looksOf(shape, properties, theme);
  const items: PageItem[] = [];
  const commands = outlinePath(preset, box, properties);
  const isLine = LINES.has(preset) || shape.local === "cxnSp";
  if (fill && fill !== "none" && !isLine) {
    if (fill.gradient && RECTANGLES.has(preset)) items.push({ kind: "shade", ...box, ...fill.gradient });
    else items.push({ kind: "path", commands, fill: fill.color, opacity: fill.opacity });
  }
  if (line && line !== "none") items.push({ kind: "path", commands, stroke: line, opacity: line.opacity });
  items.push(...shapeText(shape, box, fonts, theme));
  return items;
}

function looksOf(
  shape: XmlElement,
  properties: XmlElement | undefined,
  theme: Theme,
): { fill: Fill | "none" | undefined; line: Outline | "none" | undefined } {
  const style = shape.child("style");
  const byStyle = style?.child("fillRef")?.attr("idx") === "0" ? undefined : paintIn(style?.child("fillRef"), theme);
  const edge = style?.child("lnRef")?.attr("idx") === "0" ? undefined : paintIn(style?.child("lnRef"), theme);
  const own = outlineOf(properties, theme);
  const width = Number(properties?.child("ln")?.attr("w") ?? 9525) / EMU_PER_PT;
  return {
    fill: fillOf(properties, theme) ?? byStyle,
    line: own ?? (edge && { ...edge, width, dash: undefined }),
  };
}

function outlinePath(preset: string, box: Box, properties: XmlElement | undefined): PathCommand[] {
  const { x, y, width, height } = box;
  if (preset === "ellipse") return ellipse(x + width / 2, y + height / 2, width / 2, height / 2);
  if (preset === "roundRect") {
    const adjust = /val (\d+)/.exec(properties?.descendants("gd")[0]?.attr("fmla") ?? "")?.[1];
    return rounded(box, Math.min(width, height) * Math.min(0.5, Number(adjust ?? 16_667) / 100_000));
  }
  const placement = properties?.child("xfrm");
  const [flipX, flipY] = [isTrue(placement?.attr("flipH")), isTrue(placement?.attr("flipV"))];
  if (LINES.has(preset)) {
    const rises = flipX !== flipY;
    return [
      ["M", x, rises ? y + height : y],
      ["L", x + width, rises ? y : y + height],
    ];
  }
  const points = POLYGONS[preset];
  if (!points) return rectangle(box);
  const corners = points.map(([px, py], at): PathCommand => {
    const [across, down] = [flipX ? 1 - px : px, flipY ? 1 - py : py];
    return [at === 0 ? "M" : "L", x + across * width, y + down * height];
  });
  return [...corners, ["Z"]];
}

function rounded({ x, y, width, height }: Box, r: number): PathCommand[] {
  const k = r * 0.4477;
  const [right, bottom] = [x + width, y + height];
  return [
    ["M", x + r, y],
    ["L", right - r, y],
    ["C", right - k, y, right, y + k, right, y + r],
    ["L", right, bottom - r],
    ["C", right, bottom - k, right - k, bottom, right - r, bottom],
    ["L", x + r, bottom],
    ["C", x + k, bottom, x, bottom - k, x, bottom - r],
    ["L", x, y + r],
    ["C", x, y + k, x + k, y, x + r, y],
    ["Z"],
  ];
}

interface ShapeLine {
  readonly runs: readonly { readonly text: string; readonly look: TextLook }[];
  readonly align: string;
  readonly height: number;
}

/** The shape's paragraphs, wrapped in its insets and placed at its anchor (21.1.2.1.1). */
function shapeText(shape: XmlElement, box: Box, fonts: Fonts, theme: Theme): PageItem[] {
  const body = shape.child("txBody");
  if (!body) return [];
  const properties = body.child("bodyPr");
  const inset = (name: string, otherwise: number): number => Number(properties?.attr(name) ?? otherwise) / EMU_PER_PT;
  const [left, right] = [inset("lIns", 91_440), inset("rIns", 91_440)];
  const [top, bottom] = [inset("tIns", 45_720), inset("bIns", 45_720)];
  const color = paintIn(shape.child("style")?.child("fontRef"), theme)?.color ?? theme.colors[1] ?? "000000";
  const usual = { size: 11, bold: false, italic: false, color, font: theme.minorFont };
  const room = Math.max(4, box.width - left - right);
  const wraps = properties?.attr("wrap") !== "none";
  const lines = body.elements("p").flatMap((paragraph) => linesOf(paragraph, usual, wraps ? room : 1e6, fonts, theme));
  const height = lines.reduce((sum, line) => sum + line.height, 0);
  const anchor = properties?.attr("anchor") ?? "t";
  let y =
    anchor === "ctr"
      ? box.y + (box.height - height) / 2
      : anchor === "b"
        ? box.y + box.height - bottom - height
        : box.y + top;
  const items: PageItem[] = [];
  for (const line of lines) {
    const widths = line.runs.map(({ text, look }) => widthOf(text, faceOf(fonts, look), look.size));
    const width = widths.reduce((sum, one) => sum + one, 0);
    let x = box.x + left + (line.align === "ctr" ? (room - width) / 2 : line.align === "r" ? room - width : 0);
    line.runs.forEach(({ text, look }, at) => {
      const face = faceOf(fonts, look);
      const baseline = y + line.height * 0.8;
      items.push({ kind: "text", x, y: baseline, size: look.size, color: look.color, shaped: shapeWords(text, face) });
      x += widths[at];
    });
    y += line.height;
  }
  return items;
}

const faceOf = (fonts: Fonts, look: TextLook): ReturnType<Fonts["face"]> =>
  fonts.face(look.font, look.bold, look.italic);

function linesOf(paragraph: XmlElement, usual: TextLook, room: number, fonts: Fonts, theme: Theme): ShapeLine[] {
  const properties = paragraph.child("pPr");
  const align = properties?.attr("algn") ?? "l";
  const base = textLook(properties?.child("defRPr"), usual, theme);
  const runs = paragraph
    .elements()
    .filter((one) => one.local === "r" || one.local === "fld" || one.local === "br")
    .map((run) => ({
      text: run.local === "br" ? "\n" : (run.child("t")?.text ?? ""),
      look: textLook(run.child("rPr"), base, theme),
    }));
  if (runs.length === 0) return [{ runs: [], align, height: base.size * 1.2 }];
  // One look: wrapped as a whole. Several: word by word.
  const lines: { text: string; look: TextLook }[][] = [[]];
  let used = 0;
  for (const { text, look } of runs) {
    const face = faceOf(fonts, look);
    for (const word of text.match(/\n|[^\s]+\s*|\s+/g) ?? []) {
      const width = widthOf(word.trimEnd(), face, look.size);
      if (word === "\n" || (used + width > room && used > 0)) {
        lines.push([]);
        used = 0;
      }
      if (word === "\n") continue;
      const pieces = width > room ? wrapText(word, face, look.size, room) : [word];
      pieces.forEach((piece, at) => {
        if (at > 0) lines.push([]);
        lines[lines.length - 1].push({ text: piece, look });
        used = (at > 0 ? 0 : used) + widthOf(piece, face, look.size);
      });
    }
  }
  return lines.map((line) => ({
    runs: line,
    align,
    height: Math.max(...line.map(({ look }) => look.size), base.size * (line.length === 0 ? 1 : 0)) * 1.2,
  }));
}
