/** The steps of runs in the records: handed out with a token, compared by each write. */
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import type { RunState } from "./database/row-types.js";

/** A step as it was handed out. */
export interface HandedStep {
  readonly run: string;
  /** `plan`, `make 17` (from parcel 17 on), `prove`. */
  readonly name: string;
  /** Raised each time the step is handed out. */
  readonly token: number;
  /** Parcels of a `make`. */
  readonly ids: readonly string[];
  /** Of what set the run going. */
  readonly trace: string | null;
}

/** Thrown where a step was handed to another process meanwhile. Whoever catches it does nothing more for the step. */
export class StepLost extends Error {
  override readonly name = "StepLost";

  constructor(readonly step: HandedStep) {
    super(`the step ${step.name} of run ${step.run} was handed to another process, after token ${step.token}`);
  }
}

/** Takes a step that is open and that no living process has. */
export async function takeStep(
  database: Database,
  run: string,
  name: string,
  process: string,
): Promise<HandedStep | undefined> {
  return (await takeSteps(database, [run], name, process))[0];
}

/** The same for steps of several runs that have one name: those that could be taken. */
export async function takeSteps(
  database: Database,
  runs: readonly string[],
  name: string,
  process: string,
): Promise<HandedStep[]> {
  const taken = await database.select<{
    run: string;
    token: number;
    ids: readonly string[] | null;
    trace: string | null;
  }>(
    `UPDATE run_steps SET token = token + 1, worker = $3, handed_at = now()
     WHERE run_id = ANY($1) AND name = $2 AND done_at IS NULL
       AND (worker IS NULL OR NOT EXISTS (SELECT 1 FROM workers WHERE id = run_steps.worker AND ended_at IS NULL))
     RETURNING run_id AS run, token, ids, (SELECT trace FROM runs WHERE runs.id = run_id) AS trace`,
    [runs, name, process],
  );
  return taken.map(({ ids, ...step }) => ({ ...step, name, ids: ids ?? [] }));
}

/** Holds a step for a transaction; throws `StepLost` where it is another's by now. Before anything else is written. */
export async function holdStep(database: Database, step: HandedStep, transaction: Transaction): Promise<void> {
  const held = await database.select(
    "SELECT 1 FROM run_steps WHERE run_id = $1 AND name = $2 AND token = $3 AND done_at IS NULL FOR UPDATE",
    [step.run, step.name, step.token],
    transaction,
  );
  if (held.length === 0) throw new StepLost(step);
}

/** Holds steps of runs that are in a state for a transaction, both of them; gives the runs whose step is still this process's own. */
export async function holdSteps(
  database: Database,
  steps: readonly HandedStep[],
  state: RunState,
  transaction: Transaction,
): Promise<Set<string>> {
  const held = await database.select<{ run: string }>(
    `SELECT run_id AS run FROM run_steps JOIN runs ON runs.id = run_id JOIN json_to_recordset($1) AS told (run text, name text, token int) ON told.run = run_id AND told.name = run_steps.name
     WHERE run_steps.token = told.token AND done_at IS NULL AND state = $2 ORDER BY run_id FOR UPDATE OF run_steps, runs`,
    [JSON.stringify(steps), state],
    transaction,
  );
  return new Set(held.map(({ run }) => run));
}

/** Marks a held step as done. */
export async function endStep(database: Database, step: HandedStep, transaction: Transaction): Promise<void> {
  await endSteps(database, [step.run], [step.name], transaction);
}

/** The same for steps of several runs. */
export async function endSteps(
  database: Database,
  runs: readonly string[],
  names: readonly string[],
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "UPDATE run_steps SET done_at = now(), worker = NULL WHERE run_id = ANY($1) AND name = ANY($2)",
    [runs, names],
    transaction,
  );
}

/** Gives a step back undone, and counts that as a failure if it was one; tells how often it has failed. */
export async function giveBackStep(database: Database, step: HandedStep, hasFailed: boolean): Promise<number> {
  const [given] = await database.select<{ failures: number }>(
    `UPDATE run_steps SET worker = NULL, queued_at = now(), failures = failures + $4
     WHERE run_id = $1 AND name = $2 AND token = $3 AND done_at IS NULL RETURNING failures`,
    [step.run, step.name, step.token, hasFailed ? 1 : 0],
  );
  return given?.failures ?? 0;
}

/** Adds steps to runs, to each the same; one that is there already stays as it is. */
export async function addSteps(
  database: Database,
  runs: readonly string[],
  steps: readonly { readonly name: string; readonly ids?: readonly string[] }[],
  transaction: Transaction,
): Promise<void> {
  if (steps.length === 0) return;
  await database.execute(
    `INSERT INTO run_steps (run_id, name, ids) SELECT run, name, ids FROM unnest($1::text[]) AS run, json_to_recordset($2) AS one (name text, ids json)
     ON CONFLICT DO NOTHING`,
    [runs, JSON.stringify(steps)],
    transaction,
  );
}

/**
 * Steps that nobody is working on: their process was declared dead, or they have been waiting for longer than a queue takes. They
 * count as queued anew.
 */
export async function idleSteps(
  database: Database,
  waitSeconds: number,
): Promise<{ readonly run: string; readonly name: string }[]> {
  return database.select<{ run: string; name: string }>(
    `UPDATE run_steps SET queued_at = now(), worker = NULL
     WHERE done_at IS NULL AND run_id IN (SELECT id FROM runs WHERE state IN ('planning', 'making', 'proving'))
       AND (worker IS NULL AND (queued_at < now() - $1 * interval '1 second' OR queued_at > now() + interval '1 minute')
         OR EXISTS (SELECT 1 FROM workers WHERE id = run_steps.worker AND ended_at IS NOT NULL))
     RETURNING run_id AS run, name`,
    [waitSeconds],
  );
}

/** Whether a run has steps that are not done. */
export async function hasOpenSteps(database: Database, run: string, transaction: Transaction): Promise<boolean> {
  const left = await database.select(
    "SELECT 1 FROM run_steps WHERE run_id = $1 AND done_at IS NULL LIMIT 1",
    [run],
    transaction,
  );
  return left.length > 0;
}
