/** Lays a whole table of the lines into a sheet: headings, a line that repeats, totals; as a defined table with a style. */

import { CorbixError } from "../../common/index.js";
import type { Scope } from "../../expression/index.js";
import {
  escapeXml,
  OFFICE_RELATIONS,
  type OoxmlPackage,
  relationshipsName,
  relationshipsXml,
  type XmlElement,
  xmlElement,
} from "../../ooxml/index.js";
import {
  type CellRange,
  cellName,
  columnLetters,
  maybeRange,
  rangeName,
  type Workbook,
} from "../../spreadsheet/index.js";
import { columnsOf, lineField, linesNamed } from "../../template/index.js";
import { say } from "../../words/index.js";
import { asFormula, asText, type CellChange, changeCells } from "../edit/edit-cells.js";
import { StyleEditor } from "../edit/style-editor.js";
import type { NamedTable } from "../fill/by-name.js";
import { withHead } from "../fill/related-parts.js";
import { readTables } from "../template/defined-tables.js";
import { type ShownColumn, SUBTOTAL, shownColumns, uniqueHeading } from "./plain-workbook.js";

const TABLE_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.table+xml";
const TYPES = "[Content_Types].xml";

/** Headings, a line, and totals where a column has one. */
export function rowsOfTable(spec: NamedTable): number {
  return hasTotals(spec) ? 3 : 2;
}

function hasTotals(spec: NamedTable): boolean {
  return (spec.columns ?? []).some((column) => typeof column !== "string" && column.total !== undefined);
}

/** Throws `BAD_DEFINITION` for an unknown column, or where something stands in the way. */
export function layTable(
  workbook: Workbook,
  { sheet, range: place }: { readonly sheet: number; readonly range: CellRange },
  spec: NamedTable,
  scope: Scope,
  where: string,
): OoxmlPackage {
  const lines = linesNamed(spec.lines, scope, where);
  const shown = shownColumns(spec.columns, columnsOf(lines, scope), where);
  const opened = workbook.package;
  const { part } = workbook.sheets[sheet];
  const root = opened.getXml(part);
  const headings = shown.map((column) => column.heading);
  const taken = new Set(headings.map((heading) => heading.toLowerCase()));
  if (spec.lineTotal !== undefined) headings.push(uniqueHeading(spec.lineTotal, taken));
  const { top, left } = place;
  const right = left + headings.length - 1;
  const withTotals = hasTotals(spec);
  refuseFilled(root, { top: top + 1, left, bottom: top + (withTotals ? 2 : 1), right }, where);
  refuseFilled(root, { top, left: left + 1, bottom: top, right }, where);
  const stylesPart = opened.relationships(workbook.part).find(({ type }) => type === "styles")?.target;
  const editor = stylesPart ? new StyleEditor(opened.getXml(stylesPart)) : undefined;
  const base = styleAt(root, top, left);
  const styleOf = (column: ShownColumn): number | undefined =>
    column.format === "General" || !editor ? undefined : editor.withCode(base, column.format);
  const cells = laidCells({ lines, shown, headings }, place, withTotals, styleOf);
  const changed = addTablePart(changeCells(root, cells), root);
  const tables = readTables(workbook);
  const number = Math.max(0, ...opened.names.map((name) => Number(/\/table(\d+)\.xml$/.exec(name)?.[1] ?? 0))) + 1;
  const target = `xl/tables/table${number}.xml`;
  const ref = rangeName({ top, left, bottom: top + 1, right });
  const parts = new Map<string, string>([
    [part, withHead(opened, part, changed.root)],
    [target, tablePart(number, tableName(tables.map((table) => table.name)), ref, headings, spec)],
    [relationshipsName(part), withRelation(opened, part, changed.id, target)],
    [
      TYPES,
      opened
        .getText(TYPES)
        .replace(/<\/(\w+:)?Types>/, (end) => `<Override PartName="/${target}" ContentType="${TABLE_TYPE}"/>${end}`),
    ],
  ]);
  const styled = editor?.finish();
  if (styled && stylesPart) parts.set(stylesPart, withHead(opened, stylesPart, styled));
  return opened.with(parts);
}

