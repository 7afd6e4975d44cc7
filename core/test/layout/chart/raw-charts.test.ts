/** Charts by their markup, drawn into a box: what each kind, axis, label and marker that a file can ask for looks like. */
import { parseXml } from "@corbix/core/ooxml";
import { eachItem, type PageItem, type PathItem, type TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drawChart } from "../../../src/layout/chart/draw-chart.js";
import { readChart } from "../../../src/layout/chart/read-chart.js";

const THEME = {
  colors: ["FFFFFF", "000000", "EEECE1", "1F497D", "4F81BD", "C0504D", "9BBB59", "8064A2", "4BACC6", "F79646"],
  majorFont: "Calibri",
  minorFont: "Calibri",
} as never;
const BOX = { width: 400, height: 300 };
const NAMES =
  'xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"';

const numbers = (values: readonly (number | null)[], format = "General") =>
  `<c:numRef><c:numCache><c:formatCode>${format}</c:formatCode><c:ptCount val="${values.length}"/>${values.map((value, at) => (value === null ? "" : `<c:pt idx="${at}"><c:v>${value}</c:v></c:pt>`)).join("")}</c:numCache></c:numRef>`;
const words = (values: readonly string[]) =>
  `<c:strRef><c:strCache><c:ptCount val="${values.length}"/>${values.map((value, at) => `<c:pt idx="${at}"><c:v>${value}</c:v></c:pt>`).join("")}</c:strCache></c:strRef>`;
const ser = (values: readonly (number | null)[], more = "", name = "Visits", format?: string) =>
  `<c:ser><c:idx val="0"/><c:tx>${words([name])}</c:tx>${more}<c:cat>${words(values.map((_, at) => "ABCDEFGH"[at]))}</c:cat><c:val>${numbers(values, format)}</c:val></c:ser>`;
const axis = (
  kind: "catAx" | "valAx" | "dateAx",
  id: number,
  side: string,
  more = "",
  scaling = '<c:orientation val="minMax"/>',
) =>
  `<c:${kind}><c:axId val="${id}"/><c:scaling>${scaling}</c:scaling><c:delete val="0"/><c:axPos val="${side}"/>${more}</c:${kind}>`;
const AXES = axis("catAx", 1, "b") + axis("valAx", 2, "l");
const ids = '<c:axId val="1"/><c:axId val="2"/>';
const draw = (plot: string, axes = AXES, more = "") => {
  const xml = `<c:chartSpace ${NAMES}><c:chart><c:autoTitleDeleted val="1"/><c:plotArea>${plot}${axes}</c:plotArea>${more}</c:chart></c:chartSpace>`;
  const items: PageItem[] = [
    ...eachItem(
      drawChart(readChart(parseXml(xml, "chart.xml").root, THEME, { at: () => undefined }), BOX, openFonts(), THEME),
    ),
  ];
  const texts = items.filter((item): item is TextItem => item.kind === "text");
  const paths = items.filter((item): item is PathItem => item.kind === "path");
  return { items, texts, paths, said: texts.map(textOf) };
};
const textOf = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");
const bars = (more = "", series = ser([10, 20, 40]), kind = "barChart") =>
  `<c:${kind}><c:barDir val="col"/><c:grouping val="clustered"/>${series}${more}${ids}</c:${kind}>`;
const extent = (path: PathItem) => {
  const points = path.commands.flatMap((command) =>
    command[0] === "Z" ? [] : [command.slice(-2) as [number, number]],
  );
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return {
    x: Math.min(...xs),
    y: Math.min(...ys),
    width: Math.max(...xs) - Math.min(...xs),
    height: Math.max(...ys) - Math.min(...ys),
  };
};
const BLUE = "4F81BD";
const blue = (paths: readonly PathItem[]) => paths.filter((path) => path.fill === BLUE).map(extent);
const labels = (shows: string, position = "", more = "") =>
  `<c:dLbls>${more}${position === "" ? "" : `<c:dLblPos val="${position}"/>`}${["showVal", "showCatName", "showSerName", "showPercent"].map((name) => `<c:${name} val="${shows.includes(name) ? 1 : 0}"/>`).join("")}</c:dLbls>`;

