import { randomUUID } from "node:crypto";
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { openFonts } from "@corbix/fonts";
import { pino } from "pino";
import { adoptNextKey, currentKey, openSecrets, type Secrets, secretsOf } from "../access/secrets.js";
import { folderJournal, JOURNAL_FOLDER } from "../journal/journal.js";
import { fontFolder } from "../library/custom-fonts.js";
import { isFile } from "../operate/manifest.js";
import { RESTORING } from "../operate/restore.js";
import { openQueue } from "../queue/queue.js";
import {
  type Database,
  formerKeys,
  installationId,
  isDatabaseAway,
  knownKeyMark,
  knowsBlobs,
  noteKeyMark,
  openDatabase,
} from "../records/index.js";
import { folderStore, prepareFolder } from "../store/file-store.js";
import { recordedStore } from "../store/recorded-store.js";
import { openThreads } from "../threads/threads.js";
import { openCaches } from "./caches.js";
import { databaseClock } from "./clock.js";
import type { Context } from "./context.js";
import { openLanguages } from "./languages.js";
import { ALWAYS } from "./lease/lease.js";
import { pause } from "./pause.js";
import { openReach } from "./reach.js";
import type { Settings } from "./settings.js";
import { traceId, traceNow } from "./trace.js";

export interface ContextOptions {
  /** The first process migrates the database and looks after the queue. */
  readonly supervise: boolean;
  readonly process?: string;
  readonly now?: () => Date;
}

/** Heap in MiB of a thread that somebody waits for at a page. */
const ANSWER_MIB = 512;

/** Opens database, queue and store. Throws `DATABASE_UNREACHABLE`. */
export async function openContext(settings: Settings, databaseUrl: string, options: ContextOptions): Promise<Context> {
  await openLanguages(settings.language, settings.words);
  await refuseUnfinished(settings.data);
  await mkdir(settings.data, { recursive: true, mode: 0o700 });
  const database = await openDatabase(databaseUrl, { migrate: options.supervise });
  const files = join(settings.data, "files");
  await prepareFolder(files, await knowsBlobs(database));
  const clock = options.now ? { now: options.now, close: () => {} } : await databaseClock(database);
  const process = options.process ?? randomUUID();
  return {
    settings,
    database,
    journal: folderJournal(
      join(settings.data, JOURNAL_FOLDER),
      { installation: await installationId(database), process },
      clock.now,
    ),
    store: recordedStore(folderStore(files), database, settings.storeLimit),
    queue: await openQueue(database, { supervise: options.supervise }),
    threads: openThreads(
      { heapMiB: settings.intakeMemory, seconds: settings.intakeSeconds },
      { heapMiB: ANSWER_MIB, seconds: settings.answerSeconds },
    ),
    caches: openCaches(),
    secrets: await secretsFor(database, settings),
    reach: openReach(settings.reachInside),
    fonts: () => openFonts(fontFolder(settings)),
    log: pino({
      level: settings.logLevel,
      base: null,
      timestamp: pino.stdTimeFunctions.isoTime,
      mixin: () => {
        const trace = traceNow();
        return trace === undefined ? {} : { trace: traceId(trace) };
      },
    }),
    now: clock.now,
    stopClock: clock.close,
    process,
    lease: ALWAYS,
  };
}

/** Secrets under the key of the settings or the data folder. Throws `BAD_SETTING` where the database's are sealed with another. */
async function secretsFor(database: Database, settings: Settings): Promise<Secrets> {
  let secrets = await openSecrets(settings.data, settings.secretKey);
  const known = await knownKeyMark(database);
  if (known !== null && known !== secrets.mark && settings.secretKey === undefined)
    if (await adoptNextKey(settings.data, known)) secrets = await openSecrets(settings.data, undefined);
  if (known === null) await noteKeyMark(database, secrets.mark);
  else if (known !== secrets.mark)
    throw new CorbixError("BAD_SETTING", say().serviceAccess.otherKey(), {
      where: settings.secretKey === undefined ? join(settings.data, "secret.key") : "CORBIX_SECRET_KEY",
      advice: say().serviceAccess.restoreKeyOrForget(),
    });
  const former = await formerKeys(database);
  return former.length === 0 ? secrets : secretsOf(await currentKey(settings), former.map(secrets.open));
}

/** While a backup is being restored, or where that was broken off, nothing starts on its folder. */
async function refuseUnfinished(data: string): Promise<void> {
  if (!(await isFile(join(data, RESTORING)))) return;
  throw new CorbixError("CONFLICT", say().serviceOperate.unfinishedRestore(), {
    where: join(data, RESTORING),
    advice: say().serviceOperate.restoreAnew(),
  });
}

export async function closeContext(context: Context): Promise<void> {
  context.stopClock();
  await context.journal.close();
  await context.threads.close();
  await context.queue.close();
  await context.database.close();
}

/** A database that is away when a worker or outbox starts is asked again so often. */
const RETRY_MS = 1_000;

/** The same for processes that a service looks after: where the database is away they wait for it, until they are told to stop. */
export async function openPatiently(
  settings: Settings,
  databaseUrl: string,
  options: ContextOptions & { readonly stopped: AbortSignal },
): Promise<Context> {
  for (;;) {
    try {
      return await openContext(settings, databaseUrl, options);
    } catch (error) {
      const isAway = error instanceof CorbixError && error.code === "DATABASE_UNREACHABLE";
      if (!(isAway || isDatabaseAway(error)) || options.stopped.aborted) throw error;
      await pause(RETRY_MS, options.stopped);
    }
  }
}
