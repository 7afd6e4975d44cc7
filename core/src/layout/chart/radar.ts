/** Charts whose axes stand around a middle. */
import type { Box, PathCommand } from "../../page/index.js";
import { type ChartPen, labelText } from "./pen.js";
import type { Plot } from "./read-chart.js";
import { valueScale } from "./scale.js";

export function drawRadar(pen: ChartPen, plots: readonly Plot[], room: Box): void {
  const series = plots.flatMap((plot) => plot.series);
  const count = Math.max(3, ...series.map((one) => one.values.length));
  const values = series.flatMap((one) => one.values.filter((value) => value !== undefined));
  const axis = pen.chart.axes.find((one) => one.kind === "value");
  const labels = pen.chart.axes.find((one) => one.kind === "category");
  if (!axis || !labels) return;
  const scale = valueScale(axis, Math.min(...values, 0), Math.max(...values), 5);
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
    const text = labelText(first?.categories[index] ?? index + 1, first?.categoryFormat ?? "General");
    pen.text(text, { x, y: y + labels.look.size * 0.35, align }, labels.look);
  }
  for (const tick of scale.ticks) {
    const [x, y] = at(0, scale.at(tick));
    pen.text(
      labelText(tick, axis.format ?? "General"),
      { x: x - 3, y: y + axis.look.size * 0.35, align: "right" },
      axis.look,
    );
  }
  for (const one of series) {
    const line = one.line && one.line !== "none" ? one.line : undefined;
    const commands = ring((index) => at(index, Math.max(0, scale.at(one.values[index] ?? scale.min))));
    pen.items.push({
      kind: "path",
      commands,
      stroke: { color: pen.color(one), width: line?.width ?? 2, dash: line?.dash },
    });
  }
}
