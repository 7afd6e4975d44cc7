import type { IntakeRules } from "@corbix/core/table";
import { describe, expect, it } from "vitest";
import { findEnd } from "../../../src/table/header/table-end.js";
import { searchIn } from "../../support/tables/search.js";

const HEADER = { from: 0, to: 0, why: "" };
const TWO = ["Site,Fee", "Dock,1", "Quay,2", "", "Person,Hours", "Ann,7", "Ben,8"];
/** The number, in the file, of the first row behind the table. */
const endOf = (lines: string[], rules: IntakeRules = {}) => {
  const { search, told, decided } = searchIn(lines, rules);
  const { row, reason } = findEnd(search, HEADER);
  return { behind: search.sheet.rowNumbers[row], reason, told: told(), decided: decided() };
};

describe("the end of a table", () => {
  it("is that of the file where nothing else begins", () => {
    expect(endOf(["Site,Fee", "Dock,1", "", "Quay,2"])).toMatchObject({ behind: undefined, told: [] });
  });

  it("is before the header of another table below a blank line, which is told", () => {
    const found = endOf(TWO);
    expect(found).toMatchObject({ behind: 5, reason: "other table" });
    expect(found.told).toEqual([
      "warn several-tables: Another table begins in row 5 (Person, Hours); only the first one was read.",
    ]);
    expect(found.decided).toEqual([
      {
        what: "end",
        chosen: "row 3",
        why: "row 5 below a blank line is the header of another table",
        corrected: false,
      },
    ]);
  });

  it("is there also where a title stands above that header", () => {
    expect(endOf(["Site,Fee", "Dock,1", "Quay,2", "", "People", "Person,Hours", "Ann,7", "Ben,8"])).toMatchObject({
      behind: 5,
      reason: "other table",
    });
  });

  it("is not where the same header is said again", () => {
    expect(endOf(["Site,Fee", "Dock,1", "Quay,2", "", "Site,Fee", "Pier,3"]).behind).toBeUndefined();
  });

  it("is where it was corrected", () => {
    expect(endOf(TWO, { end: { row: 2 } })).toMatchObject({ behind: 3, reason: "outside" });
    expect(endOf(TWO, { end: "blank-row" })).toMatchObject({ behind: 5, reason: "outside", told: [] });
    expect(endOf(TWO, { end: "last-row" })).toMatchObject({ behind: undefined, told: [] });
  });

  it("is that of a range, in the rows of the file", () => {
    const { search } = searchIn(TWO, {}, { range: { top: 0, left: 0, bottom: 3, right: 1 } });
    expect(search.sheet.rowNumbers[findEnd(search, HEADER).row]).toBe(5);
  });
});
