import { CorbixError, columnKey, type Finding, groupKey } from "../../common/index.js";
import { type CellRange, columnIndex, columnLetters, rangeName } from "../../spreadsheet/index.js";
import type { Decision } from "../decision.js";
import { Kind, type RawSheet } from "../formats/raw-sheet.js";
import { LeftOut, type LeftOutLines, type LeftOutReason, rowList } from "../left-out.js";
import type { IntakeRules } from "../rules.js";
import { type FoundHeader, findHeader, type Header, joinHeader, looksLikeHeader } from "./find-header.js";

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
  /** Index of the last total line below the rows, with the numbers it says, by column index. */
  readonly total: { readonly row: number; readonly numbers: ReadonlyMap<number, number> } | undefined;
  readonly decisions: readonly Decision[];
  readonly findings: readonly Finding[];
}

export interface FoundColumn {
  readonly index: number;
  readonly name: string;
}

/** Where a table lies, as it was asked for or as the file defines it. */
export interface TableArea {
  readonly range: CellRange;
  /** Names of its columns, where it shows no header. */
  readonly names: readonly string[] | undefined;
  readonly isAsked: boolean;
  /** Names of other tables beside it. */
  readonly others: readonly string[];
}

const TOTAL_START = /^(grand |sub)?-?(totals?|sum|summe|gesamt(summe)?|total g[eé]n[eé]ral|totale|suma)\b/i;
const TOTAL_END = /\s(sub)?-?(totals?|summe)\s*:?$/i;
const TOTAL_ALONE = /^(grand |sub)?-?(totals?|sum|summe|gesamt(summe)?|totale|suma)\s*:?$/i;

/** Finds header and rows below title lines, and leaves out total lines, blank lines and notes. Throws `NO_TABLE`. */
export function findTable(sheet: RawSheet, rules: IntakeRules, area?: TableArea): FoundTable {
  const nameless: IntakeRules = area?.names ? { ...rules, header: "none", names: [...area.names] } : rules;
  return new TableFinder(sheet, nameless, area).find();
}

class TableFinder {
  private readonly findings: Finding[] = [];
  private readonly decisions: Decision[] = [];
  private readonly left: LeftOut;
  private readonly totals: number[] = [];
  /** Rows with a single value among many columns. */
  private readonly single: number[] = [];
  private readonly range: CellRange | undefined;
  private readonly first: number;
  private readonly last: number;

  constructor(
    private readonly sheet: RawSheet,
    private readonly rules: IntakeRules,
    private readonly area: TableArea | undefined,
  ) {
    const range = area?.range;
    this.range = range;
    this.left = new LeftOut(sheet);
    this.first = range?.left ?? (rules.firstColumn === undefined ? 0 : columnIndex(rules.firstColumn));
    this.last =
      range?.right ?? (rules.lastColumn === undefined ? sheet.columns.length - 1 : columnIndex(rules.lastColumn));
  }

  find(): FoundTable {
    const { sheet } = this;
    const header = this.header();
    const end = this.end(header);
    let columns = this.nameColumns(header, end);
    columns = this.withoutNeighbour(columns, header, end);
    for (let row = 0; row < header.from; row++) this.left.add(row, "title");
    for (let row = header.from; row <= header.to; row++) this.left.add(row, "header");
    const rows = this.rows(columns, header, end);
    this.cutNotes(rows, columns);
    this.cutLastTotal(rows, columns);
    for (let row = end.row; row < sheet.rowCount; row++) this.left.add(row, end.reason);
    this.nearlyEmpty(rows);
    this.fullTitles(header, rows);
    this.outside(columns, end.row);
    this.summaries();
    this.findings.push(...this.left.findings());
    return {
      columns,
      headerRow: header.to < header.from ? 0 : sheet.rowNumbers[header.from],
      rows: Uint32Array.from(rows),
      leftOut: this.left.lines(),
      total: this.lastTotal(rows, columns),
      decisions: this.decisions,
      findings: this.findings,
    };
  }

  private header(): Header {
    const { sheet, rules, range } = this;
    const asked = range ? range.top + 1 : rules.headerRow;
    if (sheet.headerAt !== undefined) return { from: sheet.headerAt, to: sheet.headerAt, why: "" };
    if (rules.header === "none") return this.noHeader(asked);
    if (asked !== undefined) {
      const at = sheet.rowNumbers.indexOf(asked);
      if (at < 0)
        throw new CorbixError("NO_TABLE", `Cannot use row ${asked} as the header: it is blank.`, {
          where: sheet.where,
          advice: "Correct the header row of the dataset.",
        });
      const to = Math.min(at + (rules.headerLines ?? 1) - 1, sheet.rowCount - 1);
      const corrected = this.area?.isAsked ?? true;
      const why = range
        ? `the first row of the table that ${corrected ? "was asked for" : "the sheet defines"}`
        : "it was corrected";
      this.decisions.push({ what: "header", chosen: this.rowsText(at, to), why, corrected });
      return { from: at, to, why };
    }
    const found = findHeader(sheet, this.first, this.last);
    const { row } = found;
    const header =
      rules.headerLines === undefined
        ? joinHeader(sheet, row, this.first, this.last)
        : { from: row, to: Math.min(row + rules.headerLines - 1, sheet.rowCount - 1), why: "as corrected" };
    this.decisions.push({
      what: "header",
      chosen: this.rowsText(header.from, header.to),
      why: header.why || found.why,
      corrected: rules.headerLines !== undefined,
    });
    this.tellDoubts(found, header);
    return header;
  }

