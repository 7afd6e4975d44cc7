/** Tables of slides: widths as they are stored, rows as high as their text, looks by the table's style (ECMA-376 part 1, 21.1.3). */
import type { Fonts } from "../../fonts/index.js";
import { type XmlElement, xmlElement } from "../../ooxml/index.js";
import { type Box, moveItems, type PageItem, rectangle, type StructureNode } from "../../page/index.js";
import { isTrue, type Theme } from "../../spreadsheet/index.js";
import { paintIn } from "../drawing/colors.js";
import { type FillSite, fillItems, lineItems } from "../drawing/fill-items.js";
import { EMU_PER_PT } from "../drawing/geometry.js";
import { type Fill, fillFrom, fillOf, lineOf, type Outline, styleFill } from "../drawing/paint.js";
import { type LaidBody, layBody, type TextSite, type TextSources } from "../drawing/text-body.js";
import { familyOf, kept } from "../drawing/text-looks.js";
import { child } from "../text/fragment.js";
import type { RunProps } from "../text/props.js";

export interface TableSite {
  readonly fonts: Fonts;
  readonly theme: Theme;
  readonly node: StructureNode;
  /** The style it names, where the deck has it. */
  readonly style: XmlElement | undefined;
  readonly sources: TextSources;
  readonly fill: FillSite;
  readonly link?: TextSite["link"];
  readonly field?: TextSite["field"];
}

interface Cell {
  readonly element: XmlElement;
  readonly column: number;
  readonly width: number;
  /** Rows and columns it reaches over. */
  readonly rows: number;
  readonly columns: number;
  readonly looks: CellLooks;
  readonly laid: LaidBody;
  /** Text that is turned has the height of its row to run along. */
  readonly along: ((height: number) => LaidBody) | undefined;
}

interface CellLooks {
  readonly run: RunProps;
  readonly fill: Fill | "none" | undefined;
  /** Lines by side, and of the diagonals. */
  readonly lines: Readonly<Record<string, Outline | "none" | undefined>>;
}

export interface DrawnTable {
  readonly items: readonly PageItem[];
  readonly height: number;
  /** Heights of its rows, in points. */
  readonly rows: readonly number[];
}

const points = (value: string | undefined): number => Number(value ?? 0) / EMU_PER_PT;

/** A table with its upper left corner at nought. */
export function drawSlideTable(table: XmlElement, box: Box, site: TableSite): DrawnTable {
  const stored = (table.child("tblGrid")?.elements("gridCol") ?? []).map((column) => points(column.attr("w")));
  const total = stored.reduce((sum, width) => sum + width, 0);
  // A frame that was made wider takes its columns with it.
  const scale = total > 0 && box.width > 0 && Math.abs(total - box.width) > 1 && total < 1 ? box.width / total : 1;
  const widths = stored.map((width) => width * scale);
  const rows = table.elements("tr");
  const reader = new CellReader(table, site);
  const grid = rows.map((row, index) => readRow(row, index, rows.length, widths, reader));
  const heights = rows.map((row, index) =>
    Math.max(points(row.attr("h")), ...grid[index].map((cell) => (cell.rows === 1 ? heightOf(cell) : 0))),
  );
  grid.forEach((cells, index) => {
    // What a cell over several rows needs beyond them goes to the last.
    for (const cell of cells) {
      if (cell.rows === 1) continue;
      const spanned = heights.slice(index, index + cell.rows).reduce((sum, height) => sum + height, 0);
      const last = Math.min(heights.length, index + cell.rows) - 1;
      heights[last] += Math.max(0, heightOf(cell) - spanned);
    }
  });
  const items: PageItem[] = [];
  const lines: PageItem[] = [];
  let y = 0;
  grid.forEach((cells, index) => {
    for (const cell of cells) {
      const height = heights.slice(index, index + cell.rows).reduce((sum, one) => sum + one, 0);
      const x = widths.slice(0, cell.column).reduce((sum, one) => sum + one, 0);
      const place = { x, y, width: cell.width, height };
      const ground = groundOf(cell, place, site);
      if (ground.length > 0) items.push({ kind: "tagged", node: undefined, items: ground });
      items.push(...textOf(cell, place));
      lines.push(...linesOf(cell, place));
    }
    y += heights[index];
  });
  if (lines.length > 0) items.push({ kind: "tagged", node: undefined, items: lines });
  return { items, height: y, rows: heights };
}

function marginsOf(cell: XmlElement): { left: number; right: number; top: number; bottom: number } {
  const properties = cell.child("tcPr");
  const margin = (name: string, usual: number): number => points(properties?.attr(name) ?? String(usual));
  return {
    left: margin("marL", 91_440),
    right: margin("marR", 91_440),
    top: margin("marT", 45_720),
    bottom: margin("marB", 45_720),
  };
}

