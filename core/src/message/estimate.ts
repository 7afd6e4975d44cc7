/** How long waiting messages take at an identity's pace. */

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
