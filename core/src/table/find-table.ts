import { CorbixError, cleanKey, cleanText, type Finding, foldName } from "../common/index.js";
import type { RawCell, RawRow, RawSheet } from "./raw-rows.js";

/** Where the table lies in a sheet. */
export interface FoundTable {
  /** Columns used, as indexes into a raw row, with their names. */
  readonly columns: readonly { readonly index: number; readonly name: string }[];
  readonly headerRow: number;
  readonly rows: readonly RawRow[];
  /** Rows that are no rows of the table, by reason. */
  readonly leftOut: readonly { readonly row: number; readonly reason: LeftOutReason; readonly text: string }[];
  readonly findings: readonly Finding[];
}

export type LeftOutReason = "title" | "total" | "blank" | "note" | "repeated header";

/** A header is looked for in so many rows from the top. */
const HEADER_SEARCH_ROWS = 50;
const TOTAL_WORD = /^(grand |sub)?-?(totals?|sum|summe|gesamt(summe)?|total g[eé]n[eé]ral|totale|suma)\b/i;

/** Finds header and rows below title lines, and leaves out total lines, blank lines and notes. Throws `NO_TABLE`. */
export function findTable(sheet: RawSheet): FoundTable {
  const headerAt = findHeader(sheet);
  const header = sheet.rows[headerAt];
  const findings: Finding[] = [];
  const body = sheet.rows.slice(headerAt + 1);
  const columns = nameColumns(header, body, sheet.where, findings);
  const leftOut: { row: number; reason: LeftOutReason; text: string }[] = sheet.rows
    .slice(0, headerAt)
    .map((row) => ({ row: row.number, reason: "title", text: rowText(row) }));
  const rows: RawRow[] = [];
  for (const row of body) {
    const reason = whyNoRow(row, columns, header);
    if (reason) leftOut.push({ row: row.number, reason, text: rowText(row) });
    else rows.push(row);
  }
  cutNotes(rows, columns, leftOut);
  cutLastTotal(rows, columns, leftOut);
  for (const reason of ["title", "total", "note", "repeated header"] as const) {
    const found = leftOut.filter((entry) => entry.reason === reason);
    if (found.length > 0) findings.push(leftOutFinding(sheet.where, reason, found));
  }
  return { columns, headerRow: header.number, rows, leftOut, findings };
}

/** The row that looks most like a header: many filled texts, all different, with filled rows below. */
function findHeader(sheet: RawSheet): number {
  const candidates = sheet.rows.slice(0, HEADER_SEARCH_ROWS);
  let best = { index: -1, score: 0 };
  candidates.forEach((row, index) => {
    const filled = row.cells.filter((cell): cell is RawCell => cell !== undefined && cell.value !== "");
    const texts = filled.filter(
      (cell) => typeof cell.value === "string" && cell.value.trim() !== "" && !looksLikeData(cell.value),
    );
    const distinct = new Set(texts.map((cell) => cleanKey(String(cell.value)))).size;
    if (texts.length === 0 || texts.length < filled.length * 0.6) return;
    const below = sheet.rows.slice(index + 1, index + 6);
    const width =
      below.length === 0 ? 0 : below.reduce((sum, next) => sum + next.cells.filter(Boolean).length, 0) / below.length;
    const score =
      distinct * 2 -
      (filled.length - distinct) * 2 +
      Math.min(width, filled.length) -
      index * 0.01 -
      (Math.abs(width - filled.length) > filled.length / 2 ? filled.length : 0);
    if (score > best.score) best = { index, score };
  });
  if (best.index < 0) {
    throw new CorbixError("NO_TABLE", `Cannot find a header row in the first ${HEADER_SEARCH_ROWS} rows.`, {
      where: sheet.where,
      advice: "The table needs one row with a name above each column.",
    });
  }
  return best.index;
}

