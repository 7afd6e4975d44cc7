/** Draws a chart as lines, areas and texts: from its own words, and where it says nothing as charts usually look. */
import type { Fonts } from "../../fonts/index.js";
import type { Box, PageItem, PathCommand } from "../../page/index.js";
import { rectangle, shapeWords, widthOf } from "../../page/index.js";
import { type Theme, tintColor } from "../../spreadsheet/index.js";
import { drawAxes, type PlotFrame } from "./axes.js";
import { type ChartPen, labelText } from "./pen.js";
import { drawPie } from "./pie.js";
import { drawRadar } from "./radar.js";
import type { Chart, ChartText, Series } from "./read-chart.js";
import { drawSeries, markerPath } from "./series.js";

/** Blank between the parts of a chart, in points. */
const GAP = 6;

/** A chart in a frame whose upper left corner is nought; all in points. */
export function drawChart(
  chart: Chart,
  size: { width: number; height: number },
  fonts: Fonts,
  theme: Theme,
): PageItem[] {
  const items: PageItem[] = [];
  const pen: ChartPen = {
    items,
    chart,
    theme,
    width: (text, look) => widthOf(text, fonts.face(look.font, look.bold, look.italic), look.size),
    text: (text, at, look) => {
      const face = fonts.face(look.font, look.bold, look.italic);
      const shaped = shapeWords(text, face);
      const back = (at.align === "center" ? 0.5 : at.align === "right" ? 1 : 0) * shaped.width * look.size;
      const angle = ((at.turn ?? 0) * Math.PI) / 180;
      const x = at.x - back * Math.cos(angle);
      const y = at.y + back * Math.sin(angle);
      items.push({
        kind: "text",
        x,
        y,
        size: look.size,
        color: look.color,
        shaped,
        ...(at.turn ? { rotation: at.turn } : {}),
      });
    },
    color: (series, point) => seriesColor(chart, series, point, theme),
  };
  drawGround(pen, size);
  const room: Box = { x: GAP, y: GAP, width: size.width - 2 * GAP, height: size.height - 2 * GAP };
  const below = drawTitle(pen, room, size);
  const inside = drawLegend(pen, below, size);
  drawPlots(pen, inside, size);
  return items;
}

function drawGround(pen: ChartPen, size: { width: number; height: number }): void {
  const { ground, frame } = pen.chart;
  const box = { x: 0, y: 0, ...size };
  if (ground !== "none") {
    if (ground?.gradient) pen.items.push({ kind: "shade", ...box, ...ground.gradient });
    else
      pen.items.push({
        kind: "path",
        commands: rectangle(box),
        fill: ground?.color ?? "FFFFFF",
        opacity: ground?.opacity,
      });
  }
  if (frame === "none") return;
  const stroke = frame ?? { color: "BFBFBF", width: 0.75, dash: undefined };
  pen.items.push({ kind: "path", commands: rectangle(box), stroke });
}

function drawTitle(pen: ChartPen, room: Box, size: { width: number; height: number }): Box {
  const { title, titlePlace } = pen.chart;
  if (!title) return room;
  const lines = wrapTitle(pen, title, room.width);
  const line = title.look.size * 1.2;
  if (titlePlace) {
    lines.forEach((text, at) => {
      const y = titlePlace.y * size.height + title.look.size + at * line;
      pen.text(text, { x: titlePlace.x * size.width, y, align: "left" }, title.look);
    });
  } else
    lines.forEach((text, at) => {
      const y = room.y + title.look.size + at * line;
      pen.text(text, { x: room.x + room.width / 2, y, align: "center" }, title.look);
    });
  const used = lines.length * line + GAP;
  return { ...room, y: room.y + used, height: room.height - used };
}

function wrapTitle(pen: ChartPen, title: ChartText, width: number): string[] {
  return title.text.split("\n").flatMap((paragraph) => {
    const lines: string[] = [];
    let line = "";
    for (const word of paragraph.split(" ")) {
      const longer = line === "" ? word : `${line} ${word}`;
      if (line !== "" && pen.width(longer, title.look) > width) {
        lines.push(line);
        line = word;
      } else line = longer;
    }
    return [...lines, line];
  });
}

interface Entry {
  readonly text: string;
  readonly series: Series;
  readonly point: number | undefined;
}

function entriesOf(chart: Chart): Entry[] {
  const [first] = chart.plots;
  const isRound = first?.kind === "pie" || first?.kind === "doughnut";
  const isVaried = chart.plots.length === 1 && first?.varied && first.series.length === 1;
  const entries =
    isRound || isVaried
      ? (first.series[0]?.categories ?? []).map((category, at): Entry => {
          const text = labelText(category, first.series[0].categoryFormat);
          return { text, series: first.series[0], point: at };
        })
      : chart.plots.flatMap((plot) => {
          const list = plot.series.map((series): Entry => ({ text: series.name, series, point: undefined }));
          // Lying bars grow upwards, and so does their list.
          return plot.kind === "bar" && plot.lying && plot.grouping === "clustered" ? [...list].reverse() : list;
        });
  return entries.filter((_, at) => !chart.hiddenInLegend.has(at));
}

