import { describe, expect, it } from "vitest";
import { tellFullTitles, tellOutside, tellSummaries } from "../../../src/table/header/beside-table.js";
import { searchIn } from "../../support/tables/search.js";

const LINES = ["Site,Fee,Note", "Dock,1,", "Quay,2,see", "Pier,3,", "Printed on Monday,,"];
const range = { top: 0, left: 0, bottom: 2, right: 1 };
const columns = [
  { index: 0, name: "Site" },
  { index: 1, name: "Fee" },
];

describe("what lies outside of a table that the sheet defines", () => {
  it("is told by its rows and columns; full rows more loudly than notes", () => {
    const { search, told } = searchIn(LINES, {}, { range, area: {} });
    tellOutside(search, columns, 3);
    expect(told()).toEqual([
      "warn outside-the-table: Outside the table that the sheet defines, and not read: rows 4, 5; column C.",
    ]);
    const note = searchIn(["Site,Fee", "Dock,1", "Printed on Monday,"], {}, { range, area: {} });
    tellOutside(note.search, columns, 2);
    expect(note.told()).toEqual([expect.stringMatching(/^note outside-the-table: .* row 3\.$/)]);
  });

  it("names other tables, and is nothing where the range was asked for or holds all", () => {
    const others = searchIn(["Site,Fee", "Dock,1"], {}, { range, area: { others: ["People"] } });
    tellOutside(others.search, columns, 2);
    expect(others.told()[0]).toContain("the table People");
    const asked = searchIn(LINES, {}, { range, area: { isAsked: true } });
    tellOutside(asked.search, columns, 3);
    const whole = searchIn(["Site,Fee", "Dock,1"], {}, { range, area: {} });
    tellOutside(whole.search, columns, 2);
    expect([asked.told(), whole.told()]).toEqual([[], []]);
  });
});

describe("lines above a header", () => {
  it("as full as the rows are told, titles are not", () => {
    const full = searchIn(["Dock,1,a", "Quay,2,b", "Site,Fee,Note", "Pier,3,c", "Mill,4,d"]);
    tellFullTitles(full.search, { from: 2, to: 2, why: "" }, [3, 4]);
    expect(full.told()).toEqual([
      "warn full-rows-above-header: Above the header 2 rows are as full as the rows below it (rows 1, 2), and not read.",
    ]);
    const titled = searchIn(["Visits", "Site,Fee,Note", "Pier,3,c", "Mill,4,d"]);
    tellFullTitles(titled.search, { from: 1, to: 1, why: "" }, [2, 3]);
    expect(titled.told()).toEqual([]);
  });
});

describe("summaries beside a table", () => {
  it("are told by their ranges", () => {
    const { search, told } = searchIn(["Site,Fee", "Dock,1"]);
    tellSummaries(search);
    expect(told()).toEqual([]);
    search.sheet.summaries.push({ top: 0, left: 4, bottom: 5, right: 5 });
    tellSummaries(search);
    expect(told()).toEqual(["note summary-left-out: E1:F6 is a summary of other cells and was not read."]);
  });
});
