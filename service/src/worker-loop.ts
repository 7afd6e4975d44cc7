import type { Context } from "./context.js";
import { pause } from "./pause.js";
import type { FoundJob, Job, QueueName } from "./queue/queue.js";
import { makeStep } from "./run/make-step.js";
import { planStep } from "./run/plan-step.js";
import { proveStep } from "./run/prove-step.js";
import { errorFacts, moveRun } from "./run/run-records.js";

/** An idle worker looks for work so often. */
const IDLE_MS = 200;
/** A worker shows that it lives so often; one that is silent for ten times as long counts as gone. */
export const HEARTBEAT_MS = 3_000;

const STEPS: Readonly<Record<QueueName, (context: Context, job: Job) => Promise<void>>> = {
  plan: (context, job) => planStep(context, job.run),
  make: (context, job) => makeStep(context, job.run, job.ids ?? []),
  prove: (context, job) => proveStep(context, job.run),
};

/** Does something long while showing that this process lives. */
export async function keepAlive(context: Context, work: () => Promise<void>): Promise<void> {
  const beat = (): Promise<unknown> =>
    context.database
      .execute("INSERT INTO workers (id, seen_at) VALUES ($1, now()) ON CONFLICT (id) DO UPDATE SET seen_at = now()", [
        context.process,
      ])
      .catch((error: Error) => context.log.warn({ error: error.message }, "heartbeat"));
  await beat();
  const timer = setInterval(beat, HEARTBEAT_MS);
  try {
    await work();
  } finally {
    clearInterval(timer);
    await context.database
      .execute("UPDATE workers SET ended_at = now() WHERE id = $1", [context.process])
      .catch(() => {});
  }
}

/** Works until it is told to stop; then finishes the job it has. */
export function workUntil(context: Context, stopped: AbortSignal): Promise<void> {
  return keepAlive(context, async () => {
    while (!stopped.aborted) {
      const found = await context.queue.next().catch((error: Error) => {
        context.log.error({ error: error.message }, "queue");
        return undefined;
      });
      if (found) await work(context, found);
      else await pause(IDLE_MS, stopped);
    }
  });
}

async function work(context: Context, { name, id, job, isLast }: FoundJob): Promise<void> {
  const started = performance.now();
  try {
    await STEPS[name](context, job);
    await context.queue.complete(name, id);
    context.log.debug(
      { run: job.run, step: name, count: job.ids?.length, ms: Math.round(performance.now() - started) },
      "step",
    );
  } catch (error) {
    context.log.error(
      {
        run: job.run,
        step: name,
        error: error instanceof Error ? `${error.message}\n${error.stack ?? ""}` : String(error),
      },
      "step failed",
    );
    if (isLast)
      await moveRun(context, job.run, ["planning", "making", "proving"], "failed", {
        error: errorFacts(error),
        finishedAt: context.now(),
      }).catch(() => {});
    await context.queue.fail(name, id, error).catch(() => {});
  }
}
