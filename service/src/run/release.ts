import { CorbixError, made } from "@corbix/core/common";
import { fromStates, RUN_MACHINE } from "@corbix/core/delivery";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { finishRuns } from "../outbox/record-outcome.js";
import type { Context } from "../process/context.js";
import {
  leaveOut,
  lockRun,
  queueHeld,
  type RunRow,
  setApprovals,
  setReleaseAt,
  setReleased,
  setStopped,
  type Transaction,
  takeReleasable,
} from "../records/index.js";
import { knownGroups } from "./known-groups.js";
import { getRun, reportOfRun } from "./run-records.js";

/** What came of a word to release: it went, or it was written down as one of the approvals that are wanted. */
export type Released = "released" | "approved";

/**
 * Lets a held run's messages go, all of them or those of some groups; of several who say so at once one is the one who did. Throws
 * `CONFLICT` with who did it and when, `STOPPED_BY_FINDING`, or `UNKNOWN_NAME`; nothing is changed then.
 */
export async function releaseRun(
  context: Context,
  runId: string,
  by: string,
  groups?: readonly string[],
): Promise<Released> {
  const { database } = context;
  const chosen = groups && (await knownGroups(context, runId, groups));
  const { delivery, figures } = await reportOfRun(context, await getRun(context, runId));
  const outcome = await database.transaction(async (transaction): Promise<Released> => {
    const run = await lockRun(database, runId, transaction);
    checkReleasable(run);
    if (run.rehearsalTo === null && delivery.approvals > 1) {
      const count = await approve(context, run, by, transaction);
      if (count < delivery.approvals) return "approved";
    }
    await setReleased(database, [runId], { by, hasFigures: figures !== undefined }, transaction);
    const why = say().serviceRun.chosenWhenRunReleased({ by });
    if (chosen) await leaveOut(database, runId, why, { besides: chosen }, transaction);
    await queueHeld(database, [runId], transaction);
    return "released";
  });
  await noteAction(
    database,
    by,
    outcome === "released" ? "run released" : "run approved",
    runId,
    chosen ? { groups: chosen } : {},
  );
  await announce(database, { kind: "run", subject: runId });
  // A run without a message is done at once.
  if (outcome === "released") await finishRun(context, runId);
  return outcome;
}

function checkReleasable(run: RunRow): void {
  const where = say().place.run({ id: run.id });
  if (!fromStates(RUN_MACHINE, "release").includes(run.state))
    throw new CorbixError("CONFLICT", say().serviceRun.cannotReleaseRunExpectedHeld({ state: run.state }), {
      where,
      advice: run.releasedAt
        ? say().serviceRun.released({ by: run.releasedBy, on: whenOf(run.releasedAt) })
        : say().serviceRun.waitUntilHeld(),
    });
  const proof = made(run.proof, "the proof of a held run");
  const stop = proof.findings.find((finding) => finding.severity === "stop");
  if (stop || !proof.mayBeReleased) {
    const { what, where, advice } = made(stop, "what stops the run");
    throw new CorbixError("STOPPED_BY_FINDING", say().serviceRun.cannotReleaseRun({ what }), { where, advice });
  }
}

/** A moment as it is told to people, by the clock of the service's records. */
function whenOf(at: Date): string {
  return `${new Date(at).toISOString().slice(0, 16).replace("T", " at ")} UTC`;
}

/** Writes a person's approval down; gives how many different people have given theirs. The run is locked. */
async function approve(context: Context, run: RunRow, by: string, transaction: Transaction): Promise<number> {
  const known = run.approvals.find((approval) => approval.by === by);
  if (known)
    throw new CorbixError(
      "CONFLICT",
      say().serviceRun.cannotReleaseRunApprovedAlready({ by, whenOf: whenOf(new Date(known.at)) }),
      {
        where: say().place.run({ id: run.id }),
        advice: say().serviceRun.askColleagueLookProofRelease(),
      },
    );
  const approvals = [...run.approvals, { by, at: context.now().toISOString() }];
  await setApprovals(context.database, run.id, approvals, transaction);
  return approvals.length;
}

/** Sets the time at which a held run is released, or takes it back. Throws `CONFLICT` or `BAD_REQUEST`. */
export async function releaseLater(
  context: Context,
  runId: string,
  at: Date | null,
  by: string,
): Promise<"set" | "taken back"> {
  if (at !== null && at.getTime() <= context.now().getTime())
    throw new CorbixError("BAD_REQUEST", say().serviceRun.cannotReleaseRunTimeOver(), { where: "at" });
  const run = await getRun(context, runId);
  const { delivery } = await reportOfRun(context, run);
  if (at !== null && delivery.approvals > 1)
    throw new CorbixError("CONFLICT", say().serviceRun.cannotSetTimeTwoPeople(), {
      where: say().place.run({ id: runId }),
    });
  if (!(await setReleaseAt(context.database, runId, at)))
    throw new CorbixError("CONFLICT", say().serviceRun.cannotSetTimeRunExpected({ state: run.state }), {
      where: say().place.run({ id: runId }),
    });
  await noteAction(context.database, by, at === null ? "release time taken back" : "release time set", runId, { at });
  await announce(context.database, { kind: "run", subject: runId });
  return at === null ? "taken back" : "set";
}

/** Releases the runs whose time has come; one that cannot be released says so in the log and stays held. */
export async function releaseDue(context: Context): Promise<void> {
  const due = await takeReleasable(context.database, context.now());
  for (const id of due)
    await releaseRun(context, id, say().serviceRun.timeSet()).catch((error: Error) =>
      context.log.error({ run: id, error: error.message }, "run not released at its time"),
    );
}

/** Stops a run where it stands: what is not on its way yet will not go. Run and messages at once, so that nothing begins in between. */
export async function stopRun(context: Context, runId: string, by: string): Promise<void> {
  const { database } = context;
  await getRun(context, runId);
  await database.transaction(async (transaction) => {
    const run = await lockRun(database, runId, transaction);
    if (!fromStates(RUN_MACHINE, "stop").includes(run.state))
      throw new CorbixError("CONFLICT", say().serviceRun.cannotStopRunAlready({ state: run.state }), {
        where: say().place.run({ id: runId }),
      });
    await setStopped(database, runId, transaction);
    await leaveOut(database, runId, say().serviceRun.runStopped({ by }), {}, transaction);
  });
  await noteAction(database, by, "run stopped", runId);
  await announce(database, { kind: "run", subject: runId });
}

/** A run is done when no message of it is on its way. */
export async function finishRun(context: Context, runId: string): Promise<void> {
  await finishRuns(context, [runId]);
}
