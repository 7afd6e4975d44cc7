import type { Finding } from "../../common/index.js";
import { type FontLibrary, type Fonts, FontWatch } from "../../fonts/index.js";
import type { CellRange, SheetInfo, Workbook } from "../../spreadsheet/index.js";
import type { Page, PageItem } from "../page.js";
import { drawCells } from "./draw-cells.js";
import { Grid } from "./grid.js";
import { layHeader } from "./header-footer.js";
import { paperSize } from "./paper.js";
import type { AnchorPoint } from "./read-images.js";
import { type PrintSheet, readPrintSheet } from "./read-sheet.js";

export interface LaidPages {
  readonly pages: readonly Page[];
  readonly findings: readonly Finding[];
  /** Where each sheet or heading starts. */
  readonly outline: readonly { readonly title: string; readonly page: number }[];
}

/** What headers may name; never taken from the clock. */
export interface PrintFacts {
  readonly file: string;
  readonly date: string;
  readonly time: string;
}

const PT_PER_INCH = 72;
/** More pages are refused for one sheet: a stray cell at the edge would make thousands. */
const MAX_PAGES = 20_000;

/** All visible sheets of a workbook as pages. */
export function layWorkbook(workbook: Workbook, library: FontLibrary, facts: PrintFacts): LaidPages {
  const fonts = new FontWatch(library);
  const findings: Finding[] = [];
  const sheets: { info: SheetInfo; parts: PagePart[]; layer: SheetLayer }[] = [];
  workbook.sheets.forEach((info, index) => {
    if (info.hidden || !workbook.package.has(info.part)) return;
    if (info.kind !== "worksheet") {
      findings.push({
        code: "not-drawn",
        severity: "warn",
        where: `${workbook.package.where}, sheet ${info.name}`,
        what: "The PDF does not show this sheet, which is no worksheet.",
        advice: "Look at the workbook itself.",
      });
      return;
    }
    const sheet = readPrintSheet(workbook, info, index);
    findings.push(...sheet.findings);
    const layer = new SheetLayer(workbook, sheet, fonts, findings);
    sheets.push({ info, parts: layer.parts(), layer });
  });
  const total = sheets.reduce((sum, { parts }) => sum + parts.length, 0);
  const pages: Page[] = [];
  const outline: { title: string; page: number }[] = [];
  for (const { info, parts, layer } of sheets) {
    if (parts.length > 0) outline.push({ title: info.name, page: pages.length });
    for (const part of parts) pages.push(layer.page(part, { ...facts, page: pages.length + 1, pages: total }));
  }
  return { pages, findings: [...findings, ...fonts.findings(pages, workbook.package.where)], outline };
}

/** The cells of one page: columns and rows, titles apart. */
interface PagePart {
  readonly rows: { readonly from: number; readonly to: number };
  readonly columns: { readonly from: number; readonly to: number };
  readonly titleRows: { readonly from: number; readonly to: number } | undefined;
  readonly titleColumns: { readonly from: number; readonly to: number } | undefined;
  readonly scale: number;
}

class SheetLayer {
  private readonly grid: Grid;
  private readonly paper: { readonly width: number; readonly height: number };
  private readonly frame: {
    readonly left: number;
    readonly top: number;
    readonly width: number;
    readonly height: number;
  };

  constructor(
    private readonly workbook: Workbook,
    private readonly sheet: PrintSheet,
    private readonly fonts: Fonts,
    private readonly findings: Finding[],
  ) {
    this.grid = new Grid(workbook, sheet, fonts);
    const { setup } = sheet;
    this.paper = paperSize(setup.paper, setup.landscape);
    const { left, right, top, bottom } = setup.margins;
    this.frame = {
      left: left * PT_PER_INCH,
      top: top * PT_PER_INCH,
      width: Math.max(36, this.paper.width - (left + right) * PT_PER_INCH),
      height: Math.max(36, this.paper.height - (top + bottom) * PT_PER_INCH),
    };
  }

