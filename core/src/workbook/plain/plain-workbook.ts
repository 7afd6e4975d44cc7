/**
 * A workbook without anybody's template: the group's lines as a real table (ECMA-376 part 1, 18.5) that can be sorted
 * and filtered. It is made as a template once and then filled as any other.
 */

import { CorbixError, columnKey, suggestName } from "../../common/index.js";
import { type Env, linesOf, type Scope } from "../../expression/index.js";
import { deflateEntry, escapeXml, OFFICE_RELATIONS, type OoxmlPackage, writeZip } from "../../ooxml/index.js";
import { columnLetters } from "../../spreadsheet/index.js";
import type { Column, ColumnInfo } from "../../table/index.js";
import { columnsOf, lineField, linesNamed } from "../../template/index.js";
import { say } from "../../words/index.js";
import type { BoundWorkbook, FilledWorkbook } from "../fill/fill.js";
import { WorkbookTemplate } from "../template/template.js";

export interface PlainWorkbookSpec {
  /** Name of the sheet; marks are filled. */
  readonly sheet: string;
  /** The lines it shows; the group's own if left out. */
  readonly lines?: string | undefined;
  /** A line above the table; marks are filled. */
  readonly title?: string | undefined;
  /** Columns in order; all, if none are named. */
  readonly columns?: readonly PlainColumn[] | undefined;
  /** Colour of the headings as six hexadecimal digits. */
  readonly colour: string;
  /** Name of a table style that workbooks know. */
  readonly style?: string | undefined;
  /** Ground of every other row, and of the totals, as six hexadecimal digits. */
  readonly bands?: string | undefined;
  readonly totalColour?: string | undefined;
  /** Heading of a last column with each line's sum. */
  readonly lineTotal?: string | undefined;
}

export type PlainColumn =
  | string
  | {
      readonly column: string;
      readonly heading?: string | undefined;
      /** Number format code of ECMA-376 part 1, 18.8.31. */
      readonly format?: string | undefined;
      readonly total?: "sum" | "count" | "average" | undefined;
    };

/** A column of a table as it is shown. */
export interface ShownColumn {
  readonly info: ColumnInfo;
  readonly index: number;
  readonly heading: string;
  readonly format: string;
  readonly total: "sum" | "count" | "average" | undefined;
  /** Of a column that adds up its line: the columns that count, by their place. */
  readonly adds?: readonly number[];
}

const FORMATS: Readonly<Record<ColumnInfo["type"], string>> = {
  text: "General",
  number: "General",
  boolean: "General",
  date: "dd/mm/yyyy",
  datetime: "dd/mm/yyyy hh:mm",
  time: "hh:mm",
};
/** Kinds of SUBTOTAL that pass over hidden and filtered rows: a total of what is in sight. */
export const SUBTOTAL = { sum: 109, count: 103, average: 101 } as const;
const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const PACKAGE = "http://schemas.openxmlformats.org/package/2006";
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const SHEET = "xl/worksheets/sheet1.xml";
const NARROWEST = 6;
const WIDEST = 60;
/** Of a column of sums, whose values are not known beforehand. */
const SUM_WIDTH = 16;
/** Rows that are looked at to find a column's width; the widest beyond them are cut off on screen only. */
const MEASURED_ROWS = 2000;
/** Stands in the made template where the widths go. */
const WIDTHS = "<cols><col/></cols>";

/** A workbook of this kind, bound to a report's columns. */
export class PlainWorkbook {
  private constructor(
    private readonly bound: BoundWorkbook,
    /** The template it is filled from. */
    readonly opened: OoxmlPackage,
    private readonly shown: readonly ShownColumn[],
    private readonly lines: string,
  ) {}

  /** Throws `BAD_DEFINITION` for an unknown column, `BAD_EXPRESSION` for a mark that does not fit. */
  static bind(spec: PlainWorkbookSpec, scope: Scope, where: string): PlainWorkbook {
    const lines = linesNamed(spec.lines, scope, where);
    const shown = withLineTotal(shownColumns(spec.columns, columnsOf(lines, scope), where), spec, where);
    const bytes = templateOf(spec, shown, lines);
    const template = WorkbookTemplate.read(bytes, where, { further: Object.keys(scope.further ?? {}) });
    return new PlainWorkbook(template.bind(scope), template.workbook.package, shown, lines);
  }

  fill(env: Env): FilledWorkbook {
    const filled = this.bound.fill(env);
    const sheet = this.withWidths(filled.package.getText(SHEET), env);
    return { ...filled, package: filled.package.with(new Map([[SHEET, sheet]])) };
  }

