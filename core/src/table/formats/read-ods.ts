/** Sheets of an OpenDocument spreadsheet (ODF 1.3 part 3, 9.1). */

import { CorbixError, columnKey, maybeSerialFromIso, suggestName } from "../../common/index.js";
import { type OoxmlPackage, unescapeXml } from "../../ooxml/index.js";
import { type CellRange, MAX_COLUMNS, MAX_ROWS, maybeRange, rangeHolds, splitSheet } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { chooseSheet } from "../header/choose-sheet.js";
import { namedOdsRanges, odsSigns } from "../header/ods-signs.js";
import { ownTable } from "../header/own-table.js";
import type { DefinedTable } from "../header/sheet-signs.js";
import type { IntakeRules } from "../rules.js";
import { FIRST_ROWS, Kind, RawSheet } from "./raw-sheet.js";
import { type ChosenSheet, withPart } from "./read-workbook.js";

export const ODS_TYPE = "application/vnd.oasis.opendocument.spreadsheet";

/** All sheets have been read when one is chosen: their sizes count as cells, more bytes each than any markup has. */
const ANY_BYTES = 1_000;

/** Cells that one repeated cell may stand for; more is no honest file. */
const MAX_REPEATED = 5_000_000;

/** One sheet of the file: the named one, or the visible one with most cells. Throws `NO_TABLE`, `BROKEN_XML` or `LIMIT_EXCEEDED`. */
export function readOds(
  opened: OoxmlPackage,
  where: string,
  options: IntakeRules & { readonly part?: string },
): ChosenSheet {
  refuseEncrypted(opened, where);
  if (!opened.has("content.xml"))
    throw new CorbixError("NOT_A_WORKBOOK", say().table.cannotReadFileSpreadsheetContent(), { where });
  const content = opened.getText("content.xml");
  const hiddenStyles = readHiddenStyles(content);
  const sheets = new SheetReader(content, where, hiddenStyles, readBoldStyles(content)).read();
  takeSigns(sheets, odsSigns(content, opened));
  const rules = withPart(
    options,
    sheets.map((one) => one.name),
  );
  const named = rules.table === undefined ? undefined : namedRange(content, rules.table, where, sheets);
  const choice = chooseSheet(
    sheets,
    sheets.filter((one) => one.sheet.rowCount > 0),
    { where, name: named?.sheet ?? rules.sheet },
    (one) => one,
    (one) => one.cells * ANY_BYTES,
  );
  const { chosen } = choice;
  const why = say().table.askedLies({ name: chosen.name });
  const own = named ? undefined : ownTable(chosen.sheet, chosen.tables, rules);
  const area = named ? { range: named.range, names: undefined, isAsked: true, others: [] } : own;
  return {
    sheet: chosen.sheet,
    decisions: [
      named ? { what: say().table.namedRange(), chosen: rules.table ?? "", why, corrected: true } : choice.decision,
      ...(own ? [own.decision] : []),
    ],
    findings: choice.findings,
    others: sheets
      .filter((one) => one.name !== chosen.name && one.sheet.rowCount > 0)
      .map((one) => say().table.sheet({ name: one.name, hidden: one.hidden })),
    ...(area ? { area } : {}),
  };
}

function refuseEncrypted(opened: OoxmlPackage, where: string): void {
  if (!opened.has("META-INF/manifest.xml")) return;
  if (!opened.getText("META-INF/manifest.xml").includes("encryption-data")) return;
  throw new CorbixError("NOT_A_WORKBOOK", say().table.cannotReadSpreadsheetProtectedPassword(), {
    where,
    advice: say().table.saveWithoutPasswordXlsx(),
  });
}

