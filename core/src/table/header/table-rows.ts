/** The rows of a table among total lines, blank lines, repeated headers and notes. */
import { say } from "../../words/index.js";
import { Kind } from "../formats/raw-sheet.js";
import { rowList } from "../left-out.js";
import type { Header } from "./find-header.js";
import { type FoundColumn, isRepeat, type TableSearch } from "./table-search.js";

const TOTAL_START = /^(grand |sub)?-?(totals?|sum|summe|gesamt(summe)?|total g[eé]n[eé]ral|totale|suma)\b/i;
const TOTAL_END = /\s(sub)?-?(totals?|summe)\s*:?$/i;
const TOTAL_ALONE = /^(grand |sub)?-?(totals?|sum|summe|gesamt(summe)?|totale|suma)\s*:?$/i;

/** Index of the last total line below the rows, with the numbers it says, by column index. */
export interface TotalLine {
  readonly row: number;
  readonly numbers: ReadonlyMap<number, number>;
}

export class TableRows {
  private readonly totals: number[] = [];
  /** Rows with a single value among many columns. */
  private readonly single: number[] = [];

  constructor(
    private readonly search: TableSearch,
    private readonly columns: readonly FoundColumn[],
  ) {}

  /** Indexes of the sheet's rows that are rows of the table. */
  find(header: Header, end: number): number[] {
    const rows = this.rows(header, end);
    this.cutNotes(rows);
    this.cutLastTotal(rows);
    return rows;
  }

  lastTotal(rows: readonly number[]): TotalLine | undefined {
    const row = this.totals[this.totals.length - 1];
    // Where subtotals stand in between, the last line may be one of them.
    if (row === undefined || this.totals.length > 1 || row < (rows[rows.length - 1] ?? 0)) return undefined;
    const numbers = new Map<number, number>();
    for (const { index } of this.columns) {
      const kind = this.search.sheet.columns[index]?.kind(row) ?? Kind.blank;
      const isNumber = kind === Kind.number || kind === Kind.money || kind >= Kind.plain;
      if (isNumber) numbers.set(index, this.search.sheet.columns[index]?.number(row) ?? 0);
    }
    return { row, numbers };
  }

  /** Rows with a single value among many columns are often headings of a block; they stay rows, and are named. */
  nearlyEmpty(rows: readonly number[]): void {
    const last = rows[rows.length - 1] ?? -1;
    // Notes and totals at the end have been taken from the rows again.
    const found = this.single.filter((row) => row <= last);
    if (found.length === 0) return;
    this.search.findings.push({
      code: "nearly-empty-rows",
      severity: "warn",
      where: this.search.sheet.where,
      what: say().table.singleValueSuchTheyKept({
        foundCount: found.length,
        rowList: rowList(found.map((row) => this.search.sheet.rowNumbers[row])),
        text: this.search.left.text(found[0]),
      }),
      advice: say().table.ifTheyHeadingsBlockLeave(),
      count: found.length,
      cells: { rows: found.slice(0, 20).map((row) => this.search.sheet.rowNumbers[row]) },
    });
  }

  private rows(header: Header, end: number): number[] {
    const { sheet, left } = this.search;
    const rows: number[] = [];
    // Whether a text looks like a total's is judged once for each different text.
    const isTotal = new Map<number, boolean>();
    const kept = this.columns.map(({ index }) => sheet.columns[index]);
    for (let row = header.to + 1; row < end; row++) {
      let filled = 0;
      let first = -1;
      for (let at = 0; at < kept.length; at++) {
        if ((kept[at]?.kind(row) ?? Kind.blank) === Kind.blank) continue;
        if (first < 0) first = at;
        filled++;
      }
      if (filled === 0) {
        left.add(row, "blank");
        continue;
      }
      if (kept[first]?.kind(row) === Kind.text) {
        const index = kept[first]?.number(row) ?? 0;
        let total = isTotal.get(index);
        if (total === undefined) {
          const text = sheet.strings[index].trim();
          total = TOTAL_START.test(text) || TOTAL_END.test(text);
          isTotal.set(index, total);
        }
        if (total && filled < this.columns.length * 0.7 && (rows.length > 0 || filled > 1)) {
          this.totals.push(row);
          left.add(row, "total");
          continue;
        }
        if (filled > 1 && isRepeat(this.search, row, header)) {
          left.add(row, "repeated header");
          continue;
        }
      }
      if (filled === 1 && this.columns.length >= 4) this.single.push(row);
      rows.push(row);
    }
    return rows;
  }

  /** Lines at the end with a single text and nothing else are notes below the table. */
  private cutNotes(rows: number[]): void {
    if (this.columns.length < 3) return;
    while (rows.length > 0) {
      const last = rows[rows.length - 1];
      const filled = this.columns.filter(({ index }) => !this.search.sheet.isBlank(last, index));
      if (filled.length !== 1 || !this.search.sheet.isText(last, filled[0].index)) return;
      this.search.left.add(last, "note");
      rows.pop();
    }
  }

  /** A last line that says nothing but "Total" is one, also where all its cells are filled. */
  private cutLastTotal(rows: number[]): void {
    const last = rows[rows.length - 1];
    const first = this.columns.find(({ index }) => last !== undefined && !this.search.sheet.isBlank(last, index));
    if (rows.length < 2 || !first || !TOTAL_ALONE.test(this.search.sheet.text(last, first.index).trim())) return;
    this.totals.push(last);
    this.search.left.add(last, "total");
    rows.pop();
  }
}
