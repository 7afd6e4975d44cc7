import type { Finding } from "@corbix/core/common";
import { parseXml, type XmlElement } from "@corbix/core/ooxml";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { bindChart, fillChart, parseChart } from "../../src/marked/charts.js";
import { record } from "../support/helpers.js";

const SERIES = (index: number, more = "") =>
  `<c:ser><c:idx val="${index}"/><c:order val="${index}"/><c:tx><c:v>sample</c:v></c:tx><c:spPr tone="${index}"/>${more}<c:cat/><c:val/><c:smooth val="0"/></c:ser>`;
const chart = (plots: string) =>
  parseXml(
    `<c:chartSpace xmlns:c="urn:c"><c:chart><c:plotArea><c:layout/>${plots}<c:catAx/></c:plotArea></c:chart><c:externalData/></c:chartSpace>`,
    "x",
  ).root;
const BAR = chart(`<c:barChart><c:barDir val="col"/>${SERIES(0)}<c:gapWidth val="80"/></c:barChart>`);

const LINES = [
  { district: "North", fee: 10.1, unit: "L1" },
  { district: "South", fee: 5, unit: "L2" },
  { district: "North", fee: 0.2, unit: "L3" },
  { district: "Harbour", fee: null, unit: "L4" },
];

function filled(mark: string, root: XmlElement = BAR, lines: readonly object[] = LINES) {
  const { scope, env } = record({ lines });
  const notes: Finding[] = [];
  const { chart: made, workbook } = fillChart(root, bindChart(parseChart(mark, "chart 1"), scope, "chart 1"), {
    ...env,
    onNote: (finding) => notes.push(finding),
  });
  const series = made.descendants("ser").map((one) => ({
    name: one.child("tx")?.descendants("v")[0].text,
    categories: (one.child("cat") ?? one.child("xVal"))?.descendants("v").map((point) => point.text),
    values: (one.child("val") ?? one.child("yVal"))?.descendants("v").map((point) => point.text),
    tone: one.child("spPr")?.attr("tone"),
    order: one.elements().map((child) => child.local),
  }));
  return { made, series, notes, workbook };
}

describe("a chart of lines", () => {
  it("adds up the lines of each category, in the order in which they come", () => {
    const { series, notes } = filled("chart line: district, fee");
    expect(series).toMatchObject([
      { name: "Fee", categories: ["North", "South", "Harbour"], values: ["10.3", "5", "0"] },
    ]);
    expect(notes).toEqual([]);
  });

  it("has a series for each further column, in the looks of the template's, counting what is no number", () => {
    const two = chart(`<c:barChart>${SERIES(0)}${SERIES(1)}</c:barChart>`);
    const { series } = filled('chart line: district, fee headed "Fees", unit, line.fee * 2 headed "Double"', two);
    expect(series.map(({ name, values, tone }) => [name, values, tone])).toEqual([
      ["Fees", ["10.3", "5", "0"], "0"],
      ["Unit", ["2", "1", "1"], "1"],
      ["Double", ["20.6", "10", "0"], "1"],
    ]);
  });

  it("stands where the template's series did, each with its children in the standard's order", () => {
    const { made, series } = filled("chart line: district, fee");
    const bar = made.descendants("barChart")[0];
    expect(bar.elements().map((child) => child.local)).toEqual(["barDir", "ser", "gapWidth"]);
    expect(series[0].order).toEqual(["idx", "order", "tx", "spPr", "cat", "val", "smooth"]);
  });

  it("of points has its categories where points have them", () => {
    const points = chart(
      `<c:scatterChart>${SERIES(0).replace("<c:cat/><c:val/>", "<c:xVal/><c:yVal/>")}</c:scatterChart>`,
    );
    expect(filled("chart line: district, fee", points).series[0]).toMatchObject({ values: ["10.3", "5", "0"] });
  });

  it("leaves behind the workbook with the sample, and the other plots of a combined chart", () => {
    const both = chart(`<c:barChart>${SERIES(0)}</c:barChart><c:lineChart>${SERIES(7)}</c:lineChart>`);
    const { made, series, workbook } = filled("chart line: district, fee", both);
    // It leads to one of its own, with the same figures where its series look for them.
    expect(made.elements("externalData").map((one) => one.attr("r:id"))).toEqual(["corbixWorkbook"]);
    const sheet = openWorkbook(workbook, "chart.xlsx").package.getXml("xl/worksheets/sheet1.xml");
    const cells = new Map(sheet.descendants("c").map((cell) => [cell.attr("r"), cell.text]));
    expect(Object.fromEntries(cells)).toEqual({
      B1: "Fee",
      A2: "North",
      B2: "10.3",
      A3: "South",
      B3: "5",
      A4: "Harbour",
      B4: "0",
    });
    expect(
      made
        .descendants("f")
        .map((one) => one.text)
        .slice(0, 3),
    ).toEqual(["Sheet1!$B$1", "Sheet1!$A$2:$A$4", "Sheet1!$B$2:$B$4"]);
    expect(series.map(({ tone }) => tone)).toEqual(["0", "7"]);
  });

  it("with more categories than anybody could read says what it left out", () => {
    const lines = Array.from({ length: 1_003 }, (_, at) => ({ unit: `L${at}`, fee: 1 }));
    const { series, notes } = filled("chart line: unit, fee", BAR, [...lines, { unit: "L1002", fee: 1 }]);
    expect(series[0].categories).toHaveLength(1_000);
    expect(notes).toMatchObject([{ code: "chart-cut", severity: "warn", where: "chart 1" }]);
    expect(notes[0].what).toContain("the first 1000 of 1003 categories");
  });
});

describe("the mark of a chart", () => {
  it("names other lines, headings and formats", () => {
    expect(parseChart('chart parts: kind, count headed "Number" as "0"', "x")).toEqual([
      { lines: "parts", heading: "Kind", source: "parts.`kind`", format: undefined },
      { lines: "parts", heading: "Number", source: "parts.`count`", format: "0" },
    ]);
  });

  it("needs categories and values, of the lines", () => {
    expect(() => parseChart("chart line: district", "x")).toThrow("Cannot make a chart");
    expect(() => filled("chart line: district, 1 + 1")).toThrow("is no field of a line");
  });
});
