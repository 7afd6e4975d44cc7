import { layWorkbook } from "@corbix/core/layout";
import { OoxmlPackage } from "@corbix/core/ooxml";
import type { FillItem, PageItem, TextItem } from "@corbix/core/page";
import { writePdf } from "@corbix/core/pdf";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { makeElsewhere, readPdf } from "../../support/helpers.js";

function lay(code: string) {
  const bytes = makeElsewhere(
    `from openpyxl.formatting.rule import *\nfrom openpyxl.worksheet.table import Table, TableStyleInfo\n${code}`,
  );
  const laid = layWorkbook(openWorkbook(bytes, "t.xlsx"), openFonts(), { file: "", date: "2026-11-02", time: "" });
  const items = laid.pages.flatMap((page) => page.items);
  return { ...laid, items };
}

const textOf = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");
const find = (items: readonly PageItem[], text: string): TextItem | undefined =>
  items.find((item): item is TextItem => item.kind === "text" && textOf(item) === text);

/** The ground that was painted last behind a text. */
function groundOf(items: readonly PageItem[], text: string): string | undefined {
  const at = find(items, text);
  if (!at) return undefined;
  return items
    .filter((item): item is FillItem => item.kind === "fill")
    .filter(
      (fill) => at.x >= fill.x && at.x <= fill.x + fill.width && at.y >= fill.y && at.y - 2 <= fill.y + fill.height,
    )
    .at(-1)?.color;
}

describe("rules", () => {
  it("paint what they find: limits, formulas relative to each row, extremes, doubles, words", () => {
    const { items, findings } = lay(`
for row in [[1, "open", 5], [2, "done", 6], [3, "open", 5], [30, "late", 8]]: sheet.append(row)
red = PatternFill(bgColor="FF0000"); green = PatternFill(bgColor="00FF00"); blue = PatternFill(bgColor="0000FF")
sheet.conditional_formatting.add("A1:A4", CellIsRule(operator="between", formula=["2", "1+2"], fill=red))
sheet.conditional_formatting.add("A1:A4", Rule(type="top10", rank=1, dxf=differential.DifferentialStyle(fill=green)))
sheet.conditional_formatting.add("B1:B4", FormulaRule(formula=['AND($A1>1,B1="open")'], fill=blue, font=Font(bold=True, color="FFFFFF")))
sheet.conditional_formatting.add("C1:C4", Rule(type="duplicateValues", dxf=differential.DifferentialStyle(fill=red)))`);
    expect(["1", "2", "3", "30"].map((text) => groundOf(items, text))).toEqual([
      undefined,
      "FF0000",
      "FF0000",
      "00FF00",
    ]);
    const open = items.filter((item): item is TextItem => item.kind === "text" && textOf(item) === "open");
    expect(open.map((item) => item.color)).toEqual(["000000", "FFFFFF"]);
    expect(["6", "8"].map((text) => groundOf(items, text))).toEqual([undefined, undefined]);
    expect(groundOf(items, "5")).toBe("FF0000");
    expect(findings).toEqual([]);
  });

  it("keep to their order, and stop where they say so", () => {
    const { items } = lay(`
sheet.append([7])
sheet.conditional_formatting.add("A1", CellIsRule(operator="greaterThan", formula=["5"], fill=PatternFill(bgColor="FF0000"), stopIfTrue=True))
sheet.conditional_formatting.add("A1", CellIsRule(operator="greaterThan", formula=["1"], fill=PatternFill(bgColor="00FF00"), font=Font(bold=True, color="0000FF")))`);
    expect([groundOf(items, "7"), find(items, "7")?.color]).toEqual(["FF0000", "000000"]);
  });

  it("draw scales, bars and icons by where a value stands among the others", () => {
    const { items } = lay(`
for row in [[0, 1, 1], [5, 2, 50], [10, 4, 99]]: sheet.append(row)
sheet.conditional_formatting.add("A1:A3", ColorScaleRule("min", None, "FF0000", None, None, None, "max", None, "0000FF"))
sheet.conditional_formatting.add("B1:B3", DataBarRule("num", 0, "max", None, color="638EC6", showValue=False))
sheet.conditional_formatting.add("C1:C3", IconSetRule("3TrafficLights1", "percent", [0, 33, 67]))`);
    expect(["0", "5", "10"].map((text) => groundOf(items, text))).toEqual(["FF0000", "800080", "0000FF"]);
    const bars = items.filter((item) => item.kind === "shade");
    expect(bars).toHaveLength(3);
    expect(bars[2].width / bars[1].width).toBeGreaterThan(1.6);
    expect(find(items, "4")).toBeUndefined();
    const lights = items.flatMap((item) => (item.kind === "path" && item.fill ? [item.fill] : []));
    expect(new Set(lights).size).toBe(3);
  });
});

