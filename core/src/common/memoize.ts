import { LRUCache } from "lru-cache";

/**
 * A function of one text that keeps what it found: for texts of templates, which are asked again at every filling. Of more than `most`
 * those are forgotten that were not asked for the longest.
 */
export function memoize<T>(find: (text: string) => T, most = 10_000): (text: string) => T {
  const known = new LRUCache<string, { readonly found: T }>({ max: most });
  return (text) => {
    let kept = known.get(text);
    if (kept === undefined) {
      kept = { found: find(text) };
      known.set(text, kept);
    }
    return kept.found;
  };
}
