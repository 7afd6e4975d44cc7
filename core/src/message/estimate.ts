/** How long waiting messages take at an identity's pace, and how large one is on its way. */
import { encodedSize } from "./mime.js";

/** Texts grow a little when they are encoded, and headers come before them and before each file. */
const TEXT_GROWTH = 1.06;
const HEADERS = 1_200;

/** About how many bytes a file of so many adds to a message. */
export function attachedSize(bytes: number): number {
  return Math.round(encodedSize(bytes) + HEADERS / 4);
}

/** About how many bytes a message has as it goes out, with files of so many bytes. */
export function mailSize(
  { html, text }: { readonly html: string; readonly text: string },
  files: readonly number[],
): number {
  const words = (Buffer.byteLength(html) + Buffer.byteLength(text)) * TEXT_GROWTH + HEADERS;
  return files.reduce((sum, bytes) => sum + attachedSize(bytes), Math.round(words));
}

export interface Pace {
  readonly perMinute: number;
  readonly perHour?: number | undefined;
}

/** Seconds until the last of so many waiting messages has gone; `usedInHour` went in the last sixty minutes. */
export function secondsToSend(waiting: number, pace: Pace, usedInHour = 0): number {
  if (waiting <= 0) return 0;
  const steady = ((waiting - 1) * 60) / pace.perMinute;
  if (pace.perHour === undefined) return steady;
  const free = Math.max(0, pace.perHour - usedInHour);
  if (waiting <= free) return steady;
  // What is over waits for room: at worst a whole hour for each further helping.
  return Math.max(steady, Math.ceil((waiting - free) / pace.perHour) * 3600);
}
