import { type Calendar, periodLabel, periodsFor } from "@corbix/core/calendar";
import { CorbixError } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";

/** A period as people call it, by the calendar its run went by; of a report without one, a run's day. */
export function labelOfPeriod(period: string, report: Report, calendar: Calendar | null): string {
  if (!report.period) return period;
  try {
    return periodLabel(periodsFor(report.period, calendar ?? undefined).parse(period), report.locale);
  } catch (error) {
    // A period that the calendar does not have any more is still what was delivered.
    if (error instanceof CorbixError) return period;
    throw error;
  }
}
