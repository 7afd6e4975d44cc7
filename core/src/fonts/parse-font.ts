import { createRequire } from "node:module";
import type * as Fontkit from "fontkit";
import { lazily } from "../common/index.js";
import { unwrapWoff } from "./unwrap-woff.js";

const fontkit = lazily(() => createRequire(import.meta.url)("fontkit") as typeof Fontkit);

/** The tables of a font file (.ttf, .woff). Throws for what is none. */
export function parseFont(bytes: Uint8Array): unknown {
  return fontkit().create(unwrapWoff(bytes) as Buffer);
}
