import { parseReport } from "@corbix/core/report";
import { groupEnv, groupScope, planRun } from "@corbix/core/run";
import { splitTable } from "@corbix/core/split";
import { loadTable, type Table } from "@corbix/core/table";
import { PlainWorkbook, type PlainWorkbookSpec, recalculateWorkbook } from "@corbix/core/workbook";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";

const table: Table = loadTable(
  Buffer.from(
    "Site;Unit;Day;Hours;Fee;Share;Open\nDock's End;L1;5.10.2026;1,5;CHF 1'234.50;12%;true\nDock's End;L2 & <more>;6.10.2026;2;CHF 3.00;7%;false\nQuay;L9;7.10.2026;3;CHF 4.00;1%;true\n",
  ),
  "v.csv",
).table;
const facts = { id: "x", date: 46_328, sender: "a@b.example", locale: "en-GB" };

async function made(
  spec: Partial<PlainWorkbookSpec>,
  group = 0,
): Promise<{ book: ExcelJS.Workbook; bytes: Uint8Array }> {
  const { groups } = splitTable(table, ["Site"]);
  const bound = PlainWorkbook.bind(
    { sheet: "Rows", colour: "2f6b57", ...spec },
    groupScope(table.columns),
    "files, rows",
  );
  const env = groupEnv(table, groups[group], { number: 1, count: 2 }, [], facts);
  const bytes = bound.fill(env).package.toBytes();
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes as unknown as ArrayBuffer);
  return { book, bytes };
}

describe("a workbook without a template", () => {
  it("holds the group's lines as a table with types, formats, widths, filter and frozen headings", async () => {
    const { book } = await made({});
    const [sheet] = book.worksheets;
    expect(sheet.getRow(1).values).toEqual([undefined, "Site", "Unit", "Day", "Hours", "Fee", "Share", "Open"]);
    expect(sheet.getCell("B3").value).toBe("L2 & <more>");
    expect(sheet.getCell("C2").value).toEqual(new Date(Date.UTC(2026, 9, 5)));
    expect(sheet.getCell("E2").value).toBe(1234.5);
    expect([sheet.getCell("E2").numFmt, sheet.getCell("F2").numFmt]).toEqual(["#,##0.00", "0.0%"]);
    expect(sheet.getCell("G3").value).toBe(false);
    expect(sheet.rowCount).toBe(3);
    expect(sheet.views[0]).toMatchObject({ state: "frozen", ySplit: 1 });
    const [rows] = Object.values(
      (sheet as unknown as { tables: Record<string, { table: { tableRef: string; autoFilterRef: string } }> }).tables,
    );
    expect(rows.table.tableRef).toBe("A1:G3");
    expect(sheet.getColumn(2).width).toBeGreaterThan(12);
    expect(sheet.getCell("A1").fill).toMatchObject({ fgColor: { argb: "FF2F6B57" } });
  });

  it("takes chosen columns with headings, title, sheet name and totals that were calculated", async () => {
    const { book, bytes } = await made({
      sheet: "{{ site }}",
      title: "Rows of {{ site }}",
      columns: [
        "unit",
        { column: "hours", heading: "Time", total: "sum" },
        { column: "fee", heading: "time", format: "0.0", total: "average" },
      ],
    });
    const [sheet] = book.worksheets;
    expect(sheet.name).toBe("Dock's End");
    expect(sheet.getCell("A1").value).toBe("Rows of Dock's End");
    // Headings of a table must differ, also in more than their capitals.
    expect(sheet.getRow(3).values).toEqual([undefined, "Unit", "Time", "time 2"]);
    expect(sheet.getCell("A6").value).toBe("Total");
    expect([sheet.getCell("B6").result, sheet.getCell("C6").result]).toEqual([3.5, 618.75]);
    expect(sheet.getCell("B6").formula).toBe("SUBTOTAL(109,B4:B5)");
    expect(sheet.pageSetup.printTitlesRow).toBe("3:3");
    expect(recalculateWorkbook(bytes, "x", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
  });

  it("names an unknown column, and a file with both or neither of template and table", () => {
    const bind = (columns: string[]) =>
      PlainWorkbook.bind({ sheet: "Rows", colour: "000000", columns }, groupScope(table.columns), "files, rows");
    expect(() => bind(["fees"])).toThrow("Cannot find the column `fees`");
    const report = (file: string) =>
      `report: a\ntitle: A\ndata: t\nsplit: site\nfiles:\n  rows: { name: x, ${file} }\n`;
    expect(() => parseReport(report("pdf: no"), "r")).toThrow("either a template, a table, slides or a list");
    expect(() => parseReport(report("template: a.xlsx, table: {}"), "r")).toThrow(
      "either a template, a table, slides or a list",
    );
    const planned = planRun({
      report: parseReport(report("table: {}"), "r"),
      table,
      others: new Map(),
      recipients: [],
      templates: new Map(),
      facts,
    });
    expect(planned.plan.parcels.map((parcel) => parcel.files.map((file) => file.path))).toEqual([
      ["x.xlsx"],
      ["x (2).xlsx"],
    ]);
  });
});
