/** Fills what a template has names for: defined tables by their headings, named cells, whole tables at a named place. */

import { CorbixError, columnKey, suggestName } from "../../common/index.js";
import { type Env, OWN_LINES, type Scope } from "../../expression/index.js";
import type { OoxmlPackage, XmlElement } from "../../ooxml/index.js";
import {
  type CellRange,
  cellName,
  cellValues,
  maybeRange,
  splitSheet,
  type Workbook,
  workbookFromPackage,
} from "../../spreadsheet/index.js";
import { columnsOf, hasMarks, lineField, linesNamed } from "../../template/index.js";
import { say } from "../../words/index.js";
import { asFormula, asText, type CellChange, changeCells } from "../edit/edit-cells.js";
import { layTable, rowsOfTable } from "../plain/insert-table.js";
import type { PlainColumn } from "../plain/plain-workbook.js";
import { type DefinedTable, readTables } from "../template/defined-tables.js";
import { WorkbookTemplate } from "../template/template.js";
import { BoundWorkbook } from "./fill.js";
import { withHead } from "./related-parts.js";

export interface ByName {
  /** Texts with marks by cell (`Sheet!B2`) or defined name. */
  readonly cells?: Readonly<Record<string, string>> | undefined;
  /** By the name of a defined table, or of the cell where a whole table goes. */
  readonly tables?: Readonly<Record<string, NamedTable>> | undefined;
}

export interface NamedTable {
  /** The lines it shows; the group's own if left out. */
  readonly lines?: string | undefined;
  /** Of a defined table: what goes under a heading, where no column is called so. */
  readonly fields?: Readonly<Record<string, string>> | undefined;
  /** Of a whole table: its columns in order; all, if none are named. */
  readonly columns?: readonly PlainColumn[] | undefined;
  /** Of a whole table: name of a table style. */
  readonly style?: string | undefined;
  readonly banded?: boolean | undefined;
  /** Of a whole table: heading of a last column with each line's sum. */
  readonly lineTotal?: string | undefined;
}

/** The template with marks where names lead. Throws `BAD_DEFINITION` for a name there is not, with near ones. */
export function placeByName(opened: OoxmlPackage, spec: ByName, scope: Scope, where: string): OoxmlPackage {
  let filled = opened;
  for (const [name, table] of Object.entries(spec.tables ?? {})) {
    const workbook = workbookFromPackage(filled);
    const tables = readTables(workbook);
    const defined = tables.find((one) => columnKey(one.name) === columnKey(name));
    const at = `${where}, tables, ${name}`;
    const area = defined ?? headedRange(workbook, name, table, at, tables);
    filled = area
      ? fillTable(workbook, area, table, scope, at)
      : wholeTable(workbook, { ...table, name }, scope, at, tables);
  }
  return setCells(filled, spec.cells ?? {}, `${where}, cells`);
}

/**
 * What a record fills without being told: defined tables without marks whose headings are columns, of the lines called as the
 * table is, or else of the group's own.
 */
export function tablesByHeading(workbook: Workbook, scope: Scope): Readonly<Record<string, NamedTable>> {
  const found: Record<string, NamedTable> = {};
  for (const table of readTables(workbook)) {
    const lines = Object.hasOwn(scope.further ?? {}, columnKey(table.name)) ? columnKey(table.name) : OWN_LINES;
    const names = new Set(columnsOf(lines, scope).map((column) => columnKey(column.name)));
    const hasPartner = table.columns.some((heading) => names.has(columnKey(heading)));
    const cells = cellValues(workbook, workbook.sheets[table.sheet].part);
    const { top, left, bottom, right } = table.range;
    let isMarked = false;
    for (let row = top; row <= bottom; row++)
      for (let column = left; column <= right; column++)
        isMarked ||= hasMarks(String(cells.get(row)?.get(column)?.value ?? ""));
    if (hasPartner && !isMarked) found[table.name] = { lines };
  }
  return found;
}

function setCells(opened: OoxmlPackage, cells: Readonly<Record<string, string>>, where: string): OoxmlPackage {
  if (Object.keys(cells).length === 0) return opened;
  const workbook = workbookFromPackage(opened);
  const bySheet = new Map<number, Map<number, Map<number, CellChange>>>();
  for (const [name, text] of Object.entries(cells)) {
    const { sheet, range } = namedPlace(workbook, name, where, []);
    const rows = bySheet.get(sheet) ?? new Map<number, Map<number, CellChange>>();
    bySheet.set(sheet, rows);
    rows.set(range.top, (rows.get(range.top) ?? new Map()).set(range.left, asText(text)));
  }
  return withChanges(workbook, bySheet);
}

