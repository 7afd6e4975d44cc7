/** Things by a key of theirs, each key's in their order. */
export function groupedBy<Thing, Key>(all: Iterable<Thing>, keyOf: (one: Thing) => Key): Map<Key, Thing[]> {
  const found = new Map<Key, Thing[]>();
  for (const one of all) {
    const key = keyOf(one);
    const own = found.get(key);
    if (own) own.push(one);
    else found.set(key, [one]);
  }
  return found;
}
