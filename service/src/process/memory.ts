/** Memory given back between large steps: V8 by itself lets a heap that was large once grow as large again before it looks. */
import { getHeapStatistics, setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";

/** Below this it is not worth the pause. */
const WORTH_BYTES = 120 * 1_048_576;
/** And only where so much has come since. */
const GROWN_BYTES = 32 * 1_048_576;

let collect: (() => void) | undefined;
let last = 0;

/** Collects what is no longer used, where much was used since the last time. Some hundred milliseconds for a large heap. */
export function tidyMemory(): void {
  const used = usedBytes();
  if (used < WORTH_BYTES || used - last < GROWN_BYTES) return;
  if (!collect) {
    setFlagsFromString("--expose-gc");
    collect = runInNewContext("gc") as () => void;
  }
  collect();
  last = usedBytes();
}

function usedBytes(): number {
  const { used_heap_size: heap, external_memory: external } = getHeapStatistics();
  return heap + external;
}
