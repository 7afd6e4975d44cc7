/** Recalculation against results that were worked out elsewhere: another language's own arithmetic, stored by another writer. */
import { execFileSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { recalculateWorkbook } from "@corbix/core/workbook";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";

const WORKED_OUT = fileURLToPath(new URL("../../support/worked-out.py", import.meta.url));

interface WorkedOut {
  readonly rows: readonly (string | number)[][];
  readonly cells: readonly (readonly [name: string, value: string | number])[];
  readonly formulas: readonly (readonly [formula: string, result: string | number | boolean])[];
}

describe("stored results of another writer", () => {
  it.each([1, 2, 3])("are what comes out here, for random rows (%i)", async (seed) => {
    const printed = execFileSync("/usr/bin/python3", [WORKED_OUT, String(seed)], { encoding: "utf8" });
    const { rows, cells: others, formulas } = JSON.parse(printed) as WorkedOut;
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet("Visits");
    sheet.addRow(["Date", "Site", "Kind", "Hours", "Parts"]);
    sheet.addRows(rows as (string | number)[][]);
    for (const [name, value] of others) sheet.getCell(name).value = value;
    formulas.forEach(([formula, result], index) => {
      sheet.getCell(index + 1, 8).value = { formula, result } as ExcelJS.CellFormulaValue;
    });
    const bytes = new Uint8Array(await book.xlsx.writeBuffer());
    const { cells } = recalculateWorkbook(bytes, "visits.xlsx", 46_328);
    expect(cells.length).toBe(formulas.length);
    const apart = cells.filter(({ stored, value }) =>
      typeof stored === "number" && typeof value === "number"
        ? Math.abs(stored - value) > 1e-9 * Math.max(1, Math.abs(stored))
        : stored !== value,
    );
    expect(apart.map(({ formula, stored, value }) => [formula, stored, value])).toEqual([]);
  });
});
