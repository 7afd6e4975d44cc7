/** Names of sheets: ECMA-376 part 1, 18.2.19. */

/** Names of sheets: no forbidden signs, at most 31 characters, no two alike (18.2.19). */
export function uniqueNames(wanted: readonly string[], others: readonly string[]): string[] {
  const taken = new Set(others.map((name) => name.toLowerCase()));
  return wanted.map((text) => {
    const plain = sheetName(text);
    let name = plain;
    for (let number = 2; taken.has(name.toLowerCase()); number++) {
      const tail = ` (${number})`;
      name = [...plain].slice(0, 31 - tail.length).join("") + tail;
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
  return [...plain].slice(0, 31).join("").trim();
}
