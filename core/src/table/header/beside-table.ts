/** What is told of things around a table that were not read. */

import { columnLetters, rangeName } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { rowList } from "../left-out.js";
import type { Header } from "./find-header.js";
import type { FoundColumn, TableSearch } from "./table-search.js";

/** What lies beside or below a table that the sheet defines is told. */
export function tellOutside(search: TableSearch, columns: readonly FoundColumn[], end: number): void {
  const { sheet, area } = search;
  if (!area || area.isAsked) return;
  const width = (row: number): number => columns.filter(({ index }) => !sheet.isBlank(row, index)).length;
  const below: number[] = [];
  for (let row = end; row < sheet.rowCount; row++) if (width(row) > 0) below.push(row);
  const full = below.filter((row) => width(row) >= Math.max(2, columns.length / 2));
  const beside = sheet.columns.flatMap((column, at) =>
    column && column.filled > 0 && (at < area.range.left || at > area.range.right) ? [columnLetters(at)] : [],
  );
  const what = [
    ...(below.length > 0 ? [rowList(below.map((row) => sheet.rowNumbers[row]))] : []),
    ...(beside.length > 0
      ? [`column${beside.length === 1 ? "" : "s"} ${beside.slice(0, 5).join(", ")}${beside.length > 5 ? ", …" : ""}`]
      : []),
    ...area.others.map((name) => say().table.table({ name })),
  ];
  if (what.length === 0) return;
  search.findings.push({
    code: "outside-the-table",
    severity: full.length > 0 || area.others.length > 0 ? "warn" : "note",
    where: sheet.where,
    what: say().table.outsideTableSheetDefinesRead({ what: what.join("; ") }),
    advice: say().table.ifBelongsTableCorrectHeader(),
    count: below.length,
  });
}

/** Summaries beside the table were taken out: they say again what it says. */
export function tellSummaries(search: TableSearch): void {
  const { sheet } = search;
  if (sheet.summaries.length === 0) return;
  search.findings.push({
    code: "summary-left-out",
    severity: "note",
    where: sheet.where,
    what: say().table.summaryOtherCellsRead({ summaries: sheet.summaries.map(rangeName).join(", ") }),
    advice: say().table.nothingDo(),
  });
}

/** Lines above the header that are as full as the rows are told: they may be rows. */
export function tellFullTitles(search: TableSearch, header: Header, rows: readonly number[]): void {
  const { sheet } = search;
  if (header.from === 0 || rows.length === 0) return;
  const width = (row: number): number =>
    sheet.filled(row).filter((column) => column >= search.first && column <= search.last).length;
  const widths = rows
    .slice(0, 200)
    .map(width)
    .sort((a, b) => a - b);
  const usual = Math.max(2, widths[widths.length >> 1]);
  const full: number[] = [];
  for (let row = 0; row < header.from; row++) if (width(row) >= usual) full.push(sheet.rowNumbers[row]);
  if (full.length === 0) return;
  search.findings.push({
    code: "full-rows-above-header",
    severity: "warn",
    where: sheet.where,
    what: say().table.aboveHeaderFullRowsBelow({ fullCount: full.length, rowList: rowList(full) }),
    advice: say().table.ifTheyRowsTableCorrect(),
    count: full.length,
  });
}
