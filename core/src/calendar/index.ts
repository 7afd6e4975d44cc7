export { type Period, type PeriodKind, parsePeriod, periodLabel, periodOf, previousPeriod } from "./period.js";
export { checkSchedule, dayInZone, nextTimes, type Schedule } from "./recurrence.js";
