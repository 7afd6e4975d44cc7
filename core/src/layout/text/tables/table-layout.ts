import type { StructureNode } from "../../../page/index.js";
import type { Note, TableBlock, TableCellBlock, TableRowBlock } from "../blocks.js";
import { child, type Fragment, type TableSite } from "../fragment.js";
import { cellHeight, type PlacedCell, type PlacedRow, type PlacedTable } from "./placed-table.js";
import { drawRow } from "./table-drawing.js";
import { columnWidths, tableNeeds } from "./table-widths.js";

export { tableNeeds as measureTable };

/** Less of a row than this is not left at the foot of a page. */
const LEAST_PIECE = 8;

/** A table as fragments, one a row. */
export function layTable(table: TableBlock, width: number, site: TableSite): Fragment[] {
  const widths = columnWidths(table, width, site);
  const xs = columnEdges(table, width, widths);
  const node = child(site.node, "Table");
  const rows = table.rows.map((row, index) => placeRow(table, row, index, xs, { ...site, node }));
  const placed: PlacedTable = { table, rows, heights: rowHeights(rows), columns: widths.length };
  const headerCount = rows.findIndex(({ row }) => !row.isHeader);
  const fragments = rows.map((_, index) => rowFragment(placed, index));
  if (headerCount <= 0) return fragments;
  const repeated = fragments.slice(0, headerCount);
  return fragments.map((fragment, index) =>
    index < headerCount ? { ...fragment, keepNext: true } : withRepeated(fragment, repeated),
  );
}

/** Also what is left of a row on the next page stands below the headings. */
function withRepeated(fragment: Fragment, repeated: readonly Fragment[]): Fragment {
  const { split } = fragment;
  if (!split) return { ...fragment, repeated };
  return {
    ...fragment,
    repeated,
    split: (room) => {
      const parts = split(room);
      return parts && [parts[0], withRepeated(parts[1], repeated)];
    },
  };
}

/** Left edges of the grid columns and the right edge of the last, from the text margin. */
function columnEdges(table: TableBlock, width: number, widths: readonly number[]): number[] {
  const total = widths.reduce((sum, column) => sum + column, 0);
  const start =
    table.align === "center"
      ? (width - total) / 2
      : table.align === "right" || table.align === "end"
        ? width - total
        : table.indent;
  const edges = [start];
  for (const column of widths) edges.push(edges[edges.length - 1] + column);
  return edges;
}

function placeRow(
  table: TableBlock,
  row: TableRowBlock,
  index: number,
  xs: readonly number[],
  site: TableSite,
): PlacedRow {
  let column = row.before;
  const node = child(site.node, "TR");
  const { fonts, defaultTab } = site;
  const cells = row.cells.map((cell): PlacedCell => {
    const first = column;
    column += cell.span;
    const x = xs[Math.min(first, xs.length - 1)];
    const width = xs[Math.min(column, xs.length - 1)] - x;
    const rows = cell.merge === "start" ? mergedRows(table, index, first) : 1;
    const inner = cell.turned
      ? Math.max(20, turnedRoom(table, index, rows) - (cell.margins.left ?? 0) - (cell.margins.right ?? 0))
      : Math.max(1, width - (cell.margins.left ?? 0) - (cell.margins.right ?? 0));
    const own = cell.merge === "continue" ? undefined : cellNode(node, row, cell, rows);
    return {
      cell,
      column: first,
      x,
      width,
      fragments: own ? site.blocks.lay(cell.blocks, inner, { fonts, defaultTab, node: own, isCell: true }) : [],
      rows,
    };
  });
  return { row, cells };
}

function cellNode(row: StructureNode, { isHeader }: TableRowBlock, cell: TableCellBlock, rows: number): StructureNode {
  return child(row, isHeader ? "TH" : "TD", {
    ...(isHeader ? { scope: "Column" as const } : {}),
    ...(cell.span > 1 ? { columns: cell.span } : {}),
    ...(rows > 1 ? { rows } : {}),
  });
}

