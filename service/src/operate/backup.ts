/** Takes a backup while the service runs: database and stored bytes of one moment, with a manifest that tells what is in it. */
import { chmod, mkdir, readdir, readFile, rm, stat, statfs, writeFile } from "node:fs/promises";
import { isAbsolute, join, relative } from "node:path";
import { CorbixError, sha256 } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { keyMark } from "../access/secrets.js";
import { JOURNAL_FOLDER, journalFiles } from "../journal/journal.js";
import type { Settings } from "../process/settings.js";
import { openSnapshot, type Snapshot } from "../records/index.js";
import { storeError, systemCode } from "../store/store-errors.js";
import { copyFlushed, writeFlushed } from "./flushed.js";
import {
  BYTES,
  backupName,
  backupsIn,
  DUMP,
  digestOfFile,
  LEFT,
  LIST,
  listText,
  type Manifest,
  pathOfBytes,
  readList,
  readManifest,
  writeManifest,
} from "./manifest.js";
import { databaseProgram, runOn } from "./programs.js";

export interface BackupOptions {
  readonly settings: Settings;
  readonly databaseUrl: string;
  /** Folder of backups; bytes that an earlier one has are not copied again. */
  readonly out: string;
  /** Only the newest so many stay. */
  readonly keep?: number | undefined;
  readonly version: string;
  readonly progress?: (done: number, total: number) => void;
}

export interface TakenBackup {
  readonly name: string;
  readonly manifest: Manifest;
  /** Stored bytes that were not there from a backup before. */
  readonly copied: number;
  /** Older backups that were deleted. */
  readonly deleted: readonly string[];
}

/** A dump takes about so much of the database's size; asked for before anything is written. */
const DUMP_SHARE = 0.5;

/** Throws `NO_SPACE` where there is no room, and `DATABASE_UNREACHABLE`; nothing counts as a backup then. */
export async function takeBackup(options: BackupOptions): Promise<TakenBackup> {
  const { settings, out } = options;
  refuseWithin(settings.data, out);
  await mkdir(out, { recursive: true, mode: 0o700 });
  const leave = await holdFolder(out);
  try {
    return await takeInto(options);
  } finally {
    await leave();
  }
}

/** One backup at a time is taken into a folder: what another has begun would count as broken off. Throws `CONFLICT`. */
async function holdFolder(out: string): Promise<() => Promise<void>> {
  const mark = join(out, "taking");
  for (;;) {
    try {
      await writeFile(mark, `${process.pid}\n`, { flag: "wx", mode: 0o600 });
      return () => rm(mark, { force: true });
    } catch (error) {
      if (systemCode(error) !== "EEXIST") throw storeError(error);
    }
    const pid = Number(await readFile(mark, "utf8").catch(() => ""));
    if (pid > 0 && isAlive(pid))
      throw new CorbixError("CONFLICT", say().serviceOperate.takesAlready({ pid }), {
        where: mark,
        advice: say().serviceOperate.waitForIt(),
      });
    await rm(mark, { force: true });
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return systemCode(error) === "EPERM";
  }
}

async function takeInto(options: BackupOptions): Promise<TakenBackup> {
  const { settings, databaseUrl, out } = options;
  await clearUnfinished(out);
  const snapshot = await openSnapshot(databaseUrl);
  const name = backupName(snapshot.at);
  const folder = join(out, name);
  try {
    if ((await backupsIn(out)).includes(name))
      throw new CorbixError("CONFLICT", say().serviceOperate.backupThere(), { where: folder });
    const bytes = join(out, BYTES);
    const news = await newBytes(snapshot, bytes);
    await refuseFull(out, snapshot, news);
    await mkdir(join(folder, LEFT), { recursive: true, mode: 0o700 });
    const program = await databaseProgram("pg_dump", snapshot.server);
    const dump = join(folder, DUMP);
    await runOn(
      databaseUrl,
      program,
      ["--format=custom", `--snapshot=${snapshot.id}`, "--no-owner", "--no-privileges", `--file=${dump}`],
      (words) => dumpFailed(words, dump),
    );
    await chmod(dump, 0o600);
    const missing = await copyBytes(options, news, bytes);
    const list = listText(snapshot.blobs);
    await writeFlushed(join(folder, LIST), list);
    const manifest: Manifest = {
      form: 1,
      takenAt: snapshot.at.toISOString(),
      corbix: options.version,
      installation: snapshot.installation,
      database: {
        file: DUMP,
        sha256: await digestOfFile(dump),
        size: (await stat(dump)).size,
        server: snapshot.server,
        migrations: [...snapshot.migrations],
        tables: { ...snapshot.tables },
      },
      files: {
        list: LIST,
        sha256: sha256(list),
        count: snapshot.blobs.length,
        bytes: snapshot.blobs.reduce((sum, { size }) => sum + size, 0),
        missing,
      },
      folders: await copyFolders(settings, bytes),
      left: await copyJournal(settings, folder),
      key: await keyMark(settings.data, settings.secretKey),
    };
    await writeManifest(folder, manifest);
    const deleted = await deleteOlder(out, options.keep);
    return { name, manifest, copied: news.length - missing.length, deleted };
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  } finally {
    await snapshot.close();
  }
}

