/**
 * How rows were packed when `0002-intake` went out. It belongs to that migration and never changes with the service: what is read
 * and written otherwise since then is changed over by later migrations.
 */
import { deflateSync, inflateSync } from "node:zlib";

type OldCell = string | number | boolean | null;

const PIECE_ROWS = 16_384;
const ROW_NUMBERS = -1;
const NUMBERS = 1;
const CODES = 3;

export interface OldPiece {
  readonly column: number;
  readonly number: number;
  readonly firstRow: number;
  readonly rowCount: number;
  readonly facts: { readonly min: OldCell; readonly max: OldCell; readonly distinct: number; readonly blanks: number };
  readonly data: Buffer;
}

/** The columns of whole chunks, the row numbers first, cut into pieces of their own. */
export function piecesOf(chunks: readonly Buffer[], columnCount: number): OldPiece[] {
  const read = chunks.map(
    (chunk) =>
      JSON.parse(inflateSync(chunk).toString("utf8")) as { rowNumbers: number[]; columns: (OldCell[] | undefined)[] },
  );
  const rowNumbers = read.flatMap((chunk) => chunk.rowNumbers);
  const columns = Array.from({ length: columnCount }, (_, at) => read.flatMap((chunk) => chunk.columns[at] ?? []));
  const pieces: OldPiece[] = [];
  for (let first = 0, number = 0; first < rowNumbers.length; first += PIECE_ROWS, number++) {
    const to = Math.min(first + PIECE_ROWS, rowNumbers.length);
    for (const [column, values] of [[ROW_NUMBERS, rowNumbers] as const, ...columns.entries()]) {
      const cells = values.slice(first, to);
      pieces.push({ column, number, firstRow: first, rowCount: to - first, ...packed(cells) });
    }
  }
  return pieces;
}

function packed(cells: readonly OldCell[]): Pick<OldPiece, "facts" | "data"> {
  const filled = cells.filter((cell) => cell !== null);
  const isNumeric = filled.length > 0 && filled.every((cell) => typeof cell === "number");
  const facts = { ...spanOf(filled), distinct: new Set(filled).size, blanks: cells.length - filled.length };
  return { facts, data: deflateSync(isNumeric ? numberBytes(cells) : codeBytes(cells), { level: 1 }) };
}

function spanOf(filled: readonly OldCell[]): { min: OldCell; max: OldCell } {
  let [min, max]: [OldCell, OldCell] = [null, null];
  for (const cell of filled) {
    const value = typeof cell === "string" ? cell.slice(0, 100) : cell;
    if (value === null) continue;
    if (min === null || value < min) min = value;
    if (max === null || value > max) max = value;
  }
  return { min, max };
}

function numberBytes(cells: readonly OldCell[]): Buffer {
  const bytes = Buffer.alloc(8 + cells.length * 8);
  bytes.writeUInt8(NUMBERS, 0);
  bytes.writeUInt32LE(cells.length, 4);
  for (const [row, cell] of cells.entries())
    bytes.writeDoubleLE(typeof cell === "number" ? cell : Number.NaN, 8 + row * 8);
  return bytes;
}

function codeBytes(cells: readonly OldCell[]): Buffer {
  const dictionary: OldCell[] = [null];
  const known = new Map<OldCell, number>([[null, 0]]);
  const codes = cells.map((cell) => {
    const code = known.get(cell) ?? dictionary.push(cell) - 1;
    known.set(cell, code);
    return code;
  });
  const words = Buffer.from(JSON.stringify(dictionary), "utf8");
  const bytes = Buffer.alloc(12 + words.length + codes.length * 4);
  bytes.writeUInt8(CODES, 0);
  bytes.writeUInt8(4, 1);
  bytes.writeUInt32LE(codes.length, 4);
  bytes.writeUInt32LE(words.length, 8);
  words.copy(bytes, 12);
  for (const [row, code] of codes.entries()) bytes.writeUInt32LE(code, 12 + words.length + row * 4);
  return bytes;
}
