import type { IntakeRules } from "@corbix/core/table";
import { describe, expect, it } from "vitest";
import { findHeaderRows } from "../../../src/table/header/header-rows.js";
import { searchIn } from "../../support/tables/search.js";

const LINES = ["Visits of October", "", "Site,Unit,Fee", "Dock,L1,1.5", "Quay,L2,2", "Pier,L3,3"];
function headerOf(lines: string[], rules: IntakeRules = {}) {
  const { search, told, decided } = searchIn(lines, rules);
  const { from, to } = findHeaderRows(search);
  return { rows: [from, to].map((row) => search.sheet.rowNumbers[row]), told: told(), decided: decided() };
}

describe("the header of a table", () => {
  it("is found below its titles, and why is said", () => {
    const { rows, told, decided } = headerOf(LINES);
    expect([rows, told]).toEqual([[3, 3], []]);
    expect(decided).toMatchObject([{ what: "header", chosen: "row 3", corrected: false }]);
    expect(decided[0].why).not.toBe("");
  });

  it("is where it was corrected, in as many lines", () => {
    expect(headerOf(LINES, { headerRow: 4 })).toMatchObject({
      rows: [4, 4],
      decided: [{ chosen: "row 4", why: "it was corrected", corrected: true }],
    });
    expect(headerOf(LINES, { headerRow: 3, headerLines: 2 }).rows).toEqual([3, 4]);
    expect(headerOf(LINES, { headerLines: 2 })).toMatchObject({ rows: [3, 4], decided: [{ corrected: true }] });
  });

  it("cannot be a blank row", () => {
    expect(() => headerOf(LINES, { headerRow: 2 })).toThrow("Cannot use row 2 as the header: it is blank.");
  });

  it("is none where it is said so; the rows begin at the first, or the one that is said", () => {
    expect(headerOf(LINES, { header: "none" })).toMatchObject({
      rows: [1, undefined],
      decided: [{ chosen: "none", why: "it was corrected; columns go by their letters" }],
    });
    expect(headerOf(LINES, { header: "none", headerRow: 4 }).rows[0]).toBe(4);
    expect(headerOf(LINES, { header: "none", names: ["Site"] }).decided[0].why).toContain("the names were given");
  });

  it("is the first row of a range that the sheet defines or that was asked for", () => {
    const range = { top: 2, left: 0, bottom: 5, right: 2 };
    for (const [isAsked, why] of [
      [false, "the first row of the table that the sheet defines"],
      [true, "the first row of the table that was asked for"],
    ] as const) {
      const { search, decided } = searchIn(LINES, {}, { range, area: { isAsked } });
      expect(search.sheet.rowNumbers[findHeaderRows(search).from]).toBe(3);
      expect(decided()).toMatchObject([{ why, corrected: isAsked }]);
    }
  });

  it("that reads like the rows below it is told", () => {
    const { told } = headerOf(["open,Fee,Site", "open,1,Dock", "closed,2,Quay", "open,3,Pier", "open,4,Mill"]);
    expect(told).toEqual([
      'warn header-unsure: The header reads like the rows below it ("open"); the file may have no header, and this may be its first row.',
    ]);
  });

  it("with another row that is as good is told with that", () => {
    const { rows, told } = headerOf([
      "Site,Unit,Fee",
      "Dock,L1,1",
      "Quay,L2,2",
      "Site,Unit,Cost",
      "Pier,L3,3",
      "Mill,L4,4",
      "Yard,L5,5",
    ]);
    expect(rows).toEqual([1, 1]);
    expect(told[0]).toBe(
      "warn header-unsure: Row 1 (Site, Unit, Fee) was read as the header; row 4 (Site, Unit, Cost) could be it too.",
    );
  });
});
