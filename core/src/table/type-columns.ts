import {
  cleanText,
  dateFromSerial,
  type Finding,
  isoFromSerial,
  isRealDay,
  maybeSerialFromIso,
  serialFromParts,
} from "../common/index.js";
import type { RawCell, RawRow } from "./raw-rows.js";
import type { Cell, Column, ColumnType } from "./table.js";

/** A column keeps a type when at least so many of its filled cells have it; the rest is read or listed as a finding. */
const MAJORITY = 0.9;

interface Reading {
  readonly value: Cell;
  readonly type: ColumnType;
  /** The cell said something else than the column's type and was read all the same. */
  readonly converted?: boolean;
}

/** Decides the type of one column and reads its cells; what was changed or could not be read is a finding. */
export function typeColumn(
  name: string,
  index: number,
  rows: readonly RawRow[],
  where: string,
  findings: Finding[],
): Column {
  const cells = rows.map((row) => row.cells[index]);
  const type = chooseType(cells);
  const order = type === "date" || type === "datetime" ? dayMonthOrder(cells) : undefined;
  const trimmed: number[] = [];
  const converted: number[] = [];
  const unreadable: { row: number; text: string }[] = [];
  const errors: number[] = [];
  const values = cells.map((cell, at): Cell => {
    if (cell === undefined) return null;
    const row = rows[at].number;
    if (cell.error) {
      errors.push(row);
      return null;
    }
    if (typeof cell.value === "string" && cell.value !== cleanText(cell.value)) trimmed.push(row);
    const reading = readAs(cell, type, order);
    if (!reading) {
      if (cleanText(String(cell.value ?? "")) === "") return null;
      unreadable.push({ row, text: String(cell.value) });
      return null;
    }
    if (reading.converted) converted.push(row);
    return reading.value;
  });
  report(findings, where, name, type, { trimmed, converted, unreadable, errors, ambiguous: order === "ambiguous" });
  return { name, type, values };
}

/** Day before month or after it, as the column's own texts show; `ambiguous` where none of them tells. */
type DayMonthOrder = "day-first" | "month-first" | "ambiguous";

function chooseType(cells: readonly (RawCell | undefined)[]): ColumnType {
  const counts: Record<ColumnType, number> = { text: 0, number: 0, date: 0, datetime: 0, time: 0, boolean: 0 };
  let filled = 0;
  // The same texts come again and again: each is judged once.
  const judged = new Map<string, ColumnType>();
  for (const cell of cells) {
    if (cell === undefined || cell.error || (typeof cell.value === "string" && cell.value.trim() === "")) continue;
    filled++;
    const text = typeof cell.value === "string" ? cell.value : undefined;
    const type = (text === undefined ? undefined : judged.get(text)) ?? guessType(cell);
    if (text !== undefined) judged.set(text, type);
    counts[type]++;
  }
  if (filled === 0) return "text";
  if (counts.date + counts.datetime >= filled * MAJORITY) return counts.datetime > 0 ? "datetime" : "date";
  for (const type of ["number", "boolean", "time"] as const) if (counts[type] >= filled * MAJORITY) return type;
  return "text";
}

function guessType(cell: RawCell): ColumnType {
  if (cell.type) return cell.type === "datetime" && Number.isInteger(cell.value) ? "date" : cell.type;
  if (typeof cell.value === "number") return "number";
  if (typeof cell.value === "boolean") return "boolean";
  const text = cleanText(String(cell.value));
  if (isCode(text)) return "text";
  if (readNumber(text) !== undefined) return "number";
  const date = readDate(text, "ambiguous");
  if (date !== undefined) return Number.isInteger(date) ? "date" : "datetime";
  return /^(true|false)$/i.test(text) ? "boolean" : "text";
}

/** Codes that look like numbers: a leading zero, or more digits than a number keeps. */
function isCode(text: string): boolean {
  return /^0\d+$/.test(text) || /^\d{16,}$/.test(text);
}