/** How long lines of turned text may be: the height the rows are given. */
function turnedRoom(table: TableBlock, from: number, rows: number): number {
  const given = table.rows.slice(from, from + rows).reduce((sum, row) => sum + row.height.value, 0);
  return given > 0 ? given : 100;
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

function rowFragment(placed: PlacedTable, index: number): Fragment {
  const { rows, heights } = placed;
  const { row, cells } = rows[index];
  const continues = cells.some(({ cell }) => cell.merge !== "none");
  const reachesOn =
    continues &&
    cells.some(
      (cell) =>
        cell.rows > 1 ||
        (cell.cell.merge === "continue" &&
          index + 1 < rows.length &&
          rows[index + 1].cells.some((below) => below.column === cell.column && below.cell.merge === "continue")),
    );
  const keeps = cells.length > 0 && cells.every(keepsNext);
  const canSplit = !row.cantSplit && !row.isHeader && row.height.rule !== "exact" && !continues;
  const notes: Note[] = [];
  const places: string[] = [];
  for (const cell of cells)
    for (const fragment of cell.fragments) {
      notes.push(...fragment.notes);
      places.push(...fragment.places);
    }
  const fragment: Fragment = {
    ...EMPTY,
    height: heights[index],
    // Rows that a merged cell holds together stay on a page, as far as a page holds them.
    keepNext: (reachesOn && cells.length < MANY_ROWS && rows.length < MANY_ROWS) || keeps,
    breakBefore: cells.some(
      ({ cell }) => cell.blocks[0]?.kind === "paragraph" && cell.blocks[0].props.pageBreakBefore === true,
    ),
    notes,
    places,
    split: canSplit ? (room) => splitRow(placed, index, cells, heights[index], room) : undefined,
    draw: (numbers, x, y) => drawRow(placed, index, heights[index], cells, { numbers, x, y }),
  };
  return fragment;
}

function keepsNext({ cell }: PlacedCell): boolean {
  return (
    cell.blocks.length > 0 && cell.blocks.every((block) => block.kind === "paragraph" && block.props.keepNext === true)
  );
}

const MANY_ROWS = 40;
const EMPTY = {
  before: 0,
  after: 0,
  keepNext: false,
  breakBefore: false,
  breakAfter: undefined,
  notes: [],
  places: [],
  floats: [],
};

/** A row cut where its cells' lines allow; what does not fit goes on below. */
function splitRow(
  placed: PlacedTable,
  index: number,
  cells: readonly PlacedCell[],
  height: number,
  room: number,
): readonly [Fragment, Fragment] | undefined {
  const parts = cells.map((cell) => cutCell(cell, room));
  const cut = parts.filter((part) => part !== undefined);
  if (cut.length < parts.length) return undefined;
  const heads = cut.map((part) => part.head);
  const tails = cut.map((part) => part.tail);
  if (!tails.some((cell) => cell.fragments.length > 0)) return undefined;
  const used = Math.max(LEAST_PIECE, ...heads.map(cellHeight));
  if (used > room) return undefined;
  const rest = Math.max(...tails.map(cellHeight), height - room > 0 ? Math.min(height - used, 0) : 0);
  const piece = (own: readonly PlacedCell[], at: number): Fragment => ({
    ...EMPTY,
    height: at,
    notes: own.flatMap((cell) => cell.fragments.flatMap((fragment) => fragment.notes)),
    places: own.flatMap((cell) => cell.fragments.flatMap((fragment) => fragment.places)),
    draw: (numbers, x, y) => drawRow(placed, index, at, own, { numbers, x, y }),
  });
  return [piece(heads, used), { ...piece(tails, rest), split: (more) => splitRow(placed, index, tails, rest, more) }];
}

interface CutCell {
  readonly head: PlacedCell;
  readonly tail: PlacedCell;
}

/** The lines of a cell that fit, and the others; `undefined` where not even the first fits. */
function cutCell(placed: PlacedCell, room: number): CutCell | undefined {
  const { cell, fragments } = placed;
  if (cell.turned) return { head: placed, tail: { ...placed, fragments: [] } };
  let left = room - (cell.margins.top ?? 0) - (cell.margins.bottom ?? 0);
  let count = 0;
  while (count < fragments.length) {
    const fragment = fragments[count];
    const needed = (count === 0 ? 0 : fragment.before) + fragment.height;
    if (needed > left) break;
    left -= needed + fragment.after;
    count++;
  }
  // A line that stays with the next goes with it.
  let kept = count;
  while (kept > 0 && kept < fragments.length && fragments[kept - 1].keepNext) kept--;
  if (kept === 0) kept = count;
  const next = fragments[kept];
  const inner = next?.split?.(left);
  if (kept === 0 && fragments.length > 0 && !inner) return undefined;
  const [head, tail] = inner
    ? [
        [...fragments.slice(0, kept), inner[0]],
        [inner[1], ...fragments.slice(kept + 1)],
      ]
    : [fragments.slice(0, kept), fragments.slice(kept)];
  return { head: { ...placed, fragments: head }, tail: { ...placed, fragments: tail } };
}
