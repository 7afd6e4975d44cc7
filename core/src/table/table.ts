/** What a cell holds: text, a number, a truth value or nothing. Dates and times are serial numbers in a column that says so. */
export type Cell = string | number | boolean | null;

/** `date` holds whole serials, `datetime` serials with a fraction, `time` the fraction alone. */
export type ColumnType = "text" | "number" | "date" | "datetime" | "time" | "boolean";

export interface ColumnInfo {
  /** As in the header, cleaned. */
  readonly name: string;
  readonly type: ColumnType;
  /** Of a number: `%`, or the one currency all its cells show, such as `CHF`. */
  readonly unit?: string;
}

export interface Column extends ColumnInfo {
  readonly values: readonly Cell[];
}

/** Columns of equal length. Row `i` of the table stood in row `rowNumbers[i]` of its origin (1-based). */
export interface Table {
  readonly columns: readonly Column[];
  readonly rowCount: number;
  readonly rowNumbers: readonly number[];
}

/** The chosen rows of a table, in the order given. */
export function takeRows(table: Table, rows: readonly number[] | Uint32Array): Table {
  const take = <T>(values: readonly T[]): T[] => {
    const taken = new Array<T>(rows.length);
    for (let at = 0; at < rows.length; at++) taken[at] = values[rows[at]];
    return taken;
  };
  return {
    columns: table.columns.map((column) => ({ ...column, values: take(column.values) })),
    rowCount: rows.length,
    rowNumbers: take(table.rowNumbers),
  };
}

/** Name, type and unit of a column, without its values. */
export function columnInfo({ name, type, unit }: ColumnInfo): ColumnInfo {
  return { name, type, ...(unit === undefined ? {} : { unit }) };
}
