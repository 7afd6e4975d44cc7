/** Which row is the header: each row is judged against all rows below it, and against what the file itself says. */

import { groupKey, maybeSerialFromIso } from "../../common/index.js";
import { say } from "../../words/index.js";
import { Kind, type RawSheet } from "../formats/raw-sheet.js";

/** What a row speaks for as a header. */
export interface HeaderCandidate {
  readonly row: number;
  readonly score: number;
  /** How much it differs from the rows below it, of -1 to 1. */
  readonly contrast: number;
  /** Whether a row above it, of the same block, is as full as the rows below: it is no title, so this is no header. */
  readonly isBarred: boolean;
  /** What a reader would say in its favour. */
  readonly why: string;
  /** Columns whose name reads like one of the values below it. */
  readonly alike: readonly number[];
}

/** A header is looked for in so many rows from the top. */
export const HEADER_SEARCH_ROWS = 100;
/** A row that speaks less for itself is no header. */
const LEAST_SCORE = 15;
/** Cells looked at below each candidate. */
const SAMPLE_CELLS = 40_000;
const SAMPLE_ROWS = 300;
/** Share of a column's values that makes them all of a kind. */
const MOST = 0.6;

/** Names of groups, said again over each of their columns, are at most this share of their line. */
export const REPEATS = 0.7;
/** Weights: what is named, how it differs, what is no name in it. */
const COVERAGE = 30;
const CONTRAST = 30;
const DATA = 25;
const REPEATED = 8;
const BLOCK = 20;
const OTHER_BLOCK = 10;
const PER_ROW = 0.4;
const AFTER_GAP = 2;
const BOLD = 10;
/** What the file says of its own. */
const HINTS = { filter: 40, "print titles": 25, "frozen panes": 15 } as const;

/** All rows that may be the header, the best first; those that are barred stand among them. */
export function headerCandidates(sheet: RawSheet, first: number, last: number): HeaderCandidate[] {
  return new HeaderJudge(sheet, first, last).candidates();
}

class HeaderJudge {
  private readonly blocks: { readonly from: number; readonly to: number }[];
  private readonly largest: number;
  private readonly filledOf = new Map<number, readonly number[]>();
  private readonly body: Body;

  constructor(
    private readonly sheet: RawSheet,
    private readonly first: number,
    private readonly last: number,
  ) {
    this.body = new Body(sheet);
    this.blocks = blocksOf(sheet);
    this.largest = this.blocks.reduce((most, block) => Math.max(most, sizeOf(block)), 1);
  }

  /** From the last row that may be the header up, so that what lies below each is gathered once for all. */
  candidates(): HeaderCandidate[] {
    const { sheet } = this;
    const found: HeaderCandidate[] = [];
    const rows = Math.min(HEADER_SEARCH_ROWS, sheet.rowCount);
    const most = Math.min(SAMPLE_ROWS, Math.max(20, Math.floor(SAMPLE_CELLS / (this.last - this.first + 1))));
    const step = Math.max(1, Math.floor((sheet.rowCount - rows) / most));
    for (let row = rows; row < sheet.rowCount; row += step) this.body.add(row, this.filled(row));
    for (let row = rows - 1; row >= 0; row--) {
      const candidate = this.judge(row);
      if (candidate) found.push(candidate);
      this.body.add(row, this.filled(row));
    }
    return found.sort((a, b) => b.score - a.score || a.row - b.row);
  }

