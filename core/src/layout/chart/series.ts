/** Bars, lines, areas, points and bubbles. */
import { formatValue, greatest } from "../../common/index.js";
import type { PathCommand } from "../../page/index.js";
import { ellipse, rectangle } from "../../page/index.js";
import type { PlotFrame } from "./axes.js";
import { type ChartPen, categoryText } from "./pen.js";
import type { Labels, Plot, Series } from "./read-chart.js";
import { stackValues } from "./scale.js";

export function drawSeries(pen: ChartPen, plot: Plot, frame: PlotFrame): void {
  if (plot.kind === "bar") drawBars(pen, plot, frame);
  else if (plot.kind === "bubble") drawBubbles(pen, plot, frame);
  else drawLines(pen, plot, frame);
}

type Point = readonly [number, number];

function drawBars(pen: ChartPen, plot: Plot, frame: PlotFrame): void {
  const scale = frame.scaleOf(plot);
  const parts = stackValues(plot);
  const isStacked = plot.grouping !== "clustered" && plot.grouping !== "standard";
  const lanes = isStacked ? 1 : Math.max(1, plot.series.length);
  const overlap = isStacked ? 0 : plot.overlap / 100;
  // In widths of a bar: all bars of a category, and the gap.
  const widths = lanes - (lanes - 1) * overlap + plot.gap / 100;
  const bar = 1 / widths;
  plot.series.forEach((series, lane) => {
    parts[lane].forEach((part, index) => {
      if (!part) return;
      const offset = plot.gap / 200 + (isStacked ? 0 : lane * (1 - overlap));
      const [from, to] = [offset * bar, (offset + 1) * bar].map((share) => (index + share) / frame.count);
      const clamp = (value: number): number => Math.min(1, Math.max(0, scale.at(value)));
      const zero = scale.min > 0 ? scale.min : scale.max < 0 ? scale.max : part[0];
      const [x1, y1] = frame.point(from, clamp(isStacked ? part[0] : zero));
      const [x2, y2] = frame.point(to, clamp(part[1]));
      const box = { x: Math.min(x1, x2), y: Math.min(y1, y2), width: Math.abs(x2 - x1), height: Math.abs(y2 - y1) };
      paint(pen, series, index, rectangle(box));
      if (!series.labels || series.labels.hidden.has(index)) return;
      const text = labelOf(series, index, series.labels);
      const { look, position } = series.labels;
      const isInside = isStacked || position === "ctr" || position === "inEnd" || position === "inBase";
      const [mx, my] = [box.x + box.width / 2, box.y + box.height / 2 + look.size * 0.35];
      if (plot.lying) {
        const outside = {
          x: part[1] < 0 ? box.x - 3 : box.x + box.width + 3,
          align: part[1] < 0 ? "right" : "left",
        } as const;
        pen.text(text, isInside ? { x: mx, y: my, align: "center" } : { ...outside, y: my }, look);
      } else {
        const y = part[1] < 0 ? box.y + box.height + look.size : box.y - 3;
        pen.text(text, { x: mx, y: isInside ? my : y, align: "center" }, look);
      }
    });
  });
}

/** Fills a shape as its series or point asks, with its outline. */
function paint(pen: ChartPen, series: Series, index: number, commands: readonly PathCommand[]): void {
  const own = series.points.get(index)?.fill ?? series.fill;
  const line = series.line && series.line !== "none" ? series.line : undefined;
  if (own !== "none")
    pen.items.push({
      kind: "path",
      commands,
      fill: pen.color(series, index),
      opacity: own?.opacity,
    });
  if (line) pen.items.push({ kind: "path", commands, stroke: line });
}

function drawLines(pen: ChartPen, plot: Plot, frame: PlotFrame): void {
  const scale = frame.scaleOf(plot);
  const across = frame.acrossOf(plot);
  const parts = stackValues(plot);
  const along = (series: Series, index: number): number => {
    if (across) {
      const category = series.categories[index];
      return across.at(typeof category === "number" ? category : index + 1);
    }
    if (frame.betweenTicks && plot.kind !== "area") return (index + 0.5) / frame.count;
    return frame.betweenTicks ? (index + 0.5) / frame.count : frame.count > 1 ? index / (frame.count - 1) : 0.5;
  };
  // The areas behind come first, so that those before stay in sight.
  const order = plot.kind === "area" && plot.grouping === "standard" ? [...plot.series].reverse() : plot.series;
  for (const series of order) {
    const own = parts[plot.series.indexOf(series)];
    const points = own.map((part, index): Point | undefined =>
      part ? frame.point(along(series, index), scale.at(part[1])) : undefined,
    );
    if (plot.kind === "area") {
      const floor = own.map((part, index): Point | undefined =>
        part
          ? frame.point(along(series, index), scale.at(plot.grouping === "standard" ? Math.max(scale.min, 0) : part[0]))
          : undefined,
      );
      const top = points.filter((point) => point !== undefined);
      const bottom = floor.filter((point) => point !== undefined).reverse();
      if (top.length > 0) paint(pen, series, -1, polygon([...top, ...bottom]));
    } else drawLine(pen, plot, series, points);
    drawLabels(pen, series, points);
  }
}

export function polygon(points: readonly Point[]): PathCommand[] {
  return [...points.map(([x, y], at): PathCommand => [at === 0 ? "M" : "L", x, y]), ["Z"]];
}

