/** A sheet as far as printing it goes: ECMA-376 part 1, 18.3. */

import type { Finding } from "../../../common/index.js";
import { parseXml, type XmlElement } from "../../../ooxml/index.js";
import {
  type CellFont,
  type CellRange,
  cellName,
  isTrue,
  maybeRange,
  readCellFont,
  type SheetInfo,
  scanCells,
  splitSheet,
  type Workbook,
} from "../../../spreadsheet/index.js";
import { say } from "../../../words/index.js";
import { readSparklines, type Sparklines } from "../draw/sparklines.js";
import { applyRules, type RuledCells } from "./conditional-formatting.js";
import { type HeaderPictures, readHeaderPictures } from "./header-pictures.js";
import { readDrawings, type SheetDrawing } from "./read-drawings.js";
import { sheetTableLooks, type TableLooks } from "./table-styles.js";

export interface PrintCell {
  readonly row: number;
  readonly column: number;
  readonly style: number;
  readonly value: string | number | boolean;
  readonly isError?: boolean;
  /** Runs of rich text, where there is more than one. */
  readonly runs?: readonly { readonly text: string; readonly font: CellFont | undefined }[];
}

export interface PrintRow {
  /** Height as stored, in points. */
  readonly heightPt: number | undefined;
  readonly hidden: boolean;
  /** The height was set by hand and does not follow the text. */
  readonly custom: boolean;
  readonly style: number | undefined;
}

export interface PageSetup {
  readonly paper: number;
  readonly landscape: boolean;
  /** Per cent, 100 for life size. */
  readonly scale: number;
  readonly fit: { readonly width: number; readonly height: number } | undefined;
  /** In inches. */
  readonly margins: {
    readonly left: number;
    readonly right: number;
    readonly top: number;
    readonly bottom: number;
    readonly header: number;
    readonly footer: number;
  };
  readonly centerHorizontally: boolean;
  readonly centerVertically: boolean;
  readonly gridLines: boolean;
  /** Row numbers and column letters. */
  readonly headings: boolean;
  readonly acrossFirst: boolean;
  readonly firstPage: number | undefined;
  readonly headers: Record<HeaderKind, string | undefined>;
  readonly footers: Record<HeaderKind, string | undefined>;
}

/** Pages that can have headers and footers of their own. */
export type HeaderKind = "odd" | "even" | "first";

export interface PrintSheet {
  readonly info: SheetInfo;
  readonly cells: ReadonlyMap<number, ReadonlyMap<number, PrintCell>>;
  readonly rows: ReadonlyMap<number, PrintRow>;
  readonly columns: readonly {
    readonly from: number;
    readonly to: number;
    readonly width: number;
    readonly hidden: boolean;
    readonly style: number | undefined;
  }[];
  readonly defaultRowPt: number;
  readonly defaultColumn: number | undefined;
  readonly merged: readonly CellRange[];
  readonly rowBreaks: ReadonlySet<number>;
  readonly columnBreaks: ReadonlySet<number>;
  readonly setup: PageSetup;
  readonly areas: readonly CellRange[];
  readonly titleRows: { readonly from: number; readonly to: number } | undefined;
  readonly titleColumns: { readonly from: number; readonly to: number } | undefined;
  readonly drawings: readonly SheetDrawing[];
  /** What rules make of cells, and tables of theirs. */
  readonly ruled: RuledCells;
  readonly tableLooks: TableLooks;
  readonly sparklines: Sparklines;
  readonly headerPictures: HeaderPictures;
  readonly links: readonly { readonly range: CellRange; readonly target: string }[];
  readonly findings: readonly Finding[];
}

/** `now` is the day, as a serial, that rules take for today. */
export function readPrintSheet(workbook: Workbook, info: SheetInfo, index: number, now: number): PrintSheet {
  const opened = workbook.package;
  const where = say().place.sheetIn({ where: opened.where, name: info.name });
  const source = opened.getText(info.part);
  // Only what stands around the cells becomes a tree; the cells themselves are scanned.
  const data = /<(?:\w+:)?sheetData(?:\s[^>]*)?(?:\/>|>[\s\S]*<\/(?:\w+:)?sheetData>)/;
  const root = parseXml(source.replace(data, ""), where).root;
  const findings: Finding[] = [];
  const { cells, rows } = readCells(workbook, info, where);
  const { drawings, findings: drawn } = readDrawings(workbook, info, where);
  const { looks, unknown } = applyRules(workbook, index, root, cells, now);
  findings.push(...drawn, ...notDrawn(where, unknown));
  const titles = printTitles(workbook, index);
  const format = root.child("sheetFormatPr");
  return {
    info,
    cells,
    rows,
    columns: (root.child("cols")?.elements("col") ?? []).map((column) => ({
      from: Number(column.attr("min")) - 1,
      to: Number(column.attr("max")) - 1,
      width: Number(column.attr("width") ?? 8.43),
      hidden: isTrue(column.attr("hidden")),
      style: column.attr("style") === undefined ? undefined : Number(column.attr("style")),
    })),
    defaultRowPt: Number(format?.attr("defaultRowHeight") ?? 15),
    defaultColumn: format?.attr("defaultColWidth") === undefined ? undefined : Number(format.attr("defaultColWidth")),
    merged: (root.child("mergeCells")?.elements("mergeCell") ?? []).flatMap(
      (cell) => maybeRange(cell.attr("ref") ?? "") ?? [],
    ),
    rowBreaks: breaks(root.child("rowBreaks")),
    columnBreaks: breaks(root.child("colBreaks")),
    setup: readSetup(root),
    areas: printAreas(workbook, index),
    ...titles,
    drawings,
    ruled: looks,
    tableLooks: sheetTableLooks(workbook, info),
    sparklines: readSparklines(workbook, root),
    headerPictures: readHeaderPictures(opened, info),
    links: readLinks(workbook, info, root),
    findings,
  };
}

