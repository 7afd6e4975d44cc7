/** Fragments of blocks: what cannot be split over pages any further, or says how. */
import type { Fonts } from "../../fonts/index.js";
import { moveItems, type PageItem, type StructureNode } from "../../page/index.js";
import type { Block, Float, Note } from "./blocks.js";
import type { PageNumbers, RoomAt } from "./lines/line-breaking.js";
import type { ParagraphLine } from "./props.js";

export interface Fragment {
  readonly height: number;
  /** Of a line: how far it reaches from the left margin. */
  readonly width?: number;
  /** Blank above, which vanishes at the top of a page. */
  readonly before: number;
  /** Blank below, which vanishes at the bottom of a page. */
  readonly after: number;
  /** It stays on the page of the next fragment. */
  readonly keepNext: boolean;
  readonly breakBefore: boolean;
  readonly breakAfter: "page" | "column" | undefined;
  /** Header rows shown again above it when it starts a page. */
  readonly repeated?: readonly Fragment[];
  readonly outline?: { readonly title: string; readonly level: number } | undefined;
  readonly notes: readonly Note[];
  readonly places: readonly string[];
  readonly floats: readonly Float[];
  /** Of a paragraph's first line: the paragraph, to be set anew beside something. */
  readonly paragraph?: ((roomAt: RoomAt) => readonly Fragment[]) | undefined;
  /** A line of a paragraph other than its first. */
  readonly isFurtherLine?: boolean;
  /** Two fragments, the first no higher than the room; none where it cannot be cut there. */
  readonly split?: ((room: number) => readonly [Fragment, Fragment] | undefined) | undefined;
  /** Items with the fragment's upper left corner, at the text margin, at a place. */
  readonly draw: (numbers: PageNumbers, x: number, y: number) => readonly PageItem[];
}

/** What laying out needs beside the blocks. */
export interface LayingSite {
  readonly fonts: Fonts;
  /** Tab stops where a paragraph sets none, in points. */
  readonly defaultTab: number;
  /** The part of the document's structure that the blocks belong to. */
  readonly node: StructureNode;
  /** A single plain paragraph is the part itself, as in a table's cell. */
  readonly isCell?: boolean;
}

/** What a table needs beside that: how the blocks of its cells are laid and measured. */
export interface TableSite extends LayingSite {
  readonly blocks: {
    readonly lay: (blocks: readonly Block[], width: number, site: LayingSite) => Fragment[];
    readonly measure: (
      blocks: readonly Block[],
      site: LayingSite,
      withMost?: boolean,
    ) => { readonly least: number; readonly most: number };
  };
}

export function child(
  parent: StructureNode,
  role: string,
  more: Omit<StructureNode, "role" | "children"> = {},
): StructureNode {
  const node: StructureNode = { role, children: [], ...more };
  parent.children.push(node);
  return node;
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
  const { width, color } = border;
  const base: PageItem = { kind: "line", x1, y1, x2, y2, width, color };
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
  return [dash ? { ...base, dash: dash.map((length) => length * width) } : base];
}

/** Total height of fragments stacked without page breaks. */
export function stackHeight(fragments: readonly Fragment[]): number {
  return fragments.reduce((sum, fragment) => sum + fragment.before + fragment.height + fragment.after, 0);
}

/** Draws fragments one below the other; what floats in them stands where its line is. */
export function drawStack(fragments: readonly Fragment[], x: number, y: number, numbers: PageNumbers): PageItem[] {
  const items: PageItem[] = [];
  let at = y;
  for (const fragment of fragments) {
    at += fragment.before;
    for (const float of fragment.floats)
      items.push(drawnFloat(float, x + float.horizontal.offset, at + float.vertical.offset, numbers));
    for (const item of fragment.draw(numbers, x, at)) items.push(item);
    at += fragment.height + fragment.after;
  }
  return items;
}

/** Something that floats, drawn at a place. */
export function drawnFloat(float: Float, x: number, y: number, numbers: PageNumbers): PageItem {
  const items = moveItems(float.draw(numbers), x, y);
  return float.isText
    ? { kind: "group", clip: undefined, items }
    : { kind: "figure", x, y, width: float.width, height: float.height, description: float.description, items };
}
