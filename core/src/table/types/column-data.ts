/** Columns as numbers or as codes into a dictionary: small in memory and in the database, and quick to go over. */

import { deflateSync, inflateSync } from "node:zlib";
import { CorbixError } from "../../common/index.js";
import { say } from "../../words/index.js";
import type { Cell } from "../table.js";

/** `NaN` is a blank. */
export interface NumberData {
  readonly kind: "numbers";
  readonly numbers: Float64Array;
}

/** Code 0 is a blank; code `n` is entry `n` of the dictionary, whose first is `null`. */
export interface CodedData {
  readonly kind: "codes";
  readonly codes: Uint32Array;
  readonly dictionary: readonly Cell[];
}

export type ColumnData = NumberData | CodedData;

/** Cells as column data: numbers where all filled cells are numbers, codes otherwise. */
export function columnData(values: readonly Cell[], from = 0, to = values.length): ColumnData {
  let isNumeric = false;
  for (let at = from; at < to; at++) {
    const value = values[at];
    if (value === null) continue;
    isNumeric = typeof value === "number";
    if (!isNumeric) break;
  }
  if (isNumeric) {
    const numbers = new Float64Array(to - from);
    for (let at = from; at < to; at++) {
      const value = values[at];
      numbers[at - from] = typeof value === "number" ? value : Number.NaN;
    }
    return { kind: "numbers", numbers };
  }
  const codes = new Uint32Array(to - from);
  const dictionary: Cell[] = [null];
  const known = new Map<Cell, number>();
  for (let at = from; at < to; at++) {
    const value = values[at];
    if (value === null) continue;
    let code = known.get(value);
    if (code === undefined) {
      code = dictionary.length;
      dictionary.push(value);
      known.set(value, code);
    }
    codes[at - from] = code;
  }
  return { kind: "codes", codes, dictionary };
}

export function cellAt(data: ColumnData, row: number): Cell {
  if (data.kind === "codes") return data.dictionary[data.codes[row]];
  const number = data.numbers[row];
  return Number.isNaN(number) ? null : number;
}

export function cellsOf(data: ColumnData): Cell[] {
  const length = data.kind === "codes" ? data.codes.length : data.numbers.length;
  const cells = new Array<Cell>(length);
  for (let row = 0; row < length; row++) cells[row] = cellAt(data, row);
  return cells;
}

const NUMBERS = 1;
const WHOLE = 2;
const CODES = 3;
const BLANK_WHOLE = -2_147_483_648;

/**
 * Column data as deflated bytes. First a byte for the form: 64-bit numbers, whole 32-bit numbers, or a dictionary
 * (its length, then JSON) with one code for each row.
 */
export function packColumn(data: ColumnData): Buffer {
  return deflateSync(data.kind === "numbers" ? packNumbers(data.numbers) : packCodes(data), { level: 1 });
}

function packNumbers(numbers: Float64Array): Buffer {
  const isWhole = numbers.every(
    (number) => Number.isNaN(number) || ((number | 0) === number && number !== BLANK_WHOLE && !Object.is(number, -0)),
  );
  const bytes = Buffer.alloc(8 + numbers.length * (isWhole ? 4 : 8));
  bytes.writeUInt8(isWhole ? WHOLE : NUMBERS, 0);
  bytes.writeUInt32LE(numbers.length, 4);
  for (let row = 0; row < numbers.length; row++) {
    if (isWhole) bytes.writeInt32LE(Number.isNaN(numbers[row]) ? BLANK_WHOLE : numbers[row], 8 + row * 4);
    else bytes.writeDoubleLE(numbers[row], 8 + row * 8);
  }
  return bytes;
}

function packCodes({ codes, dictionary }: CodedData): Buffer {
  const words = Buffer.from(JSON.stringify(dictionary), "utf8");
  const width = dictionary.length < 256 ? 1 : dictionary.length < 65_536 ? 2 : 4;
  const bytes = Buffer.alloc(12 + words.length + codes.length * width);
  bytes.writeUInt8(CODES, 0);
  bytes.writeUInt8(width, 1);
  bytes.writeUInt32LE(codes.length, 4);
  bytes.writeUInt32LE(words.length, 8);
  words.copy(bytes, 12);
  for (let row = 0; row < codes.length; row++) bytes.writeUIntLE(codes[row], 12 + words.length + row * width, width);
  return bytes;
}

export function unpackColumn(packed: Uint8Array): ColumnData {
  const bytes = inflateSync(packed);
  const length = bytes.readUInt32LE(4);
  switch (bytes.readUInt8(0)) {
    case NUMBERS: {
      const numbers = new Float64Array(length);
      for (let row = 0; row < length; row++) numbers[row] = bytes.readDoubleLE(8 + row * 8);
      return { kind: "numbers", numbers };
    }
    case WHOLE: {
      const numbers = new Float64Array(length);
      for (let row = 0; row < length; row++) {
        const number = bytes.readInt32LE(8 + row * 4);
        numbers[row] = number === BLANK_WHOLE ? Number.NaN : number;
      }
      return { kind: "numbers", numbers };
    }
    case CODES: {
      const width = bytes.readUInt8(1);
      const from = 12 + bytes.readUInt32LE(8);
      const dictionary = JSON.parse(bytes.toString("utf8", 12, from)) as Cell[];
      const codes = new Uint32Array(length);
      for (let row = 0; row < length; row++) codes[row] = bytes.readUIntLE(from + row * width, width);
      return { kind: "codes", codes, dictionary };
    }
    default:
      throw new CorbixError("BROKEN_PACKAGE", say().table.cannotReadKeptRowsThey());
  }
}

/** Pieces of a column joined, in order. Dictionaries are made one; a column whose pieces differ in kind becomes codes. */
export function joinColumn(pieces: readonly ColumnData[]): ColumnData {
  if (pieces.length === 1) return pieces[0];
  const filled = pieces.filter((piece) => piece.kind === "numbers" || piece.dictionary.length > 1);
  const isNumeric = filled.length > 0 && filled.every((piece) => piece.kind === "numbers");
  const lengths = pieces.map((piece) => (piece.kind === "numbers" ? piece.numbers.length : piece.codes.length));
  const total = lengths.reduce((sum, length) => sum + length, 0);
  let at = 0;
  if (isNumeric) {
    const numbers = new Float64Array(total).fill(Number.NaN);
    pieces.forEach((piece, index) => {
      if (piece.kind === "numbers") numbers.set(piece.numbers, at);
      at += lengths[index];
    });
    return { kind: "numbers", numbers };
  }
  const codes = new Uint32Array(total);
  const dictionary: Cell[] = [null];
  const known = new Map<Cell, number>([[null, 0]]);
  const codeOf = (value: Cell): number => {
    let code = known.get(value);
    if (code === undefined) {
      code = dictionary.length;
      dictionary.push(value);
      known.set(value, code);
    }
    return code;
  };
  pieces.forEach((piece, index) => {
    const own = piece.kind === "codes" ? Uint32Array.from(piece.dictionary, codeOf) : undefined;
    for (let row = 0; row < lengths[index]; row++)
      codes[at + row] = own && piece.kind === "codes" ? own[piece.codes[row]] : codeOf(cellAt(piece, row));
    at += lengths[index];
  });
  return { kind: "codes", codes, dictionary };
}
