/** Tables of slides: widths as they are stored, rows as high as their text, looks by the table's style (ECMA-376 part 1, 21.1.3). */
import type { Fonts } from "../../fonts/index.js";
import { type XmlElement, xmlElement } from "../../ooxml/index.js";
import {
  type Box,
  moveItems,
  type PageItem,
  type PathCommand,
  rectangle,
  type StructureNode,
} from "../../page/index.js";
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
  readonly picture?: TextSite["picture"];
  readonly field?: TextSite["field"];
}

interface Cell {
  readonly facts: CellFacts;
  readonly row: number;
  readonly column: number;
  readonly width: number;
  readonly looks: CellLooks;
  readonly laid: LaidBody;
  /** Text that is turned has the height of its row to run along. */
  readonly along: ((height: number) => LaidBody) | undefined;
}

/** What a cell says, wherever it stands. */
interface CellFacts {
  /** Rows and columns it reaches over. */
  readonly rows: number;
  readonly columns: number;
  readonly isCovered: boolean;
  readonly margins: { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number };
  readonly anchor: string | undefined;
  readonly vertical: string | undefined;
  /** Its text without the properties of its body: a cell's margins are its own. */
  readonly body: XmlElement | undefined;
}

interface CellLooks {
  readonly run: RunProps;
  readonly fill: Fill | "none" | undefined;
  /** Lines by side, and of the diagonals; those that look alike are one. */
  readonly lines: Readonly<Record<string, Outline | "none" | undefined>>;
}

export interface DrawnTable {
  readonly items: readonly PageItem[];
  readonly height: number;
}

const points = (value: string | undefined): number => Number(value ?? 0) / EMU_PER_PT;

/** A table laid out in a width: as high as its text. */
class LaidTable {
  readonly widths: readonly number[];
  readonly grid: readonly (readonly Cell[])[];
  /** Heights of its rows, in points. */
  readonly heights: readonly number[];

  constructor(
    readonly table: XmlElement,
    width: number,
    readonly site: TableSite,
  ) {
    const stored = (table.child("tblGrid")?.elements("gridCol") ?? []).map((column) => points(column.attr("w")));
    const total = sumOf(stored);
    // A frame that was made wider takes its columns with it.
    const scale = total > 0 && width > 0 && Math.abs(total - width) > 1 && total < 1 ? width / total : 1;
    this.widths = stored.map((one) => one * scale);
    const rows = table.elements("tr");
    const properties = table.child("tblPr");
    const reader = readerOf(properties, site);
    const isHeaded = isTrue(properties?.attr("firstRow"));
    this.grid = rows.map((row, index) => this.row(row, { row: index, rows: rows.length, isHeaded }, reader));
    this.heights = this.heightsOf(rows);
  }

  private row(
    row: XmlElement,
    place: { readonly row: number; readonly rows: number; readonly isHeaded: boolean },
    reader: CellReader,
  ): Cell[] {
    const { site, widths } = this;
    const node = child(site.node, "TR");
    const isHead = place.row === 0 && place.isHeaded;
    const cells: Cell[] = [];
    row.elements("tc").forEach((element, column) => {
      const facts = factsOf(element);
      if (facts.isCovered) return;
      const { columns } = facts;
      let width = 0;
      for (let at = column; at < column + columns; at++) width += widths[at] ?? 0;
      const looks = reader.looks(element, { row: place.row, rows: place.rows, column, columns: widths.length });
      const own = cellNode(isHead, facts);
      node.children.push(own);
      const { laid, along } = layCell(facts, width, looks, own, site, reader);
      cells.push({ facts, row: place.row, column, width, looks, laid, along });
    });
    return cells;
  }

