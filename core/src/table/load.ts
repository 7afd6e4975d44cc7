import { CorbixError, type Finding } from "../common/index.js";
import { type FoundTable, findTable } from "./find-table.js";
import type { RawSheet } from "./raw-rows.js";
import { readCsv } from "./read-csv.js";
import { readWorkbookSheet } from "./read-workbook.js";
import type { Table } from "./table.js";
import { typeColumn } from "./type-columns.js";

/** A table as it was found in a file, with everything that was decided on the way. */
export interface LoadedTable {
  readonly table: Table;
  /** How the bytes were read: kind, sheet or encoding and delimiter. */
  readonly reading: Readonly<Record<string, string>>;
  readonly headerRow: number;
  /** Rows of the sheet that hold anything, from the header's next on: rows of the table and those left out below it. */
  readonly leftOut: FoundTable["leftOut"];
  readonly findings: readonly Finding[];
}

export interface LoadOptions {
  /** Name of the sheet; without it the first visible one with cells. */
  readonly sheet?: string;
}

/** Reads a master table from a workbook or text file, told by content. Throws `NOT_A_WORKBOOK`, `BAD_TABLE_FILE` or `NO_TABLE`. */
export function loadTable(bytes: Uint8Array, where: string, options: LoadOptions = {}): LoadedTable {
  const raw = readRaw(bytes, where, options);
  if (raw.rows.length === 0)
    throw new CorbixError("NO_TABLE", "Cannot find a table: there are no rows.", { where: raw.where });
  const found = findTable(raw);
  const findings: Finding[] = [...found.findings];
  const columns = found.columns.map(({ index, name }) => typeColumn(name, index, found.rows, raw.where, findings));
  const hidden = found.rows.filter((row) => row.hidden).length;
  if (hidden > 0) {
    findings.push({
      code: "hidden-rows",
      severity: "note",
      where: raw.where,
      what: `${hidden} rows are hidden or filtered away in the file; they are loaded all the same.`,
      advice: "If they should not count, remove them in the source.",
      count: hidden,
    });
  }
  return {
    table: { columns, rowCount: found.rows.length, rowNumbers: found.rows.map((row) => row.number) },
    reading: raw.reading,
    headerRow: found.headerRow,
    leftOut: found.leftOut,
    findings,
  };
}

function readRaw(bytes: Uint8Array, where: string, options: LoadOptions): RawSheet {
  if (bytes.length === 0)
    throw new CorbixError("BAD_TABLE_FILE", "Cannot read the file: it is empty.", {
      where,
      advice: "Export it again.",
    });
  const isPackage = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const isOld = bytes[0] === 0xd0 && bytes[1] === 0xcf;
  return isPackage || isOld ? readWorkbookSheet(bytes, where, options.sheet) : readCsv(bytes, where);
}
