/** Plain forms of files, as people choose them; which there are is said by the schema. */
import { wordsFor } from "./field-words.js";

export function formWords(form = "delimited"): string {
  return wordsFor(form, ["list", "form"]);
}
