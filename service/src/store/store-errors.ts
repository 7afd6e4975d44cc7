import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";

/** What file systems say when they are full (also by a quota). */
const FULL = new Set(["ENOSPC", "EDQUOT"]);
/** What they say when the store itself cannot be reached: not mounted, gone, not allowed, a disk that fails. */
const AWAY = new Set([
  "NOMARK",
  "ENOENT",
  "ENOTDIR",
  "EIO",
  "EACCES",
  "EPERM",
  "EROFS",
  "ESTALE",
  "ENOTCONN",
  "ENODEV",
  "ENXIO",
  "EHOSTDOWN",
  "ETIMEDOUT",
]);

/** The code of an error of the system, such as `ENOENT`. */
export function systemCode(error: unknown): string | undefined {
  const code = typeof error === "object" && error !== null && "code" in error ? error.code : undefined;
  return typeof code === "string" ? code : undefined;
}

/** An error of the file system as one of the register; others are given back as they are. */
export function storeError(error: unknown): unknown {
  if (error instanceof CorbixError) return error;
  const code = systemCode(error) ?? "";
  const message = wordsOf(error);
  if (FULL.has(code))
    return new CorbixError("NO_SPACE", say().serviceStore.cannotStoreFileSpaceLeft(), {
      where: say().serviceStore.fileStore(),
      advice: say().serviceStore.nothingKeptMakeRoomThen(),
      cause: error,
    });
  if (AWAY.has(code))
    return new CorbixError("STORE_AWAY", say().serviceStore.cannotReachFileStore({ message }), {
      where: say().serviceStore.fileStore(),
      advice: say().serviceStore.seeDataFolderCanWritten(),
      cause: error,
    });
  return error;
}

/** Whether an error is our own side's and passes when somebody makes room or brings the store back. */
export function isStoreTrouble(error: unknown): error is CorbixError {
  return error instanceof CorbixError && (error.code === "NO_SPACE" || error.code === "STORE_AWAY");
}
