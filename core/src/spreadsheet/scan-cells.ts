/** A single pass over the bytes of a sheet part that finds cells and values without building a tree. */

import { CorbixError } from "../common/index.js";
import { unescapeXml } from "../ooxml/index.js";
import { say } from "../words/index.js";
import { MAX_COLUMNS, MAX_ROWS } from "./reference.js";

/** A cell as stored; one object is used for all cells of a sheet, and holds only during the callback. */
export class ScannedCell {
  row = 0;
  column = 0;
  /** Index into the workbook's cell formats. */
  style = 0;
  /** Value of the `t` attribute: `n`, `s`, `str`, `inlineStr`, `b`, `e`, `d`. */
  type = "n";
  /** Text of `f`, empty for a cell that only shares another's. */
  formula: string | undefined = undefined;
  /** Text of an inline string, put together from its runs. */
  inline: string | undefined = undefined;
  /** Where the text of `v` lies in the bytes; -1 if there is none. */
  from = -1;
  to = -1;

  constructor(private readonly buffer: Buffer) {}

  /** Text of `v`, or of the inline string. */
  get value(): string | undefined {
    if (this.inline !== undefined) return this.inline;
    return this.from < 0 ? undefined : decodeText(this.buffer, this.from, this.to);
  }

  /** The value as a number, read from the bytes where it is written plainly; `NaN` where it is none. */
  get number(): number {
    const { buffer, to } = this;
    let at = this.from;
    const isNegative = buffer[at] === MINUS;
    if (isNegative) at++;
    if (this.inline !== undefined || to - at > 16 || at >= to) return Number(this.value || Number.NaN);
    let digits = 0;
    let decimals = -1;
    for (; at < to; at++) {
      const digit = buffer[at] - 48;
      if (digit >= 0 && digit <= 9) {
        digits = digits * 10 + digit;
        if (decimals >= 0) decimals++;
      } else if (buffer[at] === POINT && decimals < 0) decimals = 0;
      else return Number(this.value);
    }
    // Digits below 2^53 over a power of ten up to 10^22 are rounded once, so the result is the nearest number.
    const number = decimals > 0 ? digits / POWERS[decimals] : digits;
    return isNegative ? -number : number;
  }

  /** The value as an index, such as that of a shared string. */
  get index(): number {
    return digits(this.buffer, this.from, this.to);
  }
}

const POWERS = Array.from({ length: 23 }, (_, power) => 10 ** power);
const MINUS = 45;
const POINT = 46;
const BLANK = 32;
const EXCLAMATION = 33;
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
const SMALL_V = 118;
const RAW = "<![CDATA[";

/**
 * Calls `onCell` for each cell with content, in file order; the object is reused between calls.
 * `onRow` gets each row's number (0-based) and its start tag, before its cells. Gives the offset behind the cells.
 */
export function scanCells(
  bytes: Uint8Array,
  onCell: (cell: ScannedCell) => void,
  onRow?: (row: number, tag: string) => void,
  where = "sheet",
): number {
  return new Scanner(bytes, onCell, onRow, where).scan();
}

