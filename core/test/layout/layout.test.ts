import { openDocument } from "@corbix/core/document";
import { layDocument, layWorkbook } from "@corbix/core/layout";
import { eachItem, type Page, type TextItem } from "@corbix/core/page";
import { writePdf } from "@corbix/core/pdf";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import {
  AlignmentType,
  BorderStyle,
  Document,
  LevelFormat,
  Packer,
  PageBreak,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TabStopType,
  TextRun,
  VerticalMergeType,
  WidthType,
} from "docx";
import type ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { demo, makeWorkbook, readPdf } from "../support/helpers.js";

const facts = { file: "t.xlsx", date: "2026-11-02", time: "" };
const sheetPages = async (fill: (sheet: ExcelJS.Worksheet, book: ExcelJS.Workbook) => void) =>
  layWorkbook(openWorkbook(await makeWorkbook((book, sheet) => fill(sheet, book)), "t.xlsx"), openFonts(), facts);
const documentPages = async (children: (Paragraph | Table)[], options: object = {}) =>
  layDocument(
    openDocument(
      new Uint8Array(await Packer.toBuffer(new Document({ ...options, sections: [{ children }] }))),
      "t.docx",
    ),
    openFonts(),
  );

const texts = (page: Page): TextItem[] =>
  [...eachItem(page.items)].filter((item): item is TextItem => item.kind === "text");
const words = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");
const find = (page: Page, text: string): TextItem => {
  const found = texts(page).find((item) => words(item).includes(text));
  if (!found) throw new Error(`"${text}" is not on the page: ${texts(page).map(words).join(" | ")}`);
  return found;
};
const right = (item: TextItem): number => item.x + item.shaped.width * item.size;

describe("sheets on paper", () => {
  it("fits the width by scaling, never above life size", async () => {
    const wide = await sheetPages((sheet) => {
      for (let column = 1; column <= 20; column++) sheet.getCell(1, column).value = `column ${column}`;
      sheet.pageSetup = { fitToPage: true, fitToWidth: 1, fitToHeight: 0, paperSize: 9 };
    });
    expect(wide.pages).toHaveLength(1);
    expect(find(wide.pages[0], "column 20").size).toBeLessThan(8);
    const narrow = await sheetPages((sheet) => {
      sheet.addRow(["a"]);
      sheet.pageSetup = { fitToPage: true, fitToWidth: 1, fitToHeight: 1 };
    });
    expect(find(narrow.pages[0], "a").size).toBe(11);
  });

  it("breaks pages by room, by hand, down before across, and keeps to the paper", async () => {
    const { pages } = await sheetPages((sheet) => {
      for (let row = 1; row <= 70; row++) sheet.addRow([`r${row}`, ...Array(9).fill(null), `far${row}`]);
      sheet.getRow(10).addPageBreak();
      sheet.pageSetup.orientation = "landscape";
      sheet.pageSetup.paperSize = 9;
    });
    expect([Math.round(pages[0].widthPt), Math.round(pages[0].heightPt)]).toEqual([842, 595]);
    expect(texts(pages[0]).map(words)).toEqual(
      Array.from({ length: 10 }, (_, index) => [`r${index + 1}`, `far${index + 1}`]).flat(),
    );
    expect(words(texts(pages[1])[0])).toBe("r11");
  });

  it("hides hidden rows, columns and sheets", async () => {
    const { pages } = await sheetPages((sheet, book) => {
      sheet.addRow(["a", "b", "c"]);
      sheet.addRow(["d"]);
      sheet.getColumn(2).hidden = true;
      sheet.getRow(2).hidden = true;
      book.addWorksheet("Secret", { state: "hidden" }).addRow(["nobody sees"]);
    });
    expect(pages.flatMap(texts).map(words)).toEqual(["a", "c"]);
  });

  it("puts text where its alignment says, wraps it, and keeps numbers to the right", async () => {
    const { pages } = await sheetPages((sheet) => {
      sheet.getColumn(1).width = 20;
      sheet.addRow(["left"]);
      sheet.addRow([12.5]);
      sheet.addRow(["middle"]).getCell(1).alignment = { horizontal: "center" };
      sheet.addRow(["several words that need more than one line"]).getCell(1).alignment = { wrapText: true };
    });
    const [page] = pages;
    const edge = find(page, "left").x;
    // The stored width counts digits of seven pixels, its padding included.
    const column = 20 * 7;
    expect(right(find(page, "12.5"))).toBeCloseTo(edge + column * 0.75 - 4, 1);
    expect((find(page, "middle").x + right(find(page, "middle"))) / 2).toBeCloseTo(edge - 2 + (column * 0.75) / 2, 1);
    expect(texts(page).filter((item) => /several|more|line/.test(words(item))).length).toBeGreaterThan(1);
  });

  it("draws a shared edge once, in the heavier line, and merged cells as one", async () => {
    const { pages } = await sheetPages((sheet) => {
      sheet.getCell("A1").value = "x";
      sheet.getCell("A1").border = { bottom: { style: "thick" } };
      sheet.getCell("A2").border = { top: { style: "thin" } };
      sheet.mergeCells("C1:D2");
      sheet.getCell("C1").value = "joined";
      sheet.getCell("C1").alignment = { horizontal: "center", vertical: "middle" };
    });
    const lines = [...eachItem(pages[0].items)].filter((item) => item.kind === "line");
    expect(lines.map((line) => line.kind === "line" && line.width)).toEqual([2.25]);
    expect(find(pages[0], "joined").x).toBeGreaterThan(find(pages[0], "x").x + 95);
  });

  it("reads the codes of headers and footers", async () => {
    const { pages } = await sheetPages((sheet) => {
      sheet.addRow(["x"]);
      sheet.headerFooter.oddHeader = '&L&"Arial,Bold"&14&KFF0000Big && bold&C&A&R&D';
      sheet.headerFooter.oddFooter = "&CPage &P of &N, &F";
    });
    const big = find(pages[0], "Big & bold");
    expect([big.size, big.color]).toEqual([14, "FF0000"]);
    expect(words(find(pages[0], "Sheet one"))).toBe("Sheet one");
    expect(right(find(pages[0], "2026-11-02"))).toBeCloseTo(pages[0].widthPt - 0.7 * 72, 0);
    expect(texts(pages[0]).map(words).join("")).toContain("Page 1 of 1, t.xlsx");
  });

  it("shows colours of number formats and strikes, underlines and raises rich text", async () => {
    const { pages } = await sheetPages((sheet) => {
      sheet.addRow([-5]);
      sheet.getCell("A1").numFmt = "0.00;[Red]-0.00";
      sheet.getCell("A2").value = {
        richText: [
          { text: "m" },
          { font: { vertAlign: "superscript" }, text: "2" },
          { font: { underline: true, bold: true }, text: "line" },
        ],
      };
    });
    expect(find(pages[0], "-5.00").color).toBe("FF0000");
    expect(find(pages[0], "2").size).toBeLessThan(find(pages[0], "m").size);
    expect([...eachItem(pages[0].items)].filter((item) => item.kind === "line")).toHaveLength(1);
  });
});

