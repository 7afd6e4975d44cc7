import { CorbixError, dateFromSerial, isDay, isoFromSerial } from "../../common/index.js";
import { type CellRange, MAX_COLUMNS } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";

/** What a cell of a file is, before anything is decided about its column. */
export const Kind = {
  blank: 0,
  text: 1,
  number: 2,
  true: 3,
  false: 4,
  error: 5,
  date: 6,
  datetime: 7,
  time: 8,
  percent: 9,
  money: 10,
  /** A number in a text file, written plainly with so many decimals: `plain + 2` for `92.50`. */
  plain: 16,
} as const;

const BLOCK_ROWS = 4096;
/** So many cells of a sheet are kept at most, blank ones in between included; about 500 MiB. */
export const MAX_CELLS = 60_000_000;

/** One column of a file as it stands: for each row a kind and a number, which for texts is an index into the sheet's strings. */
export class RawColumn {
  private readonly kinds: Uint8Array[] = [];
  private readonly numbers: Float64Array[] = [];
  /** Cells that are not blank. */
  filled = 0;

  kind(row: number): number {
    return this.kinds[row >>> 12]?.[row & 4095] ?? Kind.blank;
  }

  number(row: number): number {
    return this.numbers[row >>> 12]?.[row & 4095] ?? 0;
  }

  /** Puts a cell; tells whether that needed a new block of memory. */
  set(row: number, kind: number, number: number): boolean {
    const block = row >>> 12;
    let kinds = this.kinds[block];
    const isNew = kinds === undefined;
    if (isNew) {
      kinds = new Uint8Array(BLOCK_ROWS);
      this.kinds[block] = kinds;
      this.numbers[block] = new Float64Array(BLOCK_ROWS);
    }
    if (kinds[row & 4095] === Kind.blank && kind !== Kind.blank) this.filled++;
    kinds[row & 4095] = kind;
    this.numbers[block][row & 4095] = number;
    return isNew;
  }
}

/** Rows of which it is told which cells are bold, and how their numbers are shown. */
export const FIRST_ROWS = 200;

/** A sign of the file's own that a row is the header. */
export interface HeaderHint {
  /** 1-based, in the origin. */
  readonly row: number;
  readonly kind: "filter" | "print titles" | "frozen panes";
}

/** A sheet or text file as it stands, column by column. Rows without content are not kept. */
export class RawSheet {
  readonly columns: (RawColumn | undefined)[] = [];
  /** For each kept row its 1-based number in the origin. */
  readonly rowNumbers: number[] = [];
  /** Kept rows, by index, that are hidden or filtered away in the file. */
  readonly hidden = new Set<number>();
  merges: readonly CellRange[] = [];
  /** Rows, by index, with how many cells are set in bold; of the first rows alone. */
  readonly bold = new Map<number, number>();
  /** How numbers and dates of the first rows are shown, by row and column; they may be headings. */
  private readonly shown = new Map<number, () => string>();
  /** What the file itself says of where its header is. */
  readonly hints: HeaderHint[] = [];
  /** Ranges that were taken out: summaries of other cells. */
  readonly summaries: CellRange[] = [];
  /** The index of the header row where the format itself says which it is. */
  headerAt: number | undefined = undefined;
  /** For each column the currencies its number formats name, with how many cells. */
  readonly currencies = new Map<number, Map<string, number>>();
  private readonly known = new Map<string, number>();
  private blocks = 0;
  private row = -1;

  /**
   * `where` names the file, and its sheet; `reading` tells how the bytes were read; `isTyped` that its cells have kinds
   * of their own, so that a number written as text is worth a finding.
   */
  constructor(
    readonly where: string,
    readonly reading: Readonly<Record<string, string>>,
    readonly isTyped: boolean,
    readonly strings: string[] = [],
  ) {}

  get rowCount(): number {
    return this.rowNumbers.length;
  }

  startRow(number: number, isHidden = false): void {
    this.row = this.rowNumbers.length;
    this.rowNumbers.push(number);
    if (isHidden) this.hidden.add(this.row);
  }

  /** Goes back to a kept row, to put more cells into it. */
  goTo(row: number): void {
    this.row = row;
  }

  countBold(row: number, cells: number): void {
    this.bold.set(row, (this.bold.get(row) ?? 0) + cells);
  }

