import { getFormatFromId } from "numfmt";
import {
  CorbixError,
  columnKey,
  type Finding,
  formatValue,
  maybeSerialFromIso,
  suggestName,
} from "../../common/index.js";
import {
  type CellFormat,
  type CellRange,
  isDateCode,
  maybeRange,
  openWorkbook,
  rangeHolds,
  rangeName,
  type ScannedCell,
  type SheetInfo,
  scanCells,
  splitSheet,
  type Workbook,
} from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import type { Decision } from "../decision.js";
import { chooseSheet, type SheetTable } from "../header/choose-sheet.js";
import { ownTable } from "../header/own-table.js";
import { type DefinedTable, definedTables, headerHints, summaryRanges } from "../header/sheet-signs.js";
import type { TableArea } from "../header/table-search.js";
import type { IntakeRules } from "../rules.js";
import { FIRST_ROWS, Kind, RawSheet } from "./raw-sheet.js";

/** Days between the two date systems of ECMA-376 part 1, 18.17.4.1. */
const DAYS_1904 = 1462;

/** Codes by which a number looks as the reader's system has it: they tell nothing of how a heading is written. */
const SYSTEM_CODES: ReadonlySet<string> = new Set(["General", ...[14, 22].map((id) => getFormatFromId(id) ?? "")]);

/** One sheet of a file, with what was decided to come to it and, where a table in it was chosen, its range. */
export interface ChosenSheet {
  readonly sheet: RawSheet;
  readonly decisions: readonly Decision[];
  readonly area?: TableArea;
  /** Sentences about what else is in the file and was not read. */
  readonly others: readonly string[];
  readonly findings?: readonly Finding[];
}

/** The rows of one sheet of a workbook: the one that is named or holds the named table, or the visible one with the largest table. Throws `NOT_A_WORKBOOK` or `NO_TABLE`. */
export function readWorkbookSheet(
  bytes: Uint8Array,
  where: string,
  options: IntakeRules & { readonly part?: string },
): ChosenSheet {
  const workbook = openWorkbook(bytes, where);
  const sheets = workbook.sheets.filter((sheet) => sheet.kind === "worksheet" && workbook.package.has(sheet.part));
  const rules = withPart(
    options,
    sheets.map((sheet) => sheet.name),
  );
  const named = rules.table === undefined ? undefined : findNamedTable(workbook, sheets, rules.table, where);
  const withCells = sheets.filter((sheet) => hasCells(workbook, sheet));
  const read = (info: SheetInfo): ReadSheet => readSheet(workbook, info, where);
  const choice = named
    ? { chosen: read(named.info), decision: named.decision, findings: [] }
    : chooseSheet(sheets, withCells, { where, name: rules.sheet }, read, (info) => workbook.package.sizeOf(info.part));
  const { chosen } = choice;
  const own = named ? undefined : ownTable(chosen.sheet, chosen.tables, rules);
  const area = named?.area ?? own;
  return {
    sheet: chosen.sheet,
    others: withCells
      .filter((other) => other !== chosen.info)
      .map((other) => say().table.sheet({ name: other.name, hidden: other.hidden })),
    decisions: [choice.decision, ...(own ? [own.decision] : [])],
    findings: choice.findings,
    ...(area ? { area } : {}),
  };
}

/** What was named behind a file's name: its sheet, where there is one of that name, otherwise a table or range. */
export function withPart(options: IntakeRules & { readonly part?: string }, sheets: readonly string[]): IntakeRules {
  const { part, ...rules } = options;
  if (part === undefined) return rules;
  return sheets.some((name) => columnKey(name) === columnKey(part))
    ? { ...rules, sheet: part }
    : { ...rules, table: part };
}

/** A sheet with its cells. */
interface ReadSheet extends SheetTable {
  readonly info: SheetInfo;
  readonly tables: readonly DefinedTable[];
}

function readSheet(workbook: Workbook, info: SheetInfo, where: string): ReadSheet {
  const sheet = new RawSheet(
    say().place.sheetIn({ where, name: info.name }),
    {
      kind: "workbook",
      sheet: info.name,
      dates: say().table.counted({ date1904: workbook.date1904 }),
    },
    true,
    [...workbook.sharedStrings],
  );
  const signs = readCells(workbook, info, sheet);
  return { name: info.name, info, sheet, tables: signs.tables, isSummary: signs.isSummary };
}

function hasCells(workbook: Workbook, sheet: SheetInfo): boolean {
  // A sheet without cells is a few hundred bytes; the large ones are not inflated to find out.
  if (workbook.package.sizeOf(sheet.part) > 20_000) return true;
  return /<(?:\w+:)?c[\s>]/.test(workbook.package.getText(sheet.part));
}

