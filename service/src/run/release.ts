import { CorbixError, cleanKey } from "@corbix/core/common";
import { noteAction } from "../actions.js";
import type { Context } from "../context.js";
import { announce } from "../events.js";
import type { RunRow } from "../records/index.js";
import { getRun, moveRun, reportOfRun } from "./run-records.js";

/** Lets a held run's messages go. Throws `CONFLICT` or `STOPPED_BY_FINDING`. */
export async function releaseRun(
  context: Context,
  runId: string,
  by: string,
  groups?: readonly string[],
): Promise<void> {
  const run = await getRun(context, runId);
  if (run.state !== "held")
    throw new CorbixError("CONFLICT", `Cannot release the run: it is ${run.state}, expected held.`, {
      where: `run ${runId}`,
      advice:
        run.state === "done" || run.state === "delivering"
          ? "It was released already."
          : "Wait until it is held, or start another.",
    });
  const stop = run.proof?.findings.find((finding) => finding.severity === "stop");
  if (stop || !run.proof?.mayBeReleased)
    throw new CorbixError("STOPPED_BY_FINDING", `Cannot release the run: ${stop?.what ?? "it is not proved."}`, {
      where: stop?.where ?? `run ${runId}`,
      ...(stop ? { advice: stop.advice } : {}),
    });
  const { delivery } = await reportOfRun(context, run);
  if (run.rehearsalTo === null && delivery.approvals > 1 && !(await isApproved(context, run, by, delivery.approvals)))
    return;
  const chosen = groups?.map(cleanKey);
  const ids = await context.database.transaction(async (transaction) => {
    const moved = await context.database.execute(
      "UPDATE runs SET state = 'delivering', released_by = $2, released_at = $3, touched_at = $3 WHERE id = $1 AND state = 'held'",
      [runId, by, context.now()],
      transaction,
    );
    if (moved === 0) return [];
    if (chosen)
      await context.database.execute(
        "UPDATE messages SET state = 'skipped', response = 'not chosen when the run was released' WHERE run_id = $1 AND NOT (group_key = ANY($2))",
        [runId, chosen],
        transaction,
      );
    const queued = await context.database.select<{ id: string }>(
      "UPDATE messages SET state = 'queued', touched_at = $2 WHERE run_id = $1 AND state = 'held' RETURNING id",
      [runId, context.now()],
      transaction,
    );
    return queued.map((message) => String(message.id));
  });
  await noteAction(context.database, by, "run released", runId, chosen ? { groups: chosen } : {});
  await announce(context.database, { kind: "run", subject: runId });
  if (ids.length === 0) await finishRun(context, runId);
}

/** Writes a person's approval down; tells whether enough different people have given theirs. */
async function isApproved(context: Context, run: RunRow, by: string, wanted: number): Promise<boolean> {
  if (run.approvals.some((approval) => approval.by === by))
    throw new CorbixError(
      "CONFLICT",
      `Cannot release the run: ${by} has approved it already, and another person has to.`,
      {
        where: `run ${run.id}`,
        advice: "Ask a colleague to look at the proof and release it.",
      },
    );
  const approvals = [...run.approvals, { by, at: context.now().toISOString() }];
  const changed = await context.database.execute(
    "UPDATE runs SET approvals = $2, touched_at = $3 WHERE id = $1 AND state = 'held' AND approvals::text = $4",
    [run.id, JSON.stringify(approvals), context.now(), JSON.stringify(run.approvals)],
  );
  if (changed === 0)
    throw new CorbixError("CONFLICT", "Cannot approve the run: somebody else did something with it just now.", {
      where: `run ${run.id}`,
      advice: "Look at it again.",
    });
  await noteAction(context.database, by, "run approved", run.id);
  await announce(context.database, { kind: "run", subject: run.id });
  return approvals.length >= wanted;
}

/** Sets the time at which a held run is released, or takes it back. Throws `CONFLICT` or `BAD_REQUEST`. */
export async function releaseLater(context: Context, runId: string, at: Date | null, by: string): Promise<void> {
  if (at !== null && at.getTime() <= context.now().getTime())
    throw new CorbixError("BAD_REQUEST", "Cannot release the run at a time that is over.", { where: "at" });
  const run = await getRun(context, runId);
  const { delivery } = await reportOfRun(context, run);
  if (at !== null && delivery.approvals > 1)
    throw new CorbixError("CONFLICT", "Cannot set a time: two people have to release this run.", {
      where: `run ${runId}`,
    });
  const changed = await context.database.execute(
    "UPDATE runs SET release_at = $2, touched_at = $3 WHERE id = $1 AND state = 'held'",
    [runId, at, context.now()],
  );
  if (changed === 0)
    throw new CorbixError("CONFLICT", `Cannot set a time for the run: it is ${run.state}, expected held.`, {
      where: `run ${runId}`,
    });
  await noteAction(context.database, by, at === null ? "release time taken back" : "release time set", runId, { at });
  await announce(context.database, { kind: "run", subject: runId });
}

/** Releases the runs whose time has come; one that cannot be released says so in the log and stays held. */
export async function releaseDue(context: Context): Promise<void> {
  const due = await context.database.select<{ id: string }>(
    "UPDATE runs SET release_at = NULL WHERE state = 'held' AND release_at <= $1 RETURNING id",
    [context.now()],
  );
  for (const { id } of due)
    await releaseRun(context, id, "the time that was set").catch((error: Error) =>
      context.log.error({ run: id, error: error.message }, "run not released at its time"),
    );
}

/** Stops a run where it stands: what is not on its way yet will not go. */
export async function stopRun(context: Context, runId: string, by: string): Promise<void> {
  const run = await getRun(context, runId);
  const moved = await moveRun(context, runId, ["planning", "making", "proving", "held", "delivering"], "stopped", {
    finishedAt: context.now(),
  });
  if (!moved)
    throw new CorbixError("CONFLICT", `Cannot stop the run: it is ${run.state} already.`, { where: `run ${runId}` });
  await context.database.execute(
    "UPDATE messages SET state = 'skipped', response = 'the run was stopped' WHERE run_id = $1 AND state IN ('held', 'queued')",
    [runId],
  );
  await noteAction(context.database, by, "run stopped", runId);
}

/** A run is done when no message of it is on its way. */
export async function finishRun(context: Context, runId: string): Promise<void> {
  const [{ left }] = await context.database.select<{ left: number }>(
    "SELECT count(*)::int AS left FROM messages WHERE run_id = $1 AND state IN ('queued', 'sending')",
    [runId],
  );
  if (left > 0) return;
  await moveRun(context, runId, ["delivering"], "done", { finishedAt: context.now() });
}
