/** A named calendar: what is worked, what is off, how fiscal years fall, and periods of one's own. */
import { z } from "zod";
import { maybeSerialFromIso } from "../common/index.js";

export const WEEKDAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"] as const;
export type Weekday = (typeof WEEKDAYS)[number];

const text = z.string().min(1).max(200);
const weekday = z.enum(WEEKDAYS);
const month = z.number().int().min(1).max(12);
const day = z
  .string()
  .refine(
    (value) => maybeSerialFromIso(value) !== undefined && /^\d{4}-\d{2}-\d{2}$/.test(value),
    "expected a day, such as 2026-12-25",
  );
/** A day of every year is tried in one that has a 29 February. */
const dayOrYearly = z
  .string()
  .refine(
    (value) =>
      (value.length === 10 && maybeSerialFromIso(value) !== undefined) ||
      (/^\d{2}-\d{2}$/.test(value) && maybeSerialFromIso(`2024-${value}`) !== undefined),
    "expected a day, such as 2026-04-03, or a day of each year, such as 12-25",
  );

const dayOffSchema = z
  .strictObject({
    day: dayOrYearly.describe("A day, such as 2026-04-03, or a day of each year, such as 12-25."),
    until: day.optional().describe("The last day of several."),
    name: text.optional().describe("What it is called."),
    half: z.boolean().default(false).describe("Whether half of it is worked."),
  })
  .refine(
    ({ day: from, until }) => until === undefined || (from.length === 10 && until >= from),
    "several days go from a day of a year until a later one",
  );

const LABEL = "Marks are {year}, {shortYear} and {number}.";
const labelsSchema = z
  .strictObject({
    year: text.default("FY {year}").describe(`How a fiscal year is called. ${LABEL}`),
    quarter: text.default("FY {year} Q{number}").describe(`How a fiscal quarter is called. ${LABEL}`),
    month: text.default("FY {year} M{number}").describe(`How a fiscal month is called. ${LABEL}`),
  })
  .prefault({});

const named = z
  .enum(["begin", "end"])
  .default("end")
  .describe("Whether a fiscal year is called after the year it begins or ends in.");

const fiscalSchema = z.union([
  z.strictObject({
    begins: month.describe("The month a fiscal year begins with, 1 to 12."),
    named,
    labels: labelsSchema,
  }),
  z.strictObject({
    weeks: z.enum(["4-4-5", "4-5-4", "5-4-4"]).describe("Weeks of the three months of a quarter."),
    ends: weekday.describe("The weekday a fiscal year ends on."),
    near: z
      .enum(["last", "nearest"])
      .describe("Whether that is the last such day of the month, or the one nearest to the month's end."),
    month: month.describe("The month it ends in, 1 to 12."),
    named,
    labels: labelsSchema,
  }),
]);

const ownPeriodSchema = z
  .strictObject({
    from: day,
    to: day,
    key: z
      .string()
      .regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/, "expected letters, digits, dots and hyphens, such as 2026-S1")
      .optional()
      .describe("What it is named by in commands; its first day if left out."),
    label: text.optional().describe("What people call it; the key if left out."),
  })
  .refine(({ from, to }) => to >= from, "a period ends on its first day or later");

export const calendarSchema = z
  .strictObject({
    title: text.describe("As people call it."),
    working: z.array(weekday).min(1).default(["MO", "TU", "WE", "TH", "FR"]).describe("Weekdays that are worked."),
    half: z.array(weekday).default([]).describe("Of these the weekdays that are worked for half of the day."),
    off: z.array(dayOffSchema).max(5_000).default([]).describe("Days off, and days of which half is worked."),
    fiscal: fiscalSchema.optional().describe("How fiscal years, quarters and months fall."),
    periods: z.array(ownPeriodSchema).max(5_000).default([]).describe("Periods of one's own, in order."),
  })
  .superRefine(({ periods, working, half }, context) => {
    for (const [at, one] of half.entries())
      if (!working.includes(one)) {
        const message = "expected one of the weekdays that are worked";
        context.addIssue({ code: "custom", path: ["half", at], message });
      }
    for (const [at, one] of periods.entries()) {
      const before = periods[at - 1];
      if (!before) continue;
      const add = (field: string, message: string): void =>
        context.addIssue({ code: "custom", path: ["periods", at, field], message });
      const [key, keyBefore] = [one.key ?? one.from, before.key ?? before.from];
      if (one.from <= before.to)
        add("from", `begins on ${one.from}, before the period above it is over (${before.to})`);
      else if (key <= keyBefore)
        add("key", `expected a key that sorts behind the one above it, ${keyBefore}, as 2026-1 and 2026-2 do`);
    }
  });

export type CalendarSpec = z.input<typeof calendarSchema>;
export type Calendar = z.output<typeof calendarSchema>;
export type DayOff = Calendar["off"][number];
export type OwnPeriod = Calendar["periods"][number];
export type Fiscal = NonNullable<Calendar["fiscal"]>;
