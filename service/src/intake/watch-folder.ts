import { createReadStream } from "node:fs";
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from "node:fs/promises";
import { isAbsolute, join } from "node:path";
import { CorbixError, ERRORS, wordsOf } from "@corbix/core/common";
import { nameSchema } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import type { Settings } from "../process/settings.js";
import { allDatasets } from "../records/index.js";
import { noteArrival, refusalText } from "./arrivals.js";
import { isRecordFile, takeRecordFile } from "./record-files.js";
import { takeIn } from "./take-in.js";

/** Names that programs give to files they are still writing. */
const UNFINISHED = /^[.~]|^~\$|\.(part|partial|tmp|temp|crdownload|filepart|download)$/i;
const DONE = "done";
const REFUSED = "refused";
/** The folder is looked at so often. */
export const LOOK_MS = 1_000;
/** Folders for new datasets are made every so many looks. */
const FOLDERS_EVERY = 10;
/** A file that seems damaged may still be on its way for so long. */
const PATIENCE_MS = 30_000;

/** Where files are watched for; the settings may say `none`. */
export function inboxFolder({ inbox, data }: Settings): string {
  return isAbsolute(inbox) ? inbox : join(data, inbox);
}

/** Who brings what lies in the folder. */
const FOLDER = "watched folder";

interface Loaded {
  readonly edition: number | null;
  readonly message: string | null;
}

interface Seen {
  readonly size: number;
  readonly changed: number;
  readonly since: number;
  readonly first: number;
}

/**
 * Takes files from a folder: each subfolder is named as a dataset, and a file in it that has not changed for a while
 * becomes its next edition. Done and refused files are moved away; a refused one has a note beside it.
 */
export class FolderWatch {
  private looks = 0;
  /** Files that were taken, or cannot be, and still stand there as they were: they are left alone until they change. */
  private readonly left = new Map<string, string>();
  private readonly seen = new Map<string, Seen>();
  readonly root: string;

  constructor(private readonly context: Context) {
    this.root = inboxFolder(context.settings);
  }

  async look(): Promise<void> {
    if (this.looks++ % FOLDERS_EVERY === 0) await this.makeFolders();
    const present = new Set<string>();
    for (const folder of await readdir(this.root, { withFileTypes: true })) {
      if (!folder.isDirectory() || !nameSchema.safeParse(folder.name).success) continue;
      for (const entry of await readdir(join(this.root, folder.name), { withFileTypes: true })) {
        if (!entry.isFile() || UNFINISHED.test(entry.name)) continue;
        const path = join(this.root, folder.name, entry.name);
        present.add(path);
        if (await this.isLeft(path)) continue;
        if (await this.isFinished(path)) await this.take(folder.name, entry.name, path);
      }
    }
    for (const path of [...this.left.keys()]) if (!present.has(path)) this.left.delete(path);
    for (const path of [...this.seen.keys()]) if (!present.has(path)) this.seen.delete(path);
  }

  private async isLeft(path: string): Promise<boolean> {
    const known = this.left.get(path);
    return known !== undefined && known === (await signature(path));
  }

  /** A folder for each dataset there is, so that nobody has to know how it is called. */
  private async makeFolders(): Promise<void> {
    await mkdir(this.root, { recursive: true });
    for (const { name } of await allDatasets(this.context.database))
      await mkdir(join(this.root, name), { recursive: true });
  }

  /** Whether size and time of change have stayed the same for the settling time. */
  private async isFinished(path: string): Promise<boolean> {
    const facts = await stat(path).catch(() => undefined);
    if (!facts || facts.size === 0) return false;
    const now = Date.now();
    const known = this.seen.get(path);
    if (!known || known.size !== facts.size || known.changed !== facts.mtimeMs) {
      this.seen.set(path, { size: facts.size, changed: facts.mtimeMs, since: now, first: known?.first ?? now });
      return false;
    }
    return now - known.since >= this.context.settings.inboxSettle * 1000;
  }

