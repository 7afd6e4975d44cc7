/** A single pass over the bytes of a sheet part that finds cells and values without building a tree. */
import { CorbixError } from "../common/index.js";
import { unescapeXml } from "../ooxml/index.js";
import { MAX_COLUMNS, MAX_ROWS } from "./reference.js";

/** A cell as stored. */
export interface ScannedCell {
  row: number;
  column: number;
  /** Index into the workbook's cell formats. */
  style: number;
  /** Value of the `t` attribute: `n`, `s`, `str`, `inlineStr`, `b`, `e`, `d`. */
  type: string;
  /** Text of `v`, or of the inline string. */
  value: string | undefined;
  /** Text of `f`, empty for a cell that only shares another's. */
  formula: string | undefined;
}

const BLANK = 32;
const QUOTE = 34;
const AMPERSAND = 38;
const APOSTROPHE = 39;
const SLASH = 47;
const COLON = 58;
const LESS = 60;
const EQUALS = 61;
const GREATER = 62;
const LETTER_A = 65;
const LETTER_Z = 90;
const SMALL_C = 99;

/**
 * Calls `onCell` for each cell with content, in file order; the object is reused between calls.
 * `onRow` gets each row's number (0-based) and its start tag, before its cells.
 */
export function scanCells(
  bytes: Uint8Array,
  onCell: (cell: ScannedCell) => void,
  onRow?: (row: number, tag: string) => void,
  where = "sheet",
): void {
  new Scanner(bytes, onCell, onRow, where).scan();
}

class Scanner {
  private readonly buffer: Buffer;
  private readonly cell: ScannedCell = { row: 0, column: 0, style: 0, type: "n", value: undefined, formula: undefined };
  private at = 0;
  private stop = 0;
  private row = -1;
  private column = -1;

