/** JSON (RFC 8259), as one list of records or a record a line. */
import { bytesFromText } from "../common/index.js";
import type { Env } from "../expression/index.js";
import type { Cell } from "../table/index.js";
import { type ListColumn, plainNumber, plainText, rowsOf, type ShownLines } from "./columns.js";
import type { WrittenText } from "./delimited.js";

export function writeJson(shown: ShownLines, env: Env, isLines: boolean): WrittenText {
  const records: string[] = [];
  for (const { cells } of rowsOf(shown, env))
    records.push(
      `{${cells.map((value, at) => `${JSON.stringify(shown.columns[at].heading)}:${jsonOf(value, shown.columns[at], env)}`).join(",")}}`,
    );
  const text = isLines ? records.map((one) => `${one}\n`).join("") : `[\n${records.join(",\n")}\n]\n`;
  return { bytes: bytesFromText(text), text, findings: [] };
}

/** A number stays one, unless the column has a format: then it is the text that shows. */
function jsonOf(value: Cell, column: ListColumn, env: Env): string {
  if (value === null || typeof value === "boolean") return String(value);
  const isPlain = typeof value === "number" && column.format === undefined && column.info.type === "number";
  return isPlain ? plainNumber(value) : JSON.stringify(plainText(value, column, { locale: env.locale }));
}
