import { OoxmlPackage } from "@corbix/core/ooxml";
import { parseReport } from "@corbix/core/report";
import { planRun, Seal } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { valuesOnly, withStoredValues } from "@corbix/core/workbook";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { readElsewhere } from "../../support/helpers.js";

/** A statement that looks its rows up in a sheet with everybody's rows. */
async function statement(): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const data = book.addWorksheet("All rows", { state: "hidden" });
  data.addRows([
    ["Dock", 3],
    ["Quay", 4],
  ]);
  data.getCell("A1").note = "Quay owes more";
  const sheet = book.addWorksheet("Statement & more");
  sheet.addRow(["Site", "{{ site }}"]);
  sheet.addRow(["Fee", { formula: "SUMIF('All rows'!A1:A2,B1,'All rows'!B1:B2)", result: 0 }]);
  sheet.addRow(["Text", { formula: 'B1&" owes"', result: "x" }]);
  sheet.addRow(["Seen", { formula: "B2>1", result: false }]);
  book.definedNames.add("'All rows'!$A$1:$B$2", "everybody");
  book.definedNames.add("'Statement & more'!$B$2", "fee");
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const { table } = loadTable(Buffer.from("Site,Fee\nDock,1\nQuay,2\n"), "t.csv");
const report = (rest: string) =>
  parseReport(
    `report: a\ntitle: A\ndata: t\nsplit: site\nsealed: true\nfiles:\n  rows: { name: '{{ site }}', template: s.xlsx, ${rest} }\n`,
    "r",
  );
const facts = { id: "x", date: 46_328, sender: "a@b.example", locale: "en-GB" };

async function made(rest: string) {
  const templates = new Map([["s.xlsx", await statement()]]);
  const { maker } = planRun({ report: report(rest), table, others: new Map(), recipients: [], templates, facts });
  const env = { table, lines: [0], row: -1, spaces: {}, locale: "en-GB", today: 46_328 };
  return maker.make(env, ["rows"], undefined as never, facts, {
    seal: { seal: new Seal(["Dock", "Quay"]), own: "Dock" },
  });
}

describe("values only", () => {
  it("calculates what a template holds without values, though it has no mark", async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet("Fees");
    sheet.addRows([[1], [2]]);
    sheet.getCell("A3").value = { formula: "SUM(A1:A2)" } as ExcelJS.CellFormulaValue;
    sheet.getCell("A4").value = { formula: 'IF(A3=3,"","x")' } as ExcelJS.CellFormulaValue;
    const templates = new Map([["s.xlsx", new Uint8Array(await book.xlsx.writeBuffer())]]);
    const { maker } = planRun({
      report: report("values: true"),
      table,
      others: new Map(),
      recipients: [],
      templates,
      facts,
    });
    const env = { table, lines: [0], row: -1, spaces: {}, locale: "en-GB", today: 46_328 };
    const { files, findings } = maker.make(env, ["rows"], undefined as never, facts);
    expect(findings).toEqual([]);
    expect(readElsewhere(files[0].bytes, "print(book.active['A3'].value)")).toBe("3");
    // Again there is nothing left to calculate.
    const opened = OoxmlPackage.open(files[0].bytes);
    expect(withStoredValues(opened, 46_328).package).toBe(opened);
  });

  it("turns formulas into what they were calculated to, of every kind", async () => {
    const { files } = await made("values: true");
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(files[0].bytes as unknown as ArrayBuffer);
    const sheet = book.getWorksheet("Statement & more");
    expect(["B1", "B2", "B3", "B4"].map((cell) => sheet?.getCell(cell).value)).toEqual(["Dock", 3, "Dock owes", true]);
    const opened = OoxmlPackage.open(files[0].bytes);
    expect(
      opened.names.filter((name) => /sheet\d\.xml$/.test(name)).map((name) => /<f[\s>]/.test(opened.getText(name))),
    ).toEqual([false, false]);
  });

  it("takes other sheets out whole: cells, comments, names, texts; the seal finds nothing then", async () => {
    const all = await made("values: true");
    expect(all.findings.filter((one) => one.code === "other-group-inside").length).toBeGreaterThan(0);
    const { files, findings } = await made("values: true, sheets: ['Statement & more']");
    expect(findings.filter((one) => one.severity === "stop")).toEqual([]);
    const opened = OoxmlPackage.open(files[0].bytes);
    for (const name of opened.names) expect(opened.getText(name)).not.toContain("Quay");
    const named = new Set(
      [...opened.getText("[Content_Types].xml").matchAll(/PartName="\/([^"]+)"/g)].map((match) => match[1]),
    );
    for (const part of named) expect(opened.has(part)).toBe(true);
    for (const part of ["", ...opened.names])
      for (const relation of opened.relationships(part))
        expect(relation.external || opened.has(relation.target)).toBe(true);
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(files[0].bytes as unknown as ArrayBuffer);
    expect(book.worksheets.map((sheet) => sheet.name)).toEqual(["Statement & more"]);
    expect(book.worksheets[0].getCell("B2").value).toBe(3);
    expect(opened.getText("xl/workbook.xml")).toMatch(/>(&apos;|')Statement &amp; more(&apos;|')!\$B\$2</);
    expect(opened.getText("xl/workbook.xml")).not.toContain("everybody");
  });

  it("names a sheet that is not there, and refuses sheets without values", async () => {
    await expect(made("values: true, sheets: [Statment]")).rejects.toThrow("Cannot keep the sheet `Statment`");
    expect(() => report("sheets: [Statement]")).toThrow("with values: true only");
    const opened = OoxmlPackage.open(await statement());
    expect(() => valuesOnly(opened, ["all  rows"])).not.toThrow();
  });
});
