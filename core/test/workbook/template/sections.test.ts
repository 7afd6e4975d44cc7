import { recalculateWorkbook, WorkbookTemplate } from "@corbix/core/workbook";
import type ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { forAllSlow } from "../../support/for-all.js";
import { formula, makeWorkbook, openElsewhere, record, shown } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

type Line = Record<string, string | number>;

async function fill(value: Record<string, unknown>, make: (sheet: ExcelJS.Worksheet, book: ExcelJS.Workbook) => void) {
  const bytes = await makeWorkbook((book, sheet) => make(sheet, book));
  const { lines: given, ...others } = value as { lines: readonly Line[] };
  // A group without lines has columns nevertheless.
  const { scope, env: full } = record({ ...others, lines: given.length === 0 ? [...lines] : given });
  const env = given.length === 0 ? { ...full, lines: [] } : full;
  const { package: filled, findings } = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env);
  const made = filled.toBytes();
  expect(problemsOf(made)).toEqual([]);
  const book = await openElsewhere(made);
  return { book, sheet: book.worksheets[0], findings, filled, made };
}

/** Cells of a sheet as texts, row by row, `-` where blank. */
function rowsOf(sheet: ExcelJS.Worksheet): string[] {
  const rows: string[] = [];
  for (let row = 1; row <= sheet.rowCount; row++) {
    const cells: string[] = [];
    for (let column = 1; column <= sheet.columnCount; column++)
      cells.push(String(shown(sheet, sheet.getCell(row, column).address) ?? "-"));
    rows.push(cells.join(" "));
  }
  return rows;
}

const lines: Line[] = [
  { district: "North", unit: "L1", fee: 10, result: "pass" },
  { district: "South", unit: "L2", fee: 20, result: "fail" },
  { district: "north ", unit: "L3", fee: 30, result: "fail" },
  { district: "North", unit: "L4", fee: 5, result: "pass" },
];

