import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";

/** Throws `CHANGED_MEANWHILE` where what is there is not the version that was read. */
export function checkExpected(
  expected: string | undefined,
  found: number | string | undefined,
  where: string,
  by: string | undefined,
): void {
  if (expected === undefined || expected === String(found ?? "")) return;
  throw new CorbixError("CHANGED_MEANWHILE", say().serviceLibrary.cannotSaveSinceRead({ by }), {
    where,
    advice: say().serviceLibrary.readAgainCopyYouWrote(),
  });
}
