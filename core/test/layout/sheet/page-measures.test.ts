/** Pages of files whose makers write lengths, numbers and headers in ways of their own. */
import { openDocument } from "@corbix/core/document";
import { layDocument, layWorkbook } from "@corbix/core/layout";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { writePdf } from "@corbix/core/pdf";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { Document, Packer, Paragraph, Table, TableCell, TableRow } from "docx";
import { describe, expect, it } from "vitest";
import { makeElsewhere, makeWorkbook, readPdf } from "../../support/helpers.js";

const facts = { file: "fees.xlsx", date: "2026-11-02", time: "09:15" };
const laidSheet = (bytes: Uint8Array) => layWorkbook(openWorkbook(bytes, "t.xlsx"), openFonts(), facts);
const textOf = (laid: ReturnType<typeof laidSheet>) => readPdf(writePdf(laid.pages, { title: "t" }), "pdftotext");

describe("numbers of the general format", () => {
  it.each([
    [123.456789, 6, /^\s*123\.\d{1,3}\s*$/],
    [0.333333333, 5, /^\s*0\.3+\s*$/],
    [1234567.891, 8, /^\s*1234568\s*$|^\s*1234567\.9\s*$/],
    [123456789012, 8, /^\s*1\.\d+E\+11\s*$/],
    [-9876543210, 7, /^\s*-(?:1|9\.\d*)E\+(?:09|10)\s*$/],
    [0.0000123456, 8, /^\s*1\.\d+E-05\s*$/],
  ])("%d in a column of width %d is rounded, never hidden", async (value, width, expected) => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.getColumn(1).width = width;
      sheet.addRow([value]);
    });
    const text = textOf(laidSheet(bytes)).trimEnd();
    expect(text).toMatch(expected);
    expect(text).not.toContain("#");
    // What is shown is the number, as near as its digits tell.
    const shown = Number(text.trim());
    expect(Math.abs(shown - value)).toBeLessThanOrEqual(Math.abs(value) * 0.05);
  });

  it("with a format of its own a number is not changed: what does not fit is hidden", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.getColumn(1).width = 5;
      sheet.addRow([1234567.89]);
      sheet.getCell("A1").numFmt = "#,##0.00";
    });
    expect(textOf(laidSheet(bytes))).toMatch(/##/);
  });
});

describe("headers and footers", () => {
  it("show the day, the time and the file's name", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["x"]);
      sheet.headerFooter.oddHeader = "&L&F&C&A&R&D &T";
    });
    expect(textOf(laidSheet(bytes))).toMatch(/fees\.xlsx\s+Sheet one\s+2026-11-02 09:15/);
  });
});

describe("lengths with units", () => {
  it("are read in a document: paper, margins, indents, sizes, widths; pages come out as without", async () => {
    const cell = (text: string) => new TableCell({ children: [new Paragraph(text)] });
    const bytes = new Uint8Array(
      await Packer.toBuffer(
        new Document({
          sections: [
            {
              properties: { page: { size: { width: 11900, height: 16840 }, margin: { left: 1440, top: 1440 } } },
              children: [
                new Paragraph({ text: "indented", indent: { left: 720 }, spacing: { before: 240, line: 360 } }),
                new Table({ columnWidths: [2880, 2880], rows: [new TableRow({ children: [cell("a"), cell("b")] })] }),
              ],
            },
          ],
        }),
      ),
    );
    const opened = OoxmlPackage.open(bytes, "t.docx");
    const main = "word/document.xml";
    const twips = /( w:(?:w|h|left|top|right|bottom|header|footer|before|line|gutter)=")(\d+)(")/g;
    const withUnits = opened.getText(main).replace(twips, (_, start: string, value: string, end: string) => {
      const points = Number(value) / 20;
      return `${start}${Number(value) % 3 === 0 ? `${((points / 72) * 2.54).toFixed(6)}cm` : `${points}pt`}${end}`;
    });
    expect(withUnits).toContain('w:w="595pt"');
    const pages = (source: Uint8Array) => layDocument(openDocument(source, "t.docx"), openFonts()).pages;
    const [plain] = pages(bytes);
    const [other] = pages(opened.with(new Map([[main, withUnits]])).toBytes());
    expect([other.widthPt, other.heightPt]).toEqual([595, 842]);
    const places = (page: typeof plain) =>
      JSON.stringify(page.items, (key, value) =>
        typeof value === "number" ? Number(value.toFixed(2)) : key === "shaped" ? undefined : value,
      );
    expect(places(other)).toBe(places(plain));
    expect(places(other)).not.toContain("null");
  });
});

describe("what only later programs draw", () => {
  it("a slicer's stand-in, which says that the program is too old, is not printed but told", async () => {
    const plain = makeElsewhere(
      "sheet.append(['a'])\nfrom openpyxl.chart import BarChart, Reference\nchart = BarChart()\nchart.add_data(Reference(sheet, min_col=1, min_row=1, max_row=1))\nsheet.add_chart(chart, 'C3')",
    );
    const opened = OoxmlPackage.open(plain);
    const part = "xl/drawings/drawing1.xml";
    const xdr = "http://schemas.openxmlformats.org/drawingml/2006/spreadsheetDrawing";
    const a = "http://schemas.openxmlformats.org/drawingml/2006/main";
    const point = (row: number) =>
      `<xdr:col>1</xdr:col><xdr:colOff>0</xdr:colOff><xdr:row>${row}</xdr:row><xdr:rowOff>0</xdr:rowOff>`;
    const drawing = `<xdr:wsDr xmlns:xdr="${xdr}" xmlns:a="${a}"><xdr:twoCellAnchor><xdr:from>${point(1)}</xdr:from><xdr:to>${point(9)}</xdr:to><mc:AlternateContent xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006"><mc:Choice xmlns:a14="http://schemas.microsoft.com/office/drawing/2010/main" Requires="a14"><xdr:graphicFrame macro=""><xdr:nvGraphicFramePr><xdr:cNvPr id="2" name="District"/><xdr:cNvGraphicFramePr/></xdr:nvGraphicFramePr><xdr:xfrm/><a:graphic><a:graphicData uri="http://schemas.microsoft.com/office/drawing/2010/slicer"><sle:slicer xmlns:sle="http://schemas.microsoft.com/office/drawing/2010/slicer" name="District"/></a:graphicData></a:graphic></xdr:graphicFrame></mc:Choice><mc:Fallback><xdr:sp macro="" textlink=""><xdr:nvSpPr><xdr:cNvPr id="0" name=""/><xdr:cNvSpPr/></xdr:nvSpPr><xdr:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="1828800" cy="2381250"/></a:xfrm><a:prstGeom prst="rect"/></xdr:spPr><xdr:txBody><a:bodyPr/><a:p><a:r><a:t>This shape represents a slicer.</a:t></a:r></a:p></xdr:txBody></xdr:sp></mc:Fallback></mc:AlternateContent><xdr:clientData/></xdr:twoCellAnchor></xdr:wsDr>`;
    const laid = laidSheet(opened.with(new Map([[part, drawing]])).toBytes());
    expect(textOf(laid)).not.toContain("slicer");
    expect(laid.findings.map((one) => one.what).join()).toContain('"District" (a slicer)');
  });
});
