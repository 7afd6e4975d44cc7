import { randomUUID } from "node:crypto";
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { openFonts } from "@corbix/fonts";
import { pino } from "pino";
import { openSecrets } from "./access/secrets.js";
import type { Context } from "./context.js";
import { openDesk } from "./desk/desk.js";
import { fontFolder } from "./own-fonts.js";
import { openQueue } from "./queue/queue.js";
import { openDatabase } from "./records/index.js";
import type { Settings } from "./settings.js";
import { folderStore } from "./store/file-store.js";

export interface ContextOptions {
  /** The first process migrates the database and looks after the queue. */
  readonly supervise: boolean;
  readonly process?: string;
  readonly now?: () => Date;
}

/** Opens database, queue and store. Throws `DATABASE_UNREACHABLE`. */
export async function openContext(settings: Settings, databaseUrl: string, options: ContextOptions): Promise<Context> {
  await mkdir(join(settings.data, "files"), { recursive: true });
  const database = await openDatabase(databaseUrl, { migrate: options.supervise });
  return {
    settings,
    database,
    store: folderStore(join(settings.data, "files")),
    queue: await openQueue(database, { supervise: options.supervise }),
    desk: openDesk({ heapMiB: settings.intakeMemory, seconds: settings.intakeSeconds }),
    secrets: await openSecrets(settings.data, settings.secretKey),
    fonts: () => openFonts(fontFolder(settings)),
    log: pino({ level: settings.logLevel, base: null, timestamp: pino.stdTimeFunctions.isoTime }),
    now: options.now ?? (() => new Date()),
    process: options.process ?? randomUUID(),
  };
}

export async function closeContext(context: Context): Promise<void> {
  await context.desk.close();
  await context.queue.close();
  await context.database.close();
}
