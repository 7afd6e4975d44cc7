/** Text of a shape or a cell, set in its box: ECMA-376 part 1, 21.1.2.1. */
import type { Face, Fonts } from "../../fonts/index.js";
import type { XmlElement } from "../../ooxml/index.js";
import {
  type Box,
  holdsItems,
  type Matrix,
  moveItems,
  type PageItem,
  type RasterImage,
  type StructureNode,
} from "../../page/index.js";
import { isTrue, type Theme } from "../../spreadsheet/index.js";
import type { Inline, PageSection, ParagraphBlock } from "../text/blocks.js";
import { drawStack, type Fragment, stackHeight } from "../text/fragment.js";
import { layBlocks } from "../text/lay-blocks.js";
import type { PageNumbers } from "../text/lines/line-breaking.js";
import { widthOfRun } from "../text/lines/run-shaping.js";
import { formatNumber } from "../text/numbers.js";
import type { RunProps } from "../text/props.js";
import { percentage, schemeColor } from "./colors.js";
import { EMU_PER_PT } from "./geometry.js";
import {
  blankIn,
  kept,
  type LevelLook,
  type LookSite,
  levelLook,
  lookCache,
  NUMBERINGS,
  plainLook,
  type ScriptFonts,
  withScripts,
} from "./text-looks.js";

/** What text takes its looks from beside what it says itself; what counts least comes first. One object stands for one source. */
export interface TextSources {
  readonly lists: readonly XmlElement[];
  /** Properties of bodies, the shape's own not among them. */
  readonly bodies: readonly XmlElement[];
  readonly usual: RunProps;
  /** What counts more than the lists, and less than what the text says itself. */
  readonly over?: RunProps | undefined;
}

export interface TextSite {
  readonly fonts: Fonts;
  readonly theme: Theme;
  /** What its paragraphs belong to; headings where it is a title. */
  readonly node: StructureNode;
  readonly isTitle?: boolean | undefined;
  /** A single plain paragraph is the part itself, as in a table's cell. */
  readonly isCell?: boolean | undefined;
  /** Where a link leads, by its element; nothing for what leads nowhere. */
  readonly link?: ((element: XmlElement) => string | undefined) | undefined;
  /** The picture that an element names. */
  readonly picture?: ((element: XmlElement) => RasterImage | undefined) | undefined;
  /** The text of a field, by its type and what is stored of it. */
  readonly field?: ((type: string, stored: string) => string) | undefined;
}

/** What properties of the body say, those of the shape over the others'. */
export interface BodyLook {
  readonly insets: { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number };
  readonly anchor: "t" | "ctr" | "b";
  readonly isCentered: boolean;
  readonly wraps: boolean;
  /** Degrees the text is turned by within its shape. */
  readonly turned: number;
  readonly columns: number;
  readonly gap: number;
  /** What happens to text that is too long. */
  readonly fit: "none" | "shrink" | "grow";
  readonly scale: number;
  readonly lineCut: number;
  /** What does not fit is cut off. */
  readonly isCut: boolean;
}

export interface LaidBody {
  readonly items: readonly PageItem[];
  /** Height of the text with its insets, in points, across which it runs. */
  readonly needed: number;
  /** How much higher than its box it is; nought where it fits. */
  readonly over: number;
  /** What sizes had to be multiplied by, and what was taken from the lines' distance. */
  readonly scale: number;
  readonly lineCut: number;
}

const TURNS: Readonly<Record<string, number>> = { vert: 90, eaVert: 90, mongolianVert: 90, vert270: 270 };

export function bodyLook(bodies: readonly XmlElement[]): BodyLook {
  const value = (name: string): string | undefined => {
    for (let at = bodies.length - 1; at >= 0; at--) {
      const found = bodies[at].attr(name);
      if (found !== undefined) return found;
    }
    return undefined;
  };
  const inset = (name: string, otherwise: number): number => Number(value(name) ?? otherwise) / EMU_PER_PT;
  let fit: XmlElement | undefined;
  for (const body of bodies) fit = body.elements().find((one) => /^(?:no|norm|sp)Aut/.test(one.local)) ?? fit;
  const anchor = value("anchor");
  return {
    insets: {
      left: inset("lIns", 91_440),
      top: inset("tIns", 45_720),
      right: inset("rIns", 91_440),
      bottom: inset("bIns", 45_720),
    },
    anchor: anchor === "ctr" || anchor === "b" ? anchor : "t",
    isCentered: isTrue(value("anchorCtr")),
    wraps: value("wrap") !== "none",
    turned: (TURNS[value("vert") ?? ""] ?? 0) + Number(value("rot") ?? 0) / 60_000,
    columns: Math.max(1, Number(value("numCol") ?? 1)),
    gap: Number(value("spcCol") ?? 0) / EMU_PER_PT,
    fit: fit?.local === "normAutofit" ? "shrink" : fit?.local === "spAutoFit" ? "grow" : "none",
    scale: percentage(fit?.attr("fontScale")) ?? 1,
    lineCut: percentage(fit?.attr("lnSpcReduction")) ?? 0,
    isCut: value("vertOverflow") === "clip",
  };
}

