/** Breaking text into lines by the Unicode line breaking rules (UAX #14). */

import LineBreaker from "linebreak";
import { LRUCache } from "lru-cache";
import { memoize } from "../common/index.js";
import type { Face, ShapedText } from "../fonts/index.js";

/** A stretch of text in one face and size. */
export interface TextSpan {
  readonly text: string;
  readonly face: Face;
  readonly size: number;
}

/** A piece of a text between two breaks, with its blanks behind. */
interface BreakPiece {
  readonly text: string;
  readonly must: boolean;
}

/** Texts whose breaks are kept: the same ones come again in other cells and files. */
const KEPT_BREAKS = 5_000;

/** Where a text may be broken: the pieces between, each with its blanks behind; `must` after a line end. */
export const breakOpportunities = memoize((text: string): readonly BreakPiece[] => {
  const breaker = new LineBreaker(text);
  const pieces: { text: string; must: boolean }[] = [];
  let from = 0;
  for (let found = breaker.nextBreak(); found; found = breaker.nextBreak()) {
    const must =
      found.required === true && /[\n\r\u000b\u000c\u0085\u2028\u2029]$/.test(text.slice(from, found.position));
    pieces.push({ text: text.slice(from, found.position), must });
    from = found.position;
  }
  return pieces;
}, KEPT_BREAKS);

/** Wraps one plain text into lines no wider than `width` points; a word that is wider is broken anywhere. */
export function wrapText(text: string, face: Face, size: number, width: number): string[] {
  const lines: string[] = [];
  let line = "";
  const flush = (): void => {
    lines.push(line.trimEnd());
    line = "";
  };
  for (const piece of breakOpportunities(text)) {
    const word = piece.text.replace(/[\r\n]+$/, "");
    if (line !== "" && widthOf((line + word).trimEnd(), face, size) > width + 0.01) flush();
    if (widthOf(word.trimEnd(), face, size) > width) {
      for (const char of word) {
        if (line !== "" && widthOf(line + char, face, size) > width) flush();
        line += char;
      }
    } else line += word;
    if (piece.must) flush();
  }
  if (line !== "" || lines.length === 0) flush();
  return lines;
}

export function widthOf(text: string, face: Face, size: number): number {
  return shapeWords(text, face).width * size;
}

/** Shapes word by word, so that the face's cache serves; blanks are words of their own. */
export function shapeWords(text: string, face: Face): ShapedText {
  const cache = LINES.get(face) ?? new LRUCache<string, ShapedText>({ max: LINES_SIZE });
  LINES.set(face, cache);
  const known = cache.peek(text);
  if (known) return known;
  const shaped = joinWords(text, face);
  cache.set(text, shaped);
  return shaped;
}

/** Texts kept shaped per face: the same ones are measured and drawn, and come again in other files. */
const LINES = new WeakMap<Face, LRUCache<string, ShapedText>>();
const LINES_SIZE = 5_000;

function joinWords(text: string, face: Face): ShapedText {
  const words = text.match(/ +|[^ ]+/g) ?? [];
  if (words.length === 1) return face.shape(text);
  const runs: ShapedText["runs"][number][] = [];
  let width = 0;
  for (const word of words) {
    const shaped = face.shape(word);
    width += shaped.width;
    for (const run of shaped.runs) {
      const last = runs[runs.length - 1];
      if (last && last.font === run.font)
        runs[runs.length - 1] = {
          font: run.font,
          glyphs: [...last.glyphs, ...run.glyphs],
          advances: [...last.advances, ...run.advances],
          texts: [...last.texts, ...run.texts],
        };
      else runs.push(run);
    }
  }
  return { runs, width };
}
