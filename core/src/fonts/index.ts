export { FontFile, type ShapedRun } from "./font-file.js";
export { Face, FontLibrary, type FontSource, type ShapedText } from "./library.js";
