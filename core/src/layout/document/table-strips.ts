import type { Fonts } from "../../fonts/index.js";
import type { PageItem } from "../page.js";
import type { TableBlock, TableCellBlock, TableRowBlock } from "./blocks.js";
import type { PageNumbers } from "./paragraph-lines.js";
import { isDrawn, type ParagraphLine } from "./props.js";
import { borderLine, drawStack, layBlocks, type Strip, stackHeight } from "./strips.js";

interface PlacedCell {
  readonly cell: TableCellBlock;
  /** First grid column. */
  readonly column: number;
  readonly x: number;
  readonly width: number;
  readonly strips: readonly Strip[];
  /** Rows it reaches over. */
  readonly rows: number;
}

interface PlacedRow {
  readonly row: TableRowBlock;
  readonly cells: readonly PlacedCell[];
}

/** A table as strips, one a row. */
export function layTable(table: TableBlock, width: number, fonts: Fonts): Strip[] {
  const xs = columnEdges(table, width);
  const placed = table.rows.map((row, index) => placeRow(table, row, index, xs, fonts));
  const heights = rowHeights(placed);
  const headerCount = placed.findIndex(({ row }) => !row.isHeader);
  const strips = placed.map((row, index) => rowStrip(table, placed, heights, index, row));
  if (headerCount <= 0) return strips;
  const repeated = strips.slice(0, headerCount);
  return strips.map((strip, index) => (index < headerCount ? { ...strip, keepNext: true } : { ...strip, repeated }));
}

/** Left edges of the grid columns and the right edge of the last, from the text margin. */
function columnEdges(table: TableBlock, width: number): number[] {
  const total = table.columns.reduce((sum, column) => sum + column, 0);
  const start =
    table.align === "center"
      ? (width - total) / 2
      : table.align === "right" || table.align === "end"
        ? width - total
        : table.indent;
  const edges = [start];
  for (const column of table.columns) edges.push(edges[edges.length - 1] + column);
  return edges;
}

function placeRow(
  table: TableBlock,
  row: TableRowBlock,
  index: number,
  xs: readonly number[],
  fonts: Fonts,
): PlacedRow {
  let column = row.before;
  const cells = row.cells.map((cell): PlacedCell => {
    const first = column;
    column += cell.span;
    const x = xs[Math.min(first, xs.length - 1)];
    const width = xs[Math.min(column, xs.length - 1)] - x;
    const inner = Math.max(1, width - (cell.margins.left ?? 0) - (cell.margins.right ?? 0));
    const strips = cell.merge === "continue" ? [] : layBlocks(cell.blocks, inner, fonts);
    return {
      cell,
      column: first,
      x,
      width,
      strips,
      rows: cell.merge === "start" ? mergedRows(table, index, first) : 1,
    };
  });
  return { row, cells };
}

function mergedRows(table: TableBlock, from: number, column: number): number {
  let rows = 1;
  for (let index = from + 1; index < table.rows.length; index++) {
    let at = table.rows[index].before;
    const below = table.rows[index].cells.find((cell) => {
      const isHere = at === column;
      at += cell.span;
      return isHere;
    });
    if (below?.merge !== "continue") break;
    rows++;
  }
  return rows;
}

function cellHeight({ cell, strips }: PlacedCell): number {
  return stackHeight(strips) + (cell.margins.top ?? 0) + (cell.margins.bottom ?? 0);
}

function rowHeights(rows: readonly PlacedRow[]): number[] {
  const heights = rows.map(({ row, cells }) => {
    if (row.height.rule === "exact") return row.height.value;
    const needed = Math.max(
      0,
      ...cells.filter((cell) => cell.rows === 1 && cell.cell.merge !== "continue").map(cellHeight),
    );
    return Math.max(needed, row.height.rule === "atLeast" ? row.height.value : 0);
  });
  // What a cell over several rows still lacks is given to its last row.
  rows.forEach(({ cells }, index) => {
    for (const cell of cells) {
      if (cell.rows === 1) continue;
      const have = heights.slice(index, index + cell.rows).reduce((sum, height) => sum + height, 0);
      const last = index + cell.rows - 1;
      if (rows[last].row.height.rule !== "exact") heights[last] += Math.max(0, cellHeight(cell) - have);
    }
  });
  return heights;
}

