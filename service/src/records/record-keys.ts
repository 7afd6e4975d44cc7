/** Records that came in by themselves, each once by its key, with the run that was made of it. */
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";

/** What is known of a record that was taken. */
export interface RecordKey {
  readonly key: string;
  /** What came, so that another record under a known key is told from the same one again. */
  readonly digest: string;
  readonly edition: number | null;
  readonly run: string | null;
}

export interface NewRecordKey extends Pick<RecordKey, "key" | "digest"> {
  readonly callback: string | null;
  readonly sender: number | null;
}

/** Takes keys, no two of them the same; gives what is known of those that were taken before. */
export async function takeRecordKeys(
  database: Database,
  { report, process }: { readonly report: string; readonly process: string },
  keys: readonly NewRecordKey[],
  transaction: Transaction,
): Promise<ReadonlyMap<string, RecordKey>> {
  // In their order, so that two who take the same ones do not wait for each other.
  const taken = await database.select<{ key: string }>(
    `INSERT INTO record_keys (report, key, digest, process, callback, sender)
     SELECT $1, key, digest, $2, callback, sender FROM json_to_recordset($3) AS one (key text, digest text, callback text, sender int) ORDER BY key
     ON CONFLICT (report, key) DO UPDATE SET process = excluded.process, callback = excluded.callback, sender = excluded.sender, at = now()
       WHERE record_keys.run_id IS NULL RETURNING key`,
    [report, process, JSON.stringify(keys)],
    transaction,
  );
  const own = new Set(taken.map(({ key }) => key));
  const others = keys.filter(({ key }) => !own.has(key)).map(({ key }) => key);
  if (others.length === 0) return new Map();
  const known = await database.select<RecordKey>(
    "SELECT key, digest, edition, run_id AS run FROM record_keys WHERE report = $1 AND key = ANY($2)",
    [report, others],
    transaction,
  );
  return new Map(known.map((one) => [one.key, one]));
}

/** Keeps what came of keys that were taken. */
export async function keepRecordRuns(
  database: Database,
  report: string,
  runs: readonly { readonly key: string; readonly edition: number; readonly run: string }[],
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    `UPDATE record_keys SET edition = told.edition, run_id = told.run FROM json_to_recordset($2) AS told (key text, edition int, run text)
     WHERE record_keys.report = $1 AND record_keys.key = told.key`,
    [report, JSON.stringify(runs)],
    transaction,
  );
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
       WHERE callback IS NOT NULL AND told_at IS NULL AND (try_at IS NULL OR try_at <= now()) AND tries < 12 AND runs.state IN ('done', 'stopped', 'failed') AND NOT EXISTS (SELECT 1 FROM halts WHERE ended_at IS NULL)
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
