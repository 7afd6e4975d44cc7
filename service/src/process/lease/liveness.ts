/** Who lives, as the supervising process sees it: by beats that go on, measured with a clock that cannot be set. */
import { endSilentWorker, livingWorkers } from "../../records/index.js";
import type { Context } from "../context.js";
import { SILENCE_MS } from "./lease.js";

/** A pause of the observer itself counts as no more than this: what it did not look at was not silent. */
const LOOK_MS = 2_000;

interface Watched {
  readonly beat: string;
  readonly silentMs: number;
}

/** Declares processes dead that have not shown themselves for a while. */
export class Liveness {
  private watched = new Map<string, Watched>();
  private lookedAt: bigint | undefined;

  constructor(private readonly context: Context) {}

  /** Looks once; gives the processes that are dead now, and have been declared so in the records. */
  async look(): Promise<string[]> {
    const rows = await livingWorkers(this.context.database);
    const now = process.hrtime.bigint();
    const passed = this.lookedAt === undefined ? 0 : Math.min(LOOK_MS, Number((now - this.lookedAt) / 1_000_000n));
    this.lookedAt = now;
    const next = new Map<string, Watched>();
    for (const { id, beat } of rows) {
      const before = this.watched.get(id);
      next.set(id, { beat, silentMs: before && before.beat === beat ? before.silentMs + passed : 0 });
    }
    this.watched = next;
    const silent = [...next].filter(([, one]) => one.silentMs >= SILENCE_MS);
    const dead: string[] = [];
    for (const [id, { beat }] of silent) {
      if (!(await endSilentWorker(this.context.database, id, beat))) continue;
      dead.push(id);
      next.delete(id);
      this.context.log.warn({ worker: id }, "a process has not shown itself and is declared dead");
    }
    return dead;
  }
}
