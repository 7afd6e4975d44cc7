/** A whole table of the lines where `{{table line …}}` stands: headings, a row for each line, totals; in the template's style. */

import { CorbixError, readMeasure, suggestName } from "../../common/index.js";
import type { Env, Scope } from "../../expression/index.js";
import { bindLineTable, columnWidths, type LineTable, shownLines, type TablePiece } from "../../marked/index.js";
import { escapeXml, type OoxmlPackage, type XmlElement } from "../../ooxml/index.js";
import { say } from "../../words/index.js";
import { runText } from "../template/word-text.js";

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

export interface BoundTable extends LineTable {
  readonly looks: TableLooks;
  readonly properties: string;
  readonly where: string;
}

/** Throws `BAD_EXPRESSION` for an unknown column, `BAD_MARK` for an unknown style, with the place. */
export function bindTable(
  { structure, where }: Pick<TablePiece, "structure" | "where">,
  scope: Scope,
  looks: TableLooks,
): BoundTable {
  const { style } = structure;
  const id = style === undefined ? undefined : looks.styles.get(style.toLowerCase());
  if (style !== undefined && id === undefined)
    throw new CorbixError("BAD_MARK", say().document.cannotFindTableStyle({ style }), {
      where,
      advice: suggestName(style, [...looks.styles.keys()], say().document.tableStyles()),
    });
  return {
    ...bindLineTable(structure, scope, where),
    looks: id === undefined ? looks : { ...looks, head: PLAIN_HEAD, line: PLAIN_LINE },
    properties: id === undefined ? looks.table : `<w:tblStyle w:val="${escapeXml(id)}"/>`,
    where,
  };
}

/** The table as XML. Without lines it has its headings only. */
export function writeTable(table: BoundTable, env: Env): string {
  const { columns, looks } = table;
  const { texts, totals } = shownLines(table, env);
  const { widths, size, isTooWide } = columnWidths(columns, texts, totals, { width: looks.width, size: SIZE });
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
