/** Charts whose axes stand around a middle. */
import { greatest, least } from "../../common/index.js";
import type { Box, PathCommand } from "../../page/index.js";
import { type ChartPen, categoryText, labelText } from "./pen.js";
import type { Plot, Series } from "./read-chart.js";
import { valueScale } from "./scale.js";
import { drawLabels, markerPath, polygon } from "./series.js";

export function drawRadar(pen: ChartPen, plots: readonly Plot[], room: Box): void {
  const series = plots.flatMap((plot) => plot.series);
  const count = Math.max(3, ...series.map((one) => one.values.length));
  const values = series.flatMap((one) => one.values.filter((value) => value !== undefined));
  const axis = pen.chart.axes.find((one) => one.kind === "value");
  const labels = pen.chart.axes.find((one) => one.kind === "category");
  if (!axis || !labels) return;
  const scale = valueScale(axis, Math.min(0, least(values)), greatest(values), 5);
  const radius = Math.min(room.width, room.height) / 2 - labels.look.size * 1.8;
  const [cx, cy] = [room.x + room.width / 2, room.y + room.height / 2];
  const at = (index: number, share: number): [number, number] => {
    const angle = (index / count) * 2 * Math.PI - Math.PI / 2;
    return [cx + radius * share * Math.cos(angle), cy + radius * share * Math.sin(angle)];
  };
  const ring = (place: (index: number) => [number, number]): PathCommand[] => [
    ...Array.from({ length: count }, (_, index): PathCommand => [index === 0 ? "M" : "L", ...place(index)]),
    ["Z"],
  ];
  const stroke = { color: "D9D9D9", width: 0.75, dash: undefined };
  for (const tick of scale.ticks)
    pen.items.push({ kind: "path", commands: ring((index) => at(index, scale.at(tick))), stroke });
  const [first] = series;
  for (let index = 0; index < count; index++) {
    pen.items.push({
      kind: "path",
      commands: [
        ["M", cx, cy],
        ["L", ...at(index, 1)],
      ],
      stroke,
    });
    const [x, y] = at(index, 1 + labels.look.size / radius);
    const align = Math.abs(x - cx) < 1 ? "center" : x < cx ? "right" : "left";
    pen.text(categoryText(first, index), { x, y: y + labels.look.size * 0.35, align }, labels.look);
  }
  if (!axis.deleted)
    for (const tick of scale.ticks) {
      const [x, y] = at(0, scale.at(tick));
      pen.text(
        labelText(tick, axis.format ?? "General"),
        { x: x - 3, y: y + axis.look.size * 0.35, align: "right" },
        axis.look,
      );
    }
  const place = (one: Series, index: number): [number, number] | undefined => {
    const value = one.values[index];
    return value === undefined ? undefined : at(index, Math.max(0, scale.at(value)));
  };
  for (const plot of plots)
    for (const one of plot.series) {
      const points = Array.from({ length: count }, (_, index) => place(one, index));
      drawOne(pen, plot, one, points);
      drawLabels(pen, one, points);
    }
}

type Point = readonly [number, number];

/** One series: its ring, closed where every point has a value. */
function drawOne(pen: ChartPen, plot: Plot, series: Series, points: readonly (Point | undefined)[]): void {
  const present = points.filter((point) => point !== undefined);
  if (present.length === 0) return;
  const color = pen.color(series);
  const isFilled = plot.radarStyle === "filled";
  const isClosed = present.length === points.length || plot.blanks === "span" || isFilled;
  const own = series.line === "none" ? undefined : series.line;
  if (isFilled && series.fill !== "none")
    pen.items.push({ kind: "path", commands: polygon(present), fill: color, opacity: series.fill?.opacity });
  if (series.line !== "none" && (!isFilled || own)) {
    const stroke = { color: own?.color ?? color, width: own?.width ?? 2, dash: own?.dash };
    const commands = isClosed ? polygon(present) : openRing(points);
    pen.items.push({ kind: "path", commands, stroke, opacity: own?.opacity });
  }
  const { symbol, size, fill } = series.marker;
  const hasMarkers = symbol !== "none" && (symbol !== "auto" || plot.radarStyle === "marker");
  if (!hasMarkers || fill === "none" || isFilled) return;
  for (const point of present)
    pen.items.push({ kind: "path", commands: markerPath(symbol, point, size / 2), fill: fill?.color ?? color });
}

/** A ring that begins behind a gap, so that the first and the last point stay joined. */
function openRing(points: readonly (Point | undefined)[]): PathCommand[] {
  const start = points.indexOf(undefined) + 1;
  const turned = [...points.slice(start), ...points.slice(0, start)];
  return turned.flatMap((point, at): PathCommand[] => (point ? [[turned[at - 1] ? "L" : "M", ...point]] : []));
}
