import type * as Fontkit from "fontkit";
import { packageOnUse } from "../common/index.js";
import { unwrapWoff } from "./unwrap-woff.js";

const fontkit = packageOnUse<typeof Fontkit>("fontkit");

/** The tables of a font file (.ttf, .woff). Throws for what is none. */
export function parseFont(bytes: Uint8Array): unknown {
  return fontkit().create(unwrapWoff(bytes) as Buffer);
}
