import { createHash, randomUUID } from "node:crypto";
import { createReadStream } from "node:fs";
import { type FileHandle, mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError, sha256 } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { storeError, systemCode } from "./store-errors.js";

export interface StoredFile {
  readonly sha256: string;
  readonly size: number;
}

/** Bytes that have come in whole and are not yet under their digest. */
export interface ReceivedFile extends StoredFile {
  /** Puts them there; the bytes that stand there then have been read again. */
  readonly keep: () => Promise<void>;
  readonly drop: () => Promise<void>;
}

/** Whether a stored file is as its digest says. */
export type Condition = "whole" | "damaged" | "missing";

/**
 * Bytes by their SHA-256; what is in it is never changed. Everything throws `STORE_AWAY` where the store itself cannot be reached,
 * and `NO_SPACE` where nothing more can be written; nothing is kept then.
 */
export interface FileStore {
  /** Stores bytes and reads them again; a damaged file of that digest is healed by that. */
  readonly put: (bytes: Uint8Array) => Promise<string>;
  /** The same for several, all or nothing as far as the records know; their digests in the same order. */
  readonly putAll: (files: readonly Uint8Array[]) => Promise<string[]>;
  /** Bytes whose digest has been checked. Throws `FILE_MISSING`. */
  readonly get: (digest: string) => Promise<Uint8Array>;
  readonly has: (digest: string) => Promise<boolean>;
  /** Stores what comes in without holding it in memory. Throws `LIMIT_EXCEEDED` beyond so many bytes, and keeps nothing then. */
  readonly putStream: (source: AsyncIterable<Uint8Array>, limit: number) => Promise<StoredFile>;
  /** Where a thread of this machine reads the stored bytes; it has to compare their digest. */
  readonly pathOf: (digest: string) => string;
  /** Takes away what nothing refers to any more. */
  readonly remove: (digest: string) => Promise<void>;
  /** Reads a file and says how it is. */
  readonly check: (digest: string) => Promise<Condition>;
  /** Digests of all files that are there. */
  readonly list: () => Promise<string[]>;
  /** Throws what keeps something from being stored now. */
  readonly probe: () => Promise<void>;
}

/** The store on disk, whose writing is in two steps, so that records can be made between them. */
export interface FolderStore extends Omit<FileStore, "put" | "putAll" | "putStream"> {
  readonly receive: (source: AsyncIterable<Uint8Array> | Uint8Array, limit: number) => Promise<ReceivedFile>;
}

/** Tells the store's folder from an empty one, such as a share that is not mounted. */
const MARK = ".corbix-store";
const INCOMING = ".incoming";
/** What a probe writes: enough for a file system that has a few free blocks only to say so. */
const PROBE_BYTES = 1_048_576;
/** Incoming files that a process left behind are taken away after so long. */
const LEFTOVER_MS = 24 * 3_600_000;

/**
 * Makes the folder ready. A folder without its mark is taken for a new store only where the records know of no stored bytes, or
 * where files are in it; otherwise it is left as it is, and everything says `STORE_AWAY`.
 */
export async function prepareFolder(root: string, isKnown: boolean): Promise<void> {
  if (await exists(join(root, MARK))) return;
  const entries = await readdir(root).catch(() => []);
  if (isKnown && !entries.some((name) => /^[0-9a-f]{2}$/.test(name))) return;
  await mkdir(root, { recursive: true, mode: 0o700 });
  await writeFile(join(root, MARK), "A file store of Corbix: bytes by their SHA-256.\n", { mode: 0o600 });
}