/** A backup within what it is of would be lost with it, and hold itself. */
function refuseWithin(data: string, out: string): void {
  const way = relative(data, out);
  if (way === "" || !(way.startsWith("..") || isAbsolute(way)))
    throw new CorbixError("CONFLICT", say().serviceOperate.backupWithin(), {
      where: out,
      advice: say().serviceOperate.backupElsewhere(),
    });
}

/** What a backup that was broken off has left. */
async function clearUnfinished(out: string): Promise<void> {
  const whole = new Set(await backupsIn(out));
  for (const one of await readdir(out, { withFileTypes: true }))
    if (one.isDirectory() && /^\d{4}-\d\d-\d\dT\d{6}Z$/.test(one.name) && !whole.has(one.name))
      await rm(join(out, one.name), { recursive: true, force: true });
}

/** Stored bytes that the folder of backups has not. */
async function newBytes(snapshot: Snapshot, bytes: string): Promise<Snapshot["blobs"]> {
  const news: { sha256: string; size: number }[] = [];
  for (const blob of snapshot.blobs) {
    const there = await stat(pathOfBytes(bytes, blob.sha256)).catch(() => undefined);
    if (there === undefined || (blob.size > 0 && there.size !== blob.size)) news.push(blob);
  }
  return news;
}

async function refuseFull(out: string, snapshot: Snapshot, news: Snapshot["blobs"]): Promise<void> {
  const { bavail, bsize } = await statfs(out);
  const needed = news.reduce((sum, { size }) => sum + size, 0) + Math.ceil(snapshot.size * DUMP_SHARE);
  if (bavail * bsize < needed)
    throw new CorbixError("NO_SPACE", say().serviceOperate.noRoom({ needed, free: bavail * bsize }), {
      where: out,
      advice: say().serviceOperate.makeRoom(),
    });
}

function dumpFailed(words: string, where: string): CorbixError {
  return /No space left|disk full|quota/i.test(words)
    ? new CorbixError("NO_SPACE", say().serviceOperate.cannotDump({ words }), {
        where,
        advice: say().serviceOperate.makeRoom(),
      })
    : new CorbixError("FAILED", say().serviceOperate.cannotDump({ words }), { where });
}

/** Copies stored bytes; gives the digests of those that are not there, or not whole. */
async function copyBytes(
  { settings, progress }: BackupOptions,
  news: Snapshot["blobs"],
  bytes: string,
): Promise<string[]> {
  const missing: string[] = [];
  const store = join(settings.data, "files");
  for (const [at, { sha256: digest }] of news.entries()) {
    const copied = await copyFlushed(pathOfBytes(store, digest), pathOfBytes(bytes, digest), digest).catch((error) => {
      if (isMissing(error)) return undefined;
      throw error;
    });
    if (!copied) missing.push(digest);
    progress?.(at + 1, news.length);
  }
  return missing;
}

function isMissing(error: unknown): boolean {
  return systemCode((error as { cause?: unknown }).cause ?? error) === "ENOENT";
}

/** Folders that reports are made from besides: fonts of one's own, attachments that are found by name, files that wait to be taken. */
async function copyFolders(settings: Settings, bytes: string): Promise<Manifest["folders"]> {
  const found: Manifest["folders"] = [];
  for (const folder of ["fonts", "attachFolder", "inbox"] as const) {
    const path = settings[folder];
    if (isAbsolute(path) || path === "none") continue;
    const names = await readdir(join(settings.data, path), { recursive: true, withFileTypes: true }).catch(() => []);
    for (const one of names) {
      if (!one.isFile()) continue;
      const own = join(one.parentPath ?? one.path, one.name);
      const digest = await digestOfFile(own);
      const copied = await copyFlushed(own, pathOfBytes(bytes, digest), digest);
      if (copied) found.push({ folder, path: relative(join(settings.data, path), own), ...copied });
    }
  }
  return found;
}

async function copyJournal(settings: Settings, folder: string): Promise<Manifest["left"]> {
  const found: Manifest["left"] = [];
  const own = join(settings.data, JOURNAL_FOLDER);
  for (const name of await journalFiles(own)) {
    const copied = await copyFlushed(join(own, name), join(folder, LEFT, name));
    if (copied) found.push({ name, ...copied });
  }
  return found;
}

/** Deletes all but the newest backups, and then bytes that none of those left needs. */
async function deleteOlder(out: string, keep: number | undefined): Promise<string[]> {
  if (keep === undefined) return [];
  const all = await backupsIn(out);
  const over = all.slice(0, Math.max(0, all.length - keep));
  for (const name of over) await rm(join(out, name), { recursive: true });
  const needed = new Set<string>();
  for (const name of all.slice(over.length)) {
    const manifest = await readManifest(join(out, name));
    for (const { sha256: digest } of await readList(join(out, name), manifest)) needed.add(digest);
    for (const { sha256: digest } of manifest.folders) needed.add(digest);
  }
  for (const one of await readdir(join(out, BYTES), { recursive: true, withFileTypes: true }).catch(() => []))
    if (one.isFile() && !needed.has(one.name)) await rm(join(one.parentPath ?? one.path, one.name));
  return over;
}
