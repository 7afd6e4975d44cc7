import { LRUCache } from "lru-cache";
import { CorbixError, codePointOf } from "../common/index.js";
import { say } from "../words/index.js";
import { FontFile, type ShapedRun } from "./font-file.js";

/** One style of a family; its characters may be spread over several files. */
export interface FontSource {
  readonly family: string;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly files: readonly { readonly name: string; readonly bytes: Uint8Array }[];
  /** It only lends characters that others lack. */
  readonly isReserve?: boolean;
}

export interface ShapedText {
  readonly runs: readonly ShapedRun[];
  /** Width in em. */
  readonly width: number;
}

/** Open families whose letters are as wide as those of the usual office fonts. */
const STAND_INS: Readonly<Record<string, string>> = {
  calibri: "Carlito",
  "calibri light": "Carlito",
  cambria: "Caladea",
  arial: "Arimo",
  helvetica: "Arimo",
  "times new roman": "Tinos",
  times: "Tinos",
  "courier new": "Cousine",
  courier: "Cousine",
};
const SERIF = /serif|roman|georgia|garamond|book|palatino|century|minion|caslon/i;
const MONO = /mono|courier|consol|code/i;
const FALLBACK = "Carlito";

/** Words kept shaped per face. */
const CACHE_SIZE = 20_000;

/** Lengths in em; downward ones positive below the baseline. */
export interface FaceMetrics {
  readonly ascent: number;
  readonly descent: number;
  readonly lineGap: number;
  readonly underlinePosition: number;
  readonly underlineThickness: number;
}

function measure({ font }: FontFile): FaceMetrics {
  const em = font.unitsPerEm;
  return {
    ascent: font.ascent / em,
    descent: -font.descent / em,
    lineGap: font.lineGap / em,
    underlinePosition: -font.underlinePosition / em,
    underlineThickness: font.underlineThickness / em,
  };
}

/** A family in one style, as asked for and as it is drawn. */
export class Face {
  private readonly words = new LRUCache<string, ShapedText>({ max: CACHE_SIZE });
  private measured: FaceMetrics | undefined;

  constructor(
    readonly family: string,
    private readonly style: { readonly bold: boolean; readonly italic: boolean },
    private readonly files: readonly FontFile[],
    /** Files of other families, looked through for characters this one lacks. */
    private readonly others: () => readonly FontFile[],
    /** The family has no such style: it is drawn slanted or thickened by nobody, and that is a finding. */
    readonly styleMissing: boolean,
  ) {}

  get bold(): boolean {
    return this.style.bold;
  }

  get italic(): boolean {
    return this.style.italic;
  }

  /** Height above and below the baseline and the gap between lines, in em. */
  get metrics(): FaceMetrics {
    this.measured ??= measure(this.files[0]);
    return this.measured;
  }

  /** Shapes a text; each character is taken from the first file that has it. */
  shape(text: string): ShapedText {
    const known = this.words.peek(text);
    if (known) return known;
    const runs = this.segments(text).map(({ font, text: part }) => font.shape(part));
    const width = runs.reduce((sum, run) => sum + run.advances.reduce((total, advance) => total + advance, 0), 0);
    const shaped = { runs, width };
    this.words.set(text, shaped);
    return shaped;
  }

  private segments(text: string): { font: FontFile; text: string }[] {
    const segments: { font: FontFile; text: string }[] = [];
    for (const char of text.replace(/[\u0000-\u001f\u007f]/g, "")) {
      const font = this.fontFor(char);
      const last = segments[segments.length - 1];
      if (last?.font === font) last.text += char;
      else segments.push({ font, text: char });
    }
    return segments;
  }

  private fontFor(char: string): FontFile {
    const codePoint = codePointOf(char);
    const found = this.files.find((file) => file.has(codePoint)) ?? this.others().find((file) => file.has(codePoint));
    if (found) return found;
    return this.files[0];
  }
}

export type Hyphenate = (text: string, language: string) => string | undefined;

/** All fonts there are. Faces are made once and kept, with their shaped words. */
export class FontLibrary {
  private readonly faces = new Map<string, Face>();
  private readonly files = new Map<FontSource, readonly FontFile[]>();

  /** Throws `UNKNOWN_FONT` where there are none at all. */
  constructor(
    private readonly sources: readonly FontSource[],
    /** Gives a text soft hyphens where its words may be broken; nothing for a language that is not known. */
    readonly hyphenate: Hyphenate = () => undefined,
  ) {
    if (sources.length === 0)
      throw new CorbixError("UNKNOWN_FONT", say().fonts.cannotLayOutTextFonts(), {
        advice: say().fonts.installProjectSPackages(),
      });
    this.families = [...new Set(sources.filter((source) => !source.isReserve).map((source) => source.family))];
    for (const source of sources)
      this.files.set(
        source,
        source.files.map((file) => new FontFile(file.name, file.bytes)),
      );
  }

  /** Names of all families there are, but those that only lend single characters. */
  readonly families: readonly string[];

  /** Families with whether they were brought along rather than supplied. */
  list(): { family: string; own: boolean }[] {
    const supplied = new Set(Object.values(STAND_INS));
    return this.families.map((family) => ({ family, own: !supplied.has(family) }));
  }

  /** The family that stands in for another, itself where it is there. `exact` tells whether widths are the same. */
  standIn(family: string): { family: string; exact: boolean } {
    const own = this.families.find((name) => name.toLowerCase() === family.trim().toLowerCase());
    if (own) return { family: own, exact: true };
    const twin = STAND_INS[family.trim().toLowerCase()];
    if (twin && this.families.includes(twin)) return { family: twin, exact: true };
    const like = MONO.test(family) ? "Cousine" : SERIF.test(family) && !/sans/i.test(family) ? "Tinos" : FALLBACK;
    return { family: this.families.includes(like) ? like : this.families[0], exact: false };
  }

  face(family: string, bold: boolean, italic: boolean): Face {
    const key = `${family.toLowerCase()}|${bold}|${italic}`;
    const known = this.faces.get(key);
    if (known) return known;
    const drawn = this.standIn(family).family;
    const ofFamily = this.sources.filter((source) => source.family === drawn);
    const score = (source: FontSource): number => (source.bold === bold ? 2 : 0) + (source.italic === italic ? 1 : 0);
    const best = ofFamily.reduce((a, b) => (score(b) > score(a) ? b : a));
    // Other families in the same style first, then in any.
    const isAlike = (source: FontSource): boolean => source.bold === bold && source.italic === italic;
    const others = (): FontFile[] =>
      [true, false].flatMap((alike) =>
        this.sources
          .filter((source) => source !== best && isAlike(source) === alike)
          .flatMap((source) => this.files.get(source) ?? []),
      );
    const face = new Face(drawn, { bold, italic }, this.files.get(best) ?? [], others, score(best) < 3);
    this.faces.set(key, face);
    return face;
  }
}
