/** A paragraph broken into lines. Positions on a line are relative to its upper left corner at the text margin. */
import type { Face, Fonts, ShapedText } from "../../fonts/index.js";
import type { PageItem } from "../page.js";
import { breakOpportunities, shapeWords } from "../text-lines.js";
import type { Inline, ParagraphBlock } from "./blocks.js";
import { formatNumber } from "./numbering.js";
import type { ParagraphProps, RunProps, TabStop } from "./props.js";

export interface PageNumbers {
  readonly page: number;
  readonly pages: number;
  readonly format: string;
}

export interface Line {
  readonly height: number;
  /** A page break stands at the end of the line. */
  readonly breaksPage: boolean;
  readonly draw: (numbers: PageNumbers) => PageItem[];
}

/** Tab stops where a paragraph sets none, in points. */
const DEFAULT_TAB = 36;
const GUESS: PageNumbers = { page: 1, pages: 1, format: "decimal" };

interface Fragment {
  readonly kind: "text" | "field" | "image";
  readonly text: string;
  readonly inline: Inline;
  x: number;
  readonly width: number;
}

interface TabRun {
  readonly stop: TabStop;
  readonly from: number;
  readonly first: number;
}

export function layParagraph(block: ParagraphBlock, width: number, fonts: Fonts): Line[] {
  return new ParagraphBreaker(block, width, fonts).lines();
}

class ParagraphBreaker {
  private readonly done: Line[] = [];
  private fragments: Fragment[] = [];
  private leaders: { from: number; to: number; leader: string; props: RunProps }[] = [];
  private x = 0;
  private tab: TabRun | undefined;
  private readonly left: number;
  private readonly right: number;
  private readonly first: number;

  constructor(
    private readonly block: ParagraphBlock,
    width: number,
    private readonly fonts: Fonts,
  ) {
    const { props } = block;
    this.left = props.left ?? 0;
    this.right = width - (props.right ?? 0);
    this.first = props.first ?? 0;
    this.x = this.left + this.first;
  }

  lines(): Line[] {
    for (const token of tokens(this.block.inlines)) this.token(token);
    if (this.fragments.length > 0 || this.done.length === 0) this.flush(true, false);
    return this.done;
  }

  private token(token: Token): void {
    if (token.kind === "tab") this.addTab(token.props);
    else if (token.kind === "break") this.flush(token.what === "line", token.what !== "line");
    else this.addWord(token.parts);
  }

  private get start(): number {
    return this.left + (this.done.length === 0 ? this.first : 0);
  }

  private addWord(parts: readonly WordPart[]): void {
    const measured = parts.map((part) => ({ ...part, width: this.widthOf(part) }));
    const last = measured[measured.length - 1];
    const trailing = last.kind === "text" ? this.widthOf({ ...last, text: / *$/.exec(last.text)?.[0] ?? "" }) : 0;
    const width = measured.reduce((sum, part) => sum + part.width, 0);
    if (this.x + width - trailing > this.right + 0.05 && this.fragments.length > 0) this.flush(false, false);
    if (width - trailing > this.right - this.start + 0.05) this.addBroken(measured);
    else for (const part of measured) this.put(part, part.width);
  }

  /** A word wider than the line is broken wherever it must. */
  private addBroken(parts: readonly WordPart[]): void {
    for (const part of parts) {
      if (part.kind !== "text") {
        this.put(part, this.widthOf(part));
        continue;
      }
      for (const char of part.text) {
        const one = { ...part, text: char };
        const width = this.widthOf(one);
        if (this.x + width > this.right && this.x > this.start) this.flush(false, false);
        this.put(one, width);
      }
    }
  }

  private put(part: WordPart, width: number): void {
    const previous = this.fragments[this.fragments.length - 1];
    if (previous && previous.kind === "text" && part.kind === "text" && previous.inline === part.inline) {
      this.fragments[this.fragments.length - 1] = {
        ...previous,
        text: previous.text + part.text,
        width: previous.width + width,
      };
    } else this.fragments.push({ kind: part.kind, text: part.text, inline: part.inline, x: this.x, width });
    this.x += width;
  }

  private addTab(props: RunProps): void {
    this.settleTab();
    const stop = this.nextStop();
    if (stop.at > this.right + 0.5 && stop.kind === "left" && this.fragments.length > 0) {
      this.flush(false, false);
      return;
    }
    if (stop.leader !== "none") this.leaders.push({ from: this.x, to: stop.at, leader: stop.leader, props });
    if (stop.kind === "left" || stop.kind === "bar" || stop.kind === "clear") this.x = stop.at;
    else this.tab = { stop, from: this.x, first: this.fragments.length };
    // A fragment of no width keeps text before and behind the tab apart.
    this.fragments.push({ kind: "text", text: "", inline: { kind: "tab", props }, x: this.x, width: 0 });
  }

