import { OoxmlPackage } from "@corbix/core/ooxml";
import { openWorkbook, readTheme, tintColor } from "@corbix/core/spreadsheet";
import { WorkbookTemplate } from "@corbix/core/workbook";
import { describe, expect, it } from "vitest";
import { demo, formula, makeWorkbook, openElsewhere, record, shown } from "../support/helpers.js";

const lines = Array.from({ length: 5 }, (_, index) => ({ unit: `L${index}`, fee: index + 0.5 }));

function fill(bytes: Uint8Array, value: Record<string, unknown> = { lines }) {
  const { scope, env } = record(value);
  return WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env);
}

const PNG = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);

describe("what stands around the repeated row", () => {
  it("moves pictures below it, and leaves those above", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      sheet.addRow(["Head"]);
      sheet.addRow(["{{ line.unit }}"]);
      sheet.addRow(["below"]);
      const image = book.addImage({ buffer: PNG as unknown as ArrayBuffer, extension: "png" });
      sheet.addImage(image, { tl: { col: 3, row: 0 }, ext: { width: 20, height: 20 } });
      sheet.addImage(image, { tl: { col: 3, row: 5 }, ext: { width: 20, height: 20 } });
    });
    const drawing = fill(bytes).package.getText("xl/drawings/drawing1.xml");
    expect([...drawing.matchAll(/<xdr:row>(\d+)<\/xdr:row>/g)].map((match) => match[1])).toEqual(["0", "9"]);
  });

  it("moves and grows tables, validations, conditional formats, filters and comments", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["Unit", "Fee"]);
      sheet.addRow(["{{ line.unit }}", "{{ line.fee }}"]);
      sheet.addRow(["Total", { formula: "SUM(B2:B2)" }]);
      sheet.getCell("A3").note = "a note";
      sheet.getCell("B3").dataValidation = { type: "decimal", operator: "greaterThan", formulae: ["B2"] };
      sheet.addConditionalFormatting({
        ref: "B2:B3",
        rules: [{ type: "expression", formulae: ["B2>$B$3"], priority: 1, style: { font: { bold: true } } }],
      });
      sheet.autoFilter = "A1:B2";
    });
    const opened = fill(bytes).package;
    const xml = opened.getText("xl/worksheets/sheet1.xml");
    expect(xml).toContain('sqref="B2:B7"');
    expect(xml).toMatch(/<formula>B2(:B\d)?&gt;\$B\$7<\/formula>/);
    expect(xml).toMatch(/<autoFilter ref="A1:B6"/);
    expect(xml).toMatch(/<dataValidation[^>]*sqref="B7"/);
    expect(opened.getText("xl/comments1.xml")).toContain('ref="A7"');
    const sheet = (await openElsewhere(opened.toBytes())).worksheets[0];
    expect([formula(sheet, "B7"), shown(sheet, "B7")]).toEqual(["SUM(B2:B6)", 12.5]);
  });

  it("grows a defined table's range", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addTable({
        name: "Visits",
        ref: "A1",
        headerRow: true,
        columns: [{ name: "Unit" }, { name: "Fee" }],
        rows: [["{{ line.unit }}", "{{ line.fee }}"]],
      });
    });
    const table = fill(bytes).package.getText("xl/tables/table1.xml");
    expect(table).toMatch(/<table [^>]*ref="A1:B6"/);
    expect(table).toMatch(/<autoFilter ref="A1:B6"/);
  });

  it("repeats two rows per line as one, and merges inside them for each", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["{{ line.unit }}", "x"]);
      sheet.addRow(["fee {{ line.fee }}", { formula: 'B1&"!"' }]);
      sheet.addRow(["end"]);
      sheet.mergeCells("C1:D2");
      sheet.getRow(2).height = 33;
    });
    const sheet = (await openElsewhere(fill(bytes).package.toBytes())).worksheets[0];
    expect([1, 2, 3, 4, 9, 10, 11].map((row) => shown(sheet, `A${row}`))).toEqual([
      "L0",
      "fee 0.5",
      "L1",
      "fee 1.5",
      "L4",
      "fee 4.5",
      "end",
    ]);
    expect([2, 4, 10].map((row) => [formula(sheet, `B${row}`), sheet.getRow(row).height])).toEqual([
      ['B1&"!"', 33],
      ['B3&"!"', 33],
      ['B9&"!"', 33],
    ]);
    expect(sheet.model.merges).toEqual(["C1:D2", "C3:D4", "C5:D6", "C7:D8", "C9:D10"]);
  });

  it("follows two areas on one sheet, one below the other", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["{{ line.unit }}"]);
      sheet.addRow(["between"]);
      sheet.addRow(["{{ line.fee }}"]);
      sheet.addRow([{ formula: "SUM(A3:A3)+COUNTA(A1:A1)" }]);
    });
    const sheet = (await openElsewhere(fill(bytes).package.toBytes())).worksheets[0];
    expect(shown(sheet, "A6")).toBe("between");
    expect([formula(sheet, "A12"), shown(sheet, "A12")]).toEqual(["SUM(A7:A11)+COUNTA(A1:A5)", 17.5]);
  });

  it("takes the calculation chain away with its mention, since its cells moved", async () => {
    const plain = OoxmlPackage.open(
      await makeWorkbook((_, sheet) => {
        sheet.addRow(["{{ line.fee }}"]);
        sheet.addRow([{ formula: "SUM(A1:A1)" }]);
      }),
    );
    const chained = plain.with(
      new Map([
        [
          "xl/calcChain.xml",
          '<calcChain xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><c r="A2" i="1"/></calcChain>',
        ],
        [
          "xl/_rels/workbook.xml.rels",
          plain
            .getText("xl/_rels/workbook.xml.rels")
            .replace(
              "</Relationships>",
              '<Relationship Id="rId99" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/calcChain" Target="calcChain.xml"/></Relationships>',
            ),
        ],
        [
          "[Content_Types].xml",
          plain
            .getText("[Content_Types].xml")
            .replace(
              "</Types>",
              '<Override PartName="/xl/calcChain.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.calcChain+xml"/></Types>',
            ),
        ],
      ]),
    );
    const { package: filled } = fill(chained.toBytes());
    expect(filled.has("xl/calcChain.xml")).toBe(false);
    expect(filled.getText("xl/_rels/workbook.xml.rels") + filled.getText("[Content_Types].xml")).not.toContain(
      "calcChain",
    );
  });

  it("writes shared formulas out for the cells that moved", async () => {
    const plain = OoxmlPackage.open(
      await makeWorkbook((_, sheet) => {
        sheet.addRow(["{{ line.fee }}"]);
        sheet.addRow([1, { formula: "A2*2" }]);
        sheet.addRow([2, { formula: "A3*2" }]);
      }),
    );
    const xml = plain
      .getText("xl/worksheets/sheet1.xml")
      .replace("<f>A2*2</f>", '<f t="shared" ref="B2:B3" si="0">A2*2</f>')
      .replace("<f>A3*2</f>", '<f t="shared" si="0"/>');
    const sheet = (
      await openElsewhere(fill(plain.with(new Map([["xl/worksheets/sheet1.xml", xml]])).toBytes()).package.toBytes())
    ).worksheets[0];
    expect([6, 7].map((row) => [formula(sheet, `B${row}`), shown(sheet, `B${row}`)])).toEqual([
      ["A6*2", 2],
      ["A7*2", 4],
    ]);
  });

  it("evaluates an array formula and stores its value", async () => {
    const plain = OoxmlPackage.open(
      await makeWorkbook((_, sheet) => sheet.addRow(["{{ n }}", { formula: "A1", result: 5 }])),
    );
    const xml = plain.getText("xl/worksheets/sheet1.xml").replace("<f>A1</f>", '<f t="array" ref="B1">SUM(A1*2)</f>');
    const { package: filled, findings } = fill(plain.with(new Map([["xl/worksheets/sheet1.xml", xml]])).toBytes(), {
      n: 4,
    });
    expect(findings).toEqual([]);
    expect(filled.getText("xl/worksheets/sheet1.xml")).toContain('<f t="array" ref="B1">SUM(A1*2)</f><v>8</v>');
  });

  it("fills marks in notes, also those spread over runs, in names and in links, and moves the notes' boxes", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      sheet.addRow(["{{ line.unit }}"]);
      sheet.addRow(["Total", { formula: "Greeting", result: "" }]);
      sheet.getCell("A2").note = { texts: [{ text: "Ask {{ si" }, { font: { bold: true }, text: "te }} & Co" }] };
      sheet.getCell("C2").value = { text: "open", hyperlink: "https://lifts.example/{{ site }}" };
      book.definedNames.add("'Sheet one'!$A$1", "Units");
    });
    const plain = OoxmlPackage.open(bytes);
    const workbook = plain
      .getText("xl/workbook.xml")
      .replace("</definedNames>", '<definedName name="Greeting">"Dear {{ site }}"</definedName></definedNames>');
    const template = plain.with(new Map([["xl/workbook.xml", workbook]])).toBytes();
    const { package: filled, findings } = fill(template, { site: 'Dock "9" <x>', lines });
    expect(findings).toEqual([]);
    const notes = filled.getText("xl/comments1.xml");
    expect(notes).toContain("Ask Dock &quot;9&quot; &lt;x&gt;");
    expect(notes).toContain('ref="A6"');
    expect(filled.getText("xl/drawings/vmlDrawing1.vml")).toContain("<x:Row>5</x:Row>");
    expect(filled.getText("xl/workbook.xml")).toContain('"Dear Dock ""9"" &lt;x&gt;"'.replaceAll('"', "&quot;"));
    expect(filled.getText("xl/workbook.xml")).toMatch(/name="Units"[^>]*>'Sheet one'!\$A\$1:\$A\$5</);
    const sheet = (await openElsewhere(filled.toBytes())).worksheets[0];
    expect(shown(sheet, "B6")).toBe('Dear Dock "9" <x>');
  });

  it("keeps what it does not know: macros, custom parts, unknown extensions", async () => {
    const plain = OoxmlPackage.open(await makeWorkbook((_, sheet) => sheet.addRow(["{{ n }}"])));
    const extra = plain.with(
      new Map<string, Uint8Array | string>([
        ["xl/vbaProject.bin", Buffer.from([1, 2, 3, 0, 255])],
        ["customXml/item1.xml", "<a xmlns='urn:x'> <b/>  </a>"],
        [
          "xl/worksheets/sheet1.xml",
          plain
            .getText("xl/worksheets/sheet1.xml")
            .replace(
              "</worksheet>",
              '<extLst><ext uri="{X}"><y:odd xmlns:y="urn:y" z="1"/></ext></extLst></worksheet>',
            ),
        ],
      ]),
    );
    const { package: filled } = fill(extra.toBytes(), { n: 1 });
    expect([...filled.getBytes("xl/vbaProject.bin")]).toEqual([1, 2, 3, 0, 255]);
    expect(filled.getText("customXml/item1.xml")).toBe("<a xmlns='urn:x'> <b/>  </a>");
    expect(filled.getText("xl/worksheets/sheet1.xml")).toContain('<y:odd xmlns:y="urn:y" z="1"/>');
  });

  it("fills marks in the addresses of links", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.getCell("A1").value = { text: "page", hyperlink: "https://lifts.example/SITE" };
    });
    const opened = OoxmlPackage.open(bytes);
    const name = "xl/worksheets/_rels/sheet1.xml.rels";
    const marked = opened.with(new Map([[name, opened.getText(name).replace("SITE", "{{ site }}")]]));
    expect(fill(marked.toBytes(), { site: "a&b" }).package.getText(name)).toContain(
      'Target="https://lifts.example/a&amp;b"',
    );
  });

  it("fills marks in properties and names one that formatting has broken", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      book.title = "Statement for {{ site }}";
      sheet.addRow(["x"]);
    });
    expect(fill(bytes, { site: "A & B" }).package.getText("docProps/core.xml")).toContain("Statement for A &amp; B");
    const opened = OoxmlPackage.open(bytes);
    const broken = opened.with(
      new Map([["docProps/core.xml", opened.getText("docProps/core.xml").replace("{{ site }}", "{{ <b/>site }}")]]),
    );
    expect(fill(broken.toBytes(), { site: "x" }).findings.map((finding) => finding.code)).toEqual(["mark-not-filled"]);
  });
});

describe("formats of cells", () => {
  it("reads fonts, fills, borders and number formats of the demo's statement", () => {
    const { styles, names } = openWorkbook(demo("templates/statement.xlsx"), "s");
    expect(
      styles.formats.some((format) => format.fill === "0F5C5C" && format.font.bold && format.font.color === "FFFFFF"),
    ).toBe(true);
    expect(styles.formats.some((format) => format.border.bottom?.style === "double")).toBe(true);
    expect(styles.formats.some((format) => format.isDate && format.code === "dd/mm/yyyy")).toBe(true);
    expect(names.map((name) => name.name).sort()).toEqual(["_xlnm.Print_Area", "_xlnm.Print_Titles"]);
  });

  it("tints theme colours as the standard says", () => {
    expect(tintColor("000000", 0.5)).toBe("808080");
    expect(tintColor("FFFFFF", -0.25)).toBe("BFBFBF");
    expect(tintColor("4472C4", 0)).toBe("4472C4");
    expect(readTheme(undefined).colors).toHaveLength(12);
  });
});
