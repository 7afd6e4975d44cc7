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
  | GroupItem
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
    | { readonly color: string; readonly width: number; readonly dash?: readonly number[] | undefined }
    | undefined;
  /** From 0 to 1; 1 without it. */
  readonly opacity?: number | undefined;
  /** Shown only within this rectangle. */
  readonly clip?: Box | undefined;
}

/** Items that belong together; with a rectangle only what lies in it shows. */
export interface GroupItem {
  readonly kind: "group";
  readonly clip: Box | undefined;
  readonly items: readonly PageItem[];
}

/** A ground whose colour changes along a line. */
export interface ShadeItem extends Box {
  readonly kind: "shade";
  /** Direction in degrees, 0 to the right, 90 downwards. */
  readonly angle: number;
  readonly stops: readonly { readonly at: number; readonly color: string }[];
}

export interface ImageItem extends Box {
  readonly kind: "image";
  readonly image: RasterImage;
  readonly description?: string;
}

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
  const moved = <T extends Box>(box: T): T => ({
    ...box,
    x: box.x * scale + dx,
    y: box.y * scale + dy,
    width: box.width * scale,
    height: box.height * scale,
  });
  const length = (value: number): number => value * scale;
  return items.map((item): PageItem => {
    switch (item.kind) {
      case "line":
        return {
          ...item,
          x1: item.x1 * scale + dx,
          x2: item.x2 * scale + dx,
          y1: item.y1 * scale + dy,
          y2: item.y2 * scale + dy,
          width: item.width * scale,
          ...(item.dash && { dash: item.dash.map(length) }),
        };
      case "text":
        return {
          ...item,
          x: item.x * scale + dx,
          y: item.y * scale + dy,
          size: item.size * scale,
          ...(item.wordSpacing !== undefined && { wordSpacing: item.wordSpacing * scale }),
          ...(item.clip && { clip: moved(item.clip) }),
        };
      case "path":
        return {
          ...item,
          commands: item.commands.map((command) =>
            moveCommand(
              command,
              (x) => x * scale + dx,
              (y) => y * scale + dy,
            ),
          ),
          ...(item.stroke && {
            stroke: { ...item.stroke, width: item.stroke.width * scale, dash: item.stroke.dash?.map(length) },
          }),
          ...(item.clip && { clip: moved(item.clip) }),
        };
      case "group":
        return { ...item, clip: item.clip && moved(item.clip), items: moveItems(item.items, dx, dy, scale) };
      case "figure":
        return { ...moved(item), items: moveItems(item.items, dx, dy, scale) };
      case "tagged":
        return { ...item, items: moveItems(item.items, dx, dy, scale) };
      case "place":
        return { ...item, x: item.x * scale + dx, y: item.y * scale + dy };
      default:
        return moved(item);
    }
  });
}

/** All items, those inside others too. */
export function* eachItem(
  items: readonly PageItem[],
): Generator<Exclude<PageItem, GroupItem | FigureItem | TaggedItem>> {
  for (const item of items)
    if (item.kind === "group" || item.kind === "figure" || item.kind === "tagged") yield* eachItem(item.items);
    else yield item;
}
