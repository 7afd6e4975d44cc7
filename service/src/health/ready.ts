/** Whether the service can do its work now: each thing it needs, looked at by itself. */
import { statfs } from "node:fs/promises";
import { wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { monotonicMs } from "../process/clock.js";
import type { Context } from "../process/context.js";
import { isAnswering, isHalted, livingOfKind } from "../records/index.js";

export type CheckName = "database" | "store" | "journal" | "workers" | "outbox" | "clock" | "room" | "sending";

export interface Check {
  readonly name: CheckName;
  /** `warn` is worth a look and keeps nothing from working. */
  readonly state: "ok" | "warn" | "fail";
  readonly what: string;
  readonly advice: string | null;
}

export interface Readiness {
  readonly ok: boolean;
  readonly checks: readonly Check[];
}

/** A look is good for so long: whoever asks often asks nobody behind it. */
const GOOD_MS = 2_000;
/** The store is written to no more often. */
const STORE_MS = 15_000;
/** A process shows itself each second. */
const SILENT_SECONDS = 10;
/** The machine's clock may be so far from the database's before that is told. */
const CLOCK_MS = 5_000;
/** Less free than this is told. */
const ROOM_BYTES = 2 ** 30;
const ROOM_SHARE = 0.05;

export class Ready {
  private last: { readonly at: number; readonly readiness: Promise<Readiness> } | undefined;
  private store: { readonly at: number; readonly check: Promise<Check> } | undefined;
  private isDraining = false;

  constructor(private readonly context: Context) {}

  /** From now on nothing new should come here: the service is about to end. */
  drain(): void {
    this.isDraining = true;
  }

  look(): Promise<Readiness> {
    const now = monotonicMs();
    if (!this.last || now - this.last.at > GOOD_MS) this.last = { at: now, readiness: this.lookNow() };
    return this.last.readiness.then((one) => (this.isDraining ? { ...one, ok: false } : one));
  }

  private async lookNow(): Promise<Readiness> {
    const database = await this.checkDatabase();
    const isUp = database.state === "ok";
    const checks = [
      database,
      await this.checkStore(),
      await this.checkJournal(),
      await this.checkRoom(),
      ...(isUp ? [...(await this.checkProcesses()), this.checkClock(), await this.checkSending()] : []),
    ];
    return { ok: checks.every(({ state }) => state !== "fail"), checks };
  }

  private async checkDatabase(): Promise<Check> {
    const started = monotonicMs();
    try {
      await isAnswering(this.context.database);
      return ok("database", say().serviceHealth.answers({ ms: monotonicMs() - started }));
    } catch (error) {
      this.context.log.warn({ error: wordsOf(error) }, "database not ready");
      return fail("database", say().serviceHealth.databaseAway(), say().serviceHealth.startDatabase());
    }
  }

  private checkStore(): Promise<Check> {
    const now = monotonicMs();
    if (!this.store || now - this.store.at > STORE_MS)
      this.store = {
        at: now,
        check: this.context.store.probe().then(
          () => ok("store", say().serviceHealth.writable()),
          (error: unknown) => {
            this.context.log.warn({ error: wordsOf(error) }, "store not ready");
            return fail("store", say().serviceHealth.storeUnwritable(), say().serviceHealth.seeStore());
          },
        ),
      };
    return this.store.check;
  }

  private async checkJournal(): Promise<Check> {
    return (await this.context.journal.isWritable())
      ? ok("journal", say().serviceHealth.writable())
      : fail("journal", say().serviceHealth.journalUnwritable(), say().serviceHealth.seeStore());
  }

  private async checkProcesses(): Promise<Check[]> {
    const { worker, outbox } = await livingOfKind(this.context.database, SILENT_SECONDS);
    return [
      worker > 0
        ? ok("workers", say().serviceHealth.live({ count: worker }))
        : fail("workers", say().serviceHealth.noWorker(), say().serviceHealth.seeLog()),
      outbox > 0
        ? ok("outbox", say().serviceHealth.live({ count: outbox }))
        : fail("outbox", say().serviceHealth.noOutbox(), say().serviceHealth.seeLog()),
    ];
  }

  private checkClock(): Check {
    const apart = Math.abs(this.context.now().getTime() - Date.now());
    return apart <= CLOCK_MS
      ? ok("clock", say().serviceHealth.clockRight())
      : {
          name: "clock",
          state: "warn",
          what: say().serviceHealth.clockApart({ seconds: Math.round(apart / 1000) }),
          advice: say().serviceHealth.setClock(),
        };
  }

  private async checkRoom(): Promise<Check> {
    try {
      const { bavail, blocks, bsize } = await statfs(this.context.settings.data);
      const free = bavail * bsize;
      const what = say().serviceHealth.free({ free, total: blocks * bsize });
      return free < Math.min(ROOM_BYTES, blocks * bsize * ROOM_SHARE)
        ? { name: "room", state: "warn", what, advice: say().serviceHealth.makeRoom() }
        : ok("room", what);
    } catch {
      return { name: "room", state: "warn", what: say().serviceHealth.roomUnknown(), advice: null };
    }
  }

  private async checkSending(): Promise<Check> {
    return (await isHalted(this.context.database))
      ? {
          name: "sending",
          state: "warn",
          what: say().serviceHealth.halted(),
          advice: say().serviceJournal.lookThenGoOn(),
        }
      : ok("sending", say().serviceHealth.notHalted());
  }
}

const ok = (name: CheckName, what: string): Check => ({ name, state: "ok", what, advice: null });
const fail = (name: CheckName, what: string, advice: string): Check => ({ name, state: "fail", what, advice });
