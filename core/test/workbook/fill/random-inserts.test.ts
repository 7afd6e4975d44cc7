/** Random rows are filled into sheets with all that hangs on cells, in the shapes of several makers, and held against two lines of arithmetic. */
import { OoxmlPackage } from "@corbix/core/ooxml";
import { WorkbookTemplate } from "@corbix/core/workbook";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { makeWorkbook, record } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const KIND = "application/vnd.openxmlformats-officedocument";

/** Rows from 1 on, both included. */
interface Rows {
  readonly from: number;
  readonly to: number;
}

interface Case {
  /** Rows that stand once for each line, and how many lines there are. */
  readonly marks: readonly number[];
  readonly lines: number;
  readonly note: number;
  readonly spark: Rows;
  readonly chart: Rows;
  readonly anchor: Rows;
  readonly table: Rows;
  readonly pivot: number;
  readonly source: Rows;
  readonly merged: Rows;
  readonly rule: Rows;
  readonly link: number;
  readonly shape: "plain" | "prefixed" | "single quotes" | "absolute";
}

/** Where a row lies: each repeated row above it brings one row less than there are lines. */
const movedTo = ({ marks, lines }: Case, row: number): number =>
  row + marks.filter((mark) => mark < row).length * (Math.max(1, lines) - 1);

/** Where a range ends: repeated rows in it count as well. */
const endOf = ({ marks, lines }: Case, row: number): number =>
  row + marks.filter((mark) => mark <= row).length * (Math.max(1, lines) - 1);

const rows = (least: number, most: number): fc.Arbitrary<Rows> =>
  fc
    .tuple(fc.integer({ min: least, max: most }), fc.integer({ min: 0, max: 8 }))
    .map(([from, more]) => ({ from, to: from + more }));

const cases = fc
  .record({
    marks: fc.uniqueArray(fc.integer({ min: 3, max: 24 }), { minLength: 1, maxLength: 3 }),
    lines: fc.integer({ min: 0, max: 6 }),
    note: fc.integer({ min: 1, max: 40 }),
    spark: rows(1, 30),
    chart: rows(1, 30),
    anchor: rows(1, 40),
    table: rows(1, 30),
    pivot: fc.integer({ min: 1, max: 60 }),
    source: rows(1, 30),
    merged: rows(1, 40),
    rule: rows(1, 40),
    link: fc.integer({ min: 1, max: 40 }),
    shape: fc.constantFrom("plain" as const, "prefixed" as const, "single quotes" as const, "absolute" as const),
  })
  .map((one): Case => {
    // Repeated rows beside each other are one block: these here are not.
    const marks = one.marks.filter((mark) => !one.marks.includes(mark - 1));
    const apart = (row: number): number => (marks.includes(row) ? apart(row + 1) : row);
    // Headings of tables are not repeated, nor are rows through a pivot or a merged cell; a link leads to one cell.
    const head = apart(one.table.from);
    let pivot = one.pivot;
    while (marks.some((mark) => mark >= pivot && mark <= pivot + 2)) pivot++;
    let merged = one.merged.from;
    while (marks.some((mark) => mark >= merged && mark <= merged + 1)) merged++;
    // A chart of a single cell shows that cell, or all that came of it.
    const chart = one.chart.from === one.chart.to ? { from: one.chart.from, to: one.chart.to + 1 } : one.chart;
    const spark = one.spark.from === one.spark.to ? { from: one.spark.from, to: one.spark.to + 1 } : one.spark;
    return {
      ...one,
      marks,
      chart,
      spark,
      table: { from: head, to: Math.max(one.table.to, head + 1) },
      pivot,
      merged: { from: merged, to: merged + 1 },
      note: apart(one.note),
      link: apart(one.link),
      source: { from: apart(one.source.from), to: Math.max(one.source.to, apart(one.source.from) + 1) },
    };
  });

