import { layWorkbook } from "@corbix/core/layout";
import { eachItem, type PathItem, type TextItem } from "@corbix/core/page";
import { writePdf } from "@corbix/core/pdf";
import { openWorkbook, workbookFromPackage } from "@corbix/core/spreadsheet";
import { WorkbookTemplate } from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { makeElsewhere, readPdf, record } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const ROWS = `for row in [["Month", "Visits", "Failed"], ["Jan", 10, -5], ["Feb", 20, 5], ["Mar", 40, 10]]: sheet.append(row)
def data(column): return Reference(sheet, min_col=column, min_row=1, max_row=4)
names = Reference(sheet, min_col=1, min_row=2, max_row=4)
def add(chart, *columns, at="A8", title="Figures"):
    for column in columns: chart.add_data(data(column), titles_from_data=True)
    chart.set_categories(names)
    chart.title = title
    for axis in ("x_axis", "y_axis"):
        if hasattr(chart, axis): getattr(chart, axis).delete = False
    sheet.add_chart(chart, at)
    return chart
`;

function lay(bytes: Uint8Array) {
  const laid = layWorkbook(openWorkbook(bytes, "t.xlsx"), openFonts(), { file: "", date: "2026-11-02", time: "" });
  const items = laid.pages.flatMap((page) => [...eachItem(page.items)]);
  const texts = items.flatMap((item) => (item.kind === "text" ? [textOf(item)] : []));
  const paths = items.filter((item): item is PathItem => item.kind === "path");
  return { ...laid, items, texts, paths };
}

const textOf = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");

/** Width and height of what a path covers. */
function extent(path: PathItem): { width: number; height: number; top: number } {
  const points = path.commands.flatMap((command) =>
    command[0] === "Z" ? [] : [command.slice(-2) as [number, number]],
  );
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return {
    width: Math.max(...xs) - Math.min(...xs),
    height: Math.max(...ys) - Math.min(...ys),
    top: Math.min(...ys),
  };
}

const filled = (paths: readonly PathItem[], color: string) => paths.filter((path) => path.fill === color);