  private nextStop(): TabStop {
    const { props } = this.block;
    const own = (props.tabs ?? []).find((tab) => tab.at > this.x + 0.1);
    const hanging = this.first < 0 && this.done.length === 0 && this.x < this.left - 0.1 ? this.left : undefined;
    if (hanging !== undefined && (!own || hanging < own.at)) return { at: hanging, kind: "left", leader: "none" };
    return own ?? { at: (Math.floor((this.x + 0.1) / DEFAULT_TAB) + 1) * DEFAULT_TAB, kind: "left", leader: "none" };
  }

  /** Moves what was set behind a right, centre or decimal tab to its place. */
  private settleTab(): void {
    const { tab } = this;
    if (!tab) return;
    this.tab = undefined;
    const width = this.x - tab.from;
    const text = this.fragments
      .slice(tab.first)
      .map((fragment) => fragment.text)
      .join("");
    const point = /[.,](?=\d*\D*$)/.exec(text)?.index;
    const before =
      tab.stop.kind === "right"
        ? width
        : tab.stop.kind === "center"
          ? width / 2
          : point === undefined
            ? width
            : (width * point) / Math.max(1, text.length);
    const shift = Math.max(0, tab.stop.at - tab.from - before);
    for (const fragment of this.fragments.slice(tab.first)) fragment.x += shift;
    const leader = this.leaders[this.leaders.length - 1];
    if (leader && leader.to === tab.stop.at) leader.to = tab.from + shift;
    this.x += shift;
  }

  private flush(isLast: boolean, breaksPage: boolean): void {
    this.settleTab();
    const { props } = this.block;
    const fragments = this.fragments;
    const leaders = this.leaders;
    const metrics = this.measure(fragments);
    const start = this.start;
    const room = this.right - start;
    const drawer = new LineDrawer(fragments, leaders, this.fonts, props.align ?? "left", {
      start,
      room,
      isLast: isLast || breaksPage,
      ascent: metrics.ascent,
    });
    this.done.push({ height: lineDistance(metrics, props), breaksPage, draw: (numbers) => drawer.draw(numbers) });
    this.fragments = [];
    this.leaders = [];
    this.x = this.left;
  }

  private measure(fragments: readonly Fragment[]): { ascent: number; height: number } {
    let ascent = 0;
    let below = 0;
    for (const fragment of fragments) {
      if (fragment.kind === "image" && fragment.inline.kind === "image") {
        ascent = Math.max(ascent, fragment.inline.height);
        continue;
      }
      const { face, size } = looks(fragment.inline.props, this.fonts);
      ascent = Math.max(ascent, face.metrics.ascent * size);
      below = Math.max(below, (face.metrics.descent + face.metrics.lineGap) * size);
    }
    if (fragments.length === 0) {
      const { face, size } = looks(this.block.mark, this.fonts);
      return {
        ascent: face.metrics.ascent * size,
        height: (face.metrics.ascent + face.metrics.descent + face.metrics.lineGap) * size,
      };
    }
    return { ascent, height: ascent + below };
  }

  private widthOf(part: WordPart): number {
    if (part.kind === "image") return part.inline.kind === "image" ? part.inline.width : 0;
    return shapeRun(
      part.kind === "field" ? fieldText(part.inline, GUESS) : part.text,
      part.inline.props,
      this.fonts,
    ).reduce((sum, piece) => sum + piece.shaped.width * piece.size, 0);
  }
}

/** Distance to the next line: 17.3.1.33. */
function lineDistance(metrics: { readonly ascent: number; readonly height: number }, props: ParagraphProps): number {
  const line = props.line ?? { rule: "auto", value: 1 };
  if (line.rule === "exact") return line.value;
  return line.rule === "atLeast" ? Math.max(metrics.height, line.value) : metrics.height * line.value;
}

interface LineFrame {
  readonly start: number;
  readonly room: number;
  readonly isLast: boolean;
  readonly ascent: number;
}

class LineDrawer {
  constructor(
    private readonly fragments: readonly Fragment[],
    private readonly leaders: readonly {
      readonly from: number;
      readonly to: number;
      readonly leader: string;
      readonly props: RunProps;
    }[],
    private readonly fonts: Fonts,
    private readonly align: string,
    private readonly frame: LineFrame,
  ) {}

