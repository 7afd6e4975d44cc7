/** Font files that people bring: told by their own tables (ISO/IEC 14496-22). */

import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";
import type { FontSource } from "./library.js";
import { parseFont } from "./parse-font.js";

interface NamedFont {
  readonly familyName: string;
  readonly "OS/2"?: { readonly usWeightClass?: number; readonly fsSelection?: { readonly italic?: boolean } };
  readonly italicAngle: number;
  readonly directory: { readonly tables: Readonly<Record<string, unknown>> };
}

/** Weights from here on are bold. */
const BOLD = 600;

/** One font file as a source. Throws `BAD_REQUEST` for what is no font, or none that can be put into a PDF. */
export function readFont(name: string, bytes: Uint8Array): FontSource {
  const refuse = (what: string, cause?: unknown): CorbixError =>
    new CorbixError("BAD_REQUEST", say().fonts.cannotUseFont({ name, what }), {
      where: "fonts",
      advice: say().fonts.giveTruetypeFontTtfWoff(),
      cause,
    });
  let font: NamedFont;
  try {
    font = parseFont(bytes) as NamedFont;
  } catch (cause) {
    throw refuse(say().fonts.cannotRead(), cause);
  }
  if (!font.directory || !font.familyName) throw refuse(say().fonts.holdsSeveralFontsNoneName());
  if (!font.directory.tables.glyf) throw refuse(say().fonts.outlinesThoseTruetype());
  const about = font["OS/2"];
  return {
    family: font.familyName,
    bold: (about?.usWeightClass ?? 400) >= BOLD,
    italic: about?.fsSelection?.italic === true || font.italicAngle !== 0,
    files: [{ name, bytes }],
  };
}
