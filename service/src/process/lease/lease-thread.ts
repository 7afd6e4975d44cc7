/** The program of the thread that shows that its process lives. */
import { parentPort, workerData } from "node:worker_threads";
import { openBeater } from "../../records/database/beat.js";
import { BEAT_MS, type LeaseThreadData } from "./lease.js";

const { url, beatAt, ...who } = workerData as LeaseThreadData;
const beater = openBeater(url, who, () => process.memoryUsage.rss());
let isEnding = false;
let wake: () => void = () => {};
let isFirst = true;

parentPort?.on("message", () => {
  isEnding = true;
  wake();
});

while (!isEnding) {
  // The moment of asking counts, not that of the answer: between the two the process may have been stopped for long.
  const asked = process.hrtime.bigint();
  const word = await beater.beat().catch(() => undefined);
  if (word === "gone") {
    parentPort?.postMessage("gone");
    break;
  }
  if (word === "alive") {
    Atomics.store(beatAt, 0, asked);
    if (isFirst) parentPort?.postMessage("alive");
    isFirst = false;
  }
  await new Promise<void>((resolve) => {
    const timer = setTimeout(resolve, BEAT_MS);
    wake = () => {
      clearTimeout(timer);
      resolve();
    };
  });
}
await beater.close();
parentPort?.close();
