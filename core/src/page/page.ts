import type { ShapedText } from "../fonts/index.js";

/** Lengths are points, measured from the page's upper left corner downwards. Colours are `RRGGBB`. */
export interface Page {
  readonly widthPt: number;
  readonly heightPt: number;
  readonly items: readonly PageItem[];
}

export type PageItem =
  | TextItem
  | FillItem
  | LineItem
  | ImageItem
  | LinkItem
  | PathItem
  | ShadeItem
  | TileItem
  | GroupItem
  | TurnedItem
  | FigureItem
  | TaggedItem
  | PlaceItem;

/** A picture, chart or shape with what it says to those who do not see it. */
export interface FigureItem extends Box {
  readonly kind: "figure";
  readonly description: string;
  readonly items: readonly PageItem[];
}

/** Items that belong to a part of the document's structure; without one they only decorate the page. */
export interface TaggedItem {
  readonly kind: "tagged";
  readonly node: StructureNode | undefined;
  readonly items: readonly PageItem[];
}

/** A place that links lead to. */
export interface PlaceItem {
  readonly kind: "place";
  readonly name: string;
  readonly x: number;
  readonly y: number;
}

/** A part of a document's logical structure: ISO 32000-1, 14.7 and 14.8. */
export interface StructureNode {
  /** A standard structure type: `P`, `H1`, `Table`, `TD`, … */
  readonly role: string;
  readonly children: StructureNode[];
  /** Of a header cell: what it heads. */
  readonly scope?: "Column" | "Row" | undefined;
  readonly columns?: number | undefined;
  readonly rows?: number | undefined;
}

/** One stretch of text on a line in one size and colour. */
export interface TextItem {
  readonly kind: "text";
  readonly x: number;
  /** The baseline. */
  readonly y: number;
  readonly size: number;
  readonly color: string;
  readonly shaped: ShapedText;
  /** Added behind each blank, for justified lines. */
  readonly wordSpacing?: number;
  /** Shown only within this rectangle. */
  readonly clip?: Box;
  /** Only fills room, such as dots before a page number. */
  readonly isFiller?: boolean;
  /** Turned anticlockwise about its start, in degrees. */
  readonly rotation?: number;
}

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface FillItem extends Box {
  readonly kind: "fill";
  readonly color: string;
}

export interface LineItem {
  readonly kind: "line";
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  readonly width: number;
  readonly color: string;
  /** Lengths of strokes and gaps in turn. */
  readonly dash?: readonly number[];
}

/** Moving, drawing a line, drawing a curve with two points that pull it, closing. */
export type PathCommand =
  | readonly ["M" | "L", number, number]
  | readonly ["C", number, number, number, number, number, number]
  | readonly ["Z"];

type Move = (along: number) => number;

function moveCommand(command: PathCommand, x: Move, y: Move): PathCommand {
  switch (command[0]) {
    case "Z":
      return command;
    case "C": {
      const [kind, ax, ay, bx, by, cx, cy] = command;
      return [kind, x(ax), y(ay), x(bx), y(by), x(cx), y(cy)];
    }
    default: {
      const [kind, ax, ay] = command;
      return [kind, x(ax), y(ay)];
    }
  }
}

export interface PathItem {
  readonly kind: "path";
  readonly commands: readonly PathCommand[];
  readonly fill?: string | undefined;
  readonly stroke?:
    | {
        readonly color: string;
        readonly width: number;
        readonly dash?: readonly number[] | undefined;
        /** How its ends look; cut off straight without it. */
        readonly cap?: "round" | "square" | undefined;
      }
    | undefined;
  /** From 0 to 1; 1 without it. */
  readonly opacity?: number | undefined;
  /** Shown only within this rectangle. */
  readonly clip?: Box | undefined;
}

/** Items that belong together; with a rectangle or an outline only what lies in it shows. */
export interface GroupItem {
  readonly kind: "group";
  readonly clip: Box | undefined;
  readonly outline?: readonly PathCommand[] | undefined;
  readonly items: readonly PageItem[];
}

/** Items in a system of their own: turned, flipped, made larger or smaller. */
export interface TurnedItem {
  readonly kind: "turned";
  readonly matrix: Matrix;
  readonly items: readonly PageItem[];
}

/** What a point becomes: `x' = a x + c y + e`, `y' = b x + d y + f`. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export interface ShadeStop {
  /** From 0 to 1. */
  readonly at: number;
  readonly color: string;
  /** From 0 to 1, where stops differ in it. */
  readonly opacity?: number | undefined;
}

/** A ground whose colour changes along a line, or outwards from a point. */
export interface ShadeItem extends Box {
  readonly kind: "shade";
  /** Direction in degrees, 0 to the right, 90 downwards. */
  readonly angle: number;
  readonly stops: readonly ShadeStop[];
  /** From where colours go outwards, as shares of the rectangle, as far as its corners. */
  readonly from?: { readonly x: number; readonly y: number } | undefined;
  readonly opacity?: number | undefined;
}

/** A ground covered with repetitions of a cell, whose items are measured from its upper left corner. */
export interface TileItem extends Box {
  readonly kind: "tile";
  readonly cell: Box;
  readonly items: readonly PageItem[];
}

export interface ImageItem extends Box {
  readonly kind: "image";
  readonly image: RasterImage;
  readonly description?: string;
  readonly opacity?: number | undefined;
  /** What becomes of its colours. */
  readonly recolor?: Recolor | undefined;
}

