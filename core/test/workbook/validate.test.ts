import { OoxmlPackage } from "@corbix/core/ooxml";
import { cellName, cellValues, workbookFromPackage } from "@corbix/core/spreadsheet";
import { recalculateWorkbook, valuesOnly, WorkbookTemplate } from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { demo, demoRun, makeElsewhere, readAllElsewhere, readElsewhere, record } from "../support/helpers.js";
import { problemsOf } from "../support/validate.js";

/** The demo's run of October: every group's statement, as the service makes it. */
function demoStatements(): { name: string; bytes: Uint8Array }[] {
  const templates = ["statement.xlsx", "notice.docx", "monthly.html"];
  const { plan, maker, envs, facts } = demoRun("site-statement", "2026-10", "month", templates);
  return plan.parcels.map((parcel, at) => {
    const { files } = maker.make(envs[at], ["statement"], openFonts(), facts);
    return { name: parcel.group.key, bytes: files[0].bytes };
  });
}

/** All cells with a value, as the other reader is asked to print them. */
function cellsOf(bytes: Uint8Array): string {
  const workbook = workbookFromPackage(OoxmlPackage.open(bytes));
  return workbook.sheets
    .flatMap(({ name, part }) =>
      [...cellValues(workbook, part)].flatMap(([row, cells]) =>
        [...cells].map(([column, { value }]) =>
          [name, cellName(row, column), typeof value === "number" ? value.toFixed(6) : String(value)].join("|"),
        ),
      ),
    )
    .join("\n");
}

describe("made workbooks keep to the format", () => {
  it("finds what is wrong when something is", () => {
    const opened = OoxmlPackage.open(makeElsewhere('sheet.append(["a", 1]); sheet.merge_cells("A2:B2")'));
    const part = "xl/worksheets/sheet1.xml";
    const broken = (change: (xml: string) => string): string[] =>
      problemsOf(opened.with(new Map([[part, change(opened.getText(part))]])).toBytes());
    expect(broken((xml) => xml)).toEqual([]);
    expect(broken((xml) => xml.replace('r="B1"', 'r="A1"'))).toEqual([expect.stringContaining("not in order")]);
    expect(
      broken((xml) =>
        xml.replace(/<sheetData>.*<\/sheetData>/, "").replace("</worksheet>", "<sheetData/></worksheet>"),
      ),
    ).toEqual(expect.arrayContaining([expect.stringContaining("sheetData stands too late")]));
    expect(broken((xml) => xml.replace('count="1"', 'count="2"'))).toEqual([
      expect.stringContaining("says 2 and holds 1"),
    ]);
    expect(broken((xml) => xml.replace(/<c r="B1"/, '<c s="99" r="B1"'))).toEqual([
      expect.stringContaining("format of B1"),
    ]);
  });

  it("all statements of the demo's run, filled and as values only, with the same cells for another reader", () => {
    const made = demoStatements();
    expect(made.length).toBe(26);
    for (const { bytes } of made) {
      expect(problemsOf(bytes)).toEqual([]);
      expect(recalculateWorkbook(bytes, "made.xlsx", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
    }
    // Another reader sees in every file the cells that our own reader sees.
    const values = [
      "from openpyxl.utils.datetime import to_excel",
      "show = lambda v: f'{v:.6f}' if isinstance(v, (int, float)) else v if isinstance(v, str) else f'{to_excel(v):.6f}'",
      "cells = [(s.title, c.coordinate, show(c.value)) for s in book.worksheets for row in s.iter_rows() for c in row if c.value is not None]",
      "print('\\n'.join('|'.join(cell) for cell in cells))",
    ].join("; ");
    const elsewhere = readAllElsewhere(
      made.map(({ bytes }) => bytes),
      values,
    );
    expect(elsewhere).toEqual(made.map(({ bytes }) => cellsOf(bytes).trim()));
    const [first] = made;
    const plain = valuesOnly(OoxmlPackage.open(first.bytes)).toBytes();
    expect(problemsOf(plain)).toEqual([]);
    const cells =
      "print([(c.coordinate, c.value) for s in book.worksheets for row in s.iter_rows() for c in row if c.value is not None])";
    expect(readElsewhere(plain, cells)).toBe(readElsewhere(first.bytes, cells));
  });

  it("a workbook without marks gives the same parts, byte for byte", () => {
    for (const name of ["templates/statement.xlsx", "visits-2026.xlsx"]) {
      const opened = OoxmlPackage.open(demo(name));
      const parts = new Map<string, string>();
      for (const part of opened.names)
        if (/\.(xml|rels|vml)$/.test(part))
          parts.set(part, opened.getText(part).replaceAll("{{", "[").replaceAll("}}", "]"));
      const plain = opened.with(parts).toBytes();
      const { scope, env } = record({ lines: [{ a: 1 }, { a: 2 }] });
      const filled = WorkbookTemplate.read(plain, name).bind(scope).fill(env).package;
      const before = OoxmlPackage.open(plain);
      expect(filled.names).toEqual(before.names);
      for (const part of before.names)
        expect(Buffer.compare(Buffer.from(filled.getBytes(part)), Buffer.from(before.getBytes(part)))).toBe(0);
      expect(workbookFromPackage(filled).sheets.length).toBeGreaterThan(0);
    }
  });
});
