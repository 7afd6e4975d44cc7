import { describe, expect, it } from "vitest";
import { changesBetween } from "../../../src/lib/report/changes.js";

const BEFORE = {
  title: "Visits",
  split: "Site",
  add: { fee: "hours * rate" },
  files: { statement: { template: "a.xlsx", pdf: "no" } },
  delivery: { importance: "high" },
  message: { subject: "A", body: { markdown: "x ".repeat(100) } },
};

describe("what a version says differently", () => {
  it("is told in words, at the step it belongs to", () => {
    const now = {
      ...BEFORE,
      split: ["Site", "Unit"],
      add: { fee: "round(hours * rate, 2)", tax: "fee * 0.081" },
      files: { statement: { template: "a.xlsx", pdf: "too" } },
      delivery: { replyTo: "help@lifts.example" },
    };
    expect(changesBetween(BEFORE, now).map(({ title, what }) => `${title} | ${what}`)).toEqual([
      'Groups | Group by: Site → ["Site","Unit"]',
      "Period and rows | New columns, fee: hours * rate → round(hours * rate, 2)",
      "Period and rows | New columns, tax: new, fee * 0.081",
      "Files | Files, statement, PDF: no → too",
      "When and how | Delivery, Importance: taken out (was high)",
      "When and how | Delivery, Reply to: new, help@lifts.example",
    ]);
  });

  it("is nothing where both are the same, and short where it is long", () => {
    expect(changesBetween(BEFORE, structuredClone(BEFORE))).toEqual([]);
    const [one] = changesBetween(BEFORE, { ...BEFORE, message: { subject: "A", body: { markdown: "y" } } });
    expect(one.what.length).toBeLessThan(130);
    expect([one.title, one.what.endsWith("→ y")]).toEqual(["Message", true]);
  });
});
