/** Looks of text in drawings: what list styles, paragraphs and runs say, one over the other (ECMA-376 part 1, 21.1.2). */
import type { XmlElement } from "../../ooxml/index.js";
import type { Theme } from "../../spreadsheet/index.js";
import type { ParagraphProps, RunProps, TabStop } from "../text/props.js";
import { paintIn, percentage } from "./colors.js";
import { EMU_PER_PT } from "./geometry.js";

/** What bullets and numbers of a paragraph look like. */
export interface Bullet {
  /** A sign, a way of numbering, or a picture; none where it says so. */
  readonly kind: "none" | "sign" | "number" | "picture";
  /** A picture that cannot be drawn is a sign. */
  readonly text: string;
  /** The element that names the picture. */
  readonly picture?: XmlElement | undefined;
  readonly start: number;
  readonly font: string | undefined;
  readonly color: string | undefined;
  /** A share of the text's size, or points. */
  readonly size: { readonly unit: "share" | "pt"; readonly value: number };
}

/** A level of a list as it counts where a paragraph says nothing. */
export interface LevelLook {
  readonly paragraph: ParagraphProps;
  readonly bullet: Bullet;
  readonly run: RunProps;
  /** Blank above and below: points, or a share of the line. */
  readonly before: Blank;
  readonly after: Blank;
  readonly defaultTab: number;
}

interface Blank {
  readonly unit: "pt" | "share";
  readonly value: number;
}

/** What looks are read with. */
export interface LookSite {
  readonly theme: Theme;
  /** What sizes are multiplied by, and how much of the lines' distance is taken away: text made to fit. */
  readonly scale: number;
  readonly lineCut: number;
}

const NO_BLANK: Blank = { unit: "pt", value: 0 };
const NO_BULLET: Bullet = {
  kind: "none",
  text: "",
  start: 1,
  font: undefined,
  color: undefined,
  size: { unit: "share", value: 1 },
};

export function plainLook(run: RunProps): LevelLook {
  return { paragraph: {}, bullet: NO_BULLET, run, before: NO_BLANK, after: NO_BLANK, defaultTab: 72 };
}

/** A level over list styles, the one that counts least first. */
export function levelLook(lists: readonly XmlElement[], level: number, usual: LevelLook, site: LookSite): LevelLook {
  let look = usual;
  for (const list of lists)
    for (const properties of [list.child("defPPr"), list.child(`lvl${level + 1}pPr`)])
      if (properties) look = withParagraph(look, properties, site);
  return look;
}

/** Looks that were read already, of one theme: cells and paragraphs mostly say the same again and again. */
class LookCache {
  private readonly runs = new WeakMap<RunProps, Map<string, RunProps>>();
  private readonly paragraphs = new WeakMap<LevelLook, Map<string, LevelLook>>();

  run(base: RunProps, properties: XmlElement, site: LookSite): RunProps {
    return kept(this.runs, base, `${site.scale} ${properties.toString()}`, () => withRun(base, properties, site));
  }

  paragraph(look: LevelLook, properties: XmlElement, site: LookSite): LevelLook {
    const key = `${site.scale} ${site.lineCut} ${properties.toString()}`;
    return kept(this.paragraphs, look, key, () => withParagraph(look, properties, site));
  }
}

/** What was made of something before, or is made now. */
export function kept<K extends object, V>(all: WeakMap<K, Map<string, V>>, base: K, key: string, make: () => V): V {
  let own = all.get(base);
  if (!own) {
    own = new Map();
    all.set(base, own);
  }
  let value = own.get(key);
  if (value === undefined) {
    value = make();
    own.set(key, value);
  }
  return value;
}

const caches = new WeakMap<Theme, LookCache>();

/** The looks read with a theme so far. */
export function lookCache(theme: Theme): LookCache {
  let cache = caches.get(theme);
  if (!cache) {
    cache = new LookCache();
    caches.set(theme, cache);
  }
  return cache;
}

const emu = (value: string | undefined): number | undefined =>
  value === undefined ? undefined : Number(value) / EMU_PER_PT;

