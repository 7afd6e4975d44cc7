import { printedAt } from "@corbix/core/calendar";
import { serialFromParts } from "@corbix/core/common";

/** Today's date in this machine's zone as a serial. */
export function today(): number {
  const now = new Date();
  return serialFromParts(now.getFullYear(), now.getMonth() + 1, now.getDate());
}

/** Day and time of now in this machine's zone, as headers and footers of pages show them. */
export function printedNow(): { readonly date: string; readonly time: string } {
  return printedAt(new Date(), Intl.DateTimeFormat().resolvedOptions().timeZone);
}
