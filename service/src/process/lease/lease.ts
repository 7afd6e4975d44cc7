/** What a process may do as its own, and for how long: as long as it shows that it lives, and is not declared dead. */
import { hostname } from "node:os";
import { Worker } from "node:worker_threads";
import type { ProcessFacts } from "../../records/database/beat.js";
import { VERSION } from "../version.js";

/** Shown so often, from a thread, also while the process computes. */
export const BEAT_MS = 1_000;
/** Without a beat that the database has taken within this time nothing is sent any more. */
export const LEASE_MS = 5_000;
/** A process that has not shown itself for so long is declared dead. Longer than a lease: whoever still sends is never dead. */
export const SILENCE_MS = 9_000;

export interface Lease {
  /** Whether this process is surely still the owner of what it took; asked right before each byte that cannot be taken back. */
  readonly isHeld: () => boolean;
}

export interface OpenLease extends Lease {
  /** Comes when the process was declared dead: what it had belongs to others. */
  readonly lost: AbortSignal;
  readonly close: () => Promise<void>;
}

/** For processes nobody else takes anything over from, and for tests. */
export const ALWAYS: Lease = { isHeld: () => true };

export interface LeaseThreadData {
  readonly url: string;
  readonly id: string;
  readonly startedAs: string;
  readonly facts: ProcessFacts;
  /** Of the last beat the database took: monotonic nanoseconds. */
  readonly beatAt: BigInt64Array;
}

/** Starts to show that this process lives, under an id; resolves with the first beat, however long the database is away. */
export async function openLease(
  url: string,
  id: string,
  startedAs: string,
  kind: ProcessFacts["kind"],
): Promise<OpenLease> {
  const beatAt = new BigInt64Array(new SharedArrayBuffer(8));
  const lost = new AbortController();
  const thread = new Worker(new URL("./lease-thread.js", import.meta.url), {
    workerData: {
      url,
      id,
      startedAs,
      beatAt,
      facts: { kind, host: hostname(), pid: process.pid, version: VERSION },
    } satisfies LeaseThreadData,
    resourceLimits: { maxOldGenerationSizeMb: 64 },
  });
  await new Promise<void>((resolve, reject) => {
    thread.on("message", (word: "alive" | "gone") => {
      if (word === "alive") resolve();
      else lost.abort();
    });
    thread.on("error", (error) => {
      lost.abort();
      reject(error);
    });
    thread.on("exit", () => lost.abort());
  });
  thread.unref();
  // Both clocks: the monotonic one stands still while a whole machine sleeps, and the other one can be set. Either is enough to doubt.
  let wall = Date.now();
  let known = 0n;
  return {
    lost: lost.signal,
    isHeld: () => {
      const last = Atomics.load(beatAt, 0);
      if (last !== known) {
        known = last;
        wall = Date.now() - Number((process.hrtime.bigint() - last) / 1_000_000n);
      }
      return (
        !lost.signal.aborted &&
        process.hrtime.bigint() - last < BigInt(LEASE_MS) * 1_000_000n &&
        Date.now() - wall < LEASE_MS
      );
    },
    close: async () => {
      const ended = new Promise((resolve) => thread.once("exit", resolve));
      thread.postMessage("end");
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 2_000).unref())]);
      await thread.terminate();
    },
  };
}
