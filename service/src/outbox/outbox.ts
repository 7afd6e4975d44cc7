/** The outbox: sends what waits, each once, at the pace of its identity. */

import { CorbixError, known, wordsOf } from "@corbix/core/common";
import { foldAddress } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { reconcile } from "../journal/reconcile.js";
import { type Outcome, smtpSender } from "../mail/smtp.js";
import { monotonicMs } from "../process/clock.js";
import type { Context } from "../process/context.js";
import { pause, retryUntilDone } from "../process/pause.js";
import { spanned, traceFrom, tracing } from "../process/trace.js";
import {
  type BareMessage,
  endRest,
  holdIdentity,
  identityNames,
  letIdentityGo,
  restIdentity,
  type SenderKind,
  type SentRun,
  sentRuns,
} from "../records/index.js";
import { Beginner } from "./begin.js";
import { type Carriage, type Carrier, carriageOf, type Loaded, type OpenSender } from "./carriage.js";
import { envelopeOf } from "./compose.js";
import { tellIncident } from "./incident.js";
import { Pace } from "./pace.js";
import { finishRuns, nextState, noteNotBegun, passOver, type Settled, Settling } from "./record-outcome.js";
import { type Due, dueOf, forgottenMessages, type Had, type WaitingMessage, waitingMessages } from "./waiting.js";

/** An idle outbox looks for messages so often. */
const IDLE_MS = 200;
/** One process at a time sends for an identity: it holds it for so long, and takes it anew before that is over. */
const HOLD_SECONDS = 15;
const RENEW_MS = 4_000;
/** A server that cannot be reached is left alone for so long, then twice as long, and so on. */
const FIRST_REST_SECONDS = 2;
const LONGEST_REST_SECONDS = 300;
/** A message that our own side keeps from going is looked at again after so long, then twice as long, and so on. */
const FIRST_TROUBLE_MS = 2_000;
const LONGEST_TROUBLE_MS = 300_000;
/** A message whose run was paused, or whose people were reached, between looking and beginning is looked at again after this. */
const NOT_BEGUN_MS = 1_000;
/** Messages a minute from which the next are taken up before there is a line for them. */
const QUICK = 600;
/** Settings of an identity are read again so often. */
const SETTINGS_MS = 1_000;

/** Beginnings that were never heard of are looked for so often. */
const FORGOTTEN_MS = 5_000;
const notHeard = (): Outcome => ({
  kind: "later",
  stage: "envelope",
  response: say().serviceOutbox.beginningNotHeard(),
  taken: [],
  later: [],
  refused: [],
});

/** Sends until told to stop; then waits for what is on its way. */
export async function sendUntil(context: Context, stopped: AbortSignal, open: OpenSender = smtpSender): Promise<void> {
  const boxes = new Map<string, IdentitySender>();
  await retryUntilDone(context, () => reconcile(context));
  try {
    while (!stopped.aborted) {
      try {
        const known = await identityNames(context.database);
        for (const { name, kind } of known)
          if (!boxes.has(name)) boxes.set(name, new IdentitySender(context, name, kind, open));
      } catch (error) {
        context.log.error({ error: wordsOf(error) }, "outbox");
      }
      for (const box of boxes.values()) box.start(stopped);
      await pause(IDLE_MS * 5, stopped);
    }
  } finally {
    await Promise.all([...boxes.values()].map((box) => box.end()));
  }
}

/** Sends once what can be sent now, and waits for it: for tests and for commands that end. */
export async function sendWaiting(
  context: Context,
  identity: string,
  open: OpenSender,
  kind: SenderKind = "mail",
): Promise<void> {
  const box = new IdentitySender(context, identity, kind, open);
  await box.drain();
  await box.end();
}

