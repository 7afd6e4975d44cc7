/** The program of a thread that works apart: does one task after the other. */
import { parentPort, workerData } from "node:worker_threads";
import { openLanguages, speaking } from "../process/languages.js";
import { TASKS, type TaskName } from "./tasks.js";
import { thrownError } from "./thrown-error.js";

interface Order {
  readonly id: number;
  readonly task: TaskName;
  readonly input: never;
  /** In which its findings and errors are worded. */
  readonly language: string;
}

const opened = openLanguages("en", workerData as string | undefined);

parentPort?.on("message", async ({ id, task, input, language }: Order) => {
  try {
    await opened;
    const work = (await TASKS[task]()) as (input: never) => unknown;
    // The time that a task may take is its own, not that of loading what it needs.
    parentPort?.postMessage({ id, isBegun: true });
    parentPort?.postMessage({ id, output: speaking(language, () => work(input)) });
  } catch (error) {
    parentPort?.postMessage({ id, error: thrownError(error) });
  }
});
