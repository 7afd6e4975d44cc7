import { OoxmlPackage } from "@corbix/core/ooxml";
import { workbookFromPackage } from "@corbix/core/spreadsheet";
import type ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { cloneSheet } from "../../../src/workbook/sheets/clone-sheet.js";
import { formula, makeWorkbook, openElsewhere } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

async function cloned(
  count: number,
  fill: (sheet: ExcelJS.Worksheet, book: ExcelJS.Workbook) => void,
  sheet = 0,
): Promise<{ names: readonly string[]; book: ExcelJS.Workbook; opened: OoxmlPackage }> {
  const bytes = await makeWorkbook((book, first) => {
    first.getCell("A1").value = "Site";
    fill(first, book);
  });
  const made = cloneSheet(workbookFromPackage(OoxmlPackage.open(bytes)), sheet, count);
  const whole = made.package.toBytes();
  expect(problemsOf(whole)).toEqual([]);
  return { names: made.names, book: await openElsewhere(whole), opened: made.package };
}
const table = (name: string, ref: string): ExcelJS.TableProperties => ({
  name,
  ref,
  columns: [{ name: "Fee" }],
  rows: [[1]],
});

describe("a sheet several times", () => {
  it("stands behind itself, before the others, and each names itself", async () => {
    const { names, book } = await cloned(3, (sheet, whole) => {
      sheet.name = "Visits";
      sheet.getCell("B1").value = { formula: "Visits!A1&'Visits'!A1&Other!A1" };
      whole.addWorksheet("Other").getCell("A1").value = { formula: "Visits!A1" };
    });
    expect(names).toEqual(["Visits", "Visits ~2", "Visits ~3"]);
    expect(book.worksheets.map((one) => one.name)).toEqual([...names, "Other"]);
    expect(book.worksheets.map((one) => formula(one, one.name === "Other" ? "A1" : "B1"))).toEqual([
      "Visits!A1&'Visits'!A1&Other!A1",
      "'Visits ~2'!A1&'Visits ~2'!A1&Other!A1",
      "'Visits ~3'!A1&'Visits ~3'!A1&Other!A1",
      "Visits!A1",
    ]);
  });

  it.each(["P$&L", "O'Brien", "A$1 rates", "$$", "Dock & Quay", "Fees (net)"])(
    "called %s names itself in its copies",
    async (name) => {
      const quoted = `'${name.replaceAll("'", "''")}'!A1`;
      const { names, book } = await cloned(2, (sheet) => {
        sheet.name = name;
        sheet.getCell("B1").value = { formula: quoted };
      });
      expect(names).toEqual([name, `${name} ~2`]);
      expect(formula(book.worksheets[1], "B1")).toBe(`'${name.replaceAll("'", "''")} ~2'!A1`);
    },
  );

  it("does not take another sheet's name for its own", async () => {
    const { book } = await cloned(2, (sheet, whole) => {
      sheet.name = "Fee";
      whole.addWorksheet("No Fee");
      whole.addWorksheet("MyFee");
      sheet.getCell("B1").value = { formula: "'No Fee'!A1+MyFee!A1+Fee!A1" };
    });
    expect(formula(book.worksheets[1], "B1")).toBe("'No Fee'!A1+MyFee!A1+'Fee ~2'!A1");
  });

  it("has tables of its own, with names and numbers that no other has", async () => {
    const { opened, book } = await cloned(3, (sheet, whole) => {
      sheet.addTable(table("Fees", "C1"));
      whole.addWorksheet("Other").addTable(table("Fees_2", "A1"));
      sheet.getCell("E1").value = { formula: "SUM(Fees[Fee])" };
    });
    const tables = opened.names.filter((name) => /\/tables\/[^/]+\.xml$/.test(name)).map((name) => opened.getXml(name));
    expect(tables.map((one) => one.attr("displayName")).sort()).toEqual(["Fees", "Fees_2", "Fees_3", "Fees_4"]);
    expect(new Set(tables.map((one) => one.attr("id"))).size).toBe(4);
    expect(book.worksheets.slice(0, 3).map((one) => formula(one, "E1"))).toEqual([
      "SUM(Fees[Fee])",
      "SUM(Fees_3[Fee])",
      "SUM(Fees_4[Fee])",
    ]);
  });

  it("has its own notes and print area, and is selected once", async () => {
    const { opened, book } = await cloned(2, (sheet, whole) => {
      sheet.getCell("A1").note = "look here";
      sheet.pageSetup.printArea = "A1:B9";
      sheet.views = [{ state: "normal" }];
      const other = whole.addWorksheet("Other");
      other.pageSetup.printArea = "A1:C3";
    });
    expect(book.worksheets.map((one) => one.pageSetup.printArea)).toEqual(["A1:B9", "A1:B9", "A1:C3"]);
    expect(opened.names.filter((name) => /comments\d*\.xml$/.test(name))).toHaveLength(2);
    const selected = opened.names
      .filter((name) => /worksheets\/sheet\d+\.xml$/.test(name))
      .filter((name) => opened.getText(name).includes('tabSelected="1"'));
    expect(selected.length).toBeLessThanOrEqual(1);
  });

  it("in the middle leaves the workbook's own counting right", async () => {
    const { opened } = await cloned(
      3,
      (_, whole) => {
        whole.addWorksheet("Middle");
        whole.addWorksheet("Last").pageSetup.printArea = "A1:C3";
        whole.views = [{ x: 0, y: 0, width: 100, height: 100, firstSheet: 0, activeTab: 2, visibility: "visible" }];
      },
      1,
    );
    const workbook = workbookFromPackage(opened);
    expect(workbook.sheets.map(({ name }) => name)).toEqual(["Sheet one", "Middle", "Middle ~2", "Middle ~3", "Last"]);
    expect(workbook.names.map(({ sheet }) => sheet)).toEqual([4]);
    expect(workbook.xml.descendants("workbookView")[0].attr("activeTab")).toBe("4");
    expect(new Set(workbook.xml.descendants("sheet").map((one) => one.attr("sheetId"))).size).toBe(5);
  });

  it("once is the workbook as it was", async () => {
    const bytes = await makeWorkbook((_, sheet) => (sheet.getCell("A1").value = 1));
    const opened = OoxmlPackage.open(bytes);
    expect(cloneSheet(workbookFromPackage(opened), 0, 1).package).toBe(opened);
  });
});
