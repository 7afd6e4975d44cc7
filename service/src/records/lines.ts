/** Lines beside the groups' own: of a run what they are called and have, of a parcel its own. */
import type { ColumnInfo, Table } from "@corbix/core/table";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { packLines } from "./database/pack.js";

/** The name of a group's own lines of a period that is made up for. */
export const OWN_CAUGHT = "";

/** Further lines of a run. */
export interface RunLines {
  /** Blank for the run's own, else the key of one that it makes up for. */
  readonly period: string;
  readonly name: string;
  readonly columns: readonly ColumnInfo[];
  /** Of lines that are everybody's their rows, packed. */
  readonly lines: Buffer | null;
}

export async function addRunLines(
  database: Database,
  run: string,
  {
    period,
    name,
    table,
    isShared,
  }: { readonly period: string; readonly name: string; readonly table: Table; readonly isShared: boolean },
  transaction: Transaction,
): Promise<void> {
  const columns = table.columns.map(({ name: column, type, unit }) => ({
    name: column,
    type,
    ...(unit === undefined ? {} : { unit }),
  }));
  await database.execute(
    "INSERT INTO run_lines (run_id, period, name, columns, lines) VALUES ($1, $2, $3, $4, $5)",
    [run, period, name, JSON.stringify(columns), isShared ? packLines(table) : null],
    transaction,
  );
}

export async function addParcelLines(
  database: Database,
  parcel: string,
  { period, name, table }: { readonly period: string; readonly name: string; readonly table: Table },
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "INSERT INTO parcel_lines (parcel_id, period, name, lines) VALUES ($1, $2, $3, $4)",
    [parcel, period, name, packLines(table)],
    transaction,
  );
}

export async function runLines(database: Database, run: string): Promise<RunLines[]> {
  return database.select<RunLines>(
    "SELECT period, name, columns, lines FROM run_lines WHERE run_id = $1 ORDER BY name",
    [run],
  );
}

/** By name the packed rows of a parcel's further lines of a period. */
export async function linesOfParcel(
  database: Database,
  parcel: string,
  period: string,
): Promise<ReadonlyMap<string, Buffer>> {
  const found = await database.select<{ name: string; lines: Buffer }>(
    "SELECT name, lines FROM parcel_lines WHERE parcel_id = $1 AND period = $2",
    [parcel, period],
  );
  return new Map(found.map((one) => [one.name, one.lines]));
}
