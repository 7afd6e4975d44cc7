import { wordsOf } from "@corbix/core/common";
import type { Context } from "./context.js";

/** The database is asked again so often while it is away. */
const RETRY_MS = 250;

/** Waits so long, or until stopped. */
export function pause(ms: number, stopped: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(done, ms);
    stopped.addEventListener("abort", done, { once: true });
    function done(): void {
      clearTimeout(timer);
      stopped.removeEventListener("abort", done);
      resolve();
    }
  });
}

/** Does what has to be written down sooner or later, as long as this process lives: a database that is away comes back. */
export async function retryUntilDone<T>(context: Pick<Context, "log">, work: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await work();
    } catch (error) {
      if (tries % 20 === 1) context.log.error({ error: wordsOf(error) }, "waits for the database");
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    }
  }
}
