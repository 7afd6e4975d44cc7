/** Tables as blocks: ECMA-376 part 1, 17.4. */
import type { XmlElement } from "../../../ooxml/index.js";
import type { Block, Float, Length, TableBlock, TableCellBlock, TableRowBlock } from "../../text/blocks.js";
import type { ParagraphLine } from "../../text/props.js";
import { readBorders, shadingOf, toggle, twips } from "../model/props.js";
import {
  type DocumentStyles,
  readMargins,
  readTableLooks,
  type TableContext,
  type TableStyle,
} from "../model/styles.js";

/** What reading a table asks of the reader of its part. */
export interface TableSite {
  readonly styles: DocumentStyles;
  readonly blocks: (parent: XmlElement, table: TableContext) => readonly Block[];
}

/** Which of a table style's conditions are wanted, and what the style says. */
interface StyledTable {
  readonly id: string | undefined;
  readonly style: TableStyle;
  readonly look: Readonly<Record<string, boolean>>;
  readonly margins: Readonly<Record<string, number>>;
  readonly rows: number;
  readonly columns: number;
  readonly headerRows: number;
  /** What is known of cells that stand alike, by the sides and stripes they stand at. */
  readonly stands: Map<number, CellStand>;
}

/** Cells at the same edges of a table and in the same stripes meet the same conditions. */
interface CellStand {
  readonly context: TableContext;
  /** Looks of cells by their properties, which a part shares. */
  readonly looks: Map<XmlElement | undefined, CellOwn>;
}

export function readTable(element: XmlElement, site: TableSite): TableBlock {
  const { theme } = site.styles;
  const tblPr = element.child("tblPr");
  const id = tblPr?.child("tblStyle")?.attr("w:val") ?? site.styles.defaultTable;
  const style = site.styles.table(id);
  const own = readTableLooks(tblPr, theme);
  const margins = { left: 5.4, right: 5.4, top: 0, bottom: 0, ...style.margins, ...own.margins };
  const rows = rowsOf(element);
  const look = tableLook(tblPr?.child("tblLook"));
  const styled: StyledTable = {
    id,
    style,
    look,
    margins,
    rows: rows.length,
    columns: Math.max(0, ...rows.map(columnsIn)),
    headerRows: look.firstRow ? 1 : 0,
    stands: new Map(),
  };
  const float = tblPr?.child("tblpPr");
  return {
    kind: "table",
    columns: (element.child("tblGrid")?.elements("gridCol") ?? []).map((column) => twips(column.attr("w:w")) ?? 0),
    width: readLength(tblPr?.child("tblW")),
    isFixed: tblPr?.child("tblLayout")?.attr("w:type") === "fixed",
    // Up to mode 14 the text of the first column stands at the margin, from 15 on the table's edge (17.15.3.4).
    indent: (twips(tblPr?.child("tblInd")?.attr("w:w")) ?? 0) - (site.styles.compatibilityMode < 15 ? margins.left : 0),
    align: tblPr?.child("jc")?.attr("w:val") ?? "left",
    borders: { ...style.borders, ...own.borders },
    margins,
    rows: rows.map((row, index) => readRow(row, index, styled, site)),
    description: tblPr?.child("tblDescription")?.attr("w:val") ?? tblPr?.child("tblCaption")?.attr("w:val") ?? "",
    ...(float ? { float: readPlacing(float) } : {}),
  };
}

/** Which conditions a table wants; in old files as bits of a number (17.4.55). */
function tableLook(element: XmlElement | undefined): Record<string, boolean> {
  const bits = Number.parseInt(element?.attr("w:val") ?? "04A0", 16);
  const is = (name: string, bit: number): boolean => {
    const own = element?.attr(`w:${name}`);
    return own === undefined ? (bits & bit) !== 0 : own === "1" || own === "true" || own === "on";
  };
  return {
    firstRow: is("firstRow", 0x20),
    lastRow: is("lastRow", 0x40),
    firstCol: is("firstColumn", 0x80),
    lastCol: is("lastColumn", 0x100),
    horizontal: !is("noHBand", 0x200),
    vertical: !is("noVBand", 0x400),
  };
}

