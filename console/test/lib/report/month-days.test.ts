import { describe, expect, it } from "vitest";
import { dayOf, monthsFrom } from "../../../src/lib/report/month-days.js";

describe("months on a calendar", () => {
  it("begin on Monday and have all their days, over a year's end too", () => {
    const [november, december, january] = monthsFrom(new Date(2026, 10, 29), 3);
    expect([november.key, december.key, january.key]).toEqual(["2026-11", "2026-12", "2027-01"]);
    expect(november.weeks[0]).toEqual([undefined, undefined, undefined, undefined, undefined, undefined, 1]);
    expect(november.weeks.at(-1)).toEqual([30, undefined, undefined, undefined, undefined, undefined, undefined]);
    expect(december.weeks[0]).toEqual([undefined, 1, 2, 3, 4, 5, 6]);
    for (const { weeks } of [november, december, january]) expect(weeks.every((week) => week.length === 7)).toBe(true);
    expect(dayOf(new Date(2026, 10, 2, 7, 15))).toBe("2026-11-02");
  });
});
