/** Tries that somebody could guess by are counted before anything is looked at: by all processes together. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { countTry, type Database, forgetTries } from "../records/index.js";

/** Beyond so many those whose window is over are forgotten. */
const KEPT_OVER = 10_000;

/** What is counted, and how often it may be tried within its window. */
export interface Counted {
  readonly key: string;
  readonly most: number;
  readonly seconds: number;
}

export class Tries {
  /** Until when a key is known to be over: a flood does not reach the database. */
  private readonly over = new Map<string, number>();

  constructor(
    private readonly database: Database,
    /** Milliseconds of a clock that cannot be set. */
    private readonly now: () => number,
  ) {}

  /** Counts a try. Throws `TOO_MANY_TRIES`; `onFirst` is called for the first that is too many within a window. */
  async check(all: readonly Counted[], onFirst: () => Promise<void> = async () => {}): Promise<void> {
    if (all.some(({ key }) => (this.over.get(key) ?? 0) > this.now())) throw tooMany();
    for (const { key, most, seconds } of all) {
      const { count, left } = await countTry(this.database, key, seconds);
      if (count <= most) continue;
      this.keepOver(key, left);
      if (count === most + 1) await onFirst();
      throw tooMany();
    }
  }

  /** Whoever has shown who they are begins anew. */
  async forget(keys: readonly string[]): Promise<void> {
    for (const key of keys) this.over.delete(key);
    await forgetTries(this.database, keys);
  }

  private keepOver(key: string, seconds: number): void {
    const time = this.now();
    if (this.over.size > KEPT_OVER) for (const [old, until] of this.over) if (until <= time) this.over.delete(old);
    this.over.set(key, time + seconds * 1000);
  }
}

export function tooMany(): CorbixError {
  return new CorbixError("TOO_MANY_TRIES", say().serviceAccess.cannotSignTooManyTries(), {
    advice: say().serviceAccess.waitMinute(),
  });
}
