/** How pivots look by their style: ECMA-376 part 1, 18.10.1.74 and 18.8.83. A cell's own format counts more. */

import type { XmlElement } from "../../../ooxml/index.js";
import {
  type CellBorder,
  type CellRange,
  type FormatChange,
  isTrue,
  maybeRange,
  type SheetInfo,
  type Theme,
  tintColor,
  type Workbook,
} from "../../../spreadsheet/index.js";

/** Parts of a pivot that a style speaks of. */
interface PivotStyle {
  readonly whole: FormatChange;
  readonly heading: FormatChange;
  /** Lines of outer items and their subtotals. */
  readonly subtotal: FormatChange;
  readonly total: FormatChange;
  readonly totalColumn: FormatChange;
}

/** Adds the looks of a sheet's pivots, by row and column. */
export function addPivotLooks(
  workbook: Workbook,
  info: SheetInfo,
  looks: Map<number, Map<number, FormatChange>>,
): void {
  const opened = workbook.package;
  for (const { type, target } of opened.relationships(info.part)) {
    if (type !== "pivotTable" || !opened.has(target)) continue;
    const root = opened.getXml(target);
    const [location, style] = [root.child("location"), root.child("pivotTableStyleInfo")];
    const area = maybeRange(location?.attr("ref") ?? "");
    const known = styleNamed(style?.attr("name") ?? "", workbook.theme);
    if (!location || !area || !known) continue;
    const shape = {
      area,
      headings: Number(location.attr("firstDataRow") ?? 1),
      kinds: lineKinds(root.child("rowItems"), root.child("rowFields")?.elements("field").length ?? 1),
      hasTotalColumn:
        isTrue(style?.attr("showLastColumn")) &&
        (root
          .child("colItems")
          ?.elements("i")
          .some((line) => line.attr("t") === "grand") ??
          false),
      hasHeadings: isTrue(style?.attr("showColHeaders")),
      hasLabels: isTrue(style?.attr("showRowHeaders")),
    };
    for (let row = area.top; row <= area.bottom; row++) {
      const line = looks.get(row) ?? new Map<number, FormatChange>();
      looks.set(row, line);
      for (let column = area.left; column <= area.right; column++) line.set(column, lookAt(known, shape, row, column));
    }
  }
}

interface PivotShape {
  readonly area: CellRange;
  readonly headings: number;
  readonly kinds: readonly ("item" | "outer" | "total")[];
  readonly hasTotalColumn: boolean;
  readonly hasHeadings: boolean;
  readonly hasLabels: boolean;
}

function lookAt(style: PivotStyle, shape: PivotShape, row: number, column: number): FormatChange {
  const at = row - shape.area.top - shape.headings;
  const kind = shape.kinds[at];
  const parts = [style.whole];
  if (shape.hasTotalColumn && column === shape.area.right) parts.push(style.totalColumn);
  if (at < 0 && shape.hasHeadings) parts.push(style.heading);
  if (kind === "outer" && shape.hasLabels) parts.push(style.subtotal);
  if (kind === "total" && shape.hasLabels) parts.push(style.total);
  const edges = (part: FormatChange): CellBorder => {
    const { top, bottom } = part.border;
    // The lines of a heading of several rows stand around all of them.
    if (part !== style.heading) return part.border;
    return { ...(at === -shape.headings && top ? { top } : {}), ...(at === -1 && bottom ? { bottom } : {}) };
  };
  return parts.reduce<FormatChange>(
    (look, part) => ({
      font: { ...look.font, ...part.font },
      fill: part.fill ?? look.fill,
      border: { ...look.border, ...edges(part) },
      code: undefined,
    }),
    { font: {}, fill: undefined, border: {}, code: undefined },
  );
}

/** Which lines are those of outer items, subtotals and the whole (18.10.1.44). */
function lineKinds(list: XmlElement | undefined, depth: number): ("item" | "outer" | "total")[] {
  return (list?.elements("i") ?? []).map((line) => {
    const type = line.attr("t");
    if (type === "grand") return "total";
    const own = Number(line.attr("r") ?? 0) + line.elements("x").length;
    return type !== undefined || own < depth ? "outer" : "item";
  });
}

/** A style that every program knows by its name: families in the theme's text colour and its six accents. */
function styleNamed(name: string, theme: Theme): PivotStyle | undefined {
  const match = /^PivotStyle(Light|Medium|Dark)(\d+)$/.exec(name);
  if (!match) return undefined;
  const [kind, number] = [match[1], Number(match[2])];
  const accent = (number - 1) % 7;
  const color = (accent === 0 ? theme.colors[1] : theme.colors[3 + accent]) ?? "000000";
  const pale = accent === 0 ? "D9D9D9" : tintColor(color, 0.8);
  const soft = accent === 0 ? "A6A6A6" : tintColor(color, 0.4);
  const change = (fill?: string, font: FormatChange["font"] = {}, border: CellBorder = {}): FormatChange => ({
    fill,
    font,
    border,
    code: undefined,
  });
  const bold = { bold: true };
  const white = { bold: true, color: theme.colors[0] ?? "FFFFFF" };
  const rule = (tone: string, style = "thin") => ({ style, color: tone });
  if (kind === "Light") {
    const isBanded = number >= 15;
    return {
      whole: change(),
      heading: change(isBanded ? pale : undefined, bold, { bottom: rule(isBanded ? soft : color) }),
      subtotal: change(undefined, bold),
      total: change(isBanded ? pale : undefined, bold, { top: rule(isBanded ? soft : color) }),
      totalColumn: change(undefined, isBanded ? {} : bold),
    };
  }
  if (kind === "Medium")
    return {
      whole: change(),
      heading: change(color, white),
      subtotal: change(pale, bold),
      total: change(undefined, bold, { top: rule(color, "double") }),
      totalColumn: change(undefined, bold),
    };
  const deep = tintColor(accent === 0 ? "737373" : color, -0.25);
  return {
    whole: change(accent === 0 ? "737373" : color, { color: "FFFFFF" }),
    heading: change("000000", white),
    subtotal: change(deep, white),
    total: change(tintColor(deep, -0.25), white),
    totalColumn: change(undefined, bold),
  };
}
