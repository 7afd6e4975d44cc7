/** Moves of a run that its steps bring about: each in one transaction that holds the step, so that only its owner writes. */
import type { CorbixError } from "@corbix/core/common";
import { fromStates, RUN_MACHINE, type RunEvent, type RunState } from "@corbix/core/delivery";
import { say } from "@corbix/core/words";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  endStep,
  giveBackStep,
  goOnRuns,
  type HandedStep,
  hasWaitingRuns,
  holdStep,
  lockRunState,
  moveRun,
  type RunRow,
  reportNameOfRun,
  StepLost,
  type Transaction,
} from "../records/index.js";
import { isStoreTrouble } from "../store/store-errors.js";
import { tell } from "../tell/notices.js";
import { errorFacts } from "./run-records.js";

/** A run as a step's transaction has it locked. */
export interface OwnedRun {
  readonly state: RunState;
  readonly transaction: Transaction;
}

/**
 * Does what a step writes, all or nothing, while this process owns it. Throws `StepLost` where the step is another's by now, or the
 * run was stopped meanwhile; nothing is written then. `SHARE` for what several steps of a run write at the same time.
 */
export async function asOwner<T>(
  context: Context,
  step: HandedStep,
  event: RunEvent,
  work: (run: OwnedRun) => Promise<T>,
  lock: "UPDATE" | "SHARE" = "UPDATE",
): Promise<T> {
  const { database } = context;
  return database.transaction(async (transaction) => {
    await holdStep(database, step, transaction);
    const state = await lockRunState(database, step.run, lock, transaction);
    if (!state || !fromStates(RUN_MACHINE, event).includes(state)) throw new StepLost(step);
    return work({ state, transaction });
  });
}

/** Moves a run on within its step's transaction. */
export async function moveOwned(
  context: Context,
  run: string,
  to: RunState,
  also: Partial<RunRow>,
  transaction: Transaction,
): Promise<void> {
  await moveRun(context.database, run, to, also, transaction);
}

/** The definition cannot work, or a step failed again and again. */
export async function failRun(context: Context, step: HandedStep, error: unknown): Promise<void> {
  const isOurs = await asOwner(context, step, "fail", async ({ transaction }) => {
    await endStep(context.database, step, transaction);
    await moveOwned(context, step.run, "failed", { error: errorFacts(error), finishedAt: context.now() }, transaction);
    return true;
  }).catch((failure: unknown) => {
    if (failure instanceof StepLost) return false;
    throw failure;
  });
  await announce(context.database, { kind: "run", subject: step.run });
  if (!isOurs) return;
  const { message, advice } = errorFacts(error);
  const report = await reportNameOfRun(context.database, step.run);
  await tell(context, {
    kind: "run-failed",
    report,
    run: step.run,
    what: say().serviceSchedule.runFailed({ report, why: message }),
    ...(advice === undefined ? {} : { advice }),
  });
}

/** No space is left, or the store is away: the run waits, and its step is given back undone. */
export async function waitForStore(context: Context, step: HandedStep, error: CorbixError): Promise<void> {
  await asOwner(context, step, "wait", async ({ state, transaction }) => {
    const { code, message, advice } = errorFacts(error);
    await moveOwned(
      context,
      step.run,
      "waiting",
      { waitingFor: { state, code, message, ...(advice === undefined ? {} : { advice }) } },
      transaction,
    );
  }).catch((failure: unknown) => {
    // Another of its steps has said so already, or somebody stopped it.
    if (!(failure instanceof StepLost)) throw failure;
  });
  await giveBackStep(context.database, step, false);
  context.log.warn({ run: step.run, step: step.name, error: error.toLine() }, "run waits");
  await announce(context.database, { kind: "run", subject: step.run });
}

/** Lets waiting runs go on where the store takes something again; their steps count as queued anew. */
export async function goOnWaiting(context: Context): Promise<void> {
  const { database } = context;
  if (!(await hasWaitingRuns(database))) return;
  try {
    await context.store.probe();
  } catch (error) {
    if (isStoreTrouble(error)) return;
    throw error;
  }
  for (const id of await goOnRuns(database)) {
    context.log.info({ run: id }, "run goes on");
    await announce(database, { kind: "run", subject: id });
  }
}
