import { Worker } from "node:worker_threads";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import pLimit from "p-limit";
import { furtherWords, languageNow } from "../process/languages.js";
import type { TaskInput, TaskName, TaskOutput } from "./tasks.js";
import type { ThrownError } from "./thrown-error.js";

/** Threads for what takes long or much memory: reading files, comparing editions, looking through a million rows. */
export interface Threads {
  /** In a thread of its own, which ends with the task; bounded in time and memory, so a hostile file ends the thread and nothing else. */
  readonly isolated: <Name extends TaskName>(task: Name, input: TaskInput<Name>) => Promise<TaskOutput<Name>>;
  /** In one thread that stays, and keeps open the tables that are looked at. */
  readonly grid: <Name extends TaskName>(task: Name, input: TaskInput<Name>) => Promise<TaskOutput<Name>>;
  /** In another thread that stays, and keeps open the tables that are asked: questions wait for nobody who looks at data. */
  readonly asking: <Name extends TaskName>(task: Name, input: TaskInput<Name>) => Promise<TaskOutput<Name>>;
  /** In a thread that stays for a while: whoever writes a message asks again soon. */
  readonly preview: <Name extends TaskName>(task: Name, input: TaskInput<Name>) => Promise<TaskOutput<Name>>;
  /** Soon, for somebody who waits: in a thread that stays for a while where it is free, with narrow limits of time and memory. */
  readonly quick: <Name extends TaskName>(task: Name, input: TaskInput<Name>) => Promise<TaskOutput<Name>>;
  readonly close: () => Promise<void>;
}

/** So many pieces of work that somebody waits for run at once. */
const QUICK_AT_ONCE = 2;

export interface ThreadLimits {
  /** Heap of a thread in MiB; sheets and pieces come on top and are bounded by their own limits. */
  readonly heapMiB: number;
  readonly seconds: number;
}

/** So many files are read at the same time; others wait. */
const AT_ONCE = 2;
/** The writer's thread ends after so long without a question. */
const WRITER_IDLE_MS = 120_000;

interface Waiting {
  readonly resolve: (value: never) => void;
  readonly reject: (error: Error) => void;
  timer: NodeJS.Timeout;
}

/** `limits` for reading files and looking through rows, `quick` for what somebody waits for at a page. */
export function openThreads(limits: ThreadLimits, quick: ThreadLimits): Threads {
  const lane = pLimit(AT_ONCE);
  let viewer: Thread | undefined;
  let asked: Thread | undefined;
  let writer: Thread | undefined;
  let idle: NodeJS.Timeout | undefined;
  const running = new Set<Thread>();
  const quickLane = pLimit(QUICK_AT_ONCE);
  const spare = new Set<Thread>();
  return {
    quick: (task, input) =>
      quickLane(async () => {
        const [kept] = spare;
        const thread = kept && !kept.isEnded ? kept : new Thread(quick, true);
        if (kept) spare.delete(kept);
        running.add(thread);
        try {
          return await thread.run(task, input);
        } finally {
          running.delete(thread);
          if (!thread.isEnded) keepSpare(spare, thread);
        }
      }),
    isolated: (task, input) =>
      lane(async () => {
        const thread = new Thread(limits);
        running.add(thread);
        try {
          return await thread.run(task, input);
        } finally {
          running.delete(thread);
          await thread.end();
        }
      }),
    grid: (task, input) => {
      if (!viewer || viewer.isEnded) viewer = new Thread(limits);
      return viewer.run(task, input);
    },
    asking: (task, input) => {
      if (!asked || asked.isEnded) asked = new Thread(limits);
      return asked.run(task, input);
    },
    preview: async (task, input) => {
      clearTimeout(idle);
      if (!writer || writer.isEnded) writer = new Thread(limits);
      const thread = writer;
      try {
        return await thread.run(task, input);
      } finally {
        clearTimeout(idle);
        idle = setTimeout(() => void thread.end(), WRITER_IDLE_MS).unref();
      }
    },
    close: async () => {
      clearTimeout(idle);
      const kept = [viewer, asked, writer].filter((thread) => thread !== undefined);
      await Promise.all([...running, ...spare, ...kept].map((thread) => thread.end()));
    },
  };
}

