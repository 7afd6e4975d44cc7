import { parseXml } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { readSource, sourcePlace } from "../../../src/workbook/pivot/read-source.js";
import { workbookWith } from "../../support/package-parts.js";

const book = workbookWith({
  fill: (sheet, whole) => {
    sheet.name = "Data";
    sheet.getRow(1).values = ["District", "Day", "Fee"];
    sheet.getRow(2).values = ["North", new Date(Date.UTC(2026, 10, 2)), 12.5];
    sheet.getRow(3).values = ["South", new Date(Date.UTC(2026, 10, 3)), "none"];
    sheet.getColumn(2).numFmt = "dd.mm.yyyy";
    whole.definedNames.add("Data!$A$1:$C$3", "Visits");
    const second = whole.addWorksheet("List");
    second.addTable({
      name: "Sites",
      ref: "B2",
      headerRow: true,
      totalsRow: true,
      columns: [{ name: "Site" }, { name: "Lifts", totalsRowFunction: "sum" }],
      rows: [
        ["Dock", 1],
        ["Quay", 2],
      ],
    });
  },
});
const source = (where: string) => parseXml(`<worksheetSource ${where}/>`, "x").root;
const cache = (where: string, fields: readonly string[]) =>
  parseXml(
    `<c><cacheSource><worksheetSource ${where}/></cacheSource><cacheFields>${fields.map((name) => `<cacheField ${name}/>`).join("")}</cacheFields></c>`,
    "x",
  ).root;

describe("where a pivot's rows stand", () => {
  it.each([
    ['sheet="Data" ref="A1:C3"', { sheet: "Data", range: { top: 0, left: 0, bottom: 2, right: 2 } }],
    ['name="visits"', { sheet: "Data", range: { top: 0, left: 0, bottom: 2, right: 2 } }],
    ['name="SITES"', { sheet: "List", range: { top: 1, left: 1, bottom: 3, right: 2 } }],
    ['name="Gone"', undefined],
    ["", undefined],
  ])("%s", async (where, place) => {
    expect(sourcePlace(await book, source(where))).toEqual(place);
  });
});

describe("the rows of a pivot's source", () => {
  it("come in the cache's order, days as serials with their format", async () => {
    const { records, dateCodes } = readSource(
      await book,
      cache('sheet="data" ref="A1:C3"', ['name="FEE"', 'name="Day"', 'name="Share" databaseField="0"']),
    );
    expect(records).toEqual([
      [12.5, 46_328, null],
      ["none", 46_329, null],
    ]);
    expect(dateCodes).toEqual([undefined, "dd.mm.yyyy", undefined]);
  });

  it("without the totals of a table", async () => {
    const { records } = readSource(await book, cache('name="Sites"', ['name="Site"', 'name="Lifts"']));
    expect(records).toEqual([
      ["Dock", 1],
      ["Quay", 2],
    ]);
  });

  it("have one blank row for all below the last", async () => {
    const { records } = readSource(await book, cache('sheet="Data" ref="A1:A1000"', ['name="District"']));
    expect(records).toEqual([["North"], ["South"], [null]]);
  });

  it("are not computed from where there is no such column or sheet", async () => {
    const workbook = await book;
    expect(() => readSource(workbook, cache('sheet="Data" ref="A1:C3"', ['name="Result"']))).toThrow(
      'its source has no column "Result"',
    );
    expect(() => readSource(workbook, cache('sheet="Gone" ref="A1:C3"', ['name="Fee"']))).toThrow("told by a formula");
  });
});
