/** What hangs on cells of another sheet, or is written with other prefixes, moves as the rest does. */
import { DocumentTemplate } from "@corbix/core/document";
import { deflateEntry, OoxmlPackage, writeZip } from "@corbix/core/ooxml";
import { parseReport } from "@corbix/core/report";
import { groupScope, ReportMaker } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { WorkbookTemplate } from "@corbix/core/workbook";
import { Bookmark, Document, Packer, Paragraph, Table, TableCell, TableRow, TextRun } from "docx";
import { describe, expect, it } from "vitest";
import { makeElsewhere, makeWorkbook, record } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const LINES = {
  lines: [
    { unit: "L1", fee: 3 },
    { unit: "L2", fee: 4 },
    { unit: "L3", fee: 5 },
  ],
};

/** Fills a workbook with three lines; gives its parts by name. */
function filled(bytes: Uint8Array) {
  const { scope, env } = record(LINES);
  const made = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env).package.toBytes();
  expect(problemsOf(made).filter((problem) => !problem.includes("legacyDrawing"))).toEqual([]);
  return OoxmlPackage.open(made, "made.xlsx");
}

const changed = (bytes: Uint8Array, part: string, change: (text: string) => string): Uint8Array => {
  const opened = OoxmlPackage.open(bytes, "t.xlsx");
  const text = change(opened.getText(part));
  expect(text).not.toBe(opened.getText(part));
  return opened.with(new Map([[part, text]])).toBytes();
};

/** A second sheet without a mark, beside one that is filled. */
const twoSheets = () =>
  makeWorkbook((book, sheet) => {
    sheet.addRow(["{{ line.unit }}", "{{ line.fee }}"]);
    sheet.addRow(["below", 1]);
    book.addWorksheet("Front").addRow(["plain"]);
  });

describe("a sheet that nothing is filled in", () => {
  it.each([
    [
      "sparklines",
      `<extLst><ext xmlns:x14="http://schemas.microsoft.com/office/spreadsheetml/2009/9/main" uri="{05C60535-1F16-4fd2-B633-F4F36F0B64E0}"><x14:sparklineGroups xmlns:xm="http://schemas.microsoft.com/office/excel/2006/main"><x14:sparklineGroup><x14:sparklines><x14:sparkline><xm:f>'Sheet one'!B1:B1</xm:f><xm:sqref>C1</xm:sqref></x14:sparkline></x14:sparklines></x14:sparklineGroup></x14:sparklineGroups></ext></extLst>`,
      "'Sheet one'!B1:B3",
    ],
    [
      "lists to choose from",
      `<dataValidations count="1"><dataValidation type="list" sqref="C1"><formula1>'Sheet one'!$A$1:$A$1</formula1></dataValidation></dataValidations>`,
      "'Sheet one'!$A$1:$A$3",
    ],
    [
      "conditional formats",
      `<conditionalFormatting sqref="C1"><cfRule type="expression" priority="1"><formula>'Sheet one'!$B$2&gt;0</formula></cfRule></conditionalFormatting>`,
      "'Sheet one'!$B$4&gt;0",
    ],
    ["links", `<hyperlinks><hyperlink ref="A1" location="'Sheet one'!A2"/></hyperlinks>`, "'Sheet one'!A4"],
  ])("has its %s follow the rows of another", async (_, xml, expected) => {
    const bytes = changed(await twoSheets(), "xl/worksheets/sheet2.xml", (text) =>
      xml.startsWith("<extLst")
        ? text.replace("</worksheet>", `${xml}</worksheet>`)
        : text.replace("</sheetData>", `</sheetData>${xml}`),
    );
    expect(filled(bytes).getText("xl/worksheets/sheet2.xml")).toContain(expected);
  });
});