const bodyLooks = new WeakMap<TextSources, Map<string, BodyLook>>();

/** Sizes and distances that are tried, one after the other, for text that has to fit. */
const STEPS: readonly (readonly [scale: number, lineCut: number])[] = [
  [1, 0],
  [0.925, 0.1],
  [0.925, 0.2],
  [0.85, 0.2],
  [0.775, 0.2],
  [0.7, 0.2],
  [0.625, 0.2],
  [0.55, 0.2],
  [0.475, 0.2],
  [0.4, 0.2],
  [0.325, 0.2],
  [0.25, 0.2],
];

/** Whether a body has any text that shows. */
export function hasText(body: XmlElement | undefined): boolean {
  return (
    body
      ?.elements("p")
      .some((paragraph) => paragraph.elements().some((one) => one.local !== "pPr" && one.local !== "endParaRPr")) ??
    false
  );
}

/** A body that was laid out, to be laid out so again wherever it is written alike. */
interface LaidBefore {
  readonly sources: TextSources;
  readonly theme: Theme;
  readonly width: number;
  readonly height: number;
  readonly isTitle: boolean;
  readonly isCell: boolean;
  readonly anew: boolean;
  /** Faces it was measured with. */
  readonly faces: readonly AskedFace[];
  readonly laid: LaidBody;
  /** What its paragraphs belong to. */
  readonly node: StructureNode;
}

interface AskedFace {
  readonly family: string;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly face: Face;
}

const laidBefore = new WeakMap<XmlElement, LaidBefore[]>();
/** Ways in which one text is kept laid out. */
const KEPT_WAYS = 8;

/** Whether the text is the same on whatever slide it stands: fields, links and pictures are not. */
const plainBodies = new WeakMap<XmlElement, boolean>();

function isPlain(body: XmlElement): boolean {
  let plain = plainBodies.get(body);
  if (plain === undefined) {
    plain = !/<(?:\w+:)?(?:fld|hlink\w+|buBlip)\b/.test(body.toString());
    plainBodies.set(body, plain);
  }
  return plain;
}

/**
 * A body in a box whose upper left corner is nought. Text that shrinks to fit has the size that is stored where it fits so, else
 * the first that does; `anew` looks for it from the beginning, whatever is stored.
 */
export function layBody(
  body: XmlElement,
  box: Pick<Box, "width" | "height">,
  sources: TextSources,
  site: TextSite,
  anew = false,
): LaidBody {
  if (!isPlain(body)) return layFresh(body, box, sources, site, anew);
  const { width, height } = box;
  const [isTitle, isCell] = [site.isTitle === true, site.isCell === true];
  const ways = laidBefore.get(body) ?? [];
  for (const known of ways)
    if (
      known.width === width &&
      known.height === height &&
      known.sources === sources &&
      known.theme === site.theme &&
      known.isTitle === isTitle &&
      known.isCell === isCell &&
      known.anew === anew &&
      known.faces.every((one) => site.fonts.face(one.family, one.bold, one.italic) === one.face)
    )
      return belongingTo(known, site.node);
  const watch = new FaceWatch(site.fonts);
  const node: StructureNode = { role: site.node.role, children: [] };
  const laid = layFresh(body, box, sources, { ...site, fonts: watch, node }, anew);
  const { theme } = site;
  const made: LaidBefore = { sources, theme, width, height, isTitle, isCell, anew, faces: watch.asked, laid, node };
  if (ways.length >= KEPT_WAYS) ways.shift();
  ways.push(made);
  laidBefore.set(body, ways);
  return belongingTo(made, site.node);
}

