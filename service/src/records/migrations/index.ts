import { up as first } from "./0001-first.js";

/** In order; a migration that has been released is never changed. */
export const MIGRATIONS: readonly { readonly name: string; readonly up: string }[] = [
  { name: "0001-first", up: first },
];
