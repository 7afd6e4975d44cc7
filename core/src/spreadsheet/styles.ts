/** Cell formats of a workbook: ECMA-376 part 1, 18.8. */
import { getFormatFromId } from "numfmt";
import type { XmlElement } from "../ooxml/index.js";
import { resolveColor, type Theme } from "./theme.js";

export interface CellFont {
  readonly name: string;
  /** In points. */
  readonly size: number;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly underline: boolean;
  readonly strike: boolean;
  /** `RRGGBB` */
  readonly color: string;
  readonly raised?: "superscript" | "subscript";
}

export interface BorderLine {
  /** A word of ST_BorderStyle: `thin`, `medium`, `double`… */
  readonly style: string;
  readonly color: string;
}

export interface CellBorder {
  readonly left?: BorderLine | undefined;
  readonly right?: BorderLine | undefined;
  readonly top?: BorderLine | undefined;
  readonly bottom?: BorderLine | undefined;
  /** From the lower left corner to the upper right, and from the upper left to the lower right. */
  readonly up?: BorderLine | undefined;
  readonly down?: BorderLine | undefined;
  /** Of a table or a rule's range: between its cells. */
  readonly horizontal?: BorderLine | undefined;
  readonly vertical?: BorderLine | undefined;
}

export interface CellAlignment {
  readonly horizontal: string;
  readonly vertical: string;
  readonly wrap: boolean;
  readonly indent: number;
  /** In degrees as stored: 0 to 90 up, 91 to 180 down, 255 stacked. */
  readonly rotation: number;
  readonly shrink: boolean;
}

/** What a cell's ground shows beside one colour (18.8.32, 18.8.24). */
export type Ground =
  | { readonly kind: "lines"; readonly pattern: string; readonly color: string }
  | {
      readonly kind: "gradient";
      /** Degrees of a gradient along a line; `undefined` for one from an inner rectangle outwards. */
      readonly degree: number | undefined;
      /** Of one from inside: where the inner rectangle lies, as shares of the cell. */
      readonly inner: { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number };
      readonly stops: readonly { readonly at: number; readonly color: string }[];
    };

/** What a rule changes of a cell's format: an entry of `dxfs` (18.8.14). */
export interface FormatChange {
  readonly font: Partial<Pick<CellFont, "bold" | "italic" | "underline" | "strike" | "color">>;
  readonly fill: string | undefined;
  readonly border: CellBorder;
  readonly code: string | undefined;
}

/** One entry of `cellXfs`, with everything it refers to. */
export interface CellFormat {
  readonly font: CellFont;
  /** Fill colour, `undefined` for none. */
  readonly fill: string | undefined;
  /** Lines over the fill, or colours that change. */
  readonly ground: Ground | undefined;
  readonly border: CellBorder;
  readonly alignment: CellAlignment;
  /** Number-format code. */
  readonly code: string;
  readonly isDate: boolean;
}

export interface Styles {
  readonly formats: readonly CellFormat[];
  /** Font of the first cell style: its digit is the unit of column widths. */
  readonly defaultFont: CellFont;
  /** Changes that rules and table styles make. */
  readonly changes: readonly FormatChange[];
  /** Table styles of the workbook's own: for each part of a table its entry among the changes. */
  readonly tableStyles: ReadonlyMap<string, ReadonlyMap<string, number>>;
}