/** Text that was laid out before, as part of the structure where it stands now. */
function belongingTo({ laid, node: known }: LaidBefore, node: StructureNode): LaidBody {
  if (known.children.length === 0) {
    const tagged = (item: PageItem): PageItem => (item.kind === "tagged" ? { ...item, node } : item);
    return {
      ...laid,
      items: laid.items.some(holdsDeeper) ? retagged(laid.items, new Map([[known, node]])) : laid.items.map(tagged),
    };
  }
  const made = new Map<StructureNode, StructureNode>([[known, node]]);
  for (const one of known.children) node.children.push(copied(one, made));
  return { ...laid, items: retagged(laid.items, made) };
}

function holdsDeeper(item: PageItem): boolean {
  return item.kind !== "tagged" && holdsItems(item);
}

function copied(node: StructureNode, made: Map<StructureNode, StructureNode>): StructureNode {
  const copy = { ...node, children: node.children.map((one) => copied(one, made)) };
  made.set(node, copy);
  return copy;
}

function retagged(items: readonly PageItem[], made: ReadonlyMap<StructureNode, StructureNode>): PageItem[] {
  return items.map((item): PageItem => {
    if (item.kind === "tagged") return { kind: "tagged", node: item.node && made.get(item.node), items: item.items };
    return holdsItems(item) ? { ...item, items: retagged(item.items, made) } : item;
  });
}

/** Remembers which faces were asked for. */
class FaceWatch implements Fonts {
  private readonly known = new Map<string, AskedFace>();

  constructor(private readonly fonts: Fonts) {}

  get asked(): AskedFace[] {
    return [...this.known.values()];
  }

  face(family: string, bold: boolean, italic: boolean): Face {
    const key = `${bold} ${italic} ${family}`;
    let one = this.known.get(key);
    if (!one) {
      one = { family, bold, italic, face: this.fonts.face(family, bold, italic) };
      this.known.set(key, one);
    }
    return one.face;
  }

  hyphenate(text: string, language: string): string | undefined {
    return this.fonts.hyphenate(text, language);
  }
}

function layFresh(
  body: XmlElement,
  box: Pick<Box, "width" | "height">,
  sources: TextSources,
  site: TextSite,
  anew: boolean,
): LaidBody {
  const own = body.child("bodyPr");
  const look = kept(bodyLooks, sources, own?.toString() ?? "", () =>
    bodyLook(own ? [...sources.bodies, own] : sources.bodies),
  );
  const across = look.turned % 180 === 90 || look.turned % 180 === -90;
  const size = across ? { width: box.height, height: box.width } : box;
  let laid = new BodyLayer(body, size, sources, site, look, anew ? STEPS[0] : [look.scale, look.lineCut]).lay();
  if (look.fit === "shrink" && laid.over > FITS)
    for (const step of STEPS.slice(1)) {
      if (!anew && step[0] >= look.scale) continue;
      site.node.children.length = laid.before;
      laid = new BodyLayer(body, size, sources, site, look, step).lay();
      if (laid.over <= FITS) break;
    }
  const items = look.turned === 0 ? laid.items : [turnedText(laid.items, box, size, look.turned)];
  return {
    ...laid,
    items: look.isCut && laid.over > FITS ? [{ kind: "group", clip: { x: 0, y: 0, ...box }, items }] : items,
  };
}

/** Text that is higher than its box by less than this fits: other programs' lines differ by as much. */
const FITS = 1.5;

/** Text of a size turned about the middle of its box. */
function turnedText(
  items: readonly PageItem[],
  box: Pick<Box, "width" | "height">,
  size: Pick<Box, "width" | "height">,
  degrees: number,
): PageItem {
  const angle = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [mx, my] = [size.width / 2, size.height / 2];
  const matrix: Matrix = [
    cos,
    sin,
    -sin,
    cos,
    box.width / 2 - cos * mx + sin * my,
    box.height / 2 - sin * mx - cos * my,
  ];
  return { kind: "turned", matrix, items };
}

/** Pages count nothing here: fields are texts already when lines are broken. */
const NO_NUMBERS: PageNumbers = {
  page: 1,
  pages: 1,
  sectionPages: 1,
  format: "decimal",
  pageOf: () => undefined,
  section: {} as PageSection,
};

/** What text inherits of a level, by where it takes it from: the cells of a table share that. */
const inherited = new WeakMap<TextSources, Map<string, LevelLook>>();

/** Text that is not wrapped has a line as long as it likes. */
const ENDLESS = 20_000;

class BodyLayer {
  private readonly looks = new Map<number, LevelLook>();
  /** Numbers of lists by level, with the way they are numbered. */
  private counters: { type: string; next: number }[] = [];
  private readonly site: LookSite;
  private readonly cache: ReturnType<typeof lookCache>;

