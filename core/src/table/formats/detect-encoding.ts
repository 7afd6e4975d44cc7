/** Which encoding a text file has, told by the words its bytes make: letters that a language has, in cases that words have. */
import { isUtf8 } from "node:buffer";
import chardet from "chardet";
import iconv from "iconv-lite";
import { ENCODINGS, LANGUAGES, type Language } from "./letters.js";

export interface FoundEncoding {
  readonly encoding: string;
  /** The next one that reads the file otherwise and makes nearly as good words, with a word read both ways. */
  readonly other?: { readonly encoding: string; readonly word: string; readonly otherWord: string };
}

/** So many different words with a byte beyond ASCII are looked at. */
const WORDS = 600;
/** So often a word counts at most. */
const REPEATS = 4;
/** Two readings nearer than this, in bits, are told both. */
const NEAR = 9;
/** Bits that speak against a reading, for each byte. */
const FOREIGN_LETTER = 13;
const WESTERN_LETTER = 9.5;
const SIGN = 5.5;
const SIGN_IN_WORD = 14;
const NO_CHARACTER = 24;
const CASE_JUMP = 6;
const MIXED_SCRIPTS = 12;
/** A reading that is worse than this for each byte makes no words. */
const WORDLESS = 8.5;

/** Letters that stand in names and loan words of any western language. */
const WESTERN = new Set("àáâãäåæçèéêëìíîïñòóôõöøùúûüß");
const SIGNS = new Set("–—‘’‚“”„…€£§°«»‹›¡¿№²³µ×·½¼¾®©™±ªº•\u00a0\u00ad");

/** Of bytes that are no UTF-8. Empty words, such as of a damaged file, give `windows-1252`. */
export function detectEncoding(bytes: Buffer): FoundEncoding {
  const words = highWords(bytes);
  const readings = ENCODINGS.map(({ name, against }) => {
    const decoded = words.map(({ word }) => iconv.decode(word, name));
    return { name, decoded, cost: against + costOf(decoded, words) };
  }).sort((a, b) => a.cost - b.cost);
  const best = readings[0];
  const high = words.reduce((sum, { word, times }) => sum + times * highBytes(word), 0);
  const many = manyByteEncoding(bytes);
  if (many !== undefined && (high === 0 || best.cost > high * WORDLESS)) return { encoding: many };
  const next = readings.find((one) => one.decoded.some((text, at) => text !== best.decoded[at]));
  if (!next || next.cost > best.cost + NEAR) return { encoding: best.name };
  const at = next.decoded.findIndex((text, index) => text !== best.decoded[index]);
  return {
    encoding: best.name,
    other: { encoding: next.name, word: best.decoded[at], otherWord: next.decoded[at] },
  };
}

/** East Asian encodings of several bytes, which no table of letters tells. */
function manyByteEncoding(bytes: Buffer): string | undefined {
  const guess = chardet.analyse(bytes)[0];
  return guess && guess.confidence >= 50 && /^(Shift_JIS|EUC-|Big5|GB18030)/i.test(guess.name) ? guess.name : undefined;
}

interface HighWord {
  readonly word: Buffer;
  times: number;
}

/** Different runs of letters and bytes beyond ASCII that hold one of these. */
function highWords(bytes: Buffer): HighWord[] {
  const found = new Map<string, HighWord>();
  let from = -1;
  let isHigh = false;
  for (let at = 0; at <= bytes.length; at++) {
    const byte = at < bytes.length ? bytes[at] : 0;
    const lower = byte | 32;
    if (byte >= 0x80 || (lower >= 97 && lower <= 122)) {
      if (from < 0) from = at;
      isHigh ||= byte >= 0x80;
      continue;
    }
    if (from >= 0 && isHigh) {
      const key = bytes.toString("latin1", from, at);
      const known = found.get(key);
      if (known) known.times = Math.min(REPEATS, known.times + 1);
      else if (found.size < WORDS) found.set(key, { word: bytes.subarray(from, at), times: 1 });
    }
    from = -1;
    isHigh = false;
  }
  return [...found.values()];
}

function highBytes(word: Buffer): number {
  let count = 0;
  for (const byte of word) if (byte >= 0x80) count++;
  return count;
}

/** Bits against these words, in the language that has least against them. */
function costOf(decoded: readonly string[], words: readonly HighWord[]): number {
  const cases = decoded.reduce((sum, text, at) => sum + caseCost(text) * words[at].times, 0);
  let least = Number.POSITIVE_INFINITY;
  for (const language of LANGUAGES) {
    let cost = cases;
    for (let at = 0; at < decoded.length && cost < least; at++)
      cost += wordCost(decoded[at], language) * words[at].times;
    least = Math.min(least, cost);
  }
  return decoded.length === 0 ? 0 : least;
}

function wordCost(text: string, language: Language): number {
  let cost = 0;
  const isOther = language.share > 0.5;
  for (let at = 0; at < text.length; at++) {
    const char = text[at];
    if (char < "\u0080") {
      // A letter of another script within a word.
      cost += isOther ? MIXED_SCRIPTS : -Math.log2(1 - language.share);
      continue;
    }
    if (!/\p{L}/u.test(char)) {
      const isWithin = isLetter(text[at - 1]) && isLetter(text[at + 1]) && char !== "’";
      cost += /[\p{Cc}\p{Cn}\p{Co}\ufffd]/u.test(char)
        ? NO_CHARACTER
        : !SIGNS.has(char) || isWithin
          ? SIGN_IN_WORD
          : SIGN;
      continue;
    }
    const share = language.letters.get(char.toLowerCase()) ?? language.letters.get(turkishLower(char));
    if (share !== undefined) cost -= Math.log2(share * language.share);
    else cost += !isOther && WESTERN.has(char.toLowerCase()) ? WESTERN_LETTER : FOREIGN_LETTER;
  }
  return cost;
}

function turkishLower(char: string): string {
  return char === "İ" ? "ı" : char;
}

function isLetter(char: string | undefined): boolean {
  return char !== undefined && /\p{L}/u.test(char);
}

/** Words are small, capital, or begin with a capital. */
function caseCost(text: string): number {
  let cost = 0;
  let capitals = 0;
  let before: "small" | "capital" | undefined;
  for (const char of text) {
    const isSmall = char !== char.toUpperCase();
    const isCapital = char !== char.toLowerCase();
    if (!isSmall && !isCapital) {
      before = undefined;
      capitals = 0;
      continue;
    }
    if (isCapital) {
      if (before === "small") cost += CASE_JUMP;
      capitals++;
    } else {
      if (capitals > 1) cost += CASE_JUMP;
      capitals = 0;
    }
    before = isCapital ? "capital" : "small";
  }
  return cost;
}

/** Bytes of a text that is UTF-8 but for a few, which are no part of any character. */
export function damagedUtf8(bytes: Buffer): boolean {
  if (isUtf8(bytes)) return false;
  let [whole, damaged] = [0, 0];
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at];
    if (byte < 0x80) continue;
    const length =
      byte >= 0xf0 && byte < 0xf5 ? 4 : byte >= 0xe0 && byte < 0xf0 ? 3 : byte >= 0xc2 && byte < 0xe0 ? 2 : 1;
    if (length > 1 && isUtf8(bytes.subarray(at, Math.min(at + length, bytes.length)))) {
      whole++;
      at += length - 1;
    } else damaged++;
  }
  // Of a text in another encoding two bytes in a row seldom look like one character of UTF-8.
  return whole >= damaged * 3;
}
