import type { Fonts } from "../../../fonts/index.js";
import type { Box, PageItem } from "../../../page/index.js";
import { shapeWords, widthOf, wrapText } from "../../../page/index.js";
import type { BorderLine, CellFont, CellFormat, CellRange, Workbook } from "../../../spreadsheet/index.js";
import { CELL_PADDING, INDENT, lineHeight, type SheetGeometry, turnedBlock, turnOf } from "../paginate/grid.js";
import type { RuledLook } from "../read/conditional-formatting.js";
import type { PrintCell, PrintSheet } from "../read/read-sheet.js";
import { BorderSet } from "./borders.js";
import { barItems, groundItems, iconItems } from "./cell-fills.js";
import { formatAt } from "./cell-format.js";
import { narrowNumber, showCell } from "./cell-text.js";
import { sparklineItems } from "./sparklines.js";

export interface CellPage {
  readonly workbook: Workbook;
  readonly sheet: PrintSheet;
  readonly grid: SheetGeometry;
  readonly fonts: Fonts;
  /** Rows and columns on the page, in order, titles first. */
  readonly rows: readonly number[];
  readonly columns: readonly number[];
  readonly origin: { readonly x: number; readonly y: number };
  readonly scale: number;
}

/** Draws fills, then borders, then text. */
export function drawCells(page: CellPage): PageItem[] {
  return new CellDrawer(page).draw();
}

class CellDrawer {
  private readonly fills: PageItem[] = [];
  private readonly texts: PageItem[] = [];
  private readonly borders: BorderSet;
  private readonly xs = new Map<number, number>();
  private readonly ys = new Map<number, number>();
  private readonly hasSparklines: boolean;

  constructor(private readonly page: CellPage) {
    this.borders = new BorderSet(page.scale);
    this.hasSparklines = page.sheet.sparklines.size > 0;
    let x = page.origin.x;
    for (const column of page.columns) {
      this.xs.set(column, x);
      x += page.grid.width(column) * page.scale;
    }
    let y = page.origin.y;
    for (const row of page.rows) {
      this.ys.set(row, y);
      y += page.grid.height(row) * page.scale;
    }
  }

  draw(): PageItem[] {
    const merged = this.page.sheet.merged;
    for (const row of this.page.rows) {
      if (this.page.grid.height(row) === 0) continue;
      const inRow = merged.filter((range) => row >= range.top && row <= range.bottom);
      for (const column of this.page.columns) {
        if (this.page.grid.width(column) === 0) continue;
        const range = inRow.find((candidate) => column >= candidate.left && column <= candidate.right);
        const cell = this.page.sheet.cells.get(row)?.get(column) ?? this.blankInTable(row, column);
        const spark = this.hasSparklines ? this.page.sheet.sparklines.get(`${row} ${column}`) : undefined;
        if (spark)
          this.texts.push(
            ...sparklineItems(spark, this.box(row, column, range?.bottom ?? row, range?.right ?? column)),
          );
        if (range) this.merged(range, row, column, cell);
        else if (cell) this.plain(cell);
        else if (this.page.sheet.setup.gridLines) this.gridLines(this.box(row, column, row, column));
      }
    }
    this.links();
    return [...this.fills, ...this.borders.items(), ...this.texts];
  }

  private format(cell: PrintCell): CellFormat {
    return formatAt(this.page.workbook, this.page.sheet, cell.row, cell.column, cell.style);
  }

  /** A cell that the file does not have, but a table's style paints. */
  private blankInTable(row: number, column: number): PrintCell | undefined {
    return this.page.sheet.tableLooks.get(row)?.has(column) ? { row, column, style: 0, value: "" } : undefined;
  }

  private box(top: number, left: number, bottom: number, right: number): Box {
    const { scale, grid } = this.page;
    const x = this.xs.get(left) ?? this.page.origin.x;
    const y = this.ys.get(top) ?? this.page.origin.y;
    let width = 0;
    for (let column = left; column <= right; column++) if (this.xs.has(column)) width += grid.width(column);
    let height = 0;
    for (let row = top; row <= bottom; row++) if (this.ys.has(row)) height += grid.height(row);
    return { x, y, width: width * scale, height: height * scale };
  }

