/** Fills and lines of drawings and charts: ECMA-376 part 1, 20.1.8. */
import type { XmlElement } from "../../ooxml/index.js";
import type { ShadeStop } from "../../page/index.js";
import type { Theme } from "../../spreadsheet/index.js";
import { type Paint, paintIn, percentage, schemeColor } from "./colors.js";
import { EMU_PER_PT } from "./geometry.js";

export interface Fill extends Paint {
  /** Where the colour changes: along a line or outwards. */
  readonly gradient?: Gradient | undefined;
  /** The name of a pattern in its colour, over a ground. */
  readonly pattern?: { readonly name: string; readonly ground: Paint } | undefined;
  /** The element that names the picture it is filled with. */
  readonly picture?: XmlElement | undefined;
}

export interface Gradient {
  /** The line's direction in degrees, 0 to the right, 90 downwards. */
  readonly angle: number;
  readonly stops: readonly ShadeStop[];
  /** Outwards from a rectangle, in circles or rectangles; its sides as shares of the shape's, measured inwards. */
  readonly outwards?:
    | {
        readonly shape: "circle" | "rect";
        readonly left: number;
        readonly top: number;
        readonly right: number;
        readonly bottom: number;
      }
    | undefined;
}

export interface Outline extends Paint {
  /** In points. */
  readonly width: number;
  readonly dash: readonly number[] | undefined;
  readonly cap?: "round" | "square" | undefined;
  readonly start?: LineEnd | undefined;
  readonly end?: LineEnd | undefined;
}

/** The head of a line (20.1.8.38): its width and length in widths of the line. */
export interface LineEnd {
  readonly kind: string;
  readonly width: number;
  readonly length: number;
}

/** The fill that shape properties ask for: `none` for none, `undefined` where they leave it open. */
export function fillOf(properties: XmlElement | undefined, theme: Theme): Fill | "none" | undefined {
  for (const element of properties?.elements() ?? []) {
    const fill = fillFrom(element, theme);
    if (fill) return fill;
  }
  return undefined;
}

/** What an element such as `solidFill` asks for; `undefined` where it is none of those. */
export function fillFrom(element: XmlElement, theme: Theme): Fill | "none" | undefined {
  switch (element.local) {
    case "noFill":
      return "none";
    case "solidFill":
      return paintIn(element, theme);
    case "pattFill": {
      const front = paintIn(element.child("fgClr"), theme) ?? { color: "000000", opacity: 1 };
      const ground = paintIn(element.child("bgClr"), theme) ?? { color: "FFFFFF", opacity: 1 };
      return { ...front, pattern: { name: element.attr("prst") ?? "", ground } };
    }
    case "gradFill":
      return gradientFill(element, theme);
    case "blipFill":
      return { color: "D0D0D0", opacity: 1, picture: element };
    default:
      return undefined;
  }
}

function gradientFill(element: XmlElement, theme: Theme): Fill | undefined {
  const stops = (element.child("gsLst")?.elements("gs") ?? [])
    .map((stop) => ({
      at: percentage(stop.attr("pos")) ?? 0,
      paint: paintIn(stop, theme) ?? { color: "FFFFFF", opacity: 1 },
    }))
    .sort((a, b) => a.at - b.at);
  if (stops.length === 0) return undefined;
  const [{ paint: first }] = stops;
  const isEven = stops.every(({ paint }) => paint.opacity === first.opacity);
  const path = element.child("path");
  const focus = path?.child("fillToRect");
  const share = (side: string): number => percentage(focus?.attr(side)) ?? 0;
  return {
    color: first.color,
    opacity: isEven ? first.opacity : 1,
    gradient: {
      angle: Number(element.child("lin")?.attr("ang") ?? 0) / 60_000,
      stops: stops.map(({ at, paint: { color, opacity } }) => ({ at, color, ...(isEven ? {} : { opacity }) })),
      outwards: path && {
        shape: path.attr("path") === "circle" ? "circle" : "rect",
        left: share("l"),
        top: share("t"),
        right: share("r"),
        bottom: share("b"),
      },
    },
  };
}

