/** The body of a document as blocks to be laid out. */

import type { RasterImage } from "../page.js";
import type { ParagraphLine, ParagraphProps, RunProps } from "./props.js";

export type Inline =
  | { readonly kind: "text"; readonly text: string; readonly props: RunProps; readonly link?: string }
  | { readonly kind: "tab"; readonly props: RunProps }
  | { readonly kind: "break"; readonly what: "line" | "page" | "column"; readonly props: RunProps }
  /** A field whose text depends on the page. */
  | { readonly kind: "field"; readonly what: "page" | "pages"; readonly format: string; readonly props: RunProps }
  | {
      readonly kind: "image";
      readonly image: RasterImage;
      readonly width: number;
      readonly height: number;
      readonly description: string;
      readonly props: RunProps;
    };

export interface ParagraphBlock {
  readonly kind: "paragraph";
  readonly props: ParagraphProps;
  /** Looks of the paragraph's mark: the height of an empty line. */
  readonly mark: RunProps;
  readonly inlines: readonly Inline[];
  /** The section that ends with this paragraph. */
  readonly section?: Section;
}

export interface TableCellBlock {
  readonly span: number;
  readonly merge: "none" | "start" | "continue";
  readonly blocks: readonly Block[];
  readonly borders: Readonly<Record<string, ParagraphLine | undefined>>;
  readonly margins: Readonly<Record<string, number>>;
  readonly shading: string | undefined;
  readonly vertical: string;
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
  readonly columns: readonly number[];
  readonly indent: number;
  readonly align: string;
  readonly borders: Readonly<Record<string, ParagraphLine | undefined>>;
  readonly margins: Readonly<Record<string, number>>;
  readonly rows: readonly TableRowBlock[];
}

export type Block = ParagraphBlock | TableBlock;

/** Page size, margins, header and footer of a section: 17.6. */
export interface Section {
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
}
