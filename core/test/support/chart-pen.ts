/** A chart's parts drawn without fonts: what stands where. A letter is as wide as half its size. */
import type { PathItem } from "@corbix/core/page";
import { readTheme } from "@corbix/core/spreadsheet";
import type { ChartPen, TextPlace } from "../../src/layout/chart/pen.js";
import type { Axis, Chart, Labels, Plot, Series } from "../../src/layout/chart/read-chart.js";

export const LOOK = { size: 10, bold: false, italic: false, color: "000000", font: "Sans" };

export const series = (more: Partial<Series> = {}): Series => ({
  name: "Fees",
  categories: [],
  categoryFormat: "General",
  values: [],
  valueFormat: "General",
  sizes: [],
  fill: undefined,
  line: undefined,
  marker: { symbol: "none", size: 6, fill: undefined },
  smooth: false,
  points: new Map(),
  labels: undefined,
  order: 0,
  ...more,
});

export const labels = (more: Partial<Labels> = {}): Labels => ({
  value: true,
  category: false,
  series: false,
  percent: false,
  position: undefined,
  format: undefined,
  look: LOOK,
  hidden: new Set(),
  ...more,
});

export const plot = (more: Partial<Plot> = {}): Plot => ({
  kind: "bar",
  lying: false,
  grouping: "clustered",
  gap: 100,
  overlap: 0,
  hole: 50,
  firstAngle: 0,
  varied: false,
  series: [],
  axes: ["x", "y"],
  scatterLines: false,
  blanks: "gap",
  radarStyle: "standard",
  ...more,
});

export const axis = (more: Partial<Axis> = {}): Axis => ({
  id: "y",
  kind: "value",
  side: "l",
  deleted: false,
  reversed: false,
  min: undefined,
  max: undefined,
  unit: undefined,
  log: undefined,
  grid: undefined,
  hasGrid: false,
  title: undefined,
  format: undefined,
  labels: "nextTo",
  look: LOOK,
  line: undefined,
  turn: undefined,
  skip: undefined,
  betweenTicks: true,
  crosses: "autoZero",
  ...more,
});

export const category = (more: Partial<Axis> = {}): Axis => axis({ id: "x", kind: "category", side: "b", ...more });

export interface DrawnText extends TextPlace {
  readonly text: string;
}

/** A pen over a chart with these axes, what it drew, and the texts it put. */
export function penFor(axes: readonly Axis[], more: Partial<Chart> = {}) {
  const texts: DrawnText[] = [];
  const items: ChartPen["items"] = [];
  const pen: ChartPen = {
    items,
    chart: {
      title: undefined,
      titlePlace: undefined,
      plots: [],
      axes,
      legend: undefined,
      hiddenInLegend: new Set(),
      plotPlace: undefined,
      ground: undefined,
      frame: undefined,
      plotGround: undefined,
      rounded: false,
      unknown: [],
      ...more,
    },
    theme: readTheme(undefined),
    width: (text, look) => (text.length * look.size) / 2,
    text: (text, at) => texts.push({ text, ...at }),
    color: (one, point) => (point === undefined ? `color ${one.order}` : `color ${one.order}.${point}`),
  };
  const paths = (): PathItem[] => items.filter((item): item is PathItem => item.kind === "path");
  return { pen, texts, paths };
}

/** The box around a path's points. */
export function boxOf({ commands }: PathItem): { x: number; y: number; width: number; height: number } {
  const points = commands.flatMap((command) => (command[0] === "Z" ? [] : [command.slice(-2) as number[]]));
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}
