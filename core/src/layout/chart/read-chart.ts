/** A chart as far as drawing it goes: ECMA-376 part 1, 21.2. */
import { oneOf } from "../../common/index.js";
import type { XmlElement } from "../../ooxml/index.js";
import { isTrue, type Theme } from "../../spreadsheet/index.js";
import { type Fill, fillOf, type Outline, outlineOf, type TextLook, textLook } from "../drawing/paint.js";
import type { CellValues } from "./cell-values.js";

export type PlotKind = "bar" | "line" | "area" | "pie" | "doughnut" | "scatter" | "radar" | "bubble";

export interface Series {
  readonly name: string;
  readonly categories: readonly (string | number)[];
  readonly categoryFormat: string;
  readonly values: readonly (number | undefined)[];
  readonly valueFormat: string;
  readonly sizes: readonly (number | undefined)[];
  readonly fill: Fill | "none" | undefined;
  readonly line: Outline | "none" | undefined;
  readonly marker: { readonly symbol: string; readonly size: number; readonly fill: Fill | "none" | undefined };
  readonly smooth: boolean;
  /** Looks of single points, by index. */
  readonly points: ReadonlyMap<number, { readonly fill: Fill | "none" | undefined; readonly pulled: number }>;
  readonly labels: Labels | undefined;
  /** Place among all series of the chart, from which its usual colour comes. */
  readonly order: number;
}

export interface Labels {
  readonly value: boolean;
  readonly category: boolean;
  readonly series: boolean;
  readonly percent: boolean;
  readonly position: string | undefined;
  readonly format: string | undefined;
  readonly look: TextLook;
  readonly hidden: ReadonlySet<number>;
}

export interface Plot {
  readonly kind: PlotKind;
  /** Bars lie instead of standing. */
  readonly lying: boolean;
  readonly grouping: "clustered" | "stacked" | "percentStacked" | "standard";
  /** Of bars: the gap between groups and how far bars of one group lie over each other, in per cent of a bar. */
  readonly gap: number;
  readonly overlap: number;
  readonly hole: number;
  readonly firstAngle: number;
  readonly varied: boolean;
  readonly series: readonly Series[];
  readonly axes: readonly string[];
  readonly scatterLines: boolean;
  /** What a point without a value does to a line: it breaks it, or is passed over. Where it counts as nought, it has that value. */
  readonly blanks: "gap" | "span";
  readonly radarStyle: "standard" | "marker" | "filled";
}

export interface Axis {
  readonly id: string;
  readonly kind: "category" | "value";
  readonly side: "b" | "l" | "r" | "t";
  readonly deleted: boolean;
  readonly reversed: boolean;
  readonly min: number | undefined;
  readonly max: number | undefined;
  readonly unit: number | undefined;
  readonly log: number | undefined;
  readonly grid: Outline | "none" | undefined;
  readonly hasGrid: boolean;
  readonly title: ChartText | undefined;
  readonly format: string | undefined;
  readonly labels: string;
  readonly look: TextLook;
  readonly line: Outline | "none" | undefined;
  /** Turned labels, in degrees as stored; `undefined` where it is left open. */
  readonly turn: number | undefined;
  readonly skip: number | undefined;
  readonly betweenTicks: boolean;
  readonly crosses: string;
}

export interface ChartText {
  readonly text: string;
  readonly look: TextLook;
}

export interface ChartPlace {
  readonly x: number;
  readonly y: number;
  readonly width: number | undefined;
  readonly height: number | undefined;
}

export interface Chart {
  readonly title: ChartText | undefined;
  readonly titlePlace: ChartPlace | undefined;
  readonly plots: readonly Plot[];
  readonly axes: readonly Axis[];
  readonly legend:
    | { readonly side: string; readonly look: TextLook; readonly place: ChartPlace | undefined }
    | undefined;
  readonly hiddenInLegend: ReadonlySet<number>;
  readonly plotPlace: ChartPlace | undefined;
  readonly ground: Fill | "none" | undefined;
  readonly frame: Outline | "none" | undefined;
  readonly plotGround: Fill | "none" | undefined;
  readonly rounded: boolean;
  /** Kinds of plots that are not drawn. */
  readonly unknown: readonly string[];
}

const KINDS: Readonly<Record<string, PlotKind>> = {
  barChart: "bar",
  bar3DChart: "bar",
  lineChart: "line",
  line3DChart: "line",
  areaChart: "area",
  area3DChart: "area",
  pieChart: "pie",
  pie3DChart: "pie",
  ofPieChart: "pie",
  doughnutChart: "doughnut",
  scatterChart: "scatter",
  radarChart: "radar",
  bubbleChart: "bubble",
};