  private judge(row: number): HeaderCandidate | undefined {
    const filled = this.filled(row);
    const sequence = sequenceNames(this.sheet, row, filled);
    const names = filled.filter((column) => sequence.has(column) || isName(this.sheet, row, column));
    if (names.length === 0 || names.length < filled.length * 0.4) return undefined;
    // Numbers that count up are names beside a word; alone they are as likely a row.
    const isYears = names.every((column) => isYear(countable(this.sheet, row, column)));
    if (names.every((column) => sequence.has(column)) && !isYears) return undefined;
    const { body } = this;
    const width = Math.max(1, body.columns.size);
    const times = body.timesOf(row, filled);
    const named = names.filter((column) => body.columns.has(column));
    const coverage = body.columns.size === 0 ? 1 : named.length / width;
    const alike: number[] = [];
    let contrast = 0;
    for (const column of filled) {
      const below = body.columns.get(column);
      if (!below) continue;
      const one = names.includes(column)
        ? this.difference(row, column, below, sequence.has(column), times)
        : below.others >= below.count * MOST
          ? -1
          : -0.3;
      if (one < 0 && names.includes(column)) alike.push(column);
      contrast += one;
    }
    contrast /= width;
    const distinct = new Set(names.map((column) => groupKey(this.sheet.text(row, column)))).size;
    const hints = this.sheet.hints.filter((hint) => hint.row === this.sheet.rowNumbers[row]);
    const isBold = this.isBoldAlone(row, filled);
    const core =
      COVERAGE * coverage +
      CONTRAST * contrast -
      (DATA * (filled.length - names.length)) / filled.length -
      (REPEATED * (names.length - distinct)) / filled.length +
      hints.reduce((sum, hint) => sum + HINTS[hint.kind], 0) +
      (isBold ? BOLD : 0);
    if (core < LEAST_SCORE) return undefined;
    const above = this.above(row, Math.max(2, body.width));
    const score =
      core +
      BLOCK * this.blockShare(row) -
      PER_ROW * Math.min(row, 30) +
      (this.isAfterGap(row) ? AFTER_GAP : 0) -
      (above.inOtherBlock ? OTHER_BLOCK : 0);
    const why = [
      ...hints.map((hint) => say().table.fileFilters({ kind: hint.kind })),
      ...(isBold ? [say().table.aloneSetBold()] : []),
      ...(contrast > 0.5 ? [say().table.namesDifferKindStandsBelow()] : []),
    ];
    return {
      row,
      score,
      contrast,
      alike,
      isBarred: above.inBlock && !hints.some((hint) => hint.kind !== "frozen panes"),
      why: why.length > 0 ? why.join("; ") : say().table.firstRowNamesColumnsFilled(),
    };
  }

  /** How a name differs from the values of its column: 1 of another kind, 0.35 another word, below 0 like one of them. */
  private difference(row: number, column: number, below: Below, isSequence: boolean, repeats: number): number {
    const { sheet } = this;
    if (isSequence) {
      const isPeriod = isDay(sheet, row, column) || isYear(countable(sheet, row, column));
      return below.others >= below.count * MOST && isPeriod ? 0.7 : 0.3;
    }
    const text = sheet.text(row, column);
    if (below.timesOf(groupKey(text)) > repeats) return -1;
    if (below.others >= below.count * MOST) return 1;
    const shape = shapeOf(text);
    const [common, times] = below.commonShape();
    if (times >= below.count * MOST && /\d/.test(common)) return shape === common ? -0.7 : 0.7;
    return 0.35;
  }

  /** Whether a row above is as full as those below: in the same block, or in one above a blank line. */
  private above(row: number, width: number): { inBlock: boolean; inOtherBlock: boolean } {
    const block = this.blockOf(row);
    let [inBlock, inOtherBlock] = [false, false];
    for (let at = 0; at < row; at++) {
      const filled = this.filled(at);
      if (filled.length < width || this.isGroupLine(at, row, filled)) continue;
      if (at >= block.from) inBlock = true;
      // A line alone may be the header with a blank line below it.
      else if (sizeOf(this.blockOf(at)) * 2 > sizeOf(block) || sizeOf(this.blockOf(at)) === 1) inOtherBlock = true;
    }
    return { inBlock, inOtherBlock };
  }

  /** A line right above that names groups of columns says the same name several times. */
  private isGroupLine(at: number, row: number, filled: readonly number[]): boolean {
    if (at !== row - 1 || !filled.every((column) => isName(this.sheet, at, column))) return false;
    const names = filled.map((column) => groupKey(this.sheet.text(at, column)));
    return new Set(names).size <= names.length * REPEATS;
  }

  private isBoldAlone(row: number, filled: readonly number[]): boolean {
    const bold = (at: number): number => this.sheet.bold.get(at) ?? 0;
    if (filled.length < 2 || bold(row) < filled.length * 0.8) return false;
    let others = 0;
    let looked = 0;
    for (let at = row + 1; at < Math.min(row + 12, this.sheet.rowCount); at++) {
      looked++;
      if (bold(at) >= 2) others++;
    }
    return looked > 0 && others <= looked * 0.34;
  }

