/** Processes that work, by their beats, and the database's clock. */
import type { Database } from "./database/database.js";

/** Those that have not ended, with the beat each was at last. */
export function livingWorkers(database: Database): Promise<{ readonly id: string; readonly beat: string }[]> {
  return database.select<{ id: string; beat: string }>("SELECT id, beat::text FROM workers WHERE ended_at IS NULL");
}

/** Declares a process dead, only if it still stands where it was seen: a beat that came meanwhile counts. */
export async function endSilentWorker(database: Database, id: string, beat: string): Promise<boolean> {
  const ended = await database.execute(
    "UPDATE workers SET ended_at = now() WHERE id = $1 AND beat = $2 AND ended_at IS NULL",
    [id, beat],
  );
  return ended > 0;
}

/** Marks the processes that one program has been. */
export async function endWorker(database: Database, worker: string): Promise<void> {
  await database.execute(
    "UPDATE workers SET ended_at = now() WHERE (id = $1 OR started_as = $1) AND ended_at IS NULL",
    [worker],
  );
}

/** Milliseconds since 1970 by the database's clock. */
export async function clockMs(database: Database): Promise<number> {
  const { ms } = await database.one<{ ms: number }>(
    "SELECT (extract(epoch FROM clock_timestamp()) * 1000)::float8 AS ms",
  );
  return ms;
}

/** Tells all processes that listen. */
export async function notify(database: Database, channel: string, payloads: readonly object[]): Promise<void> {
  await database.select("SELECT pg_notify($1, payload) FROM unnest($2::text[]) AS payload", [
    channel,
    payloads.map((payload) => JSON.stringify(payload)),
  ]);
}
