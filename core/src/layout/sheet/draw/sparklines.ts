/** Small charts in cells: an extension of the sheet ([MS-XLSX] 2.6.171). */
import { greatest, least, oneOf } from "../../../common/index.js";
import type { XmlElement } from "../../../ooxml/index.js";
import type { Box, PageItem, PathCommand } from "../../../page/index.js";
import { ellipse } from "../../../page/index.js";
import { isTrue, maybeCell, resolveColor, type Workbook } from "../../../spreadsheet/index.js";
import { CellValues } from "../../chart/cell-values.js";

export interface Sparkline {
  readonly kind: "line" | "column" | "stacked";
  readonly values: readonly (number | undefined)[];
  readonly color: string;
  readonly negative: string | undefined;
  readonly markers: string | undefined;
  /** In points. */
  readonly weight: number;
  /** Lowest and highest of the scale, where all of a group share it. */
  readonly scale: readonly [number, number] | undefined;
}

/** By row and column of their cells. */
export type Sparklines = ReadonlyMap<string, Sparkline>;

export function readSparklines(workbook: Workbook, root: XmlElement): Sparklines {
  const found = new Map<string, Sparkline>();
  const groups = root.child("extLst")?.descendants("sparklineGroup") ?? [];
  if (groups.length === 0) return found;
  const cells = new CellValues(workbook);
  for (const group of groups) {
    const color = (name: string): string | undefined => resolveColor(group.child(name), workbook.theme);
    const lines = (group.child("sparklines")?.elements("sparkline") ?? []).flatMap((line) => {
      const place = maybeCell((line.child("sqref")?.text ?? "").split(":")[0]);
      const read = cells.at(line.child("f")?.text ?? "");
      const values = read?.items.map((item) => (typeof item === "number" ? item : undefined));
      return place && values ? [{ place, values }] : [];
    });
    const all = lines.flatMap(({ values }) => values.filter((value) => value !== undefined));
    const isShared = group.attr("minAxisType") === "group" || group.attr("maxAxisType") === "group";
    for (const { place, values } of lines)
      found.set(`${place.row} ${place.column}`, {
        kind: oneOf(["line", "column", "stacked"], group.attr("type"), "line"),
        values,
        color: color("colorSeries") ?? "376092",
        negative: isTrue(group.attr("negative")) ? (color("colorNegative") ?? "D00000") : undefined,
        markers: isTrue(group.attr("markers")) ? (color("colorMarkers") ?? "D00000") : undefined,
        weight: Number(group.attr("lineWeight") ?? 0.75),
        scale: isShared && all.length > 0 ? [least(all), greatest(all)] : undefined,
      });
  }
  return found;
}

export function sparklineItems(line: Sparkline, cell: Box): PageItem[] {
  const box = { x: cell.x + 2, y: cell.y + 2, width: cell.width - 4, height: cell.height - 4 };
  const numbers = line.values.filter((value) => value !== undefined);
  if (numbers.length === 0 || box.width <= 0 || box.height <= 0) return [];
  return line.kind === "line" ? lineItems(line, numbers, box) : columnItems(line, numbers, box);
}

function lineItems(line: Sparkline, numbers: readonly number[], box: Box): PageItem[] {
  const [low, high] = line.scale ?? [least(numbers), greatest(numbers)];
  const points = line.values.map((value, at): [number, number] | undefined =>
    value === undefined
      ? undefined
      : [
          box.x + (line.values.length > 1 ? at / (line.values.length - 1) : 0.5) * box.width,
          box.y + box.height * (high === low ? 0.5 : 1 - (value - low) / (high - low)),
        ],
  );
  const commands = points.flatMap((point, at): PathCommand[] =>
    point ? [[points[at - 1] ? "L" : "M", point[0], point[1]]] : [],
  );
  const items: PageItem[] = [{ kind: "path", commands, stroke: { color: line.color, width: line.weight } }];
  for (const point of points)
    if (point && line.markers)
      items.push({ kind: "path", commands: ellipse(point[0], point[1], 1.2, 1.2), fill: line.markers });
  return items;
}

/** Columns from nought; of wins and losses only which it is. */
function columnItems(line: Sparkline, numbers: readonly number[], box: Box): PageItem[] {
  const isSign = line.kind === "stacked";
  const shown = (value: number): number => (isSign ? Math.sign(value) : value);
  const [min, max] = isSign ? [-1, 1] : (line.scale ?? [least(numbers), greatest(numbers)]);
  const [low, high] = [Math.min(0, min), Math.max(0, max)];
  const place = (value: number): number => box.y + box.height * (1 - (value - low) / (high - low || 1));
  const each = box.width / line.values.length;
  return line.values.flatMap((value, at): PageItem[] => {
    if (value === undefined || value === 0) return [];
    const [top, bottom] = [place(Math.max(0, shown(value))), place(Math.min(0, shown(value)))];
    const color = value < 0 ? (line.negative ?? line.color) : line.color;
    return [{ kind: "fill", x: box.x + (at + 0.15) * each, y: top, width: each * 0.7, height: bottom - top, color }];
  });
}