/** Puts what the file says of its sheets' tables to the sheets; what a summary shows is taken out, unless a sheet holds little else. */
function takeSigns(sheets: readonly ReadSheet[], signsOf: ReturnType<typeof odsSigns>): void {
  for (const one of sheets) {
    const { hints, tables, summaries } = signsOf(one.name, one.titles);
    one.sheet.hints.push(...hints);
    one.tables = tables;
    if (summaries.length === 0) continue;
    let inside = 0;
    const { sheet } = one;
    const clear: (() => void)[] = [];
    for (let row = 0; row < sheet.rowCount; row++)
      for (const column of sheet.filled(row)) {
        const number = sheet.rowNumbers[row];
        if (!summaries.some((range) => rangeHolds(range, number - 1, column))) continue;
        inside++;
        clear.push(() => sheet.clear(number, column));
      }
    one.isSummary = inside > one.cells - inside;
    if (one.isSummary || inside === 0) continue;
    sheet.summaries.push(...summaries);
    for (const take of clear) take();
  }
}

/** Names of cell styles that are bold. */
function readBoldStyles(content: string): ReadonlySet<string> {
  const found = new Set<string>();
  for (const match of content.matchAll(
    /<style:style\s([^>]*style:family="table-cell"[^>]*)(?<!\/)>([\s\S]*?)<\/style:style>/g,
  )) {
    const name = /style:name="([^"]*)"/.exec(match[1])?.[1];
    if (name !== undefined && /fo:font-weight="(?:bold|[6-9]00)"/.test(match[2])) found.add(name);
  }
  return found;
}

/** Names of table styles that are not displayed. */
function readHiddenStyles(content: string): ReadonlySet<string> {
  const found = new Set<string>();
  for (const match of content.matchAll(/<style:style\s([^>]*style:family="table"[^>]*)>([\s\S]*?)<\/style:style>/g)) {
    const name = /style:name="([^"]*)"/.exec(match[1])?.[1];
    if (name !== undefined && /table:display="false"/.test(match[2])) found.add(name);
  }
  return found;
}

/** A named range or database range, or a range as it was written. Throws `NO_TABLE`. */
function namedRange(
  content: string,
  wanted: string,
  where: string,
  sheets: readonly ReadSheet[],
): { sheet: string; range: CellRange } {
  const all = namedOdsRanges(content);
  const found = all.find((one) => columnKey(one.name) === columnKey(wanted));
  if (found) return found;
  // `Visits!A4:H200`, or `A4:H200` of the only sheet.
  const { sheet = sheets.length === 1 ? sheets[0].name : undefined, rest } = splitSheet(wanted);
  const asked = maybeRange(rest.replaceAll("$", "").toUpperCase());
  if (sheet !== undefined && asked && asked.bottom > asked.top) return { sheet, range: asked };
  throw new CorbixError("NO_TABLE", say().table.cannotFindNamedRange({ wanted }), {
    where,
    advice: suggestName(
      wanted,
      all.map((one) => one.name),
      "ranges",
    ),
  });
}

interface ReadSheet {
  readonly name: string;
  readonly hidden: boolean;
  readonly sheet: RawSheet;
  /** Rows, 1-based, that are repeated on each printed page. */
  readonly titles: number[];
  tables: readonly DefinedTable[];
  isSummary: boolean;
  cells: number;
}

interface OpenCell {
  readonly attributes: string;
  readonly repeated: number;
  readonly covered: boolean;
  text: string;
  paragraphs: number;
}