describe("bars", () => {
  it("are as high as their values, side by side with the gap and overlap that is asked for", () => {
    const one = blue(draw(bars()).paths);
    expect(one.map(({ height }) => Math.round((height / one[0].height) * 10))).toEqual([10, 20, 40]);
    const narrow = blue(draw(bars('<c:gapWidth val="500"/>')).paths);
    expect(narrow[0].width).toBeCloseTo((one[0].width * 2.5) / 6, 1);
    const red = ser([5, 5, 5], "", "Failed").replace('<c:idx val="0"/>', '<c:idx val="1"/>');
    const two = draw(bars('<c:overlap val="100"/>', ser([10, 20, 40]) + red)).paths;
    const [first] = blue(two);
    const second = extent(two.filter((path) => path.fill === "C0504D")[0]);
    expect(second.x).toBeCloseTo(first.x, 1);
  });

  it("lie down, and grow to the left of nought where they are negative", () => {
    const lying = draw(
      bars("", ser([10, -10])).replace('barDir val="col"', 'barDir val="bar"'),
      axis("catAx", 1, "l") + axis("valAx", 2, "b"),
    );
    const [right, left] = blue(lying.paths);
    expect(left.x + left.width).toBeCloseTo(right.x, 1);
    expect(right.width).toBeCloseTo(left.width, 1);
    const labelled = draw(
      bars(labels("showVal", "outEnd"), ser([10, -10])).replace('barDir val="col"', 'barDir val="bar"'),
      axis("catAx", 1, "l") + axis("valAx", 2, "b", "", '<c:max val="20"/><c:min val="-20"/>'),
    );
    const at = (text: string) => labelled.texts.filter((item) => textOf(item) === text).map((item) => item.x);
    expect(Math.max(...at("10"))).toBeGreaterThan(blue(labelled.paths)[0].x + blue(labelled.paths)[0].width);
    expect(Math.min(...at("-10"))).toBeLessThan(blue(labelled.paths)[1].x);
  });

  it.each(["ctr", "inEnd", "inBase", "outEnd"])("say their values where labels stand: %s", (position) => {
    const { texts, paths } = draw(bars(labels("showVal", position), ser([30])));
    const [bar] = blue(paths);
    const label = texts
      .filter((item) => textOf(item) === "30")
      .find((item) => item.x > bar.x && item.x < bar.x + bar.width);
    const isInside = label !== undefined && label.y > bar.y && label.y < bar.y + bar.height;
    expect([label !== undefined, isInside]).toEqual([true, position !== "outEnd"]);
  });

  it("are stacked, to a hundred in the hundred where that is asked, and a label that is deleted is not shown", () => {
    const red = ser([30, 0], "", "Failed").replace('<c:idx val="0"/>', '<c:idx val="1"/>');
    const stacked = (grouping: string) =>
      draw(
        bars(
          labels("showVal", "", '<c:dLbl><c:idx val="1"/><c:delete val="1"/></c:dLbl>'),
          ser([10, 20]) + red,
        ).replace('grouping val="clustered"', `grouping val="${grouping}"`),
      );
    const plain = stacked("stacked");
    expect(blue(plain.paths).map(({ height }) => Math.round(height))).toEqual([
      Math.round(blue(plain.paths)[0].height),
      Math.round(blue(plain.paths)[0].height * 2),
    ]);
    const shares = stacked("percentStacked");
    const [quarter, whole] = blue(shares.paths);
    expect(whole.height / quarter.height).toBeCloseTo(4, 1);
    expect(plain.said.filter((text) => text === "20").length).toBeLessThanOrEqual(1);
  });

  it("keep their own colours, outlines and none", () => {
    const fill = (paint: string) => `<c:spPr>${paint}</c:spPr>`;
    const outlined = draw(
      bars(
        "",
        ser([10], fill('<a:noFill/><a:ln w="25400"><a:solidFill><a:srgbClr val="112233"/></a:solidFill></a:ln>')),
      ),
    );
    expect(blue(outlined.paths)).toEqual([]);
    expect(outlined.paths.filter((path) => path.stroke?.color === "112233").map((path) => path.stroke?.width)).toEqual([
      2,
    ]);
    const point = `<c:dPt><c:idx val="1"/>${fill('<a:solidFill><a:srgbClr val="AA0000"/></a:solidFill>')}</c:dPt>`;
    const own = draw(bars("", ser([10, 20], point)));
    expect(own.paths.filter((path) => path.fill === "AA0000")).toHaveLength(1);
    const varied = draw(bars('<c:varyColors val="1"/>', ser([10, 20, 30])));
    expect(
      new Set(varied.paths.flatMap((path) => (path.fill && extent(path).height > 20 ? [path.fill] : []))).size,
    ).toBeGreaterThan(1);
  });
});

