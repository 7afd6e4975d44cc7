import { ordinal, thousands } from "./numbers.js";

export const calendar = {
  cannotReadExpectedSomethingLike: ({ key, kind, examples }: { key: string; kind: string; examples: string }) =>
    kind === "own"
      ? `Cannot find the period \`${key}\` in the calendar${examples === "" ? "" : `, expected one such as ${examples}`}.`
      : `Cannot read \`${key}\` as a ${kind}, expected something like ${examples}.`,
  cannotReadExpectedTime: ({ at, name }: { at: string; name: string }) =>
    `Cannot read \`${at}\` for \`${name}\`, expected a time.`,
  writeTime: () => "Write it as 07:15.",
  cannotFindTimeZone: ({ zone }: { zone: string }) => `Cannot find the time zone \`${zone}\`.`,
  writeNameIanaListSuch: () => "Write a name of the IANA list, such as Europe/Zurich.",
  cannotReadExpectedDate: ({ value, name }: { value: string; name: string }) =>
    `Cannot read \`${value}\` for \`${name}\`, expected a date.`,
  writeDate: () => "Write it as 2026-01-31.",
  cannotReadRecurrenceRule: ({ rule, what }: { rule: string; what: string }) =>
    `Cannot read the recurrence rule \`${rule}\`: ${what}.`,
  writeIcalendarRfcSuchFreq: () => "Write it as in iCalendar (RFC 5545), such as FREQ=WEEKLY;BYDAY=TH.",
  noSuchPart: ({ part }: { part: string }) => `there is no part \`${part}\``,
  partTwice: ({ part }: { part: string }) => `${part} stands twice`,
  partBlank: ({ part }: { part: string }) => `${part} says nothing`,
  partIsTime: ({ part }: { part: string }) => `${part} is a time of the day`,
  timeStandsInAt: () => "Leave it out; the time stands in `at`, such as 07:15.",
  frequencyMissing: () => "FREQ is missing",
  smallestStepDaily: ({ frequency }: { frequency: string }) =>
    `FREQ=${frequency} is more often than a report runs; the smallest step is DAILY`,
  noSuchFrequency: ({ frequency }: { frequency: string }) => `there is no frequency \`${frequency}\``,
  partOutOfRange: ({ part, value, least, most }: { part: string; value: string; least: number; most: number }) =>
    `${part}=${value} is no whole number from ${least} to ${most}${least < 0 ? " other than 0" : ""}`,
  partTakesOne: ({ part }: { part: string }) => `${part} takes one number`,
  noSuchWeekday: ({ part, value }: { part: string; value: string }) => `\`${value}\` in ${part} is no weekday`,
  weekdaysAre: () => "Weekdays are MO, TU, WE, TH, FR, SA and SU.",
  numberedWeekday: ({ value, frequency }: { value: string; frequency: string }) =>
    `${value} counts weekdays of a month or year, which FREQ=${frequency} has not`,
  untilNoDay: ({ until }: { until: string }) => `UNTIL=${until} is no day such as 20261231`,
  untilAndCount: () => "UNTIL and COUNT do not go together",
  positionsOfNothing: () => "BYSETPOS picks among days that another part names, and there is none",
  endsBeforeItBegins: ({ from, until }: { from: string; until: string }) =>
    `The schedule ends on ${until}, before it begins on ${from}.`,
  setUntilLater: () => "Set `until` to a later day, or leave it out.",
  neverFires: ({ what }: { what: string }) => `The schedule never comes due: no day is meant by \`${what}\`.`,
  nearRule: ({ near, first }: { near: string; first: string }) =>
    `Did you mean \`${near}\`? That comes due first on ${first}.`,
  seeTimesOfRule: () => "Look at what the rule asks for at once; no day can be all of it.",
  ruleOrDay: () => "A schedule has either a `rule` or a `day`.",
  tooManyDaysOff: ({ most }: { most: number }) => `The file names more than ${thousands(most)} days off.`,
  cannotReadCalendarFile: () => "Cannot read the file as a calendar.",
  saveAsIcalendar: () => "Save it as iCalendar (.ics), as programs for dates do.",
  noCalendarColumns: ({ columns }: { columns: string }) =>
    `Cannot find days off or periods in the table: its columns are ${columns}.`,
  calendarColumnsAre: () =>
    "Call the columns Day, Until and Name for days off, or From, To, Key and Label for periods.",
  noDayInCell: ({ column, value }: { column: string; value: string }) =>
    `Cannot read \`${value}\` in the column ${column}, expected a day.`,
  schedule: (facts: {
    rule: string | undefined;
    counted: { working: boolean; number: number; of: string } | undefined;
    at: string;
    zone: string;
    calendar: string | undefined;
    off: "stay" | "before" | "after" | "skip";
    until: string | undefined;
  }) => {
    const { rule, counted: day, at, zone, calendar: name, off, until } = facts;
    const when = day
      ? `on the ${ordinal(day.number)} ${day.working ? "working day" : "day"} of each ${day.of === "own" ? "period" : day.of.replace("-", " ")}`
      : `by the rule ${rule}`;
    const moved = {
      stay: "",
      before: "; from a day off it goes to the working day before",
      after: "; from a day off it goes to the working day after",
      skip: "; not on days off",
    }[off];
    const by = name === undefined ? "" : `, by the calendar ${name}`;
    return `${when} at ${at} in ${zone}${moved}${by}${until === undefined ? "" : `, until ${until}`}`;
  },
  noPeriodNow: ({ take }: { take: "over" | "running" | "next" }) =>
    take === "over"
      ? "No period of the calendar is over yet."
      : take === "running"
        ? "Today lies in no period of the calendar."
        : "No period of the calendar is still to come.",
  addPeriods: () => "Add periods to the calendar, or name one.",
  periodsNeedCalendar: ({ every }: { every: string }) =>
    `Periods of the kind \`${every}\` are said by a calendar, and none is named or there.`,
  calendarHasNone: ({ name, needs }: { name: string; needs: "fiscal" | "periods" }) =>
    needs === "fiscal"
      ? `The calendar \`${name}\` does not say how fiscal years fall.`
      : `The calendar \`${name}\` has no periods of its own.`,
  nameCalendarOfPeriods: ({ needs }: { needs: "fiscal" | "periods" }) =>
    needs === "fiscal"
      ? "Name a calendar with `fiscal` years, or choose another kind of period."
      : "Name a calendar with `periods`, or choose another kind of period.",
};