/** A store in a folder: `ab/abcdef…`. Files are written beside, flushed, read again, and moved to their name, so none is ever half there. */
export function folderStore(root: string): FolderStore {
  const pathOf = (digest: string): string => {
    if (!/^[0-9a-f]{64}$/.test(digest))
      throw new CorbixError("NOT_FOUND", say().serviceStore.cannotReadFileDigest(), {
        where: say().serviceStore.fileStore(),
      });
    return join(root, digest.slice(0, 2), digest);
  };
  const isThere = async (): Promise<void> => {
    if (!(await exists(join(root, MARK)))) throw storeError({ code: "NOMARK", message: `${root} has no ${MARK}` });
  };
  const check = async (digest: string): Promise<Condition> => {
    try {
      return (await digestOf(pathOf(digest))) === digest ? "whole" : "damaged";
    } catch (error) {
      await isThere();
      if (systemCode(error) === "ENOENT") return "missing";
      throw storeError(error);
    }
  };
  const keep = async (beside: string, digest: string): Promise<void> => {
    const path = pathOf(digest);
    if ((await exists(path)) && (await check(digest)) === "whole") {
      await rm(beside, { force: true });
      return;
    }
    const folder = join(root, digest.slice(0, 2));
    await withFolder(folder, () => rename(beside, path));
    await flushFolder(folder);
  };
  return {
    pathOf,
    check,
    has: async (digest) => {
      if (await exists(pathOf(digest))) return true;
      await isThere();
      return false;
    },
    get: async (digest) => {
      const bytes = await readFile(pathOf(digest)).catch(async (cause: NodeJS.ErrnoException) => {
        await isThere();
        if (cause.code !== "ENOENT") throw storeError(cause);
        throw new CorbixError(
          "FILE_MISSING",
          say().serviceStore.cannotReadStoredFile({ digest: digest.slice(0, 12) }),
          {
            where: say().serviceStore.fileStore(),
            advice: say().serviceStore.seeCorbixVerifySaysRestore(),
            cause,
          },
        );
      });
      if (sha256(bytes) !== digest) throw damaged(digest);
      return bytes;
    },
    remove: (digest) => rm(pathOf(digest), { force: true }),
    receive: async (source, limit) => {
      await isThere();
      const beside = join(root, INCOMING, randomUUID());
      const drop = (): Promise<void> => rm(beside, { force: true });
      try {
        const written = await withFolder(join(root, INCOMING), () => writeWhole(beside, source, limit));
        // Read again before anything is recorded: what a disk says it wrote is not always what stands there.
        if ((await digestOf(beside)) !== written.sha256)
          throw new CorbixError("STORE_AWAY", say().serviceStore.cannotStoreFileReadsOtherwise(), {
            where: say().serviceStore.fileStore(),
            advice: say().serviceStore.seeDiskWellNothingKept(),
          });
        return {
          ...written,
          drop,
          keep: () =>
            keep(beside, written.sha256).catch(async (error: unknown) => {
              await drop().catch(() => {});
              throw storeError(error);
            }),
        };
      } catch (error) {
        await drop().catch(() => {});
        throw storeError(error);
      }
    },
    list: async () => {
      await isThere();
      const folders = (await readdir(root)).filter((name) => /^[0-9a-f]{2}$/.test(name));
      const all: string[] = [];
      for (const folder of folders)
        all.push(...(await readdir(join(root, folder))).filter((name) => /^[0-9a-f]{64}$/.test(name)));
      return all;
    },
    probe: async () => {
      await isThere();
      const path = join(root, INCOMING, `probe-${randomUUID()}`);
      try {
        await mkdir(join(root, INCOMING), { recursive: true, mode: 0o700 });
        await writeWhole(path, new Uint8Array(PROBE_BYTES), PROBE_BYTES);
        await sweepIncoming(join(root, INCOMING));
      } catch (error) {
        throw storeError(error);
      } finally {
        await rm(path, { force: true }).catch(() => {});
      }
    },
  };
}

/** The error for bytes that are not those of their digest. */
export function damaged(digest: string): CorbixError {
  return new CorbixError("FILE_MISSING", say().serviceStore.cannotUseStoredFileBytes({ digest: digest.slice(0, 12) }), {
    where: say().serviceStore.fileStore(),
    advice: say().serviceStore.loadSameFileAgainHeals(),
  });
}

async function writeWhole(
  path: string,
  source: AsyncIterable<Uint8Array> | Uint8Array,
  limit: number,
): Promise<StoredFile> {
  const handle = await open(path, "wx", 0o600);
  const hash = createHash("sha256");
  let size = 0;
  try {
    for await (const chunk of source instanceof Uint8Array ? [source] : source) {
      size += chunk.length;
      if (size > limit)
        throw new CorbixError("LIMIT_EXCEEDED", say().serviceStore.cannotTakeFileOverLimit({ limit }), {
          where: "body",
          advice: say().serviceStore.raiseCorbixUploadLimitSend(),
        });
      hash.update(chunk);
      await writeAll(handle, chunk);
    }
    await handle.sync();
  } finally {
    await handle.close();
  }
  return { sha256: hash.digest("hex"), size };
}

/** A disk that is nearly full takes a part of what it is given and says how much: the rest has to be asked for again. */
async function writeAll(handle: FileHandle, chunk: Uint8Array): Promise<void> {
  for (let at = 0; at < chunk.length; ) {
    const { bytesWritten } = await handle.write(chunk, at, chunk.length - at);
    if (bytesWritten === 0) throw Object.assign(new Error("nothing more was written"), { code: "ENOSPC" });
    at += bytesWritten;
  }
}

/** Does something within a folder; one that is not there yet is made, and it is done then. */
async function withFolder<Done>(folder: string, work: () => Promise<Done>): Promise<Done> {
  try {
    return await work();
  } catch (error) {
    if (systemCode(error) !== "ENOENT" || (await exists(folder))) throw error;
    await mkdir(folder, { recursive: true, mode: 0o700 });
    return work();
  }
}

/** Bytes that are read whole; more is read piece by piece. */
const SMALL_BYTES = 1_048_576;

async function digestOf(path: string): Promise<string> {
  if ((await stat(path)).size <= SMALL_BYTES) return sha256(await readFile(path));
  const hash = createHash("sha256");
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest("hex");
}

/** Makes names in a folder outlive a crash. */
export async function flushFolder(path: string): Promise<void> {
  const handle = await open(path, "r");
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

async function sweepIncoming(folder: string): Promise<void> {
  for (const name of await readdir(folder)) {
    const facts = await stat(join(folder, name)).catch(() => undefined);
    if (facts && Date.now() - facts.mtimeMs > LEFTOVER_MS) await rm(join(folder, name), { force: true });
  }
}

function exists(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    () => false,
  );
}
