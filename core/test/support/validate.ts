/** What a workbook has to keep to, by ECMA-376 parts 1 and 2, so that strict readers open it without a word. */
import { OoxmlPackage, parseXml, relationshipsName, type XmlElement } from "@corbix/core/ooxml";
import { type CellRange, maybeCell, maybeRange } from "@corbix/core/spreadsheet";

/** Children of each root in the order of the schema. */
const ORDER: Readonly<Record<string, readonly string[]>> = {
  worksheet:
    "sheetPr dimension sheetViews sheetFormatPr cols sheetData sheetCalcPr sheetProtection protectedRanges scenarios autoFilter sortState dataConsolidate customSheetViews mergeCells phoneticPr conditionalFormatting dataValidations hyperlinks printOptions pageMargins pageSetup headerFooter rowBreaks colBreaks customProperties cellWatches ignoredErrors smartTags drawing legacyDrawing legacyDrawingHF drawingHF picture oleObjects controls webPublishItems tableParts extLst".split(
      " ",
    ),
  workbook:
    "fileVersion fileSharing workbookPr AlternateContent revisionPtr workbookProtection bookViews sheets functionGroups externalReferences definedNames calcPr oleSize customWorkbookViews pivotCaches smartTagPr smartTagTypes webPublishing fileRecoveryPr webPublishObjects extLst".split(
      " ",
    ),
  styleSheet: "numFmts fonts fills borders cellStyleXfs cellXfs cellStyles dxfs tableStyles colors extLst".split(" "),
  table: "autoFilter sortState tableColumns tableStyleInfo extLst".split(" "),
};

/** Lists that say how many they hold. */
const COUNTED = new Set(
  "mergeCells tableParts fonts fills borders cellXfs cellStyleXfs numFmts tableColumns dxfs cellStyles conditionalFormats".split(
    " ",
  ),
);

/** Everything that is wrong, as sentences; none for a workbook that is right. */
export function problemsOf(bytes: Uint8Array): string[] {
  return new Validator(OoxmlPackage.open(bytes, "made.xlsx")).problems();
}

/** Every part has a type, every relationship leads somewhere, every XML part is well formed. */
export function packageProblems(opened: OoxmlPackage): string[] {
  const found: string[] = [];
  const distinct = (list: readonly string[], what: string): void => {
    const twice = list.find((one, at) => list.indexOf(one) !== at);
    if (twice !== undefined) found.push(`${what} \`${twice}\` twice`);
  };
  const types = opened.getXml("[Content_Types].xml");
  const overrides = types.elements("Override").map((one) => (one.attr("PartName") ?? "").slice(1));
  const endings = types.elements("Default").map((one) => (one.attr("Extension") ?? "").toLowerCase());
  distinct(overrides, "content type of");
  for (const part of overrides) if (!opened.has(part)) found.push(`content type of missing part ${part}`);
  for (const name of opened.names) {
    const ending = name.slice(name.lastIndexOf(".") + 1).toLowerCase();
    if (name !== "[Content_Types].xml" && !overrides.includes(name) && !endings.includes(ending))
      found.push(`no content type for ${name}`);
    if (/\.(xml|rels|vml)$/.test(name)) parseXml(opened.getText(name), name);
    if (!opened.has(relationshipsName(name))) continue;
    const relations = opened.relationships(name);
    distinct(
      relations.map((one) => one.id),
      `relationship of ${name}`,
    );
    for (const one of relations)
      if (!one.external && !opened.has(one.target)) found.push(`${name} leads to missing ${one.target}`);
    const ids = new Set(relations.map((one) => one.id));
    for (const match of opened.getText(name).matchAll(/\sr:(?:id|embed)="([^"]+)"/g))
      if (!ids.has(match[1])) found.push(`${name} names relationship ${match[1]}, which is not there`);
  }
  return found;
}

class Validator {
  private readonly found: string[] = [];

  constructor(private readonly opened: OoxmlPackage) {}

  problems(): string[] {
    this.found.push(...packageProblems(this.opened));
    const main = this.opened.mainPart() ?? "";
    const workbook = this.opened.getXml(main);
    this.inOrder(workbook, main);
    const sheets = workbook.child("sheets")?.elements("sheet") ?? [];
    this.distinct(
      sheets.map((sheet) => (sheet.attr("name") ?? "").toLowerCase()),
      "sheet name",
    );
    this.distinct(
      sheets.map((sheet) => sheet.attr("sheetId") ?? ""),
      "sheetId",
    );
    for (const sheet of sheets) {
      const name = sheet.attr("name") ?? "";
      if (name === "" || name.length > 31 || /[[\]:*?/\\]/.test(name)) this.add(`sheet name \`${name}\``);
    }
    this.names(workbook, sheets.length);
    const relations = this.opened.relationships(main);
    const part = (type: string): string | undefined => relations.find((one) => one.type === type)?.target;
    const styles = part("styles");
    const formats = styles ? this.styles(styles) : 1;
    const strings = part("sharedStrings");
    const texts = strings && this.opened.has(strings) ? this.opened.getXml(strings).elements("si").length : 0;
    for (const one of relations) if (one.type === "worksheet") this.sheet(one.target, formats, texts);
    this.tables();
    return this.found;
  }

  private add(what: string): void {
    this.found.push(what);
  }

  private distinct(list: readonly string[], what: string): void {
    const twice = list.find((one, at) => list.indexOf(one) !== at);
    if (twice !== undefined) this.add(`${what} \`${twice}\` twice`);
  }

