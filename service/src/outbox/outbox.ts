/** The outbox: sends what waits, each once, at the pace of its identity. */
import { CorbixError } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import { noteAction } from "../actions.js";
import type { Context } from "../context.js";
import { announce } from "../events.js";
import { getReportVersion } from "../library.js";
import { getIdentity, type OpenIdentity } from "../mail/identities.js";
import { type MailSender, type MailServer, type Outcome, smtpSender } from "../mail/smtp.js";
import { pause } from "../pause.js";
import type { FileRow, MessageRow, ParcelRow, RunRow } from "../records/index.js";
import { errorFacts, moveRun } from "../run/run-records.js";
import { type ClaimedMessage, claim, claimedMessages } from "./claim.js";
import { type ComposedMail, composeMail, type MessageFacts } from "./compose.js";
import { finishRuns, Settling, verdict } from "./settle.js";

/** An idle outbox looks for messages so often. */
const IDLE_MS = 200;
/** One process at a time sends for an identity: it holds it for so long, and takes it anew before that is over. */
const HOLD_SECONDS = 15;
const RENEW_MS = 4_000;
/** A server that cannot be reached is left alone for so long, then twice as long, and so on. */
const FIRST_REST_SECONDS = 2;
const LONGEST_REST_SECONDS = 300;
/** Messages a minute from which the next are taken up before there is a line for them. */
const QUICK = 600;
/** Settings of an identity are read again so often. */
const SETTINGS_MS = 1_000;

/** Opens senders; tests put in one that does as it is told. */
export type OpenSender = (server: MailServer, connections: number) => MailSender;

/** Sends until told to stop; then waits for what is on its way. */
export async function sendUntil(context: Context, stopped: AbortSignal, open: OpenSender = smtpSender): Promise<void> {
  const boxes = new Map<string, IdentityBox>();
  try {
    while (!stopped.aborted) {
      try {
        const names = await context.database.select<{ name: string }>("SELECT name FROM identities");
        for (const { name } of names) if (!boxes.has(name)) boxes.set(name, new IdentityBox(context, name, open));
      } catch (error) {
        context.log.error({ error: (error as Error).message }, "outbox");
      }
      for (const box of boxes.values()) box.start(stopped);
      await pause(IDLE_MS * 5, stopped);
    }
  } finally {
    await Promise.all([...boxes.values()].map((box) => box.end()));
  }
}

/** Sends once what can be sent now, and waits for it: for tests and for commands that end. */
export async function sendWaiting(context: Context, identity: string, open: OpenSender): Promise<void> {
  const box = new IdentityBox(context, identity, open);
  await box.drain();
  await box.end();
}

class IdentityBox {
  private readonly settling: Settling;
  private identity: OpenIdentity | undefined;
  private readAt = 0;
  private heldUntil = 0;
  private onTheWay = 0;
  private sender: { readonly key: string; readonly sender: MailSender } | undefined;
  private loop: Promise<void> | undefined;
  private wake: () => void = () => {};
  /** When the next message may go, as the pace has it. */
  private nextSlot = 0;

  constructor(
    private readonly context: Context,
    private readonly name: string,
    private readonly open: OpenSender,
  ) {
    this.settling = new Settling(context, (runs) => finishRuns(context, [...runs]));
  }

  start(stopped: AbortSignal): void {
    this.loop ??= this.run(stopped).catch((error: Error) => {
      this.context.log.error({ identity: this.name, error: error.message }, "outbox");
      this.loop = undefined;
    });
  }

  async end(): Promise<void> {
    await this.loop;
    while (this.onTheWay > 0) await this.woken(IDLE_MS);
    await this.settling.idle();
    this.sender?.sender.close();
    await this.context.database
      .execute("UPDATE identities SET held_until = now() WHERE name = $1 AND holder = $2", [
        this.name,
        this.context.process,
      ])
      .catch(() => {});
  }

  /** Sends until nothing waits that could go now. */
  async drain(): Promise<void> {
    while (await this.step()) await this.woken(IDLE_MS);
    while (this.onTheWay > 0) await this.woken(IDLE_MS);
  }

  private async run(stopped: AbortSignal): Promise<void> {
    while (!stopped.aborted) {
      const went = await this.step().catch((error: Error) => {
        this.context.log.error({ identity: this.name, error: error.message }, "outbox");
        return false;
      });
      if (!went) await this.woken(IDLE_MS);
    }
  }

