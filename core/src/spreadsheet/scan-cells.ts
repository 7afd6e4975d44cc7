/** A single pass over the bytes of a sheet part that finds cells and values without building a tree. */
import { CorbixError } from "../common/index.js";
import { unescapeXml } from "../ooxml/index.js";
import { columnIndex, MAX_COLUMNS, MAX_ROWS } from "./reference.js";

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

const LT = 60;
const SLASH = 47;

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
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const data = buffer.indexOf("sheetData");
  if (data < 0) return;
  const stop = findEndOfData(buffer, data);
  const cell: ScannedCell = { row: 0, column: 0, style: 0, type: "n", value: undefined, formula: undefined };
  let row = -1;
  let column = -1;
  let at = buffer.indexOf(LT, data);
  while (at >= 0 && at < stop) {
    if (buffer[at + 1] === SLASH) {
      at = buffer.indexOf(LT, at + 2);
      continue;
    }
    const end = tagEnd(buffer, at);
    if (end < 0) throw cutOff(where);
    const name = localName(buffer, at + 1, end);
    if (name === "row") {
      const tag = buffer.toString("latin1", at, end + 1);
      const number = /\sr="(\d+)"/.exec(tag);
      row = number ? Number(number[1]) - 1 : row + 1;
      column = -1;
      if (row >= MAX_ROWS)
        throw new CorbixError("LIMIT_EXCEEDED", `Cannot read row ${row + 1}, expected at most ${MAX_ROWS} rows.`, {
          where,
        });
      onRow?.(row, tag);
    } else if (name === "c") {
      readCellTag(buffer.toString("latin1", at, end + 1), cell, row, column);
      column = cell.column;
      if (column >= MAX_COLUMNS)
        throw new CorbixError(
          "LIMIT_EXCEEDED",
          `Cannot read column ${column + 1}, expected at most ${MAX_COLUMNS} columns.`,
          { where },
        );
      if (buffer[end - 1] !== SLASH) {
        at = readContent(buffer, end + 1, stop, cell, where);
      }
      if (cell.value !== undefined || cell.formula !== undefined) onCell(cell);
    }
    at = buffer.indexOf(LT, Math.max(end, at));
  }
}

function findEndOfData(buffer: Buffer, from: number): number {
  const end = buffer.indexOf("/sheetData>", from);
  const empty = buffer.indexOf(">", from);
  if (empty >= 0 && buffer[empty - 1] === SLASH) return empty;
  return end < 0 ? buffer.length : end;
}

/** Reads `f`, `v` and `is` up to the cell's end tag; gives the offset of that end tag. */
function readContent(buffer: Buffer, from: number, stop: number, cell: ScannedCell, where: string): number {
  let at = buffer.indexOf(LT, from);
  while (at >= 0 && at < stop) {
    if (buffer[at + 1] === SLASH) {
      const end = buffer.indexOf(">", at);
      if (localName(buffer, at + 2, end) === "c") return at;
      at = buffer.indexOf(LT, end);
      continue;
    }
    const end = tagEnd(buffer, at);
    if (end < 0) throw cutOff(where);
    const name = localName(buffer, at + 1, end);
    const empty = buffer[end - 1] === SLASH;
    if (name === "v" || name === "f" || name === "t") {
      const next = empty ? end : buffer.indexOf(LT, end);
      const text = empty ? "" : textBetween(buffer, end + 1, next);
      if (name === "f") cell.formula = text;
      else if (name === "v") cell.value = text;
      else cell.value = (cell.value ?? "") + text;
      at = buffer.indexOf(LT, next);
    } else if (name === "rPh") {
      // Phonetic guides are no part of the text.
      at = empty ? buffer.indexOf(LT, end) : buffer.indexOf("rPh>", end);
      at = buffer.indexOf(LT, at);
    } else at = buffer.indexOf(LT, end);
  }
  throw cutOff(where);
}

function textBetween(buffer: Buffer, from: number, to: number): string {
  for (let at = from; at < to; at++) {
    const byte = buffer[at];
    if (byte > 127 || byte === 38) return unescapeXml(buffer.toString("utf8", from, to));
  }
  return buffer.toString("latin1", from, to);
}

function readCellTag(tag: string, cell: ScannedCell, row: number, previous: number): void {
  cell.row = Math.max(row, 0);
  cell.column = previous + 1;
  cell.style = 0;
  cell.type = "n";
  cell.value = undefined;
  cell.formula = undefined;
  for (let at = tag.indexOf('="'); at > 0; ) {
    const close = tag.indexOf('"', at + 2);
    const isShort = tag.charCodeAt(at - 2) <= 32;
    if (isShort) {
      const value = tag.slice(at + 2, close);
      switch (tag[at - 1]) {
        case "r": {
          let digits = 0;
          while (value.charCodeAt(digits) > 57) digits++;
          cell.column = columnIndex(value.slice(0, digits));
          cell.row = Number(value.slice(digits)) - 1;
          break;
        }
        case "s":
          cell.style = Number(value);
          break;
        case "t":
          cell.type = value;
          break;
      }
    }
    at = tag.indexOf('="', close);
  }
}

/** Offset of the `>` that ends the tag at `from`; quoted `>` do not count. */
function tagEnd(buffer: Buffer, from: number): number {
  let end = buffer.indexOf(62, from);
  while (end >= 0) {
    let quotes = 0;
    for (let at = from; at < end; at++) if (buffer[at] === 34) quotes++;
    if (quotes % 2 === 0) return end;
    end = buffer.indexOf(62, end + 1);
  }
  return -1;
}

function localName(buffer: Buffer, from: number, end: number): string {
  let start = from;
  let at = from;
  for (; at < end; at++) {
    const byte = buffer[at];
    if (byte === 58) start = at + 1;
    else if (byte <= 32 || byte === SLASH || byte === 62) break;
  }
  // The names that matter most come without a new string.
  if (at - start === 1)
    return buffer[start] === 99 ? "c" : buffer[start] === 118 ? "v" : String.fromCharCode(buffer[start]);
  return buffer.toString("latin1", start, at);
}

function cutOff(where: string): CorbixError {
  return new CorbixError("BROKEN_XML", "Cannot read the sheet: it ends in the middle of a cell.", { where });
}