  private heightsOf(rows: readonly XmlElement[]): number[] {
    const { grid } = this;
    const heights = rows.map((row, index) => {
      let height = points(row.attr("h"));
      for (const cell of grid[index]) if (cell.facts.rows === 1) height = Math.max(height, heightOf(cell));
      return height;
    });
    grid.forEach((cells, index) => {
      // What a cell over several rows needs beyond them goes to the last.
      for (const cell of cells) {
        const { rows } = cell.facts;
        if (rows === 1) continue;
        const last = Math.min(heights.length, index + rows) - 1;
        heights[last] += Math.max(0, heightOf(cell) - sumOf(heights.slice(index, index + rows)));
      }
    });
    return heights;
  }

  draw(): DrawnTable {
    const { grid, site } = this;
    const [xs, ys] = [edgesOf(this.widths), edgesOf(this.heights)];
    const items: PageItem[] = [];
    const grounds: PageItem[] = [];
    const lines = new TableLines(xs, ys);
    for (const cells of grid)
      for (const cell of cells) {
        const [x, y] = [xs[cell.column] ?? 0, ys[cell.row]];
        const height = (ys[Math.min(ys.length - 1, cell.row + cell.facts.rows)] ?? y) - y;
        const place = { x, y, width: cell.width, height };
        const { fill } = cell.looks;
        if (fill && fill !== "none") grounds.push(...fillItems(rectangle(place), place, fill, site.fill));
        items.push(...textOf(cell, place));
        lines.add(cell);
      }
    const drawn = lines.items();
    return {
      items: [...decorated(grounds), ...items, ...decorated(drawn)],
      height: ys[ys.length - 1],
    };
  }
}

/** A table with its upper left corner at nought. */
export function drawSlideTable(table: XmlElement, box: Box, site: TableSite): DrawnTable {
  return new LaidTable(table, box.width, site).draw();
}

/** Heights of a table's rows, in points. */
export function slideTableRows(table: XmlElement, box: Box, site: TableSite): readonly number[] {
  return new LaidTable(table, box.width, site).heights;
}

const decorated = (items: readonly PageItem[]): PageItem[] =>
  items.length === 0 ? [] : [{ kind: "tagged", node: undefined, items }];

function sumOf(values: readonly number[]): number {
  let sum = 0;
  for (const value of values) sum += value;
  return sum;
}

/** Where columns or rows begin, and the last ends. */
function edgesOf(lengths: readonly number[]): number[] {
  const edges = [0];
  for (const length of lengths) edges.push(edges[edges.length - 1] + length);
  return edges;
}

const cellFacts = new WeakMap<XmlElement, CellFacts>();

function factsOf(cell: XmlElement): CellFacts {
  let facts = cellFacts.get(cell);
  if (!facts) {
    facts = readFacts(cell);
    cellFacts.set(cell, facts);
  }
  return facts;
}

function readFacts(cell: XmlElement): CellFacts {
  const properties = cell.child("tcPr");
  const margin = (name: string, usual: number): number => points(properties?.attr(name) ?? String(usual));
  const body = cell.child("txBody");
  return {
    rows: Number(cell.attr("rowSpan") ?? 1),
    columns: Number(cell.attr("gridSpan") ?? 1),
    isCovered: isTrue(cell.attr("hMerge")) || isTrue(cell.attr("vMerge")),
    margins: {
      left: margin("marL", 91_440),
      right: margin("marR", 91_440),
      top: margin("marT", 45_720),
      bottom: margin("marB", 45_720),
    },
    anchor: properties?.attr("anchor"),
    vertical: properties?.attr("vert"),
    body: body?.withChildren(body.children.filter((one) => one.kind !== "element" || one.local !== "bodyPr")),
  };
}

/** The part of the structure that a cell is. */
function cellNode(isHead: boolean, { rows, columns }: CellFacts): StructureNode {
  if (!isHead && rows === 1 && columns === 1) return { role: "TD", children: [] };
  return {
    role: isHead ? "TH" : "TD",
    children: [],
    scope: isHead ? "Column" : undefined,
    columns: columns > 1 ? columns : undefined,
    rows: rows > 1 ? rows : undefined,
  };
}

