/** Longer names are cut, so that path and ending fit every file system and mail program (in UTF-8 bytes). */
const MAX_NAME_BYTES = 180;
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)(\..*)?$/i;

/**
 * A name that every file system takes: no separators, no control or reserved characters, no dot or blank at the ends.
 * @example safeName("Dock 1/2: north?") //=> "Dock 1-2 north"
 */
export function safeName(text: string): string {
  const plain = text
    .normalize("NFC")
    .replace(/[\u0000-\u001f\u007f\u200b-\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g, " ")
    .replace(/[/\\|]/g, "-")
    .replace(/[<>:"?*]/g, " ")
    .replace(/\s+/g, " ")
    .replace(/^[\s.]+|[\s.]+$/g, "");
  const named = plain === "" ? "unnamed" : RESERVED.test(plain) ? `_${plain}` : plain;
  return cutBytes(named, MAX_NAME_BYTES);
}

/** A relative folder: each part made safe, none of them able to lead out. */
export function safeFolder(text: string): string {
  return text
    .split(/[/\\]/)
    .map((part) => part.trim())
    .filter((part) => part !== "" && part !== "." && part !== "..")
    .map(safeName)
    .join("/");
}

/** `name`, or `name (2)`, `name (3)`… where it is taken; names that differ only in case count as taken. Adds it to `taken`. */
export function uniqueName(name: string, ending: string, taken: Set<string>): string {
  for (let number = 1; ; number++) {
    const candidate = `${name}${number === 1 ? "" : ` (${number})`}${ending}`;
    const folded = foldFileName(candidate);
    if (taken.has(folded)) continue;
    taken.add(folded);
    return candidate;
  }
}

/** A name as a file system without capitals, and one that writes accents its own way, sees it: names that are the same for one are taken. */
export function foldFileName(name: string): string {
  return name.normalize("NFC").toUpperCase().toLowerCase().normalize("NFC");
}

/** A text that stands for itself in a pattern: its stars and question marks are letters there. */
export function literalInPattern(text: string): string {
  return text.replace(/[*?\\]/g, "\\$&");
}

/**
 * A pattern as a regular expression: `*` and `?` stand for any letters, a backslash before a sign for the sign itself.
 * @example patternSource("B\\* plan*.pdf") //=> "B\\* plan.*\\.pdf"
 */
export function patternSource(pattern: string): string {
  const quote = (text: string): string => text.replace(/[.+^${}()|[\]\\*?]/g, "\\$&");
  return [...pattern.matchAll(/\\(.)|([\s\S])/gu)]
    .map(([, escaped, plain]) =>
      escaped !== undefined ? quote(escaped) : plain === "*" ? ".*" : plain === "?" ? "." : quote(plain),
    )
    .join("");
}

/** A pattern without its signs: what it would name if all of it were literal. */
export function plainPattern(pattern: string): string {
  return pattern.replace(/\\(.)/gsu, "$1");
}

function cutBytes(text: string, limit: number): string {
  if (Buffer.byteLength(text) <= limit) return text;
  let cut = "";
  for (const char of text) {
    if (Buffer.byteLength(cut + char) > limit) break;
    cut += char;
  }
  return cut.trim();
}
