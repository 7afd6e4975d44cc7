/** How often somebody may call: counted by the minute, told in the fields that are meant for it. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Response } from "express";
import type { User } from "./access.js";

interface Window {
  since: number;
  count: number;
}
const WINDOW_MS = 60_000;
/** Beyond so many counts those whose minute is over are forgotten. */
const KEPT = 10_000;

/** Counts calls in this process, each caller's in a minute of its own. */
export class CallLimits {
  private readonly windows = new Map<string, Window>();

  /** `now`: milliseconds of a clock that cannot be set. */
  constructor(private readonly now: () => number) {}

  /** Counts a call of somebody who came with a token that has a limit. Throws `TOO_MANY_TRIES` beyond it. */
  check({ token }: Pick<User, "token">, response: Response): void {
    if (!token || token.perMinute === null) return;
    const { perMinute } = token;
    this.count(`token ${token.id}`, perMinute, response, say().serviceAccess.tokenTooOften({ perMinute }));
  }

  /** Counts a call and tells what is left (the `RateLimit` fields of the IETF's draft). Throws `TOO_MANY_TRIES` with what is said. */
  count(key: string, perMinute: number, response: Response, what: string): void {
    const time = this.now();
    const known = this.windows.get(key);
    const window = known && time - known.since < WINDOW_MS ? known : { since: time, count: 0 };
    window.count += 1;
    this.windows.set(key, window);
    if (this.windows.size > KEPT)
      for (const [old, one] of this.windows) if (time - one.since >= WINDOW_MS) this.windows.delete(old);
    const seconds = Math.max(1, Math.ceil((window.since + WINDOW_MS - time) / 1000));
    response.setHeader("RateLimit-Policy", `"calls";q=${perMinute};w=60`);
    response.setHeader("RateLimit", `"calls";r=${Math.max(perMinute - window.count, 0)};t=${seconds}`);
    if (window.count <= perMinute) return;
    response.setHeader("Retry-After", String(seconds));
    throw new CorbixError("TOO_MANY_TRIES", what, {
      where: "calls",
      advice: say().serviceAccess.senderWait({ seconds }),
    });
  }
}