describe("other writers' prefixes", () => {
  it("boxes of notes go with their cells, whatever their prefix", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["{{ line.unit }}"]);
      sheet.getCell("A2").value = "below";
      sheet.getCell("A2").note = "a note";
    });
    const vml = OoxmlPackage.open(bytes).names.find((name) => name.endsWith(".vml")) ?? "";
    const other = changed(bytes, vml, (text) => text.replaceAll("x:", "excel:").replaceAll("xmlns:x=", "xmlns:excel="));
    expect(filled(other).getText(vml)).toMatch(/<excel:Row>3<\/excel:Row>/);
  });

  it("a sheet for each value copies a sheet's tag with what it declares, and lists named with a prefix", async () => {
    const plain = await makeWorkbook((_, sheet) => sheet.addRow(["{{ line.unit }}"]));
    let bytes = changed(plain, "xl/workbook.xml", (text) =>
      text
        .replace(/ xmlns:r="[^"]*"/, "")
        .replace(
          / r:id="/g,
          ' xmlns:rel="http://schemas.openxmlformats.org/officeDocument/2006/relationships" rel:id="',
        ),
    );
    const prefixed = (text: string, root: string): string =>
      text
        .replace(/<(\/?)(Types|Default|Override|Relationships|Relationship)\b/g, "<$1p:$2")
        .replace(new RegExp(`(<p:${root}[^>]*?) xmlns=`), "$1 xmlns:p=");
    bytes = changed(bytes, "xl/_rels/workbook.xml.rels", (text) => prefixed(text, "Relationships"));
    bytes = changed(bytes, "[Content_Types].xml", (text) => prefixed(text, "Types"));
    const { table } = loadTable(Buffer.from("site,unit\nDock,L1\nDock,L2\nDock,L3\n"), "t.csv");
    const report = parseReport(
      "report: a\ntitle: A\ndata: t\nsplit: site\nfiles: { out: { name: x, template: t.xlsx, sheetPer: { by: unit, contents: { sheet: Contents } } } }",
      "r",
    );
    const maker = new ReportMaker(report, groupScope(table.columns), new Map([["t.xlsx", bytes]]));
    const env = { table, lines: [0, 1, 2], row: -1, spaces: { group: new Map() }, locale: "en-GB", today: 46_328 };
    const [file] = maker.make(env, ["out"], undefined as never, {} as never).files;
    expect(problemsOf(file.bytes)).toEqual([]);
    const opened = OoxmlPackage.open(file.bytes);
    const sheets = opened.getXml("xl/workbook.xml").child("sheets")?.elements("sheet") ?? [];
    expect(sheets.map((sheet) => sheet.attr("name"))).toEqual(["Contents", "L1", "L2", "L3"]);
    const related = opened.relationships("xl/workbook.xml").filter((one) => one.type === "worksheet");
    expect(related).toHaveLength(4);
    for (const { target } of related) expect(opened.contentType(target)).toContain("worksheet+xml");
  });
});

describe("rows of a document that repeat", () => {
  it("have bookmarks, drawings and paragraphs of their own", async () => {
    const cell = (children: ConstructorParameters<typeof Paragraph>[0]) =>
      new TableCell({ children: [new Paragraph(children)] });
    const bytes = new Uint8Array(
      await Packer.toBuffer(
        new Document({
          sections: [
            {
              children: [
                new Table({
                  rows: [
                    new TableRow({
                      children: [
                        cell({ children: [new Bookmark({ id: "unit", children: [new TextRun("{{ line.unit }}")] })] }),
                      ],
                    }),
                  ],
                }),
              ],
            },
          ],
        }),
      ),
    );
    const opened = OoxmlPackage.open(bytes, "t.docx");
    const main = "word/document.xml";
    const named = opened
      .with(new Map([[main, opened.getText(main).replace("<w:p>", '<w:p w14:paraId="1A2B3C4D">')]]))
      .toBytes();
    const { scope, env } = record(LINES);
    const text = DocumentTemplate.read(named, "t.docx").bind(scope).fill(env).package.getText(main);
    const all = (pattern: RegExp) => [...text.matchAll(pattern)].map((match) => match[1]);
    const [names, ids] = [all(/bookmarkStart[^>]*w:name="([^"]*)"/g), all(/bookmarkStart[^>]*w:id="([^"]*)"/g)];
    expect(names).toEqual(["unit", "unit_2", "unit_3"]);
    expect(new Set(ids).size).toBe(3);
    expect(all(/bookmarkEnd[^>]*w:id="([^"]*)"/g)).toEqual(ids);
    expect(all(/paraId="([^"]*)"/g).length).toBeLessThanOrEqual(1);
  });
});

describe("packages whose lists are named with a prefix", () => {
  it("come back byte for byte where nothing is filled", async () => {
    const bytes = await makeWorkbook((_, sheet) => sheet.addRow(["plain"]));
    const opened = OoxmlPackage.open(bytes);
    const name = "xl/_rels/workbook.xml.rels";
    const text = opened
      .getText(name)
      .replace(/<(\/?)Relationship/g, "<$1p:Relationship")
      .replace(" xmlns=", " xmlns:p=");
    const other = writeZip(
      opened.names.map((one) => deflateEntry(one, Buffer.from(one === name ? text : opened.getBytes(one)))),
    );
    const again = OoxmlPackage.open(other);
    expect(again.relationships("xl/workbook.xml").length).toBe(opened.relationships("xl/workbook.xml").length);
    expect(Buffer.from(OoxmlPackage.open(again.toBytes()).getBytes(name)).toString()).toBe(text);
  });
});