/** A look with what a paragraph's properties say over it. */
export function withParagraph(look: LevelLook, properties: XmlElement, site: LookSite): LevelLook {
  const { paragraph } = look;
  const flag = properties.attr("rtl");
  const defaults = properties.child("defRPr");
  return {
    run: defaults ? withRun(look.run, defaults, site) : look.run,
    bullet: withBullet(look.bullet, properties, site.theme),
    before: blankOf(properties.child("spcBef")) ?? look.before,
    after: blankOf(properties.child("spcAft")) ?? look.after,
    defaultTab: emu(properties.attr("defTabSz")) ?? look.defaultTab,
    paragraph: {
      ...paragraph,
      ...alignOf(properties.attr("algn")),
      left: emu(properties.attr("marL")) ?? paragraph.left ?? 0,
      right: emu(properties.attr("marR")) ?? paragraph.right ?? 0,
      first: emu(properties.attr("indent")) ?? paragraph.first ?? 0,
      line: lineOf(properties.child("lnSpc"), site) ?? paragraph.line ?? { rule: "share", value: 1 - site.lineCut },
      rightToLeft: flag === undefined ? (paragraph.rightToLeft ?? false) : flag === "1" || flag === "true",
      tabs: tabsOf(properties.child("tabLst")) ?? paragraph.tabs ?? [],
    },
  };
}

const ALIGN: Readonly<Record<string, string>> = {
  l: "left",
  ctr: "center",
  r: "right",
  just: "both",
  justLow: "both",
  dist: "distribute",
  thaiDist: "distribute",
};

function alignOf(value: string | undefined): { align?: string } {
  const align = ALIGN[value ?? ""];
  return align === undefined ? {} : { align };
}

function lineOf(spacing: XmlElement | undefined, site: LookSite): ParagraphProps["line"] {
  const share = percentage(spacing?.child("spcPct")?.attr("val"));
  if (share !== undefined) return { rule: "share", value: Math.max(0.1, share - site.lineCut) };
  const points = spacing?.child("spcPts")?.attr("val");
  return points === undefined ? undefined : { rule: "exact", value: (Number(points) / 100) * site.scale };
}

function blankOf(spacing: XmlElement | undefined): Blank | undefined {
  const share = percentage(spacing?.child("spcPct")?.attr("val"));
  if (share !== undefined) return { unit: "share", value: share };
  const points = spacing?.child("spcPts")?.attr("val");
  return points === undefined ? undefined : { unit: "pt", value: Number(points) / 100 };
}

/** A blank in points, beside text of a size. */
export function blankIn({ unit, value }: Blank, size: number, site: LookSite): number {
  return unit === "pt" ? value * site.scale : value * size * 1.2;
}

const TAB_KINDS: Readonly<Record<string, TabStop["kind"]>> = { l: "left", ctr: "center", r: "right", dec: "decimal" };

function tabsOf(list: XmlElement | undefined): TabStop[] | undefined {
  return list?.elements("tab").map((tab) => ({
    at: emu(tab.attr("pos")) ?? 0,
    kind: TAB_KINDS[tab.attr("algn") ?? "l"] ?? "left",
    leader: "none",
  }));
}

function withBullet(before: Bullet, properties: XmlElement, theme: Theme): Bullet {
  let bullet = before;
  for (const element of properties.elements())
    switch (element.local) {
      case "buNone":
        bullet = { ...bullet, kind: "none", text: "" };
        break;
      case "buChar":
        bullet = { ...bullet, kind: "sign", text: element.attr("char") ?? "•" };
        break;
      case "buBlip":
        bullet = { ...bullet, kind: "picture", text: "•", font: undefined, picture: element.child("blip") };
        break;
      case "buAutoNum":
        bullet = {
          ...bullet,
          kind: "number",
          text: element.attr("type") ?? "arabicPeriod",
          start: Number(element.attr("startAt") ?? 1),
        };
        break;
      case "buFont":
        bullet = { ...bullet, font: familyOf(element.attr("typeface"), theme) };
        break;
      case "buFontTx":
        bullet = { ...bullet, font: undefined };
        break;
      case "buClr":
        bullet = { ...bullet, color: paintIn(element, theme)?.color };
        break;
      case "buClrTx":
        bullet = { ...bullet, color: undefined };
        break;
      case "buSzPct":
        bullet = { ...bullet, size: { unit: "share", value: percentage(element.attr("val")) ?? 1 } };
        break;
      case "buSzPts":
        bullet = { ...bullet, size: { unit: "pt", value: Number(element.attr("val") ?? 0) / 100 } };
        break;
      case "buSzTx":
        bullet = { ...bullet, size: { unit: "share", value: 1 } };
        break;
    }
  return bullet;
}

/** A family by its name, or by the theme's font that the name stands for: `+mj-lt`, `+mn-ea` (21.1.2.3). */
export function familyOf(typeface: string | undefined, theme: Theme): string | undefined {
  const themed = /^\+(mj|mn)-(lt|ea|cs)$/.exec(typeface ?? "");
  if (!themed) return typeface === "" ? undefined : typeface;
  const kind = themed[1] === "mj" ? "major" : "minor";
  if (themed[2] === "lt") return kind === "major" ? theme.majorFont : theme.minorFont;
  return theme.scripts?.get(`${kind} ${themed[2]}`);
}

