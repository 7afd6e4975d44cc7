import type { ShapedText } from "../fonts/index.js";

/** Lengths are points, measured from the page's upper left corner downwards. Colours are `RRGGBB`. */
export interface Page {
  readonly widthPt: number;
  readonly heightPt: number;
  readonly items: readonly PageItem[];
}

export type PageItem = TextItem | FillItem | LineItem | ImageItem | LinkItem;

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

export interface ImageItem extends Box {
  readonly kind: "image";
  readonly image: RasterImage;
  readonly description?: string;
}

export interface LinkItem extends Box {
  readonly kind: "link";
  readonly target: string;
}

/** A picture as it stands in the file; two with the same digest are stored once. */
export interface RasterImage {
  readonly format: "png" | "jpeg";
  readonly bytes: Uint8Array;
  readonly digest: string;
}
