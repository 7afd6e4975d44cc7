import { describe, expect, it } from "vitest";
import { formulaOffers } from "../../../src/lib/report/formula-help.js";

const NAMES = ["Hours", "Hourly rate", "Tax %"];
const labels = (text: string, over: "value" | "line" = "value") =>
  formulaOffers(text, text.length, NAMES, over)?.offers.map(({ label }) => label);

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