describe("pivots", () => {
  const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
  const REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
  const KIND = "application/vnd.openxmlformats-officedocument.spreadsheetml";

  /** A pivot below the filled rows of their own sheet, made of those with their headings. */
  async function withPivot(source: string): Promise<Uint8Array> {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addRow(["Unit", "Fee"]);
      sheet.addRow(["{{ line.unit }}", "{{ line.fee }}"]);
      sheet.getCell("A5").value = "Unit";
      sheet.getCell("B5").value = "Sum of Fee";
    });
    const opened = OoxmlPackage.open(bytes);
    const related = (items: string) =>
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${items}</Relationships>`;
    const one = (id: string, type: string, target: string) =>
      `<Relationship Id="${id}" Type="${REL}/${type}" Target="${target}"/>`;
    const override = (part: string, type: string) =>
      `<Override PartName="/${part}" ContentType="${KIND}.${type}+xml"/>`;
    return opened
      .with(
        new Map([
          [
            "xl/pivotCache/pivotCacheDefinition1.xml",
            `<pivotCacheDefinition xmlns="${MAIN}" xmlns:r="${REL}" r:id="rId1" recordCount="1"><cacheSource type="worksheet"><worksheetSource ${source}/></cacheSource><cacheFields count="2"><cacheField name="Unit"><sharedItems count="1"><s v="sample"/></sharedItems></cacheField><cacheField name="Fee"><sharedItems/></cacheField></cacheFields></pivotCacheDefinition>`,
          ],
          [
            "xl/pivotCache/pivotCacheRecords1.xml",
            `<pivotCacheRecords xmlns="${MAIN}" count="1"><r><x v="0"/><n v="7"/></r></pivotCacheRecords>`,
          ],
          [
            "xl/pivotCache/_rels/pivotCacheDefinition1.xml.rels",
            related(one("rId1", "pivotCacheRecords", "pivotCacheRecords1.xml")),
          ],
          [
            "xl/pivotTables/pivotTable1.xml",
            `<pivotTableDefinition xmlns="${MAIN}" name="Fees by unit" cacheId="1"><location ref="A5:B7" firstHeaderRow="1" firstDataRow="1" firstDataCol="1"/></pivotTableDefinition>`,
          ],
          [
            "xl/pivotTables/_rels/pivotTable1.xml.rels",
            related(one("rId1", "pivotCacheDefinition", "../pivotCache/pivotCacheDefinition1.xml")),
          ],
          ["xl/worksheets/_rels/sheet1.xml.rels", related(one("rId1", "pivotTable", "../pivotTables/pivotTable1.xml"))],
          [
            "xl/_rels/workbook.xml.rels",
            opened
              .getText("xl/_rels/workbook.xml.rels")
              .replace(
                "</Relationships>",
                `${one("rIdP", "pivotCacheDefinition", "pivotCache/pivotCacheDefinition1.xml")}</Relationships>`,
              ),
          ],
          [
            "[Content_Types].xml",
            opened
              .getText("[Content_Types].xml")
              .replace(
                "</Types>",
                `${override("xl/pivotCache/pivotCacheDefinition1.xml", "pivotCacheDefinition")}${override("xl/pivotCache/pivotCacheRecords1.xml", "pivotCacheRecords")}${override("xl/pivotTables/pivotTable1.xml", "pivotTable")}</Types>`,
              ),
          ],
        ]),
      )
      .toBytes();
  }

  it.each([`ref="A1:B2" sheet="Sheet one"`])(
    "their area moves, their source grows, and they are made anew without the template's rows (%s)",
    async (source) => {
      const bytes = await withPivot(source);
      const { scope, env } = record(LINES);
      const made = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env);
      const opened = OoxmlPackage.open(made.package.toBytes());
      expect(problemsOf(made.package.toBytes())).toEqual([]);
      expect(opened.getXml("xl/pivotTables/pivotTable1.xml").child("location")?.attr("ref")).toBe("A7:B9");
      const cache = opened.getXml("xl/pivotCache/pivotCacheDefinition1.xml");
      expect(cache.path("cacheSource", "worksheetSource")?.attr("ref")).toBe("A1:B4");
      expect([cache.attr("refreshOnLoad"), cache.attr("r:id"), cache.attr("recordCount")]).toEqual([
        "1",
        undefined,
        undefined,
      ]);
      expect(opened.names.some((name) => name.includes("Records"))).toBe(false);
      expect(opened.getText("[Content_Types].xml")).not.toContain("pivotCacheRecords1");
      expect(made.findings.map((one) => [one.code, one.severity])).toEqual([["pivot-not-computed", "warn"]]);
    },
  );

  it("stay as they are where another sheet is filled", async () => {
    const bytes = changed(
      await withPivot(`ref="A1:B2" sheet="Other"`),
      "xl/worksheets/sheet1.xml",
      (text) => `${text} `,
    );
    const { scope, env } = record(LINES);
    const opened = OoxmlPackage.open(WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env).package.toBytes());
    expect(opened.getText("xl/pivotCache/pivotCacheDefinition1.xml")).not.toContain("refreshOnLoad");
    expect(opened.has("xl/pivotCache/pivotCacheRecords1.xml")).toBe(true);
  });

  it("a chart of one keeps what it stores, since the cells it names hold totals too", async () => {
    const chart = `<c:chartSpace xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart"><c:pivotSource><c:name>P</c:name></c:pivotSource><c:chart><c:plotArea><c:barChart><c:ser><c:val><c:numRef><c:f>'Sheet one'!$B$2:$B$2</c:f><c:numCache><c:ptCount val="1"/><c:pt idx="0"><c:v>7</c:v></c:pt></c:numCache></c:numRef></c:val></c:ser></c:barChart></c:plotArea></c:chart></c:chartSpace>`;
    const made = makeElsewhere(
      "sheet.title = 'Sheet one'\nsheet.append(['Unit', 'Fee'])\nsheet.append(['{{ line.unit }}', '{{ line.fee }}'])\nfrom openpyxl.chart import BarChart, Reference\nchart = BarChart()\nchart.add_data(Reference(sheet, min_col=2, min_row=2, max_row=2))\nsheet.add_chart(chart, 'D2')",
    );
    for (const [source, stored] of [
      [chart, 1],
      [chart.replace(/<c:pivotSource>.*<\/c:pivotSource>/, ""), 3],
    ] as const) {
      const bytes = OoxmlPackage.open(made)
        .with(new Map([["xl/charts/chart1.xml", source]]))
        .toBytes();
      const text = filled(bytes).getText("xl/charts/chart1.xml");
      expect(text).toContain("'Sheet one'!$B$2:$B$4");
      expect(text).toContain(`<c:ptCount val="${stored}"/>`);
    }
  });
});