describe("small charts in cells", () => {
  it("draws lines and columns from their ranges", () => {
    const plain = OoxmlPackage.open(
      makeElsewhere('for row in [[1, 2, 4], [3, -1, 2]]: sheet.append(row)\nsheet["E2"] = "end"'),
    );
    const part = "xl/worksheets/sheet1.xml";
    const group = (type: string, row: number): string =>
      `<x14:sparklineGroup type="${type}" negative="1"><x14:colorSeries rgb="FF123456"/><x14:colorNegative rgb="FFFF0000"/><x14:sparklines><x14:sparkline><xm:f>Sheet!A${row}:C${row}</xm:f><xm:sqref>D${row}</xm:sqref></x14:sparkline></x14:sparklines></x14:sparklineGroup>`;
    const list = `<extLst><ext xmlns:x14="http://schemas.microsoft.com/office/spreadsheetml/2009/9/main" uri="{05C60535-1F16-4fd2-B633-F4F36F0B64E0}"><x14:sparklineGroups xmlns:xm="http://schemas.microsoft.com/office/excel/2006/main">${group("line", 1)}${group("column", 2)}</x14:sparklineGroups></ext></extLst>`;
    const bytes = plain
      .with(new Map([[part, plain.getText(part).replace("</worksheet>", `${list}</worksheet>`)]]))
      .toBytes();
    const laid = layWorkbook(openWorkbook(bytes, "t.xlsx"), openFonts(), { file: "", date: "2026-11-02", time: "" });
    const items = laid.pages.flatMap((page) => page.items);
    const line = items.find((item) => item.kind === "path" && item.stroke?.color === "123456");
    expect(line?.kind === "path" && line.commands.map(([kind]) => kind)).toEqual(["M", "L", "L"]);
    const columns = items.filter((item): item is FillItem => item.kind === "fill");
    expect(columns.map((column) => column.color)).toEqual(["123456", "FF0000", "123456"]);
    expect(columns[0].height / columns[2].height).toBeCloseTo(1.5, 2);
    expect(laid.findings).toEqual([]);
  });
});