  private plain(cell: PrintCell): void {
    const box = this.box(cell.row, cell.column, cell.row, cell.column);
    const format = this.format(cell);
    this.ground(format, box, cell);
    this.text(cell, format, box, cell);
  }

  /** A merged cell: looks and text of its first cell over the whole, borders of each cell at its own place. */
  private merged(range: CellRange, row: number, column: number, cell: PrintCell | undefined): void {
    const first = this.page.sheet.cells.get(range.top)?.get(range.left);
    const isFirstShown =
      row === Math.max(range.top, this.page.rows.find((shown) => shown >= range.top) ?? row) &&
      column === Math.max(range.left, this.page.columns.find((shown) => shown >= range.left) ?? column);
    if (first && isFirstShown) {
      const format = this.format(first);
      const box = this.box(row, column, range.bottom, range.right);
      this.fill(format, box, range.top, range.left);
      this.text(first, format, box, { row, column }, range);
    }
    if (!cell) return;
    const { border } = this.format(cell);
    const own = this.box(row, column, row, column);
    if (row === range.top) this.borders.horizontal(own.x, own.x + own.width, own.y, border.top);
    if (row === range.bottom) this.borders.horizontal(own.x, own.x + own.width, own.y + own.height, border.bottom);
    if (column === range.left) this.borders.vertical(own.x, own.y, own.y + own.height, border.left);
    if (column === range.right) this.borders.vertical(own.x + own.width, own.y, own.y + own.height, border.right);
  }

  private fill(format: CellFormat, box: Box, row: number, column: number): void {
    if (format.fill) this.fills.push({ kind: "fill", ...box, color: format.fill });
    if (format.ground) this.fills.push(...groundItems(format.ground, box));
    const bar = this.page.sheet.ruled.get(row)?.get(column)?.bar;
    if (bar) this.fills.push(...barItems(bar, box));
  }

  private ground(format: CellFormat, box: Box, cell: PrintCell): void {
    this.fill(format, box, cell.row, cell.column);
    const { left, right, top, bottom, up, down } = format.border;
    const { x, y, width, height } = box;
    if (up) this.borders.free(x, y + height, x + width, y, up);
    if (down) this.borders.free(x, y, x + width, y + height, down);
    this.borders.vertical(box.x, box.y, box.y + box.height, left);
    this.borders.vertical(box.x + box.width, box.y, box.y + box.height, right);
    this.borders.horizontal(box.x, box.x + box.width, box.y, top);
    this.borders.horizontal(box.x, box.x + box.width, box.y + box.height, bottom);
    if (this.page.sheet.setup.gridLines) this.gridLines(box);
  }

  private gridLines(box: Box): void {
    const hair: BorderLine = { style: "hair", color: "C0C0C0" };
    this.borders.horizontal(box.x, box.x + box.width, box.y + box.height, hair);
    this.borders.vertical(box.x + box.width, box.y, box.y + box.height, hair);
  }

