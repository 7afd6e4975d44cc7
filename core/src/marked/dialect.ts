/** How a kind of file writes text: what is the same in documents and slides goes by local names, what differs stands here. */
import type { XmlElement } from "../ooxml/index.js";
import type { Structure } from "../template/index.js";
import type { ChartPiece, PicturePiece } from "./template-nodes.js";

export interface Dialect {
  /** Elements whose text may hold marks. */
  readonly texts: ReadonlySet<string>;
  /** Elements that have to end with a paragraph. */
  readonly cells: ReadonlySet<string>;
  /** What a paragraph stands in, and what stands in it, as far as a table takes the place of all of it. */
  readonly ofParagraphs: ReadonlySet<string>;
  /** Whether an element shows something: a paragraph, row or shape without any holds nothing but marks of structure. */
  readonly isShown: (element: XmlElement) => boolean;
  /** The place that an element is, within another; nothing for most. */
  readonly placeOf: (element: XmlElement, where: string) => string | undefined;
  readonly paragraphPlace: (where: string, number: number) => string;
  /** A paragraph as it is looked at for marks. */
  readonly paragraph: (paragraph: XmlElement) => XmlElement;
  /** What stands in the braces of a mark of structure. Throws `BAD_MARK` with the place. */
  readonly structure: (source: string, where: string) => Structure;
  /** The table that goes where a paragraph stands, whatever its text. */
  readonly tableAt: (paragraph: XmlElement) => Structure | undefined;
  /** The table of an element that goes when its table has no rows. */
  readonly tableIn: (element: XmlElement) => XmlElement | undefined;
  /** A drawing whose picture or chart a mark in its alternative text chooses. */
  readonly drawing: (element: XmlElement, where: string) => PicturePiece | ChartPiece | undefined;
  /** The relationship that an element's link goes by, and its address, where marks stand in it. */
  readonly linkIn: (element: XmlElement) => { readonly attribute: string; readonly address: string } | undefined;
  readonly hasBookmarks: boolean;
  /** Whether columns and shapes may repeat to the right. */
  readonly goesAcross: boolean;
  /** The start tag of a text element whose blanks count. */
  readonly openText: (name: string) => string;
  /** A value's text inside a text element; its line ends become breaks. */
  readonly runText: (text: string, prefix: string, runProperties: string) => string;
  /** A run's properties with **strong** or *emphasised*. */
  readonly withSign: (runProperties: string, prefix: string, sign: "b" | "i") => string;
}

/** What filling a part changes beside its own text. */
export interface FillingPart {
  readonly dialect: Dialect;
  /** A repetition that is not the first: what has to be there only once is made anew. */
  readonly again: (xml: string, restarts: readonly string[]) => string;
  /** What stands in a text that has to be made anew so; without it that is not known beforehand. */
  readonly signs?: readonly string[];
  readonly onNewPage: (xml: string) => string;
  /** A table whose rows or columns were repeated, below so many that head it. */
  readonly table: (xml: string, heads: number | undefined) => string;
  readonly picture: (piece: Pick<PicturePiece, "xml" | "code" | "where">, text: string) => string;
  readonly chart: (xml: string, change: (chart: XmlElement) => MadeChart) => string;
  /** The relationship that leads to an address outside. */
  readonly link: (address: string) => string;
  /** A repetition of shapes, put beside those before it. */
  readonly moved: (xml: string, index: number, box: ShapeBox) => string;
}

/** A chart with its values, and the workbook that holds them. */
export interface MadeChart {
  readonly chart: XmlElement;
  readonly workbook: Uint8Array;
}

/** Where shapes that repeat stand, and which way they go; in the file's units. */
export interface ShapeBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly across: boolean;
}
