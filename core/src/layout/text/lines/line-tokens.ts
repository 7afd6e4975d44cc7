import { breakOpportunities } from "../../../page/index.js";
import type { Inline } from "../blocks.js";
import type { RunProps } from "../props.js";

/** A piece of a word in one run. */
export interface WordPart {
  readonly kind: "text" | "field" | "object";
  readonly text: string;
  readonly inline: Inline;
  /** Measured once. */
  width?: number;
}

export type Token =
  /** `hyphen`: broken behind it, a hyphen is shown. */
  | { readonly kind: "word"; readonly parts: readonly WordPart[]; readonly hyphen: boolean }
  | { readonly kind: "tab"; readonly props: RunProps; readonly alignment: "left" | "center" | "right" | undefined }
  | { readonly kind: "break"; readonly what: "line" | "page" | "column" }
  /** What takes no room: places, things beside the text, notes whose mark is the text's own. */
  | { readonly kind: "sign"; readonly inline: Inline };

/** A sign that stands for a picture while breaks are looked for (UAX #14 treats it as breakable on both sides). */
const OBJECT = "\ufffc";

const SOFT_HYPHEN = "\u00ad";

function withoutHyphens(part: WordPart): WordPart {
  return part.text.includes(SOFT_HYPHEN) ? { ...part, text: part.text.replaceAll(SOFT_HYPHEN, "") } : part;
}

/** Tokens of paragraphs that are measured before they are set. */
const KNOWN = new WeakMap<readonly Inline[], readonly Token[]>();

/** What is kept together on a line: words over all runs they are made of, tabs, breaks. */
export function tokens(inlines: readonly Inline[]): readonly Token[] {
  let found = KNOWN.get(inlines);
  // Fields are measured anew when the pages are known.
  if (!found || inlines.some((inline) => inline.kind === "field")) {
    found = tokensOf(inlines);
    KNOWN.set(inlines, found);
  }
  return found;
}

function tokensOf(inlines: readonly Inline[]): Token[] {
  const found: Token[] = [];
  let from = 0;
  inlines.forEach((inline, index) => {
    if (inline.kind !== "tab" && inline.kind !== "break") return;
    found.push(...words(inlines.slice(from, index)));
    found.push(
      inline.kind === "tab"
        ? { kind: "tab", props: inline.props, alignment: inline.alignment }
        : { kind: "break", what: inline.what },
    );
    from = index + 1;
  });
  return [...found, ...words(inlines.slice(from))];
}

/** The text an inline is measured with. */
export function textOfInline(inline: Inline): string {
  if (inline.kind === "text") return /[\r\n]/.test(inline.text) ? inline.text.replace(/[\r\n]/g, " ") : inline.text;
  if (inline.kind === "field") return inline.guess.text;
  if (inline.kind === "note") return inline.note.label;
  return inline.kind === "object" ? OBJECT : "";
}

function words(inlines: readonly Inline[]): Token[] {
  const texts = inlines.map(textOfInline);
  const whole = texts.join("");
  const found: Token[] = [];
  let index = 0;
  let used = 0;
  const sign = (inline: Inline): void => {
    const isUnmarked = inline.kind === "note" && inline.note.label === "";
    if (inline.kind === "place" || inline.kind === "float" || isUnmarked) found.push({ kind: "sign", inline });
  };
  if (whole === "") {
    inlines.forEach(sign);
    return found;
  }
  for (const piece of breakOpportunities(whole)) {
    const parts: WordPart[] = [];
    let rest = piece.text.length;
    while (rest > 0) {
      while (used >= texts[index].length) {
        if (texts[index] === "") sign(inlines[index]);
        index++;
        used = 0;
      }
      const take = Math.min(rest, texts[index].length - used);
      const inline = inlines[index];
      const kind = inline.kind === "object" ? "object" : inline.kind === "field" ? "field" : "text";
      // A field is one piece, however it is measured.
      const text = kind === "text" ? texts[index].slice(used, used + take) : "";
      const last = parts[parts.length - 1];
      if (kind === "text" || last?.inline !== inline) parts.push({ kind, inline, text });
      used += take;
      rest -= take;
    }
    const last = parts[parts.length - 1];
    const hyphen = last?.kind === "text" && last.text.endsWith(SOFT_HYPHEN);
    // A soft hyphen shows only where a line ends with it.
    found.push({ kind: "word", parts: whole.includes(SOFT_HYPHEN) ? parts.map(withoutHyphens) : parts, hyphen });
  }
  inlines.slice(index + 1).forEach(sign);
  return found;
}
