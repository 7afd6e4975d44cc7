export { type Period, type PeriodKind, parsePeriod, periodLabel, periodOf, previousPeriod } from "./period.js";
export { checkSchedule, dayInZone, nextTimes, printedAt, type Schedule, timeInZone } from "./recurrence.js";
