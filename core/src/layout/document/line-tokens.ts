import { breakOpportunities } from "../text-lines.js";
import type { Inline } from "./blocks.js";
import type { RunProps } from "./props.js";
import { fieldText, GUESS } from "./run-shaping.js";

/** A piece of a word in one run. */
export interface WordPart {
  readonly kind: "text" | "field" | "image";
  readonly text: string;
  readonly inline: Inline;
}

export type Token =
  | { readonly kind: "word"; readonly parts: readonly WordPart[] }
  | { readonly kind: "tab"; readonly props: RunProps }
  | { readonly kind: "break"; readonly what: "line" | "page" | "column" };

/** A sign that stands for a picture while breaks are looked for (UAX #14 treats it as breakable on both sides). */
const OBJECT = "\ufffc";

/** What is kept together on a line: words over all runs they are made of, tabs, breaks. */
export function tokens(inlines: readonly Inline[]): Token[] {
  const found: Token[] = [];
  let from = 0;
  inlines.forEach((inline, index) => {
    if (inline.kind !== "tab" && inline.kind !== "break") return;
    found.push(
      ...words(inlines.slice(from, index)),
      inline.kind === "tab" ? { kind: "tab", props: inline.props } : { kind: "break", what: inline.what },
    );
    from = index + 1;
  });
  return [...found, ...words(inlines.slice(from))];
}

function words(inlines: readonly Inline[]): Token[] {
  const texts = inlines.map((inline) =>
    inline.kind === "text"
      ? inline.text.replace(/[\r\n]/g, " ")
      : inline.kind === "field"
        ? fieldText(inline, GUESS)
        : OBJECT,
  );
  const whole = texts.join("");
  if (whole === "") return [];
  const found: Token[] = [];
  let index = 0;
  let used = 0;
  for (const piece of breakOpportunities(whole)) {
    const parts: WordPart[] = [];
    let rest = piece.text.length;
    while (rest > 0) {
      while (used >= texts[index].length) {
        index++;
        used = 0;
      }
      const take = Math.min(rest, texts[index].length - used);
      const inline = inlines[index];
      const kind = inline.kind === "text" ? "text" : inline.kind === "field" ? "field" : "image";
      parts.push({ kind, inline, text: kind === "text" ? texts[index].slice(used, used + take) : "" });
      used += take;
      rest -= take;
    }
    found.push({ kind: "word", parts });
  }
  return found;
}
