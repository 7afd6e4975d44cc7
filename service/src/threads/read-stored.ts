import { readFileSync } from "node:fs";
import { sha256 } from "@corbix/core/common";
import { damaged } from "../store/file-store.js";
import { storeError } from "../store/store-errors.js";

/** A stored file as a thread reads it: the bytes are believed only when their digest is the one they are stored under. */
export interface StoredInput {
  readonly path: string;
  readonly sha256: string;
}

/** Throws `FILE_MISSING` for bytes that were changed, and `STORE_AWAY`. */
export function readStored({ path, sha256: digest }: StoredInput): Buffer {
  let bytes: Buffer;
  try {
    bytes = readFileSync(path);
  } catch (error) {
    throw storeError(error);
  }
  if (sha256(bytes) !== digest) throw damaged(digest);
  return bytes;
}
