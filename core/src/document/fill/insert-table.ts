/** A whole table of the lines where `{{table line …}}` stands: headings, a row for each line, totals; in the template's style. */

import { CorbixError, Exact, readMeasure, suggestName } from "../../common/index.js";
import { type Env, isEmpty, parseField, type Scope, showValue, type TextField } from "../../expression/index.js";
import { escapeXml, type OoxmlPackage, type XmlElement } from "../../ooxml/index.js";
import type { ColumnInfo } from "../../table/index.js";
import {
  type BoundStructure,
  bindField,
  bindStructure,
  capitalise,
  columnsOf,
  lineField,
  repetitions,
  withPlace,
} from "../../template/index.js";
import { say } from "../../words/index.js";
import { runText } from "../template/run-text.js";
import type { TablePiece } from "../template/template-nodes.js";

/** How tables of a document look: taken from its first table, else plain lines. Widths in twentieths of a point. */
export interface TableLooks {
  readonly width: number;
  /** `tblPr` without what belongs to the first table alone. */
  readonly table: string;
  readonly head: RowLooks;
  readonly line: RowLooks;
  /** Table styles by name, as readers see it, with their ids. */
  readonly styles: ReadonlyMap<string, string>;
}

interface RowLooks {
  readonly cell: string;
  readonly paragraph: string;
  readonly run: string;
}

interface BoundColumn {
  readonly heading: string;
  readonly field: TextField;
  readonly total: boolean;
  readonly isNumber: boolean;
}

export interface BoundTable {
  readonly columns: readonly BoundColumn[];
  readonly bound: BoundStructure;
  readonly looks: TableLooks;
  readonly properties: string;
  readonly where: string;
}

/** Room beside a cell's text, in twentieths of a point. */
const MARGINS = 216;
/** Width of a character beside the text's size. */
const CHARACTER = 0.53;
const MEASURED_LINES = 2_000;
const WIDEST_CHARACTERS = 60;
const NARROWEST_CHARACTERS = 4;

/** Throws `BAD_EXPRESSION` for an unknown column, `BAD_MARK` for an unknown style, with the place. */
export function bindTable({ structure, where }: TablePiece, scope: Scope, looks: TableLooks): BoundTable {
  const { lines } = structure;
  const structured = bindStructure(structure, scope, where);
  const wanted =
    structure.columns ??
    columnsOf(lines, scope).map((column) => ({
      heading: capitalise(column.name),
      field: parseField(`${lineField(lines, column.name)}${formatOf(column)}`),
      total: false,
    }));
  const columns = wanted.map(({ heading, field, total }): BoundColumn => {
    const bound = bindField(field, scope, where);
    if (!bound.needs.has(lines))
      throw new CorbixError("BAD_MARK", say().document.cannotUseColumnFieldLine({ source: field.source }), {
        where,
        advice: say().document.nameColumnLinesSuchUnit({ lines }),
      });
    return { heading, field: bound, total, isNumber: bound.type === "number" };
  });
  const { style } = structure;
  const id = style === undefined ? undefined : looks.styles.get(style.toLowerCase());
  if (style !== undefined && id === undefined)
    throw new CorbixError("BAD_MARK", say().document.cannotFindTableStyle({ style }), {
      where,
      advice: suggestName(style, [...looks.styles.keys()], say().document.tableStyles()),
    });
  return {
    columns,
    bound: structured,
    looks: id === undefined ? looks : { ...looks, head: PLAIN_HEAD, line: PLAIN_LINE },
    properties: id === undefined ? looks.table : `<w:tblStyle w:val="${escapeXml(id)}"/>`,
    where,
  };
}

function formatOf({ type, unit }: ColumnInfo): string {
  if (type === "date") return ' as "dd/mm/yyyy"';
  if (type !== "number" || unit === undefined) return "";
  return unit === "%" ? ' as "0.0%"' : ' as "#,##0.00"';
}