  private inOrder(root: XmlElement, part: string): void {
    const order = ORDER[root.local];
    let last = -1;
    for (const child of root.elements()) {
      const at = order.indexOf(child.local);
      if (at < 0) this.add(`${part}: unknown element ${child.local}`);
      else if (at < last) this.add(`${part}: ${child.local} stands too late`);
      last = Math.max(last, at);
    }
    const check = (element: XmlElement): void => {
      const count = element.attr("count");
      if (COUNTED.has(element.local) && count !== undefined && Number(count) !== element.elements().length)
        this.add(`${part}: ${element.local} says ${count} and holds ${element.elements().length}`);
      for (const child of element.elements()) if (child.local !== "sheetData") check(child);
    };
    check(root);
  }

  private names(workbook: XmlElement, sheets: number): void {
    const names = workbook.child("definedNames")?.elements("definedName") ?? [];
    this.distinct(
      names.map((one) => `${(one.attr("name") ?? "").toLowerCase()}@${one.attr("localSheetId") ?? ""}`),
      "defined name",
    );
    for (const one of names) {
      if (Number(one.attr("localSheetId") ?? 0) >= sheets) this.add(`name ${one.attr("name")} of a missing sheet`);
      if (one.text === "") this.add(`name ${one.attr("name")} without a formula`);
    }
  }

  private styles(part: string): number {
    const root = this.opened.getXml(part);
    this.inOrder(root, part);
    const size = (list: string): number => root.child(list)?.elements().length ?? 0;
    const formats = root.child("cellXfs")?.elements("xf") ?? [];
    for (const format of formats)
      for (const [list, attribute] of [
        ["fonts", "fontId"],
        ["fills", "fillId"],
        ["borders", "borderId"],
        ["cellStyleXfs", "xfId"],
      ])
        if (Number(format.attr(attribute) ?? 0) >= Math.max(1, size(list)))
          this.add(`${part}: ${attribute} beyond ${list}`);
    const codes = (root.child("numFmts")?.elements() ?? []).map((one) => one.attr("numFmtId") ?? "");
    this.distinct(codes, "number format");
    for (const format of formats) {
      const id = format.attr("numFmtId") ?? "0";
      if (Number(id) >= 164 && !codes.includes(id)) this.add(`${part}: number format ${id} is not there`);
    }
    return formats.length;
  }

  private sheet(part: string, formats: number, texts: number): void {
    const root = this.opened.getXml(part);
    this.inOrder(root, part);
    let lastRow = 0;
    for (const row of root.child("sheetData")?.elements("row") ?? []) {
      const number = Number(row.attr("r"));
      if (number <= lastRow) this.add(`${part}: row ${number} behind row ${lastRow}`);
      lastRow = number;
      let lastColumn = -1;
      for (const cell of row.elements("c")) {
        const place = maybeCell(cell.attr("r") ?? "");
        if (!place || place.row !== number - 1) this.add(`${part}: cell ${cell.attr("r")} in row ${number}`);
        else if (place.column <= lastColumn) this.add(`${part}: cell ${cell.attr("r")} is not in order`);
        lastColumn = place?.column ?? lastColumn;
        if (Number(cell.attr("s") ?? 0) >= formats) this.add(`${part}: format of ${cell.attr("r")} is not there`);
        if (cell.attr("t") === "s" && Number(cell.child("v")?.text) >= texts)
          this.add(`${part}: text of ${cell.attr("r")} is not there`);
        const value = cell.child("v")?.text;
        if ((cell.attr("t") ?? "n") === "n" && value !== undefined && (value === "" || Number.isNaN(Number(value))))
          if (value !== "" || !cell.child("f")) this.add(`${part}: ${cell.attr("r")} holds no number: ${value}`);
      }
    }
    this.apart(
      (root.child("mergeCells")?.elements() ?? []).flatMap((one) => maybeRange(one.attr("ref") ?? "") ?? []),
      `${part}: merged cells`,
    );
    let lastMax = 0;
    for (const col of root.child("cols")?.elements("col") ?? []) {
      if (Number(col.attr("min")) <= lastMax) this.add(`${part}: columns ${col.attr("min")} are described twice`);
      lastMax = Number(col.attr("max"));
    }
  }

  private apart(ranges: readonly CellRange[], what: string): void {
    ranges.forEach((a, at) => {
      for (const b of ranges.slice(at + 1))
        if (a.top <= b.bottom && b.top <= a.bottom && a.left <= b.right && b.left <= a.right)
          this.add(`${what} lie over each other`);
    });
  }

  private tables(): void {
    const parts = this.opened.names.filter((name) => /\/tables\/[^/]+\.xml$/.test(name));
    const tables = parts.map((part) => this.opened.getXml(part));
    this.distinct(
      tables.map((table) => table.attr("id") ?? ""),
      "table id",
    );
    this.distinct(
      tables.map((table) => (table.attr("displayName") ?? "").toLowerCase()),
      "table name",
    );
    tables.forEach((table, at) => {
      this.inOrder(table, parts[at]);
      const range = maybeRange(table.attr("ref") ?? "");
      const columns = table.child("tableColumns")?.elements() ?? [];
      if (range && range.right - range.left + 1 !== columns.length)
        this.add(`${parts[at]}: ${columns.length} columns in ${table.attr("ref")}`);
      this.distinct(
        columns.map((one) => (one.attr("name") ?? "").toLowerCase()),
        `${parts[at]}: heading`,
      );
    });
  }
}
