import type { Env } from "@corbix/core/expression";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { parseReport } from "@corbix/core/report";
import { groupScope, ReportMaker } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { recalculateWorkbook } from "@corbix/core/workbook";
import { describe, expect, it } from "vitest";
import { formula, makeWorkbook, openElsewhere, readElsewhere, shown } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const { table } = loadTable(
  Buffer.from(
    "region,site,unit,fee\nWest,Dock: north/1,L1,10.5\nWest,Quay,Q1,7\nWest,dock: north/1 ,L2,20\nWest,A very long name of a site beyond 31,V1,1\nWest,A very long name of a site beyond 31 too,V2,2\n",
  ),
  "t.csv",
);

async function make(files: string, templates: ReadonlyMap<string, Uint8Array>) {
  const report = parseReport(
    `report: a\ntitle: A\ndata: t\nsplit: region\ntotals: { fees: sum(line.fee) }\nfiles:\n  rows:\n    name: x\n${files}`,
    "r",
  );
  const maker = new ReportMaker(report, groupScope(table.columns), templates);
  const env: Env = {
    table,
    lines: [0, 1, 2, 3, 4],
    row: -1,
    spaces: { group: new Map([["key", "West"]]) },
    locale: "en-GB",
    today: 46_328,
  };
  const [file] = maker.make(env, ["rows"], undefined as never, {} as never).files;
  // The template's writer puts the drawing of notes behind tables, and the sheet is kept as it came.
  expect(problemsOf(file.bytes).filter((problem) => !problem.includes("legacyDrawing"))).toEqual([]);
  return { bytes: file.bytes, book: await openElsewhere(file.bytes), opened: OoxmlPackage.open(file.bytes, "x") };
}

describe("a sheet for each value", () => {
  it("is cloned with formulas, tables, print area and notes of its own, and the contents add up", async () => {
    const template = await makeWorkbook((book, sheet) => {
      const notes = book.addWorksheet("Notes");
      notes.getCell("A1").value = { formula: "'Sheet one'!B3", result: 0 };
      sheet.addTable({
        name: "Visits",
        ref: "A1",
        columns: [{ name: "Unit" }, { name: "Fee" }],
        rows: [["{{ line.unit }}", "{{ line.fee }}"]],
      });
      sheet.getCell("A3").value = "{{ trim(first(line.site)) }}";
      sheet.getCell("B3").value = { formula: "SUM(Visits[Fee])", result: 0 };
      sheet.getCell("C3").value = { formula: "'Sheet one'!B3*2", result: 0 };
      sheet.getCell("A3").note = "a note";
      sheet.pageSetup.printArea = "A1:C3";
      sheet.pageSetup.orientation = "landscape";
    });
    const { book, bytes, opened } = await make(
      "    template: t.xlsx\n    sheetPer: { by: site, contents: { sheet: Contents, title: 'Sites of {{ group.key }}' } }",
      new Map([["t.xlsx", template]]),
    );
    const names = book.worksheets.map((sheet) => sheet.name);
    expect(names).toEqual([
      "Contents",
      "Dock  north 1",
      "Quay",
      "A very long name of a site beyo",
      "A very long name of a site (2)",
      "Notes",
    ]);
    const [contents, dock, quay, , , notes] = book.worksheets;
    expect([shown(dock, "B4"), shown(dock, "C4"), formula(dock, "C4")]).toEqual([30.5, 61, "'Dock  north 1'!B4*2"]);
    expect([shown(quay, "B3"), formula(quay, "B3")]).toEqual([7, "SUM(Visits_2[Fee])"]);
    expect(shown(notes, "A1")).toBe(30.5);
    expect([dock.pageSetup.printArea, quay.pageSetup.printArea]).toEqual(["A1:C4", "A1:C3"]);
    expect(quay.pageSetup.orientation).toBe("landscape");
    expect(quay.getCell("A3").note).toBeTruthy();
    expect([3, 4, 5, 8, 9].map((row) => ["A", "B", "C"].map((letter) => shown(contents, `${letter}${row}`)))).toEqual(
      [
        ["Sheet", "Rows", "fees"],
        [{ text: "Dock  north 1", hyperlink: "#'Dock  north 1'!A1" }, 2, 30.5],
        [{ text: "Quay", hyperlink: "#Quay!A1" }, 1, 7],
        ["All sheets", 5, 40.5],
        ["In the data", 5, 40.5],
      ].map((row) => row.map((cell) => (typeof cell === "object" ? expect.anything() : cell))),
    );
    expect(shown(contents, "A1")).toBe("Sites of West");
    expect(opened.getText("xl/worksheets/sheet6.xml")).toContain("location=\"'Dock  north 1'!A1\"");
    expect(recalculateWorkbook(bytes, "made.xlsx", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
    const read = "print([(s.title, list(s.tables), s.max_row) for s in book.worksheets])";
    expect(readElsewhere(bytes, read)).toContain("('Quay', ['Visits_2'], 3)");
  });

  it("is made without a template too, each as wide as its own lines need", async () => {
    const { book } = await make(
      "    table: { columns: [unit, { column: fee, total: sum }], title: '{{ count(line) }} rows' }\n    sheetPer: { by: line.site, name: 'Site {{ first(line.unit) }}' }",
      new Map(),
    );
    expect(book.worksheets.map((sheet) => [sheet.name, shown(sheet, "A1")])).toEqual([
      ["Site L1", "2 rows"],
      ["Site Q1", "1 rows"],
      ["Site V1", "1 rows"],
      ["Site V2", "1 rows"],
    ]);
    expect(shown(book.worksheets[0], "B6")).toBe(30.5);
  });

  it("names a sheet that the template does not have", async () => {
    const template = await makeWorkbook((_, sheet) => sheet.addRow(["{{ line.unit }}"]));
    await expect(
      make("    template: t.xlsx\n    sheetPer: { by: site, sheet: Shet one }", new Map([["t.xlsx", template]])),
    ).rejects.toMatchObject({ code: "BAD_DEFINITION", advice: expect.stringContaining("Sheet one") });
  });
});