const TAG = /<(\/?)([\w:.-]+)((?:[^>"']|"[^"]*"|'[^']*')*)>/g;

/** Goes over the tags of `content.xml` once; nothing is kept but the cells. */
class SheetReader {
  private readonly sheets: ReadSheet[] = [];
  private current: ReadSheet | undefined;
  private merges: CellRange[] = [];
  private row = 0;
  private column = 0;
  private rowRepeated = 1;
  private rowHidden = false;
  private rowStarted = false;
  private cell: OpenCell | undefined;
  /** Depth of annotations, whose text is none of the cell's. */
  private notes = 0;
  private inTitles = false;

  constructor(
    private readonly content: string,
    private readonly where: string,
    private readonly hiddenStyles: ReadonlySet<string>,
    private readonly boldStyles: ReadonlySet<string>,
  ) {}

  read(): ReadSheet[] {
    TAG.lastIndex = 0;
    const tags = new RegExp(TAG);
    let last = 0;
    for (let match = tags.exec(this.content); match; match = tags.exec(this.content)) {
      if (this.cell && this.notes === 0 && match.index > last) this.characters(this.content.slice(last, match.index));
      last = tags.lastIndex;
      const closes = match[3].endsWith("/");
      if (match[1] === "/") this.end(match[2]);
      else {
        this.start(match[2], match[3]);
        if (closes) this.end(match[2]);
      }
    }
    return this.sheets;
  }

  private start(name: string, attributes: string): void {
    switch (name) {
      case "table:table":
        this.startTable(attributes);
        break;
      case "table:table-header-rows":
        this.inTitles = true;
        break;
      case "table:table-row":
        this.rowRepeated = Number(attribute(attributes, "table:number-rows-repeated") ?? 1);
        this.rowHidden = /table:visibility="(collapse|filter)"/.test(attributes);
        this.rowStarted = false;
        this.column = 0;
        break;
      case "table:table-cell":
      case "table:covered-table-cell":
        this.cell = {
          attributes,
          repeated: Number(attribute(attributes, "table:number-columns-repeated") ?? 1),
          covered: name === "table:covered-table-cell",
          text: "",
          paragraphs: 0,
        };
        break;
      case "office:annotation":
        this.notes++;
        break;
      case "text:p":
        if (this.cell && this.notes === 0 && this.cell.paragraphs++ > 0) this.cell.text += "\n";
        break;
      case "text:line-break":
        if (this.cell && this.notes === 0) this.cell.text += "\n";
        break;
      case "text:s":
        if (this.cell && this.notes === 0)
          this.cell.text += " ".repeat(Math.min(1000, Number(attribute(attributes, "text:c") ?? 1)));
        break;
      case "text:tab":
        if (this.cell && this.notes === 0) this.cell.text += "\t";
        break;
    }
  }

  private end(name: string): void {
    if (name === "office:annotation") this.notes = Math.max(0, this.notes - 1);
    else if (name === "table:table-cell" || name === "table:covered-table-cell") this.endCell();
    else if (name === "table:table-row") this.endRow();
    else if (name === "table:table-header-rows") this.inTitles = false;
    else if (name === "table:table" && this.current) {
      this.current.sheet.merges = this.merges;
      this.current = undefined;
    }
  }

  private endRow(): void {
    if (this.inTitles && this.rowStarted) this.current?.titles.push(this.row + this.rowRepeated);
    this.row += this.rowRepeated;
  }

  private startTable(attributes: string): void {
    const name = unescapeXml(attribute(attributes, "table:name") ?? `Sheet ${this.sheets.length + 1}`);
    this.current = {
      name,
      hidden: this.hiddenStyles.has(attribute(attributes, "table:style-name") ?? ""),
      sheet: new RawSheet(
        say().place.sheetIn({ where: this.where, name }),
        { kind: say().table.opendocumentSpreadsheet(), sheet: name },
        true,
      ),
      titles: [],
      tables: [],
      isSummary: false,
      cells: 0,
    };
    this.sheets.push(this.current);
    this.merges = [];
    this.row = 0;
  }

  private characters(text: string): void {
    // Text between paragraphs is only layout of the file.
    if (this.cell && this.cell.paragraphs > 0) this.cell.text += unescapeXml(text);
  }

  private endCell(): void {
    const { cell, current } = this;
    this.cell = undefined;
    if (!cell || !current) return;
    const columns = Number(attribute(cell.attributes, "table:number-columns-spanned") ?? 1);
    const rows = Number(attribute(cell.attributes, "table:number-rows-spanned") ?? 1);
    if (columns > 1 || rows > 1) {
      const [row, column] = [this.row, this.column];
      this.merges.push({ top: row, left: column, bottom: row + rows - 1, right: column + columns - 1 });
    }
    const isEmpty = cell.text.trim() === "" && !/office:value-type=/.test(cell.attributes);
    if (!isEmpty && !cell.covered) this.putRepeated(cell, current);
    this.column += cell.repeated;
  }

  private putRepeated(cell: OpenCell, current: ReadSheet): void {
    if (
      this.column + cell.repeated > MAX_COLUMNS ||
      this.row + this.rowRepeated > MAX_ROWS ||
      cell.repeated * this.rowRepeated > MAX_REPEATED
    ) {
      throw new CorbixError("LIMIT_EXCEEDED", say().table.cannotReadCellRepeatedBeyond(), {
        where: current.sheet.where,
        advice: say().table.sheetMostRowsColumns({ maxRows: MAX_ROWS, maxColumns: MAX_COLUMNS }),
      });
    }
    if (!this.rowStarted) {
      // Repeated rows with content become rows of their own; their cells are put in one pass per row.
      for (let again = 0; again < this.rowRepeated; again++)
        current.sheet.startRow(this.row + again + 1, this.rowHidden);
      this.rowStarted = true;
    }
    const first = current.sheet.rowCount - this.rowRepeated;
    for (let again = 0; again < this.rowRepeated; again++) {
      current.sheet.goTo(first + again);
      for (let column = this.column; column < this.column + cell.repeated; column++)
        putCell(current.sheet, column, cell);
      if (first + again < FIRST_ROWS && /office:value-type="(?!string)/.test(cell.attributes) && cell.text !== "")
        for (let column = this.column; column < this.column + cell.repeated; column++)
          current.sheet.keepShown(column, () => cell.text);
    }
    current.cells += cell.repeated * this.rowRepeated;
    if (first >= FIRST_ROWS || !this.boldStyles.has(attribute(cell.attributes, "table:style-name") ?? "")) return;
    for (let again = 0; again < this.rowRepeated; again++) current.sheet.countBold(first + again, cell.repeated);
  }
}

function attribute(attributes: string, name: string): string | undefined {
  const at = attributes.indexOf(`${name}="`);
  if (at < 0) return undefined;
  const from = at + name.length + 2;
  return attributes.slice(from, attributes.indexOf('"', from));
}

function putCell(sheet: RawSheet, column: number, cell: OpenCell): void {
  const { attributes } = cell;
  const number = Number(attribute(attributes, "office:value") ?? Number.NaN);
  switch (attribute(attributes, "office:value-type")) {
    case "float":
      if (cell.text.startsWith("#") || /^Err:\d+$/.test(cell.text)) sheet.putText(column, cell.text, Kind.error);
      else sheet.put(column, Kind.number, number);
      return;
    case "percentage":
      sheet.put(column, Kind.percent, number);
      return;
    case "currency":
      sheet.countCurrency(column, attribute(attributes, "office:currency") ?? "");
      sheet.put(column, Kind.money, number);
      return;
    case "boolean":
      sheet.put(column, attribute(attributes, "office:boolean-value") === "true" ? Kind.true : Kind.false, 0);
      return;
    case "date": {
      const text = (attribute(attributes, "office:date-value") ?? "").replace(/\.\d+|Z$/g, "");
      const serial = maybeSerialFromIso(text);
      if (serial === undefined) sheet.putText(column, cell.text);
      else sheet.put(column, text.includes("T") ? Kind.datetime : Kind.date, serial);
      return;
    }
    case "time": {
      const time = /^PT(\d+)H(\d+)M(\d+)/.exec(attribute(attributes, "office:time-value") ?? "");
      if (time)
        sheet.put(column, Kind.time, (Number(time[1]) * 3600 + Number(time[2]) * 60 + Number(time[3])) / 86_400);
      else sheet.putText(column, cell.text);
      return;
    }
    default:
      sheet.putText(
        column,
        cell.text === "" ? unescapeXml(attribute(attributes, "office:string-value") ?? "") : cell.text,
      );
  }
}
