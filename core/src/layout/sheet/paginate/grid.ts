/** Widths of columns and heights of rows, in points. */
import type { Face, Fonts } from "../../../fonts/index.js";
import { widthOf, wrapText } from "../../../page/index.js";
import type { CellFormat, CellRange, Workbook } from "../../../spreadsheet/index.js";
import { formatAt } from "../draw/cell-format.js";
import { showCell } from "../draw/cell-text.js";
import type { PrintSheet } from "../read/read-sheet.js";

/** A pixel of the 96-per-inch grid that the format's widths are rounded to. */
const PT_PER_PX = 0.75;
/** Blank at the left and right of a cell's text, in points. */
export const CELL_PADDING = 2;
/** Points of one step of a cell's indent: three blanks of the usual font. */
export const INDENT = 6.75;

export class SheetGeometry {
  private readonly widths: number[] = [];
  private readonly heights = new Map<number, number>();
  private readonly digit: number;
  private readonly tops: number[] = [0];

  constructor(
    private readonly workbook: Workbook,
    private readonly sheet: PrintSheet,
    private readonly fonts: Fonts,
  ) {
    const { defaultFont } = workbook.styles;
    const face = fonts.face(defaultFont.name, defaultFont.bold, defaultFont.italic);
    // The widest digit of the default font, rounded to whole pixels (18.3.1.13).
    this.digit = Math.max(
      1,
      Math.round(
        ((Math.max(...[..."0123456789"].map((digit) => face.shape(digit).width)) * defaultFont.size) / PT_PER_PX) * 1,
      ),
    );
  }

  width(column: number): number {
    const known = this.widths[column];
    if (known !== undefined) return known;
    const own = this.sheet.columns.find((candidate) => column >= candidate.from && column <= candidate.to);
    const chars = own?.width ?? this.sheet.defaultColumn;
    // Eight digits, five pixels of padding, rounded up to a multiple of eight (18.3.1.81).
    const standard = Math.ceil((8 * this.digit + 5) / 8) * 8;
    const pixels =
      chars === undefined ? standard : Math.trunc(((256 * chars + Math.trunc(128 / this.digit)) / 256) * this.digit);
    const width = own?.hidden ? 0 : pixels * PT_PER_PX;
    this.widths[column] = width;
    return width;
  }

  height(row: number): number {
    const known = this.heights.get(row);
    if (known !== undefined) return known;
    const own = this.sheet.rows.get(row);
    const height = own?.hidden
      ? 0
      : own?.custom && own.heightPt !== undefined
        ? own.heightPt
        : this.textHeight(row, own?.heightPt);
    this.heights.set(row, height);
    return height;
  }

  /** Distance of a column's left edge from the sheet's. */
  left(column: number): number {
    return column > 0 ? this.widthOf({ left: 0, right: column - 1 }) : 0;
  }

  /** Distance of a row's upper edge from the sheet's. */
  top(row: number): number {
    let known = this.tops.length - 1;
    while (known < row) {
      this.tops.push(this.tops[known] + this.height(known));
      known++;
    }
    return this.tops[row];
  }

  widthOf(range: { readonly left: number; readonly right: number }): number {
    let width = 0;
    for (let column = range.left; column <= range.right; column++) width += this.width(column);
    return width;
  }

  heightOf(range: { readonly top: number; readonly bottom: number }): number {
    let height = 0;
    for (let row = range.top; row <= range.bottom; row++) height += this.height(row);
    return height;
  }

  /** The height the row's text needs; a stored height that was not set by hand is what another program measured. */
  private textHeight(row: number, stored: number | undefined): number {
    let needed = stored ?? this.sheet.defaultRowPt;
    for (const cell of this.sheet.cells.get(row)?.values() ?? []) {
      const format = formatAt(this.workbook, this.sheet, row, cell.column, cell.style);
      const face = this.fonts.face(format.font.name, format.font.bold, format.font.italic);
      const line = lineHeight(face, format.font.size);
      if (cell.value === "" || this.mergedAt(row, cell.column)) {
        if (cell.value !== "") needed = Math.max(needed, line);
        continue;
      }
      const { rotation, wrap, indent } = format.alignment;
      const text = rotation !== 0 || wrap ? showCell(cell, format).text : "";
      if (rotation !== 0) {
        needed = Math.max(needed, turnedHeight(text, format, face, line));
        continue;
      }
      const room = this.width(cell.column) - 2 * CELL_PADDING - indent * INDENT;
      const lines = wrap ? wrapText(text, face, format.font.size, Math.max(1, room)).length : 1;
      needed = Math.max(needed, lines * line);
    }
    return needed;
  }

  private mergedAt(row: number, column: number): CellRange | undefined {
    return this.sheet.merged.find(
      (range) => row >= range.top && row <= range.bottom && column >= range.left && column <= range.right,
    );
  }
}

/** Distance of baselines: the font's own ascent, descent and gap. */
export function lineHeight(face: Face, size: number): number {
  const { ascent, descent, lineGap } = face.metrics;
  return (ascent + descent + lineGap) * size;
}

/** A stored rotation as degrees anticlockwise: 1 to 90 is upwards, 91 to 180 downwards (18.8.1). */
export function turnOf(rotation: number): number {
  return rotation <= 90 ? rotation : 90 - rotation;
}

/** The room that a block takes when it is turned, and where its upper left corner lies in it. */
export function turnedBlock(
  width: number,
  height: number,
  angle: number,
): { readonly width: number; readonly height: number; readonly x: number; readonly y: number } {
  const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const corners = [
    [0, 0],
    [width, 0],
    [0, height],
    [width, height],
  ].map(([x, y]) => [x * cos + y * sin, -x * sin + y * cos]);
  const left = Math.min(...corners.map(([x]) => x));
  const top = Math.min(...corners.map(([, y]) => y));
  return {
    width: Math.max(...corners.map(([x]) => x)) - left,
    height: Math.max(...corners.map(([, y]) => y)) - top,
    x: -left,
    y: -top,
  };
}

function turnedHeight(text: string, format: CellFormat, face: Face, line: number): number {
  const { rotation } = format.alignment;
  if (rotation === 255) return [...text].length * line + 2 * CELL_PADDING;
  const lines = text.split("\n");
  const widest = Math.max(...lines.map((one) => widthOf(one, face, format.font.size)));
  return turnedBlock(widest, lines.length * line, turnOf(rotation)).height + 2 * CELL_PADDING;
}
