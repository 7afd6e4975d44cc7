/** The cells of a computed pivot on its sheet, in the looks that its template has. */

import { CellError, type Scalar } from "../../formula/index.js";
import { type XmlElement, xmlElement, xmlText } from "../../ooxml/index.js";
import {
  type CellRange,
  type CellValue,
  cellName,
  cellValues,
  rangeHolds,
  type SheetInfo,
  type Workbook,
} from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { widenColumns } from "../edit/column-widths.js";
import { asText, type CellChange, changeCells } from "../edit/edit-cells.js";
import type { StyleEditor } from "../edit/style-editor.js";
import type { LaidPivot, PivotWords } from "./lay-pivot.js";
import { type LineRole, labelColumnOf, NotComputed, type Pivot } from "./read-pivot.js";
import type { PivotSource } from "./read-source.js";
import { areaOf } from "./write-pivot.js";

/** A letter's width in that of a digit, and the widest a column is made, in characters. */
const LETTER_WIDTH = 1.1;
const WIDEST = 60;

/** A sheet as it is before its pivots are computed. */
export class PivotSheet {
  private readonly values: Map<number, Map<number, CellValue>>;
  private readonly styles = new Map<number, Map<number, number>>();
  private readonly changes = new Map<number, Map<number, CellChange>>();
  private readonly root: XmlElement;

  constructor(workbook: Workbook, info: SheetInfo) {
    this.values = cellValues(workbook, info.part);
    this.root = workbook.package.getXml(info.part);
    let row = -1;
    for (const element of this.root.child("sheetData")?.elements("row") ?? []) {
      row = element.attr("r") === undefined ? row + 1 : Number(element.attr("r")) - 1;
      const line = new Map<number, number>();
      let column = -1;
      for (const cell of element.elements("c")) {
        const letters = /^[A-Z]+/.exec(cell.attr("r") ?? "")?.[0];
        column = letters ? [...letters].reduce((sum, one) => sum * 26 + one.charCodeAt(0) - 64, 0) - 1 : column + 1;
        line.set(column, Number(cell.attr("s") ?? 0));
        if (cell.child("f")) this.formulas.add(`${row} ${column}`);
      }
      this.styles.set(row, line);
    }
  }

  private readonly formulas = new Set<string>();
  private readonly widths = new Map<number, number>();

  text(row: number, column: number): string | undefined {
    const value = this.values.get(row)?.get(column)?.value;
    return typeof value === "string" ? value : undefined;
  }

  styleAt(row: number, column: number): number | undefined {
    return this.styles.get(row)?.get(column);
  }

  /** Throws `NotComputed` where the pivot would cover cells that are not its own. */
  makeRoom(area: CellRange, own: CellRange): void {
    for (const [row, line] of this.styles) {
      if (row < area.top || row > area.bottom) continue;
      for (const column of line.keys()) {
        const isTaken = this.values.get(row)?.has(column) || this.formulas.has(`${row} ${column}`);
        if (isTaken && rangeHolds(area, row, column) && !rangeHolds(own, row, column))
          throw new NotComputed(say().workbook.roomCellFilled({ cellName: cellName(row, column) }));
      }
    }
  }

  set(row: number, column: number, change: CellChange): void {
    const line = this.changes.get(row) ?? new Map<number, CellChange>();
    this.changes.set(row, line);
    line.set(column, change);
  }

  /** Asks for a column that is wide enough for a text. */
  fit(column: number, text: string): void {
    const width = Math.min(WIDEST, Math.round((text.length * LETTER_WIDTH + 2) * 100) / 100);
    this.widths.set(column, Math.max(width, this.widths.get(column) ?? 0));
  }

  /** The sheet with everything that was set. */
  written(): XmlElement {
    const root = this.changes.size === 0 ? this.root : changeCells(this.root, this.changes);
    return this.widths.size === 0 ? root : widenColumns(root, this.widths);
  }
}

/** Words of the template's own totals; English ones where it shows none. */
export function wordsOf(sheet: PivotSheet, pivot: Pivot): PivotWords {
  const { area, headRows, labelColumns, oldRows, oldColumns, data } = pivot;
  const label = (at: number, column: number): string | undefined =>
    sheet.text(area.top + headRows + at, area.left + column);
  const grandAt = oldRows.findIndex((line) => line.kind === "grand");
  const grandColumn = oldColumns.findIndex((line) => line.kind === "grand");
  const headRow = area.top + headRows - pivot.columns.length - (data.length > 1 ? 1 : 0);
  const grandHead = grandColumn < 0 ? undefined : sheet.text(headRow, area.left + labelColumns + grandColumn);
  const first = data[0].name;
  return {
    grand:
      pivot.grandCaption ??
      (grandAt < 0 ? undefined : label(grandAt, 0)) ??
      (data.length > 1 ? undefined : grandHead) ??
      "Grand Total",
    subtotal: subtotalWord(pivot, label) ?? "Total",
    grandOf: data.length > 1 && grandHead?.endsWith(` ${first}`) ? grandHead.slice(0, -first.length - 1) : "Total",
    blank: "(blank)",
  };
}