  /** The rows begin at the first one, or where the rows of a range that was asked for begin. */
  private noHeader(asked: number | undefined): Header {
    const { sheet, rules } = this;
    const at = asked === undefined ? 0 : sheet.rowNumbers.findIndex((row) => row >= asked);
    const from = at < 0 ? sheet.rowCount : at;
    this.decisions.push({
      what: "header",
      chosen: "none",
      why: rules.names ? "it was corrected; the names were given" : "it was corrected; columns go by their letters",
      corrected: true,
    });
    return { from, to: from - 1, why: "" };
  }

  /** Two readings that are near each other are told both. */
  private tellDoubts(found: FoundHeader, header: Header): void {
    const { sheet } = this;
    const { other } = found;
    if (other !== undefined && (other < header.from || other > header.to)) {
      this.findings.push({
        code: "header-unsure",
        severity: "warn",
        where: sheet.where,
        what: `Row ${sheet.rowNumbers[header.from]} (${this.names(header.from)}) was read as the header; row ${sheet.rowNumbers[other]} (${this.names(other)}) could be it too.`,
        advice: `If the other one is right, correct the header row to ${sheet.rowNumbers[other]}.`,
      });
    }
    if (found.alike.length === 0) return;
    const words = found.alike.slice(0, 3).map((column) => `"${sheet.text(found.row, column)}"`);
    this.findings.push({
      code: "header-unsure",
      severity: "warn",
      where: `${sheet.where}, row ${sheet.rowNumbers[found.row]}`,
      what: `The header reads like the rows below it (${words.join(", ")}); the file may have no header, and this may be its first row.`,
      advice: "If so, correct the header to none and name the columns.",
    });
  }

