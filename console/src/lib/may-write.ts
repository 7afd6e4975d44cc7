/** Whether what stands around may be written in: a disabled set of fields does not hold back editors of texts by itself. */
import { getContext, setContext } from "svelte";

const KEY = Symbol("may write");

export function letWrite(mayWrite: () => boolean): void {
  setContext(KEY, mayWrite);
}

/** Asked while a part is made; the answer may change afterwards. */
export function mayWriteHere(): () => boolean {
  return getContext<(() => boolean) | undefined>(KEY) ?? (() => true);
}