class IdentitySender {
  private readonly settling: Settling;
  private readonly beginner: Beginner;
  private identity: Carriage | undefined;
  private readAt = Number.NEGATIVE_INFINITY;
  /** Times are of the monotonic clock, which nobody can set. */
  private heldUntil = 0;
  /** Messages this process is at, none of which it takes up twice. */
  private readonly onTheWay = new Set<string>();
  /** Messages of which it is not written down yet what became of them: until then nobody knows how they stand. */
  private readonly unsettled = new Set<string>();
  private lookedAt = Number.NEGATIVE_INFINITY;
  /** How often our own side has kept a message from going, one after the other. */
  private readonly troubles = new Map<string, number>();
  private carrier: { readonly key: string; readonly carrier: Carrier } | undefined;
  private loop: Promise<void> | undefined;
  private wake: () => void = () => {};
  private readonly pace: Pace;

  constructor(
    private readonly context: Context,
    private readonly name: string,
    private readonly kind: SenderKind,
    private readonly open: OpenSender,
  ) {
    this.settling = new Settling(context, (runs) => finishRuns(context, [...runs]));
    this.beginner = new Beginner(context, name);
    this.pace = new Pace(context, name, IDLE_MS);
  }

  start(stopped: AbortSignal): void {
    this.loop ??= this.run(stopped).catch((error: Error) => {
      this.context.log.error({ identity: this.name, error: error.message }, "outbox");
      this.loop = undefined;
    });
  }

  async end(): Promise<void> {
    await this.loop;
    while (this.onTheWay.size > 0) await this.waitForWake(IDLE_MS);
    await this.settling.idle();
    this.carrier?.carrier.close();
    await letIdentityGo(this.context.database, this.name, this.context.process).catch(() => {});
  }

  /** Sends until nothing waits that could go now. */
  async drain(): Promise<void> {
    while ((await this.step()) || this.onTheWay.size > 0) await this.waitForWake(IDLE_MS);
  }

  private async run(stopped: AbortSignal): Promise<void> {
    while (!stopped.aborted) {
      const went = await this.step().catch((error: Error) => {
        this.context.log.error({ identity: this.name, error: error.message }, "outbox");
        return false;
      });
      if (!went) await this.waitForWake(IDLE_MS);
    }
  }

  /** Takes what may go now and begins to send it; tells whether it took any. */
  private async step(): Promise<boolean> {
    if (!this.context.lease.isHeld() || !(await this.context.journal.isWritable())) return false;
    const identity = await this.current();
    if (identity) await this.takeBackForgotten(identity);
    if (!identity || identity.paused || identity.isResting) return false;
    const { connections } = identity.settings;
    // At a quick pace the next messages are made ready while those before them are on their lines.
    const most = identity.settings.perMinute >= QUICK ? 2 * connections : connections;
    const free = most - this.onTheWay.size;
    // Half of the connections at once: few round trips to the database, and the lines stay busy.
    if (free < Math.ceil(connections / 2) && this.onTheWay.size > 0) return false;
    const count = Math.min(free, await this.pace.slots(identity.settings, this.onTheWay.size));
    if (count < 1 || !(await this.hold())) return false;
    const waiting = await waitingMessages(this.context, this.name, count, [...this.onTheWay, ...this.unsettled]);
    if (waiting.length === 0) return false;
    this.pace.used(identity.settings, waiting.length);
    for (const { message } of waiting) this.onTheWay.add(message.id);
    this.sendAll(identity, waiting).catch((error: Error) => {
      this.context.log.error({ error: error.message }, "outbox");
      for (const { message } of waiting) this.onTheWay.delete(message.id);
    });
    return true;
  }

  /** Nothing of these has begun: what cannot be read now waits as before. */
  private async sendAll(identity: Carriage, waiting: readonly WaitingMessage[]): Promise<void> {
    const runs = await runFacts(this.context, new Set(waiting.map(({ message }) => message.runId)));
    for (const one of waiting) {
      const { id, runId } = one.message;
      const facts = known(runs, runId);
      const sending = (): Promise<void> =>
        spanned("send", { "corbix.run": runId, "corbix.message": id }, () => this.send(identity, one, facts));
      tracing(traceFrom(facts.run.trace ?? undefined), sending)
        .catch((error: Error) => this.context.log.error({ message: id, error: error.message }, "outbox"))
        .finally(() => {
          this.onTheWay.delete(id);
          this.wake();
        });
    }
  }