interface NamedTable {
  readonly name: string;
  readonly info: SheetInfo;
  readonly area: TableArea;
  readonly decision: Decision;
}

/** A table of the workbook (18.5.1.2) or a named range by its name. Throws `NO_TABLE` with a near name. */
function findNamedTable(workbook: Workbook, sheets: readonly SheetInfo[], wanted: string, where: string): NamedTable {
  const all = [...namedTables(workbook, sheets), ...namedRanges(workbook, sheets)];
  const found = all.find((table) => columnKey(table.name) === columnKey(wanted));
  if (found) return found;
  const asked = askedRange(wanted, sheets);
  if (asked) return asked;
  throw new CorbixError("NO_TABLE", say().table.cannotFindTableNamedRange({ wanted }), {
    where,
    advice: suggestName(
      wanted,
      [...all.map((table) => table.name), ...sheets.map((sheet) => sheet.name)],
      say().table.tablesRangesSheets(),
    ),
  });
}

/** `Visits!A4:H200`, or `A4:H200` of the only sheet. */
function askedRange(wanted: string, sheets: readonly SheetInfo[]): NamedTable | undefined {
  const { sheet, rest } = splitSheet(wanted);
  const range = maybeRange(rest.replaceAll("$", "").toUpperCase());
  const info =
    sheet === undefined
      ? sheets.filter((one) => !one.hidden).length === 1
        ? sheets.find((one) => !one.hidden)
        : undefined
      : sheets.find((one) => columnKey(one.name) === columnKey(sheet));
  if (!range || !info || range.bottom <= range.top) return undefined;
  const why = say().table.askedLies({ name: info.name });
  return {
    name: wanted,
    info,
    area: { range, names: undefined, isAsked: true, others: [] },
    decision: { what: "range", chosen: rangeName(range), why, corrected: true },
  };
}

function namedTables(workbook: Workbook, sheets: readonly SheetInfo[]): NamedTable[] {
  return sheets.flatMap((info) =>
    definedTables(workbook, info).map(({ name, range, names }): NamedTable => {
      const why = say().table.askedLies({ name: info.name });
      return {
        name,
        info,
        area: { range, names, isAsked: true, others: [] },
        decision: { what: "table", chosen: name, why, corrected: true },
      };
    }),
  );
}

function namedRanges(workbook: Workbook, sheets: readonly SheetInfo[]): NamedTable[] {
  return workbook.names.flatMap((name): NamedTable[] => {
    const { sheet, rest } = splitSheet(name.formula);
    const info = sheets.find((candidate) => candidate.name === sheet);
    const range = maybeRange(rest.replaceAll("$", ""));
    if (!info || !range || name.name.startsWith("_xlnm.")) return [];
    const decision = {
      what: say().table.namedRange(),
      chosen: name.name,
      why: say().table.askedFor({ rest: rest.replaceAll("$", ""), name: info.name }),
      corrected: true,
    };
    return [{ name: name.name, info, area: { range, names: undefined, isAsked: true, others: [] }, decision }];
  });
}

function readCells(
  workbook: Workbook,
  info: SheetInfo,
  sheet: RawSheet,
): { tables: readonly DefinedTable[]; isSummary: boolean } {
  const formats = workbook.styles.formats.map((format) => formatKind(format));
  const bold = workbook.styles.formats.map((format) => format.font.bold);
  const bytes = workbook.package.takeBytes(info.part);
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const head = buffer.toString("latin1", 0, Math.max(0, buffer.indexOf("sheetData")));
  const summaries = summaryRanges(workbook, info);
  const blank = sheet.strings.map((text) => text.trim() === "");
  let row = -1;
  let isHidden = false;
  let kept = 0;
  /** Cells of summaries: kept apart until it is known whether there is anything else. */
  const apart: { row: number; column: number }[] = [];
  const take = (cell: ScannedCell): void => {
    if (cell.row !== row) {
      row = cell.row;
      sheet.startRow(row + 1, isHidden);
    }
    putCell(cell, sheet, workbook, formats, blank);
    if (sheet.rowCount <= FIRST_ROWS && bold[cell.style]) sheet.countBold(sheet.rowCount - 1, 1);
  };
  const end = scanCells(
    bytes,
    (cell) => {
      if (cell.from < 0 && cell.inline === undefined) return;
      if (summaries.length > 0 && summaries.some((range) => rangeHolds(range, cell.row, cell.column)))
        apart.push({ row: cell.row, column: cell.column });
      else kept++;
      take(cell);
    },
    (_, tag) => {
      isHidden = tag.includes("hidden=") && /\shidden="(1|true)"/.test(tag);
    },
    sheet.where,
  );
  const isSummary = apart.length > kept;
  if (!isSummary && apart.length > 0) {
    sheet.summaries.push(...summaries);
    for (const { row: at, column } of apart) sheet.clear(at + 1, column);
  }
  const tail = buffer.toString("latin1", end);
  sheet.merges = readMerges(tail);
  sheet.hints.push(...headerHints(workbook, info, head, tail));
  return { tables: definedTables(workbook, info), isSummary };
}