  private isAfterGap(row: number): boolean {
    return this.blockOf(row).from === row;
  }

  private blockOf(row: number): { readonly from: number; readonly to: number } {
    return this.blocks.find((block) => row <= block.to) ?? { from: 0, to: this.sheet.rowCount - 1 };
  }

  /** How much of the file the row's block is, of 0 to 1; a row alone above a blank line counts for half of the next. */
  private blockShare(row: number): number {
    const at = this.blocks.findIndex((block) => row <= block.to);
    const share = (index: number): number =>
      this.blocks[index] ? Math.min(1, sizeOf(this.blocks[index]) / (this.largest / 2)) : 0;
    return row === this.blocks[at]?.to ? Math.max(share(at), share(at + 1) / 2) : share(at);
  }

  private filled(row: number): readonly number[] {
    let known = this.filledOf.get(row);
    if (!known) {
      known = this.sheet.filled(row).filter((column) => column >= this.first && column <= this.last);
      if (row < 2 * HEADER_SEARCH_ROWS) this.filledOf.set(row, known);
    }
    return known;
  }
}

/** The rows below a row, a sample of them where they are many. */
class Body {
  readonly columns = new Map<number, Below>();
  private readonly widths: number[] = [];
  private readonly rows = new Map<string, number>();

  constructor(private readonly sheet: RawSheet) {}

  add(row: number, filled: readonly number[]): void {
    if (filled.length === 0) return;
    let at = this.widths.length;
    this.widths.push(filled.length);
    for (; at > 0 && this.widths[at - 1] > filled.length; at--) this.widths[at] = this.widths[at - 1];
    this.widths[at] = filled.length;
    const key = this.keyOf(row, filled);
    this.rows.set(key, (this.rows.get(key) ?? 0) + 1);
    for (const column of filled) {
      let below = this.columns.get(column);
      if (!below) {
        below = new Below();
        this.columns.set(column, below);
      }
      below.add(this.sheet, row, column);
    }
  }

  /** Cells of a row, as the median. */
  get width(): number {
    return this.widths[this.widths.length >> 1] ?? 0;
  }

  /** How often a row comes again below, as headers do on each page. */
  timesOf(row: number, filled: readonly number[]): number {
    return filled.length > 1 ? (this.rows.get(this.keyOf(row, filled)) ?? 0) : 0;
  }

  private keyOf(row: number, filled: readonly number[]): string {
    return filled.map((column) => `${column} ${groupKey(this.sheet.text(row, column))}`).join("\n");
  }
}

/** What stands in a column below a row. */
class Below {
  count = 0;
  /** Values that are no names: numbers, dates, addresses. */
  others = 0;
  private readonly words = new Map<string, number>();
  private readonly shapes = new Map<string, number>();

  add(sheet: RawSheet, row: number, column: number): void {
    this.count++;
    const isText = sheet.isText(row, column);
    const text = isText ? sheet.text(row, column) : "";
    if (!isText || looksLikeData(text)) this.others++;
    if (!isText) return;
    count(this.words, groupKey(text));
    count(this.shapes, shapeOf(text));
  }

  timesOf(word: string): number {
    return this.words.get(word) ?? 0;
  }

  commonShape(): [string, number] {
    let best: [string, number] = ["", 0];
    for (const one of this.shapes) if (one[1] > best[1]) best = one;
    return best;
  }
}

function count(counts: Map<string, number>, word: string): void {
  counts.set(word, (counts.get(word) ?? 0) + 1);
}

/** Rows that follow each other without a blank line. */
function blocksOf(sheet: RawSheet): { from: number; to: number }[] {
  const blocks: { from: number; to: number }[] = [];
  for (let row = 0; row < sheet.rowCount; row++) {
    const last = blocks[blocks.length - 1];
    if (last && sheet.rowNumbers[row] === sheet.rowNumbers[row - 1] + 1) last.to = row;
    else blocks.push({ from: row, to: row });
  }
  return blocks;
}

function sizeOf(block: { readonly from: number; readonly to: number }): number {
  return block.to - block.from + 1;
}

/** `L-0101` and `S-7` are alike: letters, a dash, digits. */
function shapeOf(text: string): string {
  return text
    .trim()
    .slice(0, 60)
    .replace(/\p{L}+/gu, "a")
    .replace(/\d+/g, "9");
}

