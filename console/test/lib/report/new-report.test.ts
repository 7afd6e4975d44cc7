import { parseReport } from "@corbix/core/report";
import { describe, expect, it } from "vitest";
import { freeName, newReport, suggestedSplit } from "../../../src/lib/report/new-report.js";

const COLUMNS = [
  { name: "Visit no", type: "text" },
  { name: "Site", type: "text" },
  { name: "Result", type: "text" },
  { name: "Visit date", type: "date" },
  { name: "Fee", type: "number" },
];
const figures = (distinct: Record<string, number>) =>
  Object.entries(distinct).map(([name, one]) => ({ name, distinct: one, count: 1000, blanks: 0 }));
const FIGURES = figures({ "Visit no": 1000, Site: 80, Result: 3 });

describe("a new report", () => {
  it("begins with what its data suggest: the column that rows share, and a date", () => {
    const report = parseReport(newReport("visits", 'The "visits"', "visits", COLUMNS, FIGURES), "x");
    expect(report).toMatchObject({
      split: "Site",
      title: 'The "visits"',
      period: { column: "Visit date", every: "month" },
    });
  });

  it("groups by no key, by no word of a few, and rather by a column without blanks", () => {
    expect(suggestedSplit(COLUMNS, FIGURES)).toBe("Site");
    expect(suggestedSplit(COLUMNS, figures({ "Visit no": 1000, Result: 3 }))).toBe("Result");
    expect(suggestedSplit([{ name: "Fee", type: "number" }], [])).toBe("Fee");
  });

  it("groups by what people of the list receive for, before anything else", () => {
    const more = figures({ Site: 40, Unit: 90 }).map((one) => ({ ...one, frequent: [{ value: `${one.name} 1` }] }));
    const columns = [
      { name: "Unit", type: "text" },
      { name: "Site", type: "text" },
    ];
    expect(suggestedSplit(columns, more)).toBe("Unit");
    expect(suggestedSplit(columns, more, ["site  1 "])).toBe("Site");
  });

  it("gets a name for addresses that no other has", () => {
    expect([
      freeName("Käfertal – visits!", []),
      freeName("visits", ["visits", "visits-2"]),
      freeName("日本", []),
    ]).toEqual(["kafertal-visits", "visits-3", "report"]);
  });
});