function readAs(cell: RawCell, type: ColumnType, order: DayMonthOrder | undefined): Reading | undefined {
  const { value } = cell;
  if (type === "text") {
    const text = typeof value === "string" ? cleanText(value) : showRaw(cell);
    return text === "" ? { value: null, type } : { value: text, type };
  }
  if (typeof value === "string") {
    const text = cleanText(value);
    const read =
      type === "number"
        ? readNumber(text)
        : type === "boolean"
          ? readBoolean(text)
          : type === "time"
            ? undefined
            : readDate(text, order ?? "ambiguous");
    return read === undefined ? undefined : { value: read, type, converted: true };
  }
  if (typeof value === "number") {
    if (type === "number") return cell.type === undefined ? { value, type } : { value, type, converted: true };
    if (type === "boolean") return undefined;
    // A bare number in a column of dates is a serial whose format was lost, as long as it lies in our times.
    if (cell.type === undefined && (value < 20_000 || value > 80_000)) return undefined;
    return {
      value: type === "date" ? Math.floor(value) : value,
      type,
      ...(cell.type === undefined ? { converted: true } : {}),
    };
  }
  return typeof value === "boolean" && type === "boolean" ? { value, type } : undefined;
}

function showRaw(cell: RawCell): string {
  if (typeof cell.value !== "number" || !cell.type) return String(cell.value ?? "");
  if (cell.type === "time") return dateFromSerial(cell.value).toISOString().slice(11, 16);
  return cell.type === "date"
    ? isoFromSerial(Math.floor(cell.value))
    : isoFromSerial(cell.value).slice(0, 16).replace("T", " ");
}

