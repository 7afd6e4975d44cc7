import { nextTimes } from "@corbix/core/calendar";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DAYS, type Recurrence, readRule, writeRule } from "../../../src/lib/report/recurrence.js";

const interval = fc.integer({ min: 1, max: 6 });
const rule: fc.Arbitrary<Recurrence> = fc.oneof(
  fc.record({ kind: fc.constant("daily" as const), interval }),
  fc.record({ kind: fc.constant("weekly" as const), interval, days: fc.subarray([...DAYS], { minLength: 1 }) }),
  fc.record({ kind: fc.constant("monthly" as const), interval, day: fc.constantFrom(1, 15, 28, -1) }),
  fc.record({ kind: fc.constant("workday" as const), interval, which: fc.constantFrom(1, 3, -1) }),
);

describe("times as people choose them", () => {
  it("are rules that the service runs by, and are read back as what they were", () => {
    fc.assert(
      fc.property(rule, (one) => {
        const text = writeRule(one);
        expect(readRule(text)).toEqual(one);
        const schedule = { rule: text, at: "17:00", zone: "Europe/Zurich", from: "2026-01-01" };
        expect(nextTimes(schedule, new Date("2026-11-02T08:00:00Z"), 3)).toHaveLength(3);
      }),
      { numRuns: 60 },
    );
  });

  it.each([
    "FREQ=YEARLY",
    "FREQ=WEEKLY",
    "FREQ=MONTHLY;BYDAY=1FR",
    "FREQ=DAILY;COUNT=3",
    "FREQ=MONTHLY;BYMONTHDAY=0",
    "FREQ=WEEKLY;BYDAY=XX",
    "",
  ])("%s is left to its text", (text) => {
    expect(readRule(text)).toBeUndefined();
  });
});
