import { OoxmlPackage } from "@corbix/core/ooxml";
import ExcelJS from "exceljs";
import { OFFICE } from "./scenario.mjs";

const TEAL = "FF0F5C5C";
const PALE = "FFE6EFEF";
const HAIR = { style: "hair", color: { argb: "FF9DB5B5" } };

/** A sheet of figures: a row for each unit, rules that colour it, two charts over rows that are not there yet. */
export async function figuresBytes() {
  const workbook = new ExcelJS.Workbook();
  workbook.creator = OFFICE.name;
  workbook.title = "Figures by unit";
  workbook.created = new Date(Date.UTC(2026, 0, 12));
  const sheet = workbook.addWorksheet("Figures", {
    pageSetup: {
      paperSize: 9,
      orientation: "landscape",
      fitToPage: true,
      fitToWidth: 1,
      fitToHeight: 1,
      horizontalCentered: true,
    },
    headerFooter: { oddFooter: `&L&8${OFFICE.name}&R&8Page &P of &N` },
    views: [{ showGridLines: false }],
  });
  sheet.columns = [10, 18, 9, 9, 9, 10, 13, 13].map((width) => ({ width }));
  put(sheet, "A1", "{{ site }}, {{ period.label }}", { font: { size: 18, bold: true, color: { argb: TEAL } } });
  put(sheet, "A2", "{{ count(line) }} visits, figures by unit", {
    font: { italic: true, color: { argb: "FF66807F" } },
  });
  ["Unit", "Kind", "Visits", "Passed", "Failed", "Hours", "Fees", "Share of all"].forEach((heading, at) => {
    put(sheet, sheet.getCell(4, at + 1).address, heading, {
      font: { bold: true, color: { argb: "FFFFFFFF" } },
      fill: { type: "pattern", pattern: "solid", fgColor: { argb: TEAL } },
      alignment: { horizontal: at < 2 ? "left" : "right" },
    });
  });
  const row = [
    "{{repeat line by line.unit}}{{ first(line.unit) }}",
    "{{ first(line.kind) }}",
    "{{ count(line) }}",
    '{{ count(line where line.result = "pass" or line.result = "pass with remarks") }}',
    '{{ count(line where line.result = "fail") }}',
    "{{ sum(line.hours) }}",
    "{{ sum(line.fee) }}{{end}}",
    { formula: "G5/G$6" },
  ];
  const formats = ["General", "General", "0", "0", "0", "#,##0.00", "#,##0.00", "0.0%"];
  row.forEach((value, at) => {
    put(sheet, sheet.getCell(5, at + 1).address, value, { numFmt: formats[at], border: { bottom: HAIR } });
  });
  [..."ABCDEFGH"].forEach((letter, at) => {
    const total = at > 1 && at < 7 ? { formula: `SUM(${letter}5:${letter}5)` } : null;
    put(sheet, `${letter}6`, at === 0 ? "All" : total, {
      numFmt: formats[at] ?? "General",
      font: { bold: true },
      border: { top: { style: "thin", color: { argb: TEAL } } },
      fill: { type: "pattern", pattern: "solid", fgColor: { argb: PALE } },
    });
  });
  sheet.addConditionalFormatting({
    ref: "E5:E5",
    rules: [
      {
        type: "cellIs",
        operator: "greaterThan",
        formulae: ["0"],
        priority: 1,
        style: {
          font: { bold: true, color: { argb: "FF9C2A1B" } },
          fill: { type: "pattern", pattern: "solid", bgColor: { argb: "FFF9D9D3" } },
        },
      },
    ],
  });
  sheet.addConditionalFormatting({
    ref: "G5:G5",
    rules: [
      { type: "dataBar", priority: 2, cfvo: [{ type: "num", value: 0 }, { type: "max" }], color: { argb: "FF7FB3A8" } },
    ],
  });
  sheet.pageSetup.printTitlesRow = "4:4";
  const bytes = new Uint8Array(await workbook.xlsx.writeBuffer());
  return withCharts(bytes);
}

function put(sheet, address, value, looks) {
  const cell = sheet.getCell(address);
  cell.value = value;
  Object.assign(cell, { font: { name: "Calibri", size: 11 }, ...looks });
}

const CHART = "http://schemas.openxmlformats.org/drawingml/2006/chart";
const MAIN = "http://schemas.openxmlformats.org/drawingml/2006/main";
const RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const PACKAGE = "http://schemas.openxmlformats.org/package/2006/relationships";
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';

/** The general writer has no charts: two parts and what leads to them are put beside its own. */
function withCharts(bytes) {
  const opened = OoxmlPackage.open(bytes);
  const sheet = "xl/worksheets/sheet1.xml";
  const types = opened
    .getText("[Content_Types].xml")
    .replace(
      "</Types>",
      `<Override PartName="/xl/drawings/drawing1.xml" ContentType="application/vnd.openxmlformats-officedocument.drawing+xml"/>${[1, 2].map((at) => `<Override PartName="/xl/charts/chart${at}.xml" ContentType="application/vnd.openxmlformats-officedocument.drawingml.chart+xml"/>`).join("")}</Types>`,
    );
  const link = (type, target, id = 1) => `<Relationship Id="rId${id}" Type="${RELATIONS}/${type}" Target="${target}"/>`;
  const list = (...links) => `${HEAD}<Relationships xmlns="${PACKAGE}">${links.join("")}</Relationships>`;
  const xml = opened.getText(sheet).replace("</worksheet>", '<drawing r:id="rId1"/></worksheet>');
  return opened
    .with(
      new Map([
        ["[Content_Types].xml", types],
        [sheet, xml],
        ["xl/worksheets/_rels/sheet1.xml.rels", list(link("drawing", "../drawings/drawing1.xml"))],
        ["xl/drawings/drawing1.xml", drawing()],
        [
          "xl/drawings/_rels/drawing1.xml.rels",
          list(link("chart", "../charts/chart1.xml"), link("chart", "../charts/chart2.xml", 2)),
        ],
        ["xl/charts/chart1.xml", columns()],
        ["xl/charts/chart2.xml", ring()],
      ]),
      6,
    )
    .toBytes();
}

