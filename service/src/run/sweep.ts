/** Takes up what processes that are gone have left, and what waits for the store. */
import { say } from "@corbix/core/words";
import { announce } from "../events/events.js";
import { settleUnheard } from "../journal/reconcile.js";
import type { Context } from "../process/context.js";
import type { Liveness } from "../process/lease/liveness.js";
import { kindOf } from "../queue/queue.js";
import {
  endWorker,
  forgetCalls,
  forgetOldTries,
  idleSteps,
  loseBegun,
  quietRuns,
  removeOldUploads,
  sweepBlobs,
} from "../records/index.js";
import { finishRun } from "./release.js";
import { goOnWaiting } from "./run-moves.js";

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
    await context.queue.send(kindOf(step.name), { run: step.run, step: step.name });
  await finishLeftovers(context);
  return dead;
}

/** Messages that a process had begun which is gone. */
async function loseMessages(context: Context): Promise<void> {
  const unsure = await loseBegun(context.database, say().serviceRun.processEnded());
  if (unsure.length === 0) return;
  const heard = new Set(await settleUnheard(context));
  for (const run of new Set([...unsure, ...heard])) {
    context.log.warn({ run, count: unsure.length }, "messages unsure after a process ended");
    await announce(context.database, { kind: "run", subject: run });
    await finishRun(context, run);
  }
}

/** Runs whose last message was written down by a process that could not say so any more. */
async function finishLeftovers(context: Context): Promise<void> {
  for (const id of await quietRuns(context.database)) await finishRun(context, id);
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
  await forgetOldTries(database);
  const removed = await sweepBlobs(database, context.store, context.now());
  if (old.length > 0 || removed > 0) context.log.info({ uploads: old.length, removed }, "store swept");
}

/** Marks the processes that one program has been, which is known to have ended, and takes up its work at once. */
export async function workerEnded(context: Context, worker: string): Promise<void> {
  await endWorker(context.database, worker);
  await sweep(context);
}