function drawLine(pen: ChartPen, plot: Plot, series: Series, points: readonly (Point | undefined)[]): void {
  const color = pen.color(series);
  const line = series.line === "none" ? undefined : series.line;
  const hasLine = series.line !== "none" && (plot.kind !== "scatter" || plot.scatterLines || line !== undefined);
  if (hasLine) {
    const stroke = { color: line?.color ?? color, width: line?.width ?? 2.25, dash: line?.dash };
    pen.items.push({
      kind: "path",
      commands: through(plot.blanks === "span" ? points.filter((point) => point !== undefined) : points, series.smooth),
      stroke,
      opacity: line?.opacity,
    });
  }
  const { symbol, size, fill } = series.marker;
  const isShown = symbol !== "none" && (symbol !== "auto" || plot.kind === "scatter");
  if (!isShown || fill === "none") return;
  points.forEach((point, index) => {
    if (!point) return;
    const own = series.points.get(index)?.fill;
    const tone = own && own !== "none" ? own.color : (fill?.color ?? color);
    pen.items.push({ kind: "path", commands: markerPath(symbol, point, size / 2), fill: tone });
  });
}

/** A line through the points; a gap breaks it. Smooth ones bend through each point towards the next but one. */
function through(points: readonly (Point | undefined)[], smooth: boolean): PathCommand[] {
  const commands: PathCommand[] = [];
  points.forEach((point, at) => {
    if (!point) return;
    const before = points[at - 1];
    if (!before) {
      commands.push(["M", ...point]);
      return;
    }
    if (!smooth) {
      commands.push(["L", ...point]);
      return;
    }
    const first = points[at - 2] ?? before;
    const next = points[at + 1] ?? point;
    commands.push([
      "C",
      before[0] + (point[0] - first[0]) / 6,
      before[1] + (point[1] - first[1]) / 6,
      point[0] - (next[0] - before[0]) / 6,
      point[1] - (next[1] - before[1]) / 6,
      point[0],
      point[1],
    ]);
  });
  return commands;
}

export function markerPath(symbol: string, [x, y]: Point, r: number): PathCommand[] {
  switch (symbol) {
    case "square":
    case "dash":
      return rectangle({
        x: x - r,
        y: symbol === "dash" ? y - r / 3 : y - r,
        width: 2 * r,
        height: symbol === "dash" ? (2 * r) / 3 : 2 * r,
      });
    case "triangle":
      return polygon([
        [x, y - r],
        [x + r, y + r],
        [x - r, y + r],
      ]);
    case "diamond":
      return polygon([
        [x, y - r],
        [x + r, y],
        [x, y + r],
        [x - r, y],
      ]);
    case "x":
    case "plus":
    case "star": {
      const arm = r / 3;
      const bars = [
        rectangle({ x: x - r, y: y - arm / 2, width: 2 * r, height: arm }),
        rectangle({ x: x - arm / 2, y: y - r, width: arm, height: 2 * r }),
      ];
      return bars.flat();
    }
    default:
      return ellipse(x, y, r, r);
  }
}

function drawBubbles(pen: ChartPen, plot: Plot, frame: PlotFrame): void {
  const scale = frame.scaleOf(plot);
  const across = frame.acrossOf(plot);
  const largest = Math.max(1e-9, greatest(plot.series.flatMap((series) => series.sizes.map((size) => size ?? 0))));
  const most = Math.min(frame.box.width, frame.box.height) / 8;
  for (const series of plot.series) {
    series.values.forEach((value, index) => {
      if (value === undefined) return;
      const category = series.categories[index];
      const [x, y] = frame.point(
        across?.at(typeof category === "number" ? category : index + 1) ?? 0.5,
        scale.at(value),
      );
      const radius = most * Math.sqrt(Math.max(0, series.sizes[index] ?? 1) / largest);
      pen.items.push({
        kind: "path",
        commands: ellipse(x, y, radius, radius),
        fill: pen.color(series, index),
        opacity: 0.75,
      });
    });
  }
}

export function drawLabels(pen: ChartPen, series: Series, points: readonly (Point | undefined)[]): void {
  const { labels } = series;
  if (!labels) return;
  points.forEach((point, index) => {
    if (!point || labels.hidden.has(index)) return;
    const { look, position } = labels;
    const text = labelOf(series, index, labels);
    const [x, y] = point;
    if (position === "r" || position === undefined)
      pen.text(text, { x: x + 5, y: y + look.size * 0.35, align: "left" }, look);
    else if (position === "l") pen.text(text, { x: x - 5, y: y + look.size * 0.35, align: "right" }, look);
    else if (position === "b") pen.text(text, { x, y: y + look.size + 4, align: "center" }, look);
    else pen.text(text, { x, y: position === "ctr" ? y + look.size * 0.35 : y - 5, align: "center" }, look);
  });
}

/** What a label says of a point. `share` is its part of a whole, for round charts. */
export function labelOf(series: Series, index: number, labels: Labels, share?: number): string {
  const parts: string[] = [];
  if (labels.series) parts.push(series.name);
  if (labels.category) parts.push(categoryText(series, index));
  const value = series.values[index];
  const format = labels.format;
  if (labels.value && value !== undefined)
    parts.push(formatValue(value, (labels.percent ? undefined : format) ?? series.valueFormat));
  if (labels.percent && share !== undefined) parts.push(formatValue(share, format?.includes("%") ? format : "0%"));
  return parts.join("; ");
}