  constructor(
    private readonly body: XmlElement,
    private readonly size: Pick<Box, "width" | "height">,
    private readonly sources: TextSources,
    private readonly text: TextSite,
    private readonly look: BodyLook,
    private readonly step: readonly [number, number],
  ) {
    this.site = { theme: text.theme, scale: step[0], lineCut: step[1] };
    this.cache = lookCache(text.theme);
  }

  lay(): LaidBody & { before: number } {
    const { look, size } = this;
    const { insets } = look;
    const before = this.text.node.children.length;
    const blocks = this.blocks();
    const room = Math.max(1, size.width - insets.left - insets.right);
    const column = Math.max(1, (room - look.gap * (look.columns - 1)) / look.columns);
    let width = column;
    let left = insets.left;
    if (!look.wraps) {
      const natural = widest(this.fragments(blocks, ENDLESS));
      this.text.node.children.length = before;
      width = Math.max(1, natural + 0.1);
      const align = blocks[0]?.props.align ?? "left";
      left += align === "center" ? (room - width) / 2 : align === "right" ? room - width : 0;
    }
    const fragments = this.fragments(blocks, width);
    const height = size.height - insets.top - insets.bottom;
    const stacks = look.columns === 1 ? [fragments] : inColumns(fragments, height, look.columns);
    const highest = Math.max(0, ...stacks.map(stackHeight));
    if (look.isCentered && look.wraps) left += Math.max(0, (width - widest(fragments)) / 2);
    const free = height - highest;
    const top = insets.top + (look.anchor === "ctr" ? free / 2 : look.anchor === "b" ? free : 0);
    const items = stacks.flatMap((stack, index) =>
      drawStack(stack, left + index * (column + look.gap), top, NO_NUMBERS),
    );
    return {
      items,
      needed: highest + insets.top + insets.bottom,
      over: Math.max(0, highest - height),
      scale: this.step[0],
      lineCut: this.step[1],
      before,
    };
  }

  private fragments(blocks: readonly ParagraphBlock[], width: number): Fragment[] {
    const { fonts, node, isCell = false } = this.text;
    const defaultTab = this.levelLook(0).defaultTab;
    const laid = layBlocks(blocks, width, { fonts, defaultTab: defaultTab > 0 ? defaultTab : 72, node, isCell });
    // What stands above the first line and below the last is no part of the text.
    return laid.map((fragment, index) => ({
      ...fragment,
      before: index === 0 ? 0 : fragment.before,
      after: index === laid.length - 1 ? 0 : fragment.after,
    }));
  }

  private levelLook(level: number): LevelLook {
    let look = this.looks.get(level);
    if (!look) {
      const key = `${level} ${this.site.scale} ${this.site.lineCut}`;
      look = kept(inherited, this.sources, key, () => this.inheritedLook(level));
      const own = this.body.child("lstStyle");
      if (own && own.children.length > 0) look = levelLook([own], level, look, this.site);
      this.looks.set(level, look);
    }
    return look;
  }

  private inheritedLook(level: number): LevelLook {
    const { usual, over, lists } = this.sources;
    const scaled = { ...usual, size: (usual.size ?? 18) * this.site.scale };
    const look = levelLook(lists, level, plainLook(scaled), this.site);
    return over ? { ...look, run: { ...look.run, ...over } } : look;
  }

  private blocks(): ParagraphBlock[] {
    return this.body.elements("p").map((paragraph) => this.paragraph(paragraph));
  }

  private paragraph(paragraph: XmlElement): ParagraphBlock {
    const properties = paragraph.child("pPr");
    const level = Math.min(8, Number(properties?.attr("lvl") ?? 0) || 0);
    const base = this.levelLook(level);
    const look = properties ? this.cache.paragraph(base, properties, this.site) : base;
    const inlines: Inline[] = [];
    for (const element of paragraph.elements()) inlines.push(...this.inlines(element, look));
    const ending = paragraph.child("endParaRPr");
    const first = inlines.find((one) => one.kind === "text")?.props;
    const mark = ending && inlines.length === 0 ? this.cache.run(look.run, ending, this.site) : (first ?? look.run);
    const label = inlines.length === 0 ? undefined : this.label(look, level, mark);
    const size = mark.size ?? 18;
    const { left = 0, first: indent = 0, rightToLeft, align } = look.paragraph;
    return {
      kind: "paragraph",
      mark,
      props: {
        ...look.paragraph,
        // Here sides are those of the box, whichever way the text runs.
        ...(rightToLeft && align ? { align: OTHER_SIDE[align] ?? align } : {}),
        line: look.paragraph.line ?? { rule: "share", value: 1 - this.site.lineCut },
        before: blankIn(look.before, size, this.site),
        after: blankIn(look.after, size, this.site),
        // A first line that begins left of the box begins at its edge.
        first: Math.max(indent, -left),
        widowControl: false,
        ...(label ? { numbering: { id: 1, level } } : {}),
        ...(this.text.isTitle ? { outlineLevel: 0 } : {}),
      },
      inlines: label ? [label, this.behindLabel(label, indent, rightToLeft === true, mark), ...inlines] : inlines,
      label: label && (label.kind === "text" ? label.text : label.description),
    };
  }

