/** The mark for a table of rows inside a message, as it is set up by ticking columns. */
import { writeName } from "../report/conditions.js";

export interface ShownColumn {
  /** The column's name as the data have it, or an expression over a row. */
  readonly column: string;
  readonly heading: string;
  readonly format: string;
  readonly total: boolean;
}

export interface RowsTable {
  /** Lines it shows: `line` for the group's own. */
  readonly lines: string;
  readonly columns: readonly ShownColumn[];
}

const ADDITION = /\s+(?:(as|headed)\s+"([^"]*)"|(total))$/;

/** The table that a mark writes; nothing for one with more than ticks can make. */
export function readRowsTable(mark: string, names: readonly string[]): RowsTable | undefined {
  const [, lines = "line", columns = ""] = /^\{\{\s*table\s+(\w+)\s*:([\s\S]*)\}\}$/.exec(mark) ?? [];
  const parts = partsOf(columns);
  if (parts.length === 0 || /\s(?:where|style|sort|by)\s/.test(columns.replace(/"[^"]*"|`[^`]*`/g, "")))
    return undefined;
  return { lines, columns: parts.map((part) => readColumn(part, names)) };
}

/** Commas outside of quotes and brackets. */
function partsOf(text: string): string[] {
  const parts = [""];
  let depth = 0;
  for (const piece of text.match(/"[^"]*"|`[^`]*`|[\s\S]/g) ?? []) {
    if (piece === "(") depth++;
    if (piece === ")") depth--;
    if (piece === "," && depth === 0) parts.push("");
    else parts[parts.length - 1] += piece;
  }
  return parts.map((part) => part.trim()).filter((part) => part !== "");
}

function readColumn(text: string, names: readonly string[]): ShownColumn {
  let source = text;
  const found = { heading: "", format: "", total: false };
  for (let match = ADDITION.exec(source); match; match = ADDITION.exec(source)) {
    if (match[3]) found.total = true;
    else if (match[1] === "as") found.format = match[2] ?? "";
    else found.heading = match[2] ?? "";
    source = source.slice(0, match.index);
  }
  return { column: names.find((name) => writeName(name) === source || name === source) ?? source, ...found };
}

/** A column that the data have is written as expressions name it; anything else stays as it is. */
export function writeRowsTable({ lines, columns }: RowsTable, names: readonly string[]): string {
  const written = columns.map(({ column, heading, format, total }) =>
    [
      names.includes(column) ? writeName(column) : column,
      ...(heading === "" ? [] : [`headed "${heading.replaceAll('"', "'")}"`]),
      ...(format === "" ? [] : [`as "${format.replaceAll('"', "'")}"`]),
      ...(total ? ["total"] : []),
    ].join(" "),
  );
  return `{{table ${lines}: ${written.join(", ")}}}`;
}
