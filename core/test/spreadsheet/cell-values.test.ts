import { cellValues } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { workbookWith } from "../support/package-parts.js";

describe("stored values of a sheet", () => {
  it("are texts, numbers, truth values and errors, with their formats", async () => {
    const workbook = await workbookWith({
      fill: (sheet) => {
        sheet.getRow(2).values = ["Dock", 12.5, true];
        sheet.getCell("D2").value = { error: "#N/A" };
        sheet.getCell("E2").value = { formula: "1+1", result: 2 };
        sheet.getCell("F2").value = { formula: '""', result: "" };
        sheet.getCell("B2").numFmt = "0.00";
      },
    });
    const row = cellValues(workbook, workbook.sheets[0].part).get(1);
    expect([...(row ?? [])].map(([column, { value, isError }]) => [column, value, isError])).toEqual([
      [0, "Dock", false],
      [1, 12.5, false],
      [2, true, false],
      [3, "#N/A", true],
      [4, 2, false],
    ]);
    expect(workbook.styles.formats[row?.get(1)?.style ?? 0].code).toBe("0.00");
  });

  it("are none where the part is missing", async () => {
    expect(cellValues(await workbookWith({}), "xl/worksheets/gone.xml").size).toBe(0);
  });
});
