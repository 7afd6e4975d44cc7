/** Everything that is kept sealed, and the key that it is sealed with. A test holds the list against the whole database. */
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";

/** A column of sealed texts, with its table's key; `path` leads to it within a JSON column. */
interface SealedColumn {
  readonly table: string;
  readonly key: string;
  readonly column: string;
  readonly path?: string;
}

export const SEALED: readonly SealedColumn[] = [
  { table: "identities", key: "name", column: "secret" },
  { table: "datasets", key: "id", column: "settings", path: "password" },
  { table: "watchers", key: "name", column: "secret" },
  { table: "senders", key: "id", column: "secret" },
  { table: "sign_in_provider", key: "id", column: "secret" },
  { table: "users", key: "id", column: "totp" },
  { table: "users", key: "id", column: "totp_wanted" },
  { table: "former_keys", key: "mark", column: "sealed" },
];

const valueOf = ({ column, path }: SealedColumn): string => (path === undefined ? column : `${column}->>'${path}'`);

/** The mark of the key that secrets are sealed with; null where none was noted yet. */
export async function knownKeyMark(database: Pick<Database, "select">): Promise<string | null> {
  const [row] = await database.select<{ mark: string | null }>("SELECT key_mark AS mark FROM installation");
  return row?.mark ?? null;
}

export async function noteKeyMark(database: Database, mark: string, transaction?: Transaction): Promise<void> {
  await database.execute("UPDATE installation SET key_mark = $1", [mark], transaction);
}

/** Sealed texts of former keys' signing, so that addresses that were sent go on. */
export async function formerKeys(database: Database): Promise<string[]> {
  const rows = await database.select<{ sealed: string }>("SELECT sealed FROM former_keys ORDER BY since");
  return rows.map(({ sealed }) => sealed);
}

export async function addFormerKey(
  database: Database,
  mark: string,
  sealed: string,
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "INSERT INTO former_keys (mark, sealed) VALUES ($1, $2) ON CONFLICT (mark) DO UPDATE SET sealed = excluded.sealed",
    [mark, sealed],
    transaction,
  );
}

export async function forgetFormerKeys(database: Database, transaction: Transaction): Promise<void> {
  await database.execute("DELETE FROM former_keys", [], transaction);
}

/** Everything that is sealed, as it stands. */
export async function allSealed(database: Pick<Database, "select">): Promise<{ place: string; sealed: string }[]> {
  const found: { place: string; sealed: string }[] = [];
  for (const one of SEALED) {
    const rows = await database.select<{ sealed: string }>(
      `SELECT ${valueOf(one)} AS sealed FROM ${one.table} WHERE ${valueOf(one)} IS NOT NULL`,
    );
    for (const { sealed } of rows) found.push({ place: `${one.table}.${one.path ?? one.column}`, sealed });
  }
  return found;
}

/** Seals everything anew; gives how many there were. */
export async function sealAnew(
  database: Database,
  anew: (sealed: string) => string,
  transaction: Transaction,
): Promise<number> {
  let count = 0;
  for (const one of SEALED) {
    const rows = await database.select<{ key: string; sealed: string }>(
      `SELECT ${one.key}::text AS key, ${valueOf(one)} AS sealed FROM ${one.table} WHERE ${valueOf(one)} IS NOT NULL FOR UPDATE`,
      [],
      transaction,
    );
    const next =
      one.path === undefined ? "$2" : `jsonb_set(${one.column}::jsonb, '{${one.path}}', to_jsonb($2::text))::json`;
    for (const { key, sealed } of rows)
      await database.execute(
        `UPDATE ${one.table} SET ${one.column} = ${next} WHERE ${one.key}::text = $1`,
        [key, anew(sealed)],
        transaction,
      );
    count += rows.length;
  }
  return count;
}

/** After the database was set back, nothing new gets a number that something lost has had: addresses that were sent name such numbers. */
export async function leapNumbers(database: Pick<Database, "select">, transaction?: Transaction): Promise<void> {
  await database.select(
    "SELECT setval(format('%I.%I', schemaname, sequencename)::regclass, coalesce(last_value, 0) + 100000) FROM pg_sequences WHERE schemaname = 'public'",
    [],
    transaction,
  );
}

/** Takes out everything that is sealed, where its key is lost; gives how many there were. */
export async function forgetSealed(database: Database, transaction: Transaction): Promise<number> {
  let count = 0;
  for (const one of SEALED.filter(({ table }) => table !== "former_keys")) {
    const none = one.path === undefined ? "NULL" : `(${one.column}::jsonb - '${one.path}')::json`;
    count += await database.execute(
      `UPDATE ${one.table} SET ${one.column} = ${none} WHERE ${valueOf(one)} IS NOT NULL`,
      [],
      transaction,
    );
  }
  return count;
}