  draw(numbers: PageNumbers): PageItem[] {
    const items: PageItem[] = [];
    const { offset, wordSpacing } = this.placement();
    let spread = 0;
    for (const fragment of this.fragments) {
      const x = fragment.x + offset + spread;
      if (fragment.kind === "image" && fragment.inline.kind === "image") {
        const { image, width, height, description } = fragment.inline;
        items.push({ kind: "image", image, width, height, description, x, y: this.frame.ascent - height });
        continue;
      }
      const text = fragment.kind === "field" ? fieldText(fragment.inline, numbers) : fragment.text;
      if (text !== "") this.text(text, fragment, x, wordSpacing, items);
      if (wordSpacing > 0) spread += wordSpacing * (text.match(/ /g)?.length ?? 0);
    }
    for (const leader of this.leaders) this.leader(leader, offset, items);
    return items;
  }

  private placement(): { offset: number; wordSpacing: number } {
    const last = this.fragments[this.fragments.length - 1];
    const trailing = last?.kind === "text" ? (/ *$/.exec(last.text)?.[0] ?? "") : "";
    const trailingWidth =
      last && trailing !== ""
        ? shapeRun(trailing, last.inline.props, this.fonts).reduce(
            (sum, piece) => sum + piece.shaped.width * piece.size,
            0,
          )
        : 0;
    const end = last ? last.x + last.width - trailingWidth : this.frame.start;
    const free = this.frame.start + this.frame.room - end;
    if (this.align === "right" || this.align === "end") return { offset: Math.max(0, free), wordSpacing: 0 };
    if (this.align === "center") return { offset: Math.max(0, free / 2), wordSpacing: 0 };
    const hasTab = this.fragments.some((fragment) => fragment.inline.kind === "tab");
    if (this.align === "both" && !this.frame.isLast && !hasTab && free > 0) {
      const blanks =
        this.fragments.reduce((sum, fragment) => sum + (fragment.text.match(/ /g)?.length ?? 0), 0) - trailing.length;
      if (blanks > 0) return { offset: 0, wordSpacing: free / blanks };
    }
    return { offset: 0, wordSpacing: 0 };
  }

  private text(text: string, fragment: Fragment, x: number, wordSpacing: number, items: PageItem[]): void {
    const { props } = fragment.inline;
    const pieces = shapeRun(text, props, this.fonts);
    const full = looks(props, this.fonts);
    const color = props.color ?? "000000";
    const baseline =
      this.frame.ascent -
      (props.position ?? 0) -
      (props.raised === "superscript" ? full.size * 0.5 : props.raised === "subscript" ? -full.size * 0.15 : 0);
    const spread = wordSpacing * (text.match(/ /g)?.length ?? 0);
    const width = pieces.reduce((sum, piece) => sum + piece.shaped.width * piece.size, 0) + spread;
    const ground = props.highlight ?? props.shading;
    const { metrics } = full.face;
    if (ground)
      items.push({
        kind: "fill",
        x,
        y: this.frame.ascent - metrics.ascent * full.size,
        width,
        height: (metrics.ascent + metrics.descent) * full.size,
        color: ground,
      });
    let at = x;
    for (const piece of pieces) {
      items.push({
        kind: "text",
        x: at,
        y: baseline,
        size: piece.size,
        color,
        shaped: piece.shaped,
        ...(wordSpacing > 0 ? { wordSpacing } : {}),
      });
      at += piece.shaped.width * piece.size + wordSpacing * (piece.text.match(/ /g)?.length ?? 0);
    }
    const thickness = metrics.underlineThickness * full.size;
    if (props.underline)
      items.push({
        kind: "line",
        x1: x,
        x2: x + width,
        y1: baseline + metrics.underlinePosition * full.size,
        y2: baseline + metrics.underlinePosition * full.size,
        width: thickness,
        color,
      });
    if (props.strike)
      items.push({
        kind: "line",
        x1: x,
        x2: x + width,
        y1: baseline - full.size * 0.28,
        y2: baseline - full.size * 0.28,
        width: thickness,
        color,
      });
    if (fragment.inline.kind === "text" && fragment.inline.link)
      items.push({
        kind: "link",
        x,
        y: this.frame.ascent - metrics.ascent * full.size,
        width,
        height: (metrics.ascent + metrics.descent) * full.size,
        target: fragment.inline.link,
      });
  }

  private leader(
    leader: { readonly from: number; readonly to: number; readonly leader: string; readonly props: RunProps },
    offset: number,
    items: PageItem[],
  ): void {
    const sign =
      leader.leader === "dot" || leader.leader === "middleDot" ? "." : leader.leader === "hyphen" ? "-" : "_";
    const { face, size } = looks(leader.props, this.fonts);
    const step = face.shape(sign).width * size;
    const count = Math.floor((leader.to - leader.from - 2) / step);
    if (count < 1) return;
    const x = leader.to - count * step + offset;
    items.push({
      kind: "text",
      x,
      y: this.frame.ascent,
      size,
      color: leader.props.color ?? "000000",
      shaped: shapeWords(sign.repeat(count), face),
    });
  }
}

