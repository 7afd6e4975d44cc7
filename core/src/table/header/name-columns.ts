/** The columns of a table and their names. */

import { columnKey } from "../../common/index.js";
import { columnLetters } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import type { RawSheet } from "../formats/raw-sheet.js";
import type { Header } from "./find-header.js";
import { type FoundColumn, rowsText, type TableSearch } from "./table-search.js";

export function nameColumns(search: TableSearch, header: Header, end: { row: number }): FoundColumn[] {
  const { sheet, findings } = search;
  const seen = new Map<string, number>();
  const columns: FoundColumn[] = [];
  const isNamed = header.to >= header.from;
  const names = headerNames(sheet, header, search.first, search.last);
  const place = isNamed ? `${sheet.where}, ${rowsText(search, header.from, header.to)}` : sheet.where;
  for (let index = search.first; index <= search.last; index++) {
    if (sheet.columns[index] === undefined) continue;
    let name = isNamed ? (names.get(index) ?? "") : (search.rules.names?.[columns.length]?.trim() ?? "");
    if (name === "") {
      const used = countFilled(search, index, header.to + 1, end.row);
      if (used === 0) continue;
      name = `Column ${columnLetters(index)}`;
      // Where there is no header, and no names were given, that is what was asked for.
      if (!isNamed && search.rules.names === undefined) {
        columns.push({ index, name });
        continue;
      }
      findings.push({
        code: "column-without-name",
        severity: "warn",
        where: place,
        what: say().table.columnValuesButNameCalled({ columnLetters: columnLetters(index), used, name }),
        advice: say().table.giveHeadingSource(),
        count: used,
      });
    }
    const folded = columnKey(name);
    const times = (seen.get(folded) ?? 0) + 1;
    seen.set(folded, times);
    if (times > 1) {
      findings.push({
        code: "column-named-twice",
        severity: "warn",
        where: place,
        what: say().table.twoColumnsCalledLaterCalled({ name, times }),
        advice: say().table.giveEachColumnOwnHeading(),
      });
      name = `${name} ${times}`;
      seen.set(columnKey(name), 1);
    }
    columns.push({ index, name });
  }
  const left = isNamed ? [] : (search.rules.names ?? []).slice(columns.length);
  if (left.length > 0)
    findings.push({
      code: "names-left-over",
      severity: "warn",
      where: sheet.where,
      what: say().table.moreNamesGivenColumnsNothing({ left: left.map((name) => `"${name}"`).join(", ") }),
      advice: say().table.seeNamesStandRightColumns(),
      count: left.length,
    });
  return columns;
}

function countFilled(search: TableSearch, column: number, from: number, to: number): number {
  let count = 0;
  for (let row = from; row < to; row++) if (!search.sheet.isBlank(row, column)) count++;
  return count;
}

/** A table beside the first, behind blank columns, that begins or ends in other rows, is another table. */
export function withoutNeighbour(
  search: TableSearch,
  columns: readonly FoundColumn[],
  header: Header,
  end: { row: number },
): FoundColumn[] {
  const { sheet } = search;
  const gap = columns.findIndex((column, at) => at > 0 && column.index - columns[at - 1].index > 1);
  if (gap < 2 || columns.length - gap < 2 || sheet.rowCount > 100_000) return [...columns];
  const [left, right] = [columns.slice(0, gap), columns.slice(gap)];
  const lastRow = (part: readonly FoundColumn[]): number => {
    for (let row = end.row - 1; row > header.to; row--)
      if (part.some(({ index }) => !sheet.isBlank(row, index))) return row;
    return header.to;
  };
  const [leftEnd, rightEnd] = [lastRow(left), lastRow(right)];
  // Columns that run along all the way are the same table, with a blank column in between.
  if (Math.abs(leftEnd - rightEnd) <= Math.max(2, (end.row - header.to) * 0.1)) return [...columns];
  const [kept, other] = leftEnd >= rightEnd ? [left, right] : [right, left];
  const span = say().table.to({
    columnLetters: columnLetters(other[0].index),
    columnLetters2: columnLetters(other[other.length - 1].index),
  });
  search.findings.push({
    code: "several-tables",
    severity: "warn",
    where: sheet.where,
    what: say().table.columnsAnotherTableBesideRead({
      span,
      other: other
        .slice(0, 4)
        .map((column) => column.name)
        .join(", "),
    }),
    advice: say().table.ifTheyWantedCorrectFirst({ span }),
  });
  search.decisions.push({
    what: "columns",
    chosen: say().table.to({
      columnLetters: columnLetters(kept[0].index),
      columnLetters2: columnLetters(kept[kept.length - 1].index),
    }),
    why: say().table.columnsStandApartBehindBlank({ span }),
    corrected: false,
  });
  return kept;
}

/** For each column its name: its lines as the sheet shows them, or as they stand where two that differ are shown alike. */
function headerNames(sheet: RawSheet, header: Header, first: number, last: number): ReadonlyMap<number, string> {
  const standing = new Map<number, string>();
  const shown = new Map<number, string>();
  /** By a name that is shown the names that stand there. */
  const behind = new Map<string, Set<string>>();
  for (let column = first; column <= last; column++) {
    const stands = joinLines(header, column, (row) => sheet.text(row, column));
    const shows = joinLines(header, column, (row) => sheet.heading(row, column));
    standing.set(column, stands);
    shown.set(column, shows);
    const key = columnKey(shows);
    behind.set(key, (behind.get(key) ?? new Set()).add(stands));
  }
  return new Map(
    [...shown].map(([column, name]) => [
      column,
      (behind.get(columnKey(name))?.size ?? 0) > 1 ? (standing.get(column) ?? name) : name,
    ]),
  );
}

/** The lines of a header as one name: `Hours` over `planned` is `Hours planned`. */
function joinLines(header: Header, column: number, textOf: (row: number) => string): string {
  const parts: string[] = [];
  for (let row = header.from; row <= header.to; row++) {
    const part = header.spread?.get(row)?.[column] ?? textOf(row);
    const clean = part.replace(/\s+/g, " ").trim();
    if (clean !== "" && clean !== parts[parts.length - 1]) parts.push(clean);
  }
  return parts.join(" ");
}
