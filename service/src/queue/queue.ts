import PgBoss from "pg-boss";
import type { Database } from "../records/index.js";

/** Kinds of background work, the most urgent first; a worker takes so many at once. Runs of single records are small, and gone through together. */
const AT_ONCE = { prove: 1, record: 8, plan: 1, make: 1 } as const;
export type QueueName = keyof typeof AT_ONCE;
const QUEUES = Object.keys(AT_ONCE) as QueueName[];

/** A step of a run that somebody should take; the records know whether it is still open and whose it is. */
export interface Job {
  readonly run: string;
  readonly step: string;
}

export interface FoundJob {
  readonly name: QueueName;
  readonly id: string;
  readonly job: Job;
}

export interface Queue {
  readonly send: (name: QueueName, ...jobs: readonly Job[]) => Promise<void>;
  /** The next jobs, all of one kind, the most urgent first; empty where there are none. */
  readonly next: () => Promise<readonly FoundJob[]>;
  readonly complete: (jobs: readonly FoundJob[]) => Promise<void>;
  readonly fail: (name: QueueName, id: string, error: unknown) => Promise<void>;
  readonly close: () => Promise<void>;
}

/** A job is tried again so often, with growing pauses; a step that was lost with its job is queued anew. */
const RETRIES = 5;
/** A job whose worker is silent for so long is given to another. Every job can run twice without doing anything twice. */
const EXPIRE_SECONDS = 300;

/** The queue on PostgreSQL, its statements run through the service's own pool. `supervise` is for one process only. */
export async function openQueue(database: Database, options: { readonly supervise: boolean }): Promise<Queue> {
  const boss = new PgBoss({
    db: { executeSql: (sql: string, values: unknown[]) => database.executeRaw(sql, values) },
    schema: "queue",
    supervise: options.supervise,
    schedule: false,
    migrate: options.supervise,
  });
  boss.on("error", () => {});
  await boss.start();
  if (options.supervise) {
    for (const name of QUEUES)
      await boss.createQueue(name, {
        name,
        policy: "standard",
        retryLimit: RETRIES,
        retryDelay: 1,
        retryBackoff: true,
        expireInSeconds: EXPIRE_SECONDS,
      });
  }
  return {
    send: async (name, ...jobs) => {
      if (jobs.length > 0) await boss.insert(jobs.map((data) => ({ name, data })));
    },
    next: async () => {
      for (const name of QUEUES) {
        const found = await boss.fetch<Job>(name, { batchSize: AT_ONCE[name] });
        if (found.length > 0) return found.map(({ id, data }) => ({ name, id, job: data }));
      }
      return [];
    },
    complete: async (jobs) => {
      const [first] = jobs;
      if (first)
        await boss.complete(
          first.name,
          jobs.map(({ id }) => id),
        );
    },
    fail: (name, id, error) => boss.fail(name, id, { message: error instanceof Error ? error.message : String(error) }),
    close: () => boss.stop({ graceful: false, close: false }),
  };
}

/** The kind of a step, and the queue it is in by itself, by its name. */
export function kindOf(step: string): QueueName {
  return QUEUES.find((name) => step === name || step.startsWith(`${name} `)) ?? "plan";
}
