/** A paragraph broken into lines. Positions on a line are relative to its upper left corner at the text margin. */
import type { Fonts } from "../../../fonts/index.js";
import type { PageItem } from "../../../page/index.js";
import type { Float, Note, ParagraphBlock } from "../blocks.js";
import type { ParagraphProps, RunProps, TabStop } from "../props.js";
import { inSeenOrder, runsBackwards } from "./bidi.js";
import { type Fragment, type Leader, LineDrawer } from "./line-drawer.js";
import { type Token, tokens, type WordPart } from "./line-tokens.js";
import { looks, type PageNumbers, widthOfRun } from "./run-shaping.js";

export type { PageNumbers };

export interface TextLine {
  readonly height: number;
  /** A page or column break stands at the end of the line. */
  readonly breaks: "page" | "column" | undefined;
  readonly notes: readonly Note[];
  readonly places: readonly string[];
  readonly floats: readonly Float[];
  /** Width of what stands on it, indents included. */
  readonly width: number;
  /** Items with the line's upper left corner at a place. */
  readonly draw: (numbers: PageNumbers, x: number, y: number) => PageItem[];
}

/** The room beside things that text flows around, for a line at `y` of a given height; `undefined` for all of it. */
export type RoomAt = (y: number, height: number) => { readonly left: number; readonly right: number } | undefined;

/** Lines are not set in less room than this beside a thing, but below it. */
const LEAST_ROOM = 36;

interface TabRun {
  readonly stop: TabStop;
  readonly from: number;
  readonly first: number;
}

export function layParagraph(
  block: ParagraphBlock,
  width: number,
  fonts: Fonts,
  defaultTab: number,
  roomAt?: RoomAt,
): TextLine[] {
  return new ParagraphBreaker(block, width, fonts, defaultTab, roomAt).lines();
}

/** The narrowest a paragraph can be without breaking words, and, if asked for, its width on one line, in points. */
export function measureParagraph(
  block: ParagraphBlock,
  fonts: Fonts,
  defaultTab: number,
  withMost: boolean,
): { least: number; most: number } {
  const { props } = block;
  const indents = (props.left ?? 0) + (props.right ?? 0);
  let least = 0;
  for (const token of tokens(block.inlines))
    if (token.kind === "word") least = Math.max(least, wordWidth(token.parts, fonts));
  if (!withMost) return { least: least + indents, most: 0 };
  const lines = layParagraph(block, 100_000, fonts, defaultTab);
  return { least: least + indents, most: Math.max(0, ...lines.map((line) => line.width)) + (props.right ?? 0) };
}

function wordWidth(parts: readonly WordPart[], fonts: Fonts): number {
  return parts.reduce(
    (sum, part, index) =>
      sum +
      (index === parts.length - 1 && part.text.endsWith(" ")
        ? widthOfRun(part.text.trimEnd(), part.inline.props, fonts)
        : partWidth(part, fonts)),
    0,
  );
}

function partWidth(part: WordPart, fonts: Fonts): number {
  if (part.inline.kind === "object") return part.inline.width;
  if (part.inline.kind === "field") return widthOfRun(part.inline.guess.text, part.inline.props, fonts);
  part.width ??= widthOfRun(part.text, part.inline.props, fonts);
  return part.width;
}

class ParagraphBreaker {
  private readonly done: TextLine[] = [];
  private fragments: Fragment[] = [];
  private leaders: Leader[] = [];
  private places: string[] = [];
  private floats: Float[] = [];
  private unmarked: Note[] = [];
  private x = 0;
  private y = 0;
  /** Blank above the line that is being set, to get below a thing. */
  private skipped = 0;
  private tab: TabRun | undefined;
  private readonly left: number;
  private readonly right: number;
  private readonly first: number;
  /** Edges of the line that is being set. */
  private start = 0;
  private end = 0;

  constructor(
    private readonly block: ParagraphBlock,
    width: number,
    private readonly fonts: Fonts,
    private readonly defaultTab: number,
    private readonly roomAt: RoomAt | undefined,
  ) {
    const { props } = block;
    // Indents name the side where text begins and where it ends.
    const [before, behind] = props.rightToLeft ? [props.right, props.left] : [props.left, props.right];
    this.left = before ?? 0;
    this.right = width - (behind ?? 0);
    this.first = props.first ?? 0;
    this.begin();
  }

  lines(): TextLine[] {
    for (const token of tokens(this.block.inlines)) this.token(token);
    const signs = this.places.length + this.floats.length + this.unmarked.length;
    if (this.fragments.length > 0 || this.done.length === 0 || signs > 0) this.flush(true, undefined);
    return this.done;
  }

