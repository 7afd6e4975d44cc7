import { createRequire } from "node:module";

/** A package that is loaded when it is used first: what starts without it, such as a thread for one task, does not wait for it. */
export function packageOnUse<T>(name: string): () => T {
  let loaded: { readonly what: T } | undefined;
  return () => {
    loaded ??= { what: createRequire(import.meta.url)(name) as T };
    return loaded.what;
  };
}
