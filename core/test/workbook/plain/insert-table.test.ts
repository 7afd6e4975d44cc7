import { OoxmlPackage } from "@corbix/core/ooxml";
import { workbookFromPackage } from "@corbix/core/spreadsheet";
import type ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { layTable, rowsOfTable } from "../../../src/workbook/plain/insert-table.js";
import { readTables } from "../../../src/workbook/template/defined-tables.js";
import { formula, makeWorkbook, openElsewhere, record, shown } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

type Spec = Parameters<typeof layTable>[2];
const { scope } = record({ lines: [{ unit: "L1", fee: 1.5, hours: 2 }], parts: [{ kind: "rope", count: 1 }] });
async function laid(spec: Spec, fill: (sheet: ExcelJS.Worksheet) => void = () => {}, at = "B2") {
  const opened = OoxmlPackage.open(await makeWorkbook((_, sheet) => fill(sheet)));
  const [column, row] = [at.charCodeAt(0) - 65, Number(at.slice(1)) - 1];
  const place = { sheet: 0, range: { top: row, left: column, bottom: row, right: column } };
  const made = layTable(workbookFromPackage(opened), place, spec, scope, "tables, B2");
  const bytes = made.toBytes();
  expect(problemsOf(bytes)).toEqual([]);
  const sheet = (await openElsewhere(bytes)).worksheets[0];
  return {
    sheet,
    made,
    tables: readTables(workbookFromPackage(made)),
    row: (number: number) => ["B", "C", "D", "E"].map((name) => shown(sheet, `${name}${number}`)),
  };
}

describe("a table laid into a sheet", () => {
  it("has headings, a line that repeats, and is a table with its style", async () => {
    const { row, tables, made } = await laid({ banded: false } as Spec);
    expect([row(2), row(3)]).toEqual([
      ["unit", "fee", "hours", null],
      ["{{ line.`unit` }}", "{{ line.`fee` }}", "{{ line.`hours` }}", null],
    ]);
    expect(tables).toMatchObject([
      { name: "Lines", range: { top: 1, left: 1, bottom: 2, right: 3 }, columns: ["unit", "fee", "hours"] },
    ]);
    const style = made.getXml(tables[0].part).child("tableStyleInfo");
    expect([style?.attr("name"), style?.attr("showRowStripes")]).toEqual(["TableStyleMedium2", "0"]);
    expect(rowsOfTable({} as Spec)).toBe(2);
  });

  it("has totals of the kinds that are asked for, which pass over subtotals, and sums of lines", async () => {
    const spec = {
      columns: [
        { column: "unit", heading: "Unit" },
        { column: "fee", total: "sum", format: "0.00" },
        { column: "hours", total: "average" },
      ],
      lineTotal: "All",
    } as unknown as Spec;
    const { sheet, row } = await laid(spec);
    expect(row(2)).toEqual(["Unit", "fee", "hours", "All"]);
    expect(["C4", "D4", "E3"].map((cell) => formula(sheet, cell))).toEqual([
      "SUBTOTAL(109,C3:C3)",
      "SUBTOTAL(101,D3:D3)",
      "SUM(C3,D3)",
    ]);
    expect([row(4)[0], sheet.getCell("C3").numFmt, sheet.getCell("C4").numFmt]).toEqual(["Total", "0.00", "0.00"]);
    expect(rowsOfTable(spec)).toBe(3);
  });

  it("of other lines is of those, and one more gets a name and a part of its own", async () => {
    const { tables, row } = await laid({ lines: "parts", style: "TableStyleLight1" } as Spec, (sheet) => {
      sheet.addTable({ name: "lines", ref: "H1", columns: [{ name: "A" }], rows: [[1]] });
    });
    expect(row(3).slice(0, 2)).toEqual(["{{ parts.`kind` }}", "{{ parts.`count` }}"]);
    expect(tables.map(({ name }) => name).sort()).toEqual(["Lines_2", "lines"]);
    expect(new Set(tables.map(({ part }) => part)).size).toBe(2);
  });

  it("keeps the look of the cell it begins in, and is refused where something stands in its way", async () => {
    const { sheet } = await laid({ columns: ["fee"] } as unknown as Spec, (page) => {
      page.getCell("B2").font = { bold: true };
    });
    expect(sheet.getCell("B2").font?.bold).toBe(true);
    await expect(laid({} as Spec, (page) => (page.getCell("C3").value = "here"))).rejects.toThrow(
      "Cannot lay the table: cell C3 is not blank.",
    );
    await expect(laid({ columns: ["fees"] } as unknown as Spec)).rejects.toThrow(/fees/);
    await expect(laid({ lines: "people" } as Spec)).rejects.toThrow("Cannot find the lines `people`.");
  });
});
