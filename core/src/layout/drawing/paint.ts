/** Colours, fills and lines of drawings and charts: ECMA-376 part 1, 20.1.2.3 and 20.1.8. */
import type { XmlElement } from "../../ooxml/index.js";
import { fromHsl, type Theme, toHsl } from "../../spreadsheet/index.js";

export interface Paint {
  /** `RRGGBB` */
  readonly color: string;
  /** From 0 to 1. */
  readonly opacity: number;
}

export interface Fill extends Paint {
  /** Where the colour changes along a line: its direction in degrees and its stops. */
  readonly gradient?: { readonly angle: number; readonly stops: readonly { at: number; color: string }[] } | undefined;
}

export interface Outline extends Paint {
  /** In points. */
  readonly width: number;
  readonly dash: readonly number[] | undefined;
}

/** Indexes of a workbook's theme colours by their names in drawings. */
const SCHEME: Readonly<Record<string, number>> = {
  bg1: 0,
  lt1: 0,
  tx1: 1,
  dk1: 1,
  bg2: 2,
  lt2: 2,
  tx2: 3,
  dk2: 3,
  accent1: 4,
  accent2: 5,
  accent3: 6,
  accent4: 7,
  accent5: 8,
  accent6: 9,
  hlink: 10,
  folHlink: 11,
};

const PRESETS: Readonly<Record<string, string>> = {
  black: "000000",
  white: "FFFFFF",
  red: "FF0000",
  green: "008000",
  blue: "0000FF",
  yellow: "FFFF00",
  gray: "808080",
  grey: "808080",
  orange: "FFA500",
  purple: "800080",
};

/** The colour inside an element such as `solidFill`; `undefined` where there is none. */
export function paintIn(parent: XmlElement | undefined, theme: Theme): Paint | undefined {
  for (const element of parent?.elements() ?? []) {
    const color = baseColor(element, theme);
    if (color) return changed(element, color);
  }
  return undefined;
}

function baseColor(element: XmlElement, theme: Theme): string | undefined {
  const value = element.attr("val") ?? "";
  switch (element.local) {
    case "srgbClr":
      return value.toUpperCase();
    case "sysClr":
      return (element.attr("lastClr") ?? "000000").toUpperCase();
    case "schemeClr":
      return theme.colors[SCHEME[value] ?? 1] ?? "000000";
    case "prstClr":
      return PRESETS[value] ?? "000000";
    default:
      return undefined;
  }
}

function changed(element: XmlElement, base: string): Paint {
  let [hue, saturation, lightness] = toHsl(base);
  let opacity = 1;
  let mixed: { to: number; share: number } | undefined;
  for (const change of element.elements()) {
    const value = Number(change.attr("val") ?? 0) / 100_000;
    if (change.local === "lumMod") lightness *= value;
    else if (change.local === "lumOff") lightness += value;
    else if (change.local === "satMod") saturation *= value;
    else if (change.local === "satOff") saturation += value;
    else if (change.local === "hueOff") hue = turned(hue, Number(change.attr("val") ?? 0));
    else if (change.local === "alpha") opacity = value;
    else if (change.local === "tint") mixed = { to: 255, share: value };
    else if (change.local === "shade") mixed = { to: 0, share: value };
  }
  const color = fromHsl(hue, Math.min(1, saturation), Math.min(1, Math.max(0, lightness)));
  return { color: mixed ? towards(color, mixed.to, mixed.share) : color, opacity };
}

/** A hue in sixths of the circle, turned on by an angle in 60,000ths of a degree (20.1.2.3.15). */
function turned(hue: number, by: number): number {
  return (((hue + by / 60_000 / 60) % 6) + 6) % 6;
}

function towards(color: string, to: number, share: number): string {
  return [0, 2, 4]
    .map((at) => Math.round(Number.parseInt(color.slice(at, at + 2), 16) * share + to * (1 - share)))
    .map((part) => part.toString(16).padStart(2, "0"))
    .join("")
    .toUpperCase();
}

/** The fill that shape properties ask for: `none` for none, `undefined` where they leave it open. */
export function fillOf(properties: XmlElement | undefined, theme: Theme): Fill | "none" | undefined {
  if (properties?.child("noFill")) return "none";
  const solid = paintIn(properties?.child("solidFill"), theme);
  if (solid) return solid;
  const pattern = properties?.child("pattFill");
  if (pattern) return paintIn(pattern.child("fgClr"), theme);
  const gradient = properties?.child("gradFill");
  const stops = (gradient?.child("gsLst")?.elements("gs") ?? [])
    .map((stop) => ({
      at: Number(stop.attr("pos") ?? 0) / 100_000,
      paint: paintIn(stop, theme) ?? { color: "FFFFFF", opacity: 1 },
    }))
    .sort((a, b) => a.at - b.at);
  if (stops.length === 0) return undefined;
  const [first] = stops;
  return {
    ...first.paint,
    gradient: {
      angle: Number(gradient?.child("lin")?.attr("ang") ?? 0) / 60_000,
      stops: stops.map(({ at, paint }) => ({ at, color: paint.color })),
    },
  };
}

/** Strokes and gaps in widths of the line (20.1.10.48). */
const DASHES: Readonly<Record<string, readonly number[]>> = {
  dash: [4, 3],
  dashDot: [4, 3, 1, 3],
  dot: [1, 3],
  lgDash: [8, 3],
  lgDashDot: [8, 3, 1, 3],
  lgDashDotDot: [8, 3, 1, 3, 1, 3],
  sysDash: [3, 1],
  sysDashDot: [3, 1, 1, 1],
  sysDot: [1, 1],
};

export function outlineOf(properties: XmlElement | undefined, theme: Theme): Outline | "none" | undefined {
  const line = properties?.child("ln");
  if (!line) return undefined;
  if (line.child("noFill")) return "none";
  const width = Number(line.attr("w") ?? 9525) / 12_700;
  const paint = paintIn(line.child("solidFill"), theme);
  if (!paint) return undefined;
  const dash = DASHES[line.child("prstDash")?.attr("val") ?? ""];
  return { ...paint, width, dash: dash?.map((length) => length * Math.max(width, 0.75)) };
}

export interface TextLook {
  readonly size: number;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly color: string;
  readonly font: string;
}

/** Looks of text by its run properties, over those that count where nothing is said (21.1.2.3.9). */
export function textLook(properties: XmlElement | undefined, usual: TextLook, theme: Theme): TextLook {
  if (!properties) return usual;
  const flag = (name: string, otherwise: boolean): boolean => {
    const value = properties.attr(name);
    return value === undefined ? otherwise : value === "1" || value === "true";
  };
  const face = properties.child("latin")?.attr("typeface");
  const font = face === "+mj-lt" ? theme.majorFont : face === undefined || face === "+mn-lt" ? usual.font : face;
  return {
    size: properties.attr("sz") === undefined ? usual.size : Number(properties.attr("sz")) / 100,
    bold: flag("b", usual.bold),
    italic: flag("i", usual.italic),
    color: paintIn(properties.child("solidFill"), theme)?.color ?? usual.color,
    font,
  };
}
