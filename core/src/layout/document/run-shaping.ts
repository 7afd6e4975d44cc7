/** Runs of a paragraph as shaped text in their looks. */
import type { Face, Fonts, ShapedText } from "../../fonts/index.js";
import { shapeWords } from "../text-lines.js";
import type { Inline } from "./blocks.js";
import { formatNumber } from "./numbering.js";
import type { RunProps } from "./props.js";

export interface PageNumbers {
  readonly page: number;
  readonly pages: number;
  readonly format: string;
}

/** Page numbers while a line is measured: how long they will be is not known yet. */
export const GUESS: PageNumbers = { page: 1, pages: 1, format: "decimal" };

/** The text of a field that depends on the page. */
export function fieldText(inline: Inline, numbers: PageNumbers): string {
  if (inline.kind !== "field") return "";
  const named: Readonly<Record<string, string>> = {
    roman: "lowerRoman",
    ROMAN: "upperRoman",
    alphabetic: "lowerLetter",
    ALPHABETIC: "upperLetter",
  };
  const format = named[inline.format] ?? (inline.what === "page" ? numbers.format : "decimal");
  return formatNumber(inline.what === "page" ? numbers.page : numbers.pages, format);
}

/** Size of raised and lowered text beside the full size. */
const RAISED = 0.65;
const SMALL_CAPS = 0.8;

export function looks(props: RunProps, fonts: Fonts): { face: Face; size: number } {
  return {
    face: fonts.face(props.font ?? "Calibri", props.bold ?? false, props.italic ?? false),
    size: props.size ?? 10,
  };
}

export interface ShapedPiece {
  readonly text: string;
  readonly shaped: ShapedText;
  readonly size: number;
}

/** Shapes a run's text in its looks; small capitals come in two sizes. */
export function shapeRun(text: string, props: RunProps, fonts: Fonts): ShapedPiece[] {
  const { face, size: full } = looks(props, fonts);
  const size = props.raised ? full * RAISED : full;
  const shape = (part: string, at: number): ShapedPiece => ({
    text: part,
    shaped: spaced(shapeWords(part, face), (props.spacing ?? 0) / at),
    size: at,
  });
  if (props.caps) return [shape(text.toLocaleUpperCase("en"), size)];
  if (!props.smallCaps) return [shape(text, size)];
  return (text.match(/\p{Ll}+|\P{Ll}+/gu) ?? []).map((part) =>
    /^\p{Ll}/u.test(part) ? shape(part.toLocaleUpperCase("en"), size * SMALL_CAPS) : shape(part, size),
  );
}

function spaced(shaped: ShapedText, em: number): ShapedText {
  if (em === 0) return shaped;
  const runs = shaped.runs.map((run) => ({ ...run, advances: run.advances.map((advance) => advance + em) }));
  return {
    runs,
    width: runs.reduce((sum, run) => sum + run.advances.reduce((total, advance) => total + advance, 0), 0),
  };
}
