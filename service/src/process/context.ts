import type { FontLibrary } from "@corbix/core/fonts";
import type { Logger } from "pino";
import type { Secrets } from "../access/secrets.js";
import type { Journal } from "../journal/journal.js";
import type { Queue } from "../queue/queue.js";
import type { Database } from "../records/index.js";
import type { FileStore } from "../store/file-store.js";
import type { Threads } from "../threads/threads.js";
import type { Caches } from "./caches.js";
import type { Lease } from "./lease/lease.js";
import type { Reach } from "./reach.js";
import type { Settings } from "./settings.js";

/** What every part of the service works with; clock and ids are among it, so that tests can set them. */
export interface Context {
  readonly settings: Settings;
  readonly database: Database;
  readonly store: FileStore;
  /** What left, told outside the database too. */
  readonly journal: Journal;
  readonly queue: Queue;
  /** Threads for reading files and looking at tables. */
  readonly threads: Threads;
  readonly secrets: Secrets;
  /** Where it may call on somebody's word. */
  readonly reach: Reach;
  readonly caches: Caches;
  readonly fonts: () => FontLibrary;
  readonly log: Logger;
  /** By the database's clock. */
  readonly now: () => Date;
  /** Id of this process among the workers. */
  readonly process: string;
  /** Whether what this process took is surely still its own. */
  readonly lease: Lease;
  readonly stopClock: () => void;
}