export function readStyles(xml: XmlElement | undefined, theme: Theme): Styles {
  const codes = new Map<number, string>();
  for (const format of xml?.child("numFmts")?.elements("numFmt") ?? []) {
    codes.set(Number(format.attr("numFmtId")), format.attr("formatCode") ?? "General");
  }
  const fonts = (xml?.child("fonts")?.elements("font") ?? []).map((font) => readCellFont(font, theme));
  const fills = (xml?.child("fills")?.elements("fill") ?? []).map((fill) => readFill(fill, theme));
  const borders = (xml?.child("borders")?.elements("border") ?? []).map((border) => readBorder(border, theme));
  const defaultFont = fonts[0] ?? FALLBACK_FONT;
  const formats = (xml?.child("cellXfs")?.elements("xf") ?? []).map((xf): CellFormat => {
    const code = formatCode(Number(xf.attr("numFmtId") ?? 0), codes);
    const fill = fills[Number(xf.attr("fillId") ?? 0)] ?? {};
    return {
      font: fonts[Number(xf.attr("fontId") ?? 0)] ?? defaultFont,
      fill: fill.color,
      ground: fill.ground,
      border: borders[Number(xf.attr("borderId") ?? 0)] ?? {},
      alignment: readAlignment(xf.child("alignment")),
      code,
      isDate: isDateCode(code),
    };
  });
  if (formats.length === 0) formats.push(plainFormat(defaultFont));
  const changes = (xml?.child("dxfs")?.elements("dxf") ?? []).map((change) => readChange(change, theme));
  return { formats, defaultFont, changes, tableStyles: readTableStyles(xml) };
}

const FALLBACK_FONT: CellFont = {
  name: "Calibri",
  size: 11,
  bold: false,
  italic: false,
  underline: false,
  strike: false,
  color: "000000",
};

function plainFormat(font: CellFont): CellFormat {
  return {
    font,
    fill: undefined,
    ground: undefined,
    border: {},
    alignment: readAlignment(undefined),
    code: "General",
    isDate: false,
  };
}

const LAST_BUILT_IN = 58;

function formatCode(id: number, codes: ReadonlyMap<number, string>): string {
  const own = codes.get(id);
  if (own !== undefined) return own;
  // The package counts on from the start again beyond those that the standard numbers (18.8.30).
  return (id <= LAST_BUILT_IN ? getFormatFromId(id) : undefined) ?? "General";
}

/** A code whose bare letters are those of dates; text in quotes, escapes and brackets does not count. */
export function isDateCode(code: string): boolean {
  const bare = code.replace(/"[^"]*"|\\.|_.|\*./g, "").replace(/\[(?!h+\]|m+\]|s+\])[^\]]*\]/gi, "");
  return /[ymdhs]/i.test(bare) && !/^general$/i.test(bare.trim());
}

export function readCellFont(font: XmlElement, theme: Theme): CellFont {
  const raised = font.child("vertAlign")?.attr("val");
  return {
    name: font.child("name")?.attr("val") ?? font.child("rFont")?.attr("val") ?? "Calibri",
    size: Number(font.child("sz")?.attr("val") ?? 11),
    bold: isOn(font.child("b")),
    italic: isOn(font.child("i")),
    underline: font.child("u") !== undefined && font.child("u")?.attr("val") !== "none",
    strike: isOn(font.child("strike")),
    color: resolveColor(font.child("color"), theme) ?? "000000",
    ...(raised === "superscript" || raised === "subscript" ? { raised } : {}),
  };
}

function isOn(element: XmlElement | undefined): boolean {
  const value = element?.attr("val");
  return element !== undefined && value !== "0" && value !== "false";
}

/** How much of its first colour a dotted pattern shows. */
const SHARES: Readonly<Record<string, number>> = {
  gray0625: 0.0625,
  gray125: 0.125,
  lightGray: 0.25,
  mediumGray: 0.5,
  darkGray: 0.75,
};

function readFill(fill: XmlElement, theme: Theme): { color?: string; ground?: Ground } {
  const pattern = fill.child("patternFill");
  const kind = pattern?.attr("patternType");
  const gradient = fill.child("gradientFill");
  if (gradient) return { ground: readGradient(gradient, theme) };
  if (!pattern || !kind || kind === "none") return {};
  if (kind === "solid") return { color: resolveColor(pattern.child("fgColor"), theme) ?? "FFFFFF" };
  const color = resolveColor(pattern.child("fgColor"), theme) ?? "000000";
  const behind = resolveColor(pattern.child("bgColor"), theme);
  const share = SHARES[kind];
  // Dots as fine as these look like one colour on paper.
  if (share !== undefined) return { color: mixColors(color, behind ?? "FFFFFF", share) };
  return { ...(behind === undefined ? {} : { color: behind }), ground: { kind: "lines", pattern: kind, color } };
}

