/** The journal of what left, in files beside the store: added to and flushed before the first byte goes out, and never changed. */
import { type FileHandle, mkdir, open, readdir, readFile, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError, wordsOf } from "@corbix/core/common";
import { type JournalBegin, type JournalEnd, type JournalHead, journalLine } from "@corbix/core/delivery";
import { say } from "@corbix/core/words";
import { flushFolder } from "../store/file-store.js";
import { storeError } from "../store/store-errors.js";

export interface Journal {
  /** Adds what is about to go out; resolves once the disk has it. Throws `NO_SPACE` or `STORE_AWAY`: nothing may go then. */
  readonly begin: (entries: readonly JournalBegin[]) => Promise<void>;
  /** Adds what became of something. The disk has it by the next flush. */
  readonly end: (entry: JournalEnd) => Promise<void>;
  /** Whether it can be written, as far as is known: after it could not, that is tried anew. */
  readonly isWritable: () => Promise<boolean>;
  readonly close: () => Promise<void>;
}

/** Folder of the journal, within the data folder. */
export const JOURNAL_FOLDER = "left";
/** A file that has grown so long is followed by another one. */
const FILE_BYTES = 16 * 2 ** 20;

interface Waiting {
  readonly text: string;
  readonly isFlushed: boolean;
  readonly resolve: () => void;
  readonly reject: (error: unknown) => void;
}

/** A journal in a folder. Each process has a file of its own, which is made when there is something to write. */
export function folderJournal(
  folder: string,
  who: { readonly installation: string; readonly process: string },
  now: () => Date,
): Journal {
  let file: { readonly handle: FileHandle; size: number } | undefined;
  let count = 0;
  let waiting: Waiting[] = [];
  let writing: Promise<void> | undefined;
  let isBroken = false;

  const openFile = async (): Promise<NonNullable<typeof file>> => {
    await mkdir(folder, { recursive: true, mode: 0o700 });
    const at = now().toISOString();
    const stamp = at.replace(/[-:]|\.\d+/g, "");
    const handle = await open(join(folder, `${stamp}-${who.process}-${++count}.log`), "ax", 0o600);
    const head: JournalHead = { kind: "journal", installation: who.installation, process: who.process, at };
    const line = journalLine(head);
    await handle.appendFile(line);
    await handle.datasync();
    // The name itself has to outlive a crash, too.
    await flushFolder(folder);
    return { handle, size: Buffer.byteLength(line) };
  };
  const leaveFile = async (): Promise<void> => {
    const left = file;
    file = undefined;
    await left?.handle.datasync().catch(() => {});
    await left?.handle.close().catch(() => {});
  };
  const writeAll = async (): Promise<void> => {
    while (waiting.length > 0) {
      const some = waiting;
      waiting = [];
      try {
        if (file && file.size > FILE_BYTES) await leaveFile();
        file ??= await openFile();
        const bytes = Buffer.from(some.map(({ text }) => text).join(""));
        await file.handle.appendFile(bytes);
        file.size += bytes.length;
        if (some.some(({ isFlushed }) => isFlushed)) await file.handle.datasync();
        for (const { resolve } of some) resolve();
      } catch (error) {
        // A line may stand there in part: what follows goes into another file.
        await leaveFile();
        isBroken = true;
        for (const { reject } of some) reject(unwritable(folder, error));
      }
    }
    writing = undefined;
  };
  const add = (text: string, isFlushed: boolean): Promise<void> =>
    new Promise((resolve, reject) => {
      waiting.push({ text, isFlushed, resolve, reject });
      writing ??= Promise.resolve().then(writeAll);
    });
  return {
    begin: async (entries) => {
      if (entries.length > 0) await add(entries.map(journalLine).join(""), true);
    },
    end: (entry) => add(journalLine(entry), false),
    isWritable: async () => {
      if (!isBroken) return true;
      try {
        if (!writing) file ??= await openFile();
        isBroken = false;
      } catch {
        return false;
      }
      return true;
    },
    close: async () => {
      while (writing) await writing;
      await leaveFile();
    },
  };
}

/** Without it nothing may go out: it is said where it lies, and what is wrong with it. */
function unwritable(folder: string, cause: unknown): CorbixError {
  const known = storeError(cause);
  const isFull = known instanceof CorbixError && known.code === "NO_SPACE";
  return new CorbixError(
    isFull ? "NO_SPACE" : "STORE_AWAY",
    say().serviceJournal.cannotWrite({ why: wordsOf(cause) }),
    {
      where: folder,
      advice: say().serviceJournal.makeWritable(),
      cause,
    },
  );
}

/** Names of a journal's files, the oldest first. */
export async function journalFiles(folder: string): Promise<string[]> {
  const names = await readdir(folder).catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return [];
    throw storeError(error);
  });
  return names.filter((name) => name.endsWith(".log")).sort();
}

export async function journalSize(folder: string, name: string): Promise<number> {
  return (await stat(join(folder, name))).size;
}

/** Bytes of a journal's file, from a place on. */
export async function readJournalFile(folder: string, name: string, from = 0): Promise<Buffer> {
  const bytes = await readFile(join(folder, name));
  return from === 0 ? bytes : bytes.subarray(from);
}

/** Puts lines of the same length in the place of others, where somebody is erased. */
export async function rewriteLines(
  folder: string,
  name: string,
  lines: readonly { readonly start: number; readonly text: string }[],
): Promise<void> {
  const handle = await open(join(folder, name), "r+");
  try {
    for (const { start, text } of lines) await handle.write(Buffer.from(text), 0, undefined, start);
    await handle.datasync();
  } finally {
    await handle.close();
  }
}

export async function removeJournalFile(folder: string, name: string): Promise<void> {
  await rm(join(folder, name), { force: true });
}