function readCells(
  workbook: Workbook,
  info: SheetInfo,
  where: string,
): { cells: Map<number, Map<number, PrintCell>>; rows: Map<number, PrintRow> } {
  const cells = new Map<number, Map<number, PrintCell>>();
  const rows = new Map<number, PrintRow>();
  const rich = richCells(workbook, info);
  scanCells(
    workbook.package.getBytes(info.part),
    (cell) => {
      // A cell without content still shows fill and borders.
      const value = readValue(workbook, cell.type, cell.value) ?? (cell.style > 0 ? "" : undefined);
      if (value === undefined) return;
      const row = cells.get(cell.row) ?? new Map<number, PrintCell>();
      cells.set(cell.row, row);
      const runs =
        cell.type === "s"
          ? rich.shared(Number(cell.value))
          : cell.type === "inlineStr"
            ? rich.inline(cell.row, cell.column)
            : undefined;
      row.set(cell.column, {
        row: cell.row,
        column: cell.column,
        style: cell.style,
        value,
        ...(cell.type === "e" ? { isError: true } : {}),
        ...(runs ? { runs } : {}),
      });
    },
    (row, tag) => {
      const attribute = (name: string): string | undefined => new RegExp(`\\s${name}="([^"]*)"`).exec(tag)?.[1];
      const height = attribute("ht");
      rows.set(row, {
        heightPt: height === undefined ? undefined : Number(height),
        hidden: isTrue(attribute("hidden")),
        custom: isTrue(attribute("customHeight")),
        style: isTrue(attribute("customFormat")) ? Number(attribute("s") ?? 0) : undefined,
      });
    },
    where,
  );
  addBlankStyled(workbook, info, cells);
  return { cells, rows };
}

/** Cells without content still show fill and borders. */
function addBlankStyled(workbook: Workbook, info: SheetInfo, cells: Map<number, Map<number, PrintCell>>): void {
  const source = workbook.package.getText(info.part);
  for (const match of source.matchAll(/<(?:\w+:)?c\s([^>]*?)\/>/g)) {
    const place = /(?:^|\s)r="([A-Z]+)(\d+)"/.exec(match[1]);
    const style = /(?:^|\s)s="(\d+)"/.exec(match[1]);
    if (!place || !style) continue;
    const range = maybeRange(place[1] + place[2]);
    if (!range) continue;
    const row = cells.get(range.top) ?? new Map<number, PrintCell>();
    cells.set(range.top, row);
    if (!row.has(range.left))
      row.set(range.left, { row: range.top, column: range.left, style: Number(style[1]), value: "" });
  }
}

function readValue(workbook: Workbook, type: string, value: string | undefined): string | number | boolean | undefined {
  if (value === undefined) return undefined;
  switch (type) {
    case "s":
      return workbook.sharedStrings[Number(value)] ?? "";
    case "str":
    case "inlineStr":
    case "e":
    case "d":
      return value;
    case "b":
      return value === "1" || value === "true";
    default:
      return value === "" ? undefined : Number(value);
  }
}

type Runs = NonNullable<PrintCell["runs"]>;

/** Rich text of shared and inline strings, read only where a string has runs. */
function richCells(
  workbook: Workbook,
  info: SheetInfo,
): { shared: (index: number) => Runs | undefined; inline: (row: number, column: number) => Runs | undefined } {
  const opened = workbook.package;
  const part = opened.relationships(workbook.part).find((relation) => relation.type === "sharedStrings")?.target;
  const hasShared = part !== undefined && opened.has(part) && /<(?:\w+:)?r>/.test(opened.getText(part));
  const items = hasShared ? opened.getXml(part).elements("si") : [];
  const inline = new Map<string, Runs>();
  const source = opened.getText(info.part);
  for (const match of source.matchAll(
    /<(?:\w+:)?c\s[^>]*?r="([A-Z]+\d+)"[^>]*>\s*(<(?:\w+:)?is>\s*<(?:\w+:)?r>[\s\S]*?<\/(?:\w+:)?is>)/g,
  )) {
    const root = parseXml(match[2], info.name).root;
    const runs = readRuns(root, workbook);
    if (runs) inline.set(match[1], runs);
  }
  return {
    shared: (index) => (items[index] ? readRuns(items[index], workbook) : undefined),
    inline: (row, column) => inline.get(cellName(row, column)),
  };
}

