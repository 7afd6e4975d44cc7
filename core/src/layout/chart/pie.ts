/** Pies and rings. */
import type { Box } from "../../page/index.js";
import { pie } from "../sheet/draw/cell-fills.js";
import type { ChartPen } from "./pen.js";
import type { Plot } from "./read-chart.js";
import { labelOf } from "./series.js";

export function drawPie(pen: ChartPen, plot: Plot, room: Box): void {
  const hasOutside = plot.series.some((series) => series.labels && series.labels.position === "outEnd");
  const pulled = Math.max(
    0,
    ...plot.series.flatMap((series) => [...series.points.values()].map((point) => point.pulled)),
  );
  const radius = (Math.min(room.width, room.height) / 2 - (hasOutside ? 16 : 4)) / (1 + pulled / 100);
  const [cx, cy] = [room.x + room.width / 2, room.y + room.height / 2];
  const rings = plot.kind === "doughnut" ? plot.series : plot.series.slice(0, 1);
  const hole = plot.kind === "doughnut" ? (radius * plot.hole) / 100 : 0;
  const thick = (radius - hole) / Math.max(1, rings.length);
  rings.forEach((series, ring) => {
    const total = series.values.reduce<number>((sum, value) => sum + Math.abs(value ?? 0), 0) || 1;
    const outer = hole + thick * (ring + 1);
    const inner = plot.kind === "doughnut" ? hole + thick * ring : 0;
    let from = plot.firstAngle / 360;
    series.values.forEach((value, index) => {
      const share = Math.abs(value ?? 0) / total;
      if (share === 0) return;
      const middle = (from + share / 2) * 2 * Math.PI - Math.PI / 2;
      const away = (outer * (series.points.get(index)?.pulled ?? 0)) / 100;
      const centre = { x: cx + away * Math.cos(middle), y: cy + away * Math.sin(middle) };
      const commands = pie(centre, outer, from, from + share, inner);
      const line = series.line && series.line !== "none" ? series.line : undefined;
      const stroke = line ?? (series.line === "none" ? undefined : { color: "FFFFFF", width: 0.75, dash: undefined });
      pen.items.push({ kind: "path", commands, fill: pen.color(series, index), stroke });
      const { labels } = series;
      if (labels && !labels.hidden.has(index)) {
        const text = labelOf(series, index, labels, share);
        const isOutside =
          labels.position === "outEnd" ||
          (labels.position !== "ctr" && labels.position !== "inEnd" && pen.width(text, labels.look) > outer * 0.6);
        const reach = isOutside
          ? outer + 5
          : plot.kind === "doughnut"
            ? (outer + inner) / 2
            : outer * (labels.position === "inEnd" ? 0.82 : 0.62);
        const [tx, ty] = [centre.x + reach * Math.cos(middle), centre.y + reach * Math.sin(middle)];
        const align = !isOutside
          ? "center"
          : Math.cos(middle) < -0.2
            ? "right"
            : Math.cos(middle) > 0.2
              ? "left"
              : "center";
        pen.text(text, { x: tx, y: ty + labels.look.size * 0.35, align }, labels.look);
      }
      from += share;
    });
  });
}
