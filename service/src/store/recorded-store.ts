import { type Database, noteBlob } from "../records/index.js";
import type { FileStore, FolderStore, ReceivedFile } from "./file-store.js";

/** The longest that one file of the service's own making can be. */
const MOST_BYTES = 2 ** 40;

/**
 * The file store with its records: bytes are written down as there before they stand under their digest, so that whatever is in the
 * store is known, and nothing that is about to be referred to is swept away meanwhile. With a limit, no more than so many bytes.
 */
export function recordedStore(folder: FolderStore, database: Database, limit?: number): FileStore {
  const keep = async (received: ReceivedFile): Promise<{ sha256: string; size: number }> => {
    try {
      await noteBlob(database, received, limit);
      await received.keep();
    } catch (error) {
      await received.drop().catch(() => {});
      throw error;
    }
    return { sha256: received.sha256, size: received.size };
  };
  const { receive, ...rest } = folder;
  return {
    ...rest,
    put: async (bytes) => (await keep(await receive(bytes, MOST_BYTES))).sha256,
    putStream: async (source, most) => keep(await receive(source, most)),
    probe: async () => {
      await folder.probe();
      await noteBlob(database, undefined, limit);
    },
  };
}