  /** Edges of the next line. */
  private begin(): void {
    const isFirst = this.done.length === 0;
    const backwards = this.block.props.rightToLeft === true;
    let start = this.left + (isFirst && !backwards ? this.first : 0);
    let end = this.right - (isFirst && backwards ? this.first : 0);
    this.skipped = 0;
    if (this.roomAt) {
      const height = this.emptyHeight().height;
      for (let tries = 0; tries < 50; tries++) {
        const room = this.roomAt(this.y + this.skipped, height);
        if (!room) break;
        const [left, right] = [Math.max(start, room.left + (start - this.left)), Math.min(end, room.right)];
        if (right - left >= LEAST_ROOM) {
          [start, end] = [left, right];
          break;
        }
        this.skipped += 6;
      }
    }
    this.start = start;
    this.end = end;
    this.x = start;
    this.hyphen = undefined;
  }

  private token(token: Token): void {
    if (token.kind === "tab") this.addTab(token.props, token.alignment);
    else if (token.kind === "break") this.flush(token.what === "line", token.what === "line" ? undefined : token.what);
    else if (token.kind === "word") this.addWord(token.parts, token.hyphen);
    else if (token.inline.kind === "place") this.places.push(token.inline.name);
    else if (token.inline.kind === "float") this.floats.push(token.inline.float);
    else if (token.inline.kind === "note") this.unmarked.push(token.inline.note);
  }

  private addWord(parts: readonly WordPart[], hyphen: boolean): void {
    const last = parts[parts.length - 1];
    const blanks = last.kind === "text" ? (/ *$/.exec(last.text)?.[0] ?? "") : "";
    const trailing = blanks === "" ? 0 : widthOfRun(blanks, last.inline.props, this.fonts);
    let width = 0;
    for (const part of parts) width += partWidth(part, this.fonts);
    const shown = width - trailing + (hyphen ? widthOfRun("-", last.inline.props, this.fonts) : 0);
    if (this.x + shown > this.end + 0.05 && this.fragments.length > 0) {
      this.showHyphen();
      this.flush(false, undefined);
    }
    if (width - trailing > this.end - this.start + 0.05) this.addBroken(parts);
    else for (const part of parts) this.put(part, partWidth(part, this.fonts));
    this.hyphen = hyphen ? last : undefined;
  }

  /** The part of a word behind which the line may end with a hyphen. */
  private hyphen: WordPart | undefined;

  private showHyphen(): void {
    const { hyphen } = this;
    if (hyphen)
      this.put(
        { kind: hyphen.kind, inline: hyphen.inline, text: "-" },
        widthOfRun("-", hyphen.inline.props, this.fonts),
      );
    this.hyphen = undefined;
  }

