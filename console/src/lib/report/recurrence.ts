/** Times at which a report runs, as people choose them, and as the standard's rules write them (RFC 5545, 3.3.10). */

export const DAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"] as const;
export type Day = (typeof DAYS)[number];

export type Recurrence =
  | { readonly kind: "weekly"; readonly interval: number; readonly days: readonly Day[] }
  | { readonly kind: "monthly"; readonly interval: number; readonly day: number }
  | { readonly kind: "workday"; readonly interval: number; readonly which: number }
  | { readonly kind: "daily"; readonly interval: number };

const WORKDAYS = "MO,TU,WE,TH,FR";

export function writeRule(rule: Recurrence): string {
  const every = rule.interval > 1 ? `;INTERVAL=${rule.interval}` : "";
  switch (rule.kind) {
    case "daily":
      return `FREQ=DAILY${every}`;
    case "weekly":
      return `FREQ=WEEKLY${every};BYDAY=${DAYS.filter((day) => rule.days.includes(day)).join(",")}`;
    case "monthly":
      return `FREQ=MONTHLY${every};BYMONTHDAY=${rule.day}`;
    case "workday":
      return `FREQ=MONTHLY${every};BYDAY=${WORKDAYS};BYSETPOS=${rule.which}`;
  }
}

/** What a rule says; nothing for one that cannot be chosen. */
export function readRule(text: string): Recurrence | undefined {
  const parts = new Map(
    text
      .toUpperCase()
      .split(";")
      .map((part) => part.split("=") as [string, string]),
  );
  const { FREQ, INTERVAL = "1", BYDAY, BYMONTHDAY, BYSETPOS, ...others } = Object.fromEntries(parts);
  const interval = Number(INTERVAL);
  if (Object.keys(others).length > 0 || !Number.isInteger(interval) || interval < 1) return undefined;
  const only = (...names: (string | undefined)[]): boolean => names.every((name) => name === undefined);
  if (FREQ === "DAILY" && only(BYDAY, BYMONTHDAY, BYSETPOS)) return { kind: "daily", interval };
  const days = (BYDAY ?? "").split(",");
  if (
    FREQ === "WEEKLY" &&
    BYDAY &&
    only(BYMONTHDAY, BYSETPOS) &&
    days.every((day) => (DAYS as readonly string[]).includes(day))
  )
    return { kind: "weekly", interval, days: DAYS.filter((day) => days.includes(day)) };
  if (FREQ !== "MONTHLY") return undefined;
  const day = Number(BYMONTHDAY);
  if (only(BYDAY, BYSETPOS) && Number.isInteger(day) && day !== 0 && Math.abs(day) <= 31)
    return { kind: "monthly", interval, day };
  const which = Number(BYSETPOS);
  return BYDAY === WORKDAYS &&
    BYMONTHDAY === undefined &&
    Number.isInteger(which) &&
    which !== 0 &&
    Math.abs(which) <= 23
    ? { kind: "workday", interval, which }
    : undefined;
}