/** Numbers as people write them: `1,234.50`, `1'234.50`, `1.234,50`, `-3`, `(3)`, `12.5%`, with a currency before or behind. */
export function readNumber(text: string): number | undefined {
  let plain = text.replace(/^(?:[€$£]|CHF|EUR|USD|GBP)\s*|\s*(?:[€$£]|CHF|EUR|USD|GBP)$/g, "");
  const negative = /^\(.*\)$/.test(plain) || /^[-\u2212]/.test(plain);
  plain = plain.replace(/^[-+\u2212(]|\)$/g, "").trim();
  const percent = plain.endsWith("%");
  if (percent) plain = plain.slice(0, -1).trim();
  if (/^\d{1,3}([' \u2019]\d{3})+([.,]\d+)?$/.test(plain)) plain = plain.replace(/[' \u2019]/g, "").replace(",", ".");
  else if (/^\d{1,3}(,\d{3})+(\.\d+)?$/.test(plain)) plain = plain.replaceAll(",", "");
  else if (/^\d{1,3}(\.\d{3})+,\d+$/.test(plain)) plain = plain.replaceAll(".", "").replace(",", ".");
  else if (/^\d+,\d+$/.test(plain)) plain = plain.replace(",", ".");
  if (!/^\d+(\.\d+)?([eE][-+]?\d+)?$|^\.\d+$/.test(plain)) return undefined;
  const number = (negative ? -1 : 1) * Number(plain);
  return percent ? number / 100 : number;
}

function readBoolean(text: string): boolean | undefined {
  return /^true$/i.test(text) ? true : /^false$/i.test(text) ? false : undefined;
}

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

function readDate(text: string, order: DayMonthOrder): number | undefined {
  const iso = maybeSerialFromIso(text);
  if (iso !== undefined) return iso;
  const named = /^(\d{1,2})[ .-]+([a-z]{3})[a-z]*\.?[ ,-]+(\d{4})$/i.exec(text);
  if (named) {
    const month = MONTHS.indexOf(named[2].toLowerCase()) + 1;
    return month > 0 && isRealDay(Number(named[3]), month, Number(named[1]))
      ? serialFromParts(Number(named[3]), month, Number(named[1]))
      : undefined;
  }
  const parts = numericDate(text);
  if (!parts) return undefined;
  const [first, second, year] = parts;
  // Dots are day first wherever they are used; slashes and dashes are told by the column.
  const monthFirst = order === "month-first" && !text.includes(".");
  const [day, month] = monthFirst || (second > 12 && first <= 12) ? [second, first] : [first, second];
  return isRealDay(year, month, day) ? serialFromParts(year, month, day) : undefined;
}

function numericDate(text: string): [number, number, number] | undefined {
  const match = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/.exec(text);
  if (!match) return undefined;
  const year = Number(match[3]);
  return [Number(match[1]), Number(match[2]), year < 100 ? year + (year < 70 ? 2000 : 1900) : year];
}

function dayMonthOrder(cells: readonly (RawCell | undefined)[]): DayMonthOrder | undefined {
  let undecided = false;
  let dayFirst = false;
  let monthFirst = false;
  for (const cell of cells) {
    if (typeof cell?.value !== "string") continue;
    const text = cleanText(cell.value);
    const parts = numericDate(text);
    if (!parts) continue;
    if (text.includes(".") || parts[0] > 12) dayFirst = true;
    else if (parts[1] > 12) monthFirst = true;
    else if (parts[0] !== parts[1]) undecided = true;
  }
  if (dayFirst && monthFirst) return "ambiguous";
  if (dayFirst) return "day-first";
  if (monthFirst) return "month-first";
  return undecided ? "ambiguous" : undefined;
}

interface Noticed {
  readonly trimmed: readonly number[];
  readonly converted: readonly number[];
  readonly unreadable: readonly { readonly row: number; readonly text: string }[];
  readonly errors: readonly number[];
  readonly ambiguous: boolean;
}

function report(findings: Finding[], where: string, name: string, type: ColumnType, noticed: Noticed): void {
  const at = `${where}, column ${name}`;
  if (noticed.trimmed.length > 0) {
    findings.push({
      code: "blanks-folded",
      severity: "note",
      where: at,
      what: `${count(noticed.trimmed, "cell has", "cells have")} blanks at the ends or doubled inside; they were folded (${rowList(noticed.trimmed)}).`,
      advice: "Nothing to do.",
      count: noticed.trimmed.length,
    });
  }
  if (noticed.converted.length > 0) {
    findings.push({
      code: "read-as-type",
      severity: "note",
      where: at,
      what: `${count(noticed.converted, "cell was", "cells were")} not stored as ${article(type)} and read as one (${rowList(noticed.converted)}).`,
      advice: noticed.ambiguous
        ? "Day and month cannot be told apart for sure here: look at these rows."
        : "Nothing to do.",
      count: noticed.converted.length,
    });
  }
  if (noticed.ambiguous) {
    findings.push({
      code: "ambiguous-dates",
      severity: "warn",
      where: at,
      what: "Some dates are texts in which day and month could be swapped; they were read day first.",
      advice: "Let the source write dates as dates, or as 2026-10-31.",
    });
  }
  if (noticed.unreadable.length > 0) {
    const rows = noticed.unreadable.map((entry) => entry.row);
    findings.push({
      code: "unreadable-cell",
      severity: "warn",
      where: at,
      what: `${count(rows, "cell", "cells")} cannot be read as ${article(type)}, such as "${noticed.unreadable[0].text}", and ${rows.length === 1 ? "is" : "are"} taken as blank (${rowList(rows)}).`,
      advice: "Correct it in the source and load again.",
      count: rows.length,
    });
  }
  if (noticed.errors.length > 0) {
    findings.push({
      code: "error-value",
      severity: "warn",
      where: at,
      what: `${count(noticed.errors, "cell holds", "cells hold")} an error value and ${noticed.errors.length === 1 ? "is" : "are"} taken as blank (${rowList(noticed.errors)}).`,
      advice: "Correct the formula in the source and load again.",
      count: noticed.errors.length,
    });
  }
}

function count(items: readonly unknown[], one: string, many: string): string {
  return `${items.length.toLocaleString("en")} ${items.length === 1 ? one : many}`;
}

function article(type: ColumnType): string {
  return type === "datetime" ? "a date with a time" : type === "boolean" ? "a truth value" : `a ${type}`;
}

function rowList(rows: readonly number[]): string {
  return `${rows.length === 1 ? "row" : "rows"} ${rows.slice(0, 5).join(", ")}${rows.length > 5 ? ", …" : ""}`;
}
