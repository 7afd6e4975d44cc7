import type { Finding } from "../common/index.js";
import type { Page, StructureNode } from "./page.js";

export interface LaidPages {
  readonly pages: readonly Page[];
  readonly findings: readonly Finding[];
  /** Where each sheet or heading starts. */
  readonly outline: readonly OutlineEntry[];
  /** Of a document: its logical structure, which its items belong to. */
  readonly structure?: StructureNode;
  /** Families asked for, with those that were drawn. */
  readonly fonts?: readonly { readonly asked: string; readonly drawn: string }[];
}

export interface OutlineEntry {
  readonly title: string;
  readonly page: number;
  /** Depth of a heading, from 0. */
  readonly level?: number;
  /** Where on the page, from its upper edge, in points. */
  readonly y?: number;
}

/** Pages that are laid one after the other while they are gone through, each once. */
export interface PageStream {
  readonly length: number;
  [Symbol.iterator](): Iterator<Page>;
}

/** As `LaidPages`, for files of any length: no more than a page is held at once. */
export interface StreamedPages {
  readonly pages: PageStream;
  readonly outline: readonly OutlineEntry[];
  /** All of them once the pages were gone through. */
  readonly findings: readonly Finding[];
  readonly structure?: undefined;
  readonly fonts?: undefined;
}
