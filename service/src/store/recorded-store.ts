import { made } from "@corbix/core/common";
import { type Database, noteBlobs } from "../records/index.js";
import type { FileStore, FolderStore, ReceivedFile } from "./file-store.js";

/** So many files are written at a time. */
const AT_ONCE = 16;
/** The longest that one file of the service's own making can be. */
const MOST_BYTES = 2 ** 40;

/**
 * The file store with its records: bytes are written down as there before they stand under their digest, so that whatever is in the
 * store is known, and nothing that is about to be referred to is swept away meanwhile. With a limit, no more than so many bytes.
 */
export function recordedStore(folder: FolderStore, database: Database, limit?: number): FileStore {
  const keep = async (received: readonly ReceivedFile[]): Promise<void> => {
    try {
      await noteBlobs(database, received, limit);
      // A disk flushes several files in the time of one.
      await allOf(received.map((file) => file.keep()));
    } catch (error) {
      for (const file of received) await file.drop().catch(() => {});
      throw error;
    }
  };
  const putAll = async (files: readonly Uint8Array[]): Promise<string[]> => {
    const digests: string[] = [];
    for (let at = 0; at < files.length; at += AT_ONCE) {
      const coming = files.slice(at, at + AT_ONCE).map((bytes) => receive(bytes, MOST_BYTES));
      const received = await allOf(coming).catch(async (error: unknown) => {
        for (const one of await Promise.allSettled(coming))
          if (one.status === "fulfilled") await one.value.drop().catch(() => {});
        throw error;
      });
      await keep(received);
      digests.push(...received.map(({ sha256 }) => sha256));
    }
    return digests;
  };
  const { receive, ...rest } = folder;
  return {
    ...rest,
    putAll,
    put: async (bytes) => made((await putAll([bytes]))[0], "the digest of what was stored"),
    putStream: async (source, most) => {
      const received = await receive(source, most);
      await keep([received]);
      return { sha256: received.sha256, size: received.size };
    },
    probe: async () => {
      await folder.probe();
      await noteBlobs(database, [], limit);
    },
  };
}

/** What came of all of them; throws what was wrong with the first that failed once nothing of the others is under way any more. */
async function allOf<Done>(works: readonly Promise<Done>[]): Promise<Done[]> {
  await Promise.allSettled(works);
  return Promise.all(works);
}
