/** The one clock that decisions about time use: the database's, whatever this machine's says. */
import { clockMs, type Database } from "../records/index.js";

/** The database's clock is asked again so often; between, a monotonic clock goes on from its answer. */
const ASK_MS = 5_000;
/** An answer that took longer is not taken. */
const MOST_WAY_NS = 1_000_000_000n;

/** Milliseconds of a clock that nobody can set, for pauses. */
export function monotonicMs(): number {
  return Number(process.hrtime.bigint() / 1_000_000n);
}

export interface Clock {
  readonly now: () => Date;
  readonly close: () => void;
}

/** Asks the database for the time, and again from time to time. */
export async function databaseClock(database: Database): Promise<Clock> {
  let base = 0;
  let askedAt = 0n;
  const ask = async (): Promise<void> => {
    const before = process.hrtime.bigint();
    const ms = await clockMs(database);
    const after = process.hrtime.bigint();
    // An answer that was long on its way, as in a process that was frozen, tells little; the one before is gone on from.
    if (askedAt !== 0n && after - before > MOST_WAY_NS) return;
    // The answer is as old as half of its way.
    base = ms;
    askedAt = before + (after - before) / 2n;
  };
  await ask();
  const timer = setInterval(() => void ask().catch(() => {}), ASK_MS);
  timer.unref();
  return {
    now: () => new Date(base + Number((process.hrtime.bigint() - askedAt) / 1_000_000n)),
    close: () => clearInterval(timer),
  };
}
