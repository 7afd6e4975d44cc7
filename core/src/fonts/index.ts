export { FontFile, type ShapedRun } from "./font-file.js";
export { type Fonts, FontWatch } from "./font-watch.js";
export { Face, FontLibrary, type FontSource, type ShapedText } from "./library.js";
export { readFont } from "./read-font.js";