  /** A sheet's XML with columns as wide as its lines need. */
  withWidths(xml: string, env: Env): string {
    const { table, lines } = linesOf(env, this.lines);
    const widths = this.shown.map((column, at) => {
      const width = column.adds ? SUM_WIDTH : widthOf(column, table.columns[column.index], lines);
      return `<col min="${at + 1}" max="${at + 1}" width="${width}" customWidth="1"/>`;
    });
    return xml.replace(WIDTHS, `<cols>${widths.join("")}</cols>`);
  }
}

/** Throws `BAD_DEFINITION` for an unknown column, with near names. */
export function shownColumns(
  chosen: readonly PlainColumn[] | undefined,
  columns: readonly ColumnInfo[],
  where: string,
): ShownColumn[] {
  const wanted = chosen ?? columns.map((column) => column.name);
  const taken = new Set<string>();
  return wanted.map((one): ShownColumn => {
    const { column: name, heading, format, total } = typeof one === "string" ? { column: one } : one;
    const index = columns.findIndex((column) => columnKey(column.name) === columnKey(name));
    if (index < 0) {
      throw new CorbixError("BAD_DEFINITION", say().workbook.cannotFindColumn({ name }), {
        where: `${where}, columns`,
        advice: suggestName(
          name,
          columns.map((column) => column.name),
          "columns",
        ),
      });
    }
    const info = columns[index];
    return {
      info,
      index,
      heading: uniqueHeading(heading ?? info.name, taken),
      format: format ?? formatOf(info),
      total,
    };
  });
}

/** A last column that adds up the numbers of its line. Throws `BAD_DEFINITION` where there are none. */
function withLineTotal(shown: ShownColumn[], { lineTotal }: PlainWorkbookSpec, where: string): ShownColumn[] {
  if (lineTotal === undefined) return shown;
  const adds = shown.flatMap((column, at) => (column.info.type === "number" ? [at] : []));
  if (adds.length === 0)
    throw new CorbixError("BAD_DEFINITION", say().workbook.cannotAddUpLinesNone(), {
      where: `${where}, lineTotal`,
      advice: say().workbook.nameColumnsNumbersLeaveLinetotal(),
    });
  const heading = uniqueHeading(lineTotal, new Set(shown.map((column) => column.heading.toLowerCase())));
  const total = shown.some((column) => column.total) ? ("sum" as const) : undefined;
  const { format } = shown[adds[0]];
  return [...shown, { info: { name: heading, type: "number" }, index: -1, heading, format, total, adds }];
}

/** Headings of a table have to differ, without regard to capitals (18.5.1.3). */
export function uniqueHeading(heading: string, taken: Set<string>): string {
  let unique = heading;
  for (let number = 2; taken.has(unique.toLowerCase()); number++) unique = `${heading} ${number}`;
  taken.add(unique.toLowerCase());
  return unique;
}

function formatOf({ type, unit }: ColumnInfo): string {
  if (type !== "number" || unit === undefined) return FORMATS[type];
  return unit === "%" ? "0.0%" : "#,##0.00";
}

/** Width in characters, as 18.3.1.13 counts them: the longest cell or heading, and some room for the filter's sign. */
function widthOf(column: ShownColumn, values: Column, lines: readonly number[]): number {
  let longest = column.heading.length + 3;
  const fixed = column.info.type === "date" ? 10 : column.info.type === "datetime" ? 16 : undefined;
  if (fixed !== undefined) longest = Math.max(longest, fixed);
  else {
    for (let at = 0; at < Math.min(lines.length, MEASURED_ROWS); at++) {
      const cell = values.values[lines[at]];
      const length = typeof cell === "number" ? numberLength(cell, column.format) : String(cell ?? "").length;
      if (length > longest) longest = length;
    }
  }
  // Texts stand indented.
  return Math.min(WIDEST, Math.max(NARROWEST, longest)) + (column.info.type === "number" ? 2 : 3);
}

function numberLength(number: number, format: string): number {
  const places = /\.(0+)/.exec(format)?.[1].length;
  if (places === undefined) return String(number).length;
  const whole = Math.trunc(Math.abs(number)).toString().length;
  return whole + Math.floor((whole - 1) / 3) + 1 + places + (number < 0 ? 1 : 0);
}

function templateOf(spec: PlainWorkbookSpec, shown: readonly ShownColumn[], lines: string): Uint8Array {
  const first = spec.title === undefined ? 1 : 3;
  const looks = [...new Set(shown.map(lookOf))];
  const parts: readonly (readonly [string, string])[] = [
    ["[Content_Types].xml", contentTypes()],
    ["_rels/.rels", relations([["officeDocument", "xl/workbook.xml"]])],
    ["xl/workbook.xml", workbookPart(spec.sheet, first)],
    [
      "xl/_rels/workbook.xml.rels",
      relations([
        ["worksheet", "worksheets/sheet1.xml"],
        ["styles", "styles.xml"],
        ["sharedStrings", "sharedStrings.xml"],
      ]),
    ],
    ["xl/styles.xml", stylesPart(looks, spec)],
    ["xl/sharedStrings.xml", `${HEAD}<sst xmlns="${MAIN}"></sst>`],
    [SHEET, sheetPart({ ...spec, lines }, shown, looks, first)],
    ["xl/worksheets/_rels/sheet1.xml.rels", relations([["table", "../tables/table1.xml"]])],
    ["xl/tables/table1.xml", tablePart(shown, first, spec)],
  ];
  return writeZip(parts.map(([name, text]) => deflateEntry(name, Buffer.from(text, "utf8"))));
}

