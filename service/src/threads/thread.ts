/** The program of a thread that works apart: does one task after the other. */
import { parentPort } from "node:worker_threads";
import { TASKS, type TaskName } from "./tasks.js";
import { thrownError } from "./thrown-error.js";

interface Order {
  readonly id: number;
  readonly task: TaskName;
  readonly input: never;
}

parentPort?.on("message", async ({ id, task, input }: Order) => {
  try {
    const work = (await TASKS[task]()) as (input: never) => unknown;
    // The time that a task may take is its own, not that of loading what it needs.
    parentPort?.postMessage({ id, isBegun: true });
    parentPort?.postMessage({ id, output: work(input) });
  } catch (error) {
    parentPort?.postMessage({ id, error: thrownError(error) });
  }
});