describe("documents on paper", () => {
  it("aligns, indents and justifies to the margins", async () => {
    const long = "word ".repeat(60).trim();
    const { pages } = await documentPages([
      new Paragraph({ alignment: AlignmentType.RIGHT, text: "to the right" }),
      new Paragraph({ alignment: AlignmentType.CENTER, text: "in the middle" }),
      new Paragraph({ indent: { left: 720, hanging: 360 }, text: long }),
      new Paragraph({ alignment: AlignmentType.JUSTIFIED, text: long }),
    ]);
    const [page] = pages;
    const edge = page.widthPt - 72;
    expect(right(find(page, "to the right"))).toBeCloseTo(edge, 1);
    const middle = find(page, "in the middle");
    expect((middle.x + right(middle)) / 2).toBeCloseTo(page.widthPt / 2, 1);
    const lines = texts(page).slice(2);
    expect([lines[0].x, lines[1].x]).toEqual([72 + 18, 72 + 36]);
    const justified = lines.find((line) => line.wordSpacing !== undefined) as TextItem;
    const blanks = words(justified).trimEnd().split(" ").length - 1;
    const trailing = openFonts().face("Calibri", false, false).shape(" ").width;
    expect(blanks).toBeGreaterThan(5);
    expect(trailing).toBeGreaterThan(0);
    expect(lines.at(-1)?.wordSpacing).toBeUndefined();
  });

  it("sets tabs: right, centre, decimal, with leaders", async () => {
    const { pages } = await documentPages([
      new Paragraph({
        tabStops: [{ type: TabStopType.RIGHT, position: 8000, leader: "dot" }],
        children: [new TextRun("Chapter\t12")],
      }),
      new Paragraph({ tabStops: [{ type: TabStopType.DECIMAL, position: 4000 }], children: [new TextRun("\t123.45")] }),
    ]);
    expect(right(find(pages[0], "12"))).toBeCloseTo(72 + 400, 1);
    expect(find(pages[0], ".....").x).toBeGreaterThan(72);
    expect(find(pages[0], "123.45").x).toBeLessThan(72 + 200);
  });

  it("counts lists on several levels", async () => {
    const level = (format: (typeof LevelFormat)[keyof typeof LevelFormat], text: string, at: number) => ({
      level: at,
      format,
      text,
      alignment: AlignmentType.LEFT,
      style: { paragraph: { indent: { left: 720 * (at + 1), hanging: 360 } } },
    });
    const item = (text: string, at: number) => new Paragraph({ text, numbering: { reference: "list", level: at } });
    const { pages } = await documentPages(
      [item("one", 0), item("one a", 1), item("one b", 1), item("two", 0), item("two a", 1)],
      {
        numbering: {
          config: [
            {
              reference: "list",
              levels: [level(LevelFormat.DECIMAL, "%1.", 0), level(LevelFormat.LOWER_ROMAN, "%1.%2)", 1)],
            },
          ],
        },
      },
    );
    expect(
      texts(pages[0])
        .map(words)
        .filter((text) => /^[\d.ivx]+[.)]$/.test(text)),
    ).toEqual(["1.", "1.i)", "1.ii)", "2.", "2.i)"]);
  });

  it("keeps a heading with what follows, breaks by hand, and leaves no line alone", async () => {
    const filler = Array.from(
      { length: 43 },
      (_, index) => new Paragraph({ text: `line ${index}`, spacing: { line: 320, lineRule: "exact" } }),
    );
    const { pages } = await documentPages([
      ...filler,
      new Paragraph({ text: "Heading", keepNext: true }),
      new Paragraph("first of the chapter"),
      new Paragraph({ children: [new PageBreak(), new TextRun("after the break")] }),
    ]);
    const pageOf = (text: string) => pages.findIndex((page) => texts(page).some((item) => words(item).includes(text)));
    expect(pageOf("Heading")).toBe(pageOf("first of the chapter"));
    expect(pageOf("after the break")).toBe(pageOf("first of the chapter") + 1);
  });

  it("lays tables: widths, merged cells, borders, shading, a heading on each page", async () => {
    const cell = (text: string, extra: object = {}) =>
      new TableCell({ width: { size: 2000, type: WidthType.DXA }, children: [new Paragraph(text)], ...extra });
    const rows = [
      new TableRow({
        tableHeader: true,
        children: [cell("Head", { columnSpan: 2, shading: { fill: "FFEE00" } }), cell("H3")],
      }),
      new TableRow({ children: [cell("tall", { verticalMerge: VerticalMergeType.RESTART }), cell("b1"), cell("c1")] }),
      new TableRow({
        children: [cell("hidden", { verticalMerge: VerticalMergeType.CONTINUE }), cell("b2"), cell("c2")],
      }),
      ...Array.from(
        { length: 80 },
        (_, index) => new TableRow({ children: [cell(`a${index}`), cell("b"), cell("c")] }),
      ),
    ];
    const border = { style: BorderStyle.SINGLE, size: 8, color: "123456" };
    const { pages } = await documentPages([
      new Table({
        rows,
        columnWidths: [2000, 2000, 2000],
        borders: {
          top: border,
          bottom: border,
          left: border,
          right: border,
          insideHorizontal: border,
          insideVertical: border,
        },
      }),
    ]);
    expect(pages.length).toBeGreaterThan(1);
    for (const page of pages) expect(texts(page).map(words)).toContain("Head");
    expect(pages.flatMap(texts).map(words)).not.toContain("hidden");
    expect(find(pages[0], "c1").x - find(pages[0], "b1").x).toBeCloseTo(100, 1);
    expect(
      [...eachItem(pages[0].items)].some(
        (item) => item.kind === "fill" && item.color === "FFEE00" && Math.abs(item.width - 200) < 0.1,
      ),
    ).toBe(true);
    expect([...eachItem(pages[0].items)].some((item) => item.kind === "line" && item.color === "123456")).toBe(true);
  });
});