/** Where a floating table stands: 17.4.57. */
function readPlacing(element: XmlElement): NonNullable<TableBlock["float"]> {
  const length = (name: string): number => twips(element.attr(`w:${name}`)) ?? 0;
  const place = (axis: "x" | "y", anchor: string): Float["horizontal"] => ({
    from: anchor === "text" ? (axis === "x" ? "column" : "paragraph") : anchor,
    align: element.attr(`w:tblp${axis.toUpperCase()}Spec`),
    offset: length(`tblp${axis.toUpperCase()}`),
  });
  return {
    wrap: "square",
    behind: false,
    distance: {
      left: length("leftFromText"),
      right: length("rightFromText"),
      top: length("topFromText"),
      bottom: length("bottomFromText"),
    },
    horizontal: place("x", element.attr("w:horzAnchor") ?? "text"),
    vertical: place("y", element.attr("w:vertAnchor") ?? "margin"),
  };
}

function readLength(element: XmlElement | undefined): Length | undefined {
  const value = element?.attr("w:w");
  const type = element?.attr("w:type") ?? "dxa";
  if (value === undefined || type === "auto" || type === "nil") return undefined;
  if (value.endsWith("%")) return { unit: "share", value: Number(value.slice(0, -1)) / 100 };
  const points = twips(value);
  if (points === undefined || points <= 0) return undefined;
  return type === "pct" ? { unit: "share", value: Number(value) / 5000 } : { unit: "pt", value: points };
}

function columnsIn(row: XmlElement): number {
  return (
    Number(row.path("trPr", "gridBefore")?.attr("w:val") ?? 0) +
    cellsOf(row).reduce((sum, cell) => sum + Number(cell.path("tcPr", "gridSpan")?.attr("w:val") ?? 1), 0)
  );
}

function readRow(row: XmlElement, index: number, table: StyledTable, site: TableSite): TableRowBlock {
  const trPr = row.child("trPr");
  const height = trPr?.child("trHeight");
  const rule = height?.attr("w:hRule");
  const before = Number(trPr?.child("gridBefore")?.attr("w:val") ?? 0);
  let column = before;
  const cells = cellsOf(row).map((cell) => {
    const span = Number(cell.path("tcPr", "gridSpan")?.attr("w:val") ?? 1);
    const made = readCell(cell, { row: index, column, span }, table, site);
    column += span;
    return made;
  });
  return {
    before,
    height: {
      rule: rule === "exact" ? "exact" : height ? "atLeast" : "auto",
      value: twips(height?.attr("w:val")) ?? 0,
    },
    isHeader: trPr ? (toggle(trPr, "tblHeader") ?? false) : false,
    cantSplit: trPr ? (toggle(trPr, "cantSplit") ?? false) : false,
    cells,
  };
}

interface CellPlace {
  readonly row: number;
  readonly column: number;
  readonly span: number;
}

function readCell(cell: XmlElement, place: CellPlace, table: StyledTable, site: TableSite): TableCellBlock {
  const tcPr = cell.child("tcPr");
  const stand = standOf(place, table);
  let looks = stand.looks.get(tcPr);
  if (!looks) {
    looks = readCellLooks(tcPr, stand.context.conditions, place, table, site);
    stand.looks.set(tcPr, looks);
  }
  return { span: place.span, blocks: site.blocks(cell, stand.context), ...looks };
}

type CellOwn = Omit<TableCellBlock, "span" | "blocks">;

/** Edges and stripes as bits of one number: all that conditions and borders ask of a cell's place. */
function standOf(place: CellPlace, table: StyledTable): CellStand {
  const { row, column, span } = place;
  const edges =
    (column === 0 ? 1 : 0) |
    (column + span >= table.columns ? 2 : 0) |
    (row === 0 ? 4 : 0) |
    (row === table.rows - 1 ? 8 : 0);
  const key = edges | (columnBand(column, table) << 4) | (rowBand(row, table) << 5);
  let stand = table.stands.get(key);
  if (!stand) {
    const conditions = conditionsOf(place, table);
    const context = { style: table.id, conditions, key: `${table.id}|${conditions.join(" ")}` };
    stand = { context, looks: new Map() };
    table.stands.set(key, stand);
  }
  return stand;
}

function columnBand(column: number, { look, style }: StyledTable): number {
  return Math.abs(Math.floor((column - (look.firstCol ? 1 : 0)) / (style.bands.columns ?? 1)) % 2);
}

function rowBand(row: number, { headerRows, style }: StyledTable): number {
  return Math.abs(Math.floor((row - headerRows) / (style.bands.rows ?? 1)) % 2);
}

