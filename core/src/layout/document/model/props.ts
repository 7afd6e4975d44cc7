/** Run and paragraph properties: ECMA-376 part 1, 17.3. Lengths in points. */
import { readMeasure } from "../../../common/index.js";
import type { XmlElement } from "../../../ooxml/index.js";
import type { Theme } from "../../../spreadsheet/index.js";
import type { ParagraphLine, ParagraphProps, RunProps, TabStop } from "../../text/props.js";

export const TWIPS_PER_PT = 20;
/** A line that spacing of the rule `auto` counts as one. */
const LINE_POINTS = 12;

export function twips(value: string | undefined): number | undefined {
  return readMeasure(value, TWIPS_PER_PT);
}

function val(element: XmlElement | undefined): string | undefined {
  return element?.attr("w:val");
}

/** An on/off property: present means on, unless its value says off (17.17.4). */
export function toggle(parent: XmlElement, name: string): boolean | undefined {
  const element = parent.child(name);
  if (!element) return undefined;
  const value = val(element);
  return value !== "0" && value !== "false" && value !== "off";
}

const HIGHLIGHTS: Readonly<Record<string, string>> = {
  black: "000000",
  blue: "0000FF",
  cyan: "00FFFF",
  green: "00FF00",
  magenta: "FF00FF",
  red: "FF0000",
  yellow: "FFFF00",
  white: "FFFFFF",
  darkBlue: "00008B",
  darkCyan: "008B8B",
  darkGreen: "006400",
  darkMagenta: "800080",
  darkRed: "8B0000",
  darkYellow: "808000",
  darkGray: "A9A9A9",
  lightGray: "D3D3D3",
};

const THEME_SLOTS: Readonly<Record<string, number>> = {
  background1: 0,
  light1: 0,
  text1: 1,
  dark1: 1,
  background2: 2,
  light2: 2,
  text2: 3,
  dark2: 3,
  accent1: 4,
  accent2: 5,
  accent3: 6,
  accent4: 7,
  accent5: 8,
  accent6: 9,
  hyperlink: 10,
  followedHyperlink: 11,
};

/** `RRGGBB` of an attribute, `undefined` for `auto`. */
function color(
  element: XmlElement | undefined,
  attribute: string,
  themeAttribute: string,
  theme: Theme,
): string | undefined {
  const value = element?.attr(attribute);
  if (value && value !== "auto") return value.toUpperCase();
  const slot = THEME_SLOTS[element?.attr(themeAttribute) ?? ""];
  return slot === undefined ? undefined : theme.colors[slot];
}

export function readRunProps(rPr: XmlElement | undefined, theme: Theme): RunProps {
  if (!rPr) return {};
  const fonts = rPr.child("rFonts");
  const themed = fonts?.attr("w:asciiTheme") ?? fonts?.attr("w:hAnsiTheme");
  const font = themed
    ? themed.startsWith("major")
      ? theme.majorFont
      : theme.minorFont
    : (fonts?.attr("w:ascii") ?? fonts?.attr("w:hAnsi"));
  const size = val(rPr.child("sz"));
  const underline = rPr.child("u");
  const raised = val(rPr.child("vertAlign"));
  const highlight = val(rPr.child("highlight"));
  const spacing = val(rPr.child("spacing"));
  const position = val(rPr.child("position"));
  const scale = val(rPr.child("w"));
  return fragment({
    font,
    size: readMeasure(size, 2),
    bold: toggle(rPr, "b"),
    italic: toggle(rPr, "i"),
    underline: underline
      ? val(underline) !== "none" && (val(underline) === "single" || (val(underline) ?? true))
      : undefined,
    underlineColor: underline ? color(underline, "w:color", "w:themeColor", theme) : undefined,
    strike: toggle(rPr, "strike"),
    doubleStrike: toggle(rPr, "dstrike"),
    color: rPr.child("color") ? (color(rPr.child("color"), "w:val", "w:themeColor", theme) ?? "000000") : undefined,
    highlight: highlight ? HIGHLIGHTS[highlight] : undefined,
    shading: color(rPr.child("shd"), "w:fill", "w:themeFill", theme),
    raised: raised === "superscript" || raised === "subscript" ? raised : undefined,
    caps: toggle(rPr, "caps"),
    smallCaps: toggle(rPr, "smallCaps"),
    hidden: toggle(rPr, "vanish"),
    spacing: twips(spacing),
    position: readMeasure(position, 2),
    scale: scale === undefined ? undefined : Number(scale.replace("%", "")) / 100,
    border: maybeChild(rPr, "bdr", (bdr) => readLine(bdr, theme)),
    rightToLeft: toggle(rPr, "rtl"),
    language: val(rPr.child("lang")),
    style: val(rPr.child("rStyle")),
  });
}

