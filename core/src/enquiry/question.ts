/** A question: what somebody filled in, as a search over the prepared rows. */
import { CorbixError, isoFromSerial, maybeSerialFromIso, suggestName } from "../common/index.js";
import type { AskedQuery, GridFilter } from "../grid/index.js";
import { findColumn } from "../prepare/index.js";
import type { Enquiry, EnquiryField } from "../report/index.js";
import { type ColumnInfo, readNumber } from "../table/index.js";
import { say } from "../words/index.js";

/** What stands in a field: a text, several to choose from, or two ends. A text `a..b` is two ends as well. */
export type FieldValue = string | string[] | { readonly from?: string | undefined; readonly to?: string | undefined };
export type Values = Readonly<Record<string, FieldValue>>;

/** Ends of what lies between, as text; an end that is open is blank. */
interface Ends {
  readonly from: string;
  readonly to: string;
}

/** What is kept of a field that was filled in. */
export interface FilledField {
  readonly name: string;
  readonly label: string;
  /** As people read it. */
  readonly value: string;
}

export interface Question {
  readonly query: AskedQuery;
  readonly filled: readonly FilledField[];
}

/** Columns that a field is about. */
export function fieldColumns(field: EnquiryField): readonly string[] {
  if ("choose" in field) return [field.choose];
  return "between" in field ? [field.between] : field.search;
}

/** What a field is called where people fill it in. */
export function fieldLabel(field: EnquiryField): string {
  return field.label ?? fieldColumns(field).join(", ");
}

/**
 * Reads what was filled in, against the prepared columns. Fields that are left blank ask nothing. Throws `BAD_REQUEST` with the field
 * for a field there is not, one that is needed and blank, and a value that is none for its column.
 */
export function readQuestion(enquiry: Enquiry, columns: readonly ColumnInfo[], values: Values): Question {
  const names = Object.keys(enquiry.fields);
  const strange = Object.keys(values).find((name) => !names.includes(name));
  if (strange !== undefined)
    throw new CorbixError("BAD_REQUEST", say().enquiry.cannotFindField({ name: strange }), {
      where: strange,
      advice: suggestName(strange, names, "fields"),
    });
  const asked: Asked[] = [];
  const filled: FilledField[] = [];
  for (const [name, field] of Object.entries(enquiry.fields)) {
    const label = fieldLabel(field);
    const one = askedOf({ name, label }, field, columns, values[name]);
    if (one) {
      asked.push(one);
      filled.push({ name, label, value: one.shown });
    } else if (field.needed)
      throw new CorbixError("BAD_REQUEST", say().enquiry.needsField({ label }), {
        where: name,
        advice: say().enquiry.fillIn(),
      });
  }
  const query: AskedQuery = {
    search: "",
    filters: asked.flatMap((one) => one.filters ?? []),
    sort: [...(enquiry.sort ?? [])],
    anyOf: asked.flatMap((one) => one.anyOf ?? []),
    words: asked.flatMap((one) => one.words ?? []),
  };
  return { query, filled };
}

/** What one field asks, and how it is shown. */
interface Asked {
  readonly filters?: readonly GridFilter[];
  readonly anyOf?: AskedQuery["anyOf"];
  readonly words?: AskedQuery["words"];
  readonly shown: string;
}

interface Place {
  readonly name: string;
  readonly label: string;
}

/** Nothing where the field is left blank. */
function askedOf(
  place: Place,
  field: EnquiryField,
  columns: readonly ColumnInfo[],
  value: FieldValue | undefined,
): Asked | undefined {
  if ("between" in field) {
    const { type } = columnNamed(columns, field.between);
    const given = endsOf(value);
    const from = checkedEnd(place, type, given.from);
    const to = checkedEnd(place, type, given.to);
    if (from === "" && to === "") return undefined;
    const filters: GridFilter[] = [];
    if (from !== "") filters.push({ column: field.between, is: "at-least", value: from });
    if (to !== "") filters.push({ column: field.between, is: "at-most", value: to });
    return { filters, shown: say().enquiry.between({ from, to }) };
  }
  const texts = textsOf(place, value);
  if (texts.length === 0) return undefined;
  if ("choose" in field) {
    const shown = texts.map((text) => (text === "" ? say().enquiry.blank() : text)).join(", ");
    return { anyOf: [{ column: field.choose, values: texts }], shown };
  }
  const text = texts.join(" ").trim();
  return text === "" ? undefined : { words: [{ columns: field.search, text }], shown: text };
}

function textsOf({ name }: Place, value: FieldValue | undefined): readonly string[] {
  if (value === undefined) return [];
  if (typeof value === "string") return value.trim() === "" ? [] : [value];
  if (Array.isArray(value)) return value;
  throw new CorbixError("BAD_REQUEST", say().enquiry.expectedText(), { where: name });
}

function endsOf(value: FieldValue | undefined): Ends {
  if (value === undefined) return { from: "", to: "" };
  if (typeof value === "string") {
    const [from = "", to = from] = value.split("..", 2);
    return { from: from.trim(), to: to.trim() };
  }
  const { from = "", to = "" } = Array.isArray(value) ? { from: value[0], to: value[1] } : value;
  return { from: from.trim(), to: to.trim() };
}

/** An end as its column is compared with, or blank where it is open. */
function checkedEnd({ name, label }: Place, type: ColumnInfo["type"], text: string): string {
  if (text === "") return "";
  const isDate = type === "date" || type === "datetime";
  const value = isDate ? maybeSerialFromIso(text) : readNumber(text);
  if (value !== undefined) return isDate && Number.isInteger(value) ? isoFromSerial(value) : text;
  throw new CorbixError("BAD_REQUEST", say().enquiry.cannotRead({ label, text }), {
    where: name,
    advice: isDate ? say().enquiry.writeDay() : say().enquiry.writeNumber(),
  });
}

const columnNamed = (columns: readonly ColumnInfo[], name: string, where = "enquiry, fields"): ColumnInfo =>
  columns[findColumn(columns, name, where)];

/** Checks an enquiry against the prepared columns. Throws `BAD_DEFINITION` with the place and a near name. */
export function checkEnquiry(enquiry: Enquiry, columns: readonly ColumnInfo[], files: readonly string[]): void {
  for (const [name, field] of Object.entries(enquiry.fields)) {
    const where = `enquiry, fields, ${name}`;
    for (const one of fieldColumns(field)) {
      const { type } = columnNamed(columns, one, where);
      if ("between" in field && type !== "date" && type !== "datetime" && type !== "number")
        throw new CorbixError("BAD_DEFINITION", say().enquiry.noOrder({ column: one }), {
          where,
          advice: say().enquiry.chooseInstead(),
        });
    }
  }
  for (const name of enquiry.columns ?? []) columnNamed(columns, name, "enquiry, columns");
  for (const name of enquiry.sort ?? []) columnNamed(columns, name.replace(/^-/, ""), "enquiry, sort");
  if (enquiry.page !== undefined && !files.includes(enquiry.page))
    throw new CorbixError("BAD_DEFINITION", say().enquiry.cannotFindFile({ name: enquiry.page }), {
      where: "enquiry, page",
      advice: suggestName(enquiry.page, files, "files"),
    });
}
