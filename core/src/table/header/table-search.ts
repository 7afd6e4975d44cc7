/** What the steps of finding a table share, and how they name rows. */

import { type Finding, groupKey } from "../../common/index.js";
import type { CellRange } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import type { Decision } from "../decision.js";
import type { RawSheet } from "../formats/raw-sheet.js";
import type { LeftOut } from "../left-out.js";
import type { IntakeRules } from "../rules.js";
import type { Header } from "./find-header.js";

/** Where a table lies, as it was asked for or as the file defines it. */
export interface TableArea {
  readonly range: CellRange;
  /** Names of its columns, where it shows no header. */
  readonly names: readonly string[] | undefined;
  readonly isAsked: boolean;
  /** Names of other tables beside it. */
  readonly others: readonly string[];
}

export interface TableSearch {
  readonly sheet: RawSheet;
  readonly rules: IntakeRules;
  readonly area: TableArea | undefined;
  readonly range: CellRange | undefined;
  /** First and last column, as indexes. */
  readonly first: number;
  readonly last: number;
  readonly findings: Finding[];
  readonly decisions: Decision[];
  readonly left: LeftOut;
}

export interface FoundColumn {
  readonly index: number;
  readonly name: string;
}

export function rowsText({ sheet }: Pick<TableSearch, "sheet">, from: number, to: number): string {
  const { rowNumbers } = sheet;
  return say().table.rowSpan({ from, to, rowNumber: rowNumbers[from], rowNumber2: rowNumbers[to] });
}

export function namesIn({ sheet }: Pick<TableSearch, "sheet">, row: number): string {
  const names = sheet.filled(row).map((column) => sheet.text(row, column));
  return names.slice(0, 4).join(", ") + (names.length > 4 ? ", …" : "");
}

/** Whether a row says again what the header's last line says. */
export function isRepeat(search: TableSearch, row: number, header: Header): boolean {
  const { sheet } = search;
  if (header.to < header.from) return false;
  let same = 0;
  for (let column = search.first; column <= search.last; column++) {
    const said = sheet.text(header.to, column);
    const here = sheet.text(row, column);
    if (said === "" && here === "") continue;
    if (groupKey(said) !== groupKey(here)) return false;
    same++;
  }
  return same > 1;
}
