/** Puts a backup into a data folder and a database that are empty. Nothing is sent from there until somebody has looked. */
import { mkdir, readdir, rm, stat, statfs } from "node:fs/promises";
import { basename, isAbsolute, join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { keyMark } from "../access/secrets.js";
import { JOURNAL_FOLDER, journalFiles } from "../journal/journal.js";
import type { Settings } from "../process/settings.js";
import {
  addHalt,
  countTables,
  dropEverything,
  leapNumbers,
  migrationsOf,
  openAsking,
  openDatabase,
  serverFacts,
} from "../records/index.js";
import { prepareFolder } from "../store/file-store.js";
import { type ChosenBackup, checkBackup, sizeOfBackup } from "./check-backup.js";
import { copyFlushed, writeFlushed } from "./flushed.js";
import { BYTES, LEFT, type Manifest, pathOfBytes, readList } from "./manifest.js";
import { databaseProgram, majorOf, runOn } from "./programs.js";

export interface RestoreOptions {
  readonly settings: Settings;
  readonly databaseUrl: string;
  readonly chosen: ChosenBackup;
  /** A folder of the journal as it went on after the backup, such as the data folder that was lost has. */
  readonly journal?: string | undefined;
  readonly progress?: (done: number, total: number) => void;
}

export interface Restored {
  readonly name: string;
  readonly takenAt: string;
  readonly tables: number;
  readonly rows: number;
  readonly files: number;
  /** Files of the journal that go on behind the backup. */
  readonly journal: number;
  /** Whether the key here opens the secrets of the backup. */
  readonly isKeyRight: boolean;
  readonly missing: number;
}

/** While it lies there the restoring is not done, and nothing starts. */
export const RESTORING = "restoring";

/** Throws `CONFLICT` where something is there already, `BAD_BACKUP`, `NO_SPACE`; what was written is taken away then. */
export async function restoreBackup(options: RestoreOptions): Promise<Restored> {
  const { settings, databaseUrl, chosen, progress } = options;
  const { manifest } = chosen;
  await refuseTaken(settings, databaseUrl);
  await refuseNoRoom(settings, chosen);
  const checked = await checkBackup(chosen, progress);
  if (checked.faults.length > 0)
    throw new CorbixError(
      "BAD_BACKUP",
      say().serviceOperate.notWhole({ count: checked.faults.length, first: checked.faults[0]?.file ?? "" }),
      {
        where: join(chosen.out, chosen.name),
        advice: say().serviceOperate.useAnother(),
      },
    );
  const mark = join(settings.data, RESTORING);
  await mkdir(settings.data, { recursive: true, mode: 0o700 });
  await writeFlushed(mark, `${chosen.name}\n`);
  try {
    const list = await readList(join(chosen.out, chosen.name), manifest);
    await copyIn(options, list);
    const journal = await copyJournals(options);
    await restoreDatabase(databaseUrl, chosen);
    await compareTables(databaseUrl, manifest);
    await haltRestored(databaseUrl, chosen, journal);
    await rm(mark);
    return {
      name: chosen.name,
      takenAt: manifest.takenAt,
      tables: Object.keys(manifest.database.tables).length,
      rows: Object.values(manifest.database.tables).reduce((sum, one) => sum + one, 0),
      files: list.length - manifest.files.missing.length,
      journal,
      isKeyRight: (await keyMark(settings.data, settings.secretKey)) === manifest.key,
      missing: manifest.files.missing.length,
    };
  } catch (error) {
    await undo(settings, databaseUrl);
    await rm(mark, { force: true });
    throw error;
  }
}

/** Something that is there is never written over. */
async function refuseTaken(settings: Settings, databaseUrl: string): Promise<void> {
  const advice = say().serviceOperate.restoreElsewhere();
  for (const folder of ["files", JOURNAL_FOLDER]) {
    const there = await readdir(join(settings.data, folder)).catch(() => []);
    if (there.length > 0)
      throw new CorbixError("CONFLICT", say().serviceOperate.folderTaken(), {
        where: join(settings.data, folder),
        advice,
      });
  }
  const asking = await openAsking(databaseUrl);
  try {
    const tables = await countTables(asking);
    if (Object.keys(tables).length > 0)
      throw new CorbixError("CONFLICT", say().serviceOperate.databaseTaken({ tables: Object.keys(tables).length }), {
        where: "CORBIX_DATABASE_URL",
        advice,
      });
  } finally {
    await asking.close();
  }
}

async function refuseNoRoom(settings: Settings, chosen: ChosenBackup): Promise<void> {
  await mkdir(settings.data, { recursive: true, mode: 0o700 });
  const { bavail, bsize } = await statfs(settings.data);
  const needed = await sizeOfBackup(chosen);
  if (bavail * bsize < needed)
    throw new CorbixError("NO_SPACE", say().serviceOperate.noRoom({ needed, free: bavail * bsize }), {
      where: settings.data,
      advice: say().serviceOperate.makeRoom(),
    });
}

async function copyIn(
  { settings, chosen }: RestoreOptions,
  list: readonly { readonly sha256: string }[],
): Promise<void> {
  const { manifest, out } = chosen;
  const store = join(settings.data, "files");
  await prepareFolder(store, false);
  const bytes = join(out, BYTES);
  for (const { sha256 } of list)
    if (!manifest.files.missing.includes(sha256))
      await copyFlushed(pathOfBytes(bytes, sha256), pathOfBytes(store, sha256), sha256);
  for (const { folder, path, sha256 } of manifest.folders) {
    const into = settings[folder as "fonts"];
    if (isAbsolute(into) || into === "none" || path.split("/").includes("..")) continue;
    await copyFlushed(pathOfBytes(bytes, sha256), join(settings.data, into, path), sha256);
  }
}

/** Copies the journal as it was at the backup, and what came along of it as it went on. Gives how many files go on. */
async function copyJournals({ settings, chosen, journal }: RestoreOptions): Promise<number> {
  const into = join(settings.data, JOURNAL_FOLDER);
  for (const { name } of chosen.manifest.left)
    await copyFlushed(join(chosen.out, chosen.name, LEFT, name), join(into, name));
  if (journal === undefined) return 0;
  const inner = join(journal, JOURNAL_FOLDER);
  const from = basename(journal) !== JOURNAL_FOLDER && (await journalFiles(inner)).length > 0 ? inner : journal;
  const names = await journalFiles(from);
  if (names.length === 0)
    throw new CorbixError("NOT_FOUND", say().serviceOperate.noJournal(), {
      where: journal,
      advice: say().serviceOperate.nameJournal(),
    });
  let longer = 0;
  for (const name of names) {
    const there = await stat(join(into, name)).catch(() => undefined);
    if (there && there.size >= (await stat(join(from, name))).size) continue;
    await copyFlushed(join(from, name), join(into, name));
    longer++;
  }
  return longer;
}

async function restoreDatabase(databaseUrl: string, { out, name, manifest }: ChosenBackup): Promise<void> {
  const asking = await openAsking(databaseUrl);
  const { version: server } = await serverFacts(asking);
  await asking.close();
  if (majorOf(server) < majorOf(manifest.database.server))
    throw new CorbixError("CONFLICT", say().serviceOperate.olderServer({ server, taken: manifest.database.server }), {
      where: "CORBIX_DATABASE_URL",
      advice: say().serviceOperate.newerServer({ major: majorOf(manifest.database.server) }),
    });
  const program = await databaseProgram("pg_restore", server);
  await runOn(
    databaseUrl,
    program,
    [
      "--no-owner",
      "--no-privileges",
      "--exit-on-error",
      "--single-transaction",
      join(out, name, manifest.database.file),
    ],
    (words) =>
      /No space left|disk full|could not extend/i.test(words)
        ? new CorbixError("NO_SPACE", say().serviceOperate.cannotRestore({ words }), {
            where: "CORBIX_DATABASE_URL",
            advice: say().serviceOperate.makeRoom(),
          })
        : new CorbixError("FAILED", say().serviceOperate.cannotRestore({ words }), { where: "CORBIX_DATABASE_URL" }),
  );
}

/** Every table has to have the rows that it had. */
async function compareTables(databaseUrl: string, manifest: Manifest): Promise<void> {
  const asking = await openAsking(databaseUrl);
  try {
    const tables = await countTables(asking);
    const wrong = Object.entries(manifest.database.tables).filter(([name, rows]) => tables[name] !== rows);
    if (wrong.length > 0)
      throw new CorbixError(
        "BAD_BACKUP",
        say().serviceOperate.rowsDiffer({
          tables: wrong.map(([name, rows]) => `${name}: ${tables[name] ?? 0} of ${rows}`).join(", "),
        }),
        { where: manifest.database.file, advice: say().serviceOperate.useAnother() },
      );
  } finally {
    await asking.close();
  }
}

/** A database of an older version is brought to this one first: it knows halts then. */
async function haltRestored(databaseUrl: string, { name, manifest }: ChosenBackup, journal: number): Promise<void> {
  const database = await openDatabase(databaseUrl, { migrate: true });
  try {
    await leapNumbers(database);
    await addHalt(database, {
      why: "restored",
      facts: { taken: manifest.takenAt, name, journal },
      by: "corbix",
      at: new Date(),
    });
  } finally {
    await database.close();
  }
}

/** Takes away what was written; the database is restored in one transaction, so what is in it is all or nothing. */
async function undo(settings: Settings, databaseUrl: string): Promise<void> {
  await rm(join(settings.data, "files"), { recursive: true, force: true });
  await rm(join(settings.data, JOURNAL_FOLDER), { recursive: true, force: true });
  const asking = await openAsking(databaseUrl).catch(() => undefined);
  if (!asking) return;
  try {
    if ((await migrationsOf(asking)).length === 0) return;
    await dropEverything(asking);
  } finally {
    await asking.close();
  }
}
