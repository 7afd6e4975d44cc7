import { createHash, randomUUID } from "node:crypto";
import { link, mkdir, open, readFile, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError, sha256 } from "@corbix/core/common";

/** Bytes by their SHA-256; what is in it is never changed. */
export interface FileStore {
  /** Stores bytes, reads them again, and gives their digest only when both are the same. */
  readonly put: (bytes: Uint8Array) => Promise<string>;
  /** Bytes whose digest has been checked. Throws `FILE_MISSING`. */
  readonly get: (digest: string) => Promise<Uint8Array>;
  readonly has: (digest: string) => Promise<boolean>;
  /** Stores what comes in without holding it in memory. Throws `LIMIT_EXCEEDED` beyond so many bytes, and keeps nothing then. */
  readonly putStream: (source: AsyncIterable<Uint8Array>, limit: number) => Promise<{ sha256: string; size: number }>;
  /** Where a thread of this machine reads the stored bytes. */
  readonly pathOf: (digest: string) => string;
  /** Takes away what nothing refers to any more. */
  readonly remove: (digest: string) => Promise<void>;
}

/** A store in a folder: `ab/abcdef…`. Files are written beside, flushed, and linked to their name, so none is ever half there. */
export function folderStore(root: string): FileStore {
  const pathOf = (digest: string): string => {
    if (!/^[0-9a-f]{64}$/.test(digest))
      throw new CorbixError("NOT_FOUND", "Cannot read a file by this digest.", { where: "file store" });
    return join(root, digest.slice(0, 2), digest);
  };
  const has = (digest: string): Promise<boolean> =>
    stat(pathOf(digest)).then(
      () => true,
      () => false,
    );
  const get = async (digest: string): Promise<Uint8Array> => {
    const bytes = await readFile(pathOf(digest)).catch((cause: Error) => {
      throw new CorbixError("FILE_MISSING", `Cannot read the stored file ${digest.slice(0, 12)}…: ${cause.message}.`, {
        where: "file store",
        advice: "See that the data folder is there and whole.",
        cause,
      });
    });
    if (sha256(bytes) !== digest)
      throw new CorbixError(
        "FILE_MISSING",
        `Cannot use the stored file ${digest.slice(0, 12)}…: its bytes were changed.`,
        { where: "file store", advice: "Restore the data folder from a backup." },
      );
    return bytes;
  };
  const settle = async (beside: string, digest: string): Promise<void> => {
    await mkdir(join(root, digest.slice(0, 2)), { recursive: true });
    await link(beside, pathOf(digest)).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== "EEXIST") throw error;
    });
    await rm(beside, { force: true });
  };
  return {
    has,
    get,
    pathOf,
    remove: (digest) => rm(pathOf(digest), { force: true }),
    putStream: async (source, limit) => {
      const beside = join(root, `incoming.${randomUUID()}`);
      const handle = await open(beside, "wx");
      const hash = createHash("sha256");
      let size = 0;
      try {
        for await (const chunk of source) {
          size += chunk.length;
          if (size > limit) {
            throw new CorbixError("LIMIT_EXCEEDED", `Cannot take the file: it is over the limit of ${limit} bytes.`, {
              where: "body",
              advice: "Raise CORBIX_UPLOAD_LIMIT, or send a smaller file.",
            });
          }
          hash.update(chunk);
          await handle.write(chunk);
        }
        await handle.sync();
      } catch (error) {
        await handle.close();
        await rm(beside, { force: true });
        throw error;
      }
      await handle.close();
      const digest = hash.digest("hex");
      await settle(beside, digest);
      return { sha256: digest, size };
    },
    put: async (bytes) => {
      const digest = sha256(bytes);
      const path = pathOf(digest);
      if (!(await has(digest))) {
        await mkdir(join(root, digest.slice(0, 2)), { recursive: true });
        const beside = `${path}.${randomUUID()}`;
        const handle = await open(beside, "wx");
        try {
          await handle.writeFile(bytes);
          await handle.sync();
        } finally {
          await handle.close();
        }
        await settle(beside, digest);
      }
      await get(digest);
      return digest;
    },
  };
}
