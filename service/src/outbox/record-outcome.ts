/** Writing down what became of messages. What has been sent is written, however long the database is away. */
import { deflateRawSync } from "node:zlib";
import { sha256 } from "@corbix/core/common";
import { fromStates, MESSAGE_MACHINE, ON_ITS_WAY, RUN_MACHINE } from "@corbix/core/delivery";
import { foldAddress } from "@corbix/core/recipients";
import { announce } from "../events/events.js";
import type { IdentitySettings } from "../mail/identities.js";
import type { Outcome } from "../mail/smtp.js";
import type { Context } from "../process/context.js";
import { retryUntilDone } from "../process/pause.js";
import { type AddressResult, listed, type MessageState } from "../records/index.js";
import { type BareMessage, LONGEST_PAUSE_SECONDS } from "./waiting.js";

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

interface Verdict {
  readonly id: string;
  readonly number: number;
  readonly state: MessageState;
  readonly response: string;
  readonly results: string;
  readonly not_before: string | null;
  readonly sent_at: string | null;
  readonly mime: string | null;
  readonly packed: string | null;
  readonly sha256: string | null;
  readonly size: number | null;
  /** Folded addresses that the ledger keeps: those taken, or that may have been. */
  readonly addresses: readonly string[];
  /** Whether nobody is left who was refused or not reached. */
  readonly complete: boolean;
  readonly outcome: string;
  readonly stage: string;
}

/** What a message becomes by what became of its addresses. */
export function nextState(
  { message, outcome, frame, raw, packed }: Settled,
  settings: IdentitySettings,
  now: Date,
): Verdict {
  const results: Record<string, AddressResult> = { ...message.results };
  for (const address of outcome.taken) results[address] = { state: "taken", response: outcome.response };
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
  const without = taken && left.length > 0 ? `; not for ${left.map(([address]) => address).join(", ")}` : "";
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

const SETTLE = `WITH told AS (
     SELECT * FROM json_to_recordset($1) AS one (id bigint, number int, state text, response text, results text, not_before timestamptz,
       sent_at timestamptz, mime text, packed text, sha256 text, size int, addresses json, complete boolean, outcome text, stage text)),
   theirs AS (
     SELECT id, state FROM runs WHERE id IN (SELECT run_id FROM messages WHERE id IN (SELECT id FROM told WHERE state = 'queued')) ORDER BY id FOR SHARE),
   changed AS (
     UPDATE messages SET state = CASE WHEN told.state <> 'queued' OR (SELECT state FROM theirs WHERE theirs.id = messages.run_id) = 'delivering' THEN told.state
         WHEN json_array_length(told.addresses) > 0 THEN 'sent' ELSE 'skipped' END,
       response = told.response, results = told.results::json, not_before = told.not_before,
       sent_at = coalesce(messages.sent_at, told.sent_at), mime = coalesce(decode(told.mime, 'base64'), messages.mime), packed = coalesce(told.packed, messages.packed),
       sha256 = coalesce(told.sha256, messages.sha256), size = coalesce(told.size, messages.size), touched_at = now()
     FROM told WHERE messages.id = told.id AND messages.attempts = told.number AND messages.state IN (${listed(fromStates(MESSAGE_MACHINE, "take"))}) AND messages.worker = $2 RETURNING messages.id),
   reached AS (
     UPDATE ledger SET addresses = ARRAY(SELECT json_array_elements_text(told.addresses)), complete = told.complete FROM told
     WHERE ledger.message_id = told.id AND told.id IN (SELECT id FROM changed) AND told.state <> 'unsure' AND json_array_length(told.addresses) > 0),
   due AS (SELECT id FROM told WHERE id IN (SELECT id FROM changed) AND state <> 'unsure' AND json_array_length(addresses) = 0),
   undone AS (DELETE FROM ledger WHERE message_id IN (SELECT id FROM due)),
   rows_due AS (DELETE FROM delivered_rows WHERE message_id IN (SELECT id FROM due))
   UPDATE attempts SET finished_at = $3, outcome = told.outcome, response = told.response, stage = told.stage
   FROM told WHERE attempts.message_id = told.id AND attempts.number = told.number AND attempts.worker = $2`;

/**
 * State, attempt and ledger together. A message that a sweep has called unsure meanwhile gets the true outcome: this process knows
 * it. The ledger keeps who was reached; where nobody was, the delivery stays due and its row goes.
 */
async function writeVerdicts(context: Context, verdicts: readonly Verdict[]): Promise<void> {
  await context.database.prepared("settle messages", SETTLE, [
    JSON.stringify(verdicts),
    context.process,
    context.now(),
  ]);
}

/** Messages that could not begin say why, and when they are looked at again; they are queued as before, and nothing counts as tried. */
export async function noteNotBegun(
  context: Context,
  id: string,
  why: string | null,
  notBefore: Date | null,
): Promise<void> {
  await context.database.execute(
    "UPDATE messages SET response = $2, not_before = $3, touched_at = now() WHERE id = $1 AND state = 'queued'",
    [id, why, notBefore],
  );
}

/** A message that everybody has had for its occasion is passed over, and says by which run. */
export async function passOver(context: Context, id: string, why: string): Promise<void> {
  await context.database.execute(
    "UPDATE messages SET state = 'skipped', response = $2, touched_at = now() WHERE id = $1 AND state = ANY($3)",
    [id, why, fromStates(MESSAGE_MACHINE, "pass-over")],
  );
}

/** Runs that have nothing on its way any more are done; their viewers are told. */
export async function finishRuns(context: Context, runs: readonly string[]): Promise<void> {
  if (runs.length === 0) return;
  const { database } = context;
  await database.transaction(async (transaction) => {
    // Two statements: what was queued while the run's row was waited for has to be seen.
    await database.select(
      "SELECT id FROM runs WHERE id = ANY($1) AND state = ANY($2) ORDER BY id FOR UPDATE",
      [[...runs], fromStates(RUN_MACHINE, "finish")],
      transaction,
    );
    await database.execute(
      `UPDATE runs SET state = 'done', finished_at = now() WHERE id = ANY($1) AND state = ANY($2)
         AND NOT EXISTS (SELECT 1 FROM messages WHERE run_id = runs.id AND state = ANY($3))`,
      [[...runs], fromStates(RUN_MACHINE, "finish"), ON_ITS_WAY],
      transaction,
    );
  });
  for (const run of runs) await announce(context.database, { kind: "run", subject: run });
}
