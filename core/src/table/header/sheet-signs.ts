/** What a workbook says of its own about the tables of a sheet: defined tables, filters, frozen panes, print titles, summaries. */
import { type CellRange, maybeCell, maybeRange, type SheetInfo, type Workbook } from "../../spreadsheet/index.js";
import type { HeaderHint } from "../formats/raw-sheet.js";

/** A table of a sheet that the workbook defines (18.5.1.2). */
export interface DefinedTable {
  readonly name: string;
  /** With its header, without its totals. */
  readonly range: CellRange;
  /** Names of its columns, where it shows no header. */
  readonly names: readonly string[] | undefined;
}

export function definedTables(workbook: Workbook, info: SheetInfo): DefinedTable[] {
  return related(workbook, info, "table").flatMap((part): DefinedTable[] => {
    const xml = workbook.package.getXml(part);
    const range = maybeRange(xml.attr("ref") ?? "");
    if (!range) return [];
    const totals = Number(xml.attr("totalsRowCount") ?? 0);
    const isNameless = xml.attr("headerRowCount") === "0";
    const names = (xml.child("tableColumns")?.elements("tableColumn") ?? []).map((column) => column.attr("name") ?? "");
    return [
      {
        name: xml.attr("displayName") ?? xml.attr("name") ?? "",
        range: { ...range, bottom: range.bottom - totals },
        names: isNameless ? names : undefined,
      },
    ];
  });
}

/** Where summaries (pivots, 18.10.1.73) lie: what they show is made of other cells. */
export function summaryRanges(workbook: Workbook, info: SheetInfo): CellRange[] {
  return related(workbook, info, "pivotTable")
    .map((part) => maybeRange(workbook.package.getXml(part).child("location")?.attr("ref") ?? ""))
    .filter((range) => range !== undefined);
}

/** `head` and `tail` are the sheet's XML before and behind its cells. */
export function headerHints(workbook: Workbook, info: SheetInfo, head: string, tail: string): HeaderHint[] {
  const hints: HeaderHint[] = [];
  const filter = maybeRange(/<(?:\w+:)?autoFilter\s[^>]*?ref="([A-Z]+\d+:[A-Z]+\d+)"/.exec(tail)?.[1] ?? "");
  if (filter) hints.push({ row: filter.top + 1, kind: "filter" });
  const frozen = frozenRow(head);
  if (frozen !== undefined) hints.push({ row: frozen, kind: "frozen panes" });
  const titles = printTitles(workbook, info);
  if (titles)
    for (let row = titles.top; row <= titles.bottom; row++) hints.push({ row: row + 1, kind: "print titles" });
  return hints;
}

function related(workbook: Workbook, info: SheetInfo, type: string): string[] {
  return workbook.package
    .relationships(info.part)
    .filter((relation) => relation.type === type && workbook.package.has(relation.target))
    .map((relation) => relation.target);
}

/** The last row, 1-based, that stays where it is when the sheet is scrolled (18.3.1.66). */
function frozenRow(head: string): number | undefined {
  const pane = /<(?:\w+:)?pane\s[^>]*>/.exec(head)?.[0];
  if (!pane || !/\sstate="frozen(?:Split)?"/.test(pane)) return undefined;
  const rows = Number(/\sySplit="(\d+)/.exec(pane)?.[1] ?? 0);
  const view = /<(?:\w+:)?sheetView\s[^>]*\stopLeftCell="([A-Z]+\d+)"/.exec(head)?.[1];
  return rows > 0 ? rows + (maybeCell(view ?? "A1")?.row ?? 0) : undefined;
}

/** Rows repeated on each printed page: `Visits!$A:$A,Visits!$4:$5`. */
function printTitles(workbook: Workbook, info: SheetInfo): { top: number; bottom: number } | undefined {
  const index = workbook.sheets.indexOf(info);
  const name = workbook.names.find((one) => one.name === "_xlnm.Print_Titles" && one.sheet === index);
  const rows = /!\$(\d+):\$(\d+)/.exec(name?.formula ?? "");
  return rows ? { top: Number(rows[1]) - 1, bottom: Number(rows[2]) - 1 } : undefined;
}
