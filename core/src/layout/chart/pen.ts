/** What the parts of a chart are drawn with. */
import { formatValue } from "../../common/index.js";
import type { PageItem } from "../../page/index.js";
import type { Theme } from "../../spreadsheet/index.js";
import type { TextLook } from "../drawing/paint.js";
import type { Chart, Series } from "./read-chart.js";

/** What all parts of a chart draw with. */
export interface ChartPen {
  readonly items: PageItem[];
  readonly chart: Chart;
  readonly theme: Theme;
  readonly width: (text: string, look: TextLook) => number;
  /** Puts a text with its baseline's start, middle or end at a place; turned anticlockwise about it. */
  readonly text: (text: string, at: TextPlace, look: TextLook) => void;
  readonly color: (series: Series, point?: number) => string;
}

export interface TextPlace {
  readonly x: number;
  /** The baseline. */
  readonly y: number;
  readonly align: "left" | "center" | "right";
  readonly turn?: number | undefined;
}

/** A category or a value as it is shown. */
export function labelText(value: string | number, format: string): string {
  return typeof value === "number" ? formatValue(value, format) : value;
}

/** The name of a series' point; one that has none is called by its number. */
export function categoryText(
  series: Pick<Series, "categories" | "categoryFormat"> | undefined,
  index: number,
  format = series?.categoryFormat ?? "General",
): string {
  const category = series?.categories[index];
  return category === undefined ? String(index + 1) : labelText(category, format);
}
