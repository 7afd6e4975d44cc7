import { OoxmlPackage } from "@corbix/core/ooxml";
import { recalculateWorkbook } from "@corbix/core/workbook";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";

async function made(fill: (book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const wrong = await made((book) => {
  const sheet = book.addWorksheet("Visits");
  sheet.addRows([
    ["Site", "Hours"],
    ["Dock", 2],
    ["Dock", 3],
  ]);
  sheet.getCell("B4").value = { formula: "SUBTOTAL(9,B2:B3)", result: 5 };
  sheet.addRow(["Quay", 4]);
  sheet.getRow(5).hidden = true;
  sheet.getCell("B6").value = { formula: "SUBTOTAL(9,B5:B5)", result: 4 };
  sheet.getCell("B7").value = { formula: "SUBTOTAL(9,B2:B6)", result: 18 };
  sheet.getCell("B8").value = { formula: "SUBTOTAL(109,B2:B6)", result: 5 };
  sheet.getCell("C2").value = { formula: "TODAY()", result: 1 };
  sheet.getCell("C3").value = { formula: "B2/0", result: { error: "#DIV/0!" } };
});

describe("recalculating any workbook", () => {
  it("names each stored value that differs, and passes subtotals over in subtotals, hidden rows above 100", () => {
    const { cells } = recalculateWorkbook(wrong, "visits.xlsx", 46_328);
    const differing = cells.filter((cell) => !cell.isSame).map(({ cell, stored, value }) => [cell, stored, value]);
    expect(differing).toEqual([
      ["C2", 1, 46_328],
      ["B7", 18, 9],
    ]);
    expect(cells.find((cell) => cell.cell === "C3")?.value).toBe("#DIV/0!");
  });

  it("stores what it evaluated, and then finds nothing more", async () => {
    const first = recalculateWorkbook(wrong, "visits.xlsx", 46_328);
    const bytes = first.package.toBytes();
    expect(recalculateWorkbook(bytes, "visits.xlsx", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(bytes as unknown as ArrayBuffer);
    expect(book.worksheets[0].getCell("B7").result).toBe(9);
    expect(book.worksheets[0].getCell("B7").formula).toBe("SUBTOTAL(9,B2:B6)");
  });

  it("refuses a template that is still to be filled", async () => {
    const template = await made((book) => book.addWorksheet("A").addRow(["{{ site }}"]));
    expect(() => recalculateWorkbook(template, "t.xlsx", 46_328)).toThrow("it holds the mark {{ site }}");
  });

  it("answers what the file knows of itself, and keeps and names what hangs on the machine", async () => {
    const plain = await made((book) => {
      const sheet = book.addWorksheet("Sites");
      sheet.addRows([["東京 Tower"], ["Dock"]]);
      for (const [at, formula] of ["PHONETIC(A1)", "PHONETIC(A2)", 'INFO("recalc")', 'INFO("osversion")'].entries())
        sheet.getCell(at + 1, 3).value = { formula, result: "stored" };
    });
    const opened = OoxmlPackage.open(plain, "sites.xlsx");
    const [strings, workbook] = ["xl/sharedStrings.xml", "xl/workbook.xml"].map((part) => opened.getText(part));
    const bytes = opened
      .with(
        new Map([
          [
            "xl/sharedStrings.xml",
            strings.replace(
              "<t>東京 Tower</t>",
              '<t>東京 Tower</t><rPh sb="0" eb="1"><t>トウ</t></rPh><rPh sb="1" eb="2"><t>キョウ</t></rPh><phoneticPr fontId="1"/>',
            ),
          ],
          ["xl/workbook.xml", workbook.replace(/<calcPr [^>]*\/>/, '<calcPr calcMode="manual"/>')],
        ]),
      )
      .toBytes();
    const { cells, findings } = recalculateWorkbook(bytes, "sites.xlsx", 46_328);
    expect(cells.map(({ value }) => value)).toEqual(["トウキョウ Tower", "Dock", "Manual", "stored"]);
    expect(findings.map((one) => one.what).join("\n")).toContain('INFO of "osversion"');
  });
});
