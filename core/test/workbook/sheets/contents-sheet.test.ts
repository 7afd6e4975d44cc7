import { OoxmlPackage } from "@corbix/core/ooxml";
import { workbookFromPackage } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { addContents, type Contents } from "../../../src/workbook/sheets/contents-sheet.js";
import { formula, makeWorkbook, openElsewhere, shown } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const CONTENTS: Contents = {
  sheet: "Contents",
  title: "Sites & lifts",
  heads: ["Fees", "Visits", "First"],
  rows: [
    { name: "O'Brien & sons", lines: 2, totals: [0.1, 3, "2 Nov"] },
    { name: "Dock", lines: 1200, totals: [0.2, 4, "3 Nov"] },
  ],
  whole: { name: "", lines: 1202, totals: [0.3, 7, "2 Nov"] },
};
async function made(contents: Contents) {
  const opened = OoxmlPackage.open(
    await makeWorkbook((book, sheet) => {
      sheet.name = "O'Brien & sons";
      book.addWorksheet("Dock").pageSetup.printArea = "A1:B2";
    }),
  );
  const after = addContents(opened, contents);
  const bytes = after.toBytes();
  expect(problemsOf(bytes)).toEqual([]);
  const book = await openElsewhere(bytes);
  return { book, sheet: book.worksheets[0], after };
}

describe("a sheet of contents", () => {
  it("stands first, with a row for each sheet, their sums, and what the data say", async () => {
    const { book, sheet } = await made(CONTENTS);
    expect(book.worksheets.map(({ name }) => name)).toEqual(["Contents", "O'Brien & sons", "Dock"]);
    const cells = (row: number) => ["A", "B", "C", "D", "E"].map((column) => shown(sheet, `${column}${row}`));
    expect([1, 3, 4, 5, 6, 7].map(cells)).toEqual([
      ["Sites & lifts", null, null, null, null],
      ["Sheet", "Rows", "Fees", "Visits", "First"],
      ["O'Brien & sons", 2, 0.1, 3, "2 Nov"],
      ["Dock", 1200, 0.2, 4, "3 Nov"],
      // Stored as people reckon it, for who does not calculate.
      ["All sheets", 1202, 0.3, 7, null],
      ["In the data", 1202, 0.3, 7, "2 Nov"],
    ]);
    expect([formula(sheet, "B6"), formula(sheet, "C6"), formula(sheet, "E6")]).toEqual([
      "SUM(B4:B5)",
      "SUM(C4:C5)",
      undefined,
    ]);
    expect([sheet.getCell("C4").numFmt, sheet.getCell("D4").numFmt]).toEqual(["#,##0.00", "#,##0"]);
  });

  it("leads to its sheets, whatever signs they are called by", async () => {
    const { after } = await made(CONTENTS);
    const { package: opened, sheets } = workbookFromPackage(after);
    const links = opened.getXml(sheets[0].part).descendants("hyperlink");
    expect(links.map((link) => [link.attr("ref"), link.attr("location")])).toEqual([
      ["A4", "'O''Brien & sons'!A1"],
      ["A5", "'Dock'!A1"],
    ]);
  });

  it("moves the sheets that names belong to", async () => {
    const { after } = await made(CONTENTS);
    expect(workbookFromPackage(after).names.map(({ sheet }) => sheet)).toEqual([2]);
  });

  it("without a title begins at the top, and may be of no sheet at all", async () => {
    const { sheet } = await made({
      ...CONTENTS,
      title: undefined,
      rows: [],
      heads: [],
      whole: { name: "", lines: 0, totals: [] },
    });
    expect([shown(sheet, "A1"), shown(sheet, "A2"), shown(sheet, "B2")]).toEqual(["Sheet", "All sheets", 0]);
  });
});
