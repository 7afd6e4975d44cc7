/** What a person is known by: where it stands in texts and values, and what stands there once it is taken out. */

/** A person by the words that are asked for: addresses, names, or both. */
export interface PersonWords {
  /** Each as it is looked for. */
  readonly words: readonly string[];
  /** Whether a text holds one of them: whole, not within another word or address. */
  readonly isIn: (text: string) => boolean;
  /** Whether any text within a value of JSON does. */
  readonly isWithin: (value: unknown) => boolean;
  /** The text with the stand-in in place of each; an address stays one. */
  readonly without: (text: string) => string;
  /** The value with the stand-in in all its texts; what stands beside an address as its name goes too. */
  readonly withoutAll: <Value>(value: Value) => Value;
}

/** Where addresses of nobody are (RFC 2606, 2). */
const NOWHERE = "erased.invalid";
/** What an address goes on with, before and behind: part of another one then. */
const IN_ADDRESS = String.raw`[\p{L}\p{N}._%+'@-]`;

/**
 * @param wanted addresses or names; case, width and the number of spaces make no difference
 * @param standIn what stands in place of them, without spaces
 */
export function personWords(wanted: readonly string[], standIn: string): PersonWords {
  const words = [...new Set(wanted.map((one) => one.normalize("NFKC").trim().replace(/\s+/gu, " ")).filter(Boolean))];
  const patterns = words.map(patternOf);
  const whole = new RegExp(patterns.join("|") || "(?!)", "iu");
  const every = new RegExp(whole.source, "giu");
  const plain = (text: string): string => text.normalize("NFKC");
  const isIn = (text: string): boolean => text !== "" && whole.test(plain(text));
  const without = (text: string): string =>
    isIn(text)
      ? plain(text).replace(every, (found) => (found.includes("@") ? `${standIn}@${NOWHERE}` : standIn))
      : text;
  const isWithin = (value: unknown): boolean => {
    if (typeof value === "string") return isIn(value);
    if (Array.isArray(value)) return value.some(isWithin);
    if (value === null || typeof value !== "object") return false;
    return Object.entries(value).some(([key, inner]) => isIn(key) || isWithin(inner));
  };
  const withoutAll = <Value>(value: Value): Value => changed(value, without, isIn, standIn) as Value;
  return { words, isIn, isWithin, without, withoutAll };
}

function patternOf(word: string): string {
  const text = word.replace(/[\\^$.*+?()[\]{}|/]/g, String.raw`\$&`).replaceAll(" ", String.raw`\s+`);
  if (!word.includes("@")) return String.raw`(?<![\p{L}\p{N}])${text}(?![\p{L}\p{N}])`;
  // A full stop behind an address ends a sentence.
  return String.raw`(?<!${IN_ADDRESS})${text}(?!\.?[\p{L}\p{N}_@-])`;
}

function changed(
  value: unknown,
  without: (text: string) => string,
  isIn: (text: string) => boolean,
  standIn: string,
): unknown {
  if (typeof value === "string") return without(value);
  if (Array.isArray(value)) return value.map((one) => changed(one, without, isIn, standIn));
  if (value === null || typeof value !== "object") return value;
  const known = value as Readonly<Record<string, unknown>>;
  const isOwn = typeof known.address === "string" && isIn(known.address);
  return Object.fromEntries(
    Object.entries(known).map(([key, inner]) => [
      without(key),
      isOwn && key === "name" && typeof inner === "string" && inner !== ""
        ? standIn
        : changed(inner, without, isIn, standIn),
    ]),
  );
}