function rowStrip(
  table: TableBlock,
  rows: readonly PlacedRow[],
  heights: readonly number[],
  index: number,
  placed: PlacedRow,
): Strip {
  const height = heights[index];
  const reachesOn =
    placed.cells.some((cell) => cell.rows > 1) ||
    placed.cells.some(
      (cell) =>
        cell.cell.merge === "continue" &&
        index + 1 < rows.length &&
        rows[index + 1].cells.some((below) => below.column === cell.column && below.cell.merge === "continue"),
    );
  const keeps =
    placed.cells.length > 0 &&
    placed.cells.every(
      ({ cell }) =>
        cell.blocks.length > 0 &&
        cell.blocks.every((block) => block.kind === "paragraph" && block.props.keepNext === true),
    );
  return {
    height,
    before: 0,
    after: 0,
    keepNext: reachesOn || keeps,
    breakBefore: false,
    breakAfter: false,
    draw: (numbers) => drawRow(table, rows, heights, index, numbers),
  };
}

function drawRow(
  table: TableBlock,
  rows: readonly PlacedRow[],
  heights: readonly number[],
  index: number,
  numbers: PageNumbers,
): PageItem[] {
  const fills: PageItem[] = [];
  const lines: PageItem[] = [];
  const texts: PageItem[] = [];
  for (const placed of rows[index].cells) {
    const { cell, x, width, strips } = placed;
    const height = heights.slice(index, index + placed.rows).reduce((sum, one) => sum + one, 0);
    if (cell.shading && cell.merge !== "continue")
      fills.push({ kind: "fill", x, y: 0, width, height, color: cell.shading });
    lines.push(...cellBorders(table, rows, index, placed, heights[index]));
    const free = Math.max(0, height - cellHeight(placed));
    const top =
      (cell.margins.top ?? 0) + (cell.vertical === "center" ? free / 2 : cell.vertical === "bottom" ? free : 0);
    texts.push(...drawStack(strips, x + (cell.margins.left ?? 0), top, numbers));
  }
  return [...fills, ...lines, ...texts];
}

function cellBorders(
  table: TableBlock,
  rows: readonly PlacedRow[],
  index: number,
  placed: PlacedCell,
  height: number,
): PageItem[] {
  const { x, width, cell } = placed;
  const right = x + width;
  const isTop = index === 0;
  const isBottom = index === rows.length - 1;
  const continues =
    !isBottom &&
    rows[index + 1].cells.some((below) => below.column === placed.column && below.cell.merge === "continue");
  const isLeft = placed.column === 0;
  const isRight = placed.column + cell.span >= table.columns.length;
  const side = (name: string, outer: boolean, inside: string): ParagraphLine | undefined =>
    cell.borders[name] ?? (outer ? table.borders[name] : table.borders[inside]);
  const items: PageItem[] = [];
  const add = (line: ParagraphLine | undefined, x1: number, y1: number, x2: number, y2: number): void => {
    if (isDrawn(line)) items.push(...borderLine(line, x1, y1, x2, y2));
  };
  if (cell.merge !== "continue")
    add(heavier(side("top", isTop, "insideH"), above(rows, index, placed)), x, 0, right, 0);
  if (!continues) add(side("bottom", isBottom, "insideH"), x, height, right, height);
  add(side("left", isLeft, "insideV"), x, 0, x, height);
  add(side("right", isRight, "insideV"), right, 0, right, height);
  return items;
}

/** The lower border that the cell above sets for itself. */
function above(rows: readonly PlacedRow[], index: number, placed: PlacedCell): ParagraphLine | undefined {
  return index === 0
    ? undefined
    : rows[index - 1].cells.find((cell) => cell.column === placed.column)?.cell.borders.bottom;
}

/** Where two cells disagree about a shared edge, the heavier line is drawn (17.4.66). */
function heavier(a: ParagraphLine | undefined, b: ParagraphLine | undefined): ParagraphLine | undefined {
  if (!isDrawn(a)) return isDrawn(b) ? b : a;
  return isDrawn(b) && b.width > a.width ? b : a;
}
