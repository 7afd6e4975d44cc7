import {
  type Cell,
  type ColumnData,
  type ColumnInfo,
  cellsOf,
  columnData,
  columnInfo,
  joinColumn,
  packColumn,
  type Table,
  unpackColumn,
} from "../table/index.js";

/** Rows a piece of a column holds: few enough that a period reads little, enough to be packed well. */
export const PIECE_ROWS = 16_384;

/** The column of row numbers among the pieces. */
export const ROW_NUMBERS = -1;

/** What is known of a piece without reading it. */
export interface PieceFacts {
  readonly min: Cell;
  readonly max: Cell;
  readonly distinct: number;
  readonly blanks: number;
}

/** One piece of one column of an edition. */
export interface EditionPiece {
  /** Index of the column; -1 for the row numbers. */
  readonly column: number;
  readonly number: number;
  readonly firstRow: number;
  readonly rowCount: number;
  readonly facts: PieceFacts;
  readonly data: Uint8Array;
}

export function packTable(table: Table): EditionPiece[] {
  const pieces: EditionPiece[] = [];
  for (let first = 0, number = 0; first < table.rowCount; first += PIECE_ROWS, number++) {
    const to = Math.min(first + PIECE_ROWS, table.rowCount);
    const add = (column: number, values: readonly Cell[]): void => {
      const data = columnData(values, first, to);
      pieces.push({
        column,
        number,
        firstRow: first,
        rowCount: to - first,
        facts: factsOf(data),
        data: packColumn(data),
      });
    };
    add(ROW_NUMBERS, table.rowNumbers);
    table.columns.forEach((column, at) => {
      add(at, column.values);
    });
  }
  return pieces;
}

/** A piece of a column with other texts in place of some; nothing where none is another. */
export function withTexts(
  packed: Uint8Array,
  change: (text: string) => string,
): Pick<EditionPiece, "data" | "facts"> | undefined {
  const data = unpackColumn(packed);
  if (data.kind !== "codes") return undefined;
  const others = new Map(
    data.dictionary.flatMap((entry): [string, string][] => {
      const other = typeof entry === "string" ? change(entry) : entry;
      return typeof entry === "string" && typeof other === "string" && other !== entry ? [[entry, other]] : [];
    }),
  );
  if (others.size === 0) return undefined;
  const changed = columnData(
    cellsOf(data).map((cell) => (typeof cell === "string" ? (others.get(cell) ?? cell) : cell)),
  );
  return { data: packColumn(changed), facts: factsOf(changed) };
}

/** Rows of a piece of a column, counted from its first, in whose text something stands. */
export function rowsWithText(packed: Uint8Array, isWanted: (text: string) => boolean): readonly number[] {
  const data = unpackColumn(packed);
  if (data.kind !== "codes") return [];
  const wanted = data.dictionary.map((entry) => typeof entry === "string" && isWanted(entry));
  if (!wanted.includes(true)) return [];
  return Array.from(data.codes).flatMap((code, at) => (wanted[code] ? [at] : []));
}

function factsOf(data: ColumnData): PieceFacts {
  let [min, max]: [Cell, Cell] = [null, null];
  const see = (value: Cell): void => {
    if (value === null) return;
    if (min === null || value < min) min = value;
    if (max === null || value > max) max = value;
  };
  let blanks = 0;
  if (data.kind === "codes") {
    for (const code of data.codes) if (code === 0) blanks++;
    // Long texts say enough with their beginning.
    for (const entry of data.dictionary) see(typeof entry === "string" ? entry.slice(0, 100) : entry);
    return { min, max, distinct: data.dictionary.length - 1, blanks };
  }
  const distinct = new Set<number>();
  for (const number of data.numbers) {
    if (Number.isNaN(number)) blanks++;
    else {
      see(number);
      distinct.add(number);
    }
  }
  return { min, max, distinct: distinct.size, blanks };
}

/** A table as packed pieces, to be handed on without being unpacked. */
export interface PackedTable {
  readonly columns: readonly ColumnInfo[];
  readonly rowCount: number;
  readonly pieces: readonly Pick<EditionPiece, "column" | "number" | "data">[];
}

/** The columns of a packed table as data, with the row numbers. */
export function unpackColumns(packed: PackedTable): {
  readonly columns: readonly (ColumnInfo & { readonly data: ColumnData })[];
  readonly rowNumbers: Uint32Array;
} {
  const read = (column: number): ColumnData => {
    const own = packed.pieces.filter((piece) => piece.column === column).sort((a, b) => a.number - b.number);
    return own.length === 0 ? columnData([]) : joinColumn(own.map((piece) => unpackColumn(piece.data)));
  };
  const numbers = read(ROW_NUMBERS);
  return {
    columns: packed.columns.map((column, at) => ({ ...columnInfo(column), data: read(at) })),
    rowNumbers: numbers.kind === "numbers" ? Uint32Array.from(numbers.numbers) : new Uint32Array(0),
  };
}

export function unpackTable(packed: PackedTable): Table {
  const { columns, rowNumbers } = unpackColumns(packed);
  return {
    columns: columns.map(({ data, ...info }) => ({ ...info, values: cellsOf(data) })),
    rowCount: rowNumbers.length,
    rowNumbers: Array.from(rowNumbers),
  };
}