/** Changes of a picture's colours, in this order. */
export type Recolor = readonly (
  | { readonly kind: "gray" }
  /** From 0 to 1: above it white, else black. */
  | { readonly kind: "split"; readonly at: number }
  /** Between two colours by lightness, `RRGGBB`. */
  | { readonly kind: "between"; readonly dark: string; readonly light: string }
  /** From -1 to 1 each. */
  | { readonly kind: "light"; readonly bright: number; readonly contrast: number }
)[];

export interface LinkItem extends Box {
  readonly kind: "link";
  /** An address, or `#` and the name of a place. */
  readonly target: string;
}

/** A picture as it stands in the file; two with the same digest are stored once. */
export interface RasterImage {
  readonly format: "png" | "jpeg";
  readonly bytes: Uint8Array;
  readonly digest: string;
  /** In pixels. */
  readonly width: number;
  readonly height: number;
  /** Colours of a pixel as they are stored: 1, 3 or 4. */
  readonly components: number;
}

/** Moves items by an offset, and makes them larger or smaller before that. */
export function moveItems(items: readonly PageItem[], dx: number, dy: number, scale = 1): PageItem[] {
  const moved = <T extends Box>(box: T): T => movedBox(box, dx, dy, scale);
  const length = (value: number): number => value * scale;
  const across: Move = (x) => x * scale + dx;
  const down: Move = (y) => y * scale + dy;
  return items.map((item): PageItem => {
    switch (item.kind) {
      case "line":
        return movedLine(item, dx, dy, scale);
      case "text":
        return movedText(item, dx, dy, scale);
      case "path":
        return {
          ...item,
          commands: item.commands.map((command) => moveCommand(command, across, down)),
          ...(item.stroke && {
            stroke: { ...item.stroke, width: item.stroke.width * scale, dash: item.stroke.dash?.map(length) },
          }),
          ...(item.clip && { clip: moved(item.clip) }),
        };
      case "group":
        return {
          ...item,
          clip: item.clip && moved(item.clip),
          ...(item.outline && { outline: item.outline.map((command) => moveCommand(command, across, down)) }),
          items: moveItems(item.items, dx, dy, scale),
        };
      case "turned": {
        const [a, b, c, d, e, f] = item.matrix;
        return { ...item, matrix: [a * scale, b * scale, c * scale, d * scale, across(e), down(f)] };
      }
      case "tile":
        return { ...moved(item), cell: moved(item.cell), items: moveItems(item.items, 0, 0, scale) };
      case "figure":
        return { ...moved(item), items: moveItems(item.items, dx, dy, scale) };
      case "tagged":
        return { kind: "tagged", node: item.node, items: moveItems(item.items, dx, dy, scale) };
      case "place":
        return { ...item, x: item.x * scale + dx, y: item.y * scale + dy };
      default:
        return moved(item);
    }
  });
}

/** Text is what there is most of: what it mostly does not have is not asked for twice. */
function movedText(item: TextItem, dx: number, dy: number, scale: number): TextItem {
  const moved = { ...item, x: item.x * scale + dx, y: item.y * scale + dy, size: item.size * scale };
  if (item.wordSpacing === undefined && item.clip === undefined) return moved;
  const [clip] = item.clip ? [movedBox(item.clip, dx, dy, scale)] : [];
  const wordSpacing = item.wordSpacing === undefined ? undefined : item.wordSpacing * scale;
  return { ...moved, ...(wordSpacing === undefined ? {} : { wordSpacing }), ...(clip ? { clip } : {}) };
}

function movedLine(item: LineItem, dx: number, dy: number, scale: number): LineItem {
  const moved = {
    ...item,
    x1: item.x1 * scale + dx,
    x2: item.x2 * scale + dx,
    y1: item.y1 * scale + dy,
    y2: item.y2 * scale + dy,
    width: item.width * scale,
  };
  return item.dash ? { ...moved, dash: item.dash.map((length) => length * scale) } : moved;
}

function movedBox<T extends Box>(box: T, dx: number, dy: number, scale: number): T {
  return {
    ...box,
    x: box.x * scale + dx,
    y: box.y * scale + dy,
    width: box.width * scale,
    height: box.height * scale,
  };
}

/** All items, those inside others too. */
export function* eachItem(items: readonly PageItem[]): Generator<Exclude<PageItem, HoldingItem>> {
  for (const item of items)
    if (holdsItems(item)) yield* eachItem(item.items);
    else yield item;
}

/** What is nothing but other items in some way. */
export type HoldingItem = GroupItem | TurnedItem | FigureItem | TaggedItem;

export function holdsItems(item: PageItem): item is HoldingItem {
  return item.kind === "group" || item.kind === "turned" || item.kind === "figure" || item.kind === "tagged";
}

/** One system in another: a point goes through the second first. */
export function inSystem(outer: Matrix, inner: Matrix): Matrix {
  const [a, b, c, d, e, f] = outer;
  const [g, h, i, j, k, l] = inner;
  return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f];
}

/** The least rectangle around one that is turned. */
export function boxIn(matrix: Matrix, box: Box): Box {
  const [a, b, c, d, e, f] = matrix;
  const corners = [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x, box.y + box.height],
    [box.x + box.width, box.y + box.height],
  ].map(([x, y]) => [a * x + c * y + e, b * x + d * y + f]);
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}

/** Items that belong to no part of the structure: those of parts among them stand where the parts stood. */
export function untagged(items: readonly PageItem[]): PageItem[] {
  return items.flatMap((item): PageItem[] => {
    if (item.kind === "tagged") return untagged(item.items);
    return holdsItems(item) ? [{ ...item, items: untagged(item.items) }] : [item];
  });
}