function heightOf(cell: Cell): number {
  const { top, bottom } = marginsOf(cell.element);
  return cell.laid.needed + top + bottom;
}

function readRow(row: XmlElement, index: number, count: number, widths: readonly number[], reader: CellReader): Cell[] {
  const { site, table } = reader;
  const node = child(site.node, "TR");
  return row.elements("tc").flatMap((element, column): Cell[] => {
    if (isTrue(element.attr("hMerge")) || isTrue(element.attr("vMerge"))) return [];
    const columns = Number(element.attr("gridSpan") ?? 1);
    const rows = Number(element.attr("rowSpan") ?? 1);
    const width = widths.slice(column, column + columns).reduce((sum, one) => sum + one, 0);
    const looks = reader.looks(element, { row: index, rows: count, column, columns: widths.length });
    const isHead = index === 0 && isTrue(table.child("tblPr")?.attr("firstRow"));
    const span = { ...(columns > 1 ? { columns } : {}), ...(rows > 1 ? { rows } : {}) };
    const own = child(node, isHead ? "TH" : "TD", isHead ? { scope: "Column", ...span } : span);
    return [{ element, column, width, rows, columns, looks, ...layCell(element, width, looks, own, reader) }];
  });
}

/** Text of a cell, as high as it gets. */
function layCell(
  cell: XmlElement,
  width: number,
  looks: CellLooks,
  node: StructureNode,
  reader: CellReader,
): Pick<Cell, "laid" | "along"> {
  const { site } = reader;
  const { left, right, top, bottom } = marginsOf(cell);
  const body = cell.child("txBody");
  if (!body) return { laid: NOTHING, along: undefined };
  const vertical = cell.child("tcPr")?.attr("vert");
  const inner = Math.max(1, width - left - right);
  // The insets of a cell are its margins; turned text is as long as it needs.
  const anchor = cell.child("tcPr")?.attr("anchor");
  const bare = body.withChildren(body.children.filter((one) => one.kind !== "element" || one.local !== "bodyPr"));
  const sources = reader.sources(looks, vertical, anchor);
  const text: TextSite = { fonts: site.fonts, theme: site.theme, node, link: site.link, field: site.field };
  if (vertical === "vert" || vertical === "vert270")
    return {
      laid: NOTHING,
      along: (height) => layBody(bare, { width: inner, height: Math.max(1, height - top - bottom) }, sources, text),
    };
  return { laid: layBody(bare, { width: inner, height: 0 }, sources, text), along: undefined };
}

const NOTHING: LaidBody = { items: [], needed: 0, over: 0, scale: 1, lineCut: 0 };

const NO_INSETS = xmlElement("a:bodyPr", { lIns: "0", rIns: "0", tIns: "0", bIns: "0" });

function groundOf(cell: Cell, place: Box, site: TableSite): PageItem[] {
  const { fill } = cell.looks;
  return fill && fill !== "none" ? fillItems(rectangle(place), place, fill, site.fill) : [];
}

function textOf(cell: Cell, place: Box): PageItem[] {
  const { left, top, bottom } = marginsOf(cell.element);
  if (cell.along) return moveItems(cell.along(place.height).items, place.x + left, place.y + top);
  const anchor = cell.element.child("tcPr")?.attr("anchor") ?? "t";
  const free = place.height - top - bottom - cell.laid.needed;
  const down = anchor === "ctr" ? free / 2 : anchor === "b" ? free : 0;
  return moveItems(cell.laid.items, place.x + left, place.y + top + Math.max(0, down));
}

function linesOf({ looks }: Cell, { x, y, width, height }: Box): PageItem[] {
  const [right, bottom] = [x + width, y + height];
  const line = (name: string, x1: number, y1: number, x2: number, y2: number): PageItem[] => {
    const outline = looks.lines[name];
    return outline && outline !== "none"
      ? lineItems(
          [
            ["M", x1, y1],
            ["L", x2, y2],
          ],
          outline,
        )
      : [];
  };
  return [
    ...line("left", x, y, x, bottom),
    ...line("right", right, y, right, bottom),
    ...line("top", x, y, right, y),
    ...line("bottom", x, bottom, right, bottom),
    ...line("tl2br", x, y, right, bottom),
    ...line("tr2bl", right, y, x, bottom),
  ];
}

/** What cells of a table have in common is read once. */
class CellReader {
  private readonly known = new Map<string, CellLooks>();
  private readonly given = new WeakMap<CellLooks, Map<string, TextSources>>();

  constructor(
    readonly table: XmlElement,
    readonly site: TableSite,
  ) {}