function heightOf({ facts: { margins }, laid }: Cell): number {
  return laid.needed + margins.top + margins.bottom;
}

/** Text of a cell, as high as it gets. */
function layCell(
  { margins, vertical, anchor, body }: CellFacts,
  width: number,
  looks: CellLooks,
  node: StructureNode,
  site: TableSite,
  reader: CellReader,
): Pick<Cell, "laid" | "along"> {
  if (!body) return { laid: NOTHING, along: undefined };
  const inner = Math.max(1, width - margins.left - margins.right);
  // Turned text is as long as it needs.
  const sources = reader.sources(looks, vertical, anchor);
  const { fonts, theme, link, picture, field } = site;
  const text: TextSite = { fonts, theme, node, isCell: true, link, picture, field };
  if (vertical === "vert" || vertical === "vert270")
    return {
      laid: NOTHING,
      along: (height) =>
        layBody(body, { width: inner, height: Math.max(1, height - margins.top - margins.bottom) }, sources, text),
    };
  return { laid: layBody(body, { width: inner, height: 0 }, sources, text), along: undefined };
}

const NOTHING: LaidBody = { items: [], needed: 0, over: 0, scale: 1, lineCut: 0 };

const NO_INSETS = xmlElement("a:bodyPr", { lIns: "0", rIns: "0", tIns: "0", bIns: "0" });

function textOf({ facts, along, laid }: Cell, place: Box): PageItem[] {
  const { anchor } = facts;
  const { left, top, bottom } = facts.margins;
  if (along) return moveItems(along(place.height).items, place.x + left, place.y + top);
  const free = place.height - top - bottom - laid.needed;
  const down = anchor === "ctr" ? free / 2 : anchor === "b" ? free : 0;
  return moveItems(laid.items, place.x + left, place.y + top + Math.max(0, down));
}

/** The lines of a table: one for each edge, the widest of those that both sides ask for, else the last. */
class TableLines {
  private readonly across = new Map<number, Map<number, Outline>>();
  private readonly down = new Map<number, Map<number, Outline>>();
  private readonly ways = new Map<Outline, PathCommand[]>();

  constructor(
    private readonly xs: readonly number[],
    private readonly ys: readonly number[],
  ) {}

  add({ looks: { lines }, row, column, facts: { rows, columns } }: Cell): void {
    const [right, bottom] = [Math.min(this.xs.length - 1, column + columns), Math.min(this.ys.length - 1, row + rows)];
    for (let at = row; at < bottom; at++) {
      this.edge(this.down, column, at, lines.left);
      this.edge(this.down, right, at, lines.right);
    }
    for (let at = column; at < right; at++) {
      this.edge(this.across, row, at, lines.top);
      this.edge(this.across, bottom, at, lines.bottom);
    }
    const [x, y, end, foot] = [this.xs[column], this.ys[row], this.xs[right], this.ys[bottom]];
    this.way(lines.tl2br, x, y, end, foot);
    this.way(lines.tr2bl, end, y, x, foot);
  }

  private edge(all: Map<number, Map<number, Outline>>, line: number, at: number, wanted: Outline | "none" | undefined) {
    if (!wanted || wanted === "none") return;
    let edges = all.get(line);
    if (!edges) {
      edges = new Map();
      all.set(line, edges);
    }
    const known = edges.get(at);
    if (!known || known.width <= wanted.width) edges.set(at, wanted);
  }

  private way(outline: Outline | "none" | undefined, x1: number, y1: number, x2: number, y2: number): void {
    if (!outline || outline === "none") return;
    const way: readonly PathCommand[] = [
      ["M", x1, y1],
      ["L", x2, y2],
    ];
    const known = this.ways.get(outline);
    if (known) known.push(...way);
    else this.ways.set(outline, [...way]);
  }

