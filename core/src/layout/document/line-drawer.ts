import type { Fonts } from "../../fonts/index.js";
import type { PageItem } from "../page.js";
import { shapeWords } from "../text-lines.js";
import type { Inline } from "./blocks.js";
import type { RunProps } from "./props.js";
import { fieldText, looks, type PageNumbers, shapeRun } from "./run-shaping.js";

/** A stretch of a line in one run, placed. */
export interface Fragment {
  readonly kind: "text" | "field" | "image";
  readonly text: string;
  readonly inline: Inline;
  x: number;
  readonly width: number;
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
