import { CorbixError } from "@corbix/core/common";

/** Throws `CHANGED_MEANWHILE` where what is there is not the version that was read. */
export function checkExpected(
  expected: string | undefined,
  found: number | string | undefined,
  where: string,
  by: string | undefined,
): void {
  if (expected === undefined || expected === String(found ?? "")) return;
  throw new CorbixError(
    "CHANGED_MEANWHILE",
    `Cannot save: ${by === undefined ? "it was changed" : `${by} saved it`} since it was read.`,
    { where, advice: "Read it again; copy what you wrote first." },
  );
}