/** Number format and side of a column as one text; columns alike share their cell formats. */
function lookOf({ info, format }: ShownColumn): string {
  return `${info.type === "text" || info.type === "boolean" ? "left" : "right"} ${format}`;
}

function contentTypes(): string {
  const kind = "application/vnd.openxmlformats-officedocument.spreadsheetml";
  const override = (part: string, type: string): string =>
    `<Override PartName="/${part}" ContentType="${kind}.${type}+xml"/>`;
  return `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${override("xl/workbook.xml", "sheet.main")}${override(SHEET, "worksheet")}${override("xl/styles.xml", "styles")}${override("xl/sharedStrings.xml", "sharedStrings")}${override("xl/tables/table1.xml", "table")}</Types>`;
}

function relations(list: readonly (readonly [string, string])[]): string {
  const items = list.map(
    ([type, target], at) => `<Relationship Id="rId${at + 1}" Type="${OFFICE_RELATIONS}/${type}" Target="${target}"/>`,
  );
  return `${HEAD}<Relationships xmlns="${PACKAGE}/relationships">${items.join("")}</Relationships>`;
}

function workbookPart(sheet: string, first: number): string {
  const quoted = `'${sheet.replaceAll("'", "''")}'`;
  return `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE_RELATIONS}"><sheets><sheet name="${escapeXml(sheet)}" sheetId="1" r:id="rId1"/></sheets><definedNames><definedName name="_xlnm.Print_Titles" localSheetId="0">${escapeXml(quoted)}!$${first}:$${first}</definedName></definedNames></workbook>`;
}

/** Cell formats in this order: usual, title, headings to the left and right, then for each look that of rows and that of totals. */
function stylesPart(looks: readonly string[], { colour, bands, totalColour }: PlainWorkbookSpec): string {
  const formats = looks.map((look) => look.slice(look.indexOf(" ") + 1));
  const codes = formats.map((code, at) => `<numFmt numFmtId="${164 + at}" formatCode="${escapeXml(code)}"/>`);
  const format = (code: string, at: number): string => (code === "General" ? "0" : String(164 + at));
  const side = (at: number): string =>
    looks[at].startsWith("left") ? 'horizontal="left" wrapText="1" indent="1"' : 'horizontal="right"';
  const solid = (rgb: string): string =>
    `<patternFill patternType="solid"><fgColor rgb="FF${rgb.toUpperCase()}"/><bgColor indexed="64"/></patternFill>`;
  const [totalFill, totalFillId] = totalColour === undefined ? ["", 0] : [`<fill>${solid(totalColour)}</fill>`, 3];
  const banded =
    bands === undefined
      ? ""
      : `<dxfs count="1"><dxf><fill><patternFill patternType="solid"><fgColor rgb="FF${bands.toUpperCase()}"/><bgColor rgb="FF${bands.toUpperCase()}"/></patternFill></fill></dxf></dxfs><tableStyles count="1"><tableStyle name="${BANDS}" pivot="0" count="1"><tableStyleElement type="secondRowStripe" dxfId="0"/></tableStyle></tableStyles>`;
  const cells = formats.flatMap((code, at) => [
    `<xf numFmtId="${format(code, at)}" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1" applyAlignment="1"><alignment ${side(at)} vertical="top"/></xf>`,
    `<xf numFmtId="${format(code, at)}" fontId="1" fillId="${totalFillId}" borderId="1" xfId="0" applyNumberFormat="1" applyFont="1" applyFill="1" applyBorder="1" applyAlignment="1"><alignment ${side(at)}/></xf>`,
  ]);
  const font = (rest: string): string => `<font>${rest}<name val="Calibri"/><family val="2"/></font>`;
  return `${HEAD}<styleSheet xmlns="${MAIN}"><numFmts count="${codes.length}">${codes.join("")}</numFmts><fonts count="4">${font('<sz val="11"/>')}${font('<b/><sz val="11"/>')}${font('<b/><sz val="14"/>')}${font('<b/><sz val="11"/><color rgb="FFFFFFFF"/>')}</fonts><fills count="${totalColour === undefined ? 3 : 4}"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill><fill>${solid(colour)}</fill>${totalFill}</fills><borders count="2"><border><left/><right/><top/><bottom/><diagonal/></border><border><left/><right/><top style="thin"><color auto="1"/></top><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs><cellXfs count="${4 + cells.length}"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/><xf numFmtId="0" fontId="2" fillId="0" borderId="0" xfId="0" applyFont="1"/><xf numFmtId="0" fontId="3" fillId="2" borderId="0" xfId="0" applyFont="1" applyFill="1" applyAlignment="1"><alignment horizontal="left" vertical="center" wrapText="1" indent="1"/></xf><xf numFmtId="0" fontId="3" fillId="2" borderId="0" xfId="0" applyFont="1" applyFill="1" applyAlignment="1"><alignment horizontal="right" vertical="center" wrapText="1"/></xf>${cells.join("")}</cellXfs><cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles>${banded}</styleSheet>`;
}