/** The table as XML. Without lines it has its headings only. */
export function writeTable(table: BoundTable, env: Env): string {
  const { columns, looks } = table;
  const lines = repetitions(table.bound, env);
  const texts = withPlace(table.where, () => lines.map((line) => columns.map(({ field }) => field.show(line))));
  const totals = columns.some((column) => column.total)
    ? columns.map((column, index) => (column.total ? totalOf(column, lines, env.locale) : index === 0 ? "Total" : ""))
    : undefined;
  const { widths, size, isTooWide } = columnWidths(columns, texts, totals, looks.width);
  if (isTooWide) tellWidth(table, env);
  const row = (cells: readonly string[], own: RowLooks, isHead: boolean, extra = ""): string =>
    `<w:tr><w:trPr><w:cantSplit/>${isHead ? "<w:tblHeader/>" : ""}</w:trPr>${cells
      .map((text, at) => cell(text, widths[at], sized(own, size), columns[at].isNumber, extra))
      .join("")}</w:tr>`;
  const rows = [
    row(
      columns.map(({ heading }) => heading),
      looks.head,
      true,
    ),
    ...texts.map((line) => row(line, looks.line, false)),
    ...(totals ? [row(totals, { ...looks.line, run: bold(looks.line.run) }, false, TOTAL_LINE)] : []),
  ];
  const total = widths.reduce((sum, width) => sum + width, 0);
  return `<w:tbl><w:tblPr>${inOrder(table.properties, total)}</w:tblPr><w:tblGrid>${widths.map((width) => `<w:gridCol w:w="${width}"/>`).join("")}</w:tblGrid>${rows.join("")}</w:tbl><w:p><w:pPr><w:spacing w:before="0" w:after="0"/></w:pPr></w:p>`;
}

const TOTAL_LINE = '<w:top w:val="single" w:sz="8" w:space="0" w:color="auto"/>';

function totalOf(column: BoundColumn, lines: readonly Env[], locale: string): string {
  let sum = new Exact(0);
  for (const line of lines) {
    const value = column.field.evaluate(line);
    if (value instanceof Exact) sum = sum.plus(value);
    else if (!isEmpty(value)) return "";
  }
  return showValue(sum, column.field.format, locale);
}

/** Width and layout where the schema wants them, between what precedes and follows them (17.4.59). */
function inOrder(properties: string, width: number): string {
  const first = /^(?:<w:tblStyle [^>]*\/>)?/.exec(properties)?.[0] ?? "";
  const rest = properties.slice(first.length);
  const late = rest.search(/<w:(?:tblCellMar|tblLook|tblCaption|tblDescription)\b/);
  const [middle, end] = late < 0 ? [rest, ""] : [rest.slice(0, late), rest.slice(late)];
  return `${first}<w:tblW w:w="${width}" w:type="dxa"/>${middle}<w:tblLayout w:type="fixed"/>${end || '<w:tblLook w:val="0420" w:firstRow="1" w:lastRow="0" w:firstColumn="0" w:lastColumn="0" w:noHBand="0" w:noVBand="1"/>'}`;
}

function cell(text: string, width: number, looks: RowLooks, isNumber: boolean, border: string): string {
  const borders = border === "" ? looks.cell : withBorder(looks.cell, border);
  const paragraph = `<w:pPr>${looks.paragraph}${isNumber ? '<w:jc w:val="right"/>' : ""}</w:pPr>`;
  const run = text === "" ? "" : `<w:r>${looks.run}<w:t xml:space="preserve">${runText(text, "w:")}</w:t></w:r>`;
  return `<w:tc><w:tcPr><w:tcW w:w="${width}" w:type="dxa"/>${borders}</w:tcPr><w:p>${paragraph}${run}</w:p></w:tc>`;
}

function withBorder(cell: string, border: string): string {
  const own = /<w:tcBorders>([\s\S]*?)<\/w:tcBorders>/.exec(cell);
  if (!own) return `<w:tcBorders>${border}</w:tcBorders>${cell}`;
  return cell.replace(own[0], `<w:tcBorders>${border}${own[1].replace(/<w:top [^>]*\/>/, "")}</w:tcBorders>`);
}

