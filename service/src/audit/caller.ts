/** From where a call came, for whatever is written down while it is answered. */
import { AsyncLocalStorage } from "node:async_hooks";

const callers = new AsyncLocalStorage<string>();

/** Does something on behalf of a call from an address. */
export function callingFrom<Done>(place: string, work: () => Done): Done {
  return callers.run(place, work);
}

/** Nothing for what the service does by itself. */
export function callerNow(): string | null {
  return callers.getStore() ?? null;
}
