/** What a process keeps of what it read, so that the next of the same kind finds it: held in the context, bounded, the longest unasked goes first. */
import type { Report } from "@corbix/core/report";
import type { ReportMaker, RunFacts } from "@corbix/core/run";
import { LRUCache } from "lru-cache";
import type { SentRun } from "../records/index.js";

/** A file that was made to be looked at or fetched once. */
export interface KeptFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

export interface Caches {
  /** Template bytes by their digest: the same object each time, so that what was read of it is found again. */
  readonly templates: LRUCache<string, Uint8Array>;
  /** Reports with their templates read: all parcels of a run, and later runs, share them. */
  readonly makers: LRUCache<string, ReportMaker>;
  /** Reports checked against the columns of an edition: runs of single records share them. */
  readonly checked: LRUCache<string, ReportMaker>;
  /** What of a run its messages need; nothing of it changes while it delivers. */
  readonly sentRuns: LRUCache<string, { readonly run: SentRun; readonly report: Report }>;
  /** What the steps of a run have in common, for as long as one goes on after the other. */
  readonly plannedRuns: LRUCache<string, { readonly report: Report; facts?: RunFacts }>;
  /** Files under an id, for a short while. */
  readonly files: LRUCache<string, readonly KeptFile[]>;
}

/** Steps that follow each other do so within this time. */
const STEPS_MS = 10_000;
const FILE_BYTES = 256 * 1024 * 1024;

export function openCaches(): Caches {
  return {
    templates: new LRUCache({ max: 100 }),
    makers: new LRUCache({ max: 20 }),
    checked: new LRUCache({ max: 20 }),
    sentRuns: new LRUCache({ max: 200 }),
    plannedRuns: new LRUCache({ max: 8, ttl: STEPS_MS }),
    files: new LRUCache({
      max: 24,
      maxSize: FILE_BYTES,
      sizeCalculation: (files) => files.reduce((sum, file) => sum + file.bytes.length, 1),
    }),
  };
}
