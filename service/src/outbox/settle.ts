/** Writing down what became of messages. What has been sent is written, however long the database is away. */
import { deflateRawSync } from "node:zlib";
import { sha256 } from "@corbix/core/common";
import type { Context } from "../context.js";
import { announce } from "../events.js";
import type { IdentitySettings } from "../mail/identities.js";
import type { Outcome } from "../mail/smtp.js";
import type { AddressResult, MessageRow, MessageState } from "../records/index.js";

/** Pauses between tries do not grow beyond half an hour. */
const LONGEST_PAUSE_SECONDS = 1800;
/** A database that is away is asked again so often. */
const RETRY_MS = 250;
/** Runs are told of their messages so often at most. */
const TELL_MS = 300;

export interface Settled {
  readonly message: MessageRow;
  readonly outcome: Outcome;
  /** Its bytes, with marks for its attachments; `undefined` where it could not be made. */
  readonly frame: Buffer | undefined;
  readonly raw: Buffer | undefined;
}

interface Verdict {
  readonly id: string;
  readonly number: number;
  readonly state: MessageState;
  readonly response: string;
  readonly results: string;
  readonly not_before: string | null;
  readonly sent_at: string | null;
  readonly mime: string | null;
  readonly sha256: string | null;
  readonly size: number | null;
  readonly outcome: string;
  readonly stage: string;
}

/** What a message becomes by what became of its addresses. */
export function verdict({ message, outcome, frame, raw }: Settled, settings: IdentitySettings, now: Date): Verdict {
  const results: Record<string, AddressResult> = { ...message.results };
  for (const address of outcome.taken) results[address] = { state: "taken", response: outcome.response };
  for (const { address, response } of outcome.refused) results[address] = { state: "refused", response };
  for (const { address, response } of outcome.later) results[address] = { state: "later", response };
  const all = Object.values(results);
  const began = message.datedAt ?? now;
  const isPatient = now.getTime() - new Date(began).getTime() < settings.patienceHours * 3_600_000;
  const waits = outcome.kind === "later" || (outcome.kind === "sent" && outcome.later.length > 0);
  const taken = all.some((one) => one.state === "taken");
  const state: MessageState =
    outcome.kind === "unsure" ? "unsure" : waits && isPatient ? "queued" : taken ? "sent" : "refused";
  const pause = Math.min(LONGEST_PAUSE_SECONDS, settings.firstPause * 2 ** Math.min(20, message.attempts - 1));
  const left = all.length === 0 ? [] : Object.entries(results).filter(([, one]) => one.state !== "taken");
  const without = taken && left.length > 0 ? `; not for ${left.map(([address]) => address).join(", ")}` : "";
  return {
    id: message.id,
    number: message.attempts,
    state,
    response: `${outcome.response}${without}`,
    results: JSON.stringify(results),
    // A line that does not come about is the identity's trouble, which rests; the message is ready when it is.
    not_before:
      state === "queued" && outcome.stage !== "connecting"
        ? new Date(now.getTime() + pause * 1000).toISOString()
        : null,
    sent_at: taken ? (message.sentAt ?? now).toISOString() : null,
    mime: frame && outcome.stage !== "connecting" ? deflateRawSync(frame).toString("base64") : null,
    sha256: raw && outcome.stage !== "connecting" ? sha256(raw) : null,
    size: raw?.length ?? null,
    outcome: outcome.kind,
    stage: outcome.stage,
  };
}

/** Gathers verdicts and writes them together; while one batch is written the next gathers. */
export class Settling {
  private waiting: { readonly verdict: Verdict; readonly run: string }[] = [];
  private writing: Promise<void> = Promise.resolve();
  private isWriting = false;

  constructor(
    private readonly context: Context,
    private readonly written: (runs: ReadonlySet<string>) => Promise<void>,
  ) {}

  add(one: Verdict, run: string): void {
    this.waiting.push({ verdict: one, run });
    if (!this.isWriting) this.writing = this.writeAll();
  }

  /** Resolves when all that was added is written. */
  async idle(): Promise<void> {
    while (this.isWriting) await this.writing;
    await this.tell(true);
  }

  private readonly touched = new Set<string>();
  private toldAt = 0;
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
    await this.written(runs).catch((error: Error) => {
      for (const run of runs) this.touched.add(run);
      this.context.log.warn({ error: error.message }, "outbox");
    });
  }

  private async writeAll(): Promise<void> {
    this.isWriting = true;
    while (this.waiting.length > 0) {
      const batch = this.waiting.splice(0);
      await this.write(batch.map((one) => one.verdict));
      for (const one of batch) this.touched.add(one.run);
      await this.tell(false);
    }
    this.isWriting = false;
  }

  private async write(verdicts: readonly Verdict[]): Promise<void> {
    for (let tries = 1; ; tries++) {
      try {
        await writeVerdicts(this.context, verdicts);
        return;
      } catch (error) {
        // What went out cannot be forgotten: as long as this process lives it goes on trying.
        if (tries % 20 === 1)
          this.context.log.error(
            { error: (error as Error).message, count: verdicts.length },
            "outcomes wait for the database",
          );
        await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
      }
    }
  }
}

async function writeVerdicts(context: Context, verdicts: readonly Verdict[]): Promise<void> {
  // A message that a sweep has called unsure meanwhile gets the true outcome: this process knows it.
  await context.database.execute(
    `WITH told AS (
       SELECT * FROM json_to_recordset($1) AS one (id bigint, number int, state text, response text, results text, not_before timestamptz,
         sent_at timestamptz, mime text, sha256 text, size int, outcome text, stage text)),
     changed AS (
       UPDATE messages SET state = CASE WHEN told.state = 'queued' AND (SELECT state FROM runs WHERE runs.id = messages.run_id) <> 'delivering' THEN 'skipped' ELSE told.state END,
         response = told.response, results = told.results::json, not_before = told.not_before,
         sent_at = coalesce(messages.sent_at, told.sent_at), mime = coalesce(decode(told.mime, 'base64'), messages.mime),
         sha256 = coalesce(told.sha256, messages.sha256), size = coalesce(told.size, messages.size), touched_at = $2
       FROM told WHERE messages.id = told.id AND messages.attempts = told.number AND messages.state IN ('sending', 'unsure') AND messages.worker = $3)
     UPDATE attempts SET finished_at = $2, outcome = told.outcome, response = told.response, stage = told.stage
     FROM told WHERE attempts.message_id = told.id AND attempts.number = told.number`,
    [JSON.stringify(verdicts), context.now(), context.process],
  );
}

/** Runs that have nothing on its way any more are done; their viewers are told. */
export async function finishRuns(context: Context, runs: readonly string[]): Promise<void> {
  if (runs.length === 0) return;
  await context.database.execute(
    `UPDATE runs SET touched_at = $2,
       state = CASE WHEN EXISTS (SELECT 1 FROM messages WHERE run_id = runs.id AND state IN ('queued', 'sending')) THEN state ELSE 'done' END,
       finished_at = CASE WHEN EXISTS (SELECT 1 FROM messages WHERE run_id = runs.id AND state IN ('queued', 'sending')) THEN finished_at ELSE $2 END
     WHERE id = ANY($1) AND state = 'delivering'`,
    [[...runs], context.now()],
  );
  for (const run of runs) await announce(context.database, { kind: "run", subject: run });
}
