/** Kinds of periods, as people choose them. */
import { word } from "../format.js";

export const PERIOD_WORDS: Readonly<Record<string, string>> = {
  day: word("day"),
  week: word("week"),
  "half-month": "half of a month",
  month: word("month"),
  quarter: word("quarter"),
  year: word("year"),
  "fiscal-month": "fiscal month",
  "fiscal-quarter": "fiscal quarter",
  "fiscal-year": "fiscal year",
  own: "period of the calendar",
};
const PLAIN = ["day", "week", "half-month", "month", "quarter", "year"] as const;

/** What there is to choose: what a calendar says comes with it; what stands there already stays. */
export function periodKinds(
  calendar: { readonly fiscal: boolean; readonly periods: number } | undefined,
  chosen: string,
): readonly string[] {
  return [
    ...new Set([
      ...PLAIN,
      ...(calendar?.fiscal ? ["fiscal-month", "fiscal-quarter", "fiscal-year"] : []),
      ...(calendar && calendar.periods > 0 ? ["own"] : []),
      chosen,
    ]),
  ];
}