/** Parts in the shape that another maker writes: the same words under a prefix, or other quotes. */
function shaped(xml: string, shape: Case["shape"]): string {
  if (shape === "single quotes") return xml.replace(/="([^"']*)"/g, "='$1'");
  if (shape !== "prefixed") return xml;
  return xml.replace(`xmlns="${MAIN}"`, `xmlns:x="${MAIN}"`).replace(/<(\/?)(?=[a-z])(?![a-z0-9]+:)/g, "<$1x:");
}

async function templateOf(one: Case): Promise<Uint8Array> {
  const bytes = await makeWorkbook((_, sheet) => {
    sheet.name = "Data";
    for (const mark of one.marks) {
      sheet.getCell(`A${mark}`).value = "{{ line.unit }}";
      sheet.getCell(`B${mark}`).value = "{{ line.fee }}";
    }
    sheet.getCell("C80").value = { formula: `SUM(B${one.chart.from}:B${one.chart.to})` };
    sheet.getCell(`E${one.table.from}`).value = "Unit";
    sheet.getCell(`F${one.table.from}`).value = "Fee";
    sheet.mergeCells(`K${one.merged.from}:L${one.merged.to}`);
  });
  const opened = OoxmlPackage.open(bytes);
  const absolute = one.shape === "absolute";
  const target = (path: string): string => (absolute ? `/xl/${path}` : `../${path}`);
  const relations = (...list: readonly (readonly [string, string, string])[]): string =>
    `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${list.map(([id, type, path]) => `<Relationship Id="${id}" Type="${REL}/${type}" Target="${path}"/>`).join("")}</Relationships>`;
  const own = (xml: string): string => shaped(xml, one.shape);
  const spark = `<extLst><ext xmlns:x14="http://schemas.microsoft.com/office/spreadsheetml/2009/9/main" uri="{05C60535-1F16-4fd2-B633-F4F36F0B64E0}"><x14:sparklineGroups xmlns:xm="http://schemas.microsoft.com/office/excel/2006/main"><x14:sparklineGroup><x14:sparklines><x14:sparkline><xm:f>Data!B${one.spark.from}:B${one.spark.to}</xm:f><xm:sqref>M${one.note}</xm:sqref></x14:sparkline></x14:sparklines></x14:sparklineGroup></x14:sparklineGroups></ext></extLst>`;
  const sheet = opened
    .getText("xl/worksheets/sheet1.xml")
    .replace(
      "</mergeCells>",
      () =>
        `</mergeCells><conditionalFormatting sqref="B${one.rule.from}:B${one.rule.to}"><cfRule type="expression" priority="1"><formula>$B$${one.rule.from}&gt;$C$80</formula></cfRule></conditionalFormatting><hyperlinks><hyperlink ref="N${one.link}" location="Data!A${one.link}"/></hyperlinks>`,
    )
    .replace(
      "</worksheet>",
      `<drawing r:id="rId1"/><legacyDrawing r:id="rId3"/><tableParts count="1"><tablePart r:id="rId4"/></tableParts>${spark}</worksheet>`,
    );
  const anchor = `<xdr:from><xdr:col>2</xdr:col><xdr:colOff>0</xdr:colOff><xdr:row>${one.anchor.from - 1}</xdr:row><xdr:rowOff>0</xdr:rowOff></xdr:from><xdr:to><xdr:col>6</xdr:col><xdr:colOff>0</xdr:colOff><xdr:row>${one.anchor.to - 1}</xdr:row><xdr:rowOff>0</xdr:rowOff></xdr:to>`;
  const chartSpace = "http://schemas.openxmlformats.org/drawingml/2006/chart";
  const override = (part: string, type: string): string =>
    `<Override PartName="/xl/${part}" ContentType="${KIND}.${type}+xml"/>`;
  return opened
    .with(
      new Map([
        ["xl/worksheets/sheet1.xml", sheet],
        [
          "xl/worksheets/_rels/sheet1.xml.rels",
          relations(
            ["rId1", "drawing", target("drawings/drawing1.xml")],
            ["rId2", "comments", target("comments1.xml")],
            ["rId3", "vmlDrawing", target("drawings/vmlDrawing1.vml")],
            ["rId4", "table", target("tables/table1.xml")],
            ["rId5", "pivotTable", target("pivotTables/pivotTable1.xml")],
          ),
        ],
        [
          "xl/comments1.xml",
          own(
            `<comments xmlns="${MAIN}"><authors><author>office</author></authors><commentList><comment ref="D${one.note}" authorId="0"><text><t>look</t></text></comment></commentList></comments>`,
          ),
        ],
        [
          "xl/drawings/vmlDrawing1.vml",
          `<xml xmlns:v="urn:schemas-microsoft-com:vml" xmlns:x="urn:schemas-microsoft-com:office:excel"><v:shape><x:ClientData ObjectType="Note"><x:Anchor>4, 0, ${one.note - 1}, 0, 6, 0, ${one.note + 2}, 0</x:Anchor><x:Row>${one.note - 1}</x:Row><x:Column>3</x:Column></x:ClientData></v:shape></xml>`,
        ],
        [
          "xl/drawings/drawing1.xml",
          `<xdr:wsDr xmlns:xdr="http://schemas.openxmlformats.org/drawingml/2006/spreadsheetDrawing" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><xdr:twoCellAnchor>${anchor}<xdr:graphicFrame><a:graphic><a:graphicData uri="${chartSpace}"><c:chart xmlns:c="${chartSpace}" xmlns:r="${REL}" r:id="rId1"/></a:graphicData></a:graphic></xdr:graphicFrame><xdr:clientData/></xdr:twoCellAnchor></xdr:wsDr>`,
        ],
        ["xl/drawings/_rels/drawing1.xml.rels", relations(["rId1", "chart", target("charts/chart1.xml")])],
        [
          "xl/charts/chart1.xml",
          `<c:chartSpace xmlns:c="${chartSpace}"><c:chart><c:plotArea><c:barChart><c:ser><c:val><c:numRef><c:f>Data!$B$${one.chart.from}:$B$${one.chart.to}</c:f></c:numRef></c:val></c:ser></c:barChart></c:plotArea></c:chart></c:chartSpace>`,
        ],
        [
          "xl/tables/table1.xml",
          own(
            `<table xmlns="${MAIN}" id="1" name="Units" displayName="Units" ref="E${one.table.from}:F${one.table.to}"><autoFilter ref="E${one.table.from}:F${one.table.to}"/><tableColumns count="2"><tableColumn id="1" name="Unit"/><tableColumn id="2" name="Fee"/></tableColumns></table>`,
          ),
        ],
        [
          "xl/pivotTables/pivotTable1.xml",
          own(
            `<pivotTableDefinition xmlns="${MAIN}" name="P" cacheId="1" mergeItem="1"><location ref="H${one.pivot}:I${one.pivot + 2}" firstHeaderRow="1" firstDataRow="1" firstDataCol="1"/></pivotTableDefinition>`,
          ),
        ],
        [
          "xl/pivotTables/_rels/pivotTable1.xml.rels",
          relations(["rId1", "pivotCacheDefinition", target("pivotCache/pivotCacheDefinition1.xml")]),
        ],
        [
          "xl/pivotCache/pivotCacheDefinition1.xml",
          own(
            `<pivotCacheDefinition xmlns="${MAIN}"><cacheSource type="worksheet"><worksheetSource ref="A${one.source.from}:B${one.source.to}" sheet="Data"/></cacheSource><cacheFields count="0"/></pivotCacheDefinition>`,
          ),
        ],
        [
          "xl/_rels/workbook.xml.rels",
          opened
            .getText("xl/_rels/workbook.xml.rels")
            .replace(
              "</Relationships>",
              `<Relationship Id="rIdP" Type="${REL}/pivotCacheDefinition" Target="${absolute ? "/xl/" : ""}pivotCache/pivotCacheDefinition1.xml"/></Relationships>`,
            ),
        ],
        [
          "[Content_Types].xml",
          opened
            .getText("[Content_Types].xml")
            .replace(/<Default Extension="vml"[^>]*\/>/, "")
            .replace(
              "</Types>",
              `<Default Extension="vml" ContentType="${KIND}.vmlDrawing"/>${override("comments1.xml", "spreadsheetml.comments")}${override("drawings/drawing1.xml", "drawing")}${override("charts/chart1.xml", "drawingml.chart")}${override("tables/table1.xml", "spreadsheetml.table")}${override("pivotTables/pivotTable1.xml", "spreadsheetml.pivotTable")}${override("pivotCache/pivotCacheDefinition1.xml", "spreadsheetml.pivotCacheDefinition")}</Types>`,
            ),
        ],
      ]),
    )
    .toBytes();
}

describe("rows filled in at random places", () => {
  it("move all that hangs on cells as plain arithmetic says", async () => {
    const seen = new Set<string>();
    await fc.assert(
      fc.asyncProperty(cases, async (one) => {
        seen.add(one.shape);
        const bytes = await templateOf(one);
        const lines = Array.from({ length: one.lines }, (_, at) => ({ unit: `L${at}`, fee: at + 1 }));
        const { scope, env } = record({ lines: [{ unit: "x", fee: 0 }, ...lines] });
        const made = WorkbookTemplate.read(bytes, "t.xlsx")
          .bind(scope)
          .fill({ ...env, lines: env.lines.slice(1) })
          .package.toBytes();
        expect(problemsOf(made)).toEqual([]);
        const opened = OoxmlPackage.open(made);
        const [at, end] = [(row: number) => movedTo(one, row), (row: number) => endOf(one, row)];
        const range = (letter: string, { from, to }: Rows, other = letter): string =>
          `${letter}${at(from)}:${other}${end(to)}`;
        const absolute = (letter: string, { from, to }: Rows): string => `$${letter}$${at(from)}:$${letter}$${end(to)}`;
        expect(opened.getXml("xl/comments1.xml").descendants("comment")[0].attr("ref")).toBe(`D${at(one.note)}`);
        const note = opened.getText("xl/drawings/vmlDrawing1.vml");
        expect(/<x:Row>(\d+)</.exec(note)?.[1]).toBe(String(at(one.note) - 1));
        expect(/<x:Anchor>([^<]*)</.exec(note)?.[1]).toBe(`4, 0, ${at(one.note) - 1}, 0, 6, 0, ${at(one.note) + 2}, 0`);
        const chart = opened.getXml("xl/charts/chart1.xml");
        expect(chart.descendants("f")[0].text).toBe(`Data!${absolute("B", one.chart)}`);
        const drawing = opened.getXml("xl/drawings/drawing1.xml");
        expect(drawing.descendants("row").map((row) => Number(row.text) + 1)).toEqual([
          at(one.anchor.from),
          end(one.anchor.to),
        ]);
        const table = opened.getXml("xl/tables/table1.xml");
        expect([table.attr("ref"), table.child("autoFilter")?.attr("ref")]).toEqual([
          range("E", one.table, "F"),
          range("E", one.table, "F"),
        ]);
        expect(opened.getXml("xl/pivotTables/pivotTable1.xml").child("location")?.attr("ref")).toBe(
          `H${at(one.pivot)}:I${at(one.pivot) + 2}`,
        );
        expect(
          opened.getXml("xl/pivotCache/pivotCacheDefinition1.xml").path("cacheSource", "worksheetSource")?.attr("ref"),
        ).toBe(range("A", one.source, "B"));
        const sheet = opened.getXml("xl/worksheets/sheet1.xml");
        expect(sheet.path("mergeCells", "mergeCell")?.attr("ref")).toBe(
          `K${at(one.merged.from)}:L${at(one.merged.from) + 1}`,
        );
        const [rule] = sheet.elements("conditionalFormatting");
        expect(rule.attr("sqref")?.replace(/^(\w+):\1$/, "$1")).toBe(range("B", one.rule).replace(/^(\w+):\1$/, "$1"));
        expect(rule.descendants("formula")[0].text).toContain(`>$C$${at(80)}`);
        expect(sheet.descendants("hyperlink")[0].attr("ref")).toBe(`N${at(one.link)}`);
        expect(sheet.descendants("hyperlink")[0].attr("location")).toBe(`Data!A${at(one.link)}`);
        expect(sheet.descendants("sparkline")[0].descendants("f")[0].text).toBe(`Data!${range("B", one.spark)}`);
        expect(sheet.descendants("sparkline")[0].descendants("sqref")[0].text).toBe(`M${at(one.note)}`);
        const cell = sheet.descendants("c").find((found) => found.attr("r") === `C${at(80)}`);
        expect(cell?.child("f")?.text).toBe(`SUM(${range("B", one.chart)})`);
        // What the sum comes to: all lines once for each repeated row in its range.
        const within = one.marks.filter((mark) => mark >= one.chart.from && mark <= one.chart.to).length;
        expect(Number(cell?.child("v")?.text ?? 0)).toBe((within * one.lines * (one.lines + 1)) / 2);
      }),
      { numRuns: 60 },
    );
    expect(seen.size).toBe(4);
  });
});