  parts(): PagePart[] {
    const areas = this.sheet.areas.length > 0 ? this.sheet.areas : this.usedArea();
    return areas.flatMap((area) => this.partsOf(area));
  }

  page(part: PagePart, facts: PrintFacts & { page: number; pages: number }): Page {
    const { setup } = this.sheet;
    const rows = [...span(part.titleRows), ...span(part.rows)];
    const columns = [...span(part.titleColumns), ...span(part.columns)];
    const width = columns.reduce((sum, column) => sum + this.grid.width(column), 0) * part.scale;
    const height = rows.reduce((sum, row) => sum + this.grid.height(row), 0) * part.scale;
    const origin = {
      x: this.frame.left + (setup.centerHorizontally ? Math.max(0, (this.frame.width - width) / 2) : 0),
      y: this.frame.top + (setup.centerVertically ? Math.max(0, (this.frame.height - height) / 2) : 0),
    };
    const items = drawCells({
      workbook: this.workbook,
      sheet: this.sheet,
      grid: this.grid,
      fonts: this.fonts,
      rows,
      columns,
      origin,
      scale: part.scale,
    });
    items.push(...this.pictures(part, rows, columns, origin));
    const font = this.workbook.styles.defaultFont.name;
    const sides = { left: this.frame.left, right: this.frame.left + this.frame.width };
    const about = { ...facts, sheet: this.sheet.info.name, font };
    items.push(
      ...layHeader(setup.header, about, { ...sides, y: setup.margins.header * PT_PER_INCH, above: true }, this.fonts),
    );
    items.push(
      ...layHeader(
        setup.footer,
        about,
        { ...sides, y: this.paper.height - setup.margins.footer * PT_PER_INCH, above: false },
        this.fonts,
      ),
    );
    return { widthPt: this.paper.width, heightPt: this.paper.height, items };
  }

  /** From A1 to the last cell that shows something. */
  private usedArea(): CellRange[] {
    let bottom = -1;
    let right = -1;
    for (const [row, cells] of this.sheet.cells) {
      for (const [column, cell] of cells) {
        const format = this.workbook.styles.formats[cell.style];
        const shows =
          cell.value !== "" || format?.fill !== undefined || Object.values(format?.border ?? {}).some(Boolean);
        if (!shows) continue;
        bottom = Math.max(bottom, row);
        right = Math.max(right, column);
      }
    }
    for (const { to } of this.sheet.images) {
      if (!("row" in to)) continue;
      bottom = Math.max(bottom, to.row);
      right = Math.max(right, to.column);
    }
    return bottom < 0 ? [] : [{ top: 0, left: 0, bottom, right }];
  }

  private partsOf(area: CellRange): PagePart[] {
    const { sheet } = this;
    const scale = this.scaleFor(area);
    const titleRows = sheet.titleRows;
    const titleColumns = sheet.titleColumns;
    const rowRoom = this.frame.height / scale;
    const columnRoom = this.frame.width / scale;
    const titleHeight = titleRows ? this.grid.heightOf({ top: titleRows.from, bottom: titleRows.to }) : 0;
    const titleWidth = titleColumns ? this.grid.widthOf({ left: titleColumns.from, right: titleColumns.to }) : 0;
    const rowParts = cutPages(
      { from: area.top, to: area.bottom },
      (row) => this.grid.height(row),
      rowRoom,
      titleHeight,
      titleRows,
      sheet.rowBreaks,
    );
    const columnParts = cutPages(
      { from: area.left, to: area.right },
      (column) => this.grid.width(column),
      columnRoom,
      titleWidth,
      titleColumns,
      sheet.columnBreaks,
    );
    if (rowParts.length * columnParts.length > MAX_PAGES) {
      this.findings.push({
        code: "too-many-pages",
        severity: "stop",
        where: `${this.workbook.package.where}, sheet ${sheet.info.name}`,
        what: `The sheet would take ${rowParts.length * columnParts.length} pages.`,
        advice: "Set a print area.",
      });
      return [];
    }
    const parts: PagePart[] = [];
    const add = (rows: { from: number; to: number }, columns: { from: number; to: number }): void => {
      parts.push({
        rows,
        columns,
        scale,
        titleRows: titleRows && rows.from > titleRows.to ? titleRows : undefined,
        titleColumns: titleColumns && columns.from > titleColumns.to ? titleColumns : undefined,
      });
    };
    if (sheet.setup.acrossFirst) for (const rows of rowParts) for (const columns of columnParts) add(rows, columns);
    else for (const columns of columnParts) for (const rows of rowParts) add(rows, columns);
    return parts;
  }

