/** One moment of the database, held still for a backup: what is in it, and which stored bytes it needs. */
import { CorbixError, made, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { Client } from "pg";
import { blobReferences, KEEP_BYTES_LOCK } from "../blobs.js";

export interface Snapshot {
  /** By which another connection sees the same moment. */
  readonly id: string;
  readonly at: Date;
  readonly server: string;
  /** Size of the database on its disk, in bytes. */
  readonly size: number;
  readonly installation: string | null;
  readonly migrations: readonly string[];
  /** Rows of each table. */
  readonly tables: Readonly<Record<string, number>>;
  /** Stored bytes that something refers to. */
  readonly blobs: readonly { readonly sha256: string; readonly size: number }[];
  readonly close: () => Promise<void>;
}

export interface Asking {
  readonly select: <Row extends object>(sql: string, bind?: readonly unknown[]) => Promise<Row[]>;
  readonly close: () => Promise<void>;
}

/** A connection that asks and nothing else, outside of any pool. Throws `DATABASE_UNREACHABLE`. */
export async function openAsking(url: string): Promise<Asking> {
  const client = new Client({ connectionString: url, application_name: "corbix operating" });
  client.on("error", () => {});
  try {
    await client.connect();
  } catch (cause) {
    throw new CorbixError(
      "DATABASE_UNREACHABLE",
      say().serviceRecords.cannotReachDatabase({ wordsOf: wordsOf(cause) }),
      { where: "CORBIX_DATABASE_URL", advice: say().serviceRecords.seePostgresqlRunsNamePassword(), cause },
    );
  }
  return {
    select: async <Row extends object>(sql: string, bind: readonly unknown[] = []) =>
      (await client.query(sql, [...bind])).rows as Row[],
    close: () => client.end(),
  };
}

/** Holds a moment still until it is closed; meanwhile no bytes that it needs are taken away. */
export async function openSnapshot(url: string): Promise<Snapshot> {
  const asking = await openAsking(url);
  const one = async <Row extends object>(sql: string): Promise<Row> =>
    made((await asking.select<Row>(sql))[0], "the row of a query that always has one");
  try {
    await asking.select("SET idle_in_transaction_session_timeout = 0");
    await asking.select("SET statement_timeout = 0");
    await asking.select("SELECT pg_advisory_lock_shared($1)", [KEEP_BYTES_LOCK]);
    await asking.select("BEGIN TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY");
    const { id, at, server, size } = await one<{ id: string; at: Date; server: string; size: string }>(
      "SELECT pg_export_snapshot() AS id, now() AS at, current_setting('server_version') AS server, pg_database_size(current_database()) AS size",
    );
    const migrations = await migrationsOf(asking);
    const installation = migrations.includes("0020-left")
      ? (await one<{ id: string }>("SELECT id::text FROM installation")).id
      : null;
    return {
      id,
      at,
      server,
      size: Number(size),
      installation,
      migrations,
      tables: await countTables(asking),
      blobs: await neededBytes(asking),
      close: () => asking.close(),
    };
  } catch (error) {
    await asking.close();
    throw error;
  }
}

/** Migrations that a database has had; none where it is empty. */
export async function migrationsOf(asking: Pick<Asking, "select">): Promise<string[]> {
  const [known] = await asking.select<{ there: boolean }>(
    "SELECT to_regclass('public.migrations') IS NOT NULL AS there",
  );
  if (!known?.there) return [];
  return (await asking.select<{ name: string }>("SELECT name FROM migrations ORDER BY name")).map(({ name }) => name);
}

/** Rows of each table of the records, by its name. */
export async function countTables(asking: Pick<Asking, "select">): Promise<Record<string, number>> {
  const names = await asking.select<{ name: string }>(
    "SELECT quote_ident(tablename) AS name FROM pg_tables WHERE schemaname = 'public' ORDER BY 1",
  );
  const counts: Record<string, number> = {};
  for (const { name } of names) {
    const [row] = await asking.select<{ count: string }>(`SELECT count(*) AS count FROM public.${name}`);
    counts[name] = Number(row?.count);
  }
  return counts;
}

async function neededBytes(asking: Asking): Promise<{ sha256: string; size: number }[]> {
  const references = await blobReferences(asking);
  if (references.length === 0) return [];
  const needed = references.map(({ table, column }) => `SELECT ${column} FROM ${table} WHERE ${column} IS NOT NULL`);
  const rows = await asking.select<{ sha256: string; size: string }>(
    `SELECT sha256, size FROM blobs WHERE sha256 IN (${needed.join(" UNION ")}) ORDER BY sha256`,
  );
  return rows.map(({ sha256, size }) => ({ sha256, size: Number(size) }));
}

/** Version of the server, such as `15.8 (Debian 15.8-1)`, and the size of the database on its disk in bytes. */
export async function serverFacts(asking: Pick<Asking, "select">): Promise<{ version: string; size: number }> {
  const [row] = await asking.select<{ version: string; size: string }>(
    "SELECT current_setting('server_version') AS version, pg_database_size(current_database()) AS size",
  );
  return { version: row?.version ?? "", size: Number(row?.size ?? 0) };
}

/** Processes of a service that have shown lately that they live. */
export async function livingProcesses(asking: Pick<Asking, "select">): Promise<number> {
  const [row] = await asking.select<{ count: string }>(
    "SELECT count(*) AS count FROM workers WHERE ended_at IS NULL AND seen_at > now() - interval '15 seconds'",
  );
  return Number(row?.count ?? 0);
}

/** Empties a database that was being restored. */
export async function dropEverything(asking: Pick<Asking, "select">): Promise<void> {
  for (const schema of ["queue", "public"]) await asking.select(`DROP SCHEMA IF EXISTS ${schema} CASCADE`);
  await asking.select("CREATE SCHEMA public");
}

/** How the server is set, as far as it matters here. */
export async function serverSettings(
  asking: Pick<Asking, "select">,
): Promise<{ encoding: string; connections: number; fsync: boolean }> {
  const [row] = await asking.select<{ encoding: string; connections: number; fsync: boolean }>(
    "SELECT current_setting('server_encoding') AS encoding, current_setting('max_connections')::int AS connections, current_setting('fsync')::boolean AS fsync",
  );
  return row ?? { encoding: "", connections: 0, fsync: true };
}