  items(): PageItem[] {
    const { xs, ys } = this;
    for (const [line, edges] of this.down)
      joined(edges, (outline, from, to) => this.way(outline, xs[line], ys[from], xs[line], ys[to]));
    for (const [line, edges] of this.across)
      joined(edges, (outline, from, to) => this.way(outline, xs[from], ys[line], xs[to], ys[line]));
    return [...this.ways].flatMap(([outline, commands]) => lineItems(commands, outline));
  }
}

/** Edges that look alike and follow each other as one line. */
function joined(edges: ReadonlyMap<number, Outline>, draw: (outline: Outline, from: number, to: number) => void): void {
  let open: { readonly outline: Outline; readonly from: number; to: number } | undefined;
  for (const [at, outline] of [...edges].sort(([a], [b]) => a - b)) {
    if (open?.outline === outline && open.to === at) {
      open.to = at + 1;
      continue;
    }
    if (open) draw(open.outline, open.from, open.to);
    open = { outline, from: at, to: at + 1 };
  }
  if (open) draw(open.outline, open.from, open.to);
}

const readers = new WeakMap<TextSources, Map<string, CellReader>>();

/** What cells of tables with the same properties and the same style have in common. */
function readerOf(properties: XmlElement | undefined, { sources, style, theme }: TableSite): CellReader {
  const key = properties?.toString() ?? "";
  const reader = kept(readers, sources, key, () => new CellReader(properties, style, theme, sources));
  if (reader.style === style && reader.theme === theme) return reader;
  const made = new CellReader(properties, style, theme, sources);
  readers.get(sources)?.set(key, made);
  return made;
}

/** What cells of a table have in common is read once. */
class CellReader {
  /** By cell and the place it has in its table. */
  private readonly known = new WeakMap<XmlElement, (CellLooks | undefined)[]>();
  private readonly alike = new Map<string, CellLooks>();
  private readonly given = new WeakMap<CellLooks, Map<string, TextSources>>();
  private readonly outlines = new Map<string, Outline>();

  constructor(
    private readonly properties: XmlElement | undefined,
    readonly style: XmlElement | undefined,
    readonly theme: Theme,
    private readonly base: TextSources,
  ) {}

  looks(cell: XmlElement, place: CellPlace): CellLooks {
    const code = placeCode(place.row, place.rows) * PLACES + placeCode(place.column, place.columns);
    let own = this.known.get(cell);
    if (!own) {
      own = [];
      this.known.set(cell, own);
    }
    let found = own[code];
    if (!found) {
      const key = `${code} ${cell.child("tcPr")?.toString() ?? ""}`;
      found = this.alike.get(key) ?? this.read(cell, place);
      this.alike.set(key, found);
      own[code] = found;
    }
    return found;
  }

  private read(cell: XmlElement, place: CellPlace): CellLooks {
    const looks = cellLooks(cell, this.properties, place, this);
    const lines = Object.entries(looks.lines).map(([side, line]) => {
      if (!line || line === "none") return [side, line] as const;
      const key = JSON.stringify(line);
      const one = this.outlines.get(key) ?? line;
      this.outlines.set(key, one);
      return [side, one] as const;
    });
    return { ...looks, lines: Object.fromEntries(lines) };
  }

  sources(looks: CellLooks, vertical: string | undefined, anchor: string | undefined): TextSources {
    return kept(this.given, looks, `${vertical} ${anchor}`, () => {
      const plain = vertical ? NO_INSETS.withAttr("vert", vertical).withAttr("anchor", anchor) : NO_INSETS;
      return { ...this.base, bodies: [plain], over: looks.run };
    });
  }
}

/** First, last, and whether its number is even: what looks depend on. */
const PLACES = 8;

function placeCode(at: number, count: number): number {
  return (at === 0 ? 1 : 0) + (at === count - 1 ? 2 : 0) + (at % 2 === 0 ? 4 : 0);
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

function cellLooks(
  cell: XmlElement,
  properties: XmlElement | undefined,
  place: CellPlace,
  { style, theme }: Pick<TableSite, "style" | "theme">,
): CellLooks {
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
