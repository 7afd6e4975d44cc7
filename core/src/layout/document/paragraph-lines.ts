/** A paragraph broken into lines. Positions on a line are relative to its upper left corner at the text margin. */
import type { Fonts } from "../../fonts/index.js";
import type { PageItem } from "../page.js";
import type { ParagraphBlock } from "./blocks.js";
import { type Fragment, LineDrawer } from "./line-drawer.js";
import { type Token, tokens, type WordPart } from "./line-tokens.js";
import type { ParagraphProps, RunProps, TabStop } from "./props.js";
import { fieldText, GUESS, looks, type PageNumbers, shapeRun } from "./run-shaping.js";

export type { PageNumbers };

export interface Line {
  readonly height: number;
  /** A page break stands at the end of the line. */
  readonly breaksPage: boolean;
  readonly draw: (numbers: PageNumbers) => PageItem[];
}

/** Tab stops where a paragraph sets none, in points. */
const DEFAULT_TAB = 36;

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
