/** Columns as marks for tables of lines name them, in mails and documents alike. */

import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";

export interface TableColumn {
  /** A column's name or an expression over the line. */
  readonly source: string;
  readonly heading: string | undefined;
  readonly format: string | undefined;
  readonly total: boolean;
}

/** Columns with commas between: a name or expression, `headed "…"`, `as "…"` for the format, `total` for a sum below. Throws `BAD_MARK`. */
export function parseTableColumns(text: string, where: string): TableColumn[] {
  return splitColumns(text).map((part) => parseColumn(part, where));
}

/** A name as it stands at the head of a column. */
export function capitalise(name: string): string {
  const words = name.replaceAll("_", " ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Commas outside of quotes and brackets. */
function splitColumns(text: string): string[] {
  const parts: string[] = [];
  let part = "";
  let depth = 0;
  for (const piece of text.match(/"[^"]*"|`[^`]*`|[\s\S]/g) ?? []) {
    if (piece === "(") depth++;
    if (piece === ")") depth--;
    if (piece === "," && depth === 0) {
      parts.push(part);
      part = "";
    } else part += piece;
  }
  return [...parts, part].map((one) => one.trim()).filter((one) => one !== "");
}

const ADDITION = /\s+(?:(as|headed)\s+"([^"]*)"|(total))$/;

function parseColumn(text: string, where: string): TableColumn {
  let source = text;
  const found: { as?: string; headed?: string; total?: boolean } = {};
  for (let match = ADDITION.exec(source); match; match = ADDITION.exec(source)) {
    if (match[3]) found.total = true;
    else if (match[1] === "as") found.as = match[2];
    else found.headed = match[2];
    source = source.slice(0, match.index);
  }
  if (source.trim() === "") throw new CorbixError("BAD_MARK", say().template.cannotReadColumn({ text }), { where });
  return { source: source.trim(), heading: found.headed, format: found.as, total: found.total ?? false };
}