describe("looks of cells", () => {
  it("bands a table by its style, under what a cell itself says", () => {
    const { items } = lay(`
for row in [["Unit", "Fee"], ["L1", 1], ["L2", 2], ["L3", 3]]: sheet.append(row)
table = Table(displayName="T", ref="A1:B4"); table.tableStyleInfo = TableStyleInfo(name="TableStyleMedium2", showRowStripes=True); sheet.add_table(table)
sheet["A3"].fill = PatternFill("solid", fgColor="FFFF00")`);
    expect(groundOf(items, "Unit")).toBe("4F81BD");
    expect(find(items, "Unit")?.color).toBe("FFFFFF");
    expect([groundOf(items, "L1"), groundOf(items, "L2"), groundOf(items, "L3")]).toEqual([
      "DCE6F2",
      "FFFF00",
      "DCE6F2",
    ]);
  });

  it("turns text upwards, downwards and aslant, in rows high enough for it", () => {
    const { items } = lay(`
for column, turn in enumerate([90, 180, 45]):
    cell = sheet.cell(1, column + 1, "a turned heading"); cell.alignment = Alignment(textRotation=turn)
sheet["A2"] = "below"`);
    const turned = items.filter(
      (item): item is TextItem => item.kind === "text" && textOf(item) === "a turned heading",
    );
    expect(turned.map((item) => item.rotation)).toEqual([90, -90, 45]);
    expect((find(items, "below")?.y ?? 0) - (turned[0].y - 80)).toBeGreaterThan(60);
  });

  it("shows patterns, gradients, lines across cells, and what does not fit as signs", () => {
    const { items } = lay(`
sheet["A1"].fill = PatternFill("darkUp", fgColor="FF0000"); sheet["A1"] = "a"
sheet["B1"].fill = GradientFill(type="linear", degree=90, stop=("FF0000", "00FF00")); sheet["B1"] = "b"
sheet["C1"].border = Border(diagonal=Side("thin", color="0000FF"), diagonalUp=True); sheet["C1"] = "c"
sheet["D1"] = 123456789012; sheet["D1"].number_format = "0.00"
sheet["E1"].fill = PatternFill("gray125"); sheet["E1"] = "e"`);
    expect(items.some((item) => item.kind === "path" && item.stroke?.color === "FF0000" && item.clip)).toBe(true);
    expect(items.find((item) => item.kind === "shade")).toMatchObject({ angle: 90 });
    expect(
      items.some(
        (item) => item.kind === "line" && item.color === "0000FF" && item.x1 !== item.x2 && item.y1 !== item.y2,
      ),
    ).toBe(true);
    expect(items.some((item) => item.kind === "text" && /^#+$/.test(textOf(item)))).toBe(true);
    expect(groundOf(items, "e")).toBe("DFDFDF");
  });

  it("lets a text run over beyond the last column, but makes no page for it", () => {
    const long = "a sentence that is longer than its cell ";
    const { items, pages } = lay(`sheet["A1"] = "${long}"; sheet["A2"] = "${long.repeat(9)}"`);
    expect(pages).toHaveLength(1);
    const [short] = items.filter((item): item is TextItem => item.kind === "text");
    expect(short.clip).toBeUndefined();
  });

  it("prints row numbers and column letters, and headers of their own for first and even pages", () => {
    const { pages } = lay(`
for row in range(120): sheet.append([f"row {row}"])
sheet.print_options.headings = True
sheet.HeaderFooter.differentFirst = True; sheet.HeaderFooter.differentOddEven = True
sheet.firstHeader.center.text = "First"; sheet.evenHeader.center.text = "Even &P"; sheet.oddHeader.center.text = "Odd &P"`);
    const texts = pages.map((page) => page.items.flatMap((item) => (item.kind === "text" ? [textOf(item)] : [])));
    expect(pages.length).toBe(3);
    expect(texts.map((page) => page.find((text) => /First|Even|Odd/.test(text)))).toEqual(["First", "Even 2", "Odd 3"]);
    expect(texts[0]).toEqual(expect.arrayContaining(["A", "1", "row 0"]));
    expect(readPdf(writePdf(pages, { title: "t" }), "qpdf")).toContain("No syntax or stream encoding errors");
  });
});

describe("texts that wrap", () => {
  it("get a row as high as they are drawn, indented or not, whatever the column is wide", () => {
    const widths = Array.from({ length: 25 }, (_, at) => 8 + at * 0.25);
    for (const indent of [0, 1, 3]) {
      const { items } = lay(`
from openpyxl.styles import Alignment
from openpyxl.utils import get_column_letter
for at, width in enumerate(${JSON.stringify(widths)}, start=1):
    sheet.cell(row=2 * at - 1, column=1, value="row %d" % at)
    cell = sheet.cell(row=2 * at - 1, column=1 + at, value="no message today")
    cell.alignment = Alignment(wrap_text=True, indent=${indent}, horizontal="left", vertical="top")
    sheet.column_dimensions[get_column_letter(1 + at)].width = width
sheet.page_setup.fitToHeight = 0
sheet.sheet_properties.pageSetUpPr = __import__("openpyxl").worksheet.properties.PageSetupProperties(fitToPage=True)`);
      const texts = items.filter((item): item is TextItem => item.kind === "text" && !textOf(item).startsWith("row"));
      // Nothing is cut off at the edge of its row.
      expect(texts.filter((item) => item.clip !== undefined).map(textOf)).toEqual([]);
      const drawn = texts.map(textOf).join("").replaceAll(" ", "");
      expect(drawn).toBe("nomessagetoday".repeat(widths.length));
    }
  });
});
