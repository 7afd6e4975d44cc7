/** A package that is loaded when it is used first: what starts without it, such as a thread for one task, does not wait for it. */
export function lazily<T>(load: () => T): () => T {
  let loaded: { readonly what: T } | undefined;
  return () => {
    loaded ??= { what: load() };
    return loaded.what;
  };
}
