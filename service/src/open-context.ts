import { randomUUID } from "node:crypto";
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { openFonts } from "@corbix/fonts";
import { pino } from "pino";
import { openSecrets } from "./access/secrets.js";
import type { Context } from "./context.js";
import { openDesk } from "./desk/desk.js";
import { type Mailer, smtpMailer } from "./mail/mailer.js";
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
  readonly mailer?: Mailer;
}

/** Opens database, queue, store and mailer. Throws `DATABASE_UNREACHABLE`. */
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
    mailer: options.mailer ?? smtpMailer(settings),
    fonts: () => openFonts(fontFolder(settings)),
    log: pino({ level: settings.logLevel, base: null, timestamp: pino.stdTimeFunctions.isoTime }),
    now: options.now ?? (() => new Date()),
    process: options.process ?? randomUUID(),
  };
}

export async function closeContext(context: Context): Promise<void> {
  context.mailer.close();
  await context.desk.close();
  await context.queue.close();
  await context.database.close();
}
