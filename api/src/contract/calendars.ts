/** Named calendars: days off, fiscal years, periods of one's own. */
import { calendarSchema } from "@corbix/core/calendar";
import { z } from "zod";
import { byName, count, day, instant, name, page, paging } from "./common.js";
import { endpoint } from "./endpoint.js";

const summary = z
  .strictObject({
    name,
    title: z.string(),
    daysOff: count,
    periods: count,
    fiscal: z.boolean().describe("Whether it says how fiscal years fall."),
    usedBy: z.array(z.string()).describe("Reports that go by it."),
    changedAt: instant,
    changedBy: z.string(),
  })
  .meta({ id: "CalendarSummary" });

const calendar = summary.extend({ definition: z.record(z.string(), z.unknown()) }).meta({ id: "Calendar" });

const noteOfDay = z.strictObject({
  day,
  name: z.string().nullable().describe("What it is called; null of a weekday that is not worked."),
  half: z.boolean(),
});
const spanOfYear = z.strictObject({ kind: z.string(), key: z.string(), label: z.string(), from: day, to: day });

export const calendarEndpoints = {
  listCalendars: endpoint("get", "/calendars", {
    summary: "Calendars by name, with the reports that go by each",
    tag: "Calendars",
    query: paging,
    answer: page(summary),
  }),
  showCalendar: endpoint("get", "/calendars/{name}", {
    summary: "A calendar with all it says",
    tag: "Calendars",
    params: byName,
    answer: calendar,
    version: "told",
  }),
  saveCalendar: endpoint("put", "/calendars/{name}", {
    summary: "Keep a calendar, new or known; reports that go by it get their next times anew",
    tag: "Calendars",
    params: byName,
    body: calendarSchema,
    answer: calendar,
    statuses: [200, 201],
    version: "matched",
  }),
  deleteCalendar: endpoint("delete", "/calendars/{name}", {
    summary: "Delete a calendar that no report goes by",
    tag: "Calendars",
    params: byName,
    answer: z.strictObject({ ok: z.literal(true) }),
  }),
  showCalendarYear: endpoint("post", "/calendar-years/{year}", {
    summary: "Which days of a year a calendar has off, and which periods lie in it; nothing is kept",
    tag: "Calendars",
    params: z.strictObject({ year: z.coerce.number().int().min(1901).max(9998) }),
    body: calendarSchema,
    answer: z.strictObject({ days: z.array(noteOfDay), periods: z.array(spanOfYear) }).meta({ id: "CalendarYear" }),
  }),
  readCalendarFile: endpoint("post", "/calendar-files", {
    summary: "Days off or periods from a file: iCalendar, or a table; nothing is kept",
    tag: "Calendars",
    query: z.strictObject({ file: z.string().min(1).max(255).describe("Name of the file.") }),
    body: "bytes",
    answer: z
      .strictObject({
        off: z.array(z.record(z.string(), z.unknown())),
        periods: z.array(z.record(z.string(), z.unknown())),
      })
      .meta({ id: "CalendarFile" }),
    limit: 2_000_000,
  }),
};