/** Kinds whose points are joined, so that a blank one shows. */
const LINES: ReadonlySet<PlotKind> = new Set(["line", "scatter", "radar"]);

const AXES = new Set(["catAx", "valAx", "dateAx", "serAx"]);

/** `cells` gives what a reference leads to, where the chart stores no values. */
export function readChart(root: XmlElement, theme: Theme, cells: Pick<CellValues, "at">): Chart {
  return new ChartReader(root, theme, cells).read();
}

class ChartReader {
  private readonly usual: TextLook;
  private order = 0;
  /** 21.2.2.42; the element without a value means nought. */
  private readonly blanks: "gap" | "span" | "zero";

  constructor(
    private readonly root: XmlElement,
    private readonly theme: Theme,
    private readonly cells: Pick<CellValues, "at">,
  ) {
    const plain = { size: 10, bold: false, italic: false, color: theme.colors[1] ?? "000000", font: theme.minorFont };
    this.usual = this.look(root.child("txPr"), plain);
    const blanks = root.child("chart")?.child("dispBlanksAs");
    this.blanks = blanks ? oneOf(["gap", "span", "zero"], val(blanks), "zero") : "gap";
  }

  read(): Chart {
    const { root, theme } = this;
    const chart = root.child("chart");
    const area = chart?.child("plotArea");
    const found = (area?.elements() ?? []).filter((one) => one.local.endsWith("Chart"));
    const plots = found.flatMap((element) => this.plot(element) ?? []);
    const legend = chart?.child("legend");
    const single = plots.length === 1 && plots[0].series.length === 1 ? plots[0].series[0].name : "";
    const untitled = isTrue(val(chart?.child("autoTitleDeleted")));
    return {
      title: this.text(chart?.child("title"), { ...this.usual, size: 14, bold: true }, untitled ? "" : single),
      titlePlace: chartPlaceOf(chart?.child("title")?.child("layout")),
      plots,
      axes: (area?.elements() ?? []).filter((one) => AXES.has(one.local)).map((axis) => this.axis(axis)),
      legend: legend && {
        side: val(legend.child("legendPos")) ?? "r",
        look: this.look(legend.child("txPr"), this.usual),
        place: chartPlaceOf(legend.child("layout")),
      },
      hiddenInLegend: new Set(
        (legend?.elements("legendEntry") ?? [])
          .filter((entry) => isTrue(val(entry.child("delete")) ?? "0"))
          .map((entry) => Number(val(entry.child("idx")))),
      ),
      plotPlace: chartPlaceOf(area?.child("layout")),
      ground: fillOf(root.child("spPr"), theme),
      frame: outlineOf(root.child("spPr"), theme),
      plotGround: fillOf(area?.child("spPr"), theme),
      rounded: isTrue(val(root.child("roundedCorners"))),
      unknown: found.filter((one) => KINDS[one.local] === undefined).map((one) => one.local),
    };
  }

  private plot(element: XmlElement): Plot | undefined {
    const kind = KINDS[element.local];
    if (!kind) return undefined;
    const number = (name: string, otherwise: number): number => {
      const value = Number(val(element.child(name)) ?? otherwise);
      return Number.isFinite(value) ? value : otherwise;
    };
    const labels = element.child("dLbls");
    const style = val(element.child("scatterStyle"));
    const isArea = kind === "area" || val(element.child("radarStyle")) === "filled";
    return {
      kind,
      lying: val(element.child("barDir")) === "bar",
      grouping: oneOf(
        ["standard", "clustered", "stacked", "percentStacked"],
        val(element.child("grouping")),
        "standard",
      ),
      gap: number("gapWidth", 150),
      overlap: number("overlap", 0),
      hole: number("holeSize", 50),
      firstAngle: number("firstSliceAng", 0),
      varied: isTrue(val(element.child("varyColors")) ?? (kind === "pie" || kind === "doughnut" ? "1" : "0")),
      axes: element.elements("axId").map((id) => val(id) ?? ""),
      scatterLines: style !== "marker" && style !== "none",
      blanks: this.blanks === "span" ? "span" : "gap",
      radarStyle: oneOf(["standard", "marker", "filled"], val(element.child("radarStyle")), "standard"),
      series: element.elements("ser").map((series) => this.series(series, labels, this.blank(kind, isArea))),
    };
  }

