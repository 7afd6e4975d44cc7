import type { Finding } from "../common/index.js";
import { say } from "../words/index.js";
import type { Face, FontLibrary } from "./library.js";

/** Where faces come from while something is laid out. */
export interface Fonts {
  face(family: string, bold: boolean, italic: boolean): Face;
  /** A text with soft hyphens where its words may be broken; nothing for a language that is not known. */
  hyphenate(text: string, language: string): string | undefined;
}

/** What of a page is needed to see which characters had no glyph. */
interface ShownText {
  readonly kind: string;
  /** Of a group what stands in it. */
  readonly items?: readonly ShownText[];
  readonly shaped?: {
    readonly runs: readonly { readonly glyphs: readonly number[]; readonly texts: readonly string[] }[];
  };
}

/** Hands out a library's faces and remembers which families had to be stood in for by others of other widths. */
export class FontWatch implements Fonts {
  private readonly strangers = new Map<string, string>();
  /** For each family its four styles as far as they were asked for. */
  private readonly known = new Map<string, (Face | undefined)[]>();

  private readonly missing = new Set<string>();

  constructor(private readonly library: FontLibrary) {}

  face(family: string, bold: boolean, italic: boolean): Face {
    let styles = this.known.get(family);
    if (!styles) {
      styles = [];
      this.known.set(family, styles);
      const { family: drawn, exact } = this.library.standIn(family);
      if (!exact) this.strangers.set(family, drawn);
    }
    const style = (bold ? 2 : 0) + (italic ? 1 : 0);
    const face = styles[style] ?? this.library.face(family, bold, italic);
    styles[style] = face;
    return face;
  }

  hyphenate(text: string, language: string): string | undefined {
    return this.library.hyphenate(text, language);
  }

  /** Families asked for so far, with those they are drawn in. */
  get used(): { readonly asked: string; readonly drawn: string }[] {
    return [...this.known.keys()].map((asked) => ({ asked, drawn: this.library.standIn(asked).family }));
  }

  /** Looks at a page for characters that no font has. */
  look(page: { readonly items: readonly ShownText[] }): void {
    for (const item of page.items) addMissing(item, this.missing);
  }

  /** Families that were substituted, and characters on the pages looked at that no font has. */
  findings(where: string): Finding[] {
    const findings: Finding[] = [...this.strangers].map(([family, drawn]) => ({
      code: "font-substituted",
      severity: "note",
      where,
      what: say().fonts.fontStandsPdfLinesMay({ family, drawn }),
      advice: say().fonts.useFontSuchCalibriCambria(),
    }));
    const { missing } = this;
    if (missing.size > 0) {
      findings.push({
        code: "glyph-missing",
        severity: "warn",
        where,
        what: say().fonts.fontCharactersPdfLeavesBlanks({ list: [...missing].slice(0, 20).join(" ") }),
        advice: say().fonts.lookPageFileItselfThem(),
        count: missing.size,
      });
    }
    return findings;
  }
}

/** Words that were looked at and have all their glyphs: they come again and again. */
const complete = new WeakSet<NonNullable<ShownText["shaped"]>>();

function addMissing({ items, shaped }: ShownText, missing: Set<string>): void {
  if (items) for (const inner of items) addMissing(inner, missing);
  if (!shaped || complete.has(shaped)) return;
  let isComplete = true;
  for (const run of shaped.runs)
    run.glyphs.forEach((glyph, at) => {
      if (glyph !== 0) return;
      isComplete = false;
      missing.add(run.texts[at]);
    });
  if (isComplete) complete.add(shaped);
}