  /** What keeps a label and its text apart: a tab to the hanging indent, or a blank as wide where text runs backwards. */
  private behindLabel(label: Label, indent: number, isBackwards: boolean, props: RunProps): Inline {
    if (indent >= 0) return { kind: "text", text: " ", props };
    if (!isBackwards) return { kind: "tab", props };
    const { fonts } = this.text;
    const own = label.kind === "text" ? widthOfRun(label.text, label.props, fonts) : label.width;
    const used = own + widthOfRun("\u00a0", props, fonts);
    return { kind: "text", text: "\u00a0", props: { ...props, spacing: Math.max(0, -indent - used) } };
  }

  private label({ bullet }: LevelLook, level: number, run: RunProps): Label | undefined {
    this.counters.length = Math.min(this.counters.length, bullet.kind === "number" ? level + 1 : level);
    if (bullet.kind === "none") return undefined;
    let { text } = bullet;
    if (bullet.kind === "number") {
      const counter = this.counters[level];
      const number = counter?.type === text ? counter.next : bullet.start;
      this.counters[level] = { type: text, next: number + 1 };
      const [format, before, after] = NUMBERINGS[text] ?? ["decimal", "", "."];
      text = `${before}${formatNumber(number, format)}${after}`;
    }
    const { unit, value } = bullet.size;
    const size = unit === "pt" ? value * this.site.scale : (run.size ?? 18) * value;
    const picture = bullet.picture && bullet.kind === "picture" ? this.text.picture?.(bullet.picture) : undefined;
    if (picture) return pictureLabel(picture, size, run);
    const sign = symbolOf(text, bullet.font);
    return {
      kind: "text",
      text: sign.text,
      props: {
        size,
        color: bullet.color ?? run.color ?? "000000",
        font: sign.font ?? run.font ?? this.text.theme.minorFont,
        ...(bullet.kind === "number" ? { bold: run.bold ?? false, italic: run.italic ?? false } : {}),
      },
    };
  }

  private inlines(element: XmlElement, look: LevelLook): Inline[] {
    switch (element.local) {
      case "r":
        return this.run(element, element.child("t")?.text ?? "", look);
      case "br":
        return [{ kind: "break", what: "line", props: this.runProps(element.child("rPr"), look) }];
      case "fld": {
        const stored = element.child("t")?.text ?? "";
        const shown = this.text.field?.(element.attr("type") ?? "", stored) ?? stored;
        return this.run(element, shown, look);
      }
      case "AlternateContent": {
        const chosen = element.child("Choice") ?? element.child("Fallback");
        const words = chosen?.descendants("t").map((text) => text.text) ?? [];
        return words.length === 0 ? [] : [{ kind: "text", text: words.join(""), props: look.run }];
      }
      case "m":
      case "oMath":
      case "oMathPara": {
        const words = element.descendants("t").map((text) => text.text);
        return words.length === 0 ? [] : [{ kind: "text", text: words.join(""), props: look.run }];
      }
      default:
        return [];
    }
  }

  private runProps(properties: XmlElement | undefined, look: LevelLook): RunProps {
    return properties ? this.cache.run(look.run, properties, this.site) : look.run;
  }

  private run(run: XmlElement, text: string, look: LevelLook): Inline[] {
    const properties = run.child("rPr");
    let props = this.runProps(properties, look);
    if (props.hidden || text === "") return [];
    const click = properties?.child("hlinkClick");
    const target = click && this.text.link?.(click);
    if (target !== undefined) {
      const color = schemeColor("hlink", this.text.theme) ?? props.color ?? "0000FF";
      props = { ...props, color, underline: true };
    }
    const scripts = withScripts({ eastAsian: undefined, complex: undefined }, properties, this.text.theme);
    const made: Inline[] = [];
    for (const line of text.split(/(\t|\u000b|\r\n?|\n|_x000B_)/)) {
      if (line === "") continue;
      if (line === "\t") made.push({ kind: "tab", props });
      else if (/^[\u000b\r\n]|^_x000B_$/.test(line)) made.push({ kind: "break", what: "line", props });
      else
        for (const part of byScript(line, props, scripts))
          made.push({ kind: "text", ...part, ...(target === undefined ? {} : { link: target }) });
    }
    return made;
  }
}

