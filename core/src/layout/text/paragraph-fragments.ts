/** Paragraphs as fragments, a line each, with their borders and grounds. */
import type { Fonts } from "../../fonts/index.js";
import { moveItems, type PageItem, type StructureNode } from "../../page/index.js";
import { isPlain, type ParagraphBlock, textOf } from "./blocks.js";
import { borderLine, child, type Fragment, type LayingSite } from "./fragment.js";
import { layParagraph, type RoomAt, type TextLine } from "./lines/line-breaking.js";
import { isDrawn, type ParagraphLine } from "./props.js";

/** Gives paragraphs their place in the structure: headings, list items with their lists, plain ones. */
export class ListNodes {
  private readonly open: { readonly level: number; readonly node: StructureNode }[] = [];

  constructor(
    private readonly parent: StructureNode,
    /** The parent itself is a plain paragraph's part. */
    private readonly isOne: boolean,
  ) {}

  end(): void {
    this.open.length = 0;
  }

  nodeFor(block: ParagraphBlock): StructureNode {
    const { outlineLevel, numbering } = block.props;
    if (outlineLevel !== undefined && outlineLevel < 9) {
      this.end();
      return child(this.parent, `H${Math.min(6, outlineLevel + 1)}`);
    }
    if (!numbering || block.label === undefined) {
      this.end();
      return this.isOne ? this.parent : child(this.parent, "P");
    }
    while (this.open.length > 0 && this.open[this.open.length - 1].level > numbering.level) this.open.pop();
    const top = this.open[this.open.length - 1];
    if (!top || top.level < numbering.level) {
      const last = top?.node.children[top.node.children.length - 1];
      this.open.push({ level: numbering.level, node: child(last ?? this.parent, "L") });
    }
    return child(child(this.open[this.open.length - 1].node, "LI"), "LBody");
  }
}

export interface Neighbours {
  readonly previous: ParagraphBlock | undefined;
  readonly next: ParagraphBlock | undefined;
}

/** The lines of a paragraph between its neighbours. */
export function paragraphFragments(
  block: ParagraphBlock,
  width: number,
  site: LayingSite,
  place: { readonly node: StructureNode; readonly neighbours: Neighbours },
  roomAt?: RoomAt,
): Fragment[] {
  const { props } = block;
  const { node, neighbours } = place;
  const lines = roomAt ? layParagraph(block, width, site.fonts, site.defaultTab, roomAt) : linesOf(block, width, site);
  const sameStyle = (other: ParagraphBlock | undefined): boolean =>
    other !== undefined && props.contextual === true && other.props.style === props.style;
  const above = sameStyle(neighbours.previous) ? 0 : (props.before ?? 0);
  // Between two paragraphs the larger of the blanks counts only where the document asks for it; else they add up.
  const after = sameStyle(neighbours.next) ? 0 : (props.after ?? 0);
  const controlled = props.widowControl !== false;
  // The label of a numbered heading is the first of its text.
  const title = props.outlineLevel === undefined ? "" : textOf(block).replace(/\s+/g, " ").trim();
  return lines.map((line, index): Fragment => {
    const first = index === 0;
    const last = index === lines.length - 1;
    // The first two and the last two lines stay together.
    const lonely = controlled && lines.length > 1 && (index === 0 || index === lines.length - 2);
    const frame = { first: first && !joins(neighbours.previous, block), last: last && !joins(block, neighbours.next) };
    const top = frame.first ? borderRoom(props.borders?.top) : 0;
    const below = frame.last ? borderRoom(props.borders?.bottom) : 0;
    return {
      height: top + line.height + below,
      width: line.width,
      before: first ? above : 0,
      after: last ? after : 0,
      keepNext: last ? props.keepNext === true : props.keepLines === true || lonely,
      breakBefore: first && props.pageBreakBefore === true,
      breakAfter: line.breaks,
      notes: line.notes,
      places: line.places,
      floats: line.floats,
      outline:
        first && props.outlineLevel !== undefined && props.outlineLevel < 9 && title !== ""
          ? { title, level: props.outlineLevel }
          : undefined,
      isFurtherLine: !first,
      paragraph: first && !roomAt ? (room: RoomAt) => paragraphFragments(block, width, site, place, room) : undefined,
      draw: (numbers, x, y) => {
        const text: PageItem = { kind: "tagged", node, items: line.draw(numbers, x, y + top) };
        if (!props.borders && !props.shading && line.places.length === 0) return [text];
        return [
          ...moveItems(ground(block, line, width, frame), x, y + top),
          ...line.places.map((name) => ({ kind: "place" as const, name, x, y })),
          text,
        ];
      },
    };
  });
}

/** Lines of paragraphs of nothing but text: cells written alike share their paragraphs, and stand in columns of one width. */
const LINES = new WeakMap<
  ParagraphBlock,
  { readonly width: number; readonly fonts: Fonts; readonly lines: TextLine[] }
>();

function linesOf(block: ParagraphBlock, width: number, { fonts, defaultTab, isCell }: LayingSite): readonly TextLine[] {
  if (!isCell) return layParagraph(block, width, fonts, defaultTab);
  const known = LINES.get(block);
  if (known?.width === width && known.fonts === fonts) return known.lines;
  const lines = layParagraph(block, width, fonts, defaultTab);
  if (isPlain(block)) LINES.set(block, { width, fonts, lines });
  return lines;
}

function ground(
  block: ParagraphBlock,
  line: TextLine,
  width: number,
  frame: { first: boolean; last: boolean },
): PageItem[] {
  const items = paragraphGround(block, line, width, frame);
  return items.length === 0 ? items : [{ kind: "tagged", node: undefined, items }];
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
  line: TextLine,
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
  else add(borders?.between, left, 0, right, 0);
  if (ends.last) add(borders?.bottom, left, bottom, right, bottom);
  add(borders?.left, left, top, left, bottom);
  add(borders?.right, right, top, right, bottom);
  return items;
}