export function readParagraphProps(pPr: XmlElement | undefined, theme: Theme): ParagraphProps {
  if (!pPr) return {};
  const spacing = pPr.child("spacing");
  const indent = pPr.child("ind");
  const numbering = pPr.child("numPr");
  const hanging = twips(indent?.attr("w:hanging"));
  const outline = val(pPr.child("outlineLvl"));
  return fragment({
    style: val(pPr.child("pStyle")),
    align: val(pPr.child("jc")),
    before: twips(spacing?.attr("w:before")),
    after: twips(spacing?.attr("w:after")),
    line: readLineSpacing(spacing),
    contextual: toggle(pPr, "contextualSpacing"),
    left: twips(indent?.attr("w:left") ?? indent?.attr("w:start")),
    right: twips(indent?.attr("w:right") ?? indent?.attr("w:end")),
    first: hanging === undefined ? twips(indent?.attr("w:firstLine")) : -hanging,
    tabs: pPr
      .child("tabs")
      ?.elements("tab")
      .map(
        (tab): TabStop => ({
          at: twips(tab.attr("w:pos")) ?? 0,
          kind: tabKind(val(tab)),
          leader: tab.attr("w:leader") ?? "none",
        }),
      ),
    keepNext: toggle(pPr, "keepNext"),
    keepLines: toggle(pPr, "keepLines"),
    pageBreakBefore: toggle(pPr, "pageBreakBefore"),
    widowControl: toggle(pPr, "widowControl"),
    borders: maybeChild(pPr, "pBdr", (pBdr) => readBorders(pBdr, theme)),
    shading: color(pPr.child("shd"), "w:fill", "w:themeFill", theme),
    numbering: numbering
      ? { id: Number(val(numbering.child("numId")) ?? 0), level: Number(val(numbering.child("ilvl")) ?? 0) }
      : undefined,
    outlineLevel: outline === undefined ? undefined : Number(outline),
    rightToLeft: toggle(pPr, "bidi"),
    suppressHyphens: toggle(pPr, "suppressAutoHyphens"),
  });
}

/** A bare number of the rule `auto` counts 240ths of a line; one with a unit is a share of a line of 12 points. */
function readLineSpacing(spacing: XmlElement | undefined): ParagraphProps["line"] {
  const rule = spacing?.attr("w:lineRule") ?? "auto";
  const value = twips(spacing?.attr("w:line"));
  if (value === undefined) return undefined;
  if (rule === "exact" || rule === "atLeast") return { rule, value };
  return { rule: "auto", value: value / LINE_POINTS };
}

function tabKind(value: string | undefined): TabStop["kind"] {
  if (value === "right" || value === "end") return "right";
  if (value === "center" || value === "decimal" || value === "clear" || value === "bar") return value;
  return "left";
}

/** Border lines by side: `top`, `left`, `insideH`…; `none` and `nil` are kept, since they override. */
export function readBorders(element: XmlElement, theme: Theme): Record<string, ParagraphLine | undefined> {
  const borders: Record<string, ParagraphLine | undefined> = {};
  for (const side of element.elements()) {
    const name = side.local === "start" ? "left" : side.local === "end" ? "right" : side.local;
    borders[name] = readLine(side, theme);
  }
  return borders;
}

function readLine(side: XmlElement, theme: Theme): ParagraphLine {
  return {
    style: val(side) ?? "single",
    width: readMeasure(side.attr("w:sz"), 8) ?? 0.5,
    space: readMeasure(side.attr("w:space"), 1) ?? 0,
    color: color(side, "w:color", "w:themeColor", theme) ?? "000000",
  };
}

export function shadingOf(parent: XmlElement | undefined, theme: Theme): string | undefined {
  return color(parent?.child("shd"), "w:fill", "w:themeFill", theme);
}

/** The later properties over the earlier; tab stops add up, and `clear` takes one away. */
export function mergeParagraph(base: ParagraphProps, over: ParagraphProps): ParagraphProps {
  const tabs = over.tabs
    ? [
        ...(base.tabs ?? []).filter((tab) => !over.tabs?.some((own) => Math.abs(own.at - tab.at) < 0.5)),
        ...over.tabs.filter((tab) => tab.kind !== "clear"),
      ]
    : base.tabs;
  return { ...base, ...over, ...(tabs ? { tabs: [...tabs].sort((a, b) => a.at - b.at) } : {}) };
}

function maybeChild<T>(element: XmlElement, name: string, read: (child: XmlElement) => T): T | undefined {
  const child = element.child(name);
  return child && read(child);
}

type Defined<T> = { [K in keyof T]?: Exclude<T[K], undefined> };

function fragment<T extends object>(props: T): Defined<T> {
  const kept: Record<string, unknown> = {};
  for (const name in props) if (props[name] !== undefined) kept[name] = props[name];
  return kept as Defined<T>;
}