describe("charts on pages", () => {
  it("draws columns as high as their values, with labels, title and legend", () => {
    const { paths, texts, findings } = lay(makeElsewhere(`${ROWS}add(BarChart(), 2)`));
    const bars = filled(paths, "4F81BD").map(extent);
    expect(bars).toHaveLength(3);
    expect(bars[1].height / bars[0].height).toBeCloseTo(2, 2);
    expect(bars[2].height / bars[0].height).toBeCloseTo(4, 2);
    for (const word of ["Figures", "Jan", "Mar", "Visits", "0", "40"]) expect(texts).toContain(word);
    expect(findings).toEqual([]);
  });

  it("stacks, lays bars down, and lets negative ones grow the other way", () => {
    const stacked = lay(makeElsewhere(`${ROWS}c = BarChart(); c.grouping = "stacked"; c.overlap = 100; add(c, 2, 2)`));
    const [first, second] = [filled(stacked.paths, "4F81BD"), filled(stacked.paths, "C0504D")].map((list) =>
      extent(list[1]),
    );
    expect(first.top).toBeCloseTo(second.top + second.height, 1);
    const lying = lay(makeElsewhere(`${ROWS}c = BarChart(); c.type = "bar"; add(c, 3)`));
    const bars = filled(lying.paths, "4F81BD").map(extent);
    expect(bars[2].width / bars[1].width).toBeCloseTo(2, 2);
    expect(bars[0].width).toBeCloseTo(bars[1].width, 2);
  });

  it("draws shares of a whole as slices, each in its colour, with its per cent", () => {
    const code = `${ROWS}from openpyxl.chart.label import DataLabelList
c = PieChart(); c.dataLabels = DataLabelList(); c.dataLabels.showPercent = True; add(c, 2)`;
    const { paths, texts } = lay(makeElsewhere(code));
    const slices = paths.filter((path) => path.commands.some(([kind]) => kind === "C"));
    expect(slices.map((slice) => slice.fill)).toEqual(["4F81BD", "C0504D", "9BBB59"]);
    expect(texts).toEqual(expect.arrayContaining(["14%", "29%", "57%"]));
  });

  it("draws lines, smooth ones with markers, areas, points and a second axis", () => {
    const code = `${ROWS}c = LineChart(); add(c, 2); c.series[0].smooth = True; c.series[0].marker.symbol = "circle"
add(AreaChart(), 2, at="A28")
s = ScatterChart(); s.style = 13
s.series.append(Series(Reference(sheet, min_col=3, min_row=2, max_row=4), Reference(sheet, min_col=2, min_row=2, max_row=4)))
s.x_axis.delete = False; s.y_axis.delete = False; sheet.add_chart(s, "A48")
b = add(BarChart(), 2, at="A68"); l = LineChart(); l.add_data(data(3), titles_from_data=True); l.y_axis.axId = 200; l.y_axis.crosses = "max"; l.y_axis.delete = False; b += l`;
    const { paths, pages } = lay(makeElsewhere(code));
    const curves = paths.filter((path) => path.stroke && !path.fill && path.commands.some(([kind]) => kind === "C"));
    expect(curves.length).toBeGreaterThanOrEqual(1);
    const area = filled(paths, "4F81BD").find((path) => path.commands.length === 7);
    expect(area).toBeDefined();
    const checked = readPdf(writePdf(pages, { title: "t" }), "qpdf");
    expect(checked).toContain("No syntax or stream encoding errors");
  });

  it("fills a chart sheet's page, and cuts a chart that lies across two pages at their edge", () => {
    const whole = lay(
      makeElsewhere(
        `${ROWS}c = PieChart(); c.add_data(data(2), titles_from_data=True); c.set_categories(names); book.create_chartsheet("Only").add_chart(c)`,
      ),
    );
    expect(whole.outline.map((entry) => entry.title)).toEqual(["Sheet", "Only"]);
    expect(whole.pages[1].widthPt).toBeGreaterThan(whole.pages[1].heightPt);
    const wide = lay(makeElsewhere(`${ROWS}add(BarChart(), 2, at="G1").width = 30`));
    expect(wide.pages.length).toBeGreaterThan(1);
    for (const page of wide.pages) expect(page.items.some((item) => item.kind === "group")).toBe(true);
  });

  describe("whose axes stand around a middle", () => {
    const radar = (more = "", columns = "2, 3") =>
      lay(makeElsewhere(`${ROWS}c = RadarChart()\n${more}\nadd(c, ${columns})`));
    const middle = (paths: readonly PathItem[]): readonly [number, number] => {
      const spoke = paths.find((path) => path.stroke?.color === "D9D9D9" && path.commands.length === 2);
      return spoke?.commands[0].slice(1) as [number, number];
    };
    const points = (path: PathItem) =>
      path.commands.flatMap((command) => (command[0] === "Z" ? [] : [command.slice(1) as [number, number]]));

    it("put each value as far from it as it is large, the first on top, and name the categories", () => {
      const { paths, texts, findings } = radar("", "2");
      const [cx, cy] = middle(paths);
      const ring = paths.findLast((path) => path.stroke?.color === "4F81BD");
      const far = points(ring as PathItem).map(([x, y]) => Math.hypot(x - cx, y - cy));
      expect(far.map((one) => Math.round((one / far[0]) * 100) / 100)).toEqual([1, 2, 4]);
      expect(points(ring as PathItem)[0][0]).toBeCloseTo(cx, 3);
      expect(ring?.commands.at(-1)).toEqual(["Z"]);
      for (const word of ["Jan", "Feb", "Mar", "0", "50"]) expect(texts).toContain(word);
      expect(findings).toEqual([]);
    });

    it("fill their rings, draw markers and leave the labels of a hidden axis out, as they say", () => {
      const full = radar('c.type = "filled"');
      expect(full.paths.filter((path) => path.fill === "4F81BD" || path.fill === "C0504D")).toHaveLength(2);
      // What is filled has no gap: it falls to the middle there, as an area falls to nought.
      const broken = radar('c.type = "filled"; sheet["B3"] = None; c.display_blanks = "gap"', "2");
      const area = filled(broken.paths, "4F81BD")[0];
      expect(points(area)[1]).toEqual(middle(broken.paths).map((one) => expect.closeTo(one, 3)));
      // Three on the ring, one in the legend.
      const marked = lay(
        makeElsewhere(`${ROWS}c = RadarChart(); c.type = "marker"; add(c, 2); c.series[0].marker.symbol = "circle"`),
      );
      expect(
        filled(marked.paths, "4F81BD").filter((path) => path.commands.some(([kind]) => kind === "C")),
      ).toHaveLength(4);
      const plain = lay(makeElsewhere(`${ROWS}c = RadarChart(); add(c, 2); c.y_axis.delete = True`));
      expect(plain.texts).not.toContain("50");
      expect(plain.texts).toContain("Feb");
    });

    it("say their values where they are asked to", () => {
      const { texts } = radar(
        "from openpyxl.chart.label import DataLabelList\nc.dataLabels = DataLabelList(); c.dataLabels.showVal = True",
        "2",
      );
      // In the cell, at the axis and at the point.
      expect(texts.filter((text) => text === "20")).toHaveLength(3);
    });

    it("break at a value that is not there, unless they say that it is nought or passed over", () => {
      const without = (blanks: string) =>
        radar(`sheet["B3"] = None; c.display_blanks = "${blanks}"`, "2").paths.findLast(
          (path) => path.stroke?.color === "4F81BD",
        )?.commands;
      expect(without("gap")?.map(([kind]) => kind)).toEqual(["M", "L"]);
      expect(without("span")?.map(([kind]) => kind)).toEqual(["M", "L", "Z"]);
      expect(without("zero")?.map(([kind]) => kind)).toEqual(["M", "L", "L", "Z"]);
    });
  });

  it("treats a blank value as the chart says: a gap, nought, or nothing to stop at", () => {
    const line = (kind: string, blanks: string) =>
      lay(makeElsewhere(`${ROWS}sheet["B3"] = None; c = ${kind}Chart(); c.display_blanks = "${blanks}"; add(c, 2)`));
    const kinds = (laid: ReturnType<typeof lay>) =>
      laid.paths.findLast((path) => path.stroke?.color === "4F81BD")?.commands.map(([kind]) => kind);
    expect(kinds(line("Line", "gap"))).toEqual(["M", "M"]);
    expect(kinds(line("Line", "span"))).toEqual(["M", "L"]);
    expect(kinds(line("Line", "zero"))).toEqual(["M", "L", "L"]);
    // An area falls to nought, or goes straight from its first value to its last.
    const area = (blanks: string) =>
      filled(line("Area", blanks).paths, "4F81BD").find((path) => path.commands.length > 4);
    expect(area("gap")?.commands).toHaveLength(7);
    expect(area("span")?.commands).toHaveLength(5);
  });

  it("names a kind that is not drawn", () => {
    const { findings } = lay(makeElsewhere(`${ROWS}add(SurfaceChart(), 2)`));
    expect(findings.map((finding) => finding.what)).toEqual([expect.stringContaining("surfaceChart")]);
  });
});