function readGradient(gradient: XmlElement, theme: Theme): Ground {
  const number = (name: string): number => Number(gradient.attr(name) ?? 0);
  return {
    kind: "gradient",
    degree: gradient.attr("type") === "path" ? undefined : number("degree"),
    inner: { left: number("left"), right: number("right"), top: number("top"), bottom: number("bottom") },
    stops: gradient.elements("stop").map((stop) => ({
      at: Number(stop.attr("position") ?? 0),
      color: resolveColor(stop.child("color"), theme) ?? "FFFFFF",
    })),
  };
}

/** A colour with another behind it: `share` of the first. */
export function mixColors(color: string, behind: string, share: number): string {
  return [0, 2, 4]
    .map((at) => {
      const [one, other] = [color, behind].map((text) => Number.parseInt(text.slice(at, at + 2), 16));
      return Math.round(one * share + other * (1 - share))
        .toString(16)
        .padStart(2, "0");
    })
    .join("")
    .toUpperCase();
}

function readChange(change: XmlElement, theme: Theme): FormatChange {
  const font = change.child("font");
  const border = change.child("border");
  const pattern = change.path("fill", "patternFill");
  const full = font && readCellFont(font, theme);
  // A change's solid ground is written as what lies behind the pattern (18.8.14).
  const fill =
    pattern &&
    pattern.attr("patternType") !== "none" &&
    (resolveColor(pattern.child("bgColor"), theme) ?? resolveColor(pattern.child("fgColor"), theme));
  return {
    font: {
      ...(font?.child("b") && { bold: full?.bold ?? false }),
      ...(font?.child("i") && { italic: full?.italic ?? false }),
      ...(font?.child("u") && { underline: full?.underline ?? false }),
      ...(font?.child("strike") && { strike: full?.strike ?? false }),
      ...(font?.child("color") && full && { color: full.color }),
    },
    fill: fill || undefined,
    border: border ? readBorder(border, theme) : {},
    code: change.child("numFmt")?.attr("formatCode"),
  };
}

function readTableStyles(xml: XmlElement | undefined): Map<string, Map<string, number>> {
  const styles = new Map<string, Map<string, number>>();
  for (const style of xml?.child("tableStyles")?.elements("tableStyle") ?? []) {
    const parts = new Map<string, number>();
    for (const part of style.elements("tableStyleElement"))
      if (part.attr("dxfId") !== undefined) parts.set(part.attr("type") ?? "", Number(part.attr("dxfId")));
    styles.set(style.attr("name") ?? "", parts);
  }
  return styles;
}

function readBorder(border: XmlElement, theme: Theme): CellBorder {
  const side = (name: string, other: string): BorderLine | undefined => {
    const line = border.child(name) ?? border.child(other);
    const style = line?.attr("style");
    return line && style && style !== "none"
      ? { style, color: resolveColor(line.child("color"), theme) ?? "000000" }
      : undefined;
  };
  return {
    left: side("left", "start"),
    right: side("right", "end"),
    top: side("top", "top"),
    bottom: side("bottom", "bottom"),
    ...(isTrue(border.attr("diagonalUp")) && { up: side("diagonal", "diagonal") }),
    ...(isTrue(border.attr("diagonalDown")) && { down: side("diagonal", "diagonal") }),
    ...(border.child("horizontal") && { horizontal: side("horizontal", "horizontal") }),
    ...(border.child("vertical") && { vertical: side("vertical", "vertical") }),
  };
}

function readAlignment(alignment: XmlElement | undefined): CellAlignment {
  return {
    horizontal: alignment?.attr("horizontal") ?? "general",
    vertical: alignment?.attr("vertical") ?? "bottom",
    wrap: isTrue(alignment?.attr("wrapText")),
    indent: Number(alignment?.attr("indent") ?? 0),
    rotation: Number(alignment?.attr("textRotation") ?? 0),
    shrink: isTrue(alignment?.attr("shrinkToFit")),
  };
}

export function isTrue(value: string | undefined): boolean {
  return value === "1" || value === "true" || value === "on";
}
