/** Names of sheets: ECMA-376 part 1, 18.2.19. */

/** Characters a name may have. */
const MOST = 31;

/** Names of sheets: no forbidden signs, at most 31 characters, no two alike (18.2.19). */
export function uniqueNames(wanted: readonly string[], others: readonly string[]): string[] {
  const taken = new Set(others.map((name) => name.toLowerCase()));
  return wanted.map((text) => {
    const plain = sheetName(text);
    let name = plain;
    for (let number = 2; taken.has(name.toLowerCase()); number++) {
      const tail = ` (${number})`;
      name = cut(plain, MOST - tail.length) + tail;
    }
    taken.add(name.toLowerCase());
    return name;
  });
}

/** A sheet's name takes 31 characters and none of `[]:*?/\` (18.2.19). */
export function sheetName(text: string): string {
  const plain =
    text
      .replace(/[[\]:*?/\\]/g, " ")
      .replace(/^'+|'+$/g, "")
      .trim() || "Sheet";
  return cut(plain, MOST);
}

/** Counted in UTF-16 as programs count, without a broken character or a quote at the end. */
function cut(text: string, length: number): string {
  let kept = "";
  for (const character of text) {
    if (kept.length + character.length > length) break;
    kept += character;
  }
  return kept.replace(/[\s']+$/, "");
}