  private async send(identity: Carriage, waiting: WaitingMessage, { run, report }: RunFacts): Promise<void> {
    const { context } = this;
    const { message, parcel, files } = waiting;
    const isAgain = (message.againReason ?? run.againReason) !== null;
    const due = run.rehearsalTo === null ? dueOf(message, waiting.had, isAgain) : rehearsed(message, run);
    if (due.addresses.length === 0) {
      await passOver(context, message.id, hadAlready(waiting.had));
      this.settling.touch(message.runId);
      return;
    }
    const dated = { ...message, datedAt: message.datedAt ?? context.now() };
    let loaded: Loaded;
    try {
      loaded = await this.carrierOf(identity).load(dated, { run, report, parcel, files, isRepeat: due.isRepeat });
    } catch (error) {
      await this.ownTrouble(message, error);
      return;
    }
    this.troubles.delete(message.id);
    let attempt: number | undefined;
    let isAnswerLost = false;
    const outcome = await loaded.send({
      to: due.addresses,
      isOurs: () => context.lease.isHeld(),
      begin: async () => {
        // Where the database took it and its answer is lost, nothing goes out; that is written down below.
        isAnswerLost = true;
        attempt = await this.beginner.begin({
          id: message.id,
          runId: message.runId,
          shared: waiting.shared,
          addresses: due.addresses,
          people: due.people,
          isAgain,
          datedAt: dated.datedAt,
        });
        isAnswerLost = false;
        return attempt !== undefined && context.lease.isHeld();
      },
    });
    if (isAnswerLost) attempt = message.attempts + 1;
    if (attempt === undefined) await this.notBegun(message, outcome);
    else {
      this.settle(identity, {
        message: { ...dated, attempts: attempt },
        outcome,
        frame: loaded.frame,
        raw: loaded.raw,
        packed: loaded.packed,
      });
    }
    await this.restAfter(outcome);
    context.log.info(
      {
        run: message.runId,
        message: message.id,
        attempt: attempt ?? null,
        outcome: outcome.kind,
        stage: outcome.stage,
        response: outcome.response,
      },
      "message",
    );
  }

  /** Writes down what became of a message; until that is done it is not taken up again. */
  private settle({ settings }: Carriage, one: Settled): void {
    const { id, runId } = one.message;
    noteEnd(this.context, one);
    this.unsettled.add(id);
    this.settling.add(nextState(one, settings, this.context.now()), runId, () => this.unsettled.delete(id));
  }

  /** A beginning that the database wrote down after its connection broke is put off: nothing of it went out. */
  private async takeBackForgotten(identity: Carriage): Promise<void> {
    if (monotonicMs() - this.lookedAt < FORGOTTEN_MS) return;
    this.lookedAt = monotonicMs();
    const atThem = [...this.onTheWay, ...this.unsettled];
    for (const message of await forgottenMessages(this.context, this.name, atThem))
      this.settle(identity, { message, outcome: notHeard(), frame: undefined, raw: undefined, packed: undefined });
  }

  /** Nothing of it went out: it waits as before, and says for what. What no longer holds is asked again in a moment. */
  private async notBegun(message: BareMessage, outcome: Outcome): Promise<void> {
    if (outcome.stage === "connecting") await noteNotBegun(this.context, message.id, outcome.response, null);
    else
      await noteNotBegun(
        this.context,
        message.id,
        message.response,
        new Date(this.context.now().getTime() + NOT_BEGUN_MS),
      );
  }

