/** Rows of a table drawn: grounds, lines between cells, texts, turned or not. */

import type { LineItem, PageItem } from "../../../page/index.js";
import { borderLine, drawStack, stackHeight } from "../fragment.js";
import type { PageNumbers } from "../lines/run-shaping.js";
import { isDrawn, type ParagraphLine } from "../props.js";
import { cellHeight, type PlacedCell, type PlacedRow, type PlacedTable } from "./placed-table.js";

/** Where and with which numbers a row is drawn. */
export interface RowPlace {
  readonly numbers: PageNumbers;
  readonly x: number;
  readonly y: number;
}

export function drawRow(
  placed: PlacedTable,
  index: number,
  rowHeight: number,
  cells: readonly PlacedCell[],
  at: RowPlace,
): PageItem[] {
  const grounds: PageItem[] = [];
  const lines: PageItem[] = [];
  const texts: PageItem[] = [];
  for (const own of cells) {
    const { cell, width, fragments } = own;
    const x = at.x + own.x;
    const height =
      own.rows === 1 ? rowHeight : placed.heights.slice(index, index + own.rows).reduce((sum, one) => sum + one, 0);
    if (cell.shading && cell.merge !== "continue")
      grounds.push({ kind: "fill", x, y: at.y, width, height, color: cell.shading });
    addBorders(placed, index, own, { x, y: at.y, height: rowHeight }, lines);
    if (cell.turned) {
      texts.push(...turnedText(own, { x, y: at.y, height }, at.numbers));
      continue;
    }
    const needed = cellHeight(own);
    const free = Math.max(0, height - needed);
    const top =
      (cell.margins.top ?? 0) + (cell.vertical === "center" ? free / 2 : cell.vertical === "bottom" ? free : 0);
    const items = drawStack(fragments, x + (cell.margins.left ?? 0), at.y + top, at.numbers);
    if (placed.rows[index].row.height.rule === "exact" && needed > height + 0.5)
      texts.push({ kind: "group", clip: { x, y: at.y, width, height }, items });
    else for (const item of items) texts.push(item);
  }
  joinLevel(lines, grounds);
  return grounds.length > 0 ? [{ kind: "tagged", node: undefined, items: grounds }, ...texts] : texts;
}

/** Level lines of cells beside each other that look alike become one; others stay. The lines are nobody else's yet. */
export function joinLevel(lines: readonly PageItem[], into: PageItem[]): void {
  const open: (LineItem & { x2: number })[] = [];
  for (const line of lines) {
    if (line.kind !== "line" || line.y1 !== line.y2 || line.dash) {
      into.push(line);
      continue;
    }
    const before = open.find(
      (one) =>
        one.y1 === line.y1 && Math.abs(one.x2 - line.x1) < 0.01 && one.width === line.width && one.color === line.color,
    );
    if (before) before.x2 = line.x2;
    else {
      open.push(line);
      into.push(line);
    }
  }
}

/** Lines that run downwards or upwards: laid out level, then turned about the cell's corner. */
export function turnedText(
  { cell, width, fragments }: PlacedCell,
  { x, y, height }: { readonly x: number; readonly y: number; readonly height: number },
  numbers: PageNumbers,
): PageItem[] {
  const level = drawStack(fragments, 0, 0, numbers);
  const free = Math.max(0, width - stackHeight(fragments));
  const across = cell.vertical === "center" ? free / 2 : cell.vertical === "bottom" ? free : (cell.margins.top ?? 0);
  const bottom = height - (cell.margins.left ?? 0);
  return turned(level, cell.turned === "up", { x: x + across, y, bottom: y + bottom, width });
}

export function turned(
  items: readonly PageItem[],
  isUp: boolean,
  box: { readonly x: number; readonly y: number; readonly bottom: number; readonly width: number },
): PageItem[] {
  return items.flatMap((item): PageItem[] => {
    if (item.kind === "tagged") return [{ ...item, items: turned(item.items, isUp, box) }];
    if (item.kind !== "text") return [];
    const at = isUp
      ? { x: box.x + item.y, y: box.bottom - item.x }
      : { x: box.x + box.width - item.y, y: box.y + item.x };
    return [{ ...item, ...at, rotation: isUp ? 90 : -90 }];
  });
}

export function addBorders(
  placed: PlacedTable,
  index: number,
  own: PlacedCell,
  { x, y, height }: { readonly x: number; readonly y: number; readonly height: number },
  items: PageItem[],
): void {
  const { table, rows } = placed;
  const { width, cell } = own;
  const [right, bottom] = [x + width, y + height];
  const isTop = index === 0;
  const isBottom = index === rows.length - 1;
  const continues =
    !isBottom && rows[index + 1].cells.some((below) => below.column === own.column && below.cell.merge === "continue");
  const isLeft = own.column === 0;
  const isRight = own.column + cell.span >= placed.columns;
  const side = (name: string, outer: boolean, inside: string): ParagraphLine | undefined =>
    cell.borders[name] ?? (outer ? table.borders[name] : (cell.borders[inside] ?? table.borders[inside]));
  const beside = (column: (one: PlacedCell) => boolean, name: string): ParagraphLine | undefined =>
    rows[index].cells.find(column)?.cell.borders[name];
  const add = (line: ParagraphLine | undefined, x1: number, y1: number, x2: number, y2: number): void => {
    if (isDrawn(line)) items.push(...borderLine(line, x1, y1, x2, y2));
  };
  if (cell.merge !== "continue") add(heavier(side("top", isTop, "insideH"), above(rows, index, own)), x, y, right, y);
  if (!continues) add(side("bottom", isBottom, "insideH"), x, bottom, right, bottom);
  const before = beside((one) => one.column + one.cell.span === own.column, "right");
  add(heavier(side("left", isLeft, "insideV"), before), x, y, x, bottom);
  const behind = beside((one) => one.column === own.column + cell.span, "left");
  add(heavier(side("right", isRight, "insideV"), behind), right, y, right, bottom);
  add(cell.borders.tl2br, x, y, right, bottom);
  add(cell.borders.tr2bl, x, bottom, right, y);
}

/** The lower border that the cell above sets for itself. */
export function above(rows: readonly PlacedRow[], index: number, placed: PlacedCell): ParagraphLine | undefined {
  return index === 0
    ? undefined
    : rows[index - 1].cells.find((cell) => cell.column === placed.column)?.cell.borders.bottom;
}

/** Where two cells disagree about a shared edge, the heavier line is drawn (17.4.66). */
export function heavier(a: ParagraphLine | undefined, b: ParagraphLine | undefined): ParagraphLine | undefined {
  if (!isDrawn(a)) return isDrawn(b) ? b : a;
  return isDrawn(b) && b.width > a.width ? b : a;
}
