/** Writing down what became of messages. What has been sent is written, however long the database is away. */

import { deflateRawSync } from "node:zlib";
import { sha256 } from "@corbix/core/common";
import { foldAddress } from "@corbix/core/recipients";
import { say } from "@corbix/core/words";
import { announce } from "../events/events.js";
import type { Outcome } from "../mail/smtp.js";
import type { Context } from "../process/context.js";
import { retryUntilDone } from "../process/pause.js";
import {
  type AddressResult,
  type BareMessage,
  endQuietRuns,
  LONGEST_PAUSE_SECONDS,
  type MessageState,
  setNotBegun,
  settleVerdicts,
  skipMessage,
  type Verdict,
} from "../records/index.js";
import { tell } from "../tell/notices.js";
import type { CarriageSettings } from "./carriage.js";

/** Runs are told of their messages so often at most. */
const TELL_MS = 300;

export interface Settled {
  readonly message: BareMessage;
  readonly outcome: Outcome;
  /** Digest of the zip file its attachments went in, where they did. */
  readonly packed: string | undefined;
  /** Its bytes, with marks for its attachments; `undefined` where it could not be made. */
  readonly frame: Buffer | undefined;
  readonly raw: Buffer | undefined;
}

/** What a message becomes by what became of its addresses. */
export function nextState(
  { message, outcome, frame, raw, packed }: Settled,
  settings: Pick<CarriageSettings, "patienceHours" | "firstPause">,
  now: Date,
): Verdict {
  const results: Record<string, AddressResult> = { ...message.results };
  for (const address of outcome.taken)
    results[address] = { state: "taken", response: outcome.receipts?.[address] ?? outcome.response };
  for (const { address, response } of outcome.refused) results[address] = { state: "refused", response };
  for (const { address, response } of outcome.later) results[address] = { state: "later", response };
  const began = message.datedAt ?? now;
  const isPatient = now.getTime() - new Date(began).getTime() < settings.patienceHours * 3_600_000;
  const waits = outcome.kind === "later" || (outcome.kind === "sent" && outcome.later.length > 0);
  const reached = Object.entries(results).filter(([, one]) => one.state === "taken");
  const taken = reached.length > 0;
  const state: MessageState =
    outcome.kind === "unsure" ? "unsure" : waits && isPatient ? "queued" : taken ? "sent" : "refused";
  const pause = Math.min(LONGEST_PAUSE_SECONDS, settings.firstPause * 2 ** Math.min(20, message.attempts - 1));
  const left = Object.entries(results).filter(([, one]) => one.state !== "taken");
  const without = say().serviceOutbox.notFor({
    taken,
    leftCount: left.length,
    left: left.map(([address]) => address).join(", "),
  });
  return {
    id: message.id,
    number: message.attempts,
    state,
    response: `${outcome.response}${without}`,
    results: JSON.stringify(results),
    not_before: state === "queued" ? new Date(now.getTime() + pause * 1000).toISOString() : null,
    sent_at: taken ? (message.sentAt ?? now).toISOString() : null,
    mime: frame ? deflateRawSync(frame).toString("base64") : null,
    packed: packed ?? null,
    sha256: raw ? sha256(raw) : null,
    size: raw?.length ?? null,
    addresses: reached.map(([address]) => foldAddress(address)),
    complete: left.length === 0,
    outcome: outcome.kind,
    stage: outcome.stage,
  };
}

/** Gathers verdicts and writes them together; while one batch is written the next gathers. */
export class Settling {
  private waiting: { readonly nextState: Verdict; readonly run: string; readonly done: () => void }[] = [];
  private writing: Promise<void> = Promise.resolve();
  private isWriting = false;

  constructor(
    private readonly context: Context,
    private readonly written: (runs: ReadonlySet<string>) => Promise<void>,
  ) {}

  /** `done` is called when it is written down. */
  add(one: Verdict, run: string, done: () => void): void {
    this.waiting.push({ nextState: one, run, done });
    if (!this.isWriting) this.writing = this.writeAll();
  }

  /** Something became of a message of a run that was not sent: the run may be done by that. */
  touch(run: string): void {
    this.touched.add(run);
    void this.tell(false);
  }

  /** Resolves when all that was added is written. */
  async idle(): Promise<void> {
    while (this.isWriting) await this.writing;
    await this.tell(true);
    // What a moment ago was begun to be told may still be on its way to the database.
    await this.telling;
  }

  private readonly touched = new Set<string>();
  private toldAt = 0;
  private telling: Promise<unknown> = Promise.resolve();
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** Runs are looked at a few times a second, however many of their messages are settled meanwhile. */
  private async tell(isLast: boolean): Promise<void> {
    const wait = this.toldAt + TELL_MS - Date.now();
    if (wait > 0 && !isLast) {
      this.timer ??= setTimeout(() => {
        this.timer = undefined;
        this.tell(true).catch(() => {});
      }, wait);
      return;
    }
    if (this.touched.size === 0) return;
    const runs = new Set(this.touched);
    this.touched.clear();
    this.toldAt = Date.now();
    const told = this.written(runs).catch((error: Error) => {
      for (const run of runs) this.touched.add(run);
      this.context.log.warn({ error: error.message }, "outbox");
    });
    this.telling = Promise.all([this.telling, told]);
    await told;
  }

  private async writeAll(): Promise<void> {
    this.isWriting = true;
    while (this.waiting.length > 0) {
      const batch = this.waiting.splice(0);
      await this.write(batch.map((one) => one.nextState));
      for (const one of batch) {
        one.done();
        this.touched.add(one.run);
      }
      await this.tell(false);
    }
    this.isWriting = false;
  }

  /** What went out cannot be forgotten: as long as this process lives it goes on trying. */
  private async write(verdicts: readonly Verdict[]): Promise<void> {
    await retryUntilDone(this.context, () => writeVerdicts(this.context, verdicts));
  }
}

/**
 * State, attempt and ledger together. A message that a sweep has called unsure meanwhile gets the true outcome: this process knows
 * it. The ledger keeps who was reached; where nobody was, the delivery stays due and its row goes.
 */
async function writeVerdicts(context: Context, verdicts: readonly Verdict[]): Promise<void> {
  await settleVerdicts(context.database, verdicts, context.process, context.now());
}

/** Messages that could not begin say why, and when they are looked at again; they are queued as before, and nothing counts as tried. */
export async function noteNotBegun(
  context: Context,
  id: string,
  why: string | null,
  notBefore: Date | null,
): Promise<void> {
  await setNotBegun(context.database, id, why, notBefore);
}

/** A message that everybody has had for its occasion is passed over, and says by which run. */
export async function passOver(context: Context, id: string, why: string): Promise<void> {
  await skipMessage(context.database, id, why);
}

/** Runs that have nothing on its way any more are done; their viewers are told. */
export async function finishRuns(context: Context, runs: readonly string[]): Promise<void> {
  if (runs.length === 0) return;
  for (const { id, report, refused } of await endQuietRuns(context.database, runs))
    if (refused > 0)
      await tell(context, {
        kind: "refused",
        report,
        run: id,
        what: say().serviceSchedule.messagesRefused({ report, count: refused }),
        advice: say().serviceSchedule.correctInOutbox(),
      });
  await announce(context.database, ...runs.map((run) => ({ kind: "run" as const, subject: run })));
}
