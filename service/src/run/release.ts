import { bytesFromText, CorbixError, made, sha256 } from "@corbix/core/common";
import { fromStates, RUN_MACHINE } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { getReportVersion } from "../library/definitions.js";
import { finishRuns } from "../outbox/record-outcome.js";
import type { Context } from "../process/context.js";
import {
  type Approval,
  heldDigest,
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
  const known = await getRun(context, runId);
  const { delivery, figures } = await reportOfRun(context, known);
  await checkApart(context, known, delivery, by);
  let going = "";
  const outcome = await database.transaction(async (transaction): Promise<Released> => {
    const run = await lockRun(database, runId, transaction);
    checkReleasable(run);
    going = await digestOfGoing(context, run, transaction);
    if (run.rehearsalTo === null && delivery.approvals > 1) {
      const approvals = await approve(context, run, { by, groups: chosen ?? null, digest: going }, transaction);
      if (approvals.length < delivery.approvals) return "approved";
      checkCovered(run, approvals, chosen);
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
    // What was let go or approved: of the proof and every held message.
    { digest: going, ...(chosen ? { groups: chosen } : {}) },
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

/** Where the report wants others, neither who started the run nor who saved the report last lets it go. Throws `NOT_ALLOWED`. */
async function checkApart(context: Context, run: RunRow, { apart }: Report["delivery"], by: string): Promise<void> {
  if (!apart || run.rehearsalTo !== null) return;
  const { createdBy } = await getReportVersion(context, run.report, run.reportVersion);
  if (by !== run.startedBy && by !== createdBy) return;
  throw new CorbixError("NOT_ALLOWED", say().serviceRun.hasToBeAnother({ by, isStarter: by === run.startedBy }), {
    where: say().place.run({ id: run.id }),
    advice: say().serviceRun.askColleagueLookProofRelease(),
  });
}

/** What a run would send and what is proved of it, as a digest: an approval is given for that, and stands as long as it stays so. */
export async function digestOfGoing(
  { database }: Pick<Context, "database">,
  run: RunRow,
  transaction?: Transaction,
): Promise<string> {
  const held = await heldDigest(database, run.id, transaction);
  return sha256(bytesFromText(JSON.stringify([run.proof, held])));
}

/**
 * Writes a person's approval down; gives those that stand, each of another person. Those that were given for something else than
 * what would go now are taken back. The run is locked.
 */
async function approve(
  context: Context,
  run: RunRow,
  given: { readonly by: string; readonly groups: readonly string[] | null; readonly digest: string },
  transaction: Transaction,
): Promise<readonly Approval[]> {
  const { by, groups, digest } = given;
  const standing = run.approvals.filter((approval) => approval.digest === digest);
  const own = standing.find((approval) => approval.by === by);
  if (own)
    throw new CorbixError(
      "CONFLICT",
      say().serviceRun.cannotReleaseRunApprovedAlready({ by, whenOf: whenOf(new Date(own.at)) }),
      {
        where: say().place.run({ id: run.id }),
        advice: say().serviceRun.askColleagueLookProofRelease(),
      },
    );
  const approvals = [...standing, { by, at: context.now().toISOString(), digest, groups }];
  await setApprovals(context.database, run.id, approvals, transaction);
  return approvals;
}

/** What goes has been approved by everybody, group by group. Throws `CONFLICT`. */
function checkCovered(run: RunRow, approvals: readonly Approval[], chosen: readonly string[] | undefined): void {
  const narrow = approvals.find(
    ({ groups }) => groups && (chosen === undefined || chosen.some((group) => !groups.includes(group))),
  );
  if (!narrow) return;
  throw new CorbixError(
    "CONFLICT",
    say().serviceRun.approvedForFewer({ by: narrow.by, count: narrow.groups?.length ?? 0 }),
    {
      where: say().place.run({ id: run.id }),
      advice: say().serviceRun.releaseThoseGroups(),
    },
  );
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
  if (at !== null) await checkApart(context, run, delivery, by);
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