function bold(run: string): string {
  if (run === "") return "<w:rPr><w:b/></w:rPr>";
  return /<w:b\/>/.test(run) ? run : run.replace(/^(<w:rPr>(?:<w:rStyle[^>]*\/>)?(?:<w:rFonts[^>]*\/>)?)/, "$1<w:b/>");
}

/** Words stay whole: where they do not at the usual size, the text is smaller. */
interface ColumnWidths {
  readonly widths: number[];
  /** In points; `undefined` where the usual one will do. */
  readonly size: number | undefined;
  /** Whether words break even at the smallest size. */
  readonly isTooWide: boolean;
}

/** Text smaller than this is not read. */
const SMALLEST = 6;

function sized(looks: RowLooks, size: number | undefined): RowLooks {
  if (size === undefined) return looks;
  const sz = `<w:sz w:val="${Math.round(size * 2)}"/>`;
  const run = looks.run === "" ? `<w:rPr>${sz}</w:rPr>` : withSize(looks.run, sz);
  return { ...looks, run };
}

/** The size where the schema wants it (17.3.2.28): behind colours and spacing, before what underlines and marks. */
function withSize(run: string, sz: string): string {
  const plain = run.replace(/<w:sz(?:Cs)? [^>]*\/>/g, "");
  const late = plain.search(
    /<w:(?:highlight|u|effect|bdr|shd|fitText|vertAlign|rtl|cs|em|lang|eastAsianLayout|specVanish|oMath)\b/,
  );
  const at = late < 0 ? plain.lastIndexOf("</w:rPr>") : late;
  return plain.slice(0, at) + sz + plain.slice(at);
}

function tellWidth({ where, columns }: BoundTable, env: Env): void {
  env.onNote?.({
    code: "table-too-wide",
    severity: "warn",
    where,
    what: say().document.tableColumnsDoFitBeside({ columnCount: columns.length }),
    advice: say().document.nameFewerColumnsTurnPage(),
  });
}

/** As wide as their texts need, spread over the page's width, and no narrower than their longest word where that can be. */
function columnWidths(
  columns: readonly BoundColumn[],
  texts: readonly (readonly string[])[],
  totals: readonly string[] | undefined,
  width: number,
): ColumnWidths {
  const all = [columns.map((column) => column.heading), ...(totals ? [totals] : []), ...texts.slice(0, MEASURED_LINES)];
  const words = columns.map((_, at) =>
    all.reduce((most, line) => Math.max(most, ...line[at].split(/[\s-]+/).map((word) => word.length)), 1),
  );
  const room = (size: number): number[] => words.map((count) => count * CHARACTER * size * 20 + MARGINS);
  const isTight = sumOf(room(SIZE)) > width;
  const fitting = (width - columns.length * MARGINS) / (sumOf(words) * CHARACTER * 20);
  const size = isTight ? Math.max(SMALLEST, Math.floor(fitting * 2) / 2) : undefined;
  const needed = columns.map((column, at) => {
    let longest = column.heading.length;
    for (const line of totals ? [totals, ...texts.slice(0, MEASURED_LINES)] : texts.slice(0, MEASURED_LINES))
      for (const part of line[at].split("\n")) longest = Math.max(longest, part.length);
    return Math.min(WIDEST_CHARACTERS, Math.max(NARROWEST_CHARACTERS, longest));
  });
  const wanted = needed.map((count) => count * CHARACTER * SIZE * 20 + MARGINS);
  const least = room(size ?? SIZE);
  const shared = wanted.map((one) => (one / sumOf(wanted)) * width);
  const parts = shared.every((one, at) => one >= least[at]) ? shared : sharedBeyond(least, wanted, width);
  const widths = parts.map((one) => Math.floor((one / sumOf(parts)) * width));
  widths[widths.length - 1] += width - sumOf(widths);
  return { widths, size, isTooWide: isTight && fitting < SMALLEST };
}

