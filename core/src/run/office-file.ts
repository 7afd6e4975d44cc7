/** Workbooks, documents and slide decks alike: what kind a file is, opened, and as pages. */

import type { DeckPages } from "../common/index.js";
import { DocumentTemplate, openDocument } from "../document/index.js";
import type { FontLibrary } from "../fonts/index.js";
import { layDeck, layDocument, streamWorkbook } from "../layout/index.js";
import type { OoxmlPackage } from "../ooxml/index.js";
import type { LaidPages, StreamedPages } from "../page/index.js";
import { openDeck, SlideTemplate } from "../slides/index.js";
import { openWorkbook, workbookFromPackage } from "../spreadsheet/index.js";
import type { PlacedMark } from "../template/index.js";
import { WorkbookTemplate } from "../workbook/index.js";

/** Kinds of templates, and of what is made from them, by the ending of their files. */
export const OFFICE_KINDS = ["xlsx", "docx", "pptx"] as const;
export type OfficeKind = (typeof OFFICE_KINDS)[number];

/** @example officeKind("statement.XLSM") //=> "xlsx" */
export function officeKind(name: string): OfficeKind | undefined {
  const ending = name.slice(name.lastIndexOf(".") + 1).toLowerCase();
  return ending === "xlsm" ? "xlsx" : OFFICE_KINDS.find((kind) => kind === ending);
}

/** A file's package, known to be of its kind. Throws `NOT_A_WORKBOOK`, `NOT_A_DOCUMENT` or `NOT_A_DECK`. */
export function openOffice(bytes: Uint8Array, name: string, kind = officeKind(name)): OoxmlPackage {
  if (kind === "docx") return openDocument(bytes, name);
  return kind === "pptx" ? openDeck(bytes, name) : openWorkbook(bytes, name).package;
}

export interface PrintedFacts {
  /** What headers and footers of sheets show. */
  readonly file: string;
  readonly date: string;
  readonly time: string;
  /** Serial number of the day that date fields show; without it they show what is stored. */
  readonly today?: number | undefined;
  readonly locale?: string | undefined;
  /** Of a deck: what stands on a page, and whether hidden slides are pages. */
  readonly pages?: DeckPages | undefined;
  readonly withHidden?: boolean | undefined;
}

export function layOffice(
  kind: OfficeKind | undefined,
  opened: OoxmlPackage,
  fonts: FontLibrary,
  facts: PrintedFacts,
): LaidPages | StreamedPages {
  const { today, locale, pages, withHidden } = facts;
  if (kind === "docx") return layDocument(opened, fonts, { today, locale });
  if (kind === "pptx") return layDeck(opened, fonts, { today, locale, pages, withHidden });
  return streamWorkbook(workbookFromPackage(opened), fonts, facts);
}

/** A template of any kind, read with its marks; nothing for a file of another kind. Throws what is wrong with it, with the place. */
export function readOfficeTemplate(
  bytes: Uint8Array,
  name: string,
  reading: { readonly further?: readonly string[] } = {},
): { readonly marks: readonly PlacedMark[] } | undefined {
  switch (officeKind(name)) {
    case "xlsx":
      return WorkbookTemplate.read(bytes, name, reading);
    case "docx":
      return DocumentTemplate.read(bytes, name, reading);
    case "pptx":
      return SlideTemplate.read(bytes, name, reading);
    default:
      return undefined;
  }
}