/** Run properties with what an element says over them (21.1.2.3.9). */
export function withRun(base: RunProps, properties: XmlElement, { theme, scale }: LookSite): RunProps {
  const flag = (name: string): boolean | undefined => {
    const value = properties.attr(name);
    return value === undefined ? undefined : value === "1" || value === "true";
  };
  const size = properties.attr("sz");
  const underline = properties.attr("u");
  const strike = properties.attr("strike");
  const baseline = percentage(properties.attr("baseline"));
  const cap = properties.attr("cap");
  const spacing = properties.attr("spc");
  const made: { -readonly [Name in keyof RunProps]: RunProps[Name] } = { ...base };
  if (size !== undefined) made.size = (Number(size) / 100) * scale;
  made.bold = flag("b") ?? base.bold ?? false;
  made.italic = flag("i") ?? base.italic ?? false;
  if (underline !== undefined) made.underline = underline === "none" ? false : underline === "sng" ? true : underline;
  if (strike !== undefined) {
    made.strike = strike === "sngStrike";
    made.doubleStrike = strike === "dblStrike";
  }
  if (baseline !== undefined) made.raised = baseline > 0 ? "superscript" : baseline < 0 ? "subscript" : undefined;
  if (cap !== undefined) {
    made.caps = cap === "all";
    made.smallCaps = cap === "small";
  }
  if (spacing !== undefined) made.spacing = (Number(spacing) / 100) * scale;
  const language = properties.attr("lang");
  if (language !== undefined) made.language = language;
  for (const element of properties.elements())
    switch (element.local) {
      case "solidFill":
        made.color = paintIn(element, theme)?.color ?? base.color ?? "000000";
        made.hidden = false;
        break;
      case "gradFill":
        made.color = paintIn(element.child("gsLst")?.child("gs"), theme)?.color ?? base.color ?? "000000";
        made.hidden = false;
        break;
      case "pattFill":
        made.color = paintIn(element.child("fgClr"), theme)?.color ?? base.color ?? "000000";
        break;
      case "noFill": {
        // Letters that are nothing but their outlines are drawn in its colour.
        const edge = paintIn(properties.child("ln")?.child("solidFill"), theme)?.color;
        made.hidden = edge === undefined;
        if (edge) made.color = edge;
        break;
      }
      case "highlight":
        made.highlight = paintIn(element, theme)?.color ?? "FFFF00";
        break;
      case "uFill":
        made.underlineColor = paintIn(element.child("solidFill"), theme)?.color ?? base.color ?? "000000";
        break;
      case "latin":
        made.font = familyOf(element.attr("typeface"), theme) ?? base.font ?? theme.minorFont;
        break;
    }
  return made;
}

/** Fonts of other scripts that a run asks for, besides its own. */
export interface ScriptFonts {
  readonly eastAsian: string | undefined;
  readonly complex: string | undefined;
}

export function withScripts(base: ScriptFonts, properties: XmlElement | undefined, theme: Theme): ScriptFonts {
  return {
    eastAsian: familyOf(properties?.child("ea")?.attr("typeface"), theme) ?? base.eastAsian,
    complex: familyOf(properties?.child("cs")?.attr("typeface"), theme) ?? base.complex,
  };
}

/** A number as a list shows it (20.1.10.61). */
export const NUMBERINGS: Readonly<Record<string, readonly [format: string, before: string, after: string]>> = {
  alphaLcParenBoth: ["lowerLetter", "(", ")"],
  alphaUcParenBoth: ["upperLetter", "(", ")"],
  alphaLcParenR: ["lowerLetter", "", ")"],
  alphaUcParenR: ["upperLetter", "", ")"],
  alphaLcPeriod: ["lowerLetter", "", "."],
  alphaUcPeriod: ["upperLetter", "", "."],
  arabicParenBoth: ["decimal", "(", ")"],
  arabicParenR: ["decimal", "", ")"],
  arabicPeriod: ["decimal", "", "."],
  arabicPlain: ["decimal", "", ""],
  romanLcParenBoth: ["lowerRoman", "(", ")"],
  romanUcParenBoth: ["upperRoman", "(", ")"],
  romanLcParenR: ["lowerRoman", "", ")"],
  romanUcParenR: ["upperRoman", "", ")"],
  romanLcPeriod: ["lowerRoman", "", "."],
  romanUcPeriod: ["upperRoman", "", "."],
};