/** What stands behind an item's name in the line of its subtotal. */
function subtotalWord(pivot: Pivot, label: (at: number, column: number) => string | undefined): string | undefined {
  for (const [at, line] of pivot.oldRows.entries()) {
    if (line.kind !== "subtotal") continue;
    const column = labelColumnOf(pivot.rows, line.depth - 1);
    const text = label(at, column);
    for (let above = at - 1; above >= 0; above--) {
      const name = label(above, column);
      if (name !== undefined && text?.startsWith(`${name} `)) return text.slice(name.length + 1);
    }
  }
  return undefined;
}

export interface PivotLooks {
  readonly sheet: PivotSheet;
  readonly pivot: Pivot;
  readonly laid: LaidPivot;
  readonly source: PivotSource;
  readonly editor: StyleEditor | undefined;
  readonly isDateStyle: (style: number) => boolean;
}

/** Sets a pivot's cells, and takes out what it showed before. Throws `NotComputed` where there is no room. */
export function setCells(looks: PivotLooks): void {
  const { sheet, pivot, laid } = looks;
  const { area } = pivot;
  sheet.makeRoom(areaOf(pivot, laid), area);
  const firstHead = pivot.columns.length === 0 ? pivot.headRows - 1 : 1;
  for (let row = area.top + firstHead; row <= area.bottom; row++)
    for (let column = area.left; column <= area.right; column++) {
      const isCaption = row < area.top + pivot.headRows && column < area.left + pivot.labelColumns;
      if (!isCaption) sheet.set(row, column, () => undefined);
    }
  for (let column = area.left + laid.width; column <= area.right; column++)
    sheet.set(area.top, column, () => undefined);
  const oldWidth = area.right - area.left + 1;
  const captionStyle = sheet.styleAt(area.top, area.right);
  for (let column = oldWidth; firstHead > 0 && captionStyle !== undefined && column < laid.width; column++)
    sheet.set(area.top, area.left + column, asValue(null, captionStyle));
  for (let row = 0; pivot.fitsColumns && row < pivot.headRows; row++)
    for (let column = 0; column < pivot.labelColumns; column++)
      sheet.fit(area.left + column, sheet.text(area.top + row, area.left + column) ?? "");
  const values = new Map(laid.cells.map(({ row, column, value }) => [`${row} ${column}`, value]));
  for (let row = firstHead; row < laid.height; row++)
    for (let column = row < pivot.headRows ? pivot.labelColumns : 0; column < laid.width; column++) {
      const value = values.get(`${row} ${column}`) ?? null;
      const style = styleFor(looks, row, column, value);
      if (pivot.fitsColumns && value !== null) sheet.fit(area.left + column, shownText(value));
      if (value !== null || style !== undefined)
        sheet.set(area.top + row, area.left + column, asValue(value, style ?? 0));
    }
}

/** The look of the first cell of the template in the same kind of line and column. */
function styleFor(looks: PivotLooks, row: number, column: number, value: Scalar): number | undefined {
  const { sheet, pivot, laid } = looks;
  const { area, headRows, labelColumns } = pivot;
  const oldColumn =
    column < labelColumns ? column : labelColumns + place(pivot.oldColumns, laid.columns[column - labelColumns]);
  if (row < headRows) return sheet.styleAt(area.top + row, area.left + Math.max(oldColumn, 0));
  const line = laid.rows[row - headRows];
  const style = sheet.styleAt(area.top + headRows + place(pivot.oldRows, line), area.left + oldColumn);
  const field = column < labelColumns && line.kind === "item" ? pivot.rows[line.path.length - 1] : undefined;
  const code = field && looks.source.dateCodes[field.index];
  if (code === undefined || typeof value !== "number" || looks.isDateStyle(style ?? 0)) return style;
  return looks.editor?.withCode(style ?? 0, code) ?? style;
}

/** The first line of the template that is as deep and of the same kind; of other depth, or the first, where there is none. */
function place(
  old: readonly LineRole[],
  line: { readonly kind: LineRole["kind"]; readonly path: readonly number[]; readonly data: number } | undefined,
): number {
  if (!line) return 0;
  const found = [
    (one: LineRole) => one.kind === line.kind && one.depth === line.path.length && one.data === line.data,
    (one: LineRole) => one.kind === line.kind && one.data === line.data,
    (one: LineRole) => one.kind === line.kind,
    (one: LineRole) => one.data === line.data,
  ].map((test) => old.findIndex(test));
  return Math.max(0, found.find((at) => at >= 0) ?? 0);
}

/** A text about as long as what is shown; numbers at most with two decimals and their separators. */
function shownText(value: Scalar): string {
  if (typeof value !== "number") return value instanceof CellError ? value.name : String(value);
  return Number.isInteger(value)
    ? value.toLocaleString("en")
    : value.toLocaleString("en", { minimumFractionDigits: 2 });
}

/** A value in a look of the workbook. */
function asValue(value: Scalar, style: number): CellChange {
  if (value === null || typeof value === "string") return asText(value ?? "", style);
  return (_, name, prefix) => {
    const kind: Record<string, string> =
      typeof value === "boolean" ? { t: "b" } : value instanceof CellError ? { t: "e" } : {};
    const text = value instanceof CellError ? value.name : String(Number(value));
    return xmlElement(`${prefix}c`, { r: name, ...(style > 0 ? { s: String(style) } : {}), ...kind }).withChildren([
      xmlElement(`${prefix}v`).withChildren([xmlText(text)]),
    ]);
  };
}
