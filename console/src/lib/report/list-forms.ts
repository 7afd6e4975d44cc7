/** Plain forms of files, as people choose them. */
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

export const LIST_WORDS: Readonly<Record<ListForm, string>> = {
  delimited: "Delimited text (CSV)",
  "fixed-width": "Text of fixed widths",
  json: "JSON, one list",
  "json-lines": "JSON, a record a line",
  ods: "OpenDocument spreadsheet",
  html: "A table of HTML",
  icalendar: "Calendar entries (iCalendar)",
  vcard: "Cards of people (vCard)",
};
