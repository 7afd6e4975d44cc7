import { CorbixError } from "@corbix/core/common";
import { DocumentTemplate, openDocument } from "@corbix/core/document";
import { layDocument, layWorkbook } from "@corbix/core/layout";
import { readZip } from "@corbix/core/ooxml";
import { writePdf } from "@corbix/core/pdf";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { Document, Packer, Paragraph, Table, TableCell, TableRow, TextRun } from "docx";
import { describe, expect, it } from "vitest";
import { demo, makeWorkbook, readPdf, record } from "../support/helpers.js";

async function makeDocument(children: readonly (Paragraph | Table)[]): Promise<Uint8Array> {
  return new Uint8Array(await Packer.toBuffer(new Document({ sections: [{ children }] })));
}

const row = (...texts: string[]) =>
  new TableRow({ children: texts.map((text) => new TableCell({ children: [new Paragraph(text)] })) });

function fill(bytes: Uint8Array, value: Record<string, unknown>) {
  const { scope, env } = record(value);
  return DocumentTemplate.read(bytes, "letter.docx").bind(scope).fill(env).package;
}

const pdfOf = (opened: ReturnType<typeof fill>): Uint8Array =>
  writePdf(layDocument(opened, openFonts()).pages, { title: "letter" });

describe("filling a document", () => {
  it("leaves every part as it is where there are no marks", async () => {
    const bytes = await makeDocument([new Paragraph("Nothing to fill")]);
    const after = readZip(fill(bytes, {}).toBytes());
    expect(after.map((entry) => [entry.name, entry.crc])).toEqual(
      readZip(bytes)
        .filter((entry) => !entry.name.endsWith("/"))
        .map((entry) => [entry.name, entry.crc]),
    );
  });

  it("fills a mark that is broken over runs, in the looks of its first character", async () => {
    const bytes = await makeDocument([
      new Paragraph({
        children: [
          new TextRun("Dear {"),
          new TextRun({ text: "{ na", bold: true }),
          new TextRun("me }}, "),
          new TextRun("hello {{ name }}"),
        ],
      }),
    ]);
    const xml = fill(bytes, { name: "A & <B>\nsecond" }).getText("word/document.xml");
    expect(xml).toContain('A &amp; &lt;B&gt;</w:t><w:br/><w:t xml:space="preserve">second');
    expect(xml.match(/second/g)).toHaveLength(2);
    expect(xml).not.toContain("{{");
  });

  it("repeats the rows of a table for each line, several rows as one, and takes them away without lines", async () => {
    const bytes = await makeDocument([
      new Table({
        rows: [
          row("Unit", "Fee"),
          row("{{ line.unit }}", "{{ line.fee }}"),
          row("note", "{{ line.note }}"),
          row("Total", "{{ sum(line.fee) }}"),
        ],
      }),
    ]);
    const rows = (value: Record<string, unknown>) =>
      fill(bytes, value)
        .getXml("word/document.xml")
        .descendants("tr")
        .map((tr) => tr.text);
    const { scope } = record({ lines: [{ unit: "L1", fee: 1, note: "a" }] });
    expect(
      rows({
        lines: [
          { unit: "L1", fee: 1.5, note: "a" },
          { unit: "L2", fee: 2, note: "b" },
        ],
      }),
    ).toEqual(["UnitFee", "L11.5", "notea", "L22", "noteb", "Total3.5"]);
    const none = DocumentTemplate.read(bytes, "t.docx")
      .bind(scope)
      .fill(record({ lines: [] }).env);
    expect(
      none.package
        .getXml("word/document.xml")
        .descendants("tr")
        .map((tr) => tr.text),
    ).toEqual(["UnitFee", "Total0"]);
  });

  it("refuses a line field outside of a table row, with the mark", async () => {
    const bytes = await makeDocument([new Paragraph("{{ line.unit }}")]);
    expect(() => fill(bytes, { lines: [{ unit: "L1" }] })).toThrow(CorbixError);
    try {
      fill(bytes, { lines: [{ unit: "L1" }] });
    } catch (error) {
      expect((error as CorbixError).toLine()).toContain("stands in no table row");
      expect((error as CorbixError).where).toContain("line.unit");
    }
  });

  it("refuses what is no document", () => {
    expect(() => DocumentTemplate.read(Buffer.from("hello"), "x.docx")).toThrow("no zip package");
    expect(() => openDocument(demo("templates/statement.xlsx"), "x.docx")).toThrow("holds none");
  });
});

