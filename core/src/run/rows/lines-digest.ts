import { sha256 } from "../../common/index.js";
import type { FurtherLines, LineSet } from "../../expression/index.js";

/** A digest of the lines a group was made of: their numbers and their values, and those of further lines that are its own. */
export function linesDigest(
  own: Pick<LineSet, "table" | "lines">,
  further: ReadonlyMap<string, FurtherLines> = new Map(),
): string {
  const text = ({ table, lines }: Pick<LineSet, "table" | "lines">): string =>
    lines
      .map((row) => `${table.rowNumbers[row]}\u001f${table.columns.map((column) => column.values[row]).join("\u001f")}`)
      .join("\u001e");
  const beside = [...further].filter(([, set]) => set.belongs && set.lines.length > 0);
  return sha256([text(own), ...beside.map(([name, set]) => `${name}\u001d${text(set)}`)].join("\u001d"));
}