  /** What a point without a value has. An area has no gaps: it falls to nought unless it goes straight on. */
  private blank(kind: PlotKind, isArea: boolean): 0 | undefined {
    const isZero = isArea ? this.blanks !== "span" : this.blanks === "zero" && LINES.has(kind);
    return isZero ? 0 : undefined;
  }

  private series(element: XmlElement, common: XmlElement | undefined, blank: 0 | undefined): Series {
    const { theme } = this;
    const categories = this.data(element.child("cat") ?? element.child("xVal"));
    const values = this.data(element.child("val") ?? element.child("yVal"));
    const sizes = this.data(element.child("bubbleSize"));
    const marker = element.child("marker");
    const own = element.child("dLbls");
    const name = element.child("tx");
    const points = new Map(
      element
        .elements("dPt")
        .map((point): [number, { fill: Fill | "none" | undefined; pulled: number }] => [
          Number(val(point.child("idx"))),
          { fill: fillOf(point.child("spPr"), theme), pulled: Number(val(point.child("explosion")) ?? 0) },
        ]),
    );
    const pulled = Number(val(element.child("explosion")) ?? 0);
    if (pulled > 0)
      values.items.forEach((_, at) => {
        if (!points.has(at)) points.set(at, { fill: undefined, pulled });
      });
    return {
      name: this.data(name).items.map(String).join(" ") || (name?.child("v")?.text ?? `Series ${this.order + 1}`),
      categories: categories.items.map((item) => item ?? ""),
      categoryFormat: categories.format,
      values: values.items.map((item) => (typeof item === "number" ? item : item === undefined ? blank : undefined)),
      valueFormat: values.format,
      sizes: sizes.items.map((item) => (typeof item === "number" ? item : undefined)),
      fill: fillOf(element.child("spPr"), theme),
      line: outlineOf(element.child("spPr"), theme),
      marker: {
        symbol: val(marker?.child("symbol")) ?? "auto",
        size: Number(val(marker?.child("size")) ?? 5),
        fill: fillOf(marker?.child("spPr"), theme),
      },
      smooth: isTrue(val(element.child("smooth")) ?? (element.child("smooth") ? "1" : "0")),
      points,
      labels: this.labels(own ?? common),
      order: Number(val(element.child("idx")) ?? this.order++),
    };
  }

  private labels(element: XmlElement | undefined): Labels | undefined {
    if (!element || isTrue(val(element.child("delete")))) return undefined;
    const shows = (name: string): boolean => isTrue(val(element.child(name)));
    const labels = {
      value: shows("showVal"),
      category: shows("showCatName"),
      series: shows("showSerName"),
      percent: shows("showPercent"),
    };
    if (!Object.values(labels).some(Boolean)) return undefined;
    const format = element.child("numFmt");
    return {
      ...labels,
      position: val(element.child("dLblPos")),
      format: isTrue(format?.attr("sourceLinked")) ? undefined : format?.attr("formatCode"),
      look: this.look(element.child("txPr"), { ...this.usual, size: Math.min(this.usual.size, 9) }),
      hidden: new Set(
        element
          .elements("dLbl")
          .filter((one) => isTrue(val(one.child("delete"))))
          .map((one) => Number(val(one.child("idx")))),
      ),
    };
  }

  private axis(element: XmlElement): Axis {
    const scaling = element.child("scaling");
    const number = (parent: XmlElement | undefined, name: string): number | undefined => {
      const value = Number(val(parent?.child(name)) ?? Number.NaN);
      return Number.isFinite(value) ? value : undefined;
    };
    const logBase = number(scaling, "logBase") ?? 0;
    const grid = element.child("majorGridlines");
    const format = element.child("numFmt");
    const turn = element.path("txPr", "bodyPr")?.attr("rot");
    return {
      id: val(element.child("axId")) ?? "",
      kind: element.local === "valAx" ? "value" : "category",
      side: oneOf(["b", "l", "r", "t"], val(element.child("axPos")), "b"),
      deleted: isTrue(val(element.child("delete"))),
      reversed: val(scaling?.child("orientation")) === "maxMin",
      min: number(scaling, "min"),
      max: number(scaling, "max"),
      unit: number(element, "majorUnit"),
      log: logBase > 1 ? logBase : undefined,
      grid: outlineOf(grid?.child("spPr"), this.theme),
      hasGrid: grid !== undefined,
      title: this.text(element.child("title"), { ...this.usual, bold: true }),
      format: isTrue(format?.attr("sourceLinked")) ? undefined : format?.attr("formatCode"),
      labels: val(element.child("tickLblPos")) ?? "nextTo",
      look: this.look(element.child("txPr"), this.usual),
      line: outlineOf(element.child("spPr"), this.theme),
      turn: turn === undefined || Math.abs(Number(turn)) > 5_400_000 ? undefined : Number(turn) / 60_000,
      skip: number(element, "tickLblSkip"),
      betweenTicks: val(element.child("crossBetween")) !== "midCat",
      crosses: val(element.child("crosses")) ?? "autoZero",
    };
  }

