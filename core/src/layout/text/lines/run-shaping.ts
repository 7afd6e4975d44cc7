/** Runs of a paragraph as shaped text in their looks. */
import type { Face, Fonts, ShapedText } from "../../../fonts/index.js";
import { shapeWords } from "../../../page/index.js";
import type { FieldInline, PageSection } from "../blocks.js";
import { formatNumber } from "../numbers.js";
import type { RunProps } from "../props.js";

/** What is known of a page when it is drawn. */
export interface PageNumbers {
  readonly page: number;
  readonly pages: number;
  readonly sectionPages: number;
  readonly format: string;
  /** The number that the page of a place shows. */
  readonly pageOf: (place: string) => string | undefined;
  readonly section: PageSection;
}

const FORMATS: Readonly<Record<string, string>> = {
  roman: "lowerRoman",
  ROMAN: "upperRoman",
  alphabetic: "lowerLetter",
  ALPHABETIC: "upperLetter",
  arabic: "decimal",
  Arabic: "decimal",
};

/** The text of a field that depends on the page. */
export function fieldText(field: FieldInline, numbers: PageNumbers): string {
  if (field.what === "pageOf") return numbers.pageOf(field.target ?? "") ?? field.guess.text;
  const format = FORMATS[field.format] ?? (field.what === "page" ? numbers.format : "decimal");
  const number = field.what === "page" ? numbers.page : field.what === "pages" ? numbers.pages : numbers.sectionPages;
  return formatNumber(number, format);
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
    shaped: spaced(stretched(shapeWords(part, face), props.scale), (props.spacing ?? 0) / at),
    size: at,
  });
  if (props.caps) return [shape(text.toLocaleUpperCase("en"), size)];
  if (!props.smallCaps) return [shape(text, size)];
  return (text.match(/\p{Ll}+|\P{Ll}+/gu) ?? []).map((part) =>
    /^\p{Ll}/u.test(part) ? shape(part.toLocaleUpperCase("en"), size * SMALL_CAPS) : shape(part, size),
  );
}

export function widthOfRun(text: string, props: RunProps, fonts: Fonts): number {
  let width = 0;
  for (const piece of shapeRun(text, props, fonts)) width += piece.shaped.width * piece.size;
  return width;
}

function spaced(shaped: ShapedText, em: number): ShapedText {
  return em === 0 ? shaped : withAdvances(shaped, (advance) => advance + em);
}

/** Letters keep their shapes and stand nearer or wider: how a scaled width is measured. */
function stretched(shaped: ShapedText, scale: number | undefined): ShapedText {
  return scale === undefined || scale === 1 ? shaped : withAdvances(shaped, (advance) => advance * scale);
}

function withAdvances(shaped: ShapedText, change: (advance: number) => number): ShapedText {
  const runs = shaped.runs.map((run) => ({ ...run, advances: run.advances.map(change) }));
  return {
    runs,
    width: runs.reduce((sum, run) => sum + run.advances.reduce((total, advance) => total + advance, 0), 0),
  };
}