function drawLegend(pen: ChartPen, room: Box, size: { width: number; height: number }): Box {
  const { legend } = pen.chart;
  if (!legend) return room;
  const entries = entriesOf(pen.chart);
  if (entries.length === 0) return room;
  const { look } = legend;
  const line = look.size * 1.35;
  const key = look.size * 1.6;
  const widest = Math.max(...entries.map((entry) => pen.width(entry.text, look)));
  const isBeside = legend.side === "r" || legend.side === "l" || legend.side === "tr";
  const draw = (entry: Entry, x: number, y: number): void => {
    drawKey(pen, entry, { x, y: y + (line - look.size * 0.6) / 2, width: look.size * 1.2, height: look.size * 0.6 });
    pen.text(entry.text, { x: x + key, y: y + line / 2 + look.size * 0.35, align: "left" }, look);
  };
  if (isBeside) {
    const width = Math.min(room.width * 0.45, widest + key + GAP);
    const fits = entries.slice(0, Math.max(1, Math.floor(room.height / line)));
    const x = legend.place ? legend.place.x * size.width : legend.side === "l" ? room.x : room.x + room.width - width;
    const top = legend.place
      ? legend.place.y * size.height
      : legend.side === "tr"
        ? room.y
        : room.y + (room.height - fits.length * line) / 2;
    fits.forEach((entry, at) => {
      draw(entry, x, top + at * line);
    });
    return legend.side === "l"
      ? { ...room, x: room.x + width + GAP, width: room.width - width - GAP }
      : { ...room, width: room.width - width - GAP };
  }
  const rows: Entry[][] = [[]];
  let used = 0;
  for (const entry of entries) {
    const width = pen.width(entry.text, look) + key + GAP * 2;
    if (used + width > room.width && used > 0) {
      rows.push([]);
      used = 0;
    }
    rows[rows.length - 1].push(entry);
    used += width;
  }
  const height = rows.length * line;
  const top = legend.place
    ? legend.place.y * size.height
    : legend.side === "t"
      ? room.y
      : room.y + room.height - height;
  rows.forEach((row, at) => {
    const width = row.reduce((sum, entry) => sum + pen.width(entry.text, look) + key + GAP * 2, -GAP * 2);
    let x = room.x + (room.width - width) / 2;
    for (const entry of row) {
      draw(entry, x, top + at * line);
      x += pen.width(entry.text, look) + key + GAP * 2;
    }
  });
  return legend.side === "t"
    ? { ...room, y: room.y + height + GAP, height: room.height - height - GAP }
    : { ...room, height: room.height - height - GAP };
}

/** The sign of a series in the legend: a line with its marker, or a patch. */
function drawKey(pen: ChartPen, { series, point }: Entry, box: Box): void {
  const plot = pen.chart.plots.find((one) => one.series.includes(series));
  const color = pen.color(series, point);
  const isRing = plot?.kind === "radar" && plot.radarStyle !== "filled";
  if (plot?.kind !== "line" && plot?.kind !== "scatter" && !isRing) {
    const side = box.height;
    pen.items.push({ kind: "fill", x: box.x + (box.width - side) / 2, y: box.y, width: side, height: side, color });
    return;
  }
  const y = box.y + box.height / 2;
  if (series.line !== "none" && !(plot.kind === "scatter" && !plot.scatterLines)) {
    const commands: PathCommand[] = [
      ["M", box.x, y],
      ["L", box.x + box.width, y],
    ];
    const line = series.line === undefined ? undefined : series.line;
    pen.items.push({
      kind: "path",
      commands,
      stroke: { color, width: Math.min(line?.width ?? 2.25, 2.25), dash: line?.dash },
    });
  }
  const { symbol, fill } = series.marker;
  const isUsual = plot.kind === "scatter" || plot.radarStyle === "marker";
  if (symbol === "none" || (symbol === "auto" && !isUsual) || fill === "none") return;
  const radius = Math.min(series.marker.size, box.height) / 2;
  const commands = markerPath(symbol, [box.x + box.width / 2, y], radius);
  pen.items.push({ kind: "path", commands, fill: fill?.color ?? color });
}

function seriesColor(chart: Chart, series: Series, point: number | undefined, theme: Theme): string {
  const own = point === undefined ? undefined : series.points.get(point)?.fill;
  if (own && own !== "none") return own.color;
  const plot = chart.plots.find((one) => one.series.includes(series));
  const isRound = plot?.kind === "pie" || plot?.kind === "doughnut";
  const byPoint = plot?.varied && (isRound || plot.series.length === 1);
  if (point === undefined || !byPoint) {
    const isLine = plot?.kind === "line" || plot?.kind === "scatter" || plot?.kind === "radar";
    if (isLine && series.line && series.line !== "none") return series.line.color;
    if (isLine && series.marker.fill && series.marker.fill !== "none") return series.marker.fill.color;
    if (series.fill && series.fill !== "none") return series.fill.color;
  }
  const index = byPoint && point !== undefined ? point : series.order;
  const color = theme.colors[4 + (index % 6)] ?? "4472C4";
  // Further rounds through the six accents are darker, then lighter.
  const round = Math.floor(index / 6);
  return round === 0 ? color : tintColor(color, round % 2 === 1 ? -0.35 : 0.4);
}

function drawPlots(pen: ChartPen, room: Box, size: { width: number; height: number }): void {
  const { plots, plotPlace } = pen.chart;
  const manual: Box | undefined =
    plotPlace?.width !== undefined && plotPlace.height !== undefined
      ? {
          x: plotPlace.x * size.width,
          y: plotPlace.y * size.height,
          width: plotPlace.width * size.width,
          height: plotPlace.height * size.height,
        }
      : undefined;
  const round = plots.filter((plot) => plot.kind === "pie" || plot.kind === "doughnut");
  for (const plot of round) drawPie(pen, plot, manual ?? room);
  const radar = plots.filter((plot) => plot.kind === "radar");
  if (radar.length > 0) drawRadar(pen, radar, manual ?? room);
  const flat = plots.filter((plot) => !round.includes(plot) && !radar.includes(plot) && plot.series.length > 0);
  if (flat.length === 0) return;
  const frame: PlotFrame = drawAxes(pen, flat, room, manual);
  for (const kind of ["area", "bar", "line", "scatter", "bubble"] as const)
    for (const plot of flat) if (plot.kind === kind) drawSeries(pen, plot, frame);
}
