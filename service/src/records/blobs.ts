/** Stored bytes in the records. Whoever needs them refers to them by a foreign key, so the database itself knows who does. */

import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Database } from "./database/database.js";

/** While somebody holds it shared, no stored bytes are taken away. */
export const KEEP_BYTES_LOCK = 8_320_023;
/** Bytes that nothing refers to yet are kept so long, for whoever is about to. */
const GRACE_HOURS = 24;
/** Bytes that one look takes away. */
const BATCH = 500;

/** Writes down that bytes are about to be stored. Throws `NO_SPACE` beyond a limit; without bytes it asks whether a mebibyte would fit. */
export async function noteBlobs(
  database: Database,
  all: readonly { readonly sha256: string; readonly size: number }[],
  limit: number | undefined,
): Promise<void> {
  const sizes = new Map(all.map(({ sha256, size }) => [sha256, size]));
  // In their order, so that two who store the same do not wait for each other.
  const digests = [...sizes.keys()].sort();
  if (limit !== undefined) {
    const stored = await database.one<{ bytes: string }>(
      "SELECT coalesce(sum(size), 0) AS bytes FROM blobs WHERE NOT (sha256 = ANY($1))",
      [digests],
    );
    const more = digests.length === 0 ? 2 ** 20 : [...sizes.values()].reduce((sum, size) => sum + size, 0);
    if (Number(stored.bytes) + more > limit)
      throw new CorbixError("NO_SPACE", say().serviceRecords.cannotStoreFileFileStore({ limit }), {
        where: "CORBIX_STORE_LIMIT",
        advice: say().serviceRecords.nothingKeptRaiseLimitLet(),
      });
  }
  if (digests.length === 0) return;
  await database.execute(
    `INSERT INTO blobs (sha256, size) SELECT * FROM unnest($1::text[], $2::bigint[])
     ON CONFLICT (sha256) DO UPDATE SET size = excluded.size, kept_until = greatest(blobs.kept_until, now() + interval '${GRACE_HOURS} hours')`,
    [digests, digests.map((digest) => sizes.get(digest))],
  );
}

/** Whether the records know of any stored bytes: an empty folder is no store of theirs then. */
export async function knowsBlobs(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1 FROM blobs LIMIT 1")).length > 0;
}

/** Columns that refer to stored bytes, as the database's own catalogue has them. */
export async function blobReferences(database: Pick<Database, "select">): Promise<{ table: string; column: string }[]> {
  return database.select<{ table: string; column: string }>(
    `SELECT conrelid::regclass::text AS table, quote_ident(attname) AS column FROM pg_constraint
     JOIN pg_attribute ON attrelid = conrelid AND attnum = conkey[1] WHERE contype = 'f' AND confrelid = to_regclass('public.blobs') ORDER BY 1, 2`,
  );
}

/** Digests that something refers to. */
export async function neededBlobs(database: Database): Promise<Set<string>> {
  const tables = await blobReferences(database);
  const found = await database.select<{ sha256: string }>(
    tables
      .map(({ table, column }) => `SELECT ${column} AS sha256 FROM ${table} WHERE ${column} IS NOT NULL`)
      .join(" UNION "),
  );
  return new Set(found.map((one) => one.sha256));
}

/**
 * Takes away bytes that nothing refers to, once their time is over. The record goes first and the bytes within the same
 * transaction: whoever stores the same bytes meanwhile waits for it, and writes them anew.
 */
export async function sweepBlobs(
  database: Database,
  store: { readonly remove: (digest: string) => Promise<void> },
  now: Date,
): Promise<number> {
  const tables = await blobReferences(database);
  const unused = tables
    .map(({ table, column }) => `NOT EXISTS (SELECT 1 FROM ${table} WHERE ${table}.${column} = blobs.sha256)`)
    .join(" AND ");
  const over = await database.select<{ sha256: string }>(
    `SELECT sha256 FROM blobs WHERE kept_until < $1 AND ${unused} LIMIT ${BATCH}`,
    [now],
  );
  let removed = 0;
  for (const { sha256 } of over)
    await database.transaction(async (transaction) => {
      // A backup that is being taken needs what it has seen.
      const [mayGo] = await database.select<{ yes: boolean }>(
        "SELECT pg_try_advisory_xact_lock($1) AS yes",
        [KEEP_BYTES_LOCK],
        transaction,
      );
      if (!mayGo?.yes) return;
      const gone = await database.execute(
        `DELETE FROM blobs WHERE sha256 = $1 AND kept_until < $2 AND ${unused}`,
        [sha256, now],
        transaction,
      );
      if (gone === 0) return;
      await store.remove(sha256);
      removed++;
    });
  return removed;
}

/** Who needs stored bytes, in words. */
export async function blobUses(database: Database, digest: string): Promise<string[]> {
  const found = await database.select<{ use: string }>(
    `SELECT 'edition ' || editions.number || ' of ' || datasets.name || ' (' || origin || ')' AS use FROM editions JOIN datasets ON datasets.id = editions.dataset_id WHERE stored = $1
     UNION ALL SELECT 'template ' || name || ', version ' || number FROM template_versions WHERE sha256 = $1
     UNION ALL SELECT 'file "' || path || '" of run ' || run_id FROM files WHERE stored = $1
     UNION ALL SELECT 'section of file "' || path || '" of run ' || run_id FROM file_sections JOIN files ON files.id = file_id WHERE file_sections.sha256 = $1
     UNION ALL SELECT 'attachment for ' || label || ' of run ' || run_id FROM parcel_blobs JOIN parcels ON parcels.id = parcel_id WHERE sha256 = $1
     UNION ALL SELECT 'zip file of message ' || id FROM messages WHERE packed = $1
     UNION ALL SELECT 'recipient list "' || origin || '"' FROM recipient_lists WHERE stored = $1
     UNION ALL SELECT 'upload "' || file || '"' FROM uploads WHERE sha256 = $1 LIMIT 20`,
    [digest],
  );
  return found.map((one) => one.use);
}