describe("documents as pages", () => {
  const long = Array.from(
    { length: 40 },
    (_, index) =>
      `Paragraph ${index + 1} tells of lifts and escalators, of doors, ropes and brakes, and of what was found on the way from floor to floor.`,
  );

  it("keeps all text, in order, over page breaks", async () => {
    const opened = openDocument(
      await makeDocument(long.map((text) => new Paragraph({ text, spacing: { after: 200 } }))),
      "long.docx",
    );
    const pdf = pdfOf(opened);
    const words = (text: string) => text.split(/\s+/).filter(Boolean).join(" ");
    expect(words(readPdf(pdf, "pdftotext"))).toBe(words(long.join(" ")));
    expect(Number(/Pages:\s+(\d+)/.exec(readPdf(pdf, "pdfinfo"))?.[1])).toBeGreaterThan(1);
  });

  it("makes a file that readers accept, with all fonts embedded, and the same each time", async () => {
    const value = {
      recipient: { name: "Åsa Nyström" },
      site: "Sjöstad Quay",
      street: "1–9 Quay",
      town: "AM8",
      run: { date: "2026-11-02", sender: "a@b.example" },
      period: { label: "October 2026" },
      lines: Array.from({ length: 85 }, (_, index) => ({
        visit_date: "2026-10-05",
        unit: `L${index}`,
        kind: "lift",
        result: index === 3 ? "fail" : "pass",
        next_due: "2026-11-05",
        remarks: "ok",
      })),
    };
    const pdf = pdfOf(fill(demo("templates/notice.docx"), value));
    expect(Buffer.compare(pdf, pdfOf(fill(demo("templates/notice.docx"), value)))).toBe(0);
    expect(readPdf(pdf, "qpdf")).toContain("No syntax or stream encoding errors");
    const fonts = readPdf(pdf, "pdffonts").trim().split("\n").slice(2);
    expect(fonts.length).toBeGreaterThan(0);
    for (const font of fonts) expect(font).toMatch(/yes yes yes/);
    const text = readPdf(pdf, "pdftotext");
    expect(text).toContain("Åsa Nyström");
    expect(text).toContain("85 visits");
    expect(text).toMatch(/Page 1 of 3[\s\S]*Page 2 of 3[\s\S]*Page 3 of 3/);
    // The heading row stands on each page the table reaches.
    expect(text.match(/Next due/g)).toHaveLength(3);
  });

  it("breaks lines where the fonts' own widths say", () => {
    const face = openFonts().face("Calibri", false, false);
    expect(openFonts().standIn("Calibri")).toEqual({ family: "Carlito", exact: true });
    // Advance widths of Carlito in 2048ths of an em: L 861, i 470, f 625, t 686.
    expect(face.shape("Lift").width * 2048).toBeCloseTo(861 + 470 + 625 + 686, 6);
  });

  it("names what it cannot draw instead of dropping it in silence", async () => {
    const bytes = await makeDocument([new Paragraph("before")]);
    const opened = openDocument(bytes, "odd.docx");
    const odd = opened.with(
      new Map([
        [
          "word/document.xml",
          opened
            .getText("word/document.xml")
            .replace(
              '<w:t xml:space="preserve">before</w:t>',
              '<w:t>before</w:t><w:pict/><w:footnoteReference w:id="1"/>',
            ),
        ],
      ]),
    );
    const { findings } = layDocument(odd, openFonts());
    expect(findings.map((finding) => finding.what).join(" ")).toMatch(/old drawing.*footnote that is missing/);
  });
});

describe("sheets as pages", () => {
  it("prints the print area only, with repeated titles, page numbers and calculated totals", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["Unit", "Fee"]);
      for (let index = 1; index <= 120; index++) sheet.addRow([`unit-${index}`, index]);
      sheet.getCell("E1").value = "outside";
      sheet.pageSetup.printArea = "A1:B121";
      sheet.pageSetup.printTitlesRow = "1:1";
      sheet.headerFooter.oddFooter = "&LSheet &A&RPage &P of &N";
    });
    const laid = layWorkbook(openWorkbook(bytes, "t.xlsx"), openFonts(), { file: "t", date: "", time: "" });
    const text = readPdf(writePdf(laid.pages, { title: "t" }), "pdftotext");
    expect(text).not.toContain("outside");
    expect(text).toContain("unit-120");
    expect(text.match(/Unit\s+Fee/g)).toHaveLength(laid.pages.length);
    expect(text).toContain(`Page ${laid.pages.length} of ${laid.pages.length}`);
    expect(text).toContain("Sheet Sheet one");
  });

  it("shows numbers by their formats, #### for what does not fit, and text over blank neighbours", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.getColumn(1).width = 6;
      sheet.addRow([123456789.5]);
      sheet.getCell("A1").numFmt = "#,##0.00";
      sheet.getCell("B1").value = 0.081;
      sheet.getCell("B1").numFmt = "0.0%";
      sheet.getCell("C1").value = new Date(Date.UTC(2026, 9, 5));
      sheet.getCell("C1").numFmt = "dd/mm/yyyy";
      sheet.getColumn(3).width = 14;
      sheet.getCell("A2").value = "runs over into the next cell";
    });
    const text = readPdf(
      writePdf(layWorkbook(openWorkbook(bytes, "t.xlsx"), openFonts(), { file: "", date: "", time: "" }).pages, {
        title: "t",
      }),
      "pdftotext",
    );
    expect(text).toMatch(/#{3,}\s+8\.1%\s+05\/10\/2026/);
    expect(text).toContain("runs over into the next cell");
  });
});

describe("fonts that are not there", () => {
  it("are named with what stands in for them, and so are characters no font has", async () => {
    const bytes = await makeDocument([
      new Paragraph({ children: [new TextRun({ text: "Odd letters", font: "Papyrus Regal" }), new TextRun("𓀀")] }),
    ]);
    const { findings } = layDocument(openDocument(bytes, "odd.docx"), openFonts());
    expect(findings.map((finding) => finding.code).sort()).toEqual(["font-substituted", "glyph-missing"]);
    expect(findings.find((finding) => finding.code === "font-substituted")?.what).toContain('"Papyrus Regal"');
  });

  it("do not matter for the usual office fonts, whose widths are kept", async () => {
    const bytes = await makeDocument(
      ["Calibri", "Cambria", "Arial", "Times New Roman", "Courier New"].map(
        (font) => new Paragraph({ children: [new TextRun({ text: font, font })] }),
      ),
    );
    expect(layDocument(openDocument(bytes, "usual.docx"), openFonts()).findings).toEqual([]);
  });
});
