/** Draws what is anchored on a sheet onto its pages; what lies across an edge shows on both pages. */
import type { Fonts } from "../../../fonts/index.js";
import { type Box, moveItems, type PageItem } from "../../../page/index.js";
import { MAX_COLUMNS, MAX_ROWS, type Theme } from "../../../spreadsheet/index.js";
import { drawChart } from "../../chart/draw-chart.js";
import { drawShape } from "../../drawing/shape.js";
import type { SheetGeometry } from "../paginate/grid.js";
import type { AnchorPoint, DrawingContent, SheetDrawing } from "../read/read-drawings.js";

/** Rows and columns that stand together on a page, and where. */
export interface PageRegion {
  readonly rows: { readonly from: number; readonly to: number };
  readonly columns: { readonly from: number; readonly to: number };
  /** On the page, in points. */
  readonly box: Box;
}

export interface DrawingSite {
  readonly grid: SheetGeometry;
  readonly fonts: Fonts;
  readonly theme: Theme;
  readonly scale: number;
}

export function drawDrawings(
  drawings: readonly SheetDrawing[],
  regions: readonly PageRegion[],
  site: DrawingSite,
): PageItem[] {
  return drawings.flatMap((drawing) => {
    const box = boxOf(drawing, site.grid);
    return regions.flatMap((region) => {
      const origin = { x: site.grid.left(region.columns.from), y: site.grid.top(region.rows.from) };
      const x = region.box.x + (box.x - origin.x) * site.scale;
      const y = region.box.y + (box.y - origin.y) * site.scale;
      const [width, height] = [box.width * site.scale, box.height * site.scale];
      const { box: seen } = region;
      const isSeen = x < seen.x + seen.width && x + width > seen.x && y < seen.y + seen.height && y + height > seen.y;
      if (!isSeen || width <= 0 || height <= 0) return [];
      const items = moveItems(contentItems(drawing, box, site), x, y, site.scale);
      const isWhole =
        x >= seen.x - 1 &&
        y >= seen.y - 1 &&
        x + width <= seen.x + seen.width + 1 &&
        y + height <= seen.y + seen.height + 1;
      return isWhole ? items : [{ kind: "group" as const, clip: seen, items }];
    });
  });
}

/** A drawing in a box of the page's, whatever its anchor says. */
export function drawIn(drawing: SheetDrawing, box: Box, site: Pick<DrawingSite, "fonts" | "theme">): PageItem[] {
  return moveItems(contentItems(drawing, box, site), box.x, box.y);
}

function contentItems(drawing: SheetDrawing, box: Box, site: Pick<DrawingSite, "fonts" | "theme">): PageItem[] {
  return drawing.parts.flatMap(({ content, place }) => {
    const own = {
      x: place.x * box.width,
      y: place.y * box.height,
      width: place.width * box.width,
      height: place.height * box.height,
    };
    return itemsOf(content, own, site);
  });
}

function itemsOf(content: DrawingContent, box: Box, site: Pick<DrawingSite, "fonts" | "theme">): readonly PageItem[] {
  switch (content.kind) {
    case "image":
      return [{ kind: "image", image: content.image, description: content.description, ...box }];
    case "chart":
      return moveItems(drawChart(content.chart, box, site.fonts, content.theme), box.x, box.y);
    case "shape":
      return drawShape(content.shape, box, site.fonts, site.theme);
  }
}

/** On the sheet, measured from its upper left corner. */
function boxOf(drawing: SheetDrawing, grid: SheetGeometry): Box {
  const corner = (point: AnchorPoint): { x: number; y: number } => ({
    x: grid.left(point.column) + Math.min(point.dx, grid.width(point.column) || point.dx),
    y: grid.top(point.row) + Math.min(point.dy, grid.height(point.row) || point.dy),
  });
  const from = corner(drawing.from);
  if (!("row" in drawing.to)) return { ...from, ...drawing.to };
  const to = corner(drawing.to);
  return { ...from, width: to.x - from.x, height: to.y - from.y };
}

/** The last cell that a drawing covers. */
export function lastCellOf(drawing: SheetDrawing, grid: SheetGeometry): { row: number; column: number } {
  if ("row" in drawing.to) return drawing.to;
  const box = boxOf(drawing, grid);
  let { row, column } = drawing.from;
  while (row < MAX_ROWS - 1 && grid.top(row + 1) < box.y + box.height) row++;
  while (column < MAX_COLUMNS - 1 && grid.left(column + 1) < box.x + box.width) column++;
  return { row, column };
}
