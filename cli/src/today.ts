import { serialFromParts } from "@corbix/core/common";

/** Today's date in this machine's zone as a serial. */
export function today(): number {
  const now = new Date();
  return serialFromParts(now.getFullYear(), now.getMonth() + 1, now.getDate());
}