/** A thread that is free waits for the next question for a while. */
function keepSpare(spare: Set<Thread>, thread: Thread): void {
  spare.add(thread);
  setTimeout(() => {
    if (!spare.delete(thread)) return;
    void thread.end();
  }, WRITER_IDLE_MS).unref();
}

/** What loading a task's program may take on a machine that is busy, before its own time begins. */
const LOADING_SECONDS = 90;

class Thread {
  isEnded = false;
  private readonly worker: Worker;
  private readonly waiting = new Map<number, Waiting>();
  private last = 0;

  constructor(
    private readonly limits: ThreadLimits,
    private readonly isQuick = false,
  ) {
    this.worker = new Worker(new URL("./thread.js", import.meta.url), {
      workerData: furtherWords(),
      resourceLimits: { maxOldGenerationSizeMb: limits.heapMiB },
    });
    this.worker.unref();
    this.worker.on("message", (answer: { id: number; isBegun?: true; output?: never; error?: ThrownError }) => {
      const waiting = this.waiting.get(answer.id);
      if (!waiting) return;
      if (answer.isBegun) {
        clearTimeout(waiting.timer);
        waiting.timer = this.timer(this.limits.seconds);
        return;
      }
      this.waiting.delete(answer.id);
      clearTimeout(waiting.timer);
      if (answer.error) waiting.reject(asError(answer.error));
      else waiting.resolve(answer.output as never);
    });
    this.worker.on("error", (error: NodeJS.ErrnoException) => {
      const isMemory = error.code === "ERR_WORKER_OUT_OF_MEMORY";
      this.fail(
        isMemory ? tooMuch(say().serviceThreads.moreMibMemory({ heapMiB: limits.heapMiB }), this.isQuick) : error,
      );
    });
    this.worker.on("exit", () => this.fail(tooMuch(say().serviceThreads.moreThreadEnded(), this.isQuick)));
  }

  run<Name extends TaskName>(task: Name, input: TaskInput<Name>): Promise<TaskOutput<Name>> {
    const id = ++this.last;
    return new Promise((resolve, reject) => {
      const timer = this.timer(this.limits.seconds + LOADING_SECONDS);
      this.waiting.set(id, { resolve: resolve as (value: never) => void, reject, timer });
      this.worker.postMessage({ id, task, input, language: languageNow() });
    });
  }

  private timer(seconds: number): NodeJS.Timeout {
    return setTimeout(() => {
      this.fail(tooMuch(say().serviceThreads.moreSeconds({ seconds: this.limits.seconds }), this.isQuick));
      void this.end();
    }, seconds * 1000);
  }

  async end(): Promise<void> {
    this.isEnded = true;
    await this.worker.terminate();
  }

  private fail(error: Error): void {
    this.isEnded = true;
    for (const waiting of this.waiting.values()) {
      clearTimeout(waiting.timer);
      waiting.reject(error);
    }
    this.waiting.clear();
  }
}

function asError({ code, message, where, advice }: ThrownError): Error {
  if (code === undefined) return new Error(message);
  return new CorbixError(code, message, {
    ...(where === undefined ? {} : { where }),
    ...(advice === undefined ? {} : { advice }),
  });
}

function tooMuch(what: string, isQuick: boolean): CorbixError {
  return isQuick
    ? new CorbixError("LIMIT_EXCEEDED", say().serviceThreads.cannotFinishTakes({ what }), {
        advice: say().serviceThreads.makeDefinitionTemplateSmaller(),
      })
    : new CorbixError("LIMIT_EXCEEDED", say().serviceThreads.cannotFinishReadingTableTakes({ what }), {
        advice: say().serviceThreads.loadPartsRaiseCorbixIntake(),
      });
}
