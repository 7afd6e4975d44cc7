/** Axes, their grid and labels, and the frame that series are drawn in. */
import { formatValue } from "../../common/index.js";
import type { Box, PathCommand } from "../../page/index.js";
import { rectangle } from "../../page/index.js";
import { type ChartPen, categoryText } from "./pen.js";
import type { Axis, Plot } from "./read-chart.js";
import { type Scale, stackValues, valueScale } from "./scale.js";

export interface PlotFrame {
  /** Where series are drawn. */
  readonly box: Box;
  readonly count: number;
  /** Values of a plot to places along its value axis. */
  readonly scaleOf: (plot: Plot) => Scale;
  /** Of scatter and bubbles: values along the other axis. */
  readonly acrossOf: (plot: Plot) => Scale | undefined;
  /** The place of a point: `along` the categories from 0 to 1, `up` the values. */
  readonly point: (along: number, up: number) => [number, number];
  readonly betweenTicks: boolean;
  readonly reversed: boolean;
}

const USUAL_GRID = { color: "D9D9D9", width: 0.75, dash: undefined };
const USUAL_LINE = { color: "A6A6A6", width: 0.75, dash: undefined };
const GAP = 4;

interface Sides {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** One axis with what it shows. */
interface Shown {
  readonly axis: Axis;
  readonly scale: Scale | undefined;
  readonly labels: readonly string[];
  readonly side: Axis["side"];
  /** The longest label before it was shortened, in points. */
  readonly full: number;
}

export function drawAxes(pen: ChartPen, plots: readonly Plot[], room: Box, manual: Box | undefined): PlotFrame {
  const { axes } = pen.chart;
  const lying = plots.some((plot) => plot.kind === "bar" && plot.lying);
  const isXY = plots[0].kind === "scatter" || plots[0].kind === "bubble";
  const of = (plot: Plot): Axis[] => axes.filter((axis) => plot.axes.includes(axis.id));
  const valueAxis = (plot: Plot): Axis | undefined => {
    const values = of(plot).filter((axis) => axis.kind === "value");
    return isXY ? values.find((axis) => axis.side === "l" || axis.side === "r") : values[0];
  };
  const count = Math.max(
    1,
    ...plots.flatMap((plot) => plot.series.map((one) => Math.max(one.values.length, one.categories.length))),
  );
  const scales = new Map<string, Scale>();
  const wanted = Math.max(2, Math.min(10, (lying ? room.width / 60 : room.height / 28) | 0));
  for (const plot of plots) {
    const axis = valueAxis(plot);
    if (!axis || scales.has(axis.id)) continue;
    const own = plots.filter((other) => valueAxis(other) === axis);
    scales.set(axis.id, scaleFor(axis, own, wanted));
  }
  const across = isXY ? of(plots[0]).find((axis) => axis.side === "b" || axis.side === "t") : undefined;
  const acrossScale = across && scaleFor(across, plots, Math.max(2, Math.min(10, (room.width / 60) | 0)), true);
  const shown: Shown[] = [];
  for (const axis of axes) {
    if (axis.deleted || !plots.some((plot) => plot.axes.includes(axis.id))) continue;
    const scale = axis === across ? acrossScale : scales.get(axis.id);
    const side = sideOf(axis, axes, lying);
    const whole = scale ? tickLabels(axis, scale, plots, valueAxis) : categoryLabels(plots, axis, count);
    const full = Math.max(0, ...whole.map((label) => pen.width(label, axis.look)));
    const labels = scale ? whole : shortened(pen, axis, whole, { side, room, full });
    shown.push({ axis, scale, labels: axis.labels === "none" ? [] : labels, full, side });
  }
  const box = manual ?? roomFor(pen, shown, room, count);
  drawGrid(pen, shown, box);
  const base =
    shown.find(({ axis }) => axis.kind === "category" && !axis.deleted)?.axis ??
    axes.find((axis) => axis.kind === "category");
  const reversed = base?.reversed ?? false;
  const usual: Scale = { min: 0, max: 1, ticks: [], at: (value) => value };
  const frame: PlotFrame = {
    box,
    count,
    scaleOf: (plot) => {
      const axis = valueAxis(plot);
      const scale = (axis && scales.get(axis.id)) ?? usual;
      return axis?.reversed ? { ...scale, at: (value) => 1 - scale.at(value) } : scale;
    },
    acrossOf: () => acrossScale,
    point: (along, up) => {
      const place = reversed ? 1 - along : along;
      // Lying bars have their first category at the bottom.
      return lying
        ? [box.x + up * box.width, box.y + (1 - place) * box.height]
        : [box.x + place * box.width, box.y + (1 - up) * box.height];
    },
    betweenTicks: plots.some((plot) => plot.kind === "bar") || (plots.map(valueAxis)[0]?.betweenTicks ?? true),
    reversed,
  };
  for (const one of shown) drawAxis(pen, one, frame, shown);
  return frame;
}

function scaleFor(axis: Axis, plots: readonly Plot[], wanted: number, across = false): Scale {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const see = (value: number | undefined): void => {
    if (value === undefined || !Number.isFinite(value)) return;
    low = Math.min(low, value);
    high = Math.max(high, value);
  };
  for (const plot of plots) {
    if (across) {
      for (const series of plot.series)
        series.values.forEach((_, at) => {
          const category = series.categories[at];
          see(typeof category === "number" ? category : at + 1);
        });
    } else
      for (const series of stackValues(plot))
        for (const part of series)
          if (part)
            for (const end of plot.kind === "bar" || plot.kind === "area" || plot.grouping !== "standard"
              ? part
              : [part[1]])
              see(end);
  }
  if (plots.some((plot) => plot.grouping === "percentStacked") && !across) [low, high] = [Math.min(0, low), 1];
  const scale = valueScale(axis, low, high, wanted);
  const isWhole = !across && plots.every((plot) => plot.grouping === "percentStacked");
  return isWhole && axis.max === undefined
    ? valueScale({ ...axis, min: low < 0 ? -1 : 0, max: 1, unit: axis.unit ?? 0.2 }, low, 1, wanted)
    : scale;
}

function tickLabels(
  axis: Axis,
  scale: Scale,
  plots: readonly Plot[],
  valueAxis: (plot: Plot) => Axis | undefined,
): string[] {
  const plot = plots.find((one) => valueAxis(one) === axis);
  const isShare = plot?.grouping === "percentStacked";
  const format = axis.format ?? (isShare ? "0%" : (plot?.series[0]?.valueFormat ?? "General"));
  const places = Math.max(0, ...scale.ticks.map((tick) => (String(tick).split(".")[1] ?? "").length));
  const general = `#,##0${places > 0 ? `.${"0".repeat(Math.min(places, 6))}` : ""}`;
  return scale.ticks.map((tick) =>
    formatValue(tick, format === "General" ? (Math.abs(tick) >= 1e4 || places > 0 ? general : "General") : format),
  );
}

function categoryLabels(plots: readonly Plot[], axis: Axis, count: number): string[] {
  const series = plots.flatMap((plot) => plot.series).find((one) => one.categories.length > 0);
  return Array.from({ length: count }, (_, at) => categoryText(series, at, axis.format));
}

/** Names of categories take no more than this share of the chart from what they name. */
const LABEL_SHARE = 0.4;

/** Names that are too long for their side, or for the room below once they are turned, end with dots. */
function shortened(
  pen: ChartPen,
  axis: Axis,
  labels: readonly string[],
  { side, room, full }: Pick<Shown, "side" | "full"> & { readonly room: Box },
): string[] {
  const width = (text: string): number => pen.width(text, axis.look);
  let most = room.width * LABEL_SHARE;
  if (side === "b" || side === "t") {
    const each = ((room.width - 50) / Math.max(1, labels.length)) * (axis.skip ?? 1);
    const turn = (Math.abs(turnOfLabels(axis, full, each)) * Math.PI) / 180;
    if (turn === 0) return [...labels];
    most = Math.max(axis.look.size * 8, (room.height * LABEL_SHARE) / Math.sin(turn));
  }
  if (full <= most) return [...labels];
  return labels.map((label) => {
    if (width(label) <= most) return label;
    let end = label.length;
    while (end > 1 && width(`${label.slice(0, end).trimEnd()}…`) > most) end--;
    return `${label.slice(0, end).trimEnd()}…`;
  });
}

/** A second value axis stands on the other side, wherever it says it does. */
function sideOf(axis: Axis, axes: readonly Axis[], lying: boolean): Axis["side"] {
  const isUpright = axis.side === "l" || axis.side === "r";
  if (axis.kind === "category") return lying ? (isUpright ? axis.side : "l") : isUpright ? "b" : axis.side;
  const others = axes.filter((one) => one.kind === "value" && !one.deleted && one !== axis);
  if (axis.crosses === "max" && others.length > 0 && !lying) return axis.side === "l" ? "r" : axis.side;
  return lying && isUpright ? "b" : axis.side;
}

/** What is left for the series when labels and titles have their room. */
function roomFor(pen: ChartPen, shown: readonly Shown[], room: Box, count: number): Box {
  const taken: Sides = { left: 2, right: 8, top: 4, bottom: 2 };
  const key = { l: "left", r: "right", t: "top", b: "bottom" } as const;
  for (const { axis, labels, side, full } of shown) {
    const size = axis.look.size;
    const widest = Math.max(0, ...labels.map((label) => pen.width(label, axis.look)));
    const isUpright = side === "l" || side === "r";
    let needed = labels.length === 0 ? 0 : isUpright ? widest + GAP * 2 : size * 1.3 + GAP;
    if (!isUpright && axis.kind === "category" && labels.length > 0)
      needed = labelHeight(axis, { widest, full }, (room.width - 50) / count, size) + GAP;
    if (axis.title) needed += axis.title.look.size * 1.4;
    taken[key[side]] += needed;
  }
  return {
    x: room.x + taken.left,
    y: room.y + taken.top,
    width: Math.max(10, room.width - taken.left - taken.right),
    height: Math.max(10, room.height - taken.top - taken.bottom),
  };
}

/** Labels that do not fit beside each other are turned. */
function turnOfLabels(axis: Axis, widest: number, each: number): number {
  if (axis.turn !== undefined) return axis.turn;
  return widest <= each * 1.05 ? 0 : widest * 0.75 <= each * 2.2 ? -45 : -90;
}

function labelHeight(
  axis: Axis,
  { widest, full }: { readonly widest: number; readonly full: number },
  each: number,
  size: number,
): number {
  const turn = (Math.abs(turnOfLabels(axis, full, each * (axis.skip ?? 1))) * Math.PI) / 180;
  return Math.max(size * 1.2, widest * Math.sin(turn) + size * 1.1 * Math.cos(turn));
}

function drawGrid(pen: ChartPen, shown: readonly Shown[], box: Box): void {
  const { plotGround } = pen.chart;
  if (plotGround && plotGround !== "none")
    pen.items.push({ kind: "path", commands: rectangle(box), fill: plotGround.color, opacity: plotGround.opacity });
  for (const { axis, scale, side, labels } of shown) {
    if (!axis.hasGrid || axis.grid === "none") continue;
    const stroke = axis.grid ?? USUAL_GRID;
    const places = scale ? scale.ticks.map(scale.at) : labels.map((_, at) => at / Math.max(1, labels.length));
    const commands = places.flatMap((place): PathCommand[] => {
      const at = axis.reversed ? 1 - place : place;
      const isUpright = side === "l" || side === "r";
      const y = box.y + (1 - at) * box.height;
      const x = box.x + at * box.width;
      return isUpright
        ? [
            ["M", box.x, y],
            ["L", box.x + box.width, y],
          ]
        : [
            ["M", x, box.y],
            ["L", x, box.y + box.height],
          ];
    });
    pen.items.push({ kind: "path", commands, stroke });
  }
}

function drawAxis(pen: ChartPen, one: Shown, frame: PlotFrame, all: readonly Shown[]): void {
  const { axis, scale, side } = one;
  const { box } = frame;
  const isUpright = side === "l" || side === "r";
  const edge = side === "l" ? box.x : side === "r" ? box.x + box.width : side === "t" ? box.y : box.y + box.height;
  // The line stands where the other axis has its nought; the labels stay at the edge where they would lie on the series.
  const other = all.find((candidate) => candidate.scale && candidate !== one && !scale)?.scale;
  const zero = other && other.min < 0 && other.max > 0 && axis.crosses === "autoZero" ? other.at(0) : undefined;
  const lineAt = zero === undefined ? edge : isUpright ? box.x + zero * box.width : box.y + (1 - zero) * box.height;
  if (axis.line !== "none" && (axis.line !== undefined || !scale)) {
    const stroke = axis.line ?? USUAL_LINE;
    const commands: PathCommand[] = isUpright
      ? [
          ["M", lineAt, box.y],
          ["L", lineAt, box.y + box.height],
        ]
      : [
          ["M", box.x, lineAt],
          ["L", box.x + box.width, lineAt],
        ];
    pen.items.push({ kind: "path", commands, stroke });
  }
  const at = axis.labels === "nextTo" ? lineAt : edge;
  if (scale) drawTicks(pen, one, scale, box, edge);
  else if (isUpright) drawBeside(pen, one, frame, side === "l" ? at - GAP : at + GAP, side === "l");
  else drawBelow(pen, one, frame, at, side === "t");
  if (axis.title) drawAxisTitle(pen, one, box, edge);
}

function drawTicks(pen: ChartPen, { axis, labels, side }: Shown, scale: Scale, box: Box, edge: number): void {
  labels.forEach((label, index) => {
    const place = scale.at(scale.ticks[index]);
    const at = axis.reversed ? 1 - place : place;
    const { size } = axis.look;
    if (side === "l" || side === "r") {
      const y = box.y + (1 - at) * box.height + size * 0.35;
      const x = side === "l" ? edge - GAP : edge + GAP;
      pen.text(label, { x, y, align: side === "l" ? "right" : "left" }, axis.look);
    } else {
      const y = side === "t" ? edge - GAP : edge + GAP + size * 0.85;
      pen.text(label, { x: box.x + at * box.width, y, align: "center" }, axis.look);
    }
  });
}

/** Labels of categories at the left or right. */
function drawBeside(pen: ChartPen, { axis, labels }: Shown, frame: PlotFrame, x: number, isLeft: boolean): void {
  const step = axis.skip ?? Math.max(1, Math.ceil((labels.length * axis.look.size * 1.1) / frame.box.height));
  labels.forEach((label, index) => {
    if (index % step !== 0) return;
    const [, y] = frame.point((index + 0.5) / labels.length, 0);
    pen.text(label, { x, y: y + axis.look.size * 0.35, align: isLeft ? "right" : "left" }, axis.look);
  });
}

/** Labels of categories below or above, turned where they would run into each other. */
function drawBelow(
  pen: ChartPen,
  { axis, labels, full }: Shown,
  frame: PlotFrame,
  edge: number,
  isAbove: boolean,
): void {
  const { size } = axis.look;
  const each = frame.box.width / Math.max(1, labels.length);
  const widest = Math.max(0, ...labels.map((label) => pen.width(label, axis.look)));
  const turn = turnOfLabels(axis, full, each * (axis.skip ?? 1));
  const needed = turn === 0 ? widest : size * 1.15;
  const step = axis.skip ?? Math.max(1, Math.ceil(needed / (each * 1.05)));
  labels.forEach((label, index) => {
    if (index % step !== 0) return;
    const along = frame.betweenTicks
      ? (index + 0.5) / labels.length
      : labels.length > 1
        ? index / (labels.length - 1)
        : 0.5;
    const [x] = frame.point(along, 0);
    if (turn === 0) {
      const y = isAbove ? edge - GAP : edge + GAP + size * 0.85;
      pen.text(label, { x, y, align: "center" }, axis.look);
      return;
    }
    // Stored turns count clockwise; the end of a text that rises stands below its place.
    const y = edge + GAP + (turn < 0 ? size * 0.3 : size * 0.2);
    pen.text(
      label,
      { x: x + (Math.abs(turn) === 90 ? size * 0.35 : 0), y, align: turn < 0 ? "right" : "left", turn: -turn },
      axis.look,
    );
  });
}

function drawAxisTitle(pen: ChartPen, { axis, side, labels, full }: Shown, box: Box, edge: number): void {
  if (!axis.title) return;
  const { text, look } = axis.title;
  const widest = Math.max(0, ...labels.map((label) => pen.width(label, axis.look)));
  if (side === "l" || side === "r") {
    const away = widest + GAP * 2 + look.size * 0.4;
    const x = side === "l" ? edge - away : edge + away + look.size * 0.8;
    pen.text(text, { x, y: box.y + box.height / 2, align: "center", turn: 90 }, look);
    return;
  }
  const each = box.width / Math.max(1, labels.length);
  const height =
    axis.kind === "category" ? labelHeight(axis, { widest, full }, each, axis.look.size) : axis.look.size * 1.2;
  const y = side === "b" ? edge + height + GAP * 1.5 + look.size : edge - height - GAP * 2;
  pen.text(text, { x: box.x + box.width / 2, y, align: "center" }, look);
}
