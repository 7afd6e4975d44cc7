/** Plain forms that the lines of a group can be written in, and the endings of their files. */
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

/** Endings of their files. */
export const LIST_KINDS = ["csv", "tsv", "txt", "json", "jsonl", "ods", "html", "ics", "vcf"] as const;
export type ListKind = (typeof LIST_KINDS)[number];

export const ENDINGS: Readonly<Record<ListForm, ListKind>> = {
  delimited: "csv",
  "fixed-width": "txt",
  json: "json",
  "json-lines": "jsonl",
  ods: "ods",
  html: "html",
  icalendar: "ics",
  vcard: "vcf",
};
