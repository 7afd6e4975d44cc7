import type { Context } from "../context.js";
import { announce } from "../events.js";
import { HEARTBEAT_MS } from "../worker-loop.js";
import { BATCH } from "./plan-step.js";
import { finishRun } from "./release.js";

const PROCESS_ENDED =
  "the sending process ended between taking this message up and writing down what became of it: it may have gone out or not";

/** A run that moves has been touched within this time; one that has not is looked at. */
const QUIET_SECONDS = 20;

/**
 * Takes up what a worker that died has left: its unfinished messages become `unsure`, since nobody can know whether they went out,
 * and steps that nobody works on any more are queued again. Every step can run twice without doing anything twice.
 */
export async function sweep(context: Context, quietSeconds = QUIET_SECONDS): Promise<void> {
  const gone = (10 * HEARTBEAT_MS) / 1000;
  const unsure = await context.database.select<{ run_id: string }>(
    `WITH unsure AS (
       UPDATE messages SET state = 'unsure', response = $2, touched_at = now()
       WHERE state = 'sending' AND worker IN (SELECT id FROM workers WHERE ended_at IS NOT NULL OR seen_at < now() - $1 * interval '1 second') RETURNING id, run_id, attempts)
     , told AS (UPDATE attempts SET outcome = 'unsure', response = $2 FROM unsure WHERE attempts.message_id = unsure.id AND attempts.number = unsure.attempts AND attempts.finished_at IS NULL)
     SELECT run_id FROM unsure`,
    [gone, PROCESS_ENDED],
  );
  for (const run of new Set(unsure.map((message) => message.run_id))) {
    context.log.warn({ run, count: unsure.length }, "messages unsure after a worker ended");
    await announce(context.database, { kind: "run", subject: run });
    await finishRun(context, run);
  }
  const quiet = await context.database.select<{ id: string; state: string }>(
    "SELECT id, state FROM runs WHERE state IN ('planning', 'making', 'proving', 'delivering') AND touched_at < now() - $1 * interval '1 second'",
    [quietSeconds],
  );
  for (const run of quiet) await takeUp(context, run.id, run.state);
}

/** Uploads that were looked at but not loaded are kept so long. */
const UPLOAD_HOURS = 24;

/** Takes away files that were uploaded to be looked at and never became an edition. */
export async function sweepUploads(context: Context): Promise<void> {
  const old = await context.database.select<{ sha256: string; is_used: boolean }>(
    `DELETE FROM uploads WHERE created_at < now() - $1 * interval '1 hour'
     RETURNING sha256, (EXISTS (SELECT 1 FROM editions WHERE editions.sha256 = uploads.sha256)
       OR EXISTS (SELECT 1 FROM template_versions WHERE template_versions.sha256 = uploads.sha256)
       OR EXISTS (SELECT 1 FROM files WHERE files.sha256 = uploads.sha256)) AS is_used`,
    [UPLOAD_HOURS],
  );
  for (const { sha256, is_used: isUsed } of old) if (!isUsed) await context.store.remove(sha256);
}

/** Marks a worker that is known to have ended, and takes up its work at once. */
export async function workerEnded(context: Context, worker: string): Promise<void> {
  await context.database.execute("UPDATE workers SET ended_at = now() WHERE id = $1", [worker]);
  await sweep(context, 0);
}

async function takeUp(context: Context, run: string, state: string): Promise<void> {
  const { database, queue } = context;
  await database.execute("UPDATE runs SET touched_at = now() WHERE id = $1", [run]);
  if (state === "planning") await queue.send("plan", { run });
  else if (state === "delivering") await finishRun(context, run);
  else {
    const left = await database.select<{ id: string }>(
      "SELECT id FROM parcels WHERE run_id = $1 AND state = 'planned' ORDER BY number",
      [run],
    );
    for (const ids of batches(left)) await queue.send("make", { run, ids });
    if (left.length === 0) await queue.send("prove", { run });
  }
}

function batches(rows: readonly { readonly id: string }[]): string[][] {
  const ids = rows.map((row) => String(row.id));
  return Array.from({ length: Math.ceil(ids.length / BATCH) }, (_, index) =>
    ids.slice(index * BATCH, (index + 1) * BATCH),
  );
}
