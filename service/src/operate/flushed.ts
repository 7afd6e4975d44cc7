/** Files that are copied whole, compared while they are copied, and on the disk before anything says that they are there. */
import { createHash, randomUUID } from "node:crypto";
import { createReadStream } from "node:fs";
import { mkdir, open, rename, rm } from "node:fs/promises";
import { dirname } from "node:path";
import { flushFolder } from "../store/file-store.js";
import { storeError } from "../store/store-errors.js";

export async function writeFlushed(path: string, text: string): Promise<void> {
  const handle = await open(path, "w", 0o600);
  try {
    await handle.writeFile(text);
    await handle.sync();
  } catch (error) {
    throw storeError(error);
  } finally {
    await handle.close();
  }
}

export interface Copied {
  readonly sha256: string;
  readonly size: number;
}

/** Copies a file beside its new name, flushes it, and moves it there. With `expected` nothing stands there unless the bytes are those. */
export async function copyFlushed(from: string, to: string, expected?: string): Promise<Copied | undefined> {
  await mkdir(dirname(to), { recursive: true, mode: 0o700 });
  const beside = `${to}.${randomUUID()}.part`;
  const hash = createHash("sha256");
  let size = 0;
  try {
    const handle = await open(beside, "wx", 0o600);
    try {
      for await (const chunk of createReadStream(from) as AsyncIterable<Buffer>) {
        hash.update(chunk);
        size += chunk.length;
        await handle.appendFile(chunk);
      }
      await handle.sync();
    } finally {
      await handle.close();
    }
    const sha256 = hash.digest("hex");
    if (expected !== undefined && sha256 !== expected) return undefined;
    await rename(beside, to);
    await flushFolder(dirname(to));
    return { sha256, size };
  } catch (error) {
    throw storeError(error);
  } finally {
    await rm(beside, { force: true }).catch(() => {});
  }
}
