/** Plain forms of files, as people choose them. */
import { wordsFor } from "./field-words.js";

export const LIST_FORMS = [
  "delimited",
  "fixed-width",
  "json",
  "json-lines",
  "ods",
  "html",
  "icalendar",
  "vcard",
] as const;
export type ListForm = (typeof LIST_FORMS)[number];

export function formWords(form: ListForm = "delimited"): string {
  return wordsFor(form, ["list", "form"]);
}
