/** Which editor can write words formatted without changing what they say; none for plain text, and for what holds more. */
import { markdownWriting } from "./editor.js";
import { isFormattableHtml } from "./html.js";
import { htmlWriting } from "./html-editor.js";
import { isFormattable } from "./markdown.js";
import type { Writing } from "./writing.js";

export function writingOf(kind: string, words: string): Writing | undefined {
  if (kind === "markdown") return isFormattable(words) ? markdownWriting : undefined;
  return kind === "html" && isFormattableHtml(words) ? htmlWriting : undefined;
}
