/** Lines beside the groups' own: of a run what they are called and have, of a parcel its own. */
import type { ColumnInfo, Table } from "@corbix/core/table";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { packLines } from "./database/pack.js";

/** Further lines of a run. */
export interface RunLines {
  readonly name: string;
  readonly columns: readonly ColumnInfo[];
  /** Of lines that are everybody's their rows, packed. */
  readonly lines: Buffer | null;
}

export async function addRunLines(
  database: Database,
  run: string,
  { name, table, isShared }: { readonly name: string; readonly table: Table; readonly isShared: boolean },
  transaction: Transaction,
): Promise<void> {
  const columns = table.columns.map(({ name: column, type, unit }) => ({
    name: column,
    type,
    ...(unit === undefined ? {} : { unit }),
  }));
  await database.execute(
    "INSERT INTO run_lines (run_id, name, columns, lines) VALUES ($1, $2, $3, $4)",
    [run, name, JSON.stringify(columns), isShared ? packLines(table) : null],
    transaction,
  );
}

export async function addParcelLines(
  database: Database,
  parcel: string,
  name: string,
  table: Table,
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "INSERT INTO parcel_lines (parcel_id, name, lines) VALUES ($1, $2, $3)",
    [parcel, name, packLines(table)],
    transaction,
  );
}

export async function runLines(database: Database, run: string): Promise<RunLines[]> {
  return database.select<RunLines>("SELECT name, columns, lines FROM run_lines WHERE run_id = $1 ORDER BY name", [run]);
}

/** By name the packed rows of a parcel's further lines. */
export async function linesOfParcel(database: Database, parcel: string): Promise<ReadonlyMap<string, Buffer>> {
  const found = await database.select<{ name: string; lines: Buffer }>(
    "SELECT name, lines FROM parcel_lines WHERE parcel_id = $1",
    [parcel],
  );
  return new Map(found.map((one) => [one.name, one.lines]));
}