function readRuns(item: XmlElement, workbook: Workbook): Runs | undefined {
  const runs = item.elements("r");
  if (runs.length === 0) return undefined;
  return runs.map((run) => {
    const properties = run.child("rPr");
    return {
      text: run.child("t")?.text ?? "",
      font: properties ? readCellFont(properties, workbook.theme) : undefined,
    };
  });
}

function readSetup(root: XmlElement): PageSetup {
  const setup = root.child("pageSetup");
  const margins = root.child("pageMargins");
  const options = root.child("printOptions");
  const header = root.child("headerFooter");
  const margin = (name: string, standard: number): number => Number(margins?.attr(name) ?? standard);
  const fits = isTrue(root.path("sheetPr", "pageSetUpPr")?.attr("fitToPage"));
  return {
    paper: Number(setup?.attr("paperSize") ?? 9),
    landscape: (setup?.attr("orientation") ?? (root.local === "chartsheet" ? "landscape" : "")) === "landscape",
    scale: Number(setup?.attr("scale") ?? 100),
    fit: fits
      ? { width: Number(setup?.attr("fitToWidth") ?? 1), height: Number(setup?.attr("fitToHeight") ?? 1) }
      : undefined,
    margins: {
      left: margin("left", 0.7),
      right: margin("right", 0.7),
      top: margin("top", 0.75),
      bottom: margin("bottom", 0.75),
      header: margin("header", 0.3),
      footer: margin("footer", 0.3),
    },
    centerHorizontally: isTrue(options?.attr("horizontalCentered")),
    centerVertically: isTrue(options?.attr("verticalCentered")),
    gridLines: isTrue(options?.attr("gridLines")),
    headings: isTrue(options?.attr("headings")),
    acrossFirst: setup?.attr("pageOrder") === "overThenDown",
    firstPage: isTrue(setup?.attr("useFirstPageNumber")) ? Number(setup?.attr("firstPageNumber") ?? 1) : undefined,
    headers: headerTexts(header, "Header"),
    footers: headerTexts(header, "Footer"),
  };
}

/** Texts by the pages they stand on; `undefined` where those of odd pages stand there too. */
function headerTexts(element: XmlElement | undefined, part: "Header" | "Footer"): PageSetup["headers"] {
  const text = (kind: HeaderKind): string => element?.child(`${kind}${part}`)?.text ?? "";
  return {
    odd: text("odd"),
    even: isTrue(element?.attr("differentOddEven")) ? text("even") : undefined,
    first: isTrue(element?.attr("differentFirst")) ? text("first") : undefined,
  };
}

function breaks(element: XmlElement | undefined): Set<number> {
  return new Set((element?.elements("brk") ?? []).map((brk) => Number(brk.attr("id"))));
}

function ownName(workbook: Workbook, index: number, name: string): string | undefined {
  return workbook.names.find((entry) => entry.sheet === index && entry.name === name)?.formula;
}

function printAreas(workbook: Workbook, index: number): CellRange[] {
  const formula = ownName(workbook, index, "_xlnm.Print_Area");
  return formula === undefined ? [] : splitList(formula).flatMap((part) => maybeRange(splitSheet(part).rest) ?? []);
}

function printTitles(workbook: Workbook, index: number): Pick<PrintSheet, "titleRows" | "titleColumns"> {
  const parts = splitList(ownName(workbook, index, "_xlnm.Print_Titles") ?? "").map((part) =>
    splitSheet(part).rest.replaceAll("$", ""),
  );
  const rows = parts.map((part) => /^(\d+):(\d+)$/.exec(part)).find((match) => match !== null);
  const columns = parts.filter((part) => /^[A-Z]+:[A-Z]+$/.test(part)).flatMap((part) => maybeRange(part) ?? [])[0];
  return {
    titleRows: rows ? { from: Number(rows[1]) - 1, to: Number(rows[2]) - 1 } : undefined,
    titleColumns: columns ? { from: columns.left, to: columns.right } : undefined,
  };
}

/** Commas outside of quoted sheet names. */
function splitList(formula: string): string[] {
  return formula === "" ? [] : (formula.match(/(?:'(?:[^']|'')*'|[^,'])+/g) ?? []);
}

function readLinks(workbook: Workbook, info: SheetInfo, root: XmlElement): PrintSheet["links"] {
  const relations = workbook.package.relationships(info.part);
  return (root.child("hyperlinks")?.elements("hyperlink") ?? []).flatMap((link) => {
    const id = [...link.attributes].find(([name]) => name.endsWith(":id"))?.[1];
    const target = relations.find((relation) => relation.id === id && relation.external)?.target;
    const range = maybeRange(link.attr("ref") ?? "");
    return target && range ? [{ range, target }] : [];
  });
}

/** Rules of kinds that are not known. */
function notDrawn(where: string, rules: readonly string[]): Finding[] {
  if (rules.length === 0) return [];
  return [
    {
      code: "not-drawn",
      severity: "warn",
      where,
      what: say().layout.pdfDoesShowConditionalFormats({ rules: rules.join(", ") }),
      advice: say().layout.lookPageWorkbookItself(),
    },
  ];
}