function looksLikeData(text: string): boolean {
  return /^[-+]?[\d.,'\s]+%?$/.test(text.trim()) || /^\d{1,4}[-./]\d{1,2}[-./]\d{1,4}/.test(text.trim());
}

function nameColumns(
  header: RawRow,
  body: readonly RawRow[],
  where: string,
  findings: Finding[],
): { index: number; name: string }[] {
  const width = body.reduce((most, row) => Math.max(most, row.cells.length), header.cells.length);
  const seen = new Map<string, number>();
  const columns: { index: number; name: string }[] = [];
  for (let index = 0; index < width; index++) {
    const title = header.cells[index]?.value;
    let name = title === undefined || title === null ? "" : cleanText(String(title)).replace(/\n/g, " ");
    if (name === "") {
      const used = body.filter((row) => row.cells[index] !== undefined).length;
      if (used === 0) continue;
      name = `Column ${index + 1}`;
      findings.push({
        code: "column-without-name",
        severity: "warn",
        where: `${where}, row ${header.number}`,
        what: `Column ${index + 1} has ${used} values but no name; it is called "${name}".`,
        advice: "Give it a heading in the source.",
        count: used,
      });
    }
    const times = (seen.get(foldName(name)) ?? 0) + 1;
    seen.set(foldName(name), times);
    if (times > 1) {
      findings.push({
        code: "column-named-twice",
        severity: "warn",
        where: `${where}, row ${header.number}`,
        what: `Two columns are called "${name}"; the later one is called "${name} ${times}".`,
        advice: "Give each column its own heading in the source.",
      });
      name = `${name} ${times}`;
    }
    columns.push({ index, name });
  }
  return columns;
}

function whyNoRow(row: RawRow, columns: FoundTable["columns"], header: RawRow): LeftOutReason | undefined {
  const filled = columns.filter(({ index }) => !isBlank(row.cells[index]));
  if (filled.length === 0) return "blank";
  const repeats = columns.length > 1 && columns.every(({ index }) => isSame(row.cells[index], header.cells[index]));
  if (repeats) return "repeated header";
  const first = row.cells[filled[0].index]?.value;
  if (typeof first === "string" && TOTAL_WORD.test(first.trim()) && filled.length < columns.length * 0.7)
    return "total";
  return undefined;
}

function isSame(a: RawCell | undefined, b: RawCell | undefined): boolean {
  return cleanKey(String(a?.value ?? "")) === cleanKey(String(b?.value ?? ""));
}

const TOTAL_ALONE = /^(grand |sub)?-?(totals?|sum|summe|gesamt(summe)?|totale|suma)\s*:?$/i;

/** A last line that says nothing but "Total" is one, also where all its cells are filled. */
function cutLastTotal(
  rows: RawRow[],
  columns: FoundTable["columns"],
  leftOut: { row: number; reason: LeftOutReason; text: string }[],
): void {
  const last = rows[rows.length - 1];
  const first = last && columns.map(({ index }) => last.cells[index]).find((cell) => !isBlank(cell))?.value;
  if (rows.length < 2 || typeof first !== "string" || !TOTAL_ALONE.test(first.trim())) return;
  leftOut.push({ row: last.number, reason: "total", text: rowText(last) });
  rows.pop();
}

/** Lines at the end with a single text and nothing else are notes below the table. */
function cutNotes(
  rows: RawRow[],
  columns: FoundTable["columns"],
  leftOut: { row: number; reason: LeftOutReason; text: string }[],
): void {
  if (columns.length < 3) return;
  while (rows.length > 0) {
    const last = rows[rows.length - 1];
    const filled = columns.filter(({ index }) => !isBlank(last.cells[index]));
    if (filled.length !== 1 || typeof last.cells[filled[0].index]?.value !== "string") return;
    leftOut.push({ row: last.number, reason: "note", text: rowText(last) });
    rows.pop();
  }
}

function isBlank(cell: RawCell | undefined): boolean {
  return cell === undefined || cell.value === null || (typeof cell.value === "string" && cell.value.trim() === "");
}

function rowText(row: RawRow): string {
  return row.cells
    .filter((cell): cell is RawCell => !isBlank(cell))
    .map((cell) => String(cell.value))
    .join(" | ")
    .slice(0, 120);
}

function leftOutFinding(
  where: string,
  reason: LeftOutReason,
  found: readonly { row: number; text: string }[],
): Finding {
  const what: Record<LeftOutReason, string> = {
    title: "above the header are titles, not data",
    total: "is a total line and was left out, so nothing is counted twice",
    note: "below the table is a note",
    "repeated header": "repeats the header",
    blank: "is blank",
  };
  const rows = found.map((entry) => entry.row);
  const place =
    rows.length === 1 ? `Row ${rows[0]}` : `Rows ${rows.slice(0, 5).join(", ")}${rows.length > 5 ? ", …" : ""}`;
  return {
    code: `${reason.replace(" ", "-")}-left-out`,
    severity: "note",
    where,
    what: `${place} ${what[reason]}: "${found[0].text}"${found.length > 1 ? ` and ${found.length - 1} more` : ""}.`,
    advice: reason === "total" ? "If this line is data, give its key another name than a total's." : "Nothing to do.",
    count: found.length,
  };
}