export function isName(sheet: RawSheet, row: number, column: number): boolean {
  return sheet.isText(row, column) && !looksLikeData(sheet.text(row, column));
}

/** Numbers, dates, times, mail and web addresses are never what a column is called. */
export function looksLikeData(text: string): boolean {
  const plain = text.trim();
  return (
    /^(?:[A-Z]{3}\s?|[€£$¥]\s?)?[-+(]?[\d.,'’\s]*\d[\d.,'’\s]*\)?\s?(?:%|[A-Z]{3}|[€£$¥])?$/.test(plain) ||
    /^\d{1,4}[-./]\d{1,2}[-./]\d{1,4}/.test(plain) ||
    /^\d{1,2}:\d{2}(?::\d{2})?$/.test(plain) ||
    /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(plain) ||
    /^https?:\/\//i.test(plain)
  );
}

/** Headings that count: years, months, weeks or days as numbers or dates, one step apart from column to column. */
export function sequenceNames(sheet: RawSheet, row: number, filled: readonly number[]): ReadonlySet<number> {
  const found = new Set<number>();
  let run: number[] = [];
  const end = (): void => {
    const isDate = run.some((column) => isDay(sheet, row, column));
    const areYears = run.every((column) => isYear(countable(sheet, row, column)));
    // Two small numbers that follow each other are more often values than headings.
    if (run.length >= 3 || (run.length === 2 && (isDate || areYears))) for (const column of run) found.add(column);
    run = [];
  };
  for (const column of filled) {
    const value = countable(sheet, row, column);
    const before = run[run.length - 1];
    if (value === undefined) {
      end();
      continue;
    }
    if (before !== undefined && !(column === before + 1 && isStep(sheet, row, run, column))) end();
    run.push(column);
  }
  end();
  const others = filled.filter((column) => !found.has(column));
  // A single year among names is one of them.
  const years = others.filter((column) => isYear(countable(sheet, row, column)));
  if (years.length > 0 && others.every((column) => years.includes(column) || isName(sheet, row, column)))
    for (const column of years) found.add(column);
  return found;
}

/** What a heading counts: a number, a day, a time of day in minutes, or a share in hundredths. */
function countable(sheet: RawSheet, row: number, column: number): number | undefined {
  const kept = sheet.columns[column];
  const kind = kept?.kind(row) ?? Kind.blank;
  if (kind === Kind.text) {
    const text = sheet.text(row, column).trim();
    const time = /^(\d{1,2}):(\d{2})$/.exec(text);
    if (time) return Number(time[1]) * 60 + Number(time[2]);
    const share = /^(\d{1,3})\s?%$/.exec(text);
    if (share) return Number(share[1]);
    const day = isDayText(text) ? maybeSerialFromIso(text) : undefined;
    return day ?? (/^\d{1,4}$/.test(text) ? Number(text) : undefined);
  }
  const number = kept?.number(row) ?? Number.NaN;
  if (kind === Kind.percent) return Math.round(number * 10_000) / 100;
  if (kind === Kind.time) return Math.round(number * 1440);
  const counts = kind === Kind.number || kind === Kind.plain || kind === Kind.date;
  return counts && Number.isInteger(number) && number >= 0 ? number : undefined;
}

const isDayText = (text: string): boolean => /^\d{4}-\d{2}-\d{2}$/.test(text);

function isDay(sheet: RawSheet, row: number, column: number): boolean {
  return sheet.isDate(row, column) || (sheet.isText(row, column) && isDayText(sheet.text(row, column).trim()));
}

/** Days go by days, weeks, months, quarters or years; everything else by one step that stays the same. */
function isStep(sheet: RawSheet, row: number, run: readonly number[], column: number): boolean {
  const at = (one: number): number => countable(sheet, row, one) ?? Number.NaN;
  const step = at(column) - at(run[run.length - 1]);
  if (isDay(sheet, row, column)) return [1, 7, 28, 29, 30, 31, 90, 91, 92, 365, 366].includes(step);
  const first = run.length > 1 ? at(run[1]) - at(run[0]) : step;
  return step !== 0 && step === first;
}

function isYear(value: number | undefined): boolean {
  return value !== undefined && value >= 1900 && value <= 2100;
}
