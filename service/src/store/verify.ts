/** Reads the whole file store against the records: what is damaged, what is missing, what is nobody's. */
import { made } from "@corbix/core/common";
import type { Context } from "../process/context.js";
import { blobUses, checkTrail, neededBlobs, type TrailCheck } from "../records/index.js";

export interface FaultyFile {
  readonly sha256: string;
  readonly what: "damaged" | "missing";
  /** Who needs it, in words. */
  readonly uses: readonly string[];
}

export interface Verification {
  readonly state: "running" | "done" | "failed";
  readonly total: number;
  readonly checked: number;
  readonly whole: number;
  readonly faults: readonly FaultyFile[];
  /** Files that nothing refers to; they are taken away when they are old enough. */
  readonly nobodys: number;
  /** The trail, once it was gone through. */
  readonly trail: TrailCheck | null;
  readonly startedAt: string;
  readonly error: string | null;
}

/** Faults that one verification names. */
const NAMED = 500;

/** The last verification of this service, one at a time. */
export class Verifier {
  private last: Verification | undefined;
  private running: Promise<void> | undefined;

  constructor(private readonly context: Context) {}

  get state(): Verification | undefined {
    return this.last;
  }

  /** Starts one, unless one is running. */
  start(): Verification {
    if (!this.running || this.last?.state !== "running") {
      this.last = {
        state: "running",
        total: 0,
        checked: 0,
        whole: 0,
        faults: [],
        nobodys: 0,
        trail: null,
        startedAt: this.context.now().toISOString(),
        error: null,
      };
      this.running = this.run().catch((error: Error) => {
        this.set({ state: "failed", error: error.message });
      });
    }
    return made(this.last, "the verification");
  }

  private set(more: Partial<Verification>): void {
    this.last = { ...made(this.last, "the verification"), ...more };
  }

  private async run(): Promise<void> {
    const { context } = this;
    this.set({ trail: await checkTrail(context.database) });
    const there = new Set(await context.store.list());
    const needed = await neededBlobs(context.database);
    const all = [...new Set([...needed, ...there])].sort();
    const faults: FaultyFile[] = [];
    let whole = 0;
    this.set({ total: all.length, nobodys: [...there].filter((digest) => !needed.has(digest)).length });
    for (const [index, digest] of all.entries()) {
      const condition = await context.store.check(digest);
      if (condition === "whole") whole++;
      else if ((needed.has(digest) || condition === "damaged") && faults.length < NAMED)
        faults.push({ sha256: digest, what: condition, uses: await blobUses(context.database, digest) });
      this.set({ checked: index + 1, whole, faults: [...faults] });
    }
    this.set({ state: "done" });
  }
}