  /** What lies beside or below a table that the sheet defines is told. */
  private outside(columns: readonly FoundColumn[], end: number): void {
    const { sheet, area } = this;
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
      ...area.others.map((name) => `the table ${name}`),
    ];
    if (what.length === 0) return;
    this.findings.push({
      code: "outside-the-table",
      severity: full.length > 0 || area.others.length > 0 ? "warn" : "note",
      where: sheet.where,
      what: `Outside the table that the sheet defines, and not read: ${what.join("; ")}.`,
      advice: "If that belongs to the table, correct the header row, or widen the table in the source.",
      count: below.length,
    });
  }

  /** Summaries beside the table were taken out: they say again what it says. */
  private summaries(): void {
    const { sheet } = this;
    if (sheet.summaries.length === 0) return;
    this.findings.push({
      code: "summary-left-out",
      severity: "note",
      where: sheet.where,
      what: `${sheet.summaries.map(rangeName).join(", ")} is a summary of other cells and was not read.`,
      advice: "Nothing to do.",
    });
  }

  /** Lines above the header that are as full as the rows are told: they may be rows. */
  private fullTitles(header: Header, rows: readonly number[]): void {
    const { sheet } = this;
    if (header.from === 0 || rows.length === 0) return;
    const width = (row: number): number =>
      sheet.filled(row).filter((column) => column >= this.first && column <= this.last).length;
    const widths = rows
      .slice(0, 200)
      .map(width)
      .sort((a, b) => a - b);
    const usual = Math.max(2, widths[widths.length >> 1]);
    const full: number[] = [];
    for (let row = 0; row < header.from; row++) if (width(row) >= usual) full.push(sheet.rowNumbers[row]);
    if (full.length === 0) return;
    this.findings.push({
      code: "full-rows-above-header",
      severity: "warn",
      where: sheet.where,
      what: `Above the header ${full.length === 1 ? "a row is" : `${full.length} rows are`} as full as the rows below it (${rowList(full)}), and not read.`,
      advice: "If they are rows of the table, correct the header row; if they are another table, nothing is to do.",
      count: full.length,
    });
  }

  private rowsText(from: number, to: number): string {
    const { rowNumbers } = this.sheet;
    return from === to ? `row ${rowNumbers[from]}` : `rows ${rowNumbers[from]} to ${rowNumbers[to]}`;
  }

  /** Index of the first row behind the table, and why what follows is none of it. */
  private end(header: Header): { row: number; reason: LeftOutReason } {
    const { sheet, rules, range } = this;
    const { rowNumbers } = sheet;
    const behind = (number: number): number => {
      const at = rowNumbers.findIndex((row) => row > number);
      return at < 0 ? sheet.rowCount : at;
    };
    if (range) return { row: behind(range.bottom + 1), reason: "outside" };
    const rule = rules.end ?? "found";
    if (typeof rule === "object") {
      this.decisions.push({ what: "end", chosen: `row ${rule.row}`, why: "it was corrected", corrected: true });
      return { row: behind(rule.row), reason: "outside" };
    }
    if (rule === "last-row") return { row: sheet.rowCount, reason: "outside" };
    for (let row = header.to + 2; row < sheet.rowCount; row++) {
      if (rowNumbers[row] - rowNumbers[row - 1] < 2) continue;
      if (rule === "blank-row") return { row, reason: "outside" };
      const next = this.nextHeader(row, header);
      if (next === undefined) continue;
      this.decisions.push({
        what: "end",
        chosen: `row ${rowNumbers[row - 1]}`,
        why: `row ${rowNumbers[next]} below a blank line is the header of another table`,
        corrected: false,
      });
      this.findings.push({
        code: "several-tables",
        severity: "warn",
        where: sheet.where,
        what: `Another table begins in row ${rowNumbers[next]} (${this.names(next)}); only the first one was read.`,
        advice: `If the other one is wanted, correct the header row to ${rowNumbers[next]}; if it is all one table, set the end to the last row.`,
      });
      return { row, reason: "other table" };
    }
    return { row: sheet.rowCount, reason: "outside" };
  }

  /** The header of another table at a row behind a blank line, or one line below a title there. */
  private nextHeader(row: number, header: Header): number | undefined {
    const { sheet } = this;
    for (let at = row; at < Math.min(row + 3, sheet.rowCount - 1); at++) {
      if (this.isRepeat(at, header)) return undefined;
      if (looksLikeHeader(sheet, at, this.first, this.last)) return at;
      if (sheet.filled(at).length > 1) return undefined;
    }
    return undefined;
  }

  private names(row: number): string {
    const names = this.sheet.filled(row).map((column) => this.sheet.text(row, column));
    return names.slice(0, 4).join(", ") + (names.length > 4 ? ", …" : "");
  }

  private nameColumns(header: Header, end: { row: number }): FoundColumn[] {
    const { sheet, findings } = this;
    const seen = new Map<string, number>();
    const columns: FoundColumn[] = [];
    const isNamed = header.to >= header.from;
    const names = headerNames(sheet, header, this.first, this.last);
    const place = isNamed ? `${sheet.where}, ${this.rowsText(header.from, header.to)}` : sheet.where;
    for (let index = this.first; index <= this.last; index++) {
      if (sheet.columns[index] === undefined) continue;
      let name = isNamed ? (names.get(index) ?? "") : (this.rules.names?.[columns.length]?.trim() ?? "");
      if (name === "") {
        const used = this.countFilled(index, header.to + 1, end.row);
        if (used === 0) continue;
        name = `Column ${columnLetters(index)}`;
        // Where there is no header, and no names were given, that is what was asked for.
        if (!isNamed && this.rules.names === undefined) {
          columns.push({ index, name });
          continue;
        }
        findings.push({
          code: "column-without-name",
          severity: "warn",
          where: place,
          what: `Column ${columnLetters(index)} has ${used} values but no name; it is called "${name}".`,
          advice: "Give it a heading in the source.",
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
          what: `Two columns are called "${name}"; the later one is called "${name} ${times}".`,
          advice: "Give each column its own heading in the source.",
        });
        name = `${name} ${times}`;
        seen.set(columnKey(name), 1);
      }
      columns.push({ index, name });
    }
    const left = isNamed ? [] : (this.rules.names ?? []).slice(columns.length);
    if (left.length > 0)
      findings.push({
        code: "names-left-over",
        severity: "warn",
        where: sheet.where,
        what: `More names were given than there are columns: nothing is called ${left.map((name) => `"${name}"`).join(", ")}.`,
        advice: "See that the names stand for the right columns, and that nothing is missing in the file.",
        count: left.length,
      });
    return columns;
  }

  private countFilled(column: number, from: number, to: number): number {
    let count = 0;
    for (let row = from; row < to; row++) if (!this.sheet.isBlank(row, column)) count++;
    return count;
  }

  /** A table beside the first, behind blank columns, that begins or ends in other rows, is another table. */
  private withoutNeighbour(columns: readonly FoundColumn[], header: Header, end: { row: number }): FoundColumn[] {
    const { sheet } = this;
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
    const span = `${columnLetters(other[0].index)} to ${columnLetters(other[other.length - 1].index)}`;
    this.findings.push({
      code: "several-tables",
      severity: "warn",
      where: sheet.where,
      what: `Columns ${span} (${other
        .slice(0, 4)
        .map((column) => column.name)
        .join(", ")}) are another table beside this one and were not read.`,
      advice: `If they are wanted, correct the first and last column to ${span}.`,
    });
    this.decisions.push({
      what: "columns",
      chosen: `${columnLetters(kept[0].index)} to ${columnLetters(kept[kept.length - 1].index)}`,
      why: `columns ${span} stand apart behind a blank column and end in another row`,
      corrected: false,
    });
    return kept;
  }

  private rows(columns: readonly FoundColumn[], header: Header, end: { row: number }): number[] {
    const { sheet } = this;
    const rows: number[] = [];
    // Whether a text looks like a total's is judged once for each different text.
    const isTotal = new Map<number, boolean>();
    const kept = columns.map(({ index }) => sheet.columns[index]);
    for (let row = header.to + 1; row < end.row; row++) {
      let filled = 0;
      let first = -1;
      for (let at = 0; at < kept.length; at++) {
        if ((kept[at]?.kind(row) ?? Kind.blank) === Kind.blank) continue;
        if (first < 0) first = at;
        filled++;
      }
      if (filled === 0) {
        this.left.add(row, "blank");
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
        if (total && filled < columns.length * 0.7 && (rows.length > 0 || filled > 1)) {
          this.totals.push(row);
          this.left.add(row, "total");
          continue;
        }
        if (filled > 1 && this.isRepeat(row, header)) {
          this.left.add(row, "repeated header");
          continue;
        }
      }
      if (filled === 1 && columns.length >= 4) this.single.push(row);
      rows.push(row);
    }
    return rows;
  }

  /** Whether a row says again what the header's last line says. */
  private isRepeat(row: number, header: Header): boolean {
    const { sheet } = this;
    if (header.to < header.from) return false;
    let same = 0;
    for (let column = this.first; column <= this.last; column++) {
      const said = sheet.text(header.to, column);
      const here = sheet.text(row, column);
      if (said === "" && here === "") continue;
      if (groupKey(said) !== groupKey(here)) return false;
      same++;
    }
    return same > 1;
  }

  /** Lines at the end with a single text and nothing else are notes below the table. */
  private cutNotes(rows: number[], columns: readonly FoundColumn[]): void {
    if (columns.length < 3) return;
    while (rows.length > 0) {
      const last = rows[rows.length - 1];
      const filled = columns.filter(({ index }) => !this.sheet.isBlank(last, index));
      if (filled.length !== 1 || !this.sheet.isText(last, filled[0].index)) return;
      this.left.add(last, "note");
      rows.pop();
    }
  }

  /** A last line that says nothing but "Total" is one, also where all its cells are filled. */
  private cutLastTotal(rows: number[], columns: readonly FoundColumn[]): void {
    const last = rows[rows.length - 1];
    const first = columns.find(({ index }) => last !== undefined && !this.sheet.isBlank(last, index));
    if (rows.length < 2 || !first || !TOTAL_ALONE.test(this.sheet.text(last, first.index).trim())) return;
    this.totals.push(last);
    this.left.add(last, "total");
    rows.pop();
  }

  /** Rows with a single value among many columns are often headings of a block; they stay rows, and are named. */
  private nearlyEmpty(rows: readonly number[]): void {
    const last = rows[rows.length - 1] ?? -1;
    // Notes and totals at the end have been taken from the rows again.
    const found = this.single.filter((row) => row <= last);
    if (found.length === 0) return;
    this.findings.push({
      code: "nearly-empty-rows",
      severity: "warn",
      where: this.sheet.where,
      what: `${found.length === 1 ? "A row holds" : `${found.length} rows hold`} a single value (${rowList(found.map((row) => this.sheet.rowNumbers[row]))}), such as "${this.left.text(found[0])}"; they were kept as rows.`,
      advice: "If they are headings of a block, leave them out in the report, or correct the source.",
      count: found.length,
      cells: { rows: found.slice(0, 20).map((row) => this.sheet.rowNumbers[row]) },
    });
  }

  private lastTotal(rows: readonly number[], columns: readonly FoundColumn[]): FoundTable["total"] {
    const row = this.totals[this.totals.length - 1];
    // Where subtotals stand in between, the last line may be one of them.
    if (row === undefined || this.totals.length > 1 || row < (rows[rows.length - 1] ?? 0)) return undefined;
    const numbers = new Map<number, number>();
    for (const { index } of columns) {
      const kind = this.sheet.columns[index]?.kind(row) ?? Kind.blank;
      const isNumber = kind === Kind.number || kind === Kind.money || kind >= Kind.plain;
      if (isNumber) numbers.set(index, this.sheet.columns[index]?.number(row) ?? 0);
    }
    return { row, numbers };
  }
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
