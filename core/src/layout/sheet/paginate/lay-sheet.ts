import { type Finding, maybeSerialFromIso } from "../../../common/index.js";
import { type FontLibrary, type Fonts, FontWatch } from "../../../fonts/index.js";
import type { Box, LaidPages, Page, PageItem, StreamedPages } from "../../../page/index.js";
import { rectangle, shapeWords, widthOf } from "../../../page/index.js";
import {
  type CellRange,
  columnLetters,
  rangeHolds,
  type SheetInfo,
  type Workbook,
} from "../../../spreadsheet/index.js";
import { say } from "../../../words/index.js";
import { drawCells } from "../draw/draw-cells.js";
import { drawDrawings, drawIn, lastCellOf, type PageRegion } from "../draw/draw-drawings.js";
import { headerImages, layHeader } from "../draw/header-footer.js";
import { type PrintCell, type PrintSheet, readPrintSheet } from "../read/read-sheet.js";
import { SheetGeometry } from "./grid.js";
import { paperSize } from "./paper.js";

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
  const streamed = streamWorkbook(workbook, library, facts);
  const pages = [...streamed.pages];
  return { pages, findings: streamed.findings, outline: streamed.outline };
}

/** All visible sheets of a workbook, page by page. */
export function streamWorkbook(workbook: Workbook, library: FontLibrary, facts: PrintFacts): StreamedPages {
  const fonts = new FontWatch(library);
  const findings: Finding[] = [];
  const sheets: { info: SheetInfo; parts: PagePart[]; layer: SheetLayer }[] = [];
  workbook.sheets.forEach((info, index) => {
    if (info.hidden || !workbook.package.has(info.part)) return;
    const sheet = readPrintSheet(workbook, info, index, maybeSerialFromIso(facts.date) ?? 0);
    findings.push(...sheet.findings);
    const layer = new SheetLayer(workbook, sheet, fonts, findings);
    sheets.push({ info, parts: layer.parts(), layer });
  });
  const outline: { title: string; page: number }[] = [];
  let total = 0;
  for (const { info, parts } of sheets) {
    if (parts.length > 0) outline.push({ title: info.name, page: total });
    total += parts.length;
  }
  function* walk(): Generator<Page> {
    let number = 0;
    for (const { parts, layer } of sheets) {
      number = layer.firstPage === undefined ? number : layer.firstPage - 1;
      for (const [at, part] of parts.entries()) {
        number++;
        const page = layer.page(part, { ...facts, page: number, pages: total, isFirst: at === 0 });
        fonts.look(page);
        yield page;
      }
    }
  }
  return {
    pages: { length: total, [Symbol.iterator]: walk },
    outline,
    get findings() {
      return [...findings, ...fonts.findings(workbook.package.where)];
    },
  };
}

/** The cells of one page: columns and rows, titles apart. */
interface PagePart {
  readonly rows: { readonly from: number; readonly to: number };
  readonly columns: { readonly from: number; readonly to: number };
  readonly titleRows: { readonly from: number; readonly to: number } | undefined;
  readonly titleColumns: { readonly from: number; readonly to: number } | undefined;
  readonly scale: number;
}

const NO_CELLS: PagePart = {
  rows: { from: 0, to: -1 },
  columns: { from: 0, to: -1 },
  titleRows: undefined,
  titleColumns: undefined,
  scale: 1,
};

class SheetLayer {
  private readonly grid: SheetGeometry;
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
    this.grid = new SheetGeometry(workbook, sheet, fonts);
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

  get firstPage(): number | undefined {
    return this.sheet.setup.firstPage;
  }

  parts(): PagePart[] {
    // A sheet that is one chart: the chart fills the page.
    if (this.sheet.info.kind !== "worksheet") return [NO_CELLS];
    const areas = this.sheet.areas.length > 0 ? this.sheet.areas : this.usedArea();
    return areas.flatMap((area) => this.partsOf(area));
  }

