import { describe, expect, it } from "vitest";
import { bookmarkTables } from "../../../src/document/fill/bookmark-tables.js";
import { record } from "../../support/helpers.js";

const { scope } = record({ lines: [{ unit: "L1", visit_fee: 1 }], parts: [{ kind: "rope" }] });
const tables = (spec: object) => bookmarkTables({ Visits: spec }, scope, "file letter, bookmarks");

describe("tables at bookmarks", () => {
  it("are those a mark would make, by the bookmark's name in any case", () => {
    const [[name, table]] = tables({
      columns: ["unit", { column: "VISIT_FEE", heading: "Fee", format: '0.00 "CHF"', total: "sum" }],
      style: "Grid",
    });
    expect(name.toLowerCase()).toBe("visits");
    expect(table).toMatchObject({ kind: "table", lines: "line", style: "Grid" });
    expect(table.columns?.map(({ heading, field, total }) => [heading, field.source, total])).toEqual([
      [expect.stringMatching(/^unit$/i), expect.stringContaining("unit"), false],
      ["Fee", expect.stringContaining('"0.00 ""CHF"""'), true],
    ]);
  });

  it("are of the lines that are named, with all columns where none are", () => {
    const [[, table]] = tables({ lines: "Parts" });
    expect(table).toMatchObject({ lines: "parts", columns: undefined });
  });

  it.each([
    [{ columns: ["fee"] }, "Cannot find the column `fee`."],
    [{ lines: "people" }, "Cannot find the lines `people`."],
    [{ lineTotal: "All" }, "Cannot use lineTotal or fields"],
    [{ fields: [] }, "Cannot use lineTotal or fields"],
  ])("%j is refused", (spec, why) => {
    expect(() => tables(spec)).toThrow(why);
  });
});
