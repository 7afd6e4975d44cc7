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
  readonly left?: BorderLine;
  readonly right?: BorderLine;
  readonly top?: BorderLine;
  readonly bottom?: BorderLine;
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

/** One entry of `cellXfs`, with everything it refers to. */
export interface CellFormat {
  readonly font: CellFont;
  /** Fill colour, `undefined` for none. */
  readonly fill: string | undefined;
  /** A pattern other than none and solid. */
  readonly pattern: string | undefined;
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
}

export function readStyles(xml: XmlElement | undefined, theme: Theme): Styles {
  const codes = new Map<number, string>();
  for (const format of xml?.child("numFmts")?.elements("numFmt") ?? []) {
    codes.set(Number(format.attr("numFmtId")), format.attr("formatCode") ?? "General");
  }
  const fonts = (xml?.child("fonts")?.elements("font") ?? []).map((font) => readFont(font, theme));
  const fills = (xml?.child("fills")?.elements("fill") ?? []).map((fill) => readFill(fill, theme));
  const borders = (xml?.child("borders")?.elements("border") ?? []).map((border) => readBorder(border, theme));
  const defaultFont = fonts[0] ?? FALLBACK_FONT;
  const formats = (xml?.child("cellXfs")?.elements("xf") ?? []).map((xf): CellFormat => {
    const code = formatCode(Number(xf.attr("numFmtId") ?? 0), codes);
    const fill = fills[Number(xf.attr("fillId") ?? 0)] ?? {};
    return {
      font: fonts[Number(xf.attr("fontId") ?? 0)] ?? defaultFont,
      fill: fill.color,
      pattern: fill.pattern,
      border: borders[Number(xf.attr("borderId") ?? 0)] ?? {},
      alignment: readAlignment(xf.child("alignment")),
      code,
      isDate: isDateCode(code),
    };
  });
  if (formats.length === 0) formats.push(plainFormat(defaultFont));
  return { formats, defaultFont };
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
    pattern: undefined,
    border: {},
    alignment: readAlignment(undefined),
    code: "General",
    isDate: false,
  };
}

function formatCode(id: number, codes: ReadonlyMap<number, string>): string {
  const own = codes.get(id);
  if (own !== undefined) return own;
  const builtIn = getFormatFromId(id);
  return builtIn ?? "General";
}

/** A code whose bare letters are those of dates; text in quotes, escapes and brackets does not count. */
export function isDateCode(code: string): boolean {
  const bare = code.replace(/"[^"]*"|\\.|_.|\*./g, "").replace(/\[(?!h+\]|m+\]|s+\])[^\]]*\]/gi, "");
  return /[ymdhs]/i.test(bare) && !/^general$/i.test(bare.trim());
}

export function readFont(font: XmlElement, theme: Theme): CellFont {
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

function readFill(fill: XmlElement, theme: Theme): { color?: string; pattern?: string } {
  const pattern = fill.child("patternFill");
  const kind = pattern?.attr("patternType");
  if (pattern && kind === "solid") {
    const color = resolveColor(pattern.child("fgColor"), theme) ?? "FFFFFF";
    return { color };
  }
  if (pattern && kind && kind !== "none") {
    const color = resolveColor(pattern.child("fgColor"), theme) ?? "808080";
    return { color, pattern: kind };
  }
  if (fill.child("gradientFill")) return { pattern: "gradient" };
  return {};
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
