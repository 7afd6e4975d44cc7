/** What is told about how a file was read: what was found, and why lines are no rows. */
import { word } from "./format.js";

const FOUND: Readonly<Record<string, string>> = {
  kind: word("kind"),
  sheet: word("sheet"),
  table: word("table"),
  range: word("range"),
  "named-range": "named range",
  header: word("header"),
  columns: word("columns"),
  records: word("records"),
  end: word("end"),
  dates: word("dates"),
  encoding: word("encoding"),
  delimiter: word("delimiter"),
  quote: word("quote"),
  lines: word("lines"),
};
const REASONS: Readonly<Record<string, string>> = {
  title: word("title"),
  header: word("header"),
  total: word("total"),
  blank: word("blank"),
  note: word("note"),
  "repeated-header": "repeated header",
  outside: word("outside"),
  "other-table": "other table",
};
const keyOf = (name: string): string => name.replaceAll(" ", "-");

export const foundWord = (what: string): string => FOUND[keyOf(what)] ?? what;
export const lineReason = (reason: string): string => REASONS[keyOf(reason)] ?? reason;