/** The longest words first, and what is left of the width to the columns that want more. */
function sharedBeyond(least: readonly number[], wanted: readonly number[], width: number): number[] {
  const free = width - sumOf(least);
  const more = wanted.map((one, at) => Math.max(0, one - least[at]));
  if (free <= 0 || sumOf(more) === 0) return [...least];
  return least.map((one, at) => one + (free * more[at]) / sumOf(more));
}

function sumOf(some: readonly number[]): number {
  return some.reduce((total, one) => total + one, 0);
}

/** Usual size of text in tables, in points. */
const SIZE = 10;

const LINES = ["top", "left", "bottom", "right", "insideH", "insideV"]
  .map((side) => `<w:${side} w:val="single" w:sz="4" w:space="0" w:color="A6B2B2"/>`)
  .join("");
const NO_GAPS = '<w:spacing w:before="20" w:after="20" w:line="240" w:lineRule="auto"/>';
const PLAIN_HEAD: RowLooks = { cell: "", paragraph: `<w:keepNext/>${NO_GAPS}`, run: "<w:rPr><w:b/></w:rPr>" };
const PLAIN_LINE: RowLooks = { cell: "", paragraph: NO_GAPS, run: "" };

/** What tables made anew look like in a document. */
export function documentTableLooks(opened: OoxmlPackage, part: string): TableLooks {
  const body = opened.getXml(part).child("body");
  const section = body?.child("sectPr");
  const twips = (element: XmlElement | undefined, name: string, standard: number): number =>
    Math.round((readMeasure(element?.attr(`w:${name}`), 20) ?? standard / 20) * 20);
  const size = section?.child("pgSz");
  const margins = section?.child("pgMar");
  const width = twips(size, "w", 11906) - twips(margins, "left", 1440) - twips(margins, "right", 1440);
  const styles = new Map<string, string>();
  const stylesPart = opened.relationships(part).find(({ type }) => type === "styles")?.target;
  for (const style of stylesPart ? (opened.maybeXml(stylesPart)?.elements("style") ?? []) : [])
    if (style.attr("w:type") === "table")
      styles.set((style.child("name")?.attr("w:val") ?? "").toLowerCase(), style.attr("w:styleId") ?? "");
  const first = body?.descendants("tbl").find((table) => table.elements("tr").length > 1);
  const rows = first?.elements("tr") ?? [];
  return {
    width,
    styles,
    table: first
      ? (first.child("tblPr")?.elements() ?? [])
          .filter((one) => !NOT_SHARED.has(one.local))
          .map((one) => one.toString())
          .join("")
      : `<w:tblBorders>${LINES}</w:tblBorders>`,
    head: first ? rowLooks(rows[0]) : { ...PLAIN_HEAD, cell: '<w:shd w:val="clear" w:color="auto" w:fill="E3ECEC"/>' },
    line: first ? rowLooks(rows[1]) : PLAIN_LINE,
  };
}

const NOT_SHARED = new Set([
  "tblW",
  "tblInd",
  "tblLayout",
  "tblpPr",
  "tblOverlap",
  "tblCaption",
  "tblDescription",
  "jc",
]);
const OF_CELLS = ["tcBorders", "shd", "noWrap", "tcMar", "vAlign"];
const OF_PARAGRAPHS = ["pStyle", "keepNext", "spacing"];

function rowLooks(row: XmlElement): RowLooks {
  const cell = row.child("tc");
  const paragraph = cell?.child("p");
  const chosen = (parent: XmlElement | undefined, names: readonly string[]): string =>
    (parent?.elements() ?? [])
      .filter((one) => names.includes(one.local))
      .map((one) => one.toString())
      .join("");
  return {
    cell: chosen(cell?.child("tcPr"), OF_CELLS),
    paragraph: chosen(paragraph?.child("pPr"), OF_PARAGRAPHS),
    run: (paragraph?.child("r")?.child("rPr") ?? undefined)?.toString() ?? "",
  };
}
