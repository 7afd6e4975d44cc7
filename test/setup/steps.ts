/** A run's steps driven by hand, where a test wants no workers. */

import type { Outcome } from "../../service/dist/mail/smtp.js";
import type { OpenSender } from "../../service/dist/outbox/carriage.js";
import type { Context } from "../../service/dist/process/context.js";
import { type HandedStep, takeStep } from "../../service/dist/records/index.js";
import { makeStep } from "../../service/dist/run/steps/make-step.js";
import { planStep } from "../../service/dist/run/steps/plan-step.js";
import { proveStep } from "../../service/dist/run/steps/prove-step.js";

const STEPS: Readonly<Record<string, (context: Context, step: HandedStep) => Promise<unknown>>> = {
  plan: planStep,
  make: makeStep,
  prove: proveStep,
};

/** Names of a run's steps that are not done, in order. */
export async function openSteps(context: Context, run: string): Promise<string[]> {
  const found = await context.database.select<{ name: string }>(
    "SELECT name FROM run_steps WHERE run_id = $1 AND done_at IS NULL ORDER BY queued_at, length(name), name",
    [run],
  );
  return found.map((one) => one.name);
}

/** Takes a step and does it; throws what it throws. */
export async function doOne(context: Context, run: string, name: string): Promise<void> {
  const step = await takeStep(context.database, run, name, context.process);
  if (!step) throw new Error(`the step ${name} of run ${run} is not to be had`);
  await STEPS[name.split(" ")[0]](context, step);
}

/** Does all of a run's steps, or those of some kinds. */
export async function doSteps(context: Context, run: string, kinds: readonly string[] = ["plan", "make", "prove"]) {
  for (;;) {
    const [name] = (await openSteps(context, run)).filter((one) => kinds.includes(one.split(" ")[0]));
    if (name === undefined) return;
    await doOne(context, run, name);
    const [{ state }] = await context.database.select<{ state: string }>("SELECT state FROM runs WHERE id = $1", [run]);
    if (state === "failed" || state === "stopped" || state === "waiting") return;
  }
}

export interface ToldMail {
  readonly id: string;
  readonly to: readonly string[];
  readonly raw: string;
  /** What this mail was answered. */
  readonly outcome: Partial<Outcome>;
}

/** A mail server that answers with these outcomes, one after the other in the order of being asked, and keeps what was asked of it. */
export function toldSender(outcomes: readonly Partial<Outcome>[], before?: (mail: ToldMail) => Promise<void>) {
  const sent: ToldMail[] = [];
  let asked = 0;
  const open: OpenSender = () => ({
    close: () => {},
    send: async ({ to, raw, begin }) => {
      const text = raw.toString("latin1");
      const next = outcomes[Math.min(asked++, outcomes.length - 1)];
      const mail = { id: /^Message-ID: *(\S+)/im.exec(text)?.[1] ?? "", to, raw: text, outcome: next };
      const none = { response: "", taken: [], later: [], refused: [] };
      // Where no line comes about, nothing begins.
      if (next.stage === "connecting") {
        sent.push(mail);
        return { ...none, kind: "later", ...next } as Outcome;
      }
      await before?.(mail);
      const refusal = await begin().then(
        (may) => (may ? undefined : "it may not begin"),
        (error: Error) => error.message,
      );
      if (refusal !== undefined) {
        // What did not go has been answered nothing.
        asked--;
        return { ...none, kind: "later", stage: "envelope", response: refusal } as Outcome;
      }
      sent.push(mail);
      return {
        ...none,
        kind: "sent",
        stage: "answer",
        response: "250 ok",
        taken: next.kind === "sent" || next.kind === undefined ? to : [],
        ...next,
      } as Outcome;
    },
  });
  return { sent, open };
}
