/** Takes up what processes that are gone have left, and what waits for the store. */
import { fromStates, MESSAGE_MACHINE } from "@corbix/core/delivery";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import type { Liveness } from "../process/lease/liveness.js";
import { forgetCalls, idleSteps, removeOldUploads, sweepBlobs } from "../records/index.js";
import { finishRun } from "./release.js";
import { goOnWaiting } from "./run-moves.js";

const PROCESS_ENDED =
  "the sending process ended between taking this message up and writing down what became of it: it may have gone out or not";

/** A step that a queue has had for so long without anybody taking it is queued again: its job may be lost. */
const LOST_JOB_SECONDS = 20;

/**
 * Looks once at everything: processes that do not show themselves are declared dead; messages they had begun become `unsure`, since
 * nobody can know whether they went out; steps that nobody works on are queued again. Gives the processes declared dead.
 */
export async function sweep(context: Context, liveness?: Liveness): Promise<string[]> {
  const dead = (await liveness?.look()) ?? [];
  await loseMessages(context);
  await goOnWaiting(context);
  for (const step of await idleSteps(context.database, LOST_JOB_SECONDS))
    await context.queue.send({ run: step.run, step: step.name });
  await finishLeftovers(context);
  return dead;
}

/** Messages that a process had begun which is gone. */
async function loseMessages(context: Context): Promise<void> {
  const unsure = await context.database.select<{ run_id: string }>(
    `WITH unsure AS (
       UPDATE messages SET state = 'unsure', response = $1, touched_at = now()
       WHERE state = ANY($2) AND worker IN (SELECT id FROM workers WHERE ended_at IS NOT NULL) RETURNING id, run_id, attempts),
     told AS (UPDATE attempts SET outcome = 'unsure', response = $1 FROM unsure WHERE attempts.message_id = unsure.id AND attempts.number = unsure.attempts AND attempts.finished_at IS NULL)
     SELECT run_id FROM unsure`,
    [PROCESS_ENDED, fromStates(MESSAGE_MACHINE, "lose")],
  );
  for (const run of new Set(unsure.map((message) => message.run_id))) {
    context.log.warn({ run, count: unsure.length }, "messages unsure after a process ended");
    await announce(context.database, { kind: "run", subject: run });
    await finishRun(context, run);
  }
}

/** Runs whose last message was written down by a process that could not say so any more. */
async function finishLeftovers(context: Context): Promise<void> {
  const quiet = await context.database.select<{ id: string }>(
    `SELECT id FROM runs WHERE state = 'delivering' AND NOT EXISTS (SELECT 1 FROM messages WHERE run_id = runs.id AND state IN ('queued', 'sending'))`,
  );
  for (const { id } of quiet) await finishRun(context, id);
}

/** Uploads that were looked at but not loaded are kept so long. */
const UPLOAD_HOURS = 24;
/** What was answered to a key is kept so long. */
const CALL_HOURS = 24;

/** Takes away uploads that never became an edition, and stored bytes that nothing refers to any more. */
export async function sweepStore(context: Context): Promise<void> {
  const { database } = context;
  const old = await removeOldUploads(database, context.now(), UPLOAD_HOURS);
  await forgetCalls(database, context.now(), CALL_HOURS);
  const removed = await sweepBlobs(database, context.store, context.now());
  if (old.length > 0 || removed > 0) context.log.info({ uploads: old.length, removed }, "store swept");
}

/** Marks the processes that one program has been, which is known to have ended, and takes up its work at once. */
export async function workerEnded(context: Context, worker: string): Promise<void> {
  await context.database.execute(
    "UPDATE workers SET ended_at = now() WHERE (id = $1 OR started_as = $1) AND ended_at IS NULL",
    [worker],
  );
  await sweep(context);
}