  constructor(
    bytes: Uint8Array,
    private readonly onCell: (cell: ScannedCell) => void,
    private readonly onRow: ((row: number, tag: string) => void) | undefined,
    private readonly where: string,
  ) {
    this.buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  scan(): void {
    const { buffer } = this;
    const data = buffer.indexOf("sheetData");
    if (data < 0) return;
    this.at = this.skipTag(data);
    if (buffer[this.at - 2] === SLASH) return;
    const end = buffer.indexOf("/sheetData>", this.at);
    const prefixed = end < 0 ? buffer.indexOf(":sheetData>", this.at) : end;
    this.stop = prefixed < 0 ? buffer.length : prefixed;
    while (this.at < this.stop) {
      if (buffer[this.at] !== LESS) this.at++;
      else this.tag();
    }
  }

  /** At a `<`: reads a row's or cell's tag, or passes over any other. */
  private tag(): void {
    const start = this.at;
    const name = this.nameStart(start + 1);
    const { buffer } = this;
    if (buffer[name] === SMALL_C && isNameEnd(buffer[name + 1])) this.cellTag(name + 1);
    else {
      this.at = this.skipTag(start);
      if (buffer[name] === 114 && buffer[name + 1] === 111 && buffer[name + 2] === 119 && isNameEnd(buffer[name + 3])) {
        this.rowTag(buffer.toString("latin1", start, this.at));
      }
    }
  }

  private rowTag(tag: string): void {
    const number = /\sr="(\d+)"/.exec(tag);
    this.row = number ? Number(number[1]) - 1 : this.row + 1;
    this.column = -1;
    if (this.row >= MAX_ROWS) {
      throw new CorbixError("LIMIT_EXCEEDED", `Cannot read row ${this.row + 1}, expected at most ${MAX_ROWS} rows.`, {
        where: this.where,
      });
    }
    this.onRow?.(this.row, tag);
  }

  private cellTag(from: number): void {
    const { cell } = this;
    cell.row = Math.max(this.row, 0);
    cell.column = this.column + 1;
    cell.style = 0;
    cell.type = "n";
    cell.value = undefined;
    cell.formula = undefined;
    const isEmpty = this.attributes(from);
    this.column = cell.column;
    if (cell.column >= MAX_COLUMNS || cell.column < 0) {
      throw new CorbixError(
        "LIMIT_EXCEEDED",
        `Cannot read column ${cell.column + 1}, expected at most ${MAX_COLUMNS} columns.`,
        { where: this.where },
      );
    }
    if (!isEmpty) this.content();
    if (cell.value !== undefined || cell.formula !== undefined) this.onCell(cell);
  }

  /** Reads `r`, `s` and `t`; afterwards `at` stands behind the tag. Tells whether the tag closes itself. */
  private attributes(from: number): boolean {
    const { buffer, cell } = this;
    let at = from;
    for (;;) {
      while (buffer[at] <= BLANK) at++;
      if (at >= this.stop) throw this.cutOff();
      if (buffer[at] === GREATER || buffer[at] === SLASH) break;
      const name = at;
      while (buffer[at] !== EQUALS && buffer[at] > BLANK && buffer[at] !== GREATER) at++;
      const isShort = at - name === 1;
      while (at < this.stop && buffer[at] !== QUOTE && buffer[at] !== APOSTROPHE) at++;
      const quote = buffer[at];
      const value = at + 1;
      at = value;
      while (at < this.stop && buffer[at] !== quote) at++;
      if (at >= this.stop) throw this.cutOff();
      if (isShort && buffer[name] === 114) this.reference(value, at);
      else if (isShort && buffer[name] === 115) cell.style = digits(buffer, value, at);
      else if (isShort && buffer[name] === 116) cell.type = cellType(buffer, value, at);
      at++;
    }
    const isEmpty = buffer[at] === SLASH;
    this.at = this.skipTag(at);
    return isEmpty;
  }

  private reference(from: number, to: number): void {
    const { buffer, cell } = this;
    let at = from;
    let column = 0;
    for (; at < to && buffer[at] >= LETTER_A && buffer[at] <= LETTER_Z; at++) column = column * 26 + buffer[at] - 64;
    cell.column = column - 1;
    cell.row = digits(buffer, at, to) - 1;
  }

  /** Reads `f`, `v` and `is` up to the cell's end tag. */
  private content(): void {
    const { buffer, cell } = this;
    for (;;) {
      while (this.at < this.stop && buffer[this.at] !== LESS) this.at++;
      if (this.at >= this.stop) throw this.cutOff();
      const start = this.at;
      const isEnd = buffer[start + 1] === SLASH;
      const name = this.nameStart(start + (isEnd ? 2 : 1));
      const isShort = isNameEnd(buffer[name + 1]);
      this.at = this.skipTag(start);
      if (isEnd) {
        if (isShort && buffer[name] === SMALL_C) return;
        continue;
      }
      const isEmpty = buffer[this.at - 2] === SLASH;
      if (isShort && buffer[name] === 118) cell.value = isEmpty ? "" : this.text();
      else if (isShort && buffer[name] === 102) cell.formula = isEmpty ? "" : this.text();
      else if (isShort && buffer[name] === 116) cell.value = (cell.value ?? "") + (isEmpty ? "" : this.text());
      else if (!isEmpty && buffer[name] === 114 && buffer[name + 1] === 80 && buffer[name + 2] === 104) {
        // Phonetic guides (rPh) are no part of the text.
        const end = buffer.indexOf("rPh>", this.at);
        this.at = end < 0 ? this.stop : end + 4;
      }
    }
  }

  private text(): string {
    const { buffer } = this;
    const from = this.at;
    let isPlain = true;
    let at = from;
    for (; at < this.stop && buffer[at] !== LESS; at++)
      if (buffer[at] > 127 || buffer[at] === AMPERSAND) isPlain = false;
    this.at = at;
    return isPlain ? buffer.toString("latin1", from, at) : unescapeXml(buffer.toString("utf8", from, at));
  }

  /** Offset behind the `>` that ends the tag; a quoted one does not count. */
  private skipTag(from: number): number {
    const { buffer } = this;
    for (let at = from; at < buffer.length; at++) {
      const byte = buffer[at];
      if (byte === GREATER) return at + 1;
      if (byte === QUOTE || byte === APOSTROPHE) {
        at++;
        while (at < buffer.length && buffer[at] !== byte) at++;
      }
    }
    throw this.cutOff();
  }

  /** Offset of the local name in a tag: behind the prefix, if there is one. */
  private nameStart(from: number): number {
    const { buffer } = this;
    for (let at = from; at < buffer.length && !isNameEnd(buffer[at]); at++) if (buffer[at] === COLON) return at + 1;
    return from;
  }

  private cutOff(): CorbixError {
    return new CorbixError("BROKEN_XML", "Cannot read the sheet: it ends in the middle of a cell.", {
      where: this.where,
    });
  }
}

function isNameEnd(byte: number): boolean {
  return byte <= BLANK || byte === SLASH || byte === GREATER;
}

function digits(buffer: Buffer, from: number, to: number): number {
  let number = 0;
  for (let at = from; at < to; at++) {
    const digit = buffer[at] - 48;
    if (digit >= 0 && digit <= 9) number = number * 10 + digit;
  }
  return number;
}

function cellType(buffer: Buffer, from: number, to: number): string {
  // The commonest type comes without a new string.
  return to - from === 1 && buffer[from] === 115 ? "s" : buffer.toString("latin1", from, to);
}