describe("charts with categories of two levels", () => {
  it("store both levels as they are filled, each name of the outer one at its first", async () => {
    const chart = `<c:chartSpace xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart"><c:chart><c:plotArea><c:barChart><c:ser><c:cat><c:multiLvlStrRef><c:f>'Sheet one'!$A$2:$B$2</c:f><c:multiLvlStrCache><c:ptCount val="1"/><c:lvl><c:pt idx="0"><c:v>old</c:v></c:pt></c:lvl><c:lvl><c:pt idx="0"><c:v>older</c:v></c:pt></c:lvl></c:multiLvlStrCache></c:multiLvlStrRef></c:cat></c:ser></c:barChart></c:plotArea></c:chart></c:chartSpace>`;
    const made = makeElsewhere(
      "sheet.title = 'Sheet one'\nsheet.append(['Site', 'Unit'])\nsheet.append(['{{ line.site }}', '{{ line.unit }}'])\nfrom openpyxl.chart import BarChart, Reference\nchart = BarChart()\nchart.add_data(Reference(sheet, min_col=2, min_row=2, max_row=2))\nsheet.add_chart(chart, 'D2')",
    );
    const bytes = OoxmlPackage.open(made)
      .with(new Map([["xl/charts/chart1.xml", chart]]))
      .toBytes();
    const lines = [
      { site: "Dock", unit: "L1" },
      { site: null, unit: "L2" },
      { site: "Quay", unit: "Q1" },
    ];
    const { scope, env } = record({ lines });
    const text = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env).package.getText("xl/charts/chart1.xml");
    expect(text).toContain(
      '<c:ptCount val="3"/><c:lvl><c:pt idx="0"><c:v>L1</c:v></c:pt><c:pt idx="1"><c:v>L2</c:v></c:pt><c:pt idx="2"><c:v>Q1</c:v></c:pt></c:lvl><c:lvl><c:pt idx="0"><c:v>Dock</c:v></c:pt><c:pt idx="2"><c:v>Quay</c:v></c:pt></c:lvl>',
    );
  });
});
