import { type Field, neededLines } from "../../expression/index.js";
import { CellError, type CompiledFormula, compileFormula, type Scalar } from "../../formula/index.js";
import { parseXml, type XmlDocument, type XmlElement } from "../../ooxml/index.js";
import { cellName, maybeCell, maybeRange, type SheetInfo, type Workbook } from "../../spreadsheet/index.js";
import {
  cutMarks,
  cutStructures,
  gatherMarks,
  hasMarks,
  parseMark,
  parseTextTemplate,
  type TextTemplate,
} from "../../template/index.js";
import { say } from "../../words/index.js";
import { type FormulaText, parseFormulaText, shiftFormula } from "./formula-text.js";
import { type PlacedStructure, type RowOfLines, readSections, type SheetStructure } from "./sections.js";

export type CellContent =
  | { readonly kind: "raw"; readonly type: string; readonly inner: string; readonly value: Scalar }
  | {
      readonly kind: "formula";
      readonly text: FormulaText;
      readonly compiled: CompiledFormula;
      readonly stored: Scalar;
      readonly array?: ArrayFormula | undefined;
    }
  /** A formula of a kind that is passed through with its stored value: data tables. */
  | {
      readonly kind: "kept-formula";
      readonly type: string;
      readonly inner: string;
      readonly value: Scalar;
      readonly what: string;
    }
  | { readonly kind: "value"; readonly field: Field }
  | { readonly kind: "text"; readonly template: TextTemplate }
  | {
      readonly kind: "rich";
      readonly runs: readonly { readonly properties: string; readonly template: TextTemplate }[];
    };

/** A formula that fills several cells: the last of them in the template. */
export interface ArrayFormula {
  readonly bottom: number;
  readonly right: number;
  /** It takes as many cells as it has values; otherwise exactly these. */
  readonly isFree: boolean;
}

export interface TemplateCell {
  readonly column: number;
  readonly style: number;
  /** Attributes other than `r`, `s` and `t`, as written with a blank before each. */
  readonly attributes: string;
  readonly content: CellContent;
  /** The array formula whose value the cell holds. */
  readonly coveredBy?: (CellContent & { kind: "formula" }) | undefined;
}

export interface TemplateRow {
  readonly row: number;
  /** Attributes other than `r`, as written with a blank before each. */
  readonly attributes: string;
  readonly cells: readonly TemplateCell[];
}

export interface TemplateSheet {
  readonly info: SheetInfo;
  readonly index: number;
  readonly document: XmlDocument;
  /** Prefix of the sheet's own elements, `x:` or nothing. */
  readonly prefix: string;
  readonly rows: readonly TemplateRow[];
  readonly structure: SheetStructure;
  readonly hasMarks: boolean;
}

/** How a template is read. */
export interface TemplateReading {
  /** Takes marks as any other text, for moving rows beforehand. */
  readonly literal?: boolean | undefined;
  /** Folded names of lines beside the group's own. */
  readonly further?: readonly string[] | undefined;
}

/** Reads a sheet for filling. Throws `BAD_MARK` with sheet and cell. */
export function readTemplateSheet(
  workbook: Workbook,
  info: SheetInfo,
  index: number,
  { literal = false, further = [] }: TemplateReading = {},
): TemplateSheet {
  const where = say().place.sheetIn({ where: workbook.package.where, name: info.name });
  const document = parseXml(workbook.package.getText(info.part), where);
  const { root } = document;
  const prefix = root.prefix;
  const shared = new Map<string, { formula: string; row: number; column: number }>();
  const strings = richStrings(workbook);
  const structures: PlacedStructure[] = [];
  const arrays: (CellContent & { kind: "formula" })[] = [];
  const origins: { row: number; column: number }[] = [];
  let last = -1;
  const rows = (root.child("sheetData")?.elements("row") ?? []).map((row): TemplateRow => {
    const number = row.attr("r") === undefined ? last + 1 : Number(row.attr("r")) - 1;
    last = number;
    let column = -1;
    const cells = row.elements("c").map((cell): TemplateCell => {
      const place = maybeCell(cell.attr("r") ?? "");
      column = place?.column ?? column + 1;
      const content = readContent(cell, { row: number, column, shared, strings, structures, workbook, where, literal });
      const coveredBy = arrays.find(
        ({ array }, at) =>
          array &&
          number >= origins[at].row &&
          number <= array.bottom &&
          column >= origins[at].column &&
          column <= array.right,
      );
      if (content.kind === "formula" && content.array) {
        arrays.push(content);
        origins.push({ row: number, column });
      }
      return {
        column,
        style: Number(cell.attr("s") ?? 0),
        attributes: otherAttributes(cell, ["r", "s", "t"]),
        content,
        ...(coveredBy && content.kind !== "formula" ? { coveredBy } : {}),
      };
    });
    return { row: number, attributes: otherAttributes(row, ["r"]), cells };
  });
  const emptied = new Set(
    structures
      .map(({ row }) => row)
      .filter((row) => rows.find((one) => one.row === row)?.cells.every(({ content }) => isBlank(content))),
  );
  const structure = readSections(structures, rowsOfLines(rows, further), emptied, where);
  return {
    info,
    index,
    document,
    prefix,
    rows,
    structure,
    hasMarks: structures.length > 0 || rows.some((row) => row.cells.some((cell) => isMarked(cell.content))),
  };
}

function isMarked(content: CellContent): boolean {
  return content.kind === "value" || content.kind === "text" || content.kind === "rich";
}

/** The fields of a cell. */
export function fieldsOf(content: CellContent): readonly Field[] {
  if (content.kind === "value") return [content.field];
  if (content.kind === "text") return content.template.fields;
  return content.kind === "rich" ? content.runs.flatMap((run) => run.template.fields) : [];
}