  /** Takes what may go now and begins to send it; tells whether it took any. */
  private async step(): Promise<boolean> {
    const identity = await this.current();
    if (!identity || identity.paused || (identity.restUntil && identity.restUntil.getTime() > Date.now())) return false;
    const { connections } = identity.settings;
    // At a quick pace the next messages are made ready while those before them are on their lines.
    const most = identity.settings.perMinute >= QUICK ? 2 * connections : connections;
    const free = most - this.onTheWay;
    // Half of the connections at once: few round trips to the database, and the lines stay busy.
    if (free < Math.ceil(connections / 2) && this.onTheWay > 0) return false;
    const count = Math.min(free, await this.slots(identity));
    if (count < 1 || !(await this.hold())) return false;
    const claimed = await claim(this.context, this.name, count);
    if (claimed.length === 0) return false;
    this.usedSlots(identity, claimed.length);
    this.onTheWay += claimed.length;
    this.sendAll(identity, claimed).catch((error: Error) => this.context.log.error({ error: error.message }, "outbox"));
    return true;
  }

  /** What cannot be read now is read again: these messages are this process's own, and nobody else sends them. */
  private async sendAll(identity: OpenIdentity, claimed: readonly ClaimedMessage[]): Promise<void> {
    const facts = factsOf(this.context, claimed);
    // Where they cannot be read, each message says so for itself.
    facts.catch(() => {});
    const messages = await this.patiently(() => claimedMessages(this.context, claimed));
    for (const message of messages)
      this.send(identity, message, facts)
        .catch((error: Error) => this.context.log.error({ message: message.id, error: error.message }, "outbox"))
        .finally(() => {
          this.onTheWay--;
          this.wake();
        });
  }

  private async patiently<T>(work: () => Promise<T>): Promise<T> {
    for (;;) {
      try {
        return await work();
      } catch (error) {
        this.context.log.error({ error: (error as Error).message }, "messages wait for the database");
        await new Promise((resolve) => setTimeout(resolve, IDLE_MS));
      }
    }
  }

  private async send(
    identity: OpenIdentity,
    message: MessageRow,
    facts: Promise<(message: MessageRow) => Omit<MessageFacts, "identity">>,
  ): Promise<void> {
    let mail: ComposedMail | undefined;
    let outcome: Outcome;
    try {
      mail = await composeMail(this.context, message, { ...(await facts)(message), identity });
      outcome =
        mail.to.length === 0
          ? { kind: "sent", response: message.response ?? "", stage: "answer", taken: [], later: [], refused: [] }
          : await this.senderOf(identity).send(mail);
    } catch (error) {
      outcome = notComposed(error);
      await this.incident(message, error);
    }
    this.settling.add(
      verdict({ message, outcome, frame: mail?.frame, raw: mail?.raw }, identity.settings, this.context.now()),
      message.runId,
    );
    await this.restAfter(outcome);
    this.context.log.info(
      {
        run: message.runId,
        message: message.id,
        outcome: outcome.kind,
        stage: outcome.stage,
        response: outcome.response,
      },
      "message",
    );
  }

  private senderOf({ server, settings }: OpenIdentity): MailSender {
    const key = JSON.stringify([server, settings.connections]);
    if (this.sender?.key !== key) {
      this.sender?.sender.close();
      this.sender = { key, sender: this.open(server, settings.connections) };
    }
    return this.sender.sender;
  }

  /** A server that cannot be reached or asks for patience is left alone for a while, by all messages of the identity. */
  private async restAfter(outcome: Outcome): Promise<void> {
    const isTrouble = outcome.kind === "later" && (outcome.stage === "connecting" || /^421\b/.test(outcome.response));
    if (!isTrouble && (this.identity?.restWhy ?? null) === null) return;
    await this.context.database
      .execute(
        isTrouble
          ? `UPDATE identities SET failures = failures + 1, rest_why = $2, rest_until = now() + least($4, $3 * power(2, least(failures, 12))) * interval '1 second'
             WHERE name = $1 AND (rest_until IS NULL OR rest_until <= now())`
          : "UPDATE identities SET failures = 0, rest_why = NULL, rest_until = NULL WHERE name = $1 AND $2::text IS NOT NULL AND $3::int > 0 AND $4::int > 0",
        [this.name, outcome.response, FIRST_REST_SECONDS, LONGEST_REST_SECONDS],
      )
      .catch(() => {});
    this.readAt = 0;
  }

  private async current(): Promise<OpenIdentity | undefined> {
    if (Date.now() - this.readAt < SETTINGS_MS) return this.identity;
    this.identity = await getIdentity(this.context, this.name);
    this.readAt = Date.now();
    return this.identity;
  }

  /** How many messages the pace allows now. */
  private async slots({ settings }: OpenIdentity): Promise<number> {
    const interval = 60_000 / settings.perMinute;
    const now = Date.now();
    if (this.nextSlot === 0) this.nextSlot = await this.storedSlot(now);
    // What was not used a moment ago may be made up for, no more.
    this.nextSlot = Math.max(this.nextSlot, now - IDLE_MS);
    const minute = Math.max(0, Math.floor((now - this.nextSlot) / interval) + (this.nextSlot <= now ? 1 : 0));
    if (settings.perHour === undefined || minute === 0) return minute;
    const [{ count }] = await this.context.database.select<{ count: number }>(
      "SELECT count(*)::int AS count FROM attempts WHERE identity = $1 AND started_at > $2::timestamptz - interval '1 hour'",
      [this.name, this.context.now()],
    );
    return Math.min(minute, Math.max(0, settings.perHour - count));
  }