  /** What keeps a message from going on our own side is tried again with patience, and never called a refusal. */
  private async ownTrouble(message: BareMessage, error: unknown): Promise<void> {
    await tellIncident(this.context, message, error);
    const tries = this.troubles.get(message.id) ?? 0;
    this.troubles.set(message.id, tries + 1);
    const pauseMs = Math.min(LONGEST_TROUBLE_MS, FIRST_TROUBLE_MS * 2 ** Math.min(tries, 10));
    const why =
      error instanceof CorbixError ? error.toLine() : say().serviceOutbox.somethingWentWrong({ error: wordsOf(error) });
    await noteNotBegun(this.context, message.id, why, new Date(this.context.now().getTime() + pauseMs));
    this.settling.touch(message.runId);
    this.context.log.warn({ run: message.runId, message: message.id, error: why }, "message waits for our own side");
  }

  private carrierOf({ key, open }: Carriage): Carrier {
    if (this.carrier?.key !== key) {
      this.carrier?.carrier.close();
      this.carrier = { key, carrier: open() };
    }
    return this.carrier.carrier;
  }

  /** A server that cannot be reached or asks for patience is left alone for a while, by all messages of the identity. */
  private async restAfter(outcome: Outcome): Promise<void> {
    const isTrouble = outcome.kind === "later" && (outcome.stage === "connecting" || /^421\b/.test(outcome.response));
    if (!isTrouble && (this.identity?.restWhy ?? null) === null) return;
    const { database } = this.context;
    const seconds = { first: FIRST_REST_SECONDS, longest: LONGEST_REST_SECONDS };
    await (isTrouble
      ? restIdentity(database, this.name, outcome.response, seconds)
      : endRest(database, this.name)
    ).catch(() => {});
    this.readAt = Number.NEGATIVE_INFINITY;
  }

  private async current(): Promise<Carriage | undefined> {
    if (monotonicMs() - this.readAt < SETTINGS_MS) return this.identity;
    this.identity = await carriageOf(this.context, this.name, this.kind, this.open);
    this.readAt = monotonicMs();
    return this.identity;
  }

  /** Only one process sends for an identity, so that pace and connections are kept on all machines together. */
  private async hold(): Promise<boolean> {
    const asked = monotonicMs();
    if (asked < this.heldUntil - HOLD_SECONDS * 1000 + RENEW_MS) return true;
    if (!(await holdIdentity(this.context.database, this.name, this.context.process, HOLD_SECONDS))) {
      this.heldUntil = 0;
      return false;
    }
    this.heldUntil = asked + HOLD_SECONDS * 1000;
    return true;
  }

  private waitForWake(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}

/** The journal is told, too; where it cannot be written, its beginning stands there without an end. */
function noteEnd(context: Context, { message, outcome }: Settled): void {
  context.journal
    .end({
      kind: "end",
      at: context.now().toISOString(),
      run: message.runId,
      message: message.messageId,
      attempt: message.attempts,
      outcome: outcome.kind,
      stage: outcome.stage,
      response: outcome.response,
      taken: outcome.taken.map(foldAddress),
    })
    .catch((error: Error) => context.log.error({ message: message.id, error: error.message }, "journal"));
}

/** A rehearsal goes to its own address, and counts for nobody. */
function rehearsed(message: BareMessage, run: SentRun): Due {
  const { to } = envelopeOf(message, run);
  const addresses = to.map((one) => one.address).filter((address) => message.results[address]?.state !== "taken");
  return { addresses, people: addresses, isRepeat: false };
}

/** Why a message is passed over, for people. */
function hadAlready({ by, hasRows }: Had): string {
  const when = by ? say().serviceOutbox.byRun(by) : "";
  return say().serviceOutbox.rowWentOutGroupAlready({ hasRows, when });
}

interface RunFacts {
  readonly run: SentRun;
  readonly report: Report;
}

async function runFacts({ caches, database }: Context, ids: ReadonlySet<string>): Promise<Map<string, RunFacts>> {
  const found = new Map<string, RunFacts>();
  for (const id of ids) {
    const known = caches.sentRuns.get(id);
    if (known) found.set(id, known);
  }
  const unknown = [...ids].filter((id) => !found.has(id));
  if (unknown.length === 0) return found;
  for (const { definition: report, ...run } of await sentRuns(database, unknown)) {
    found.set(run.id, { run, report });
    caches.sentRuns.set(run.id, { run, report });
  }
  return found;
}
