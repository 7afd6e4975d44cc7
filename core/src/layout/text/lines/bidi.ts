/** Lines with text that runs from right to left, put in the order in which they are seen: UAX #9. */
import bidiFactory from "bidi-js";
import type { Fonts } from "../../../fonts/index.js";
import type { Fragment } from "./line-drawer.js";
import { widthOfRun } from "./run-shaping.js";

/** What is used of the package, whose types tell its module apart from its default. */
interface Bidi {
  getEmbeddingLevels(text: string, direction: "ltr" | "rtl"): { readonly levels: Uint8Array };
}

const bidi = (bidiFactory as unknown as () => Bidi)();
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff]/;

/** Whether fragments need to be put in order at all. */
export function runsBackwards(fragments: readonly Fragment[], isRightToLeft: boolean): boolean {
  return isRightToLeft || fragments.some((fragment) => RIGHT_TO_LEFT.test(fragment.text));
}

/** The same fragments as they are seen from left to right, cut where the direction changes. */
export function inSeenOrder(fragments: readonly Fragment[], isRightToLeft: boolean, fonts: Fonts): Fragment[] {
  if (fragments.length === 0) return [];
  const text = fragments.map(shown).join("");
  const levels = bidi.getEmbeddingLevels(text, isRightToLeft ? "rtl" : "ltr");
  const pieces: { fragment: Fragment; level: number }[] = [];
  let from = 0;
  for (const fragment of fragments) {
    const length = shown(fragment).length;
    if (fragment.kind !== "text" || fragment.text === "") {
      pieces.push({ fragment, level: levels.levels[Math.min(from, text.length - 1)] ?? 0 });
      from += length;
      continue;
    }
    for (const cut of cuts(fragment.text, levels.levels.subarray(from, from + length)))
      pieces.push({ level: cut.level, fragment: part(fragment, cut.text, cut.level, fonts) });
    from += length;
  }
  const ordered = reordered(pieces);
  let x = Math.min(...fragments.map((fragment) => fragment.x));
  return ordered.map((fragment) => {
    const placed = { ...fragment, x };
    x += fragment.width;
    return placed;
  });
}

function shown(fragment: Fragment): string {
  return fragment.kind === "text" && fragment.text !== ""
    ? fragment.text
    : fragment.inline.kind === "tab"
      ? "\t"
      : "\ufffc";
}

/** Stretches of one level; of what runs backwards words and the signs between them stand alone, since each is shaped by itself. */
function cuts(text: string, levels: Uint8Array): { text: string; level: number }[] {
  const found: { text: string; level: number }[] = [];
  for (let at = 0; at < text.length; at++) {
    const last = found[found.length - 1];
    const isCut =
      levels[at] % 2 === 1 &&
      (text[at] === " " || text[at - 1] === " " || isLetter(text, at) !== isLetter(text, at - 1));
    if (last && last.level === levels[at] && !isCut) last.text += text[at];
    else found.push({ text: text[at], level: levels[at] });
  }
  return found;
}

function isLetter(text: string, at: number): boolean {
  return RIGHT_TO_LEFT.test(text[at] ?? "");
}

const MIRRORED: Readonly<Record<string, string>> = {
  "(": ")",
  ")": "(",
  "[": "]",
  "]": "[",
  "{": "}",
  "}": "{",
  "<": ">",
  ">": "<",
  "«": "»",
  "»": "«",
};

function part(fragment: Fragment, text: string, level: number, fonts: Fonts): Fragment {
  const seen =
    level % 2 === 1 && /^[^\p{L}]+$/u.test(text)
      ? [...text]
          .reverse()
          .map((sign) => MIRRORED[sign] ?? sign)
          .join("")
      : text;
  return { ...fragment, text: seen, width: widthOfRun(seen, fragment.inline.props, fonts) };
}

/** Rule L2: from the highest level down to the lowest odd one, whatever stands at or above it is turned round. */
function reordered(pieces: readonly { readonly fragment: Fragment; readonly level: number }[]): Fragment[] {
  const order = [...pieces];
  const highest = Math.max(...pieces.map((piece) => piece.level));
  for (let level = highest; level > 0; level--) {
    for (let from = 0; from < order.length; from++) {
      if (order[from].level < level) continue;
      let to = from;
      while (to + 1 < order.length && order[to + 1].level >= level) to++;
      order.splice(from, to - from + 1, ...order.slice(from, to + 1).reverse());
      from = to;
    }
  }
  return order.map((piece) => piece.fragment);
}
