/** Files that were made to be looked at or fetched once: held for a while, never stored. */
import { randomUUID } from "node:crypto";
import { CorbixError } from "@corbix/core/common";

export interface KeptFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const KEPT = new Map<string, readonly KeptFile[]>();
/** What is held at most; the oldest goes first. */
const MOST = 24;
const MOST_BYTES = 256 * 1024 * 1024;

/** Holds files under one id. */
export function keepFiles(files: readonly KeptFile[]): string {
  const id = randomUUID();
  KEPT.set(id, files);
  const size = (): number => [...KEPT.values()].flat().reduce((sum, file) => sum + file.bytes.length, 0);
  for (const key of KEPT.keys()) {
    if (KEPT.size <= MOST && size() <= MOST_BYTES) break;
    if (key !== id) KEPT.delete(key);
  }
  return id;
}

/** The file that ends so. Throws `NOT_FOUND` where it is not held any more. */
export function keptFile(id: string, ending: string): KeptFile {
  const file = KEPT.get(id)?.find((one) => one.name.endsWith(`.${ending}`));
  if (file) return file;
  throw new CorbixError("NOT_FOUND", "Cannot find the file: it is held for a short while only.", {
    where: "id",
    advice: "Make it again.",
  });
}