class Scanner {
  private readonly buffer: Buffer;
  private readonly cell: ScannedCell;
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
    this.cell = new ScannedCell(this.buffer);
  }

  scan(): number {
    const { buffer } = this;
    const data = buffer.indexOf("sheetData");
    if (data < 0) return 0;
    this.at = this.skipTag(data);
    if (buffer[this.at - 2] === SLASH) return this.at;
    // Looked for from the end, where it is near.
    const end = buffer.lastIndexOf("</sheetData>");
    const prefixed = end < this.at ? buffer.lastIndexOf(":sheetData>") : end;
    this.stop = prefixed < this.at ? buffer.length : prefixed;
    while (this.at < this.stop) {
      if (buffer[this.at] !== LESS) this.at++;
      else this.tag();
    }
    return this.stop;
  }

  /** At a `<`: reads a row's or cell's tag, or passes over any other. */
  private tag(): void {
    const start = this.at;
    const { buffer } = this;
    if (buffer[start + 1] === SMALL_C && buffer[start + 2] === BLANK) {
      this.cellTag(start + 2);
      return;
    }
    const name = this.nameStart(start + 1);
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
      throw new CorbixError(
        "LIMIT_EXCEEDED",
        say().spreadsheet.cannotReadRowExpectedMost({ row: this.row + 1, maxRows: MAX_ROWS }),
        {
          where: this.where,
        },
      );
    }
    this.onRow?.(this.row, tag);
  }

  private cellTag(from: number): void {
    const { cell } = this;
    cell.row = Math.max(this.row, 0);
    cell.column = this.column + 1;
    cell.style = 0;
    cell.type = "n";
    cell.inline = undefined;
    cell.from = -1;
    cell.formula = undefined;
    const isEmpty = this.attributes(from);
    this.column = cell.column;
    if (cell.column >= MAX_COLUMNS || cell.column < 0) {
      throw new CorbixError(
        "LIMIT_EXCEEDED",
        say().spreadsheet.cannotReadColumnExpectedMost({ column: cell.column + 1, maxColumns: MAX_COLUMNS }),
        { where: this.where },
      );
    }
    if (!isEmpty) this.content();
    if (cell.from >= 0 || cell.inline !== undefined || cell.formula !== undefined) this.onCell(cell);
  }

  /** Reads `r`, `s` and `t`; afterwards `at` stands behind the tag. Tells whether the tag closes itself. */
  private attributes(from: number): boolean {
    const { buffer, cell } = this;
    let at = from;
    for (;;) {
      while (buffer[at] <= BLANK) at++;
      if (at >= this.stop) throw this.cutOff();
      const letter = buffer[at];
      if (letter === GREATER || letter === SLASH) break;
      // The commonest are written `r="B12"`, `s="3"`, `t="s"`.
      if (buffer[at + 1] === EQUALS && buffer[at + 2] === QUOTE) {
        const from = at + 3;
        at = from;
        while (at < this.stop && buffer[at] !== QUOTE) at++;
        if (at >= this.stop) throw this.cutOff();
        if (letter === 114) this.reference(from, at);
        else if (letter === 115) cell.style = digits(buffer, from, at);
        else if (letter === 116) cell.type = cellType(buffer, from, at);
        at++;
        continue;
      }
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
    this.at = isEmpty ? this.skipTag(at) : at + 1;
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
    if (this.plainValue()) return;
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
      if (isShort && buffer[name] === 118) {
        cell.from = this.at;
        if (!isEmpty) this.toTagStart();
        cell.to = this.at;
        if (this.isRaw()) cell.inline = this.text(cell.from);
      } else if (isShort && buffer[name] === 102) cell.formula = isEmpty ? "" : this.text();
      else if (isShort && buffer[name] === 116) cell.inline = (cell.inline ?? "") + (isEmpty ? "" : this.text());
      else if (!isEmpty && buffer[name] === 114 && buffer[name + 1] === 80 && buffer[name + 2] === 104) {
        // Phonetic guides (rPh) are no part of the text.
        const end = buffer.indexOf("rPh>", this.at);
        this.at = end < 0 ? this.stop : end + 4;
      }
    }
  }

  /** The commonest content is one value and the end of the cell, `<v>…</v></c>`. */
  private plainValue(): boolean {
    const { buffer, cell, at, stop } = this;
    if (buffer[at] !== LESS || buffer[at + 1] !== SMALL_V || buffer[at + 2] !== GREATER) return false;
    let to = at + 3;
    while (to < stop && buffer[to] !== LESS) to++;
    if (buffer[to + 2] !== SMALL_V || buffer[to + 4] !== LESS || buffer[to + 5] !== SLASH) return false;
    if (buffer[to + 6] !== SMALL_C || buffer[to + 7] !== GREATER || to + 8 > stop) return false;
    cell.from = at + 3;
    cell.to = to;
    this.at = to + 8;
    return true;
  }

  /** The text up to the end tag, with sections that are written raw (XML 1.0, 2.7). */
  private text(from = this.at): string {
    this.toTagStart();
    let text = decodeText(this.buffer, from, this.at);
    while (this.isRaw()) {
      const start = this.at + RAW.length;
      const end = this.buffer.indexOf("]]>", start);
      if (end < 0) throw this.cutOff();
      text += this.buffer.toString("utf8", start, end);
      this.at = end + 3;
      text += this.text();
    }
    return text;
  }

  private isRaw(): boolean {
    return (
      this.buffer[this.at + 1] === EXCLAMATION && this.buffer.toString("latin1", this.at, this.at + RAW.length) === RAW
    );
  }

  private toTagStart(): void {
    const { buffer, stop } = this;
    let at = this.at;
    while (at < stop && buffer[at] !== LESS) at++;
    this.at = at;
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
    return new CorbixError("BROKEN_XML", say().spreadsheet.cannotReadSheetEndsMiddle(), {
      where: this.where,
    });
  }
}

function decodeText(buffer: Buffer, from: number, to: number): string {
  let isPlain = true;
  for (let at = from; at < to; at++) if (buffer[at] > 127 || buffer[at] === AMPERSAND) isPlain = false;
  return isPlain ? buffer.toString("latin1", from, to) : unescapeXml(buffer.toString("utf8", from, to));
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
