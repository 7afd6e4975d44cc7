import { nextTimes, parsePeriod, periodLabel, periodOf, previousPeriod } from "@corbix/core/calendar";
import { serialFromParts } from "@corbix/core/common";
import { safeFolder, safeName, uniqueName } from "@corbix/core/naming";
import { describe, expect, it } from "vitest";

const at = (rule: string, time: string, zone: string, after: string, count = 3, until?: string) =>
  nextTimes({ rule, at: time, zone, from: "2026-01-01", ...(until ? { until } : {}) }, new Date(after), count).map(
    (one) => one.toISOString(),
  );

describe("periods", () => {
  it.each([
    ["2026-10", "month", 31, "October 2026"],
    ["2026-W53", "week", 7, "2026 W53"],
    ["2026-Q1", "quarter", 90, "Q1 2026"],
    ["2026", "year", 365, "2026"],
    ["2026-02-28", "day", 1, "28 February 2026"],
  ] as const)("%s is a %s of %i days", (key, kind, days, label) => {
    const period = parsePeriod(key, kind);
    expect(period.to - period.from + 1).toBe(days);
    expect(periodOf(period.from, kind)).toEqual(period);
    expect(periodOf(period.to, kind)).toEqual(period);
    expect(periodLabel(period, "en-GB")).toBe(label);
  });

  it.each([
    ["2026-13", "month"],
    ["2026-W54", "week"],
    ["2026-02-30", "day"],
    ["October", "month"],
  ] as const)("refuses %s as a %s", (key, kind) => {
    expect(() => parsePeriod(key, kind)).toThrow("Cannot read");
  });

  it("takes the last period that is over", () => {
    expect(previousPeriod(serialFromParts(2026, 11, 2), "month").key).toBe("2026-10");
    expect(previousPeriod(serialFromParts(2026, 1, 1), "month").key).toBe("2025-12");
    expect(previousPeriod(serialFromParts(2026, 1, 5), "week").key).toBe("2026-W01");
  });
});

describe("recurrence", () => {
  it("keeps the wall-clock time over the change of summer time", () => {
    expect(at("FREQ=WEEKLY;BYDAY=TH", "16:30", "Europe/Zurich", "2026-10-20T00:00:00Z")).toEqual([
      "2026-10-22T14:30:00.000Z",
      "2026-10-29T15:30:00.000Z",
      "2026-11-05T15:30:00.000Z",
    ]);
  });

  it("finds each month's first working day", () => {
    expect(
      at("FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1", "07:15", "Europe/Zurich", "2026-07-15T00:00:00Z"),
    ).toEqual(["2026-08-03T05:15:00.000Z", "2026-09-01T05:15:00.000Z", "2026-10-01T05:15:00.000Z"]);
  });

  it("moves a time that the clock skips, and ends at its last day", () => {
    expect(at("FREQ=DAILY", "02:30", "Europe/Zurich", "2026-03-28T12:00:00Z", 1)).toEqual(["2026-03-29T01:30:00.000Z"]);
    expect(at("FREQ=DAILY", "12:00", "Pacific/Auckland", "2026-01-01T00:00:00Z", 9, "2026-01-03")).toHaveLength(2);
  });

  it.each([
    ["FREQ=NEVER", "07:15", "Europe/Zurich"],
    ["FREQ=DAILY", "7 o'clock", "Europe/Zurich"],
    ["FREQ=DAILY", "07:15", "Europe/Aldmoor"],
    ["FREQ=SECONDLY", "07:15", "UTC"],
  ])("refuses %s at %s in %s", (rule, time, zone) => {
    expect(() => at(rule, time, zone, "2026-01-01T00:00:00Z")).toThrow(/Cannot/);
  });
});

describe("names of files", () => {
  it.each([
    ["Dock 1/2: north?", "Dock 1-2 north"],
    ["../../etc/passwd", "-..-etc-passwd"],
    ["CON", "_CON"],
    ["  ..hidden.. ", "hidden"],
    ["a\u202egpj.exe", "a gpj.exe"],
    ["", "unnamed"],
  ])("makes %j safe: %j", (given, safe) => {
    expect(safeName(given)).toBe(safe);
  });

  it("keeps folders inside, and long names short enough", () => {
    expect(safeFolder("../2026/./Oktober\\..\\x")).toBe("2026/Oktober/x");
    expect(Buffer.byteLength(safeName("ü".repeat(500)))).toBeLessThanOrEqual(180);
  });

  it("numbers names that are taken, also those that differ in capitals only", () => {
    const taken = new Set<string>();
    expect([
      uniqueName("Dock", ".pdf", taken),
      uniqueName("DOCK", ".pdf", taken),
      uniqueName("Dock", ".xlsx", taken),
    ]).toEqual(["Dock.pdf", "DOCK (2).pdf", "Dock.xlsx"]);
  });
});
