/**
 * A function of one text that keeps what it found: for texts of templates, which are asked again at every filling.
 * Forgets all when it knows more than `most`.
 */
export function memoize<T>(find: (text: string) => T, most = 10_000): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    let found = known.get(text);
    if (found === undefined) {
      found = find(text);
      if (known.size >= most) known.clear();
      known.set(text, found);
    }
    return found;
  };
}
