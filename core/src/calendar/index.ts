export {
  type Calendar,
  type CalendarSpec,
  calendarSchema,
  type DayOff,
  type OwnPeriod,
  WEEKDAYS,
  type Weekday,
} from "./calendar.js";
export { NAMED_KINDS, PERIOD_KINDS, type Period, type PeriodKind, PLAIN_KINDS, periodLabel } from "./period.js";
export {
  maybeTakenPeriod,
  needsCalendar,
  type PeriodRule,
  type Periods,
  periodsFor,
  plainPeriods,
  type Take,
  takenPeriod,
} from "./periods.js";
export { type CalendarFile, readCalendarFile } from "./read-calendar-file.js";
export {
  type CountedDay,
  checkSchedule,
  checkTime,
  dayInZone,
  nextTimes,
  printedAt,
  type Schedule,
  type ScheduledTime,
  scheduleSentence,
  timeInZone,
  timeOfDay,
  timesBetween,
  timesWithin,
  zoneOf,
} from "./recurrence.js";
export { type DayNote, WorkingDays } from "./working-days.js";
