/** What the types cannot know to be there, asked for with words in place of a promise. */

/** What stands for a key that has been put in before. */
export function known<Key extends PropertyKey | object, Value>(
  map: Pick<ReadonlyMap<Key, Value>, "get">,
  key: Key,
): NonNullable<Value> {
  const value = map.get(key);
  if (value === undefined || value === null)
    throw new Error(`nothing stands for ${typeof key === "object" ? "this thing" : String(key)}`);
  return value;
}

/** What has been made before. */
export function made<Value>(value: Value | undefined | null, what: string): Value {
  if (value === undefined || value === null) throw new Error(`${what} is not there`);
  return value;
}

/** What whatever was thrown says. */
export function wordsOf(error: unknown): string {
  // Threads and packages throw things that are no errors but look like them.
  const message = typeof error === "object" && error !== null && "message" in error ? error.message : error;
  return String(message);
}

/** One of the words that are known, or the one that stands for all others. */
export function oneOf<const Word extends string>(
  words: readonly Word[],
  word: string | undefined,
  otherwise: Word,
): Word {
  return words.find((one) => one === word) ?? otherwise;
}

/** The code point of a character; a text of several gives its first. */
export function codePointOf(character: string): number {
  return character.codePointAt(0) ?? 0;
}
