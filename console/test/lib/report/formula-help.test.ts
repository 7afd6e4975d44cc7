import { describe, expect, it } from "vitest";
import { formulaOffers, troubleOf } from "../../../src/lib/report/formula-help.js";

const NAMES = ["Hours", "Hourly rate", "Tax %"];
const labels = (text: string, over: "value" | "line" = "value") =>
  formulaOffers(text, text.length, NAMES, over)?.offers.map(({ label }) => label);

describe("what is wrong with a formula", () => {
  const problems = [
    { where: "step 3, add, `round(fee * 2) + ratte`, character 18" },
    { where: "totals, Fee, `sum(x)`" },
    { where: "files, list" },
  ];
  it("is said of its own words or its name, with the character where it is", () => {
    expect(troubleOf(problems, "tax", "round(fee * 2) + ratte")).toEqual({ problem: problems[0], character: 18 });
    expect(troubleOf(problems, "fee", "sum(x)")).toEqual({ problem: problems[1], character: undefined });
    expect(troubleOf(problems, "fee", "sum(y)")?.problem).toBe(problems[1]);
    expect(troubleOf(problems, "tax", "fee")).toBeUndefined();
  });
});

describe("what a formula can go on with", () => {
  it("is columns and functions whose names hold the word that is begun", () => {
    expect(labels("round(hour")).toEqual(["Hours", "Hourly rate"]);
    expect(labels("round(hours * `Tax")).toEqual(["Tax %"]);
    expect(labels("rou")).toEqual(["round", "roundup", "rounddown"]);
    expect(labels("2 * zzz")).toBeUndefined();
    expect(formulaOffers("2 * hour", 8, NAMES, "value")?.from).toBe(4);
  });

  it("is nothing in a text, and a column of the lines in a total", () => {
    expect(labels('if(hours > 1, "hour')).toBeUndefined();
    expect(labels('if(result = "x", hour')).toEqual(["Hours", "Hourly rate"]);
    const [first] = formulaOffers("sum(line.ho", 11, NAMES, "line")?.offers ?? [];
    expect(first).toMatchObject({ label: "Hours", text: "line.hours" });
    expect(formulaOffers("sum(line.ho", 11, NAMES, "line")?.from).toBe(4);
    expect(labels("cou")).toBeUndefined();
    expect(labels("cou", "line")).toEqual(["count"]);
  });
});