  private async storedSlot(now: number): Promise<number> {
    const [row] = await this.context.database.select<{ wait: number }>(
      "SELECT extract(epoch FROM (next_slot_at - now())) * 1000 AS wait FROM identities WHERE name = $1",
      [this.name],
    );
    return now + Number(row?.wait ?? 0);
  }

  private usedSlots({ settings }: OpenIdentity, count: number): void {
    const interval = 60_000 / settings.perMinute;
    this.nextSlot += count * interval;
    // A slow pace has to outlive this process.
    if (interval > 1_000)
      this.context.database
        .execute("UPDATE identities SET next_slot_at = now() + $2 * interval '1 millisecond' WHERE name = $1", [
          this.name,
          Math.max(0, this.nextSlot - Date.now()),
        ])
        .catch(() => {});
  }

  /** Only one process sends for an identity, so that pace and connections are kept on all machines together. */
  private async hold(): Promise<boolean> {
    if (Date.now() < this.heldUntil - HOLD_SECONDS * 1000 + RENEW_MS) return true;
    const held = await this.context.database.execute(
      "UPDATE identities SET holder = $2, held_until = now() + $3 * interval '1 second' WHERE name = $1 AND (holder = $2 OR holder IS NULL OR held_until < now())",
      [this.name, this.context.process, HOLD_SECONDS],
    );
    if (held === 0) {
      this.heldUntil = 0;
      return false;
    }
    this.heldUntil = Date.now() + HOLD_SECONDS * 1000;
    return true;
  }

  private async incident(message: MessageRow, error: unknown): Promise<void> {
    if (!(error instanceof CorbixError) || error.code !== "PROVENANCE_MISMATCH") return;
    const { context } = this;
    await moveRun(context, message.runId, ["delivering"], "stopped", {
      error: errorFacts(error),
      finishedAt: context.now(),
    });
    await context.database.execute(
      "UPDATE messages SET state = 'skipped', response = 'the run was stopped' WHERE run_id = $1 AND state = 'queued'",
      [message.runId],
    );
    await noteAction(context.database, "corbix", "incident: provenance mismatch", message.runId, {
      message: message.id,
      reason: error.toLine(),
    });
    await announce(context.database, { kind: "run", subject: message.runId });
  }

  private woken(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}

/** Nothing was handed over: what can never be composed is refused with the reason, other troubles may pass. */
function notComposed(error: unknown): Outcome {
  const isKnown = error instanceof CorbixError;
  const response = isKnown ? error.toLine() : error instanceof Error ? error.message : String(error);
  return { kind: isKnown ? "refused" : "later", response, stage: "envelope", taken: [], later: [], refused: [] };
}

/** What messages are made of, read for all of them together. */
async function factsOf(
  context: Context,
  messages: readonly ClaimedMessage[],
): Promise<(message: MessageRow) => Omit<MessageFacts, "identity">> {
  const { models } = context.database;
  const ids = messages.map((message) => message.parcelId);
  const [parcels, files, runs] = await Promise.all([
    models.Parcel.findAll({ where: { id: ids }, attributes: { exclude: ["lines"] }, raw: true }) as unknown as Promise<
      ParcelRow[]
    >,
    models.File.findAll({ where: { parcelId: ids }, raw: true }) as unknown as Promise<FileRow[]>,
    Promise.all([...new Set(messages.map((message) => message.runId))].map((id) => runFacts(context, id))),
  ]);
  return (message) => {
    const { run, report } = runs.find((one) => one.run.id === message.runId) as RunFacts;
    return {
      run,
      report,
      parcel: parcels.find((one) => one.id === message.parcelId) as ParcelRow,
      files: files.filter((one) => one.parcelId === message.parcelId),
    };
  };
}

interface RunFacts {
  readonly run: RunRow;
  readonly report: Report;
}

/** What of a run its messages need; nothing of it changes while it delivers. */
const RUNS = new Map<string, RunFacts>();
const RUNS_KEPT = 50;

async function runFacts(context: Context, id: string): Promise<RunFacts> {
  const known = RUNS.get(id);
  if (known) return known;
  const run = (await context.database.models.Run.findByPk(id, {
    attributes: ["id", "report", "reportVersion", "period", "rehearsalTo", "againReason", "onlyRows", "templates"],
    raw: true,
  })) as unknown as RunRow;
  const made = { run, report: (await getReportVersion(context, run.report, run.reportVersion)).definition };
  if (RUNS.size >= RUNS_KEPT) RUNS.clear();
  RUNS.set(id, made);
  return made;
}
