/** A person's word about messages: what nobody can know, what shall go again, what shall not go. */
import { CorbixError } from "@corbix/core/common";
import { noteAction } from "../actions.js";
import type { Context } from "../context.js";
import { announce } from "../events.js";
import { finishRun } from "../run/release.js";

/** Decides a message that is unsure: it arrived, or it shall go again; a refused one can be tried once more. Throws `CONFLICT`. */
export async function decideMessage(
  context: Context,
  id: string,
  as: "arrived" | "again",
  reason: string | undefined,
  by: string,
): Promise<string> {
  const state = as === "arrived" ? "sent" : "queued";
  const from = as === "arrived" ? ["unsure"] : ["unsure", "refused"];
  const words = `decided by ${by}: ${as === "arrived" ? "it arrived" : "send it again"}${reason ? ` (${reason})` : ""}`;
  const [changed] = await context.database.select<{ run_id: string }>(
    `UPDATE messages SET state = $2, touched_at = now(), response = $4, not_before = NULL, dated_at = CASE WHEN $2 = 'queued' THEN NULL ELSE dated_at END
     WHERE id = $1 AND state = ANY($3) RETURNING run_id`,
    [id, state, from, words],
  );
  if (!changed)
    throw new CorbixError("CONFLICT", "Cannot decide this message: it is neither unsure nor refused.", {
      where: `message ${id}`,
    });
  await noteAction(context.database, by, `message decided: ${as}`, id, reason ? { reason } : {});
  if (as === "again") await reopenRun(context, changed.run_id);
  else await finishRun(context, changed.run_id);
  await announce(context.database, { kind: "run", subject: changed.run_id });
  return state;
}

/**
 * Sends a message once more on purpose: a delivery of its own in the ledger, with a Message-ID of its own, marked in its subject.
 * Gives the new message's id. Throws `CONFLICT` where the first is still on its way or unsure.
 */
export async function sendAgain(context: Context, id: string, reason: string, by: string): Promise<string> {
  const [made] = await context.database.select<{ id: string; run_id: string }>(
    `INSERT INTO messages (run_id, parcel_id, group_key, part, again, again_reason, identity, language, subject, html, text, envelope, message_id, state, findings)
     SELECT run_id, parcel_id, group_key, part, (SELECT max(again) + 1 FROM messages AS all_of WHERE all_of.parcel_id = messages.parcel_id AND all_of.part = messages.part),
       $2, identity, language, subject, html, text, envelope, '', 'queued', findings
     FROM messages WHERE id = $1 AND html <> '' AND state IN ('sent', 'returned', 'refused', 'skipped') AND (SELECT rehearsal_to FROM runs WHERE runs.id = messages.run_id) IS NULL
       AND NOT EXISTS (SELECT 1 FROM messages AS other WHERE other.parcel_id = messages.parcel_id AND other.part = messages.part AND other.state IN ('held', 'queued', 'sending', 'unsure'))
     RETURNING id, run_id`,
    [id, reason],
  );
  if (!made)
    throw new CorbixError(
      "CONFLICT",
      "Cannot send this message again: it is still on its way, unsure, or a rehearsal's.",
      {
        where: `message ${id}`,
        advice: "Decide what is unsure first; a rehearsal is started anew.",
      },
    );
  await noteAction(context.database, by, "message sent again", id, { reason, message: made.id });
  await reopenRun(context, made.run_id);
  await announce(context.database, { kind: "run", subject: made.run_id });
  return made.id;
}

/** Takes messages out that have not gone yet, each with the reason. Gives how many. */
export async function skipMessages(
  context: Context,
  runId: string,
  groups: readonly string[],
  reason: string,
  by: string,
): Promise<number> {
  const count = await context.database.execute(
    "UPDATE messages SET state = 'skipped', response = $3, touched_at = now() WHERE run_id = $1 AND group_key = ANY($2) AND state IN ('held', 'queued')",
    [runId, groups, `left out by ${by}: ${reason}`],
  );
  if (count === 0)
    throw new CorbixError("CONFLICT", "Cannot leave these groups out: none of them has a message that waits.", {
      where: `run ${runId}`,
    });
  await noteAction(context.database, by, "groups left out", runId, { groups, reason });
  await finishRun(context, runId);
  await announce(context.database, { kind: "run", subject: runId });
  return count;
}

/** Lets a run's waiting messages wait, or go on. Throws `CONFLICT` where it does not deliver. */
export async function pauseRun(context: Context, runId: string, paused: boolean, by: string): Promise<void> {
  const changed = await context.database.execute(
    "UPDATE runs SET paused = $2, touched_at = now() WHERE id = $1 AND state = 'delivering' AND paused <> $2",
    [runId, paused],
  );
  if (changed === 0)
    throw new CorbixError(
      "CONFLICT",
      `Cannot ${paused ? "pause" : "resume"} the run: it is not ${paused ? "delivering" : "paused"}.`,
      {
        where: `run ${runId}`,
      },
    );
  await noteAction(context.database, by, paused ? "run paused" : "run resumed", runId);
  await announce(context.database, { kind: "run", subject: runId });
}

/** A run that was done delivers again. */
async function reopenRun(context: Context, runId: string): Promise<void> {
  await context.database.execute(
    "UPDATE runs SET state = 'delivering', finished_at = NULL, touched_at = now() WHERE id = $1 AND state IN ('done', 'stopped')",
    [runId],
  );
}
