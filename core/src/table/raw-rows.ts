import type { Cell, ColumnType } from "./table.js";

/** A cell before anything is decided about its column: its value and, where the file says so, that it is a date. */
export interface RawCell {
  readonly value: Cell;
  readonly type?: ColumnType;
  /** An error value such as `#N/A`, kept as text in `value`. */
  readonly error?: boolean;
}

/** A sheet or text file as it stands: rows by their number in the origin. */
export interface RawSheet {
  /** `visits.xlsx, sheet Visits` */
  readonly where: string;
  readonly rows: readonly RawRow[];
  /** How the bytes were read: encoding, delimiter, date system. */
  readonly reading: Readonly<Record<string, string>>;
}

export interface RawRow {
  /** 1-based row in the sheet, or record in the text file. */
  readonly number: number;
  readonly cells: readonly (RawCell | undefined)[];
  readonly hidden?: boolean;
}
