export { type Period, periodLabel, periodOf, parsePeriod, type PeriodKind, previousPeriod } from "./period.js";
export { checkSchedule, dayInZone, nextTimes, type Schedule } from "./recurrence.js";
