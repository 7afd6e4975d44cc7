/** What operators look at: processes, what waits since when, what was slow, how much room it takes. */
import type { Database } from "./database/database.js";

export interface ProcessRow {
  readonly id: string;
  readonly kind: string | null;
  readonly host: string | null;
  readonly pid: number | null;
  readonly version: string | null;
  /** Bytes. */
  readonly memory: number | null;
  readonly startedAt: Date;
  readonly seenAt: Date;
  readonly endedAt: Date | null;
}

/** Processes that live, and those that ended within the last day. */
export function recentProcesses(database: Database): Promise<ProcessRow[]> {
  return database.select<ProcessRow>(
    `SELECT id, kind, host, pid, version, memory::float8 AS memory, started_at AS "startedAt", seen_at AS "seenAt", ended_at AS "endedAt" FROM workers
     WHERE ended_at IS NULL OR ended_at > now() - interval '1 day' ORDER BY ended_at DESC NULLS FIRST, started_at DESC LIMIT 50`,
  );
}

/** How many processes of a kind have shown themselves within so many seconds. */
export async function livingOfKind(database: Database, seconds: number): Promise<{ worker: number; outbox: number }> {
  return database.one(
    `SELECT (count(*) FILTER (WHERE kind = 'worker'))::int AS worker, (count(*) FILTER (WHERE kind = 'outbox'))::int AS outbox
     FROM workers WHERE ended_at IS NULL AND seen_at > now() - $1 * interval '1 second'`,
    [seconds],
  );
}

/** Something that waits: how many, and since when the longest has. */
export interface QueueRow {
  readonly queue: "plan" | "make" | "prove" | "messages" | "notices" | "callbacks";
  readonly waiting: number;
  /** Seconds that the longest has waited for; 0 where nothing waits. */
  readonly oldest: number;
}

export function queues(database: Database): Promise<QueueRow[]> {
  const waiting = (queue: string, from: string, since: string): string =>
    `SELECT '${queue}' AS queue, count(*)::int AS waiting, coalesce(extract(epoch FROM now() - min(${since})), 0)::float8 AS oldest FROM ${from}`;
  const steps = (kind: string): string =>
    waiting(
      kind,
      `run_steps JOIN runs ON runs.id = run_id WHERE done_at IS NULL AND run_steps.name LIKE '${kind}%' AND runs.state IN ('planning', 'making', 'proving')`,
      "run_steps.queued_at",
    );
  return database.select<QueueRow>(
    [
      ...["plan", "make", "prove"].map(steps),
      waiting(
        "messages",
        "messages WHERE state = 'queued' AND released_at IS NOT NULL AND (not_before IS NULL OR not_before <= now())",
        "coalesce(not_before, released_at)",
      ),
      waiting("notices", "tellings WHERE told_at IS NULL AND due_at <= now()", "due_at"),
      waiting(
        "callbacks",
        "record_keys JOIN runs ON runs.id = run_id WHERE callback IS NOT NULL AND told_at IS NULL AND tries < 12 AND runs.state IN ('done', 'stopped', 'failed')",
        "record_keys.at",
      ),
    ].join(" UNION ALL "),
  );
}

/** Steps of runs that took longest within the last week. */
export interface SlowStep {
  readonly run: string;
  readonly report: string;
  readonly step: string;
  readonly seconds: number;
  readonly at: Date;
}

export function slowSteps(database: Database, most: number): Promise<SlowStep[]> {
  return database.select<SlowStep>(
    `SELECT run_id AS run, report, name AS step, extract(epoch FROM done_at - handed_at)::float8 AS seconds, done_at AS at
     FROM run_steps JOIN runs ON runs.id = run_id WHERE done_at > now() - interval '7 days' AND handed_at IS NOT NULL
     ORDER BY done_at - handed_at DESC LIMIT $1`,
    [most],
  );
}

export interface RoomFacts {
  readonly database: number;
  readonly files: number;
  readonly fileBytes: number;
  /** The tables that take most. */
  readonly tables: readonly { readonly name: string; readonly bytes: number; readonly rows: number }[];
  readonly server: string;
  readonly migration: string;
  readonly connections: number;
  readonly mostConnections: number;
}

export async function roomFacts(database: Database): Promise<RoomFacts> {
  const facts = await database.one<Omit<RoomFacts, "tables">>(
    `SELECT pg_database_size(current_database())::float8 AS database, (SELECT count(*)::int FROM blobs) AS files, (SELECT coalesce(sum(size), 0)::float8 FROM blobs) AS "fileBytes",
       current_setting('server_version') AS server, (SELECT max(name) FROM migrations) AS migration,
       (SELECT count(*)::int FROM pg_stat_activity WHERE datname = current_database()) AS connections, current_setting('max_connections')::int AS "mostConnections"`,
  );
  const tables = await database.select<{ name: string; bytes: number; rows: number }>(
    `SELECT relname AS name, pg_total_relation_size(relid)::float8 AS bytes, n_live_tup::float8 AS rows FROM pg_stat_user_tables WHERE schemaname = 'public'
     ORDER BY pg_total_relation_size(relid) DESC LIMIT 5`,
  );
  return { ...facts, tables };
}

/** How many runs and messages stand where. */
export async function stateCounts(database: Database): Promise<{
  readonly runs: readonly { readonly state: string; readonly count: number }[];
  readonly messages: readonly { readonly state: string; readonly count: number }[];
  readonly halted: boolean;
}> {
  const [runs, messages, halts] = await Promise.all([
    database.select<{ state: string; count: number }>("SELECT state, count(*)::int AS count FROM runs GROUP BY state"),
    database.select<{ state: string; count: number }>(
      "SELECT state, count(*)::int AS count FROM messages GROUP BY state",
    ),
    database.select("SELECT 1 FROM halts WHERE ended_at IS NULL LIMIT 1"),
  ]);
  return { runs, messages, halted: halts.length > 0 };
}

/** Attempts, steps and runs that ended after a moment, for what is counted as it goes by: each with how long it took. */
export interface EndedSince {
  readonly attempts: readonly { readonly outcome: string; readonly identity: string; readonly seconds: number }[];
  readonly steps: readonly { readonly kind: string; readonly seconds: number }[];
  readonly until: Date;
}

/** So many at most at a time: what is left comes with the next look. */
const MOST_ENDED = 5_000;

export async function endedSince(database: Database, since: Date | undefined): Promise<EndedSince> {
  const { until } = await database.one<{ until: Date }>("SELECT now() - interval '1 second' AS until");
  if (since === undefined) return { attempts: [], steps: [], until };
  const [attempts, steps] = await Promise.all([
    database.select<{ outcome: string; identity: string; seconds: number }>(
      `SELECT outcome, identity, extract(epoch FROM finished_at - started_at)::float8 AS seconds FROM attempts
       WHERE finished_at > $1 AND finished_at <= $2 AND outcome IS NOT NULL LIMIT ${MOST_ENDED}`,
      [since, until],
    ),
    database.select<{ kind: string; seconds: number }>(
      `SELECT split_part(name, ' ', 1) AS kind, extract(epoch FROM done_at - handed_at)::float8 AS seconds FROM run_steps
       WHERE done_at > $1 AND done_at <= $2 AND handed_at IS NOT NULL LIMIT ${MOST_ENDED}`,
      [since, until],
    ),
  ]);
  return { attempts, steps, until };
}