  private text(
    cell: PrintCell,
    format: CellFormat,
    box: Box,
    { row, column }: { readonly row: number; readonly column: number },
    range?: CellRange,
  ): void {
    if (cell.value === "") return;
    const { scale } = this.page;
    const ruled = this.page.sheet.ruled.get(cell.row)?.get(cell.column);
    const icon = ruled?.icon ? this.icon(ruled.icon, format, box) : 0;
    if (ruled?.hidesValue) return;
    const shown = showCell(cell, format);
    const face = this.page.fonts.face(format.font.name, format.font.bold, format.font.italic);
    const { alignment } = format;
    const horizontal =
      alignment.horizontal === "general"
        ? shown.isNumber
          ? "right"
          : typeof cell.value === "boolean" || cell.isError
            ? "center"
            : "left"
        : alignment.horizontal;
    if (alignment.rotation !== 0) {
      this.turned(shown, format, horizontal, box);
      return;
    }
    const padding = CELL_PADDING * scale;
    const indent = alignment.indent * INDENT * scale + (horizontal === "left" ? icon : 0);
    const room = Math.max(1, box.width - 2 * padding - indent);
    let size = format.font.size * scale;
    const wraps =
      alignment.wrap || alignment.vertical === "justify" || horizontal === "justify" || shown.text.includes("\n");
    if (alignment.shrink && !wraps) size = Math.min(size, (size * room) / Math.max(1, widthOf(shown.text, face, size)));
    let lines = wraps ? wrapText(shown.text, face, size, room) : [shown.text];
    let frame = box;
    if (!wraps && !range) {
      const width = widthOf(shown.text, face, size);
      // Columns are counted in digits of the screen: a number that just fits there may take the room on its free side.
      const most = room + (shown.isNumber ? padding : 0) + 0.5;
      if (width > most && shown.isNumber)
        lines = [this.narrow(cell, format, most, (text) => widthOf(text, face, size))];
      else if (width > most) frame = this.overflow(box, width + 2 * padding + indent, horizontal, row, column);
    }
    const line = lineHeight(face, size);
    const height = lines.length * line;
    const top =
      alignment.vertical === "top" || alignment.vertical === "justify"
        ? box.y
        : alignment.vertical === "center" || alignment.vertical === "distributed"
          ? box.y + (box.height - height) / 2
          : box.y + box.height - height;
    const clip =
      height > box.height + 0.5 || lines.some((one) => widthOf(one, face, size) > frame.width)
        ? { ...frame, height: Math.max(frame.height, 0) }
        : undefined;
    lines.forEach((text, index) => {
      const width = widthOf(text, face, size);
      const x =
        horizontal === "right"
          ? box.x + box.width - padding - indent - width
          : horizontal === "center" || horizontal === "centerContinuous"
            ? box.x + (box.width - width) / 2
            : box.x + padding + indent;
      const y = top + index * line + face.metrics.ascent * size;
      const runs = cell.runs && lines.length === 1 ? cell.runs : [{ text, font: undefined }];
      this.runs(runs, format, { x, y, size, color: shown.color, ...(clip ? { clip } : {}) });
    });
  }

  /** A number that is too wide: of the general format in fewer digits, of any other hidden. */
  private narrow(cell: PrintCell, format: CellFormat, most: number, width: (text: string) => number): string {
    const shorter =
      format.code === "General" && typeof cell.value === "number"
        ? narrowNumber(cell.value, (text) => width(text) <= most)
        : undefined;
    return shorter ?? "#".repeat(Math.max(1, Math.floor(most / width("#"))));
  }

  /** Draws a rule's icon at the left of a cell; gives the room it takes. */
  private icon(icon: NonNullable<RuledLook["icon"]>, format: CellFormat, box: Box): number {
    const size = Math.min(format.font.size * 0.9 * this.page.scale, box.height - 1);
    const pad = CELL_PADDING * this.page.scale;
    const y =
      format.alignment.vertical === "center" ? box.y + (box.height - size) / 2 : box.y + box.height - size - 1.5;
    const square = {
      x: box.x + pad,
      y: format.alignment.vertical === "top" ? box.y + 1 : y,
      width: size,
      height: size,
    };
    this.texts.push(...iconItems(icon.set, icon.index, icon.count, square));
    return size + pad;
  }

