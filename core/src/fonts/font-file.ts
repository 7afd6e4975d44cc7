import { codePointOf } from "../common/index.js";
import { parseFont } from "./parse-font.js";

/** What is used of a parsed font. */
interface ParsedFont {
  readonly postscriptName: string;
  readonly unitsPerEm: number;
  readonly ascent: number;
  readonly descent: number;
  readonly lineGap: number;
  readonly capHeight: number;
  readonly italicAngle: number;
  readonly bbox: { minX: number; minY: number; maxX: number; maxY: number };
  readonly underlinePosition: number;
  readonly underlineThickness: number;
  hasGlyphForCodePoint(codePoint: number): boolean;
  glyphForCodePoint(codePoint: number): { id: number };
  readonly hmtx: { readonly metrics: { readonly length: number; get(index: number): { advance: number } } };
  layout(text: string): {
    glyphs: readonly { id: number; codePoints: readonly number[] }[];
    positions: readonly { xAdvance: number; xOffset: number; yOffset: number }[];
  };
  createSubset(): { includeGlyph(id: number): number; encode(): Uint8Array };
}

/** Text laid out in one font file, measured in em. */
export interface ShapedRun {
  readonly font: FontFile;
  readonly glyphs: readonly number[];
  /** Advance of each glyph in em. */
  readonly advances: readonly number[];
  /** The characters each glyph stands for. */
  readonly texts: readonly string[];
}

/** Scripts whose letters stand side by side as they are: no shaping is needed, and office programs do none by default. */
const SIMPLE =
  /^[\u0020-\u02ff\u0370-\u0482\u048a-\u052f\u1e00-\u1fff\u2000-\u200a\u2010-\u2027\u202f-\u205e\u2070-\u2bff\ufb00-\ufb06\u00a0]*$/;

/** One font file: its glyphs and measures. Parsed when first used. */
export class FontFile {
  private parsed: ParsedFont | undefined;
  private readonly advances = new Map<number, number>();

  constructor(
    /** Unique name, used in caches and PDF objects. */
    readonly name: string,
    private readonly bytes: Uint8Array,
  ) {}

  get font(): ParsedFont {
    this.parsed ??= parseFont(this.bytes) as ParsedFont;
    return this.parsed;
  }

  has(codePoint: number): boolean {
    return this.font.hasGlyphForCodePoint(codePoint);
  }

  /** Advance width of a glyph in em. */
  advance(glyph: number): number {
    let advance = this.advances.get(glyph);
    if (advance === undefined) {
      // From the table itself: a glyph object also reads outlines, which the blanks of some files have none of.
      const { metrics } = this.font.hmtx;
      advance = metrics.get(Math.min(glyph, metrics.length - 1)).advance / this.font.unitsPerEm;
      this.advances.set(glyph, advance);
    }
    return advance;
  }

  shape(text: string): ShapedRun {
    if (!SIMPLE.test(text) && this.holds(text)) return this.shapeComplex(text);
    const glyphs: number[] = [];
    const advances: number[] = [];
    const texts: string[] = [];
    for (const char of text) {
      const { id } = this.font.glyphForCodePoint(codePointOf(char));
      glyphs.push(id);
      advances.push(this.advance(id));
      texts.push(char);
    }
    return { font: this, glyphs, advances, texts };
  }

  /** Of characters that are not here the package does not tell which they were. */
  private holds(text: string): boolean {
    for (const char of text) if (!this.has(codePointOf(char))) return false;
    return true;
  }

  private shapeComplex(text: string): ShapedRun {
    const { glyphs, positions } = this.font.layout(text);
    return {
      font: this,
      glyphs: glyphs.map((glyph) => glyph.id),
      advances: positions.map((position) => position.xAdvance / this.font.unitsPerEm),
      texts: glyphs.map((glyph) => String.fromCodePoint(...glyph.codePoints)),
    };
  }
}