describe("charts of a filled template", () => {
  it("show the group's figures: references, stored values, title and pages", () => {
    const template =
      makeElsewhere(`sheet.append(["Unit", "Fee"]); sheet.append(["{{ line.unit }}", "{{ line.fee }}"]); sheet.append(["Total", "=SUM(B2:B2)"])
c = BarChart(); c.add_data(Reference(sheet, min_col=2, min_row=1, max_row=2), titles_from_data=True); c.set_categories(Reference(sheet, min_col=1, min_row=2, max_row=2))
c.title = "Fees of {{ site }}"; c.x_axis.delete = False; c.y_axis.delete = False; sheet.add_chart(c, "A6")`);
    const { scope, env } = record({
      site: "Dock & Co",
      lines: [
        { unit: "L1", fee: 5 },
        { unit: "L2", fee: 10 },
        { unit: "L3", fee: 20 },
      ],
    });
    const { package: made } = WorkbookTemplate.read(template, "t.xlsx").bind(scope).fill(env);
    expect(problemsOf(made.toBytes())).toEqual([]);
    const xml = made.getText("xl/charts/chart1.xml");
    expect(xml).toMatch(/<(?:c:)?f>'?Sheet'?!\$B\$2:\$B\$4<\/(?:c:)?f>/);
    expect(xml.replaceAll("c:", "")).toMatch(/<ptCount val="3"\/>.*<pt idx="2"><v>20<\/v><\/pt>/);
    expect(xml).toContain("Fees of Dock &amp; Co");
    const laid = layWorkbook(workbookFromPackage(made), openFonts(), { file: "", date: "2026-11-02", time: "" });
    const items = laid.pages.flatMap((page) => [...eachItem(page.items)]);
    const texts = items.flatMap((item) => (item.kind === "text" ? [textOf(item)] : []));
    expect(texts.filter((text) => text === "L2")).toHaveLength(2);
    expect(texts).toContain("Fees of Dock & Co");
    const bars = items.filter((item): item is PathItem => item.kind === "path" && item.fill === "4F81BD").map(extent);
    expect(bars.map((bar) => Math.round((bar.height / bars[0].height) * 10))).toEqual([10, 20, 40]);
  });
});
