/** The body of a document as blocks to be laid out. */
import type { PageItem, StructureNode } from "../../page/index.js";
import type { PageNumbers } from "./lines/run-shaping.js";
import type { ParagraphLine, ParagraphProps, RunProps } from "./props.js";

export type Inline =
  | { readonly kind: "text"; readonly text: string; readonly props: RunProps; readonly link?: string }
  | { readonly kind: "tab"; readonly props: RunProps; readonly alignment?: "left" | "center" | "right" | undefined }
  | { readonly kind: "break"; readonly what: "line" | "page" | "column"; readonly props: RunProps }
  | FieldInline
  | {
      /** A picture, chart or shape that stands in the line. */
      readonly kind: "object";
      readonly width: number;
      readonly height: number;
      readonly description: string;
      readonly draw: Drawn;
      readonly props: RunProps;
    }
  | { readonly kind: "float"; readonly float: Float; readonly props: RunProps }
  /** A place that links and page references lead to. */
  | { readonly kind: "place"; readonly name: string; readonly props: RunProps }
  /** The sign of a foot- or endnote. */
  | { readonly kind: "note"; readonly note: Note; readonly props: RunProps };

/** Items relative to an upper left corner. */
export type Drawn = (numbers: PageNumbers) => readonly PageItem[];

/** A field whose text depends on the pages. */
export interface FieldInline {
  readonly kind: "field";
  readonly what: "page" | "pages" | "sectionPages" | "pageOf";
  /** Of `pageOf`: the place whose page it names. */
  readonly target?: string | undefined;
  readonly format: string;
  readonly props: RunProps;
  readonly link?: string;
  /** What it is measured with before the pages are known; set anew when they are. */
  readonly guess: { text: string };
}

export interface Note {
  readonly kind: "footnote" | "endnote";
  readonly label: string;
  readonly blocks: readonly Block[];
}

/** Something beside the text: text flows around it, or not. Lengths in points. */
export interface Float {
  readonly width: number;
  readonly height: number;
  readonly wrap: "none" | "square" | "topAndBottom";
  readonly behind: boolean;
  readonly distance: Readonly<Record<"top" | "bottom" | "left" | "right", number>>;
  readonly horizontal: FloatPlace;
  readonly vertical: FloatPlace;
  readonly description: string;
  /** Text in it is read where it is anchored; a picture is a figure. */
  readonly isText: boolean;
  /** What the text in it belongs to. */
  readonly node?: StructureNode | undefined;
  readonly draw: Drawn;
}

export interface FloatPlace {
  /** `page`, `margin`, `column`, `paragraph`, … as 20.4.3.4 and 20.4.3.5 name them. */
  readonly from: string;
  readonly align: string | undefined;
  readonly offset: number;
}

export interface ParagraphBlock {
  readonly kind: "paragraph";
  readonly props: ParagraphProps;
  /** Looks of the paragraph's mark: the height of an empty line. */
  readonly mark: RunProps;
  readonly inlines: readonly Inline[];
  /** The label of a list's item, as text. */
  readonly label?: string | undefined;
  /** The section that ends with this paragraph. */
  readonly section?: PageSection;
}

export interface TableCellBlock {
  readonly span: number;
  readonly merge: "none" | "start" | "continue";
  readonly blocks: readonly Block[];
  readonly borders: Readonly<Record<string, ParagraphLine | undefined>>;
  readonly margins: Readonly<Record<string, number>>;
  readonly shading: string | undefined;
  readonly vertical: string;
  /** Turned text: downwards or upwards. */
  readonly turned: "down" | "up" | undefined;
  readonly noWrap: boolean;
  /** Preferred width in points, or a share of the table's. */
  readonly preferred: Length | undefined;
}

export interface Length {
  readonly unit: "pt" | "share";
  readonly value: number;
}

export interface TableRowBlock {
  readonly cells: readonly TableCellBlock[];
  /** Grid columns left out before the first cell. */
  readonly before: number;
  readonly height: { readonly rule: "auto" | "atLeast" | "exact"; readonly value: number };
  readonly isHeader: boolean;
  readonly cantSplit: boolean;
}

export interface TableBlock {
  readonly kind: "table";
  /** Grid columns as stored. */
  readonly columns: readonly number[];
  readonly width: Length | undefined;
  readonly isFixed: boolean;
  readonly indent: number;
  readonly align: string;
  readonly borders: Readonly<Record<string, ParagraphLine | undefined>>;
  readonly margins: Readonly<Record<string, number>>;
  readonly rows: readonly TableRowBlock[];
  readonly description: string;
  /** Set beside the text. */
  readonly float?: Omit<Float, "width" | "height" | "draw" | "isText" | "description" | "node"> | undefined;
}

/** A table of contents: its entries are made from the headings. */
export interface ContentsBlock {
  readonly kind: "contents";
  /** Outline levels it lists, from 0. */
  readonly from: number;
  readonly to: number;
  /** Looks of an entry by level, with its tab stops. */
  readonly entry: (level: number) => { readonly props: ParagraphProps; readonly run: RunProps };
  /** What stands behind its field in the same paragraph. */
  readonly rest: readonly ParagraphBlock[];
  /** Its paragraphs as they are stored, for contents of other things than headings. */
  readonly stored: readonly ParagraphBlock[];
}

export type Block = ParagraphBlock | TableBlock | ContentsBlock;

/** Page size, margins, header and footer of a section: 17.6. */
export interface PageSection {
  readonly width: number;
  readonly height: number;
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
  readonly header: number;
  readonly footer: number;
  readonly headers: Readonly<Record<string, string>>;
  readonly footers: Readonly<Record<string, string>>;
  readonly titlePage: boolean;
  readonly start: string;
  /** Page number it starts with, where it restarts. */
  readonly firstPage: number | undefined;
  readonly numberFormat: string;
  readonly columns: { readonly count: number; readonly space: number; readonly line: boolean };
  readonly vertical: string;
  readonly borders: PageBorders | undefined;
}

export interface PageBorders {
  readonly fromPage: boolean;
  readonly display: string;
  readonly lines: Readonly<Record<string, ParagraphLine | undefined>>;
}

/** Whether a block is a paragraph of nothing but text: it is laid out alike wherever it stands. */
export function isPlain(block: Block): block is ParagraphBlock {
  return block.kind === "paragraph" && block.label === undefined && !block.section && block.inlines.every(isText);
}

function isText({ kind }: Inline): boolean {
  return kind === "text" || kind === "tab" || kind === "break";
}

/** The text of a block that readers see, without labels. */
export function textOf(block: ParagraphBlock): string {
  return block.inlines
    .map((inline) => (inline.kind === "text" ? inline.text : inline.kind === "tab" ? " " : ""))
    .join("")
    .replaceAll("\u00ad", "");
}
