import type { Env } from "@corbix/core/expression";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { parseReport } from "@corbix/core/report";
import { groupScope, ReportMaker } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import type ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { formula, makeWorkbook, openElsewhere, readElsewhere, shown } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const { table } = loadTable(
  Buffer.from("site,unit,fee,tax\nDock,L1,10.5,1\nDock,L2,20,2\nDock,L3,30,3\nQuay,Q1,7,1\n"),
  "t.csv",
);

/** Makes the file of the first three rows from a template, with what the report says of it. */
async function make(template: Uint8Array, says: string, lines: readonly number[] = [0, 1, 2]) {
  const report = parseReport(
    `report: a\ntitle: A\ndata: t\nsplit: site\nfiles:\n  rows:\n    name: x\n    template: t.xlsx\n${says}`,
    "r",
  );
  const maker = new ReportMaker(report, groupScope(table.columns), new Map([["t.xlsx", template]]));
  const group = new Map<string, string>([["key", "Dock"]]);
  const env: Env = { table, lines, row: -1, spaces: { group }, locale: "en-GB", today: 46_328 };
  const [file] = maker.make(env, ["rows"], undefined as never, {} as never).files;
  expect(problemsOf(file.bytes)).toEqual([]);
  return { bytes: file.bytes, sheet: (await openElsewhere(file.bytes)).worksheets[0] };
}

const withTable = (rows: number, beside?: string): Promise<Uint8Array> =>
  makeWorkbook((_, sheet) => {
    sheet.addTable({
      name: "Visits",
      ref: "B2",
      totalsRow: true,
      columns: [
        { name: "UNIT ", totalsRowLabel: "Total" },
        { name: "Fee", totalsRowFunction: "sum" },
        { name: "Double" },
        { name: "Signed" },
      ],
      rows: Array.from({ length: rows }, (__, at) => [`sample ${at}`, at, null, null]),
    });
    for (let row = 3; row < 3 + rows; row++) sheet.getCell(`D${row}`).value = { formula: `C${row}*2`, result: 0 };
    sheet.getCell(`C${3 + rows}`).value = { formula: "SUBTOTAL(109,Visits[Fee])", result: 0 };
    sheet.getCell(`B${5 + rows}`).value = "below";
    if (beside) sheet.getCell(beside).value = "beside";
  });

describe("a defined table filled by name", () => {
  it("takes columns by heading, carries formulas down, keeps its totals and drops its samples", async () => {
    const { sheet, bytes } = await make(await withTable(4), "    tables: { visits: {} }");
    expect([3, 4, 5].map((row) => ["B", "C", "D", "E"].map((letter) => shown(sheet, `${letter}${row}`)))).toEqual([
      ["L1", 10.5, 21, null],
      ["L2", 20, 40, null],
      ["L3", 30, 60, null],
    ]);
    expect([shown(sheet, "C6"), formula(sheet, "D5"), shown(sheet, "B8")]).toEqual([60.5, "C5*2", "below"]);
    expect(OoxmlPackage.open(bytes, "x").getText("xl/tables/table1.xml")).toContain('ref="B2:E6"');
  });

  it("takes fields for headings that are no column's, and leaves no sample where there are no lines", async () => {
    const { sheet } = await make(
      await withTable(1),
      '    tables: { Visits: { fields: { Signed: "{{ line.unit }} for {{ group.key }}" } } }',
    );
    expect(shown(sheet, "E4")).toBe("L2 for Dock");
    const none = await make(await withTable(3), "    tables: { Visits: {} }", []);
    expect([none.sheet.getRow(3).hidden, shown(none.sheet, "B3"), shown(none.sheet, "B6")]).toEqual([
      true,
      null,
      "below",
    ]);
  });

  it.each([
    ["    tables: { Nosuch: {} }", "Cannot find `Nosuch` in the template", "Visits"],
    ["    tables: { Visits: { fields: { Sined: x } } }", "Cannot find the heading `Sined`", "Signed"],
    ["    cells: { Nosuch: x }", "Cannot find `Nosuch`", "Summary!B2"],
  ])("names what is wrong in %s", async (says, words, advice) => {
    await expect(make(await withTable(1), says)).rejects.toMatchObject({
      message: expect.stringContaining(words),
      advice: expect.stringContaining(advice),
    });
  });

  it("refuses to drop what stands beside sample rows", async () => {
    const template = await withTable(3, "H4");
    await expect(make(template, "    tables: { Visits: {} }")).rejects.toThrow("cell H4 stands beside its sample rows");
  });
});

describe("cells and places by name", () => {
  it("sets a selector cell over a data sheet, and only its values leave", async () => {
    const template = await makeWorkbook((book, sheet) => {
      sheet.addRow(["Site", "?"]);
      sheet.addRow(["Fees", { formula: "SUMIFS(Data!B:B,Data!A:A,Selector)", result: 0 }]);
      const data = book.addWorksheet("Data");
      data.addRows([
        ["Dock", 4],
        ["Quay", 5],
        ["Dock", 6],
      ]);
      book.definedNames.add("'Sheet one'!$B$1", "Selector");
    });
    const { bytes, sheet } = await make(
      template,
      '    cells: { Selector: "{{ group.key }}" }\n    values: true\n    sheets: [Sheet one]',
    );
    expect([shown(sheet, "B1"), shown(sheet, "B2"), formula(sheet, "B2")]).toEqual(["Dock", 10, undefined]);
    const opened = OoxmlPackage.open(bytes, "x");
    expect(opened.names.some((name) => opened.getText(name).includes("Quay"))).toBe(false);
  });

  it("lays a whole table with headings, formats, totals and a sum for each line; what is below moves", async () => {
    const template = await makeWorkbook((book, sheet: ExcelJS.Worksheet) => {
      sheet.addRow(["Rows of {{ group.key }}"]);
      sheet.addRow([]);
      sheet.getCell("A4").value = "below";
      sheet.getCell("B4").value = { formula: "SUM(C1:C3)", result: 0 };
      sheet.getRow(3).height = 30;
      book.definedNames.add("'Sheet one'!$B$3", "Listing");
    });
    const says =
      '    tables: { Listing: { columns: [unit, { column: fee, heading: Fee CHF, format: "0.00", total: sum }, tax], lineTotal: Both } }';
    const { sheet, bytes } = await make(template, says);
    const rows = [3, 4, 5, 6, 7].map((row) => ["B", "C", "D", "E"].map((letter) => shown(sheet, `${letter}${row}`)));
    expect(rows).toEqual([
      ["unit", "Fee CHF", "tax", "Both"],
      ["L1", 10.5, 1, 11.5],
      ["L2", 20, 2, 22],
      ["L3", 30, 3, 33],
      ["Total", 60.5, null, 66.5],
    ]);
    expect([sheet.getCell("C5").numFmt, sheet.getRow(3).height, shown(sheet, "A8")]).toEqual(["0.00", 30, "below"]);
    expect(OoxmlPackage.open(bytes, "x").getText("xl/tables/table1.xml")).toContain('ref="B3:E6"');
    expect(readElsewhere(bytes, "t = list(book.worksheets[0].tables.values())[0]; print(t.name, t.ref)")).toBe(
      "Lines B3:E6",
    );
  });
});