function isBlank(content: CellContent): boolean {
  return content.kind === "raw" && content.inner === "";
}

function rowsOfLines(rows: readonly TemplateRow[], further: readonly string[]): RowOfLines[] {
  const found: RowOfLines[] = [];
  for (const { row, cells } of rows)
    for (const { content } of cells)
      for (const field of fieldsOf(content))
        for (const lines of neededLines(field.ast, further))
          if (!found.some((one) => one.row === row && one.lines === lines)) found.push({ row, lines });
  return found;
}

function otherAttributes(element: XmlElement, without: readonly string[]): string {
  let written = "";
  for (const match of element.open.matchAll(/\s([^\s=/>]+)\s*=\s*("[^"]*"|'[^']*')/g))
    if (!without.includes(match[1])) written += ` ${match[1]}=${match[2]}`;
  return written;
}

interface SheetReading {
  readonly row: number;
  readonly column: number;
  readonly shared: Map<string, { formula: string; row: number; column: number }>;
  readonly strings: readonly XmlElement[];
  /** Where marks of structure are put down. */
  readonly structures: PlacedStructure[];
  readonly workbook: Workbook;
  readonly where: string;
  readonly literal: boolean;
}

function readContent(cell: XmlElement, reading: SheetReading): CellContent {
  const type = cell.attr("t") ?? "n";
  const stored = storedValue(cell, type, reading.workbook);
  const formula = cell.child("f");
  if (formula) return readFormula(cell, formula, type, stored, reading);
  const item =
    type === "s" ? reading.strings[Number(cell.child("v")?.text)] : type === "inlineStr" ? cell.child("is") : undefined;
  const text = typeof stored === "string" ? stored : "";
  if (!reading.literal && hasMarks(text)) return readMarks(item, text, reading);
  const inner = cell.children.map((child) => (child.kind === "element" ? child.toString() : child.raw)).join("");
  return { kind: "raw", type, inner, value: stored };
}

function readFormula(
  cell: XmlElement,
  formula: XmlElement,
  type: string,
  stored: Scalar,
  reading: SheetReading,
): CellContent {
  const kind = formula.attr("t") ?? "normal";
  if (kind === "dataTable") {
    const inner = cell.children.map((child) => (child.kind === "element" ? child.toString() : child.raw)).join("");
    return { kind: "kept-formula", type, inner, value: stored, what: say().workbook.dataTable() };
  }
  if (kind === "array") {
    const range = maybeRange(formula.attr("ref") ?? "");
    return {
      kind: "formula",
      text: parseFormulaText(formula.text),
      compiled: compileFormula(formula.text, "array"),
      stored,
      // Cells with metadata hold formulas whose results take the room they need (18.9, MS-XLSX 2.4.42).
      array: {
        bottom: range?.bottom ?? reading.row,
        right: range?.right ?? reading.column,
        isFree: cell.attr("cm") !== undefined,
      },
    };
  }
  let source = formula.text;
  const id = formula.attr("si");
  if (kind === "shared" && id !== undefined) {
    const master = reading.shared.get(id);
    if (source !== "") reading.shared.set(id, { formula: source, row: reading.row, column: reading.column });
    else if (master) source = shiftFormula(master.formula, reading.row - master.row, reading.column - master.column);
  }
  return { kind: "formula", text: parseFormulaText(source), compiled: compileFormula(source), stored };
}

function storedValue(cell: XmlElement, type: string, workbook: Workbook): Scalar {
  if (type === "inlineStr") return itemText(cell.child("is"));
  const value = cell.child("v")?.text;
  if (value === undefined) return null;
  switch (type) {
    case "s":
      return workbook.sharedStrings[Number(value)] ?? "";
    case "str":
    case "d":
      return value;
    case "b":
      return value === "1" || value === "true";
    case "e":
      return CellError.named(value);
    default:
      return value === "" ? null : Number(value);
  }
}

function itemText(item: XmlElement | undefined): string {
  if (!item) return "";
  return item
    .elements()
    .map((child) => (child.local === "t" ? child.text : child.local === "r" ? (child.child("t")?.text ?? "") : ""))
    .join("");
}

function readMarks(item: XmlElement | undefined, text: string, reading: SheetReading): CellContent {
  const where = say().place.cellIn({ where: reading.where, name: cellName(reading.row, reading.column) });
  const { structures, rest } = cutStructures(text, where);
  for (const structure of structures) reading.structures.push({ structure, row: reading.row, column: reading.column });
  if (rest.trim() === "") return { kind: "raw", type: "n", inner: "", value: null };
  const pieces = cutMarks(rest, where);
  if (pieces.length === 1 && pieces[0].kind === "mark")
    return { kind: "value", field: parseMark(pieces[0].source, where) };
  const runs = item?.elements("r") ?? [];
  if (runs.length < 2) return { kind: "text", template: parseTextTemplate(rest, where) };
  const texts = gatherMarks(runs.map((run) => run.child("t")?.text ?? ""));
  const plain = rest.replace(/\{\{[\s\S]*?\}\}/g, "");
  const filled = runs.map((run, index) => ({
    properties: run.child("rPr")?.toString() ?? "",
    template: parseTextTemplate(cutStructures(texts[index], where).rest, where, { around: plain }),
  }));
  return { kind: "rich", runs: filled.filter((run) => run.template.source !== "") };
}

function richStrings(workbook: Workbook): readonly XmlElement[] {
  const part = workbook.package
    .relationships(workbook.part)
    .find((relation) => relation.type === "sharedStrings")?.target;
  if (!part || !workbook.package.has(part)) return [];
  return workbook.package.getXml(part).elements("si");
}