function withChanges(
  workbook: Workbook,
  changes: ReadonlyMap<number, ReadonlyMap<number, ReadonlyMap<number, CellChange>>>,
): OoxmlPackage {
  const opened = workbook.package;
  const parts = new Map<string, string>();
  for (const [sheet, rows] of changes) {
    const { part } = workbook.sheets[sheet];
    parts.set(part, withHead(opened, part, changeCells(opened.getXml(part), rows)));
  }
  return opened.with(parts);
}

/** Where a cell `Sheet!B2` or a defined name lies. */
function namedPlace(
  workbook: Workbook,
  name: string,
  where: string,
  others: readonly string[],
): { sheet: number; range: CellRange } {
  const defined = workbook.names.find((one) => columnKey(one.name) === columnKey(name));
  const { sheet: sheetName, rest } = splitSheet(defined ? defined.formula : name);
  const sheet = workbook.sheets.findIndex((one) => one.name.toLowerCase() === sheetName?.toLowerCase());
  const range = maybeRange(rest);
  if (sheet >= 0 && range && workbook.sheets[sheet].kind === "worksheet") return { sheet, range };
  const names = [...others, ...workbook.names.filter((one) => !one.name.startsWith("_xlnm.")).map((one) => one.name)];
  throw new CorbixError("BAD_DEFINITION", say().workbook.cannotFindTemplate({ name }), {
    where,
    advice: say().workbook.letNameLeadCellsSheet({
      isDefined: Boolean(defined),
      suggestion: suggestName(name, names, "names"),
    }),
  });
}

/** Rows with headings: a defined table, or a range that is none. */
type HeadedRange = Omit<DefinedTable, "part"> & { readonly part: string | undefined };

/** A range whose first row holds headings; `undefined` for a single cell or a blank row, where a whole table is laid. */
function headedRange(
  workbook: Workbook,
  name: string,
  spec: NamedTable,
  where: string,
  tables: readonly DefinedTable[],
): HeadedRange | undefined {
  if (spec.columns !== undefined || spec.style !== undefined || spec.lineTotal !== undefined) return undefined;
  const { sheet, range } = namedPlace(
    workbook,
    name,
    where,
    tables.map((table) => table.name),
  );
  if (range.left === range.right) return undefined;
  const cells = cellValues(workbook, workbook.sheets[sheet].part).get(range.top);
  const columns = Array.from({ length: range.right - range.left + 1 }, (_, at) =>
    String(cells?.get(range.left + at)?.value ?? "").trim(),
  );
  if (columns.every((heading) => heading === "")) return undefined;
  const filled = (row: number): boolean => {
    const line = cellValues(workbook, workbook.sheets[sheet].part).get(row);
    return columns.some((_, at) => line?.has(range.left + at) === true);
  };
  if (range.bottom === range.top && filled(range.top + 2))
    throw new CorbixError("BAD_DEFINITION", say().workbook.cannotTellRowsBelowHeadings({ name }), {
      where,
      advice: say().workbook.nameRangeSampleRowsGo(),
    });
  return {
    name,
    part: undefined,
    sheet,
    range: { ...range, bottom: Math.max(range.bottom, range.top + 1) },
    headings: 1,
    totals: 0,
    columns,
  };
}

/** Marks in the first row below the headings; its other rows are samples and go. */
function fillTable(
  workbook: Workbook,
  table: HeadedRange,
  spec: NamedTable,
  scope: Scope,
  where: string,
): OoxmlPackage {
  const lines = linesNamed(spec.lines, scope, where);
  const columns = columnsOf(lines, scope);
  const { part } = workbook.sheets[table.sheet];
  const root = workbook.package.getXml(part);
  const { top, left, right, bottom } = table.range;
  const first = top + table.headings;
  const last = bottom - table.totals;
  const calculated = table.part === undefined ? [] : calculatedColumns(workbook.package.getXml(table.part));
  for (const heading of Object.keys(spec.fields ?? {}))
    if (!table.columns.some((column) => columnKey(column) === columnKey(heading)))
      throw new CorbixError("BAD_DEFINITION", say().workbook.cannotFindHeadingTable({ heading, name: table.name }), {
        where: `${where}, fields`,
        advice: suggestName(heading, table.columns, "headings"),
      });
  const row = new Map<number, CellChange>();
  table.columns.forEach((heading, at) => {
    const own = Object.entries(spec.fields ?? {}).find(([name]) => columnKey(name) === columnKey(heading))?.[1];
    const partner = columns.find((column) => columnKey(column.name) === columnKey(heading));
    const formula = calculated[at];
    row.set(left + at, (cell, name, prefix) => {
      if (own !== undefined) return asText(own)(cell, name, prefix);
      if (partner) return asText(`{{ ${lineField(lines, partner.name)} }}`)(cell, name, prefix);
      if (cell?.child("f")) return cell;
      return (formula === undefined ? asText("") : asFormula(formula))(cell, name, prefix);
    });
  });
  const changes = new Map<number, Map<number, CellChange>>([[first, row]]);
  refuseNeighbours(root, { top: first + 1, bottom: last, left, right }, table.name, where);
  for (let number = first + 1; number <= last; number++) {
    const cleared = new Map<number, CellChange>();
    for (let column = left; column <= right; column++) cleared.set(column, () => undefined);
    changes.set(number, cleared);
  }
  // Without a field of the lines in it the row would not repeat.
  const hasField = [...row.keys()].some((column) => {
    const heading = table.columns[column - left];
    return columns.some((one) => columnKey(one.name) === columnKey(heading)) || spec.fields?.[heading] !== undefined;
  });
  if (!hasField)
    throw new CorbixError("BAD_DEFINITION", say().workbook.cannotFillTableHeadingColumn({ name: table.name }), {
      where,
      advice: say().workbook.headingsColumns({
        columns: table.columns.join(", "),
        columns2: columns.map((one) => one.name).join(", "),
      }),
    });
  if (last > first) {
    const drop = (text: string): CellChange => asText(text);
    changes.get(first + 1)?.set(left, drop("{{when 1 = 2}}"));
    changes.get(last)?.set(left, drop(last === first + 1 ? "{{when 1 = 2}}{{end}}" : "{{end}}"));
  }
  return withChanges(workbook, new Map([[table.sheet, changes]]));
}