const EAST_ASIAN = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}\u3000-\u303f\uff00-\uffef]/u;
const COMPLEX = /[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Thai}\p{Script=Devanagari}]/u;

/** Text cut where its script, and with it its font, changes. */
function byScript(text: string, props: RunProps, fonts: ScriptFonts): { text: string; props: RunProps }[] {
  if (!fonts.eastAsian && !fonts.complex) return [{ text, props }];
  const parts: { text: string; props: RunProps }[] = [];
  for (const char of text) {
    const font = EAST_ASIAN.test(char) ? fonts.eastAsian : COMPLEX.test(char) ? fonts.complex : undefined;
    const last = parts[parts.length - 1];
    const wanted = font ?? props.font;
    if (last && (last.props.font === wanted || char === " ")) last.text += char;
    else parts.push({ text: char, props: wanted === undefined ? props : { ...props, font: wanted } });
  }
  return parts;
}

type Label = Inline & { readonly kind: "text" | "object" };

/** How high a bullet's picture is beside its text. */
const PICTURE_HEIGHT = 0.7;

function pictureLabel(image: RasterImage, size: number, props: RunProps): Label {
  const height = size * PICTURE_HEIGHT;
  const width = (height * image.width) / (image.height || 1);
  const draw = (): PageItem[] => [{ kind: "image", x: 0, y: 0, width, height, image }];
  return { kind: "object", width, height, description: "•", draw, props };
}

const OTHER_SIDE: Readonly<Record<string, string>> = { left: "right", right: "left" };

/** Signs of symbol fonts as the letters of Unicode that look like them. */
const SYMBOLS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  wingdings: {
    "\u00a7": "▪",
    "\u00a8": "◻",
    q: "❑",
    n: "■",
    l: "●",
    u: "◆",
    v: "❖",
    "\u00d8": "➢",
    "\u00fc": "✓",
    "\u00e0": "→",
    o: "□",
    p: "◻",
    r: "❒",
    "\u00fb": "✗",
    "\u009f": "•",
    w: "◆",
    s: "⬧",
    m: "❍",
  },
  "wingdings 2": { "\u0097": "●", "\u00a1": "○", P: "✓", R: "☑" },
  "wingdings 3": { "}": "▶", "\u0084": "▸", a: "▲" },
  symbol: { "\u00b7": "•", "\u00a8": "♦", "\u00de": "⇒", "\u00ae": "→" },
};

function symbolOf(text: string, font: string | undefined): { text: string; font: string | undefined } {
  const signs = SYMBOLS[font?.toLowerCase() ?? ""];
  if (!signs) return { text, font };
  return { text: [...text].map((sign) => signs[privately(sign)] ?? "•").join(""), font: undefined };
}

/** Symbol fonts also have their signs in the area for private use, from F000 on. */
function privately(sign: string): string {
  const code = sign.codePointAt(0) ?? 0;
  return code >= 0xf000 && code <= 0xf0ff ? String.fromCodePoint(code - 0xf000) : sign;
}

function widest(fragments: readonly Fragment[]): number {
  let most = 0;
  for (const fragment of fragments) most = Math.max(most, fragment.width ?? 0);
  return most;
}

/** Lines one below the other in each column, as many as have room; the last takes the rest. */
function inColumns(fragments: readonly Fragment[], height: number, count: number): Fragment[][] {
  const stacks: Fragment[][] = [[]];
  let used = 0;
  for (const fragment of fragments) {
    const own = fragment.before + fragment.height + fragment.after;
    const isFull = used + fragment.before + fragment.height > height + FITS;
    if (isFull && stacks.length < count && stacks[stacks.length - 1].length > 0) {
      stacks.push([]);
      used = 0;
    }
    stacks[stacks.length - 1].push(used === 0 ? { ...fragment, before: 0 } : fragment);
    used += own;
  }
  return stacks;
}

/** Items with their upper left corner moved to a box. */
export function inBox(items: readonly PageItem[], { x, y }: Pick<Box, "x" | "y">): PageItem[] {
  return x === 0 && y === 0 ? [...items] : moveItems(items, x, y);
}
