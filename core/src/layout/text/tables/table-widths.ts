/** Widths of a table's columns: ECMA-376 part 1, 17.4.52 and 17.18.87. */
import type { Length, TableBlock, TableCellBlock } from "../blocks.js";
import type { TableSite } from "../fragment.js";

/** Widths of the grid's columns in points, for a room of a given width. */
export function columnWidths(table: TableBlock, room: number, site: TableSite): number[] {
  const count = columnCount(table);
  const grid = Array.from({ length: count }, (_, at) => table.columns[at] ?? 0);
  const wanted = table.width ? inPoints(table.width, room) : undefined;
  const preferred = preferredWidths(table, count, wanted ?? room);
  if (table.isFixed) {
    const widths = grid.map((width, at) => preferred[at] ?? (width || 72));
    return wanted !== undefined && table.width?.unit === "share" ? scaledTo(widths, wanted) : widths;
  }
  const needs = contentWidths(table, count, site, preferred);
  const isStored = grid.every((width) => width > 0) && preferred.every((width) => width !== undefined);
  const base = needs.map((need, at) => {
    if (preferred[at] !== undefined) return Math.max(preferred[at], need.least);
    return wanted === undefined && grid[at] > 0 && isStored ? Math.max(grid[at], need.least) : need.most;
  });
  const total = base.reduce((sum, width) => sum + width, 0);
  const most = Math.max(wanted ?? Math.min(total, room), 1);
  if (wanted !== undefined && total < most) return scaledTo(base, most);
  return total > most + 0.5
    ? shrunk(
        base,
        needs.map((need) => need.least),
        most,
      )
    : base;
}

/** How narrow a table can be, and how wide without line breaks. */
export function tableNeeds(table: TableBlock, site: TableSite): { least: number; most: number } {
  const needs = contentWidths(table, columnCount(table), site, []);
  const sum = (side: "least" | "most"): number => needs.reduce((total, need) => total + need[side], 0);
  return { least: sum("least"), most: sum("most") };
}

function columnCount(table: TableBlock): number {
  return Math.max(
    1,
    table.columns.length,
    ...table.rows.map((row) => row.before + row.cells.reduce((sum, cell) => sum + cell.span, 0)),
  );
}

function inPoints(length: Length, whole: number): number {
  return length.unit === "pt" ? length.value : length.value * whole;
}

/** Widths that cells of one column ask for. */
function preferredWidths(table: TableBlock, count: number, whole: number): (number | undefined)[] {
  const widths: (number | undefined)[] = Array.from({ length: count }, () => undefined);
  for (const row of table.rows) {
    let column = row.before;
    for (const cell of row.cells) {
      if (cell.span === 1 && cell.preferred && widths[column] === undefined)
        widths[column] = inPoints(cell.preferred, whole);
      column += cell.span;
    }
  }
  return widths;
}

function contentWidths(
  table: TableBlock,
  count: number,
  site: TableSite,
  preferred: readonly (number | undefined)[],
): { least: number; most: number }[] {
  const needs = Array.from({ length: count }, () => ({ least: 12, most: 12 }));
  const wide: { column: number; span: number; least: number; most: number }[] = [];
  // Cells written alike ask for the same, once.
  const asked = Array.from({ length: count }, () => new Map<TableCellBlock["blocks"], number>());
  for (const row of table.rows) {
    let column = row.before;
    for (const cell of row.cells) {
      const margins = (cell.margins.left ?? 0) + (cell.margins.right ?? 0);
      const isPlain = cell.span === 1 && !cell.noWrap && !cell.turned && cell.merge === "none";
      if (isPlain && asked[column].get(cell.blocks) === margins) {
        column++;
        continue;
      }
      if (isPlain) asked[column].set(cell.blocks, margins);
      if (cell.merge !== "continue" && !cell.turned && !surelyFits(cell, margins, preferred[column])) {
        // Where a width is asked for, only what does not fit into it matters.
        const content = site.blocks.measure(
          cell.blocks,
          site,
          cell.noWrap || cell.span > 1 || preferred[column] === undefined,
        );
        const most = content.most + margins + 0.5;
        const least = cell.noWrap ? most : content.least + margins + 0.5;
        if (cell.span === 1) {
          needs[column].least = Math.max(needs[column].least, least);
          needs[column].most = Math.max(needs[column].most, most);
        } else wide.push({ column, span: cell.span, least, most });
      }
      column += cell.span;
    }
  }
  for (const { column, span, least, most } of wide) {
    const own = needs.slice(column, column + span);
    const lacking = (side: "least" | "most", need: number): number =>
      Math.max(0, need - own.reduce((sum, one) => sum + one[side], 0)) / Math.max(1, own.length);
    const [leastMore, mostMore] = [lacking("least", least), lacking("most", most)];
    for (const one of own) {
      one.least += leastMore;
      one.most += mostMore;
    }
  }
  return needs;
}

function scaledTo(widths: readonly number[], total: number): number[] {
  const sum = widths.reduce((all, width) => all + width, 0);
  return sum > 0 ? widths.map((width) => (width * total) / sum) : widths.map(() => total / widths.length);
}

/** Takes from what columns have beyond their least, in proportion; where that is not enough all shrink alike. */
function shrunk(widths: readonly number[], least: readonly number[], total: number): number[] {
  const floor = least.reduce((sum, width) => sum + width, 0);
  if (floor >= total) return scaledTo(least, total);
  const spare = widths.reduce((sum, width, at) => sum + Math.max(0, width - least[at]), 0);
  const kept = (total - floor) / spare;
  return widths.map((width, at) => least[at] + Math.max(0, width - least[at]) * kept);
}

/** Whether no word of a cell can be wider than the width it is given, told without measuring: no letter is wider than an em. */
function surelyFits(cell: TableCellBlock, margins: number, width: number | undefined): boolean {
  if (width === undefined || cell.noWrap || cell.span > 1) return false;
  return cell.blocks.every((block) => {
    if (block.kind !== "paragraph") return false;
    let letters = 0;
    let size = 0;
    for (const inline of block.inlines) {
      if (inline.kind === "tab" || inline.kind === "break" || inline.kind === "place") continue;
      if (inline.kind !== "text") return false;
      letters += longestWord(inline.text);
      size = Math.max(size, (inline.props.size ?? 10) + (inline.props.spacing ?? 0));
    }
    return letters * size + margins + (block.props.left ?? 0) + (block.props.right ?? 0) <= width;
  });
}

function longestWord(text: string): number {
  let longest = 0;
  let from = 0;
  for (let at = text.indexOf(" "); at >= 0; at = text.indexOf(" ", from)) {
    longest = Math.max(longest, at - from);
    from = at + 1;
  }
  return Math.max(longest, text.length - from);
}