function calculatedColumns(root: XmlElement): (string | undefined)[] {
  return (root.child("tableColumns")?.elements("tableColumn") ?? []).map(
    (column) => column.child("calculatedColumnFormula")?.text,
  );
}

/** Sample rows go whole, so nothing else may stand beside them. */
function refuseNeighbours(root: XmlElement, range: CellRange, name: string, where: string): void {
  for (const row of root.child("sheetData")?.elements("row") ?? []) {
    const number = Number(row.attr("r")) - 1;
    if (number < range.top || number > range.bottom) continue;
    for (const cell of row.elements("c")) {
      const place = maybeRange(cell.attr("r") ?? "");
      const isFilled = cell.child("v") || cell.child("is") || cell.child("f");
      if (!place || !isFilled || (place.left >= range.left && place.left <= range.right)) continue;
      throw new CorbixError(
        "BAD_DEFINITION",
        say().workbook.cannotFillTableCellStands({ name, cellName: cellName(number, place.left) }),
        { where, advice: say().workbook.leaveRowTemplateSTable() },
      );
    }
  }
}

/** A whole table where a name leads. Rows that it needs beyond those of the named range are put in. */
function wholeTable(
  workbook: Workbook,
  spec: NamedTable & { readonly name: string },
  scope: Scope,
  where: string,
  tables: readonly DefinedTable[],
): OoxmlPackage {
  const { name } = spec;
  const { sheet, range } = namedPlace(
    workbook,
    name,
    where,
    tables.map((table) => table.name),
  );
  const needed = rowsOfTable(spec);
  const missing = needed - (range.bottom - range.top + 1);
  const roomy = missing > 0 ? repeatRow(workbook, sheet, range.bottom, missing + 1) : workbook.package;
  return layTable(workbookFromPackage(roomy), { sheet, range }, spec, scope, where);
}

/** A row once more below itself, with everything moved; cells of the copies are blank. */
function repeatRow(workbook: Workbook, sheet: number, row: number, count: number): OoxmlPackage {
  const template = WorkbookTemplate.of(workbook, { literal: true });
  const none = { columns: [], rowCount: 0, rowNumbers: [] };
  const env: Env = {
    table: none,
    lines: Array.from({ length: count }, (_, at) => at),
    row: -1,
    spaces: {},
    locale: "en-GB",
    today: 0,
  };
  const section = { kind: "line", lines: OWN_LINES, from: row, to: row, areas: [], children: [] } as const;
  const bound = new BoundWorkbook(template, { mode: "group", columns: [], spaces: {} }, { sheet, rows: [section] });
  const moved = workbookFromPackage(bound.recalculate(env).package);
  const changes = new Map<number, Map<number, CellChange>>();
  const { part } = moved.sheets[sheet];
  for (const element of moved.package.getXml(part).child("sheetData")?.elements("row") ?? []) {
    const number = Number(element.attr("r")) - 1;
    if (number <= row || number >= row + count) continue;
    const cleared = new Map<number, CellChange>();
    for (const cell of element.elements("c")) {
      const place = maybeRange(cell.attr("r") ?? "");
      if (place) cleared.set(place.left, asText(""));
    }
    changes.set(number, cleared);
  }
  return withChanges(moved, new Map([[sheet, changes]]));
}