  /** Turned text, and letters one below the other. */
  private turned(shown: ReturnType<typeof showCell>, format: CellFormat, horizontal: string, box: Box): void {
    const { scale } = this.page;
    const face = this.page.fonts.face(format.font.name, format.font.bold, format.font.italic);
    const size = format.font.size * scale;
    const stacked = format.alignment.rotation === 255;
    const angle = stacked ? 0 : turnOf(format.alignment.rotation);
    const lines = stacked ? [...shown.text] : shown.text.split("\n");
    const line = lineHeight(face, size);
    const { ascent } = face.metrics;
    const widths = lines.map((text) => widthOf(text, face, size));
    const block = turnedBlock(Math.max(...widths), lines.length * line, angle);
    const pad = CELL_PADDING * scale;
    const left =
      stacked || horizontal === "center" || horizontal === "centerContinuous"
        ? box.x + (box.width - block.width) / 2
        : horizontal === "right"
          ? box.x + box.width - pad - block.width
          : box.x + pad;
    const { vertical } = format.alignment;
    const top =
      vertical === "top"
        ? box.y + pad
        : vertical === "center"
          ? box.y + (box.height - block.height) / 2
          : box.y + box.height - pad - block.height;
    const color = shown.color ?? format.font.color;
    const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    lines.forEach((text, index) => {
      // Of the block as it stands before it is turned: its upper left corner is nought.
      const along = stacked ? (Math.max(...widths) - widths[index]) / 2 : 0;
      const down = index * line + ascent * size;
      const x = left + block.x + along * cos + down * sin;
      const y = top + block.y - along * sin + down * cos;
      const clip = stacked ? { clip: box } : {};
      this.texts.push({ kind: "text", x, y, size, color, shaped: shapeWords(text, face), rotation: angle, ...clip });
    });
  }

  private runs(
    runs: readonly { readonly text: string; readonly font: CellFont | undefined }[],
    format: CellFormat,
    at: { x: number; y: number; size: number; color: string | undefined; clip?: Box },
  ): void {
    let { x } = at;
    for (const run of runs) {
      const font = run.font ?? format.font;
      const face = this.page.fonts.face(font.name, font.bold, font.italic);
      const full = run.font ? font.size * this.page.scale : at.size;
      const size = font.raised ? full * 0.65 : full;
      const y = at.y - (font.raised === "superscript" ? full * 0.35 : font.raised === "subscript" ? -full * 0.1 : 0);
      const shaped = shapeWords(run.text, face);
      const color = at.color ?? font.color;
      const end = x + shaped.width * size;
      this.texts.push({ kind: "text", x, y, size, color, shaped, ...(at.clip ? { clip: at.clip } : {}) });
      const { underlinePosition, underlineThickness } = face.metrics;
      if (font.underline)
        this.texts.push({
          kind: "line",
          x1: x,
          x2: end,
          y1: y + underlinePosition * size,
          y2: y + underlinePosition * size,
          width: underlineThickness * size,
          color,
        });
      if (font.strike)
        this.texts.push({
          kind: "line",
          x1: x,
          x2: end,
          y1: y - size * 0.28,
          y2: y - size * 0.28,
          width: underlineThickness * size,
          color,
        });
      x = end;
    }
  }

  /** Text that is wider than its cell runs on over blank neighbours, on the side it is not aligned to. */
  private overflow(box: Box, needed: number, horizontal: string, row: number, column: number): Box {
    let { x, width } = box;
    const isBlank = (at: number): boolean =>
      (this.page.sheet.cells.get(row)?.get(at)?.value ?? "") === "" &&
      !this.page.sheet.merged.some(
        (range) => row >= range.top && row <= range.bottom && at >= range.left && at <= range.right,
      );
    const step = (direction: 1 | -1, wanted: number): void => {
      for (let at = column + direction; width < wanted && at >= 0 && this.xs.has(at) && isBlank(at); at += direction) {
        const more = this.page.grid.width(at) * this.page.scale;
        width += more;
        if (direction < 0) x -= more;
      }
    };
    if (horizontal === "right") step(-1, needed);
    else if (horizontal === "center") {
      step(1, (needed + box.width) / 2);
      step(-1, needed);
    } else step(1, needed);
    return { ...box, x, width };
  }

  private links(): void {
    for (const { range, target } of this.page.sheet.links) {
      if (!this.ys.has(range.top) || !this.xs.has(range.left)) continue;
      this.texts.push({ kind: "link", target, ...this.box(range.top, range.left, range.bottom, range.right) });
    }
  }
}