describe("lines, areas and points", () => {
  const line = (series: string, more = "", kind = "lineChart") =>
    `<c:${kind}><c:grouping val="standard"/>${series}${more}${ids}</c:${kind}>`;
  const strokes = (plot: string, more = "") =>
    draw(plot, AXES, more).paths.filter((path) => path.stroke?.color === BLUE || path.stroke?.color === "010203");

  it("are drawn from value to value, break at a gap or go on, straight or smooth, in their own line", () => {
    const moves = (plot: string, more = "") =>
      strokes(plot, more)[0]
        .commands.map((command) => command[0])
        .join("");
    expect(moves(line(ser([1, 2, 3])))).toBe("MLL");
    expect(moves(line(ser([1, null, 3])))).toBe("MM");
    expect(moves(line(ser([1, null, 3])), '<c:dispBlanksAs val="span"/>')).toBe("ML");
    expect(moves(line(ser([1, null, 3])), '<c:dispBlanksAs val="zero"/>')).toBe("MLL");
    expect(moves(line(ser([1, 2, 3]).replace("</c:val>", '</c:val><c:smooth val="1"/>')))).toBe("MCC");
    expect(moves(line(ser([1, 2, 3]).replace("</c:val>", "</c:val><c:smooth/>")))).toBe("MCC");
    const own =
      '<c:spPr><a:ln w="12700"><a:solidFill><a:srgbClr val="010203"/></a:solidFill><a:prstDash val="dash"/></a:ln></c:spPr>';
    expect(strokes(line(ser([1, 2], own)))[0].stroke).toMatchObject({ color: "010203", width: 1 });
    expect(strokes(line(ser([1, 2], "<c:spPr><a:ln><a:noFill/></a:ln></c:spPr>")))).toEqual([]);
  });

  it.each(["circle", "square", "dash", "triangle", "diamond", "x", "plus", "star", "dot"])(
    "have markers of the kind %s, in the colour of their point",
    (symbol) => {
      const marker = `<c:marker><c:symbol val="${symbol}"/><c:size val="10"/><c:spPr><a:solidFill><a:srgbClr val="00AA00"/></a:solidFill></c:spPr></c:marker><c:dPt><c:idx val="1"/><c:spPr><a:solidFill><a:srgbClr val="AA0000"/></a:solidFill></c:spPr></c:dPt>`;
      const { paths } = draw(line(ser([1, 2, 3], marker)));
      const green = paths.filter((path) => path.fill === "00AA00").map(extent);
      expect(green).toHaveLength(2);
      expect(green[0].width).toBeCloseTo(10, 1);
      expect(paths.filter((path) => path.fill === "AA0000")).toHaveLength(1);
      const none = draw(
        line(ser([1, 2], marker.replace("<a:solidFill>", "<a:noFill/><a:x>").replace("</a:solidFill>", "</a:x>"))),
      );
      expect(none.paths.filter((path) => path.fill === "00AA00")).toEqual([]);
    },
  );

  it.each([
    ["r", 1, 0],
    ["l", -1, 0],
    ["t", 0, -1],
    ["b", 0, 1],
    ["ctr", 0, 0],
  ])("say their values beside their points: %s", (position, right, below) => {
    const shown = (text: string, plot: string) =>
      draw(plot)
        .texts.filter((item) => textOf(item) === text)
        .at(-1) as TextItem;
    const at = shown("17", line(ser([10, 17, 20], labels("showVal", position))));
    const centre = shown("17", line(ser([10, 17, 20], labels("showVal", "ctr"))));
    expect([Math.sign(Math.round(at.x - centre.x)), Math.sign(Math.round(at.y - centre.y))]).toEqual([right, below]);
  });

  it("say what is asked for, joined, in the format that is asked for or the values' own", () => {
    const said = (shows: string, more = "") =>
      draw(line(ser([0.5, 1234.5], labels(shows, "t", more), "Fees", "0.00"))).said;
    expect(said("showVal showCatName showSerName")).toContain("Fees; B; 1234.50");
    expect(said("showVal", '<c:numFmt formatCode="#,##0" sourceLinked="0"/>')).toContain("1,235");
    expect(said("showVal", '<c:numFmt formatCode="#,##0" sourceLinked="1"/>')).toContain("1234.50");
    expect(said("")).not.toContain("1234.50");
    expect(said("showVal", '<c:delete val="1"/>')).not.toContain("1234.50");
  });

  it("fill areas down to nought, to what they are stacked on, or to the least value, the first before the last", () => {
    const red = ser([10, 10, 10], "", "Failed").replace('<c:idx val="0"/>', '<c:idx val="1"/>');
    const area = (grouping: string) =>
      draw(
        line(ser([20, 30, 20]) + red, "", "areaChart").replace('grouping val="standard"', `grouping val="${grouping}"`),
      ).paths.filter((path) => path.fill && path.commands.length > 5);
    expect(area("standard").map((path) => path.fill)).toEqual(["C0504D", BLUE]);
    const [below, above] = area("stacked").map(extent);
    expect(above.y + above.height).toBeLessThan(below.y + below.height);
    expect(area("percentStacked").map((path) => Math.round(extent(path).height))).toHaveLength(2);
  });

  it("stand at their own places where both axes have numbers, joined or not; bubbles are as large as they say", () => {
    const points = (style: string, more = "") =>
      `<c:scatterChart><c:scatterStyle val="${style}"/><c:ser><c:idx val="0"/>${more}<c:xVal>${numbers([1, 2, 4])}</c:xVal><c:yVal>${numbers([1, 2, 4])}</c:yVal></c:ser>${ids}</c:scatterChart>`;
    const both = axis("valAx", 1, "b") + axis("valAx", 2, "l");
    const dots = draw(points("marker"), both)
      .paths.filter((path) => path.fill === BLUE)
      .map(extent);
    expect(dots).toHaveLength(3);
    expect((dots[2].x - dots[0].x) / (dots[1].x - dots[0].x)).toBeCloseTo(3, 2);
    expect((dots[0].y - dots[2].y) / (dots[0].y - dots[1].y)).toBeCloseTo(3, 2);
    expect(draw(points("marker"), both).paths.some((path) => path.stroke?.color === BLUE)).toBe(false);
    expect(draw(points("lineMarker"), both).paths.some((path) => path.stroke?.color === BLUE)).toBe(true);
    const bubbles = `<c:bubbleChart><c:ser><c:idx val="0"/><c:xVal>${numbers([1, 2, 3])}</c:xVal><c:yVal>${numbers([1, null, 4])}</c:yVal><c:bubbleSize>${numbers([1, 9, 4])}</c:bubbleSize></c:ser>${ids}</c:bubbleChart>`;
    const round = draw(bubbles, both)
      .paths.filter((path) => path.fill === BLUE)
      .map(extent);
    expect(round).toHaveLength(2);
    expect(round[1].width / round[0].width).toBeCloseTo(2, 2);
    const places = draw(
      bubbles.replace(/<c:xVal>.*?<\/c:xVal>/, "").replace(/<c:bubbleSize>.*?<\/c:bubbleSize>/, ""),
      both,
    );
    expect(places.paths.filter((path) => path.fill === BLUE)).toHaveLength(2);
  });
});

