/** Records that came in by themselves, each once by its key, with the run that was made of it. */
import type { Database } from "./database/database.js";

export interface RecordKey {
  readonly report: string;
  readonly key: string;
  /** What came, so that another record under a known key is told from the same one again. */
  readonly digest: string;
  readonly process: string;
  readonly edition: number | null;
  readonly run: string | null;
}

/** Takes a key; gives what is known of it where it was taken before. A taker that never came to a run leaves it to others after a minute. */
export async function takeRecordKey(
  database: Database,
  taken: Pick<RecordKey, "report" | "key" | "digest" | "process"> & {
    readonly callback: string | null;
    readonly sender: number | null;
  },
): Promise<RecordKey | undefined> {
  const { report, key, digest, process, callback, sender } = taken;
  const isOwn = await database.execute(
    `INSERT INTO record_keys (report, key, digest, process, callback, sender) VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT (report, key) DO UPDATE SET process = excluded.process, at = now()
       WHERE record_keys.run_id IS NULL AND record_keys.digest = excluded.digest AND record_keys.at < now() - interval '1 minute'`,
    [report, key, digest, process, callback, sender],
  );
  if (isOwn > 0) return undefined;
  return database.one<RecordKey>(
    "SELECT report, key, digest, process, edition, run_id AS run FROM record_keys WHERE report = $1 AND key = $2",
    [report, key],
  );
}

export async function keepRecordRun(
  database: Database,
  { report, key, edition, run }: Pick<RecordKey, "report" | "key"> & { readonly edition: number; readonly run: string },
): Promise<void> {
  await database.execute("UPDATE record_keys SET edition = $3, run_id = $4 WHERE report = $1 AND key = $2", [
    report,
    key,
    edition,
    run,
  ]);
}

/** Gives a key back that nothing came of. */
export async function giveBackRecordKey(database: Database, report: string, key: string): Promise<void> {
  await database.execute("DELETE FROM record_keys WHERE report = $1 AND key = $2 AND run_id IS NULL", [report, key]);
}

/** A run of a record that is over, and the address that wants to know. */
export interface DueCallback {
  readonly report: string;
  readonly key: string;
  readonly run: string;
  readonly callback: string;
  readonly sender: number | null;
  readonly tries: number;
  readonly state: string;
}

/** Those that are due, each taken for a minute so that no other process tells it too. */
export function takeCallbacks(database: Database, most: number): Promise<DueCallback[]> {
  return database.select<DueCallback>(
    `UPDATE record_keys SET try_at = now() + interval '1 minute', tries = record_keys.tries + 1 FROM (
       SELECT record_keys.report, record_keys.key, runs.state FROM record_keys JOIN runs ON runs.id = record_keys.run_id
       WHERE callback IS NOT NULL AND told_at IS NULL AND (try_at IS NULL OR try_at <= now()) AND tries < 12 AND runs.state IN ('done', 'stopped', 'failed')
       ORDER BY record_keys.at LIMIT $1 FOR UPDATE OF record_keys SKIP LOCKED) AS due
     WHERE record_keys.report = due.report AND record_keys.key = due.key
     RETURNING record_keys.report, record_keys.key, run_id AS run, callback, sender, tries, due.state`,
    [most],
  );
}

export async function noteCallback(
  database: Database,
  { report, key }: Pick<DueCallback, "report" | "key">,
  isTold: boolean,
  again: number,
): Promise<void> {
  await database.execute(
    `UPDATE record_keys SET told_at = CASE WHEN $3 THEN now() END, try_at = now() + $4 * interval '1 second' WHERE report = $1 AND key = $2`,
    [report, key, isTold, again],
  );
}
