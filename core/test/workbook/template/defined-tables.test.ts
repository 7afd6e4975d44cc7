import { CellError, type FormulaCell, type TableReference } from "@corbix/core/formula";
import { describe, expect, it } from "vitest";
import { type DefinedTable, locateInTable, readTables } from "../../../src/workbook/template/defined-tables.js";
import { rowsOf, span } from "../../support/axis.js";
import { workbookWith } from "../../support/package-parts.js";

const TABLE: DefinedTable = {
  name: "Visits",
  part: "",
  sheet: 0,
  range: { top: 1, left: 1, bottom: 3, right: 3 },
  headings: 1,
  totals: 1,
  columns: ["Site", "Fee (CHF)", "Tax [%]"],
};
/** Its row of data, the third of the sheet, stands twice. */
const MAP = rowsOf([span("line", 2, 2)], ["a", "b"]);
const cell = (row: number, column = 9, sheet = 0) => ({ row, column, sheet }) as FormulaCell;
const locate = (reference: Partial<TableReference>, at = cell(2), tables = [TABLE]) =>
  locateInTable(tables, { table: "visits", columns: [], sections: [], ...reference }, at, () => MAP);
const area = (top: number, bottom: number, left = 1, right = 3) => ({ sheet: 0, top, bottom, left, right });

describe("where a reference to a table leads", () => {
  it.each<[string, Partial<TableReference>, ReturnType<typeof area>]>([
    ["its data", {}, area(2, 3)],
    ["a column of it", { columns: ["Fee (CHF)"] }, area(2, 3, 2, 2)],
    ["columns", { columns: ["site", "fee (chf)"] }, area(2, 3, 1, 2)],
    ["columns the other way round", { columns: ["Fee (CHF)", "Site"] }, area(2, 3, 1, 2)],
    ["a heading with a quote before its sign", { columns: ["Tax '[%']"] }, area(2, 3, 3, 3)],
    ["all", { sections: ["all"] }, area(1, 4)],
    ["headers", { sections: ["headers"], columns: ["Site"] }, area(1, 1, 1, 1)],
    ["totals", { sections: ["totals"] }, area(4, 4)],
    ["headers and data", { sections: ["headers", "data"] }, area(1, 3)],
    ["data and totals", { sections: ["data", "totals"] }, area(2, 4)],
    ["this row", { sections: ["this row"], columns: ["Site"] }, area(3, 3, 1, 1)],
  ])("is %s", (_, reference, found) => {
    expect(locate(reference, cell(3))).toEqual(found);
  });

  it("is the table that the formula stands in, where none is named", () => {
    expect(locate({ table: undefined, sections: ["this row"] }, cell(3, 2))).toEqual(area(3, 3));
    expect(locate({ table: undefined }, cell(3, 9))).toBe(CellError.of("#REF!"));
    expect(locate({ table: undefined }, cell(3, 2, 1))).toBe(CellError.of("#REF!"));
  });

  it("is nowhere where there is no such table, column or row", () => {
    expect(locate({ table: "People" })).toBe(CellError.of("#REF!"));
    expect(locate({ columns: ["Hours"] })).toBe(CellError.of("#REF!"));
    for (const at of [cell(1), cell(4), cell(3, 9, 1)])
      expect(locate({ sections: ["this row"] }, at)).toBe(CellError.of("#VALUE!"));
    expect(locate({ sections: ["totals"] }, cell(3), [{ ...TABLE, totals: 0 }])).toBe(CellError.of("#REF!"));
    expect(locate({ sections: ["headers"] }, cell(3), [{ ...TABLE, headings: 0 }])).toBe(CellError.of("#REF!"));
  });
});

describe("tables of a workbook", () => {
  it("are read with their place, their headings and their totals", async () => {
    const workbook = await workbookWith({
      fill: (_, book) => {
        book.addWorksheet("List").addTable({
          name: "Sites",
          ref: "B2",
          totalsRow: true,
          columns: [{ name: "Site" }, { name: "Lifts", totalsRowFunction: "sum" }],
          rows: [["Dock", 1]],
        });
      },
    });
    expect(readTables(workbook)).toMatchObject([
      {
        name: "Sites",
        sheet: 1,
        range: { top: 1, left: 1, bottom: 3, right: 2 },
        headings: 1,
        totals: 1,
        columns: ["Site", "Lifts"],
      },
    ]);
  });
});