/** The merged ranges that stand behind the cells. */
function readMerges(tail: string): CellRange[] {
  return [...tail.matchAll(/<(?:\w+:)?mergeCell\s[^>]*ref="([A-Z]+\d+:[A-Z]+\d+)"/g)]
    .map((match) => maybeRange(match[1]))
    .filter((range) => range !== undefined);
}

interface FormatKind {
  readonly kind: number;
  readonly currency?: string;
  /** Digits of a format such as `00000`, which shows a code. */
  readonly codeDigits?: number;
}

/** What a cell format says a number is. */
function formatKind(format: CellFormat): FormatKind {
  const bare = format.code.replace(/"[^"]*"|\\.|\[[^\]]*\]/g, "");
  if (format.isDate) {
    const hasDay = /[yd]/i.test(bare) || /m/i.test(bare.replace(/h+[^a-z]*m+|m+[^a-z]*s+/gi, ""));
    return { kind: hasDay ? (/[hs]/i.test(bare) ? Kind.datetime : Kind.date) : Kind.time };
  }
  if (/^0{2,}$/.test(format.code)) return { kind: Kind.text, codeDigits: format.code.length };
  if (bare.includes("%")) return { kind: Kind.percent };
  const currency =
    /\[\$([^-\]]+)/.exec(format.code)?.[1] ??
    /(?:^|")\s*([€£$¥]|[A-Z]{3})\s*"/.exec(format.code)?.[1] ??
    /[€£$¥]/.exec(bare)?.[0];
  return currency === undefined ? { kind: Kind.number } : { kind: Kind.money, currency: currency.trim() };
}

function putCell(
  cell: ScannedCell,
  sheet: RawSheet,
  workbook: Workbook,
  formats: readonly FormatKind[],
  blank: readonly boolean[],
): void {
  const { column } = cell;
  switch (cell.type) {
    case "s": {
      const { index } = cell;
      if (index < workbook.sharedStrings.length && !blank[index]) sheet.put(column, Kind.text, index);
      return;
    }
    case "n": {
      if (cell.to === cell.from) return;
      const { number } = cell;
      if (Number.isFinite(number)) {
        putNumber(sheet, column, number, formats[cell.style], workbook.date1904);
        const code = sheet.rowCount <= FIRST_ROWS ? workbook.styles.formats[cell.style]?.code : undefined;
        if (code !== undefined && !SYSTEM_CODES.has(code)) {
          const shown = number + (workbook.date1904 && isDateCode(code) ? DAYS_1904 : 0);
          sheet.keepShown(column, () => formatValue(shown, code).trim());
        }
      } else sheet.putText(column, cell.value ?? "");
      return;
    }
    case "b":
      sheet.put(column, /^(1|true)$/.test(cell.value ?? "") ? Kind.true : Kind.false, 0);
      return;
    case "e":
      sheet.putText(column, cell.value ?? "", Kind.error);
      return;
    case "d": {
      const text = cell.value ?? "";
      const serial = maybeSerialFromIso(text.replace(/\.\d+|Z$/g, ""));
      if (serial === undefined) sheet.putText(column, text);
      else sheet.put(column, Number.isInteger(serial) ? Kind.date : Kind.datetime, serial);
      return;
    }
    default:
      sheet.putText(column, cell.value ?? "");
  }
}

function putNumber(
  sheet: RawSheet,
  column: number,
  number: number,
  format: FormatKind | undefined,
  date1904: boolean,
): void {
  const kind = format?.kind ?? Kind.number;
  if (format?.codeDigits !== undefined && Number.isInteger(number) && number >= 0) {
    sheet.putText(column, String(number).padStart(format.codeDigits, "0"));
    return;
  }
  if (format?.currency !== undefined) sheet.countCurrency(column, format.currency);
  const isCounted1904 = date1904 && (kind === Kind.date || kind === Kind.datetime);
  sheet.put(column, kind === Kind.text ? Kind.number : kind, isCounted1904 ? number + DAYS_1904 : number);
}