/** The fill of the theme that a shape's style refers to (20.1.4.2.10), in the colour it names. */
export function styleFill(reference: XmlElement | undefined, theme: Theme): Fill | "none" | undefined {
  const index = Number(reference?.attr("idx") ?? 0);
  if (!reference || index === 0 || index === 1000) return undefined;
  const paint = paintIn(reference, theme);
  const list = index > 1000 ? "bgFillStyleLst" : "fillStyleLst";
  const format = theme.formats?.child(list)?.elements()[(index > 1000 ? index - 1000 : index) - 1];
  const fill = format && fillFrom(format, { ...theme, placeholder: paint?.color ?? schemeColor("accent1", theme) });
  return fill ?? paint;
}

/** Strokes and gaps in widths of the line (20.1.10.49). */
const DASHES: Readonly<Record<string, readonly number[]>> = {
  dash: [4, 3],
  dashDot: [4, 3, 1, 3],
  dot: [1, 3],
  lgDash: [8, 3],
  lgDashDot: [8, 3, 1, 3],
  lgDashDotDot: [8, 3, 1, 3, 1, 3],
  sysDash: [3, 1],
  sysDashDot: [3, 1, 1, 1],
  sysDashDotDot: [3, 1, 1, 1, 1, 1],
  sysDot: [1, 1],
};

export function outlineOf(properties: XmlElement | undefined, theme: Theme): Outline | "none" | undefined {
  return lineOf(properties?.child("ln"), undefined, theme);
}

/** A line as its own properties say, and where they say nothing as the theme's line does that a style refers to. */
export function lineOf(
  own: XmlElement | undefined,
  reference: XmlElement | undefined,
  theme: Theme,
): Outline | "none" | undefined {
  if (own?.child("noFill")) return "none";
  const index = Number(reference?.attr("idx") ?? 0);
  const styled = reference && index > 0 ? theme.formats?.child("lnStyleLst")?.elements("ln")[index - 1] : undefined;
  const asked = index > 0 ? paintIn(reference, theme) : undefined;
  const placeholder = { ...theme, placeholder: asked?.color };
  const fill = fillOf(own, theme) ?? (styled && fillOf(styled, placeholder)) ?? asked;
  if (fill === "none") return "none";
  if (!fill) return undefined;
  const value = (name: string): string | undefined => own?.attr(name) ?? styled?.attr(name);
  const part = (name: string): XmlElement | undefined => own?.child(name) ?? styled?.child(name);
  const width = Number(value("w") ?? 9525) / EMU_PER_PT;
  const { color, opacity } = fill;
  return {
    color,
    opacity,
    width,
    dash: dashOf(part("prstDash"), part("custDash"))?.map((length) => length * Math.max(width, 0.75)),
    cap: value("cap") === "rnd" ? "round" : value("cap") === "sq" ? "square" : undefined,
    start: lineEnd(part("headEnd")),
    end: lineEnd(part("tailEnd")),
  };
}

function dashOf(preset: XmlElement | undefined, custom: XmlElement | undefined): readonly number[] | undefined {
  if (!custom) return DASHES[preset?.attr("val") ?? ""];
  const lengths = custom
    .elements("ds")
    .flatMap((one) => [percentage(one.attr("d")) ?? 1, percentage(one.attr("sp")) ?? 1]);
  return lengths.length > 0 ? lengths : undefined;
}

const END_SIZES: Readonly<Record<string, number>> = { sm: 2, med: 3, lg: 5 };

function lineEnd(element: XmlElement | undefined): LineEnd | undefined {
  const kind = element?.attr("type") ?? "none";
  if (!element || kind === "none") return undefined;
  return {
    kind,
    width: END_SIZES[element.attr("w") ?? "med"] ?? 3,
    length: END_SIZES[element.attr("len") ?? "med"] ?? 3,
  };
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