describe("the PDF", () => {
  it("has links that work, an outline, a title, and pictures", async () => {
    const { pages, outline } = await sheetPages((sheet, book) => {
      sheet.getCell("A1").value = { text: "our site", hyperlink: "https://lifts.example/?a=1&b=(2)" };
      book.addWorksheet("Second").addRow(["y"]);
    });
    const pdf = writePdf(pages, { title: "Größe (1) \\ 2", outline });
    expect(readPdf(pdf, "qpdf")).toContain("No syntax");
    expect(readPdf(pdf, "pdfinfo")).toContain("Größe (1) \\ 2");
    const source = Buffer.from(pdf).toString("latin1");
    expect(source).toContain(Buffer.from("https://lifts.example/?a=1&b=(2)").toString("hex"));
    expect(source).toMatch(/\/Type \/Outlines/);
    const statement = writePdf(
      layWorkbook(openWorkbook(demo("templates/statement.xlsx"), "s"), openFonts(), facts).pages,
      { title: "s" },
    );
    expect(Buffer.from(statement).toString("latin1")).toMatch(/\/Subtype \/Image[^>]*\/SMask/);
  });

  it("keeps text in other scripts readable and selectable", async () => {
    const { pages } = await documentPages([
      new Paragraph("Ελληνικά Кириллица Åäö ﬁ €"),
      new Paragraph("naïve – “quoted” … 100 %"),
    ]);
    const text = readPdf(writePdf(pages, { title: "x" }), "pdftotext");
    expect(text).toContain("Ελληνικά Кириллица Åäö");
    expect(text).toContain("naïve – “quoted” … 100 %");
  });
});
