/** Scales of axes: from values to places, and where ticks stand. */
import type { Axis, Plot } from "./read-chart.js";

export interface Scale {
  readonly min: number;
  readonly max: number;
  readonly ticks: readonly number[];
  /** From 0 at the least value to 1 at the most. */
  readonly at: (value: number) => number;
}

/** Steps that people count in. */
const STEPS = [1, 2, 5, 10];

export function valueScale(axis: Axis, low: number, high: number, wanted: number): Scale {
  if (axis.log) return logScale(axis, low, high, axis.log);
  let [from, to] = [Math.min(low, high), Math.max(low, high)];
  if (!Number.isFinite(from) || !Number.isFinite(to)) [from, to] = [0, 1];
  // Nought is in sight unless all values lie close together far from it.
  if (from > 0 && (to - from > to * 0.1667 || axis.max === undefined) && !(to - from < to * 0.1667 && to > from))
    from = 0;
  if (to < 0 && !(to - from < -from * 0.1667 && to > from)) to = 0;
  if (from === to) {
    if (from === 0) to = 1;
    else if (from > 0) from = 0;
    else to = 0;
  }
  const min0 = axis.min ?? from;
  const max0 = axis.max ?? to;
  const span = Math.abs(max0 - min0) || 1;
  const unit = axis.unit && axis.unit > 0 && span / axis.unit <= 500 ? axis.unit : niceStep(span / Math.max(2, wanted));
  // Nearly whole steps are whole; a value that rounding leaves outside by a hair is inside all the same.
  const min = axis.min ?? Math.min(min0, Math.floor(min0 / unit + 1e-9) * unit);
  // The highest value does not touch the top.
  const room = axis.max === undefined && to > 0 ? max0 + span * 0.03 : max0;
  const max = axis.max ?? Math.max(max0, Math.ceil(room / unit - 1e-9) * unit);
  const ticks: number[] = [];
  for (let step = 0; step <= 500; step++) {
    const value = min + step * unit;
    if (value > max + unit * 1e-6) break;
    ticks.push(Number(value.toPrecision(12)));
  }
  const range = max - min || 1;
  return { min, max, ticks, at: (value) => (value - min) / range };
}

function niceStep(raw: number): number {
  const power = 10 ** Math.floor(Math.log10(raw));
  return (STEPS.find((step) => step * power >= raw - power * 1e-9) ?? 10) * power;
}

function logScale(axis: Axis, low: number, high: number, base: number): Scale {
  const log = (value: number): number => Math.log(Math.max(value, 1e-12)) / Math.log(base);
  const from = Math.floor(log(axis.min ?? Math.max(low, 1e-3)) + 1e-9);
  const to = Math.max(from + 1, Math.ceil(log(axis.max ?? Math.max(high, 1)) - 1e-9));
  const ticks = Array.from({ length: to - from + 1 }, (_, step) => base ** (from + step));
  return { min: base ** from, max: base ** to, ticks, at: (value) => (log(value) - from) / (to - from) };
}

/** Values as they are stacked: for each series and category where its part begins and ends. */
export function stackValues(plot: Plot): (readonly [number, number] | undefined)[][] {
  const count = Math.max(0, ...plot.series.map((series) => series.values.length));
  const above = new Array<number>(count).fill(0);
  const below = new Array<number>(count).fill(0);
  const totals = Array.from({ length: count }, (_, at) =>
    plot.series.reduce((sum, series) => sum + Math.abs(series.values[at] ?? 0), 0),
  );
  const isStacked = plot.grouping === "stacked" || plot.grouping === "percentStacked";
  return plot.series.map((series) =>
    Array.from({ length: count }, (_, at) => {
      const raw = series.values[at];
      if (raw === undefined) return undefined;
      const value = plot.grouping === "percentStacked" ? raw / (totals[at] || 1) : raw;
      if (!isStacked) return [0, value] as const;
      const base = value >= 0 ? above : below;
      const from = base[at];
      base[at] += value;
      return [from, base[at]] as const;
    }),
  );
}