function sheetPart(
  spec: PlainWorkbookSpec & { readonly lines: string },
  shown: readonly ShownColumn[],
  looks: readonly string[],
  first: number,
): string {
  const text = (row: number, at: number, style: number, value: string): string =>
    `<c r="${columnLetters(at)}${row}" s="${style}" t="inlineStr"><is><t xml:space="preserve">${escapeXml(value)}</t></is></c>`;
  const style = (column: ShownColumn): number => 4 + 2 * looks.indexOf(lookOf(column));
  const headings = shown
    .map((column, at) => text(first, at, lookOf(column).startsWith("left") ? 2 : 3, column.heading))
    .join("");
  const line = shown
    .map((column, at) =>
      column.adds
        ? `<c r="${columnLetters(at)}${first + 1}" s="${style(column)}"><f>SUM(${column.adds.map((one) => `${columnLetters(one)}${first + 1}`).join(",")})</f></c>`
        : text(first + 1, at, style(column), `{{ ${lineField(spec.lines, column.info.name)} }}`),
    )
    .join("");
  const title = spec.title === undefined ? "" : `<row r="1">${text(1, 0, 1, spec.title)}</row>`;
  const last = columnLetters(shown.length - 1);
  return `${HEAD}<worksheet xmlns="${MAIN}" xmlns:r="${OFFICE_RELATIONS}"><sheetPr><pageSetUpPr fitToPage="1"/></sheetPr><dimension ref="A1:${last}${first + 1}"/><sheetViews><sheetView workbookViewId="0"><pane ySplit="${first}" topLeftCell="A${first + 1}" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews><sheetFormatPr defaultRowHeight="15"/>${WIDTHS}<sheetData>${title}<row r="${first}" ht="20" customHeight="1">${headings}</row><row r="${first + 1}">${line}</row>${totalRow(shown, style, first)}</sheetData><printOptions/><pageMargins left="0.5" right="0.5" top="0.6" bottom="0.6" header="0.3" footer="0.3"/><pageSetup paperSize="9" orientation="landscape" fitToHeight="0"/><headerFooter><oddFooter>&amp;R&amp;P / &amp;N</oddFooter></headerFooter><tableParts count="1"><tablePart r:id="rId1"/></tableParts></worksheet>`;
}

/** The totals stand below the table, so that sorting and filtering leave them where they are. */
function totalRow(shown: readonly ShownColumn[], style: (column: ShownColumn) => number, first: number): string {
  if (!shown.some((column) => column.total)) return "";
  const row = first + 2;
  const cells = shown.map((column, at) => {
    const letters = columnLetters(at);
    const place = `r="${letters}${row}" s="${style(column) + 1}"`;
    if (column.total) {
      const lines = `${letters}${first + 1}:${letters}${first + 1}`;
      return `<c ${place}><f>SUBTOTAL(${SUBTOTAL[column.total]},${lines})</f></c>`;
    }
    return at === 0 ? `<c ${place} t="inlineStr"><is><t>Total</t></is></c>` : `<c ${place}/>`;
  });
  return `<row r="${row}">${cells.join("")}</row>`;
}

/** A table style of the file's own, where every other row has a ground. */
const BANDS = "Bands";

function tablePart(shown: readonly ShownColumn[], first: number, { style, bands }: PlainWorkbookSpec): string {
  const look = style ?? (bands === undefined ? "TableStyleLight1" : BANDS);
  const range = `A${first}:${columnLetters(shown.length - 1)}${first + 1}`;
  const columns = shown.map((column, at) => `<tableColumn id="${at + 1}" name="${escapeXml(column.heading)}"/>`);
  return `${HEAD}<table xmlns="${MAIN}" id="1" name="Rows" displayName="Rows" ref="${range}" totalsRowShown="0"><autoFilter ref="${range}"/><tableColumns count="${columns.length}">${columns.join("")}</tableColumns><tableStyleInfo name="${escapeXml(look)}" showFirstColumn="0" showLastColumn="0" showRowStripes="1" showColumnStripes="0"/></table>`;
}
