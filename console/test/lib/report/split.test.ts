import { describe, expect, it } from "vitest";
import { readSplit, suggestedRowName, writeSplit } from "../../../src/lib/report/split.js";

describe("what makes the groups", () => {
  it.each([
    ["Site", { kind: "columns", columns: ["Site"], name: "All rows" }],
    [["Site", "Day"], { kind: "columns", columns: ["Site", "Day"], name: "All rows" }],
    [{ one: "All sites" }, { kind: "one", columns: [], name: "All sites" }],
    [{ row: ["No"] }, { kind: "row", columns: ["No"], name: "All rows" }],
  ])("is read and written as it was: %j", (value, choice) => {
    expect(readSplit(value)).toEqual(choice);
    expect(writeSplit(readSplit(value))).toEqual(value);
  });

  it("is no column where nothing is said, and never without a name", () => {
    expect([readSplit("").columns, readSplit(null).columns]).toEqual([[], []]);
    expect(readSplit(undefined, "Visits")).toEqual({ kind: "one", columns: [], name: "Visits" });
    expect(writeSplit({ kind: "one", columns: [], name: " " })).toEqual({ one: "All rows" });
  });

  it("suggests what names a row", () => {
    const figures = (name: string, distinct: number, blanks = 0) => ({ name, distinct, blanks, count: 10 - blanks });
    expect(suggestedRowName([figures("Site", 4), figures("No", 10)])).toEqual(["No"]);
    expect(suggestedRowName([figures("Site", 4), figures("Note", 8, 2), figures("Day", 5)])).toEqual(["Day", "Site"]);
    expect(suggestedRowName([figures("Note", 1, 9)])).toEqual(["Note"]);
    expect(suggestedRowName([])).toEqual([]);
  });
});
