import { CorbixError } from "@corbix/core/common";
import { OoxmlPackage, readZip } from "@corbix/core/ooxml";
import { WorkbookTemplate } from "@corbix/core/workbook";
import { describe, expect, it } from "vitest";
import { demo, formula, makeWorkbook, openElsewhere, record, shown } from "../support/helpers.js";

const lines = [
  { day: "2026-10-01", unit: "L01", hours: 1.5, rate: 98.5, open: true },
  { day: "2026-10-05", unit: "L02 & <E>", hours: 2, rate: 92, open: false },
  { day: "2026-10-09", unit: "L03", hours: 0.25, rate: 110.1, open: true },
];

async function fill(bytes: Uint8Array, value: Record<string, unknown>) {
  const { scope, env } = record(value);
  const filled = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env);
  const out = filled.package.toBytes();
  return { out, findings: filled.findings, book: await openElsewhere(out) };
}

describe("filling a workbook", () => {
  it("leaves every part as it is where there are no marks", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      sheet.addRow(["a", 1, "b"]);
      sheet.mergeCells("A2:B2");
      book.addWorksheet("Second").addRow(["x"]);
    });
    const before = readZip(bytes).filter((entry) => !entry.name.endsWith("/"));
    const after = readZip((await fill(bytes, {})).out);
    expect(after.map((entry) => [entry.name, entry.crc])).toEqual(before.map((entry) => [entry.name, entry.crc]));
  });

  it("never changes the template, and gives the same bytes for the same values", async () => {
    const bytes = demo("templates/statement.xlsx");
    const copy = bytes.slice();
    const { scope, env } = record({
      site: "Dock",
      street: "1",
      town: "X",
      group: { number: 3 },
      period: { key: "2026-10", label: "October 2026" },
      run: { date: "2026-11-02" },
      lines: demoLines(5),
    });
    const bound = WorkbookTemplate.read(bytes, "statement.xlsx").bind(scope);
    const first = bound.fill(env).package.toBytes();
    expect(Buffer.compare(first, bound.fill(env).package.toBytes())).toBe(0);
    expect(Buffer.compare(bytes, copy)).toBe(0);
  });

  it("keeps the kind of a lone mark, turns mixed text into text, and shows formats", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow([
        "{{ name }}",
        "{{ fee }}",
        "{{ day }}",
        "{{ yes }}",
        "{{ none }}",
        'Fee {{ fee as "#,##0.00" }} for {{ name }}',
        '{{ fee as "0.0" }}',
      ]);
      sheet.getCell("A2").value = {
        richText: [
          { text: "Dear " },
          { font: { bold: true }, text: "{{ na" },
          { font: { italic: true }, text: "me }}" },
          { text: "!" },
        ],
      };
    });
    const { book } = await fill(bytes, { name: "A & <B>", fee: 1234.5, day: "2026-10-05", yes: true, none: null });
    const sheet = book.worksheets[0];
    expect(shown(sheet, "A1")).toBe("A & <B>");
    expect(shown(sheet, "B1")).toBe(1234.5);
    expect(shown(sheet, "C1")).toEqual(new Date(Date.UTC(2026, 9, 5)));
    expect(shown(sheet, "D1")).toBe(true);
    expect(shown(sheet, "E1")).toBeNull();
    expect(shown(sheet, "F1")).toBe("Fee 1,234.50 for A & <B>");
    expect(sheet.getCell("G1").numFmt).toBe("0.0");
    expect(shown(sheet, "A2")).toBe("Dear A & <B>!");
  });

  it("repeats rows and moves all that stands below: formulas, merged cells, names, print area, breaks", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      sheet.addRow(["Day", "Unit", "Hours", "Rate", "Fee", "So far"]);
      sheet.addRow([
        "{{ line.day }}",
        "{{ line.unit }}",
        "{{ line.hours }}",
        "{{ line.rate }}",
        { formula: "ROUND(C2*D2,2)" },
        { formula: "SUM(E$2:E2)" },
      ]);
      sheet.addRow([
        "Total",
        null,
        { formula: "SUM(C2:C2)" },
        { formula: "AVERAGE(D1:D2)" },
        { formula: "SUM(E2:E2)" },
      ]);
      sheet.addRow(["below", null, null, null, { formula: "E3*$C$6" }]);
      sheet.mergeCells("A5:C5");
      sheet.getCell("C6").value = 0.5;
      sheet.getRow(4).addPageBreak();
      sheet.pageSetup.printArea = "A1:E6";
      const other = book.addWorksheet("Other");
      other.getCell("A1").value = { formula: "'Sheet one'!E3+COUNT('Sheet one'!C:C)", result: 0 };
      book.definedNames.add("'Sheet one'!$E$3", "grand");
      other.getCell("A2").value = { formula: "grand*2", result: 0 };
    });
    const { book } = await fill(bytes, { lines });
    const [sheet, other] = book.worksheets;
    expect([2, 3, 4].map((row) => shown(sheet, `B${row}`))).toEqual(["L01", "L02 & <E>", "L03"]);
    expect([2, 3, 4].map((row) => shown(sheet, `E${row}`))).toEqual([147.75, 184, 27.53]);
    expect([2, 3, 4].map((row) => formula(sheet, `F${row}`))).toEqual(["SUM(E$2:E2)", "SUM(E$2:E3)", "SUM(E$2:E4)"]);
    expect(shown(sheet, "F4")).toBe(359.28);
    expect(formula(sheet, "E5")).toBe("SUM(E2:E4)");
    expect(shown(sheet, "E5")).toBe(359.28);
    expect(formula(sheet, "D5")).toBe("AVERAGE(D1:D4)");
    expect(formula(sheet, "E6")).toBe("E5*$C$8");
    expect(shown(sheet, "E6")).toBe(179.64);
    expect(sheet.getCell("A7").isMerged && sheet.getCell("C7").isMerged).toBe(true);
    expect(sheet.pageSetup.printArea).toBe("A1:E8");
    expect(formula(other, "A1")).toBe("'Sheet one'!E5+COUNT('Sheet one'!C:C)");
    expect(shown(other, "A1")).toBe(359.28 + 5);
    expect(shown(other, "A2")).toBe(718.56);
  });

  it("leaves a clean sheet and sums of nought where there are no lines", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["{{ line.unit }}", "{{ line.hours }}", { formula: "B1*2" }]);
      sheet.addRow(["Total", { formula: "SUM(B1:B1)" }, { formula: "SUM(C1:C1)" }]);
    });
    const { scope } = record({ lines });
    const { env } = record({ lines: [] });
    const out = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env).package.toBytes();
    const sheet = (await openElsewhere(out)).worksheets[0];
    expect(sheet.getRow(1).hidden).toBe(true);
    expect(shown(sheet, "A1")).toBeNull();
    const xml = OoxmlPackage.open(out).getText("xl/worksheets/sheet1.xml");
    expect(xml).toContain("<f>SUM(B1:B1)</f><v>0</v>");
    expect(xml).toContain("<f>SUM(C1:C1)</f><v>0</v>");
  });

  it("fills headers and footers, also where they alone hold marks, with signs that mean something there doubled", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["nothing"]);
      sheet.headerFooter.oddFooter = "&L{{ site }}&RPage &P";
    });
    const { book } = await fill(bytes, { site: "Dock & Quay" });
    expect(book.worksheets[0].headerFooter.oddFooter).toBe("&LDock && Quay&RPage &P");
  });

  it("renames a sheet by a mark, within what names may be, and keeps what refers to it", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      sheet.addRow([5]);
      const marked = book.addWorksheet("S1");
      marked.getCell("A1").value = { formula: "'Sheet one'!A1+1", result: 0 };
    });
    const marked = OoxmlPackage.open(bytes)
      .with(
        new Map([
          [
            "xl/workbook.xml",
            OoxmlPackage.open(bytes).getText("xl/workbook.xml").replace('name="Sheet one"', 'name="{{ site }}"'),
          ],
        ]),
      )
      .toBytes();
    const { book } = await fill(marked, { site: "Dock [1]: a very long name that cannot stay" });
    expect(book.worksheets[0].name).toBe("Dock  1   a very long name that");
  });

  it("names a formula it cannot calculate, keeps its value, and asks for recalculation on opening", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["{{ n }}", { formula: 'GETPIVOTDATA("Fee",A1)', result: 7 }, { formula: "A1*2", result: 0 }]);
    });
    const { out, findings, book } = await fill(bytes, { n: 4 });
    expect(findings[0].where).toContain("cell B1");
    expect(findings[0].what).toContain("the function GETPIVOTDATA");
    expect(shown(book.worksheets[0], "B1")).toBe(7);
    expect(shown(book.worksheets[0], "C1")).toBe(8);
    expect(OoxmlPackage.open(out).getText("xl/workbook.xml")).toContain('fullCalcOnLoad="1"');
  });

  it("finds a circle and ends a chain of thousands", async () => {
    const circle = await makeWorkbook((_, sheet) =>
      sheet.addRow([{ formula: "B1+1", result: 0 }, { formula: "A1+1", result: 0 }, "{{ n }}"]),
    );
    expect((await fill(circle, { n: 1 })).findings.map((finding) => finding.code)).toContain("circular");
    const chain = await makeWorkbook((_, sheet) => {
      sheet.getCell("B1").value = "{{ n }}";
      for (let row = 1; row <= 3000; row++)
        sheet.getCell(`A${row}`).value = { formula: row === 3000 ? "B1" : `A${row + 1}+1`, result: 0 };
    });
    expect(shown((await fill(chain, { n: 1 })).book.worksheets[0], "A1")).toBe(3000);
  });

  it.each([
    ["{{ nosuch }}", "cell A1"],
    ["{{ name", "is not closed"],
    ["{{ when name }}", "Cannot find the end"],
    ["{{ end }}", "Cannot find what `{{end}}` belongs to"],
    ["{{ repeat sites }} {{ end }}", "there are no lines called `sites`"],
    ["{{ repeat sites. }}", "Cannot use"],
  ])("refuses the mark %s with its cell", async (mark, words) => {
    const bytes = await makeWorkbook((_, sheet) => sheet.addRow([mark]));
    const error = await fill(bytes, { name: "x" }).then(
      () => undefined,
      (failure: CorbixError) => failure,
    );
    expect(error).toBeInstanceOf(CorbixError);
    expect(error?.toLine()).toContain(words);
    expect(error?.where).toContain("cell A1");
  });
});

function demoLines(count: number) {
  return Array.from({ length: count }, (_, index) => ({
    visit_date: "2026-10-05",
    unit: `L${index}`,
    kind: "lift",
    inspector: "A. Brandt",
    result: "pass",
    hours: 1,
    rate: 92,
    parts: 0,
  }));
}
