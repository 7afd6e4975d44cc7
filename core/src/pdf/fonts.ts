/** Fonts embedded as subsets: ISO 32000-1, 9.7 (composite fonts) and 9.10.3 (ToUnicode). */

import { deflateSync } from "node:zlib";
import { LRUCache } from "lru-cache";
import type { FontFile } from "../fonts/index.js";
import { type PdfFile, pdfName, pdfNumber, type Ref } from "./objects.js";

/** A subset ready to be written: made once for a set of glyphs and shared by all files that need no others. */
interface Subset {
  readonly program: Uint8Array;
  readonly programLength: number;
  readonly widths: string;
  readonly toUnicode: Uint8Array;
  readonly name: string;
}

/** Characters every subset holds, so that most files of a template share one: printable ASCII and Latin-1, dashes and quotes. */
const COMMON = [
  ...Array.from({ length: 95 }, (_, index) => 0x20 + index),
  ...Array.from({ length: 96 }, (_, index) => 0xa0 + index),
  0x2013,
  0x2014,
  0x2018,
  0x2019,
  0x201c,
  0x201d,
  0x2022,
  0x2026,
  0x20ac,
];
const CACHE = new WeakMap<FontFile, LRUCache<string, Subset>>();
/** Subsets kept per font file. */
const CACHE_SIZE = 50;

/** A font of one file being written: gives the glyphs its pages use their codes, in the order in which they come. */
export class PdfFont {
  private readonly common: ReadonlyMap<number, string>;
  /** Glyph → its code in the subset; those that every subset holds come first. */
  private readonly codes: Map<number, string>;
  private readonly extra: [glyph: number, text: string][] = [];

  constructor(
    readonly file: FontFile,
    /** Name in the pages' resources. */
    readonly resource: string,
    readonly ref: Ref,
  ) {
    this.common = commonGlyphs(file);
    this.codes = new Map([...this.common.keys()].map((glyph, at) => [glyph, hex(at + 1)]));
  }

  /** The code of a glyph in four hexadecimal digits. */
  code(glyph: number, text: string): string {
    const known = this.codes.get(glyph);
    if (known !== undefined) return known;
    const code = hex(this.codes.size + 1);
    this.codes.set(glyph, code);
    this.extra.push([glyph, text]);
    return code;
  }

  private subset(): Subset {
    const key = this.extra.map(([glyph, text]) => `${glyph}:${text}`).join(",");
    const cache = CACHE.get(this.file) ?? new LRUCache<string, Subset>({ max: CACHE_SIZE });
    CACHE.set(this.file, cache);
    let subset = cache.get(key);
    if (!subset) {
      subset = makeSubset(this.file, new Map([...this.common, ...this.extra]));
      cache.set(key, subset);
    }
    return subset;
  }

  /** Writes the font's objects. */
  write(pdf: PdfFile): void {
    const subset = this.subset();
    const { font } = this.file;
    const per1000 = (units: number): string => pdfNumber((units / font.unitsPerEm) * 1000);
    const program = pdf.stream(subset.program, `/Length1 ${subset.programLength}`, true);
    const descriptor = pdf.add(
      `<< /Type /FontDescriptor /FontName ${pdfName(subset.name)} /Flags 4 /FontBBox [${[font.bbox.minX, font.bbox.minY, font.bbox.maxX, font.bbox.maxY].map(per1000).join(" ")}] /ItalicAngle ${pdfNumber(font.italicAngle)} /Ascent ${per1000(font.ascent)} /Descent ${per1000(font.descent)} /CapHeight ${per1000(font.capHeight || font.ascent)} /StemV 80 /FontFile2 ${program} >>`,
    );
    const descendant = pdf.add(
      `<< /Type /Font /Subtype /CIDFontType2 /BaseFont ${pdfName(subset.name)} /CIDSystemInfo << /Registry (Adobe) /Ordering (Identity) /Supplement 0 >> /FontDescriptor ${descriptor} /CIDToGIDMap /Identity /W [0 [${subset.widths}]] >>`,
    );
    const toUnicode = pdf.stream(subset.toUnicode, "", true);
    pdf.set(
      this.ref,
      `<< /Type /Font /Subtype /Type0 /BaseFont ${pdfName(subset.name)} /Encoding /Identity-H /DescendantFonts [${descendant}] /ToUnicode ${toUnicode} >>`,
    );
  }
}

const COMMON_CACHE = new WeakMap<FontFile, ReadonlyMap<number, string>>();

function commonGlyphs(file: FontFile): ReadonlyMap<number, string> {
  const known = COMMON_CACHE.get(file);
  if (known) return known;
  const found = new Map<number, string>();
  for (const codePoint of COMMON) {
    if (!file.has(codePoint)) continue;
    const { id } = file.font.glyphForCodePoint(codePoint);
    if (!found.has(id)) found.set(id, String.fromCodePoint(codePoint));
  }
  const glyphs = new Map([...found].sort((a, b) => a[0] - b[0]));
  // Files for other scripts hold a few shared signs; those alone are no reason to carry them all.
  const held = glyphs.size > COMMON.length / 2 ? glyphs : new Map<number, string>();
  COMMON_CACHE.set(file, held);
  return held;
}

function hex(value: number): string {
  return value.toString(16).padStart(4, "0");
}

/** Glyphs get their codes in the order given. */
function makeSubset(file: FontFile, glyphs: ReadonlyMap<number, string>): Subset {
  const subset = file.font.createSubset();
  const texts = new Map<number, string>();
  const widths: number[] = [file.advance(0)];
  for (const [glyph, text] of glyphs) {
    const id = subset.includeGlyph(glyph);
    widths[id] = file.advance(glyph);
    texts.set(id, text);
  }
  const program = subset.encode();
  return {
    program: deflateSync(program),
    programLength: program.length,
    widths: Array.from(widths, (width) => pdfNumber((width ?? 0) * 1000)).join(" "),
    toUnicode: deflateSync(Buffer.from(toUnicodeMap(texts), "latin1")),
    name: `${subsetTag([...glyphs.keys()])}+${file.font.postscriptName}`,
  };
}

/** Six capitals that tell subsets of one font apart (9.6.4), derived from the glyphs. */
function subsetTag(glyphs: readonly number[]): string {
  let hash = 2166136261;
  for (const glyph of glyphs) hash = Math.imul(hash ^ glyph, 16777619) >>> 0;
  let tag = "";
  for (let index = 0; index < 6; index++) {
    tag += String.fromCharCode(65 + (hash % 26));
    hash = Math.floor(hash / 26) + index * 7919;
  }
  return tag;
}

function toUnicodeMap(texts: ReadonlyMap<number, string>): string {
  const entries = [...texts].map(
    ([glyph, text]) => `<${hex(glyph)}> <${Buffer.from(text, "utf16le").swap16().toString("hex")}>`,
  );
  const blocks: string[] = [];
  for (let at = 0; at < entries.length; at += 100) {
    const block = entries.slice(at, at + 100);
    blocks.push(`${block.length} beginbfchar\n${block.join("\n")}\nendbfchar`);
  }
  return `/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def\n/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n1 begincodespacerange\n<0000> <ffff>\nendcodespacerange\n${blocks.join("\n")}\nendcmap\nCMapName currentdict /CMap defineresource pop\nend\nend`;
}