describe("an axis", () => {
  const value = (more: string, scaling = "") =>
    draw(bars(), axis("catAx", 1, "b") + axis("valAx", 2, "l", more, scaling)).said.filter((text) =>
      /^[-\d.,%]+$/.test(text),
    );

  it.each<[string, string, string, readonly string[]]>([
    ["as the values ask", "", "", ["0", "5", "10", "15", "20", "25", "30", "35", "40", "45"]],
    ["from and to", "", '<c:max val="60"/><c:min val="20"/>', ["20", "25", "30", "35", "40", "45", "50", "55", "60"]],
    ["in steps", '<c:majorUnit val="25"/>', "", ["0", "25", "50"]],
    [
      "in a format",
      '<c:numFmt formatCode="0.0" sourceLinked="0"/><c:majorUnit val="25"/>',
      "",
      ["0.0", "25.0", "50.0"],
    ],
    ["by powers", "", '<c:logBase val="10"/><c:min val="1"/>', ["1", "10", "100"]],
    ["not by powers of one", '<c:majorUnit val="25"/>', '<c:logBase val="1"/>', ["0", "25", "50"]],
    [
      "by no bounds that are no numbers",
      '<c:majorUnit val="x"/>',
      '<c:max val="x"/><c:min val=""/>',
      ["0", "5", "10", "15", "20", "25", "30", "35", "40", "45"],
    ],
    [
      "in no steps of nothing",
      '<c:majorUnit val="0"/>',
      "",
      ["0", "5", "10", "15", "20", "25", "30", "35", "40", "45"],
    ],
    ["without labels", '<c:tickLblPos val="none"/>', "", []],
  ])("counts %s", (_, more, scaling, wanted) => {
    expect(value(more, scaling)).toEqual(wanted);
  });

  it("turns round, stands at either side, and is gone where it is deleted", () => {
    const at = (axes: string) => draw(bars(), axes);
    const first = (drawn: ReturnType<typeof draw>) => blue(drawn.paths)[0];
    const plain = at(AXES);
    const turned = at(axis("catAx", 1, "b", "", '<c:orientation val="maxMin"/>') + axis("valAx", 2, "l"));
    expect(first(turned).x).toBeGreaterThan(first(plain).x + 100);
    const upside = at(axis("catAx", 1, "b") + axis("valAx", 2, "l", "", '<c:orientation val="maxMin"/>'));
    expect(first(upside).y).toBeLessThan(first(plain).y);
    const right = at(axis("catAx", 1, "t") + axis("valAx", 2, "r", '<c:tickLblPos val="high"/>'));
    const label = (drawn: ReturnType<typeof draw>, text: string) =>
      drawn.texts.find((item) => textOf(item) === text) as TextItem;
    expect(label(right, "40").x).toBeGreaterThan(label(plain, "40").x + 200);
    expect(label(right, "A").y).toBeLessThan(label(plain, "A").y - 100);
    expect(
      at(axis("catAx", 1, "b").replace('delete val="0"', 'delete val="1"') + axis("valAx", 2, "l")).said,
    ).not.toContain("A");
  });

  it("has titles, lines across, and labels that are turned, skipped or cut where there are many", () => {
    const title = "<c:title><c:tx><c:rich><a:p><a:r><a:t>Fees in CHF</a:t></a:r></a:p></c:rich></c:tx></c:title>";
    const grid =
      '<c:majorGridlines><c:spPr><a:ln w="6350"><a:solidFill><a:srgbClr val="ABCDEF"/></a:solidFill></a:ln></c:spPr></c:majorGridlines>';
    const titled = draw(bars(), axis("catAx", 1, "b", title) + axis("valAx", 2, "l", title + grid));
    expect(titled.said.filter((text) => text.includes("Fees"))).toHaveLength(2);
    const [across] = titled.paths.filter((path) => path.stroke?.color === "ABCDEF");
    expect(across.commands.filter((command) => command[0] === "M").length).toBeGreaterThan(3);
    const many = Array.from({ length: 40 }, (_, at) => at + 1);
    const long = `<c:ser><c:idx val="0"/><c:cat>${words(many.map((at) => `Inspection site ${at}`))}</c:cat><c:val>${numbers(many)}</c:val></c:ser>`;
    const shown = (more: string) =>
      draw(bars("", long), axis("catAx", 1, "b", more) + axis("valAx", 2, "l")).texts.filter((item) =>
        textOf(item).startsWith("Inspection"),
      );
    expect(shown("").length).toBeLessThanOrEqual(40);
    expect(shown('<c:tickLblSkip val="10"/>')).toHaveLength(4);
    const turn = (degrees: number) => `<c:txPr><a:bodyPr rot="${degrees * 60_000}"/></c:txPr>`;
    expect(shown(turn(-90)).every((item) => item.y > 0)).toBe(true);
    expect(shown(turn(45)).length).toBeGreaterThan(0);
    const upright = draw(
      bars("", long).replace('barDir val="col"', 'barDir val="bar"'),
      axis("catAx", 1, "l") + axis("valAx", 2, "b"),
    ).texts.filter((item) => textOf(item).startsWith("Inspection"));
    expect(upright.length).toBeLessThan(40);
  });
});

