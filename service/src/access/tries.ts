/** Tries that somebody could guess by are counted before anything is looked at: by all processes together. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { countTry, type Database, forgetTries } from "../records/index.js";

/** Beyond so many those whose window is over are forgotten. */
const KEPT = 10_000;

/** What is counted, and how often it may be tried within its window. */
export interface Counted {
  readonly key: string;
  readonly most: number;
  readonly seconds: number;
}

export class Tries {
  /** What this process has counted by itself: of a flood no more than the first few reach the database. */
  private readonly own = new Map<string, { count: number; until: number }>();

  constructor(
    private readonly database: Database,
    /** Milliseconds of a clock that cannot be set. */
    private readonly now: () => number,
  ) {}

  /** Counts a try. Throws `TOO_MANY_TRIES`; `onFirst` is called for the first that is too many within a window. */
  async check(all: readonly Counted[], onFirst: () => Promise<void> = async () => {}): Promise<void> {
    for (const one of all) {
      if (this.countOwn(one) > one.most + 1) throw tooMany();
      const count = await countTry(this.database, one.key, one.seconds);
      if (count <= one.most) continue;
      if (count === one.most + 1) await onFirst();
      throw tooMany();
    }
  }

  /** Whoever has shown who they are begins anew. */
  async forget(keys: readonly string[]): Promise<void> {
    for (const key of keys) this.own.delete(key);
    await forgetTries(this.database, keys);
  }

  private countOwn({ key, seconds }: Counted): number {
    const time = this.now();
    const known = this.own.get(key);
    const recent = known && time < known.until ? known : { count: 0, until: time + seconds * 1000 };
    recent.count++;
    this.own.set(key, recent);
    if (this.own.size > KEPT) for (const [old, { until }] of this.own) if (time >= until) this.own.delete(old);
    return recent.count;
  }
}

export function tooMany(): CorbixError {
  return new CorbixError("TOO_MANY_TRIES", say().serviceAccess.cannotSignTooManyTries(), {
    advice: say().serviceAccess.waitMinute(),
  });
}
