import { parsePeriod, periodLabel } from "@corbix/core/calendar";
import type { Report } from "@corbix/core/report";

/** A period as people call it; of a report without one, a run's day. */
export function labelOfPeriod(period: string, report: Report): string {
  return report.period ? periodLabel(parsePeriod(period, report.period.every), report.locale) : period;
}
