import { createHash } from "node:crypto";
import { columnKey } from "../common/index.js";
import type { Table } from "../table/index.js";

/** A digest of what a row has in the named columns; what a preparation adds, such as the day of the run, does not count. */
export function rowContentReader(table: Table, names: readonly string[]): (row: number) => string {
  const columns = names.flatMap((name) => table.columns.filter((column) => columnKey(column.name) === name));
  return (row) => {
    const values = columns.map((column) => [columnKey(column.name), column.values[row] ?? null]);
    return createHash("sha256").update(JSON.stringify(values)).digest("base64url");
  };
}
