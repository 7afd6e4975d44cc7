/** About how large a message is on its way: bytes grow by a third where they are encoded for mail (base64, RFC 2045). */
const ENCODED = 4 / 3;
/** Texts grow a little, and headers come before them and before each file. */
const TEXT_GROWTH = 1.06;
const HEADERS = 1_200;

export function mailSize(words: number, files: readonly number[]): number {
  return Math.round(
    files.reduce((sum, size) => sum + size * ENCODED * (78 / 76) + HEADERS / 4, words * TEXT_GROWTH + HEADERS),
  );
}

/** The file of a report that an attachment's name means, and whether it is its PDF. */
export function weighed(name: string): { readonly file: string; readonly isPdf: boolean } {
  return name.endsWith(".pdf") ? { file: name.slice(0, -".pdf".length), isPdf: true } : { file: name, isPdf: false };
}