  /** A title: its own words, or what its reference leads to. */
  private text(element: XmlElement | undefined, usual: TextLook, otherwise = ""): ChartText | undefined {
    if (!element) return undefined;
    const paragraphs = element.path("tx", "rich")?.elements("p") ?? [];
    const words = paragraphs
      .map((paragraph) => paragraph.descendants("t").map((one) => one.text))
      .map((parts) => parts.join(""))
      .join("\n");
    const text = words || this.data(element.child("tx")).items.map(String).join(" ") || otherwise;
    if (text === "") return undefined;
    const base = this.look(element.child("txPr"), usual);
    const first = paragraphs[0];
    const inParagraph = textLook(first?.path("pPr", "defRPr"), base, this.theme);
    return { text, look: textLook(first?.child("r")?.child("rPr"), inParagraph, this.theme) };
  }

  private look(properties: XmlElement | undefined, usual: TextLook): TextLook {
    return textLook(properties?.child("p")?.path("pPr", "defRPr"), usual, this.theme);
  }

  /** Points by their index, from what is stored beside a reference or written in the chart itself. */
  private data(element: XmlElement | undefined): { items: (string | number | undefined)[]; format: string } {
    const holder =
      element?.child("numRef")?.child("numCache") ??
      element?.child("numLit") ??
      element?.child("strRef")?.child("strCache") ??
      element?.child("strLit");
    const formula = element?.child("numRef")?.child("f") ?? element?.child("strRef")?.child("f");
    if (!holder && formula) {
      const found = this.cells.at(formula.text);
      if (found) return { items: [...found.items], format: found.format };
    }
    const levels = element?.child("multiLvlStrRef")?.child("multiLvlStrCache")?.elements("lvl") ?? [];
    const items: (string | number | undefined)[] = [];
    const isNumber = holder?.local.startsWith("num") ?? false;
    const count = Number(val((holder ?? element?.descendants("multiLvlStrCache")[0])?.child("ptCount")) ?? 0);
    items.length = Math.min(count, 32_000);
    items.fill(undefined);
    const take = (points: readonly XmlElement[]): void => {
      for (const point of points) {
        const text = point.child("v")?.text ?? "";
        const value = isNumber ? Number(text) : text;
        items[Number(point.attr("idx"))] = isNumber && Number.isNaN(value) ? undefined : value;
      }
    };
    take((holder ?? levels[0])?.elements("pt") ?? []);
    if (!holder && levels.length > 1) return { items: nameLevels(items, levels.slice(1)), format: "General" };
    return { items, format: holder?.child("formatCode")?.text ?? "General" };
  }
}

/** Each category with the names it stands below, the widest first: what counts for several points stands at their first. */
function nameLevels(
  items: readonly (string | number | undefined)[],
  outer: readonly XmlElement[],
): (string | undefined)[] {
  const names = outer.map((level) => {
    const own = new Map(level.elements("pt").map((point) => [Number(point.attr("idx")), point.child("v")?.text ?? ""]));
    let last = "";
    return items.map((_, index) => {
      last = own.get(index) ?? last;
      return last;
    });
  });
  return items.map((item, index) => {
    const parts = [...names.map((level) => level[index]).reverse(), String(item ?? "")].filter((part) => part !== "");
    return parts.length === 0 ? undefined : parts.join(" ");
  });
}

function val(element: XmlElement | undefined): string | undefined {
  return element?.attr("val");
}

function chartPlaceOf(layout: XmlElement | undefined): ChartPlace | undefined {
  const manual = layout?.child("manualLayout");
  if (!manual) return undefined;
  const number = (name: string): number | undefined => {
    const value = val(manual.child(name));
    return value === undefined ? undefined : Number(value);
  };
  const [x, y] = [number("x"), number("y")];
  // Places that count from where a thing would stand by itself are left to that.
  if (x === undefined || y === undefined || val(manual.child("xMode")) !== "edge") return undefined;
  return { x, y, width: number("w"), height: number("h") };
}