function laidCells(
  {
    lines,
    shown,
    headings,
  }: { readonly lines: string; readonly shown: readonly ShownColumn[]; readonly headings: readonly string[] },
  { top, left }: CellRange,
  withTotals: boolean,
  styleOf: (column: ShownColumn) => number | undefined,
): Map<number, Map<number, CellChange>> {
  const head = new Map(headings.map((heading, at) => [left + at, asText(heading)] as const));
  const line = new Map<number, CellChange>();
  const totals = new Map<number, CellChange>();
  const numbers: string[] = [];
  shown.forEach((column, at) => {
    const letters = columnLetters(left + at);
    const style = styleOf(column);
    line.set(left + at, asText(`{{ ${lineField(lines, column.info.name)} }}`, style));
    if (column.info.type === "number") numbers.push(`${letters}${top + 2}`);
    const rows = `${letters}${top + 2}:${letters}${top + 2}`;
    if (column.total) totals.set(left + at, asFormula(`SUBTOTAL(${SUBTOTAL[column.total]},${rows})`, style));
    else if (withTotals) totals.set(left + at, asText(at === 0 ? "Total" : ""));
  });
  if (headings.length > shown.length) {
    const at = left + shown.length;
    const style = shown.find((column) => column.info.type === "number");
    const letters = columnLetters(at);
    line.set(at, asFormula(`SUM(${numbers.join(",") || "0"})`, style && styleOf(style)));
    if (withTotals)
      totals.set(at, asFormula(`SUBTOTAL(109,${letters}${top + 2}:${letters}${top + 2})`, style && styleOf(style)));
  }
  const rows = new Map<number, Map<number, CellChange>>([
    [top, head],
    [top + 1, line],
  ]);
  if (withTotals) rows.set(top + 2, totals);
  return rows;
}

function refuseFilled(root: XmlElement, range: CellRange, where: string): void {
  for (const row of root.child("sheetData")?.elements("row") ?? [])
    for (const cell of row.elements("c")) {
      const place = maybeRange(cell.attr("r") ?? "");
      if (!place || place.top < range.top || place.top > range.bottom) continue;
      if (place.left < range.left || place.left > range.right) continue;
      if (cell.child("v") || cell.child("is") || cell.child("f"))
        throw new CorbixError(
          "BAD_DEFINITION",
          say().workbook.cannotLayTableCellBlank({ cellName: cellName(place.top, place.left) }),
          { where, advice: say().workbook.namePlaceRoomAllColumns() },
        );
    }
}

function styleAt(root: XmlElement, row: number, column: number): number {
  const name = cellName(row, column);
  for (const element of root.child("sheetData")?.elements("row") ?? [])
    for (const cell of element.elements("c")) if (cell.attr("r") === name) return Number(cell.attr("s") ?? 0);
  return 0;
}

/** The sheet with one more part of a table, which stands last but for extensions (18.3.1.99). */
function addTablePart(root: XmlElement, original: XmlElement): { root: XmlElement; id: string } {
  const prefix = root.prefix;
  const id = `rIdTable${(original.child("tableParts")?.elements().length ?? 0) + 1}`;
  const declared = /xmlns:(\w+)="http:\/\/schemas\.openxmlformats\.org\/officeDocument\/2006\/relationships"/.exec(
    root.open,
  )?.[1];
  const relation = declared ?? "r";
  const open = declared ? root : root.withAttr("xmlns:r", OFFICE_RELATIONS);
  const one = xmlElement(`${prefix}tablePart`, { [`${relation}:id`]: id });
  const known = open.child("tableParts");
  if (known) {
    const more = known.withAttr("count", String(known.elements().length + 1)).withChildren([...known.children, one]);
    return { root: open.withChildren(open.children.map((child) => (child === known ? more : child))), id };
  }
  const list = xmlElement(`${prefix}tableParts`, { count: "1" }).withChildren([one]);
  const last = open.child("extLst");
  const others = open.children.filter((child) => child !== last);
  return { root: open.withChildren([...others, list, ...(last ? [last] : [])]), id };
}

function withRelation(opened: OoxmlPackage, part: string, id: string, target: string): string {
  const list = relationshipsName(part);
  // Some readers know relative targets only; sheets nearly always lie beside the folder of tables.
  const relative = part.startsWith("xl/worksheets/") ? target.replace("xl/", "../") : `/${target}`;
  const one = `<Relationship Id="${id}" Type="${OFFICE_RELATIONS}/table" Target="${relative}"/>`;
  if (!opened.has(list)) return relationshipsXml([one]);
  const source = opened.getText(list);
  return /<\/\w*:?Relationships>/.test(source)
    ? source.replace(/<\/(?:\w+:)?Relationships>/, (end) => one + end)
    : source.replace(/\/>\s*$/, () => `>${one}</Relationships>`);
}

function tableName(known: readonly string[]): string {
  for (let number = 1; ; number++) {
    const name = number === 1 ? "Lines" : `Lines_${number}`;
    if (!known.some((one) => one.toLowerCase() === name.toLowerCase())) return name;
  }
}

function tablePart(id: number, name: string, ref: string, headings: readonly string[], spec: NamedTable): string {
  const columns = headings.map((heading, at) => `<tableColumn id="${at + 1}" name="${escapeXml(heading)}"/>`).join("");
  const style = escapeXml(spec.style ?? "TableStyleMedium2");
  return `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<table xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" id="${id}" name="${name}" displayName="${name}" ref="${ref}" totalsRowShown="0"><autoFilter ref="${ref}"/><tableColumns count="${headings.length}">${columns}</tableColumns><tableStyleInfo name="${style}" showFirstColumn="0" showLastColumn="0" showRowStripes="${spec.banded === false ? 0 : 1}" showColumnStripes="0"/></table>`;
}
