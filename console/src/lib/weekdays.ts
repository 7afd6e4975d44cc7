/** Weekdays in the reader's language. */
import type { Weekday } from "./calendar";
import { language } from "./format";

const ORDER = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"] as const;

/** A week that begins on a Monday. */
export function weekdayName(day: Weekday, width: "long" | "short" | "narrow"): string {
  const at = new Date(Date.UTC(2026, 5, 1 + ORDER.indexOf(day)));
  return new Intl.DateTimeFormat(language, { weekday: width, timeZone: "UTC" }).format(at);
}