describe("a chart of any figures", () => {
  it("lies inside its box, whatever its values, bounds and kind", () => {
    const figure = fc.oneof(
      fc.constant(null),
      fc.integer({ min: -1_000, max: 1_000 }),
      fc.constantFrom(0, 1e-9, -1e12, 1e12, 0.3),
    );
    const bound = fc.oneof(
      fc.constant(""),
      fc.integer({ min: -50, max: 50 }).map(String),
      fc.constantFrom("x", "1e400"),
    );
    fc.assert(
      fc.property(
        fc.array(figure, { minLength: 1, maxLength: 8 }),
        fc.constantFrom("barChart", "lineChart", "areaChart", "pieChart", "doughnutChart", "radarChart"),
        fc.constantFrom("standard", "clustered", "stacked", "percentStacked"),
        fc.tuple(bound, bound, bound),
        fc.constantFrom("", "2", "10", "0", "-3"),
        (values, kind, grouping, [min, max, unit], log) => {
          const scaling = `${log === "" ? "" : `<c:logBase val="${log}"/>`}<c:orientation val="minMax"/>${max === "" ? "" : `<c:max val="${max}"/>`}${min === "" ? "" : `<c:min val="${min}"/>`}`;
          const axes =
            axis("catAx", 1, "b") + axis("valAx", 2, "l", unit === "" ? "" : `<c:majorUnit val="${unit}"/>`, scaling);
          const plot = `<c:${kind}><c:grouping val="${grouping}"/>${ser(values, labels("showVal showPercent"))}${kind.startsWith("pie") || kind.startsWith("dough") ? "" : ids}</c:${kind}>`;
          const { texts, paths } = draw(plot, kind.startsWith("pie") || kind.startsWith("dough") ? "" : axes);
          for (const item of texts) expect([Number.isFinite(item.x), Number.isFinite(item.y)]).toEqual([true, true]);
          for (const path of paths)
            for (const command of path.commands)
              for (const part of command.slice(1)) expect(Number.isFinite(part as number)).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});