describe("sub-groups", () => {
  it("repeat with their own heading and subtotal, and the total passes the subtotals over", async () => {
    const { sheet, made } = await fill({ lines }, (page) => {
      page.addRow(["Unit", "Fee", "Share"]);
      page.addRow(["{{repeat line by district}}District {{ district }}"]);
      page.addRow(["{{ line.unit }}", "{{ line.fee }}", { formula: "B3/B$4" }]);
      page.addRow(["{{ count(line) }} visits{{end}}", { formula: "SUBTOTAL(9,B3:B3)" }, { formula: "SUM(C3:C3)" }]);
      page.addRow(["All", { formula: "SUBTOTAL(9,B3:B4)" }, { formula: "AVERAGE(B3:B3)" }]);
    });
    expect(rowsOf(sheet)).toEqual([
      "Unit Fee Share",
      "District North - -",
      `L1 10 ${10 / 45}`,
      `L3 30 ${30 / 45}`,
      `L4 5 ${5 / 45}`,
      "3 visits 45 1",
      "District South - -",
      "L2 20 1",
      "1 visits 20 1",
      `All 65 ${(10 + 30 + 5 + 45 + 20) / 5}`,
    ]);
    expect([formula(sheet, "C4"), formula(sheet, "B6"), formula(sheet, "B9"), formula(sheet, "B10")]).toEqual([
      "B4/B$6",
      "SUBTOTAL(9,B3:B5)",
      "SUBTOTAL(9,B8:B8)",
      "SUBTOTAL(9,B3:B9)",
    ]);
    expect(recalculateWorkbook(made, "made.xlsx", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
  });

  it("nest, with merged headings in each, and rows of words alone vanish", async () => {
    const { sheet } = await fill({ lines }, (page) => {
      page.addRow(["{{repeat line by district}}"]);
      page.addRow(["{{ district }}"]);
      page.mergeCells("A2:B2");
      page.addRow(["{{repeat line by result}}"]);
      page.addRow(["{{ result }}", "{{ sum(line.fee) }}"]);
      page.addRow(["{{end}}"]);
      page.addRow(["{{end}}"]);
      page.addRow(["End"]);
    });
    expect(rowsOf(sheet)).toEqual(["North North", "pass 15", "fail 30", "South South", "fail 20", "End -"]);
    expect([...(sheet.model as unknown as { merges: string[] }).merges].sort()).toEqual(["A1:B1", "A4:B4"]);
  });

  it("of no lines leave blank hidden rows and no error", async () => {
    const { sheet, filled } = await fill({ lines: [], title: "October" }, (page) => {
      page.addRow(["{{ title }}"]);
      page.addRow(["{{repeat line by district}}District {{ district }}"]);
      page.addRow(["{{ line.unit }}", "{{ line.fee }}"]);
      page.addRow(["{{end}}", { formula: "SUBTOTAL(9,B3:B3)" }]);
      page.addRow(["All", { formula: "SUBTOTAL(9,B3:B4)" }]);
    });
    expect(shown(sheet, "A1")).toBe("October");
    expect([2, 3, 4].every((row) => sheet.getRow(row).hidden)).toBe(true);
    expect(filled.getText("xl/worksheets/sheet1.xml")).toContain("<f>SUBTOTAL(9,B3:B4)</f><v>0</v>");
  });
});

describe("areas", () => {
  it("beside each other show lists of their own; the shorter leaves its cells blank", async () => {
    const { sheet } = await fill({ lines }, (page) => {
      page.addRow(['{{repeat line where line.result = "fail"}}{{ line.unit }}', "{{ line.fee }}{{end}}", "-"]);
      page.getCell("D1").value = '{{repeat line where line.result = "pass"}}{{ line.unit }}';
      page.getCell("E1").value = "{{ line.fee }}{{end}}";
      page.addRow(["Sum", { formula: "SUM(B1:B1)" }, "", "", { formula: "SUM(E1:E1)" }]);
    });
    expect(rowsOf(sheet)).toEqual(["L2 20 - L1 10", "L3 30 - L4 5", "Sum 50   15"]);
  });

  it("show the lines that a condition keeps, and parts of a sheet only when asked", async () => {
    const template = (page: ExcelJS.Worksheet): void => {
      page.addRow(["{{when count(line where line.fee > 25) > 0}}"]);
      page.addRow(["Dear ones"]);
      page.addRow(["{{repeat line where fee > 25}}{{ line.unit }}{{end}}"]);
      page.addRow(["{{otherwise}}"]);
      page.addRow(["None is dear"]);
      page.addRow(["{{end}}"]);
      page.addRow([{ formula: "ROW()" }]);
    };
    expect(rowsOf((await fill({ lines }, template)).sheet)).toEqual(["Dear ones", "L3", "3"]);
    expect(rowsOf((await fill({ lines: [lines[0]] }, template)).sheet)).toEqual(["None is dear", "2"]);
  });

  it.each([
    [["{{repeat line}}", "x"], "Cannot find the end of `{{repeat line}}`", "cell A1"],
    [["{{otherwise}}"], "Cannot find what `{{otherwise}}` belongs to", "cell A1"],
    [["{{repeat line by nosuch}}{{ line.unit }}{{end}}"], "nosuch", "cell A1"],
    [["{{repeat line sideways}}{{end}}"], "Cannot use `{{repeat line sideways}}`", "cell A1"],
    [["{{when line.unit}}a{{end}}"], "current line", "cell A1"],
  ])("name what is wrong in %j", async (row, words, place) => {
    const error = await fill({ lines }, (page) => page.addRow(row)).then(
      () => undefined,
      (failure: Error & { toLine(): string }) => failure,
    );
    expect(error?.toLine()).toContain(words);
    expect(error?.toLine()).toContain(place);
  });
});

describe("columns that grow to the right", () => {
  it("repeat with widths, formulas and what stands right of them", async () => {
    const { sheet } = await fill({ lines }, (page) => {
      page.addRow(["Unit", "{{repeat line across}}{{ line.unit }}", "All"]);
      page.addRow(["Fee", "{{ line.fee }}", { formula: "SUM(B2:B2)" }]);
      page.addRow(["Half", { formula: "B2/2" }, { formula: "C2/2" }]);
      page.addRow(["Result", "{{ line.result }}{{end}}"]);
      page.getColumn(2).width = 7;
      page.getColumn(3).width = 20;
      page.pageSetup.printArea = "A1:C4";
    });
    expect(rowsOf(sheet)).toEqual([
      "Unit L1 L2 L3 L4 All",
      "Fee 10 20 30 5 65",
      "Half 5 10 15 2.5 32.5",
      "Result pass fail fail pass -",
    ]);
    expect([formula(sheet, "F2"), formula(sheet, "D3"), formula(sheet, "F3")]).toEqual(["SUM(B2:E2)", "D2/2", "F2/2"]);
    expect([2, 5, 6].map((column) => sheet.getColumn(column).width)).toEqual([7, 7, 20]);
    expect(sheet.pageSetup.printArea).toBe("A1:F4");
  });

  it("do not repeat inside a defined table, which would be broken by it", async () => {
    const made = fill({ lines }, (page) => {
      page.addTable({
        name: "Visits",
        ref: "A1",
        columns: [{ name: "Unit" }, { name: "Fee" }],
        rows: [["x", "{{repeat line across}}{{ line.fee }}{{end}}"]],
      });
    });
    await expect(made).rejects.toMatchObject({ code: "BAD_MARK", where: expect.stringContaining("table Visits") });
  });

  it("cross with rows: one axis by district, the other by result", async () => {
    const { sheet, made } = await fill({ lines }, (page) => {
      page.addRow(["", "{{repeat line across by result}}{{ result }}", "All"]);
      page.addRow(["{{repeat line by district}}{{ district }}", "{{ sum(line.fee) }}", ""]);
      page.getCell("C2").value = { formula: "SUM(B2:B2)" };
      page.getCell("D2").value = "{{end}}";
      page.addRow(["All", { formula: "SUM(B2:B2)" }, { formula: "SUM(C2:C2)" }]);
      page.getCell("B4").value = "{{end}}";
    });
    expect(rowsOf(sheet).slice(0, 4)).toEqual([" pass fail All", "North 15 30 45", "South 0 20 20", "All 15 50 65"]);
    expect(recalculateWorkbook(made, "made.xlsx", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
  });
});

/** The other program leaves out a result of nought. */
function valueAt(sheet: ExcelJS.Worksheet, name: string): string | number | null {
  return formula(sheet, name) === undefined
    ? (shown(sheet, name) as string | number | null)
    : Number(shown(sheet, name) ?? 0);
}

describe("against a naive model", () => {
  it("lays 60 random sheets out as a clerk would, and every moved formula still comes to the same", async () => {
    await forAllSlow(60, async (pick) => {
      const data = Array.from({ length: pick(9) }, (_, at) => ({
        district: ["North", "South", "East"][pick(3)],
        unit: `L${at}`,
        fee: pick(100),
      }));
      const [above, below, between] = [pick(4), pick(3), pick(3)];
      const expected: (string | number)[][] = [];
      const isNested = pick(2) === 1;
      const { sheet, made } = await fill({ lines: data }, (page) => {
        for (let row = 0; row < above; row++) page.addRow([`above ${row}`, row]);
        if (isNested) page.addRow(["{{repeat line by district}}"]);
        const first = page.rowCount + 1;
        page.addRow(["{{ line.unit }}", "{{ line.fee }}", { formula: `B${first}*2` }]);
        for (let row = 0; row < between; row++) page.addRow([`between ${row}`]);
        if (isNested) page.addRow(["sub", { formula: `SUBTOTAL(9,B${first}:B${first})` }]);
        if (isNested) page.addRow(["{{end}}"]);
        for (let row = 0; row < below; row++) page.addRow([`below ${row}`]);
        page.addRow(["all", { formula: `SUBTOTAL(9,B${first}:B${first + between + (isNested ? 1 : 0)})` }]);
        page.addRow(["top", above > 0 ? { formula: `SUM(B1:B${above})` } : 0]);
      });
      for (let row = 0; row < above; row++) expected.push([`above ${row}`, row]);
      const groups = isNested ? [...new Set(data.map((line) => line.district))] : [""];
      for (const group of groups) {
        const own = data.filter((line) => !isNested || line.district === group);
        for (const line of own) expected.push([line.unit, line.fee, line.fee * 2]);
        for (let row = 0; row < between; row++) expected.push([`between ${row}`]);
        if (isNested) expected.push(["sub", own.reduce((sum, line) => sum + line.fee, 0)]);
      }
      for (let row = 0; row < below; row++) expected.push([`below ${row}`]);
      expected.push(["all", data.reduce((sum, line) => sum + line.fee, 0)]);
      expected.push(["top", above > 0 ? (above * (above - 1)) / 2 : 0]);
      const found: (string | number)[][] = [];
      sheet.eachRow((row) => {
        if (row.hidden) return;
        const cells = [1, 2, 3].map((column) => valueAt(sheet, row.getCell(column).address));
        found.push(cells.filter((cell) => cell !== null) as (string | number)[]);
      });
      expect(found.filter((row) => row.length > 0)).toEqual(expected);
      expect(recalculateWorkbook(made, "made.xlsx", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
    });
  });
});