  /** The set scale, or the largest up to life size at which the area fits the wanted number of pages. */
  private scaleFor(area: CellRange): number {
    const { fit, scale } = this.sheet.setup;
    if (!fit) return Math.max(0.1, scale / 100);
    const byWidth = fit.width > 0 ? (this.frame.width * fit.width) / Math.max(1, this.grid.widthOf(area)) : 1;
    const byHeight = fit.height > 0 ? (this.frame.height * fit.height) / Math.max(1, this.grid.heightOf(area)) : 1;
    // Whole per cents, as the format stores them; never larger than life.
    return Math.max(0.1, Math.floor(Math.min(1, byWidth, byHeight) * 100) / 100);
  }

  private pictures(
    part: PagePart,
    rows: readonly number[],
    columns: readonly number[],
    origin: { x: number; y: number },
  ): PageItem[] {
    const items: PageItem[] = [];
    const offset = (lines: readonly number[], line: number, size: (line: number) => number): number | undefined => {
      const at = lines.indexOf(line);
      return at < 0 ? undefined : lines.slice(0, at).reduce((sum, one) => sum + size(one), 0);
    };
    const corner = (point: AnchorPoint): { x: number; y: number } | undefined => {
      const x = offset(columns, point.column, (column) => this.grid.width(column));
      const y = offset(rows, point.row, (row) => this.grid.height(row));
      return x === undefined || y === undefined ? undefined : { x: x + point.dx, y: y + point.dy };
    };
    for (const picture of this.sheet.images) {
      const from = corner(picture.from);
      if (!from) continue;
      const to =
        "row" in picture.to ? corner(picture.to) : { x: from.x + picture.to.width, y: from.y + picture.to.height };
      if (!to) continue;
      items.push({
        kind: "image",
        image: picture.image,
        description: picture.description,
        x: origin.x + from.x * part.scale,
        y: origin.y + from.y * part.scale,
        width: (to.x - from.x) * part.scale,
        height: (to.y - from.y) * part.scale,
      });
    }
    return items;
  }
}

function span(range: { readonly from: number; readonly to: number } | undefined): number[] {
  return range ? Array.from({ length: range.to - range.from + 1 }, (_, index) => range.from + index) : [];
}

/** Cuts rows or columns into pages: as many as fit, after manual breaks a new one. `breaks` hold how many stand before a break. */
function cutPages(
  range: { readonly from: number; readonly to: number },
  size: (index: number) => number,
  room: number,
  titleSize: number,
  titles: { readonly from: number; readonly to: number } | undefined,
  breaks: ReadonlySet<number>,
): { from: number; to: number }[] {
  const parts: { from: number; to: number }[] = [];
  let from = range.from;
  let used = 0;
  for (let index = range.from; index <= range.to; index++) {
    const repeated = titles && from > titles.to ? titleSize : 0;
    const isFull = used + size(index) + repeated > room + 0.01 && index > from;
    if (isFull || (breaks.has(index) && index > from)) {
      parts.push({ from, to: index - 1 });
      from = index;
      used = 0;
    }
    used += size(index);
  }
  parts.push({ from, to: range.to });
  return parts.filter((part) => span(part).some((index) => size(index) > 0));
}