function fieldText(inline: Inline, numbers: PageNumbers): string {
  if (inline.kind !== "field") return "";
  const named: Readonly<Record<string, string>> = {
    roman: "lowerRoman",
    ROMAN: "upperRoman",
    alphabetic: "lowerLetter",
    ALPHABETIC: "upperLetter",
  };
  const format = named[inline.format] ?? (inline.what === "page" ? numbers.format : "decimal");
  return formatNumber(inline.what === "page" ? numbers.page : numbers.pages, format);
}

/** Size of raised and lowered text beside the full size. */
const RAISED = 0.65;
const SMALL_CAPS = 0.8;

function looks(props: RunProps, fonts: Fonts): { face: Face; size: number } {
  return {
    face: fonts.face(props.font ?? "Calibri", props.bold ?? false, props.italic ?? false),
    size: props.size ?? 10,
  };
}

interface ShapedPiece {
  readonly text: string;
  readonly shaped: ShapedText;
  readonly size: number;
}

/** Shapes a run's text in its looks; small capitals come in two sizes. */
function shapeRun(text: string, props: RunProps, fonts: Fonts): ShapedPiece[] {
  const { face, size: full } = looks(props, fonts);
  const size = props.raised ? full * RAISED : full;
  const shape = (part: string, at: number): ShapedPiece => ({
    text: part,
    shaped: spaced(shapeWords(part, face), (props.spacing ?? 0) / at),
    size: at,
  });
  if (props.caps) return [shape(text.toLocaleUpperCase("en"), size)];
  if (!props.smallCaps) return [shape(text, size)];
  return (text.match(/\p{Ll}+|\P{Ll}+/gu) ?? []).map((part) =>
    /^\p{Ll}/u.test(part) ? shape(part.toLocaleUpperCase("en"), size * SMALL_CAPS) : shape(part, size),
  );
}

function spaced(shaped: ShapedText, em: number): ShapedText {
  if (em === 0) return shaped;
  const runs = shaped.runs.map((run) => ({ ...run, advances: run.advances.map((advance) => advance + em) }));
  return {
    runs,
    width: runs.reduce((sum, run) => sum + run.advances.reduce((total, advance) => total + advance, 0), 0),
  };
}

interface WordPart {
  readonly kind: "text" | "field" | "image";
  readonly text: string;
  readonly inline: Inline;
}

type Token =
  | { readonly kind: "word"; readonly parts: readonly WordPart[] }
  | { readonly kind: "tab"; readonly props: RunProps }
  | { readonly kind: "break"; readonly what: "line" | "page" | "column" };

/** A sign that stands for a picture while breaks are looked for (UAX #14 treats it as breakable on both sides). */
const OBJECT = "\ufffc";

/** What is kept together on a line: words over all runs they are made of, tabs, breaks. */
function tokens(inlines: readonly Inline[]): Token[] {
  const found: Token[] = [];
  let from = 0;
  inlines.forEach((inline, index) => {
    if (inline.kind !== "tab" && inline.kind !== "break") return;
    found.push(
      ...words(inlines.slice(from, index)),
      inline.kind === "tab" ? { kind: "tab", props: inline.props } : { kind: "break", what: inline.what },
    );
    from = index + 1;
  });
  return [...found, ...words(inlines.slice(from))];
}

function words(inlines: readonly Inline[]): Token[] {
  const texts = inlines.map((inline) =>
    inline.kind === "text"
      ? inline.text.replace(/[\r\n]/g, " ")
      : inline.kind === "field"
        ? fieldText(inline, GUESS)
        : OBJECT,
  );
  const whole = texts.join("");
  if (whole === "") return [];
  const found: Token[] = [];
  let index = 0;
  let used = 0;
  for (const piece of breakOpportunities(whole)) {
    const parts: WordPart[] = [];
    let rest = piece.text.length;
    while (rest > 0) {
      while (used >= texts[index].length) {
        index++;
        used = 0;
      }
      const take = Math.min(rest, texts[index].length - used);
      const inline = inlines[index];
      const kind = inline.kind === "text" ? "text" : inline.kind === "field" ? "field" : "image";
      parts.push({ kind, inline, text: kind === "text" ? texts[index].slice(used, used + take) : "" });
      used += take;
      rest -= take;
    }
    found.push({ kind: "word", parts });
  }
  return found;
}
