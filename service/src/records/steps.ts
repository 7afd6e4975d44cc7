/** The steps of runs in the records: handed out with a token, compared by each write. */
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";

/** A step as it was handed out. */
export interface HandedStep {
  readonly run: string;
  /** `plan`, `make 17` (from parcel 17 on), `prove`. */
  readonly name: string;
  /** Raised each time the step is handed out. */
  readonly token: number;
  /** Parcels of a `make`. */
  readonly ids: readonly string[];
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
  const [taken] = await database.select<{ token: number; ids: readonly string[] | null }>(
    `UPDATE run_steps SET token = token + 1, worker = $3, handed_at = now()
     WHERE run_id = $1 AND name = $2 AND done_at IS NULL
       AND (worker IS NULL OR NOT EXISTS (SELECT 1 FROM workers WHERE id = run_steps.worker AND ended_at IS NULL))
     RETURNING token, ids`,
    [run, name, process],
  );
  return taken && { run, name, token: taken.token, ids: taken.ids ?? [] };
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

/** Marks a held step as done. */
export async function endStep(database: Database, step: HandedStep, transaction: Transaction): Promise<void> {
  await database.execute(
    "UPDATE run_steps SET done_at = now(), worker = NULL WHERE run_id = $1 AND name = $2",
    [step.run, step.name],
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

/** Adds steps to a run; one that is there already stays as it is. */
export async function addSteps(
  database: Database,
  run: string,
  steps: readonly { readonly name: string; readonly ids?: readonly string[] }[],
  transaction: Transaction,
): Promise<void> {
  if (steps.length === 0) return;
  await database.execute(
    `INSERT INTO run_steps (run_id, name, ids) SELECT $1, name, ids FROM json_to_recordset($2) AS one (name text, ids json) ON CONFLICT DO NOTHING`,
    [run, JSON.stringify(steps)],
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
