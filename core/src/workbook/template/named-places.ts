/** What a definition can name in a workbook template: its sheets, tables, defined names, and cells beside a label. */

import {
  type CellRange,
  cellName,
  cellValues,
  maybeRange,
  quoteSheet,
  splitSheet,
  type Workbook,
} from "../../spreadsheet/index.js";
import { hasMarks, type TemplatePlace } from "../../template/index.js";
import { say } from "../../words/index.js";
import { readTables } from "./defined-tables.js";

/** More cells beside labels than these nobody looks through. */
const LISTED_CELLS = 200;

/** Places of a workbook in the order of its sheets; tables and names come first, as they say what they are for. */
export function workbookPlaces(workbook: Workbook): TemplatePlace[] {
  const titleOf = (sheet: number): string => workbook.sheets[sheet].name;
  return [
    ...readTables(workbook).map(({ name, sheet, columns }) => ({
      kind: "table" as const,
      name,
      where: titleOf(sheet),
      headings: columns,
    })),
    ...workbook.names.flatMap(({ name, formula }) => {
      const { sheet, rest } = splitSheet(formula);
      const range = maybeRange(rest);
      if (name.startsWith("_xlnm.") || sheet === undefined || !range) return [];
      const kind = range.left === range.right && range.top === range.bottom ? ("cell" as const) : ("area" as const);
      return [{ kind, name, where: formula.replaceAll("$", ""), headings: [] }];
    }),
    ...workbook.sheets
      .filter(({ kind }) => kind === "worksheet")
      .map(({ name }) => ({ kind: "sheet" as const, name, where: name, headings: [] })),
    ...labelledCells(workbook),
  ];
}

/** Blank cells at the right of a text, and those with a constant: what somebody who fills a form writes into. */
function labelledCells(workbook: Workbook): TemplatePlace[] {
  const found: TemplatePlace[] = [];
  for (const { name, kind, part } of workbook.sheets) {
    if (kind !== "worksheet") continue;
    const merged = mergedIn(workbook, part);
    for (const [row, line] of cellValues(workbook, part))
      for (const [column, { value }] of line) {
        const label = typeof value === "string" ? value.trim() : "";
        if (label === "" || hasMarks(label) || label.length > 60) continue;
        // Behind a label that is merged over several cells stands the one after the last.
        const next = (merged.find((one) => one.top === row && one.left === column)?.right ?? column) + 1;
        if (line.has(next)) continue;
        found.push({
          kind: "cell",
          name: `${quoteSheet(name)}!${cellName(row, next)}`,
          where: say().workbook.beside({ label }),
          headings: [],
        });
        if (found.length === LISTED_CELLS) return found;
      }
  }
  return found;
}

function mergedIn(workbook: Workbook, part: string): CellRange[] {
  const merges = workbook.package.getXml(part).child("mergeCells")?.elements("mergeCell") ?? [];
  return [...merges].flatMap((one) => maybeRange(one.attr("ref") ?? "") ?? []);
}