function readCellLooks(
  tcPr: XmlElement | undefined,
  conditions: readonly string[],
  place: CellPlace,
  table: StyledTable,
  site: TableSite,
): CellOwn {
  const merge = tcPr?.child("vMerge");
  const borders = tcPr?.child("tcBorders");
  const looks = conditions.flatMap((name) => table.style.conditions[name] ?? []);
  const styled: Record<string, ParagraphLine | undefined> = {};
  for (const [index, one] of looks.entries())
    Object.assign(styled, conditionBorders(one.borders, conditions[index], place, table));
  const direction = tcPr?.child("textDirection")?.attr("w:val") ?? "";
  const { theme } = site.styles;
  return {
    merge: !merge ? "none" : merge.attr("w:val") === "restart" ? "start" : "continue",
    borders: { ...styled, ...(borders ? readBorders(borders, theme) : {}) },
    margins: { ...table.margins, ...readMargins(tcPr?.child("tcMar")) },
    shading: tcPr?.child("shd")
      ? shadingOf(tcPr, theme)
      : ([...looks].reverse().find((one) => one.shading !== undefined)?.shading ?? table.style.shading),
    vertical:
      tcPr?.child("vAlign")?.attr("w:val") ??
      [...looks].reverse().find((one) => one.vertical !== undefined)?.vertical ??
      "top",
    turned:
      direction === "btLr" || direction === "bt" ? "up" : /^(?:tbRl|tbRlV|rl|tb)/.test(direction) ? "down" : undefined,
    noWrap: tcPr ? (toggle(tcPr, "noWrap") ?? false) : false,
    preferred: readLength(tcPr?.child("tcW")),
  };
}

/** Conditions a cell meets, weakest first: 17.7.6. */
function conditionsOf({ row, column, span }: CellPlace, table: StyledTable): string[] {
  const { look } = table;
  const found = ["wholeTable"];
  const isFirstRow = look.firstRow && row === 0;
  const isLastRow = look.lastRow && row === table.rows - 1 && row > 0;
  const isFirstColumn = look.firstCol && column === 0;
  const isLastColumn = look.lastCol && column + span >= table.columns;
  if (look.vertical && !isFirstColumn && !isLastColumn) {
    found.push(columnBand(column, table) === 0 ? "band1Vert" : "band2Vert");
  }
  if (look.horizontal && !isFirstRow && !isLastRow) {
    found.push(rowBand(row, table) === 0 ? "band1Horz" : "band2Horz");
  }
  if (isFirstColumn) found.push("firstCol");
  if (isLastColumn) found.push("lastCol");
  if (isFirstRow) found.push("firstRow");
  if (isLastRow) found.push("lastRow");
  if (isFirstRow && isFirstColumn) found.push("nwCell");
  if (isFirstRow && isLastColumn) found.push("neCell");
  if (isLastRow && isFirstColumn) found.push("swCell");
  if (isLastRow && isLastColumn) found.push("seCell");
  return found;
}

/** Outer borders of a condition belong to the edges of the rows or columns it covers, inner ones between its cells. */
function conditionBorders(
  borders: Readonly<Record<string, ParagraphLine | undefined>>,
  condition: string,
  { row, column, span }: CellPlace,
  table: StyledTable,
): Record<string, ParagraphLine | undefined> {
  const isRow = /Row$|Horz$/.test(condition);
  const isColumn = /Col$|Vert$/.test(condition);
  const edges = {
    left: !isRow || column === 0,
    right: !isRow || column + span >= table.columns,
    top: !isColumn || row === 0,
    bottom: !isColumn || row === table.rows - 1,
  };
  if (condition === "wholeTable")
    Object.assign(edges, {
      left: column === 0,
      right: column + span >= table.columns,
      top: row === 0,
      bottom: row === table.rows - 1,
    });
  const made: Record<string, ParagraphLine | undefined> = {};
  for (const side of ["left", "right", "top", "bottom"] as const) {
    const line = edges[side] ? borders[side] : borders[side === "left" || side === "right" ? "insideV" : "insideH"];
    if (line) made[side] = line;
  }
  return made;
}

/** Rows and cells, also those inside content controls. */
function rowsOf(table: XmlElement): XmlElement[] {
  return unwrap(table, "tr").filter((row) => !row.path("trPr", "del"));
}

function cellsOf(row: XmlElement): XmlElement[] {
  return unwrap(row, "tc");
}

function unwrap(parent: XmlElement, wanted: string, into: XmlElement[] = []): XmlElement[] {
  for (const child of parent.children) {
    if (child.kind !== "element") continue;
    if (child.local === wanted) into.push(child);
    else if (WRAPPINGS.has(child.local)) unwrap(child, wanted, into);
  }
  return into;
}

const WRAPPINGS = new Set(["sdt", "sdtContent", "ins", "customXml"]);