  countCurrency(column: number, currency: string): void {
    const counts = this.currencies.get(column) ?? new Map<string, number>();
    this.currencies.set(column, counts);
    counts.set(currency, (counts.get(currency) ?? 0) + 1);
  }

  /** Puts a cell into the row last started. Throws `LIMIT_EXCEEDED` where the sheet would take too much memory. */
  put(column: number, kind: number, number: number): void {
    let kept = this.columns[column];
    if (kept === undefined) {
      kept = new RawColumn();
      this.columns[column] = kept;
    }
    // A number whose format says day or time, and that is neither, stays a number: of a damaged file, or before 1899.
    const isNoDay = (kind === Kind.date || kind === Kind.datetime || kind === Kind.time) && !isDay(number);
    if (!kept.set(this.row, isNoDay ? Kind.number : kind, number)) return;
    this.blocks++;
    if (this.blocks * BLOCK_ROWS > MAX_CELLS) {
      throw new CorbixError("LIMIT_EXCEEDED", say().table.cannotReadTableSpansMore({ maxCells: MAX_CELLS }), {
        where: this.where,
        advice: say().table.removeStrayCellsFarRight(),
      });
    }
  }

  /** Takes a cell out again; the row is given by its number in the origin. */
  clear(number: number, column: number): void {
    let [low, high] = [0, this.rowNumbers.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.rowNumbers[middle] < number) low = middle + 1;
      else high = middle;
    }
    const kept = this.columns[column];
    if (this.rowNumbers[low] !== number || kept === undefined || kept.kind(low) === Kind.blank) return;
    kept.set(low, Kind.blank, 0);
    kept.filled--;
    if (kept.filled === 0) this.columns[column] = undefined;
  }

  /** Puts a text; one of blanks only counts as blank. */
  putText(column: number, text: string, kind: number = Kind.text): void {
    if (text.trim() !== "") this.put(column, kind, this.intern(text));
  }

  intern(text: string): number {
    let index = this.known.get(text);
    if (index === undefined) {
      index = this.strings.length;
      this.strings.push(text);
      this.known.set(text, index);
    }
    return index;
  }

  isBlank(row: number, column: number): boolean {
    const kept = this.columns[column];
    return kept === undefined || kept.kind(row) === Kind.blank;
  }

  isText(row: number, column: number): boolean {
    return this.columns[column]?.kind(row) === Kind.text;
  }

  isDate(row: number, column: number): boolean {
    return this.columns[column]?.kind(row) === Kind.date;
  }

  /** The cell as a reader of the file would see it, or `""`. */
  text(row: number, column: number): string {
    const kept = this.columns[column];
    return kept === undefined ? "" : showRaw(kept.kind(row), kept.number(row), this.strings);
  }

  /** Tells how the cell put last into `column` is shown; of the first rows alone. */
  keepShown(column: number, show: () => string): void {
    if (this.row < FIRST_ROWS) this.shown.set(this.row * MAX_COLUMNS + column, show);
  }

  /** The cell as a heading: as it is shown where that is known, otherwise as a reader of the file would see it. */
  heading(row: number, column: number): string {
    return this.shown.get(row * MAX_COLUMNS + column)?.() || this.text(row, column);
  }

  /** Indexes of the columns of a row that are not blank. */
  filled(row: number): number[] {
    const found: number[] = [];
    for (let column = 0; column < this.columns.length; column++) if (!this.isBlank(row, column)) found.push(column);
    return found;
  }
}

/** A raw cell as text, as it would be read in the file. */
export function showRaw(kind: number, number: number, strings: readonly string[]): string {
  switch (kind) {
    case Kind.blank:
      return "";
    case Kind.text:
    case Kind.error:
      return strings[number];
    case Kind.true:
      return "true";
    case Kind.false:
      return "false";
    case Kind.date:
      return isoFromSerial(Math.floor(number));
    case Kind.datetime:
      return isoFromSerial(number).slice(0, 16).replace("T", " ");
    case Kind.time:
      return dateFromSerial(number).toISOString().slice(11, 16);
    case Kind.percent:
      return `${Number((number * 100).toPrecision(15))}%`;
    default:
      return kind > Kind.plain ? number.toFixed(kind - Kind.plain) : String(number);
  }
}
