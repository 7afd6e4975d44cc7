/** The version that runs. */
import { readFileSync } from "node:fs";

export const VERSION = (
  JSON.parse(readFileSync(new URL("../../package.json", import.meta.url), "utf8")) as { readonly version: string }
).version;
