import type { Finding } from "../../common/index.js";
import { columnIndex } from "../../spreadsheet/index.js";
import type { Decision } from "../decision.js";
import type { RawSheet } from "../formats/raw-sheet.js";
import { LeftOut, type LeftOutLines } from "../left-out.js";
import type { IntakeRules } from "../rules.js";
import { tellFullTitles, tellOutside, tellSummaries } from "./beside-table.js";
import { findHeaderRows } from "./header-rows.js";
import { nameColumns, withoutNeighbour } from "./name-columns.js";
import { findEnd } from "./table-end.js";
import { TableRows, type TotalLine } from "./table-rows.js";
import type { FoundColumn, TableArea, TableSearch } from "./table-search.js";

/** Where the table lies in a sheet. */
export interface FoundTable {
  /** Columns used, as indexes into the sheet, with their names. */
  readonly columns: readonly FoundColumn[];
  /** Row number of the header's first line in the origin. */
  readonly headerRow: number;
  /** Indexes of the sheet's rows that are rows of the table. */
  readonly rows: Uint32Array;
  /** Rows that are no rows of the table: how many, and the first of them, by reason. */
  readonly leftOut: readonly LeftOutLines[];
  readonly total: TotalLine | undefined;
  readonly decisions: readonly Decision[];
  readonly findings: readonly Finding[];
}

/** Finds header and rows below title lines, and leaves out total lines, blank lines and notes. Throws `NO_TABLE`. */
export function findTable(sheet: RawSheet, rules: IntakeRules, area?: TableArea): FoundTable {
  const nameless: IntakeRules = area?.names ? { ...rules, header: "none", names: [...area.names] } : rules;
  const search = searchOf(sheet, nameless, area);
  const { left, findings, decisions } = search;
  const header = findHeaderRows(search);
  const end = findEnd(search, header);
  const columns = withoutNeighbour(search, nameColumns(search, header, end), header, end);
  for (let row = 0; row < header.from; row++) left.add(row, "title");
  for (let row = header.from; row <= header.to; row++) left.add(row, "header");
  const found = new TableRows(search, columns);
  const rows = found.find(header, end.row);
  for (let row = end.row; row < sheet.rowCount; row++) left.add(row, end.reason);
  found.nearlyEmpty(rows);
  tellFullTitles(search, header, rows);
  tellOutside(search, columns, end.row);
  tellSummaries(search);
  findings.push(...left.findings());
  return {
    columns,
    headerRow: header.to < header.from ? 0 : sheet.rowNumbers[header.from],
    rows: Uint32Array.from(rows),
    leftOut: left.lines(),
    total: found.lastTotal(rows),
    decisions,
    findings,
  };
}

function searchOf(sheet: RawSheet, rules: IntakeRules, area: TableArea | undefined): TableSearch {
  const { firstColumn, lastColumn } = rules;
  const range = area?.range;
  return {
    sheet,
    rules,
    area,
    range,
    first: range?.left ?? (firstColumn === undefined ? 0 : columnIndex(firstColumn)),
    last: range?.right ?? (lastColumn === undefined ? sheet.columns.length - 1 : columnIndex(lastColumn)),
    findings: [],
    decisions: [],
    left: new LeftOut(sheet),
  };
}
