/** A report for an auditor as a PDF that is made for keeping. */
import type { FontLibrary } from "../fonts/index.js";
import { layDocument } from "../layout/index.js";
import { writePdf } from "../pdf/index.js";
import { type Block, writeDocument } from "./write-document.js";

/** ISO 19005-2, level B, with its structure and outline. */
export function auditPdf(
  blocks: readonly Block[],
  about: { readonly title: string; readonly language: string; readonly fonts: FontLibrary },
): Uint8Array {
  const { title, language, fonts } = about;
  const laid = layDocument(writeDocument(blocks, { footer: title, language }), fonts, { locale: language });
  return writePdf(laid.pages, {
    title,
    language,
    outline: laid.outline,
    structure: laid.structure,
    archive: true,
  });
}