function drawing() {
  const anchor = (at, from, to) =>
    `<xdr:twoCellAnchor><xdr:from><xdr:col>${from}</xdr:col><xdr:colOff>0</xdr:colOff><xdr:row>7</xdr:row><xdr:rowOff>0</xdr:rowOff></xdr:from><xdr:to><xdr:col>${to}</xdr:col><xdr:colOff>0</xdr:colOff><xdr:row>22</xdr:row><xdr:rowOff>0</xdr:rowOff></xdr:to><xdr:graphicFrame macro=""><xdr:nvGraphicFramePr><xdr:cNvPr id="${at + 1}" name="Chart ${at}"/><xdr:cNvGraphicFramePr/></xdr:nvGraphicFramePr><xdr:xfrm><a:off x="0" y="0"/><a:ext cx="0" cy="0"/></xdr:xfrm><a:graphic><a:graphicData uri="${CHART}"><c:chart xmlns:c="${CHART}" r:id="rId${at}"/></a:graphicData></a:graphic></xdr:graphicFrame><xdr:clientData/></xdr:twoCellAnchor>`;
  return `${HEAD}<xdr:wsDr xmlns:xdr="http://schemas.openxmlformats.org/drawingml/2006/spreadsheetDrawing" xmlns:a="${MAIN}" xmlns:r="${RELATIONS}">${anchor(1, 0, 5)}${anchor(2, 5, 8)}</xdr:wsDr>`;
}

const fill = (color) => `<c:spPr><a:solidFill><a:srgbClr val="${color}"/></a:solidFill></c:spPr>`;
const series = (at, column, color) =>
  `<c:ser><c:idx val="${at}"/><c:order val="${at}"/><c:tx><c:strRef><c:f>Figures!$${column}$4</c:f></c:strRef></c:tx>${color ? fill(color) : ""}<c:cat><c:strRef><c:f>Figures!$A$5</c:f></c:strRef></c:cat><c:val><c:numRef><c:f>Figures!$${column}$5</c:f></c:numRef></c:val></c:ser>`;
const title = (text) =>
  `<c:title><c:tx><c:rich><a:bodyPr/><a:p><a:pPr><a:defRPr sz="1200" b="1"/></a:pPr><a:r><a:rPr lang="en-GB" sz="1200" b="1"/><a:t>${text}</a:t></a:r></a:p></c:rich></c:tx><c:overlay val="0"/></c:title><c:autoTitleDeleted val="0"/>`;
const chart = (heading, plot, legend) =>
  `${HEAD}<c:chartSpace xmlns:c="${CHART}" xmlns:a="${MAIN}" xmlns:r="${RELATIONS}"><c:chart>${title(heading)}<c:plotArea><c:layout/>${plot}</c:plotArea><c:legend><c:legendPos val="${legend}"/><c:overlay val="0"/></c:legend><c:plotVisOnly val="1"/></c:chart><c:spPr><a:ln><a:solidFill><a:srgbClr val="9DB5B5"/></a:solidFill></a:ln></c:spPr></c:chartSpace>`;

function columns() {
  const axes = `<c:catAx><c:axId val="10"/><c:scaling><c:orientation val="minMax"/></c:scaling><c:delete val="0"/><c:axPos val="b"/><c:majorTickMark val="none"/><c:minorTickMark val="none"/><c:tickLblPos val="nextTo"/><c:crossAx val="20"/></c:catAx><c:valAx><c:axId val="20"/><c:scaling><c:orientation val="minMax"/></c:scaling><c:delete val="0"/><c:axPos val="l"/><c:majorGridlines/><c:numFmt formatCode="0" sourceLinked="0"/><c:majorTickMark val="none"/><c:minorTickMark val="none"/><c:tickLblPos val="nextTo"/><c:crossAx val="10"/></c:valAx>`;
  return chart(
    "Visits at {{ site }}",
    `<c:barChart><c:barDir val="col"/><c:grouping val="stacked"/><c:varyColors val="0"/>${series(0, "D", "0F5C5C")}${series(1, "E", "C8552F")}<c:gapWidth val="60"/><c:overlap val="100"/><c:axId val="10"/><c:axId val="20"/></c:barChart>${axes}`,
    "b",
  );
}

function ring() {
  const labels =
    '<c:dLbls><c:showLegendKey val="0"/><c:showVal val="0"/><c:showCatName val="0"/><c:showSerName val="0"/><c:showPercent val="1"/><c:showBubbleSize val="0"/></c:dLbls>';
  return chart(
    "Fees by unit",
    `<c:doughnutChart><c:varyColors val="1"/>${series(0, "G").replace("<c:cat>", `${labels}<c:cat>`)}<c:firstSliceAng val="0"/><c:holeSize val="55"/></c:doughnutChart>`,
    "r",
  );
}
