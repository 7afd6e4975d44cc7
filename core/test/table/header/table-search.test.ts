import { describe, expect, it } from "vitest";
import { isRepeat, namesIn, rowsText } from "../../../src/table/header/table-search.js";
import { searchIn } from "../../support/tables/search.js";

const { search } = searchIn([
  "Visits of October",
  "",
  "Site,Fee,Result,Day,Unit",
  "Dock,1,ok,2,L1",
  "SITE,fee, Result,Day,unit",
  "Site,1,Result,Day,Unit",
]);

describe("rows of a sheet", () => {
  it("are called by the numbers they have in the file", () => {
    expect(rowsText(search, 1, 1)).toBe("row 3");
    expect(rowsText(search, 0, 1)).toBe("rows 1 to 3");
  });

  it("are known by their first texts", () => {
    expect(namesIn(search, 0)).toBe("Visits of October");
    expect(namesIn(search, 1)).toBe("Site, Fee, Result, Day, …");
  });

  it("repeat the header where they say all of it again, in whatever case", () => {
    const header = { from: 1, to: 1, why: "" };
    expect([2, 3, 4].map((row) => isRepeat(search, row, header))).toEqual([false, true, false]);
    expect(isRepeat(search, 3, { from: 0, to: -1, why: "" })).toBe(false);
  });
});
