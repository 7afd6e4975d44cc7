/** Blocks cut into strips: what cannot be split over pages any further. */
import type { Fonts } from "../../fonts/index.js";
import { moveItems, type PageItem } from "../page.js";
import type { Block, ParagraphBlock } from "./blocks.js";
import { type Line, layParagraph, type PageNumbers } from "./paragraph-lines.js";
import { isDrawn, type ParagraphLine } from "./props.js";
import { layTable } from "./table-strips.js";

export interface Strip {
  readonly height: number;
  /** Blank above, which vanishes at the top of a page. */
  readonly before: number;
  /** Blank below, which vanishes at the bottom of a page. */
  readonly after: number;
  /** It stays on the page of the next strip. */
  readonly keepNext: boolean;
  readonly breakBefore: boolean;
  readonly breakAfter: boolean;
  /** Header rows shown again above it when it starts a page. */
  readonly repeated?: readonly Strip[];
  readonly outline?: { readonly title: string; readonly level: number };
  /** Items relative to the strip's upper left corner at the text margin. */
  readonly draw: (numbers: PageNumbers) => readonly PageItem[];
}

export function layBlocks(blocks: readonly Block[], width: number, fonts: Fonts): Strip[] {
  return blocks.flatMap((block, index) => {
    if (block.kind === "table") return layTable(block, width, fonts);
    const previous = blocks[index - 1];
    const next = blocks[index + 1];
    return paragraphStrips(block, width, fonts, {
      previous: previous?.kind === "paragraph" ? previous : undefined,
      next: next?.kind === "paragraph" ? next : undefined,
    });
  });
}

interface Neighbours {
  readonly previous: ParagraphBlock | undefined;
  readonly next: ParagraphBlock | undefined;
}

function paragraphStrips(block: ParagraphBlock, width: number, fonts: Fonts, neighbours: Neighbours): Strip[] {
  const { props } = block;
  const lines = layParagraph(block, width, fonts);
  const sameStyle = (other: ParagraphBlock | undefined): boolean =>
    other !== undefined && props.contextual === true && other.props.style === props.style;
  const before = sameStyle(neighbours.previous) ? 0 : (props.before ?? 0);
  const after = sameStyle(neighbours.next) ? 0 : (props.after ?? 0);
  const controlled = props.widowControl !== false;
  const title = block.inlines.map((inline) => (inline.kind === "text" ? inline.text : "")).join("");
  return lines.map((line, index): Strip => {
    const first = index === 0;
    const last = index === lines.length - 1;
    // The first two and the last two lines stay together.
    const lonely = controlled && lines.length > 1 && (index === 0 || index === lines.length - 2);
    const frame = { first: first && !joins(neighbours.previous, block), last: last && !joins(block, neighbours.next) };
    const above = frame.first ? borderRoom(props.borders?.top) : 0;
    const below = frame.last ? borderRoom(props.borders?.bottom) : 0;
    return {
      height: above + line.height + below,
      before: first ? before : 0,
      after: last ? after : 0,
      keepNext: last ? props.keepNext === true : props.keepLines === true || lonely,
      breakBefore: first && props.pageBreakBefore === true,
      breakAfter: line.breaksPage,
      ...(first && props.outlineLevel !== undefined && title.trim() !== ""
        ? { outline: { title: title.trim(), level: props.outlineLevel } }
        : {}),
      draw: (numbers) => moveItems([...paragraphGround(block, line, width, frame), ...line.draw(numbers)], 0, above),
    };
  });
}

/** The room a border takes between text and neighbour. */
function borderRoom(border: ParagraphLine | undefined): number {
  return isDrawn(border) ? border.space + border.width : 0;
}

/** Paragraphs with the same borders share one frame (17.3.1.24). */
function joins(a: ParagraphBlock | undefined, b: ParagraphBlock | undefined): boolean {
  if (!a?.props.borders || !b?.props.borders) return false;
  return JSON.stringify(a.props.borders) === JSON.stringify(b.props.borders) && a.props.left === b.props.left;
}

function paragraphGround(
  block: ParagraphBlock,
  line: Line,
  width: number,
  ends: { readonly first: boolean; readonly last: boolean },
): PageItem[] {
  const { borders, shading } = block.props;
  if (!borders && !shading) return [];
  const items: PageItem[] = [];
  const left = (block.props.left ?? 0) - (borders?.left?.space ?? 0);
  const right = width - (block.props.right ?? 0) + (borders?.right?.space ?? 0);
  const top = ends.first ? -(borders?.top?.space ?? 0) : 0;
  const bottom = line.height + (ends.last ? (borders?.bottom?.space ?? 0) : 0);
  if (shading) items.push({ kind: "fill", x: left, y: top, width: right - left, height: bottom - top, color: shading });
  const add = (border: ParagraphLine | undefined, x1: number, y1: number, x2: number, y2: number): void => {
    if (isDrawn(border)) items.push(...borderLine(border, x1, y1, x2, y2));
  };
  if (ends.first) add(borders?.top, left, top, right, top);
  if (ends.last) add(borders?.bottom, left, bottom, right, bottom);
  add(borders?.left, left, top, left, bottom);
  add(borders?.right, right, top, right, bottom);
  return items;
}

const DASHES: Readonly<Record<string, readonly number[]>> = {
  dotted: [1, 1],
  dashed: [3, 2],
  dashSmallGap: [3, 1],
  dotDash: [4, 2, 1, 2],
  dotDotDash: [4, 2, 1, 2, 1, 2],
};

/** A border line; a double one is two thin lines with a gap as wide. */
export function borderLine(border: ParagraphLine, x1: number, y1: number, x2: number, y2: number): PageItem[] {
  const base = { kind: "line", x1, y1, x2, y2, width: border.width, color: border.color } as const;
  if (border.style === "double") {
    const [dx, dy] = y1 === y2 ? [0, border.width] : [border.width, 0];
    return [1, -1].map((side) => ({
      ...base,
      x1: x1 + side * dx,
      x2: x2 + side * dx,
      y1: y1 + side * dy,
      y2: y2 + side * dy,
    }));
  }
  const dash = DASHES[border.style];
  return [{ ...base, ...(dash ? { dash: dash.map((length) => length * border.width) } : {}) }];
}

/** Total height of strips stacked without page breaks. */
export function stackHeight(strips: readonly Strip[]): number {
  return strips.reduce((sum, strip) => sum + strip.before + strip.height + strip.after, 0);
}

/** Draws strips one below the other. */
export function drawStack(strips: readonly Strip[], x: number, y: number, numbers: PageNumbers): PageItem[] {
  const items: PageItem[] = [];
  let at = y;
  for (const strip of strips) {
    at += strip.before;
    items.push(...moveItems(strip.draw(numbers), x, at));
    at += strip.height + strip.after;
  }
  return items;
}
