/** Corrections with others over them: the later word on one thing counts. */
import { describe, expect, it } from "vitest";
import { mergeRules } from "../../src/table/rules.js";

describe("corrections", () => {
  it("add to each other, and the later one counts", () => {
    expect(mergeRules({ delimiter: ";", encoding: "UTF-8" }, { delimiter: "," })).toEqual({
      delimiter: ",",
      encoding: "UTF-8",
    });
    expect(
      mergeRules({ types: { Fee: { type: "number" }, Day: { type: "text" } } }, { types: { Day: { type: "date" } } }),
    ).toEqual({
      types: { Fee: { type: "number" }, Day: { type: "date" } },
    });
    expect(mergeRules({}, {})).toEqual({});
  });

  it("say one thing of the header: a row or that there is none", () => {
    expect(mergeRules({ header: "none" }, { headerRow: 4 })).toEqual({ headerRow: 4 });
    expect(mergeRules({ headerRow: 4, headerLines: 2 }, { header: "none" })).toEqual({ header: "none" });
    expect(mergeRules({ headerRow: 4, headerLines: 2 }, { headerRow: 5 })).toEqual({ headerRow: 5, headerLines: 2 });
    expect(mergeRules({ header: "none" }, { delimiter: ";" })).toEqual({ header: "none", delimiter: ";" });
  });

  it("say one thing of where the table lies: a sheet, or a table in it", () => {
    expect(mergeRules({ table: "Visits" }, { sheet: "Two" })).toEqual({ sheet: "Two" });
    expect(mergeRules({ table: "Visits" }, { sheet: "Two", table: "Costs" })).toEqual({ sheet: "Two", table: "Costs" });
    expect(mergeRules({ table: "Visits" }, { end: "last-row" })).toEqual({ table: "Visits", end: "last-row" });
  });
});
