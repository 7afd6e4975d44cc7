/** Periods and times of a report, as written. */
import { z } from "zod";
import { PERIOD_KINDS } from "../calendar/index.js";
import { nameSchema } from "../prepare/index.js";
import { text } from "./fields.js";

const everySchema = z.enum(PERIOD_KINDS);
const calendarName = nameSchema.describe("Name of a calendar.");

export const periodSchema = z.strictObject({
  column: text
    .optional()
    .describe(
      "Date column that decides which rows are of the period; without one all rows are, and the day of the run decides.",
    ),
  every: everySchema,
  calendar: calendarName.optional().describe("Calendar that says how fiscal periods, or periods of one's own, fall."),
  take: z
    .enum(["over", "running", "next"])
    .optional()
    .describe(
      "Which period a run is for where nobody names one: one that is over (if left out), the running one, or the next.",
    ),
});

const counting = z
  .number()
  .int()
  .min(-366)
  .max(366)
  .refine((value) => value !== 0, "expected a number other than 0");
const timeOfDay = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "expected a time such as 18:00");

const NEEDS_WAIT = "notAfter belongs to waitFor";
const BEHIND_AT = "expected a time behind `at`";

export const scheduleSchema = z
  .strictObject({
    rule: text.optional().describe("Recurrence rule of iCalendar (RFC 5545)."),
    day: z
      .union([
        z.strictObject({
          working: counting.describe("Which working day; counted from the end where it is negative."),
          of: everySchema,
        }),
        z.strictObject({
          date: counting.describe(
            "Which day, the last where there are fewer; counted from the end where it is negative.",
          ),
          of: everySchema,
        }),
      ])
      .optional()
      .describe("In place of a rule: a day counted in each period."),
    calendar: calendarName.optional().describe("Calendar of days off; Monday to Friday are worked without one."),
    off: z
      .enum(["stay", "before", "after", "skip"])
      .default("stay")
      .describe("What becomes of a day off: it stays, goes to the working day before or after, or is left out."),
    halfDays: z.enum(["work", "off"]).default("work").describe("Whether days of which half is worked count as worked."),
    at: z.string().describe("Wall-clock time, such as 07:15."),
    zone: z.string().describe("Time zone of the IANA list, such as Europe/Zurich."),
    from: z.string().describe("First day, such as 2026-01-01."),
    until: z.string().optional().describe("Last day."),
    missed: z
      .enum(["once", "all", "none"])
      .default("once")
      .describe("Times that passed while the service was down: made up for once, each of them, or not at all."),
    waitFor: z
      .array(nameSchema)
      .min(1)
      .optional()
      .describe("Datasets that need an edition newer than the last run's before it starts."),
    notAfter: timeOfDay
      .optional()
      .describe(
        "With `waitFor`: the time of the same day after which it does not start any more, and somebody is told.",
      ),
  })
  .refine(
    (schedule) => (schedule.rule === undefined) !== (schedule.day === undefined),
    "expected either a rule or a day",
  )
  .refine((schedule) => schedule.notAfter === undefined || schedule.waitFor !== undefined, {
    path: ["notAfter"],
    message: NEEDS_WAIT,
  })
  .refine((schedule) => schedule.notAfter === undefined || schedule.notAfter > schedule.at, {
    path: ["notAfter"],
    message: BEHIND_AT,
  });

export const startOnDataSchema = z.union([
  z.boolean(),
  z.strictObject({
    all: z
      .array(nameSchema)
      .min(1)
      .optional()
      .describe("Datasets that all need an edition newer than the last run's; the report's own alone if left out."),
    notBefore: timeOfDay.optional().describe("Data that comes earlier in the day waits until then."),
    zone: z.string().optional().describe("Time zone of that time; the schedule's or the service's if left out."),
  }),
]);
