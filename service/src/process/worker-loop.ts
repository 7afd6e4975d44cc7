import { randomUUID } from "node:crypto";
import { CorbixError } from "@corbix/core/common";
import { type FoundJob, kindOf } from "../queue/queue.js";
import { giveBackStep, type HandedStep, StepLost, takeStep, takeSteps } from "../records/index.js";
import { failRun, waitForStore } from "../run/run-moves.js";
import { makeStep } from "../run/steps/make-step.js";
import type { NextSteps } from "../run/steps/next-steps.js";
import { planStep } from "../run/steps/plan-step.js";
import { proveStep } from "../run/steps/prove-step.js";
import { recordSteps } from "../run/steps/record-steps.js";
import { isStoreTrouble } from "../store/store-errors.js";
import type { Context } from "./context.js";
import { openLease } from "./lease/lease.js";
import { pause, retryUntilDone } from "./pause.js";
import { spanned, traceFrom, tracing } from "./trace.js";

/** An idle worker looks for work so often. */
const IDLE_MS = 200;
/** A step that has failed so often, for no reason that passes, fails its run. */
const MOST_FAILURES = 4;

const STEPS: Readonly<Record<string, (context: Context, step: HandedStep) => Promise<NextSteps>>> = {
  plan: planStep,
  make: makeStep,
  prove: proveStep,
};

/**
 * Works under a lease until stopped: shows that this process lives, and begins anew under another id where it was declared dead
 * meanwhile. What it had then is others'.
 */
export async function underLease(
  context: Context,
  url: string,
  kind: "worker" | "outbox",
  stopped: AbortSignal,
  work: (context: Context, stopped: AbortSignal) => Promise<void>,
): Promise<void> {
  const startedAs = context.process;
  for (let id = startedAs; !stopped.aborted; id = randomUUID()) {
    const lease = await openLease(url, id, startedAs, kind);
    try {
      await work({ ...context, process: id, lease }, AbortSignal.any([stopped, lease.lost]));
    } finally {
      await lease.close();
    }
    if (!stopped.aborted) context.log.warn({ worker: id }, "this process was declared dead and begins anew");
  }
}

/** Works until it is told to stop; then finishes the step it has. */
export async function workUntil(context: Context, stopped: AbortSignal): Promise<void> {
  while (!stopped.aborted) {
    const found = await context.queue.next().catch((error: Error) => {
      context.log.error({ error: error.message }, "queue");
      return undefined;
    });
    if (found && found.length > 0) await workOn(context, found, stopped);
    else await pause(IDLE_MS, stopped);
  }
}

async function workOn(context: Context, jobs: readonly FoundJob[], stopped: AbortSignal): Promise<void> {
  if (jobs[0]?.name === "record") return workOnRecords(context, jobs, stopped);
  for (const found of jobs) {
    const { job } = found;
    try {
      const step = await takeStep(context.database, job.run, job.step, context.process);
      await workOnStep(context, found, step, stopped);
    } catch (error) {
      await failJob(context, found, error);
    }
  }
}

/** Runs of single records at once, then what of them goes on by itself. */
async function workOnRecords(context: Context, jobs: readonly FoundJob[], stopped: AbortSignal): Promise<void> {
  try {
    const runs = jobs.map(({ job }) => job.run);
    const steps = await takeSteps(context.database, runs, "plan", context.process);
    const left = new Map((await recordSteps(context, steps)).map((step) => [step.run, step]));
    const [open, done] = [jobs.filter(({ job }) => left.has(job.run)), jobs.filter(({ job }) => !left.has(job.run))];
    await context.queue.complete(done);
    for (const found of open)
      await workOnStep(context, found, left.get(found.job.run), stopped).catch((error) =>
        failJob(context, found, error),
      );
  } catch (error) {
    for (const found of jobs) await failJob(context, found, error);
  }
}

async function workOnStep(
  context: Context,
  found: FoundJob,
  step: HandedStep | undefined,
  stopped: AbortSignal,
): Promise<void> {
  const next = step ? await doStep(context, kindOf(step.name), step) : undefined;
  await context.queue.complete([found]);
  if (next) await goOn(context, found.job.run, next, stopped);
}

/** The step itself is given back already, or was never taken; the job comes again. */
async function failJob(context: Context, { name, id, job }: FoundJob, error: unknown): Promise<void> {
  context.log.error({ run: job.run, step: job.step, error: describe(error) }, "job not done");
  await context.queue.fail(name, id, error).catch(() => {});
}

/** Goes on with a run's next steps at once. What cannot be done now, or not by a process that is being stopped, is queued. */
async function goOn(context: Context, run: string, steps: readonly string[], stopped: AbortSignal): Promise<void> {
  for (let next: NextSteps = steps; next && next.length > 0; ) {
    const [name = ""] = next;
    if (stopped.aborted) return context.queue.send(kindOf(name), { run, step: name });
    try {
      const step = await takeStep(context.database, run, name, context.process);
      if (!step) return;
      next = await doStep(context, kindOf(name), step);
    } catch (error) {
      context.log.error({ run, step: name, error: describe(error) }, "step not done");
      await context.queue.send(kindOf(name), { run, step: name }).catch(() => {});
      return;
    }
  }
}

/** Does a step that was handed out. What goes wrong on our own side is waited for or tried again; only then does the run fail. */
export function doStep(context: Context, name: string, step: HandedStep): Promise<NextSteps> {
  const facts = { "corbix.run": step.run, "corbix.step": step.name };
  return tracing(traceFrom(step.trace ?? undefined), () => spanned(name, facts, () => tryStep(context, name, step)));
}

async function tryStep(context: Context, name: string, step: HandedStep): Promise<NextSteps> {
  const started = process.hrtime.bigint();
  const facts = { run: step.run, step: step.name, token: step.token };
  try {
    const work = STEPS[name];
    if (!work) throw new Error(`there is no step called ${name}`);
    const next = await work(context, step);
    if (next === undefined) await giveBack(context, step);
    context.log.debug({ ...facts, ms: Number((process.hrtime.bigint() - started) / 1_000_000n) }, "step");
    return next;
  } catch (error) {
    if (error instanceof StepLost) {
      context.log.warn(
        facts,
        "this process lost the step, to another or to a run that waits or was stopped, and wrote nothing",
      );
      await giveBack(context, step);
      return undefined;
    }
    context.log.error({ ...facts, error: describe(error) }, "step failed");
    if (isStoreTrouble(error)) {
      await retryUntilDone(context, () => waitForStore(context, step, error));
      return undefined;
    }
    const failures = await retryUntilDone(context, () => giveBackStep(context.database, step, true));
    if (failures < MOST_FAILURES) throw error;
    await failRun(context, step, error);
    return undefined;
  }
}

/** A step that is not done and still this process's own, since its run waits or was stopped meanwhile, is open to everybody again. */
function giveBack(context: Context, step: HandedStep): Promise<number> {
  return retryUntilDone(context, () => giveBackStep(context.database, step, false));
}

function describe(error: unknown): string {
  if (error instanceof CorbixError) return error.toLine();
  return error instanceof Error ? `${error.message}\n${error.stack ?? ""}` : String(error);
}
