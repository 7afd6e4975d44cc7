import type { Fonts } from "../../../fonts/index.js";
import { moveItems, type PageItem, shapeWords } from "../../../page/index.js";
import type { Inline } from "../blocks.js";
import type { RunProps } from "../props.js";
import { fieldText, looks, type PageNumbers, shapeRun, widthOfRun } from "./run-shaping.js";

/** A stretch of a line in one run, placed. */
export interface Fragment {
  readonly kind: "text" | "field" | "object";
  readonly text: string;
  readonly inline: Inline;
  x: number;
  readonly width: number;
  /** Behind a right or centre tab: how much of what it grows by goes to its left. */
  pull?: number;
}

export interface Leader {
  readonly from: number;
  to: number;
  readonly leader: string;
  readonly props: RunProps;
}

export interface LineFrame {
  readonly start: number;
  readonly room: number;
  readonly isLast: boolean;
  readonly ascent: number;
}

/** Draws one line of a paragraph. */
export class LineDrawer {
  constructor(
    private readonly fragments: readonly Fragment[],
    private readonly leaders: readonly Leader[],
    private readonly fonts: Fonts,
    private readonly align: string,
    private readonly frame: LineFrame,
  ) {}

  /** Items with the line's upper left corner at a place of the page. */
  draw(numbers: PageNumbers, left: number, top: number): PageItem[] {
    const items: PageItem[] = [];
    const { offset, wordSpacing } = this.placement();
    const ascent = top + this.frame.ascent;
    let spread = 0;
    // Fields are drawn as long as they are now; what follows moves with them.
    let longer = 0;
    const grown = this.hasFields ? this.fragments.map((fragment) => this.growth(fragment, numbers)) : undefined;
    const all = grown?.reduce((sum, one) => sum + one, 0) ?? 0;
    const aligned = this.align === "right" || this.align === "end" ? 1 : this.align === "center" ? 0.5 : 0;
    for (const [index, fragment] of this.fragments.entries()) {
      const pulled = all * (fragment.pull ?? aligned);
      const x = left + fragment.x + offset + spread + longer - pulled;
      const { inline } = fragment;
      if (inline.kind === "object") {
        const { width, height, description } = inline;
        const y = ascent - height - (inline.props.position ?? 0);
        items.push({ kind: "figure", x, y, width, height, description, items: moveItems(inline.draw(numbers), x, y) });
        continue;
      }
      const text = inline.kind === "field" ? fieldText(inline, numbers) : fragment.text;
      if (grown) longer += grown[index];
      if (text !== "") this.text(text, fragment, { x, ascent }, wordSpacing, items);
      if (wordSpacing > 0) spread += wordSpacing * blanksIn(text);
    }
    for (const leader of this.leaders) this.leader(leader, left + offset, ascent, items);
    return items;
  }

  private get hasFields(): boolean {
    return this.fragments.some((fragment) => fragment.kind === "field");
  }

  /** How much longer a field is than it was measured. */
  private growth({ inline, width }: Fragment, numbers: PageNumbers): number {
    if (inline.kind !== "field" || fieldText(inline, numbers) === inline.guess.text) return 0;
    return widthOfRun(fieldText(inline, numbers), inline.props, this.fonts) - width;
  }

  private placement(): { offset: number; wordSpacing: number } {
    if (this.align === "left") return AT_LEFT;
    const last = this.fragments[this.fragments.length - 1];
    const trailing = last?.kind === "text" ? (/ *$/.exec(last.text)?.[0] ?? "") : "";
    const trailingWidth = last && trailing !== "" ? widthOfRun(trailing, last.inline.props, this.fonts) : 0;
    const end = last ? last.x + last.width - trailingWidth : this.frame.start;
    const free = this.frame.start + this.frame.room - end;
    if (this.align === "right" || this.align === "end") return { offset: Math.max(0, free), wordSpacing: 0 };
    if (this.align === "center") return { offset: Math.max(0, free / 2), wordSpacing: 0 };
    const hasTab = this.fragments.some((fragment) => fragment.inline.kind === "tab");
    const isSpread = this.align === "distribute" || (this.align === "both" && !this.frame.isLast);
    if (isSpread && !hasTab && free > 0) {
      const blanks = this.fragments.reduce((sum, fragment) => sum + blanksIn(fragment.text), 0) - trailing.length;
      if (blanks > 0) return { offset: 0, wordSpacing: free / blanks };
    }
    return { offset: 0, wordSpacing: 0 };
  }