  page(part: PagePart, facts: PrintFacts & { page: number; pages: number; isFirst: boolean }): Page {
    const { setup } = this.sheet;
    if (part === NO_CELLS) {
      const site = { fonts: this.fonts, theme: this.workbook.theme };
      const { left, top, width, height } = this.frame;
      const box = { x: left, y: top, width, height };
      const items = this.sheet.drawings.flatMap((drawing) => drawIn(drawing, box, site));
      return { widthPt: this.paper.width, heightPt: this.paper.height, items: [...items, ...this.headers(facts)] };
    }
    const rows = [...span(part.titleRows), ...span(part.rows)];
    const columns = [...span(part.titleColumns), ...span(part.columns)];
    const width = columns.reduce((sum, column) => sum + this.grid.width(column), 0) * part.scale;
    const height = rows.reduce((sum, row) => sum + this.grid.height(row), 0) * part.scale;
    const beside = this.headingSize();
    const [left, above] = [beside.width * part.scale, beside.height * part.scale];
    const origin = {
      x: this.frame.left + left + (setup.centerHorizontally ? Math.max(0, (this.frame.width - left - width) / 2) : 0),
      y: this.frame.top + above + (setup.centerVertically ? Math.max(0, (this.frame.height - above - height) / 2) : 0),
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
    items.push(...this.anchored(part, origin));
    if (setup.headings) items.push(...this.headings(rows, columns, origin, part.scale));
    items.push(...this.headers(facts));
    return { widthPt: this.paper.width, heightPt: this.paper.height, items };
  }

  /** Header and footer of a page: its first or even pages can have their own. */
  private headers(facts: PrintFacts & { page: number; pages: number; isFirst: boolean }): PageItem[] {
    const { setup, headerPictures } = this.sheet;
    const kind = facts.isFirst && setup.headers.first !== undefined ? "first" : facts.page % 2 === 0 ? "even" : "odd";
    const font = this.workbook.styles.defaultFont.name;
    const about = { ...facts, sheet: this.sheet.info.name, font };
    const sides = { left: this.frame.left, right: this.frame.left + this.frame.width };
    const parts = [
      { texts: setup.headers, frame: { ...sides, y: setup.margins.header * PT_PER_INCH, above: true } },
      {
        texts: setup.footers,
        frame: { ...sides, y: this.paper.height - setup.margins.footer * PT_PER_INCH, above: false },
      },
    ];
    return parts.flatMap(({ texts, frame }) => {
      const own = texts[kind];
      const code = own ?? texts.odd ?? "";
      const suffix = own === undefined || kind === "odd" ? "" : kind.toUpperCase();
      return [...headerImages(code, headerPictures, suffix, frame), ...layHeader(code, about, frame, this.fonts)];
    });
  }

  /** Row numbers and column letters beside the cells. */
  private headings(
    rows: readonly number[],
    columns: readonly number[],
    origin: { x: number; y: number },
    scale: number,
  ): PageItem[] {
    const { defaultFont } = this.workbook.styles;
    const face = this.fonts.face(defaultFont.name, false, false);
    const size = defaultFont.size * scale;
    const { width, height } = this.headingSize();
    const items: PageItem[] = [];
    const cell = (text: string, box: Box): void => {
      items.push({ kind: "path", commands: rectangle(box), stroke: { color: "000000", width: 0.25 } });
      const x = box.x + (box.width - widthOf(text, face, size)) / 2;
      const y = box.y + (box.height + size * 0.7) / 2;
      items.push({ kind: "text", x, y, size, color: "000000", shaped: shapeWords(text, face) });
    };
    const [left, top] = [origin.x - width * scale, origin.y - height * scale];
    let { x } = origin;
    for (const column of columns) {
      const own = this.grid.width(column) * scale;
      if (own > 0) cell(columnLetters(column), { x, y: top, width: own, height: height * scale });
      x += own;
    }
    let { y } = origin;
    for (const row of rows) {
      const own = this.grid.height(row) * scale;
      if (own > 0) cell(String(row + 1), { x: left, y, width: width * scale, height: own });
      y += own;
    }
    return items;
  }

  /** Room of row numbers and column letters before scaling; none where they are not printed. */
  private headingSize(): { width: number; height: number } {
    return this.sheet.setup.headings ? { width: 28, height: this.sheet.defaultRowPt } : { width: 0, height: 0 };
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
        right = Math.max(right, column, this.runsTo(row, cell));
      }
    }
    for (const key of this.sheet.sparklines.keys()) {
      const [row, column] = key.split(" ").map(Number);
      bottom = Math.max(bottom, row);
      right = Math.max(right, column);
    }
    for (const drawing of this.sheet.drawings) {
      const end = lastCellOf(drawing, this.grid);
      bottom = Math.max(bottom, end.row);
      right = Math.max(right, end.column);
    }
    return bottom < 0 ? [] : [{ top: 0, left: 0, bottom, right }];
  }

  /** The last column that a text runs over into, where the cells beside it are blank; it makes no page of its own. */
  private runsTo(row: number, cell: PrintCell): number {
    const { column, value } = cell;
    const { alignment, font } = this.workbook.styles.formats[cell.style] ?? this.workbook.styles.formats[0];
    const mayRun = alignment.horizontal === "general" || alignment.horizontal === "left";
    if (typeof value !== "string" || !mayRun || alignment.wrap || alignment.rotation !== 0) return column;
    // Only texts that may be wider than their cell are measured.
    if (value.length * font.size * 0.35 < this.grid.width(column)) return column;
    const isMerged = this.sheet.merged.some((range) => rangeHolds(range, row, column));
    if (isMerged || value.includes("\n")) return column;
    const needed = widthOf(value, this.fonts.face(font.name, font.bold, font.italic), font.size);
    const line = this.sheet.cells.get(row);
    let last = column;
    let room = this.grid.width(column);
    const { fit, scale } = this.sheet.setup;
    const width = fit ? Number.POSITIVE_INFINITY : this.frame.width / (scale / 100);
    const isBlank = (at: number): boolean => (line?.get(at)?.value ?? "") === "";
    while (room < needed && isBlank(last + 1) && last - column < 30 && this.grid.left(last + 2) <= width)
      room += this.grid.width(++last);
    return last;
  }

  private partsOf(area: CellRange): PagePart[] {
    const { sheet } = this;
    const scale = this.scaleFor(area);
    const titleRows = sheet.titleRows;
    const titleColumns = sheet.titleColumns;
    const beside = this.headingSize();
    const rowRoom = this.frame.height / scale - beside.height;
    const columnRoom = this.frame.width / scale - beside.width;
    const titleHeight = titleRows ? this.grid.heightOf({ top: titleRows.from, bottom: titleRows.to }) : 0;
    const titleWidth = titleColumns ? this.grid.widthOf({ left: titleColumns.from, right: titleColumns.to }) : 0;
    const rowParts = cutPages(
      { from: area.top, to: area.bottom },
      (row) => this.grid.height(row),
      rowRoom,
      { span: titleRows, size: titleHeight },
      sheet.rowBreaks,
    );
    const columnParts = cutPages(
      { from: area.left, to: area.right },
      (column) => this.grid.width(column),
      columnRoom,
      { span: titleColumns, size: titleWidth },
      sheet.columnBreaks,
    );
    if (rowParts.length * columnParts.length > MAX_PAGES) {
      this.findings.push({
        code: "too-many-pages",
        severity: "stop",
        where: say().place.sheetIn({ where: this.workbook.package.where, name: sheet.info.name }),
        what: say().layout.sheetWouldTakePages({ rowPartCount: rowParts.length * columnParts.length }),
        advice: say().layout.setPrintArea(),
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
    const beside = this.headingSize();
    if (!fit) return Math.max(0.1, scale / 100);
    const byWidth =
      fit.width > 0 ? (this.frame.width * fit.width) / Math.max(1, this.grid.widthOf(area) + beside.width) : 1;
    const byHeight =
      fit.height > 0 ? (this.frame.height * fit.height) / Math.max(1, this.grid.heightOf(area) + beside.height) : 1;
    // Whole per cents, as the format stores them; never larger than life.
    return Math.max(0.1, Math.floor(Math.min(1, byWidth, byHeight) * 100) / 100);
  }

  /** What is anchored on the sheet, in the parts of it that stand on this page. */
  private anchored(part: PagePart, origin: { x: number; y: number }): PageItem[] {
    if (this.sheet.drawings.length === 0) return [];
    const { grid } = this;
    let y = origin.y;
    const regions: PageRegion[] = [];
    for (const rows of [part.titleRows, part.rows]) {
      if (!rows) continue;
      const height = grid.heightOf({ top: rows.from, bottom: rows.to }) * part.scale;
      let x = origin.x;
      for (const columns of [part.titleColumns, part.columns]) {
        if (!columns) continue;
        const width = grid.widthOf({ left: columns.from, right: columns.to }) * part.scale;
        regions.push({ rows, columns, box: { x, y, width, height } });
        x += width;
      }
      y += height;
    }
    const { fonts, workbook } = this;
    return drawDrawings(this.sheet.drawings, regions, { grid, fonts, theme: workbook.theme, scale: part.scale });
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
  titles: { readonly span: { readonly from: number; readonly to: number } | undefined; readonly size: number },
  breaks: ReadonlySet<number>,
): { from: number; to: number }[] {
  const parts: { from: number; to: number }[] = [];
  let from = range.from;
  let used = 0;
  for (let index = range.from; index <= range.to; index++) {
    const repeated = titles.span && from > titles.span.to ? titles.size : 0;
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