  looks(cell: XmlElement, place: CellPlace): CellLooks {
    const { row, rows, column, columns } = place;
    const parts = partsFor(place, this.table.child("tblPr")).join();
    const edges = `${row === 0} ${row === rows - 1} ${column === 0} ${column === columns - 1}`;
    const key = `${parts} ${edges} ${cell.child("tcPr")?.toString() ?? ""}`;
    let found = this.known.get(key);
    if (!found) {
      found = cellLooks(cell, this.table, place, this.site);
      this.known.set(key, found);
    }
    return found;
  }

  sources(looks: CellLooks, vertical: string | undefined, anchor: string | undefined): TextSources {
    return kept(this.given, looks, `${vertical} ${anchor}`, () => {
      const plain = vertical ? NO_INSETS.withAttr("vert", vertical).withAttr("anchor", anchor) : NO_INSETS;
      return { ...this.site.sources, bodies: [plain], over: looks.run };
    });
  }
}

interface CellPlace {
  readonly row: number;
  readonly rows: number;
  readonly column: number;
  readonly columns: number;
}

/** Parts of a table's style that count for a cell, the one that counts least first (20.1.4.2.27). */
function partsFor({ row, rows, column, columns }: CellPlace, properties: XmlElement | undefined): string[] {
  const has = (name: string): boolean => isTrue(properties?.attr(name));
  const [first, last] = [has("firstRow") && row === 0, has("lastRow") && row === rows - 1];
  const [start, end] = [has("firstCol") && column === 0, has("lastCol") && column === columns - 1];
  const parts = ["wholeTbl"];
  if (has("bandCol") && !start && !end)
    parts.push((column - (has("firstCol") ? 1 : 0)) % 2 === 0 ? "band1V" : "band2V");
  if (has("bandRow") && !first && !last) parts.push((row - (has("firstRow") ? 1 : 0)) % 2 === 0 ? "band1H" : "band2H");
  if (end) parts.push("lastCol");
  if (start) parts.push("firstCol");
  if (last) parts.push("lastRow");
  if (first) parts.push("firstRow");
  if (first && start) parts.push("nwCell");
  if (first && end) parts.push("neCell");
  if (last && start) parts.push("swCell");
  if (last && end) parts.push("seCell");
  return parts;
}

const OWN_LINES: Readonly<Record<string, string>> = {
  left: "lnL",
  right: "lnR",
  top: "lnT",
  bottom: "lnB",
  tl2br: "lnTlToBr",
  tr2bl: "lnBlToTr",
};

function cellLooks(cell: XmlElement, table: XmlElement, place: CellPlace, { style, theme }: TableSite): CellLooks {
  const properties = table.child("tblPr");
  const names = partsFor(place, properties);
  const run: { -readonly [Name in keyof RunProps]: RunProps[Name] } = {};
  let fill: Fill | "none" | undefined = fillOf(properties, theme);
  const lines: Record<string, Outline | "none" | undefined> = {};
  for (const name of names) {
    const part = style?.child(name);
    if (!part) continue;
    const text = part.child("tcTxStyle");
    if (text?.attr("b") === "on") run.bold = true;
    if (text?.attr("i") === "on") run.italic = true;
    const reference = text?.child("fontRef")?.attr("idx");
    if (reference === "major" || reference === "minor")
      run.font = familyOf(reference === "major" ? "+mj-lt" : "+mn-lt", theme) ?? theme.minorFont;
    const color = paintIn(text, theme)?.color ?? paintIn(text?.child("fontRef"), theme)?.color;
    if (color) run.color = color;
    const box = part.child("tcStyle");
    fill =
      box
        ?.child("fill")
        ?.elements()
        .map((one) => fillFrom(one, theme))[0] ??
      styleFill(box?.child("fillRef"), theme) ??
      fill;
    for (const side of box?.child("tcBdr")?.elements() ?? []) {
      const line = lineOf(side.child("ln"), side.child("lnRef"), theme);
      const isBand = name.startsWith("band") || name === "wholeTbl";
      const [top, bottom] = isBand ? [place.row === 0, place.row === place.rows - 1] : [true, true];
      const [left, right] =
        name === "wholeTbl" ? [place.column === 0, place.column === place.columns - 1] : [true, true];
      const sides: Readonly<Record<string, boolean>> = { left, right, top, bottom, tl2br: true, tr2bl: true };
      if (sides[side.local]) lines[side.local] = line;
      if (side.local === "insideH") {
        if (!top) lines.top = line;
        if (!bottom) lines.bottom = line;
      }
      if (side.local === "insideV") {
        if (!left) lines.left = line;
        if (!right) lines.right = line;
      }
    }
  }
  const own = cell.child("tcPr");
  for (const [side, name] of Object.entries(OWN_LINES)) {
    const line = own?.child(name);
    if (line) lines[side] = lineOf(line, undefined, theme);
  }
  return { run, fill: fillOf(own, theme) ?? fill, lines };
}