  private text(
    text: string,
    fragment: Fragment,
    { x, ascent }: { readonly x: number; readonly ascent: number },
    wordSpacing: number,
    into: PageItem[],
  ): void {
    const items: PageItem[] = [];
    const { props } = fragment.inline;
    const pieces = shapeRun(text, props, this.fonts);
    const full = looks(props, this.fonts);
    const color = props.color ?? "000000";
    const baseline =
      ascent -
      (props.position ?? 0) -
      (props.raised === "superscript" ? full.size * 0.35 : props.raised === "subscript" ? -full.size * 0.14 : 0);
    const spread = wordSpacing * blanksIn(text);
    const width = pieces.reduce((sum, piece) => sum + piece.shaped.width * piece.size, 0) + spread;
    const { metrics } = full.face;
    const box = {
      x,
      y: ascent - metrics.ascent * full.size,
      width,
      height: (metrics.ascent + metrics.descent) * full.size,
    };
    const ground = props.highlight ?? props.shading;
    if (ground) items.push({ kind: "fill", ...box, color: ground });
    if (props.border) items.push(...frameLines(box, props.border));
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
      at += piece.shaped.width * piece.size + wordSpacing * blanksIn(piece.text);
    }
    const thickness = metrics.underlineThickness * full.size;
    const ruled = (y: number, dash?: readonly number[], thick = 1): void => {
      items.push({
        kind: "line",
        x1: x,
        x2: x + width,
        y1: y,
        y2: y,
        width: thickness * thick,
        color: props.underlineColor ?? color,
        ...(dash ? { dash } : {}),
      });
    };
    if (props.underline) {
      const y = baseline + metrics.underlinePosition * full.size;
      const style = typeof props.underline === "string" ? props.underline : "single";
      const dash = /dot/i.test(style) ? [1, 1.5] : /dash/i.test(style) ? [3, 2] : undefined;
      ruled(y, dash, /thick|heavy/i.test(style) ? 2 : 1);
      if (/double/i.test(style)) ruled(y + 2 * thickness, dash);
    }
    if (props.strike) ruled(baseline - full.size * 0.28);
    if (props.doubleStrike) {
      ruled(baseline - full.size * 0.25);
      ruled(baseline - full.size * 0.32);
    }
    const link = "link" in fragment.inline ? fragment.inline.link : undefined;
    if (!link) into.push(...items);
    else into.push({ kind: "group", clip: undefined, items: [...items, { kind: "link", ...box, target: link }] });
  }

  private leader(leader: Leader, offset: number, ascent: number, items: PageItem[]): void {
    const sign =
      leader.leader === "dot" ? "." : leader.leader === "middleDot" ? "·" : leader.leader === "hyphen" ? "-" : "_";
    const { face, size } = looks(leader.props, this.fonts);
    const step = face.shape(sign).width * size;
    const count = Math.floor((leader.to - leader.from - 2) / step);
    if (count < 1) return;
    const x = leader.to - count * step + offset;
    items.push({
      kind: "text",
      x,
      y: ascent,
      size,
      color: leader.props.color ?? "000000",
      shaped: shapeWords(sign.repeat(count), face),
      isFiller: true,
    });
  }
}

const AT_LEFT = { offset: 0, wordSpacing: 0 };

function blanksIn(text: string): number {
  let count = 0;
  for (let at = text.indexOf(" "); at >= 0; at = text.indexOf(" ", at + 1)) count++;
  return count;
}

function frameLines(
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  border: { readonly width: number; readonly color: string },
): PageItem[] {
  const [right, bottom] = [box.x + box.width, box.y + box.height];
  const line = (x1: number, y1: number, x2: number, y2: number): PageItem => ({
    kind: "line",
    x1,
    y1,
    x2,
    y2,
    width: border.width,
    color: border.color,
  });
  return [
    line(box.x, box.y, right, box.y),
    line(right, box.y, right, bottom),
    line(box.x, bottom, right, bottom),
    line(box.x, box.y, box.x, bottom),
  ];
}
