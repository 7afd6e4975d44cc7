/** Text without anything to clean: printable ASCII with single blanks inside. Nearly all cells are like that. */
import { say } from "../words/index.js";

const PLAIN = /^[!-_a-~]+(?: [!-_a-~]+)*$/;

/**
 * The cleaned form of a key: what two spellings share when a reader would call them the same.
 * Trimmed, inner blanks folded to one, compatibility forms and look-alike dashes, quotes and blanks folded, case folded.
 * Accents stay: `Zürich` and `Zurich` are near doubles, not the same.
 * @example groupKey(" Harbour\u00a0 House ") //=> "harbour house"
 */
export function groupKey(text: string): string {
  if (PLAIN.test(text)) return text.toLowerCase();
  return foldLookAlikes(text).toLocaleLowerCase("en").replace(/ß/g, "ss");
}

/** Text as it should be shown: trimmed, blanks of every kind folded to one space. Line ends are kept. */
export function cleanText(text: string): string {
  if (PLAIN.test(text)) return text;
  return text
    .replace(/[^\S\n]+/g, " ")
    .replace(/ ?\n ?/g, "\n")
    .replace(/(?:\u200b|\u200c|\u200d|\ufeff|\u00ad)/g, "")
    .trim();
}

function foldLookAlikes(text: string): string {
  return text
    .normalize("NFKC")
    .replace(/(?:\u200b|\u200c|\u200d|\ufeff|\u00ad)/g, "")
    .replace(/[\u2010-\u2015\u2212]/g, "-")
    .replace(/[\u2018\u2019\u02bc\u00b4`]/g, "'")
    .replace(/[\u201c\u201d\u201e]/g, '"')
    .replace(/\s+/g, " ")
    .trim();
}

/**
 * The form under which a column is looked up: case, blanks, underscores and hyphens do not tell columns apart.
 * @example columnKey("Visit date") === columnKey("visit_date") //=> true
 */
export function columnKey(name: string): string {
  return foldLookAlikes(name)
    .toLocaleLowerCase("en")
    .replace(/[\s_-]+/g, "_");
}

/** A coarser form for pointing at near doubles: letters and digits only, without accents. */
export function looseKey(text: string): string {
  return groupKey(text)
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .replace(/[^\p{L}\p{N}]/gu, "");
}

/** Number of single-letter changes between two words, given up beyond `limit` (then `limit + 1`). */
export function editDistance(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) > limit) return limit + 1;
  let previous = Array.from({ length: b.length + 1 }, (_, index) => index);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const change = previous[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1);
      row.push(Math.min(change, previous[j] + 1, row[j - 1] + 1));
    }
    if (Math.min(...row) > limit) return limit + 1;
    previous = row;
  }
  return previous[b.length];
}

/** The one of `names` a reader most likely meant by `given`, if any is near. */
export function nearestName(given: string, names: readonly string[]): string | undefined {
  const wanted = columnKey(given);
  let best: { name: string; distance: number } | undefined;
  for (const name of names) {
    const folded = columnKey(name);
    const distance = folded.includes(wanted) || wanted.includes(folded) ? 1.5 : editDistance(wanted, folded, 3);
    if (distance <= Math.max(1.5, Math.min(3, wanted.length / 3)) && (!best || distance < best.distance)) {
      best = { name, distance };
    }
  }
  return best?.name;
}

/** ` Did you mean "fee"?` or, with nothing near, the list of what there is. */
export function suggestName(given: string, names: readonly string[], kind: string): string {
  const near = nearestName(given, names);
  if (near !== undefined) return say().common.didYouMean({ near });
  const shown = names.slice(0, 12).join(", ");
  return say().common.theThereAre({ kind, shown, value: names.length > 12 ? ", …" : "" });
}