  /** A word wider than the line is broken wherever it must. */
  private addBroken(parts: readonly WordPart[]): void {
    for (const part of parts) {
      if (part.kind !== "text") {
        this.put(part, partWidth(part, this.fonts));
        continue;
      }
      for (const char of part.text) {
        const one: WordPart = { kind: part.kind, inline: part.inline, text: char };
        const width = partWidth(one, this.fonts);
        if (this.x + width > this.end && this.x > this.start) this.flush(false, undefined);
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

  private addTab(props: RunProps, alignment: "left" | "center" | "right" | undefined): void {
    this.settleTab();
    const stop = alignment ? this.marginStop(alignment) : this.nextStop();
    if (stop.at > this.end + 0.5 && stop.kind === "left" && this.fragments.length > 0) {
      this.flush(false, undefined);
      return;
    }
    if (stop.leader !== "none") this.leaders.push({ from: this.x, to: stop.at, leader: stop.leader, props });
    if (stop.kind === "left" || stop.kind === "bar" || stop.kind === "clear") this.x = Math.max(this.x, stop.at);
    else this.tab = { stop, from: this.x, first: this.fragments.length };
    // A fragment of no width keeps text before and behind the tab apart.
    this.fragments.push({ kind: "text", text: "", inline: { kind: "tab", props }, x: this.x, width: 0 });
  }

  /** A tab to a place of the line, whatever stops there are (17.3.3.23). */
  private marginStop(alignment: "left" | "center" | "right"): TabStop {
    const at = alignment === "left" ? this.left : alignment === "right" ? this.end : (this.left + this.end) / 2;
    return { at, kind: alignment, leader: "none" };
  }

  private nextStop(): TabStop {
    const { props } = this.block;
    const own = (props.tabs ?? []).find((tab) => tab.at > this.x + 0.1 && tab.kind !== "bar");
    const hanging = this.first < 0 && this.done.length === 0 && this.x < this.left - 0.1 ? this.left : undefined;
    if (hanging !== undefined && (!own || hanging < own.at)) return { at: hanging, kind: "left", leader: "none" };
    if (own) return own;
    const step = this.defaultTab;
    return { at: (Math.floor((this.x + 0.1) / step) + 1) * step, kind: "left", leader: "none" };
  }

  /** Moves what was set behind a right, centre or decimal tab to its place. */
  private settleTab(): void {
    const { tab } = this;
    if (!tab) return;
    this.tab = undefined;
    const width = this.x - tab.from;
    const fragments = this.fragments.slice(tab.first);
    const before =
      tab.stop.kind === "right" ? width : tab.stop.kind === "center" ? width / 2 : this.widthToPoint(fragments, width);
    const shift = Math.max(0, tab.stop.at - tab.from - before);
    for (const fragment of fragments) {
      fragment.x += shift;
      fragment.pull = tab.stop.kind === "right" ? 1 : tab.stop.kind === "center" ? 0.5 : 0;
    }
    const leader = this.leaders[this.leaders.length - 1];
    if (leader && leader.to === tab.stop.at) leader.to = tab.from + shift;
    this.x += shift;
  }

  /** The width before the decimal sign of the last number. */
  private widthToPoint(fragments: readonly Fragment[], width: number): number {
    const text = fragments.map((fragment) => fragment.text).join("");
    const point = /[.,](?=\d*\D*$)/.exec(text)?.index;
    if (point === undefined) return width;
    let before = 0;
    let from = 0;
    for (const fragment of fragments) {
      const rest = point - from;
      if (rest < fragment.text.length)
        return before + widthOfRun(fragment.text.slice(0, rest), fragment.inline.props, this.fonts);
      before += fragment.width;
      from += fragment.text.length;
    }
    return before;
  }

  private flush(isLast: boolean, breaks: "page" | "column" | undefined): void {
    this.settleTab();
    const { props } = this.block;
    const backwards = props.rightToLeft === true;
    const fragments = runsBackwards(this.fragments, backwards)
      ? inSeenOrder(this.fragments, backwards, this.fonts)
      : this.fragments;
    const metrics = this.measure(fragments);
    const { skipped } = this;
    const drawer = new LineDrawer(fragments, this.leaders, this.fonts, alignOf(props), {
      start: this.start,
      room: this.end - this.start,
      isLast: isLast || breaks !== undefined,
      ascent: metrics.ascent + skipped + raisedBy(metrics.height, props),
    });
    const height = lineDistance(metrics, props) + skipped;
    this.done.push({
      height,
      breaks,
      notes: [
        ...new Set([
          ...fragments.flatMap(({ inline }) => (inline.kind === "note" ? [inline.note] : [])),
          ...this.unmarked,
        ]),
      ],
      places: this.places,
      floats: this.floats,
      width: this.x,
      draw: (numbers, x, y) => drawer.draw(numbers, x, y),
    });
    this.y += height;
    this.fragments = [];
    this.leaders = [];
    this.places = [];
    this.unmarked = [];
    this.floats = [];
    this.begin();
  }

  private emptyHeight(): { ascent: number; height: number } {
    const { face, size } = looks(this.block.mark, this.fonts);
    return {
      ascent: face.metrics.ascent * size,
      height: (face.metrics.ascent + face.metrics.descent + face.metrics.lineGap) * size,
    };
  }

  private measure(fragments: readonly Fragment[]): { ascent: number; height: number } {
    if (fragments.length === 0) return this.emptyHeight();
    let ascent = 0;
    let below = 0;
    for (const fragment of fragments) {
      if (fragment.inline.kind === "object") {
        ascent = Math.max(ascent, fragment.inline.height);
        continue;
      }
      const { face, size } = looks(fragment.inline.props, this.fonts);
      const raised = fragment.inline.props.position ?? 0;
      ascent = Math.max(ascent, face.metrics.ascent * size + raised);
      below = Math.max(below, (face.metrics.descent + face.metrics.lineGap) * size - raised);
    }
    return { ascent, height: ascent + below };
  }
}

/** `start` and `end`, and left and right of text that runs backwards (17.18.44). */
function alignOf(props: ParagraphProps): string {
  const align = props.align ?? "start";
  if (!props.rightToLeft) return align === "start" ? "left" : align === "end" ? "right" : align;
  if (align === "start" || align === "left" || align === "both") return align === "both" ? "both" : "right";
  return align === "end" || align === "right" ? "left" : align;
}

/** A line of an exact height, or of a share of its own, takes from what is above its letters. */
function raisedBy(height: number, { line }: ParagraphProps): number {
  if (line?.rule === "exact") return line.value - height;
  return line?.rule === "share" ? height * (line.value - 1) : 0;
}

/** Distance to the next line: 17.3.1.33. */
function lineDistance(metrics: { readonly ascent: number; readonly height: number }, props: ParagraphProps): number {
  const line = props.line ?? { rule: "auto", value: 1 };
  if (line.rule === "exact") return line.value;
  return line.rule === "atLeast" ? Math.max(metrics.height, line.value) : metrics.height * line.value;
}