  private async take(dataset: string, file: string, path: string): Promise<void> {
    const { context } = this;
    const facts = { way: "folder" as const, sender: dataset, file, dataset };
    const mark = (await signature(path)) ?? "";
    if (!(await canBeMoved(join(this.root, dataset)))) {
      // It would be loaded again at every look.
      this.left.set(path, mark);
      const message = say().serviceIntake.loadedFolderCannotWrittenSo({ file });
      context.log.warn({ path }, message);
      await noteArrival(context, { ...facts, outcome: "refused", edition: null, message });
      return;
    }
    let isLoaded = false;
    try {
      const loaded = isRecordFile(file)
        ? await this.takeRecords(dataset, file, path)
        : await this.load(dataset, file, path);
      isLoaded = true;
      this.left.set(path, mark);
      await this.moveAway(dataset, file, path, DONE);
      await noteArrival(context, { ...facts, outcome: "loaded", ...loaded });
    } catch (error) {
      if (isLoaded) {
        const message = say().serviceIntake.loadedButCouldMovedAway({ file, wordsOf: wordsOf(error) });
        context.log.warn({ path }, message);
        await noteArrival(context, { ...facts, outcome: "loaded", edition: null, message });
        this.seen.delete(path);
        return;
      }
      // Our own side's trouble is not the file's: it is tried again when that is over.
      if (error instanceof CorbixError && ERRORS[error.code].retry) throw error;
      const known = this.seen.get(path);
      if (known && Date.now() - known.first < PATIENCE_MS && isCutOff(error)) {
        // Copied slowly, it may be whole the next time it is looked at.
        this.seen.set(path, { ...known, since: Date.now() });
        return;
      }
      const message = refusalText(error);
      this.left.set(path, mark);
      const moved = await this.moveAway(dataset, file, path, REFUSED);
      // Whoever sees the note finds it whole.
      await writeFile(`${moved}.note`, say().serviceIntake.loaded({ file, dataset, message }));
      await rename(`${moved}.note`, `${moved}.txt`);
      await noteArrival(context, { ...facts, outcome: "refused", edition: null, message });
    }
    this.seen.delete(path);
  }

  private async load(dataset: string, file: string, path: string): Promise<Loaded> {
    const { context } = this;
    const { sha256 } = await context.store.putStream(createReadStream(path), context.settings.uploadLimit);
    return { edition: (await takeIn(context, { dataset, file, sha256 }, FOLDER)).number, message: null };
  }

  private async takeRecords(dataset: string, file: string, path: string): Promise<Loaded> {
    const taken = await takeRecordFile(this.context, { dataset, file, bytes: await readFile(path) }, FOLDER);
    const runs = taken.map(({ run }) => run).join(", ");
    return { edition: taken[0]?.edition ?? null, message: say().serviceIntake.recordsRun({ runs }) };
  }

  /** Moves a file aside under the time it was taken, so that none overwrites another. */
  private async moveAway(dataset: string, file: string, path: string, to: string): Promise<string> {
    const folder = join(this.root, dataset, to);
    await mkdir(folder, { recursive: true });
    const stamp = this.context.now().toISOString().slice(0, 23).replace(/[:.]/g, "-");
    const target = join(folder, `${stamp} ${file}`);
    await rename(path, target);
    return target;
  }
}

function isCutOff(error: unknown): boolean {
  return error instanceof CorbixError && ["BROKEN_PACKAGE", "BROKEN_XML"].includes(error.code);
}

/** What tells whether a file has changed. */
async function signature(path: string): Promise<string | undefined> {
  const facts = await stat(path).catch(() => undefined);
  return facts && `${facts.ino} ${facts.size} ${facts.mtimeMs}`;
}

/** Whether files can be moved within a folder; tried, since rights alone do not tell of a share that is mounted read-only. */
async function canBeMoved(folder: string): Promise<boolean> {
  const probe = join(folder, `.corbix-${process.pid}`);
  try {
    await writeFile(probe, "");
    await rm(probe);
    return true;
  } catch {
    return false;
  }
}
