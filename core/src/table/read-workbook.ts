import { CorbixError, foldName, maybeSerialFromIso, suggestName } from "../common/index.js";
import {
  type CellFormat,
  type CellRange,
  maybeRange,
  openWorkbook,
  type ScannedCell,
  type SheetInfo,
  scanCells,
  splitSheet,
  type Workbook,
} from "../spreadsheet/index.js";
import type { Decision } from "./decision.js";
import { Kind, RawSheet } from "./raw-sheet.js";
import type { IntakeRules } from "./rules.js";

/** Days between the two date systems of ECMA-376 part 1, 18.17.4.1. */
const DAYS_1904 = 1462;

/** One sheet of a file, with what was decided to come to it and, where a table in it was chosen, its range. */
export interface ChosenSheet {
  readonly sheet: RawSheet;
  readonly decisions: readonly Decision[];
  readonly range?: CellRange;
  /** Sentences about what else is in the file and was not read. */
  readonly others: readonly string[];
}

/** The rows of one sheet of a workbook: the one that is named or holds the named table, or the largest visible one. Throws `NOT_A_WORKBOOK` or `NO_TABLE`. */
export function readWorkbookSheet(bytes: Uint8Array, where: string, rules: IntakeRules): ChosenSheet {
  const workbook = openWorkbook(bytes, where);
  const sheets = workbook.sheets.filter((sheet) => sheet.kind === "worksheet" && workbook.package.has(sheet.part));
  const named = rules.table === undefined ? undefined : findNamedTable(workbook, sheets, rules.table, where);
  const chosen = named
    ? { info: named.info, decision: named.decision }
    : chooseSheet(workbook, sheets, where, rules.sheet);
  const { info } = chosen;
  const sheet = new RawSheet(
    `${where}, sheet ${info.name}`,
    {
      kind: "workbook",
      sheet: info.name,
      dates: workbook.date1904 ? "counted from 1904" : "counted from 1900",
    },
    true,
    [...workbook.sharedStrings],
  );
  readCells(workbook, info, sheet);
  const others = sheets
    .filter((other) => other !== info && hasCells(workbook, other))
    .map((other) => `sheet "${other.name}"${other.hidden ? ", which is hidden" : ""}`);
  return {
    sheet,
    others,
    decisions: [chosen.decision],
    ...(named ? { range: named.range } : {}),
  };
}

function chooseSheet(
  workbook: Workbook,
  sheets: readonly SheetInfo[],
  where: string,
  name: string | undefined,
): { info: SheetInfo; decision: Decision } {
  if (name !== undefined) {
    const found = sheets.find((sheet) => foldName(sheet.name) === foldName(name));
    if (found)
      return { info: found, decision: { what: "sheet", chosen: found.name, why: "it was asked for", corrected: true } };
    throw new CorbixError("NO_TABLE", `Cannot find the sheet \`${name}\`.`, {
      where,
      advice: suggestName(
        name,
        sheets.map((sheet) => sheet.name),
        "sheets",
      ),
    });
  }
  const visible = sheets.filter((sheet) => !sheet.hidden && hasCells(workbook, sheet));
  const size = (sheet: SheetInfo): number => workbook.package.sizeOf(sheet.part);
  const info = visible.reduce<SheetInfo | undefined>(
    (best, sheet) => (best === undefined || size(sheet) > size(best) ? sheet : best),
    undefined,
  );
  if (!info) {
    throw new CorbixError("NO_TABLE", "Cannot find a visible sheet with cells in the workbook.", {
      where,
      advice: sheets.some((sheet) => sheet.hidden) ? "Name the hidden sheet, if it is the one." : "Export it again.",
    });
  }
  const why =
    visible.length === 1 ? "the only visible sheet with cells" : `the largest of ${visible.length} visible sheets`;
  return { info, decision: { what: "sheet", chosen: info.name, why, corrected: false } };
}

function hasCells(workbook: Workbook, sheet: SheetInfo): boolean {
  // A sheet without cells is a few hundred bytes; the large ones are not inflated to find out.
  if (workbook.package.sizeOf(sheet.part) > 20_000) return true;
  return /<(?:\w+:)?c[\s>]/.test(workbook.package.getText(sheet.part));
}

interface NamedTable {
  readonly name: string;
  readonly info: SheetInfo;
  readonly range: CellRange;
  readonly decision: Decision;
}

/** A table of the workbook (18.5.1.2) or a named range by its name. Throws `NO_TABLE` with a near name. */
function findNamedTable(workbook: Workbook, sheets: readonly SheetInfo[], wanted: string, where: string): NamedTable {
  const all = [...definedTables(workbook, sheets), ...namedRanges(workbook, sheets)];
  const found = all.find((table) => foldName(table.name) === foldName(wanted));
  if (found) return found;
  throw new CorbixError("NO_TABLE", `Cannot find a table or named range \`${wanted}\`.`, {
    where,
    advice: suggestName(
      wanted,
      all.map((table) => table.name),
      "tables and ranges",
    ),
  });
}

function definedTables(workbook: Workbook, sheets: readonly SheetInfo[]): NamedTable[] {
  return sheets.flatMap((info) =>
    workbook.package
      .relationships(info.part)
      .filter((relation) => relation.type === "table" && workbook.package.has(relation.target))
      .flatMap((relation): NamedTable[] => {
        const xml = workbook.package.getXml(relation.target);
        const name = xml.attr("displayName") ?? xml.attr("name") ?? "";
        const range = maybeRange(xml.attr("ref") ?? "");
        if (!range) return [];
        const totals = Number(xml.attr("totalsRowCount") ?? 0);
        return [
          {
            name,
            info,
            range: { ...range, bottom: range.bottom - totals },
            decision: {
              what: "table",
              chosen: name,
              why: `it was asked for; it lies in ${info.name}`,
              corrected: true,
            },
          },
        ];
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
      what: "named range",
      chosen: name.name,
      why: `it was asked for; it is ${rest.replaceAll("$", "")} in ${info.name}`,
      corrected: true,
    };
    return [{ name: name.name, info, range, decision }];
  });
}

function readCells(workbook: Workbook, info: SheetInfo, sheet: RawSheet): void {
  const formats = workbook.styles.formats.map((format) => formatKind(format));
  const bytes = workbook.package.takeBytes(info.part);
  const blank = sheet.strings.map((text) => text.trim() === "");
  let row = -1;
  let isHidden = false;
  const end = scanCells(
    bytes,
    (cell) => {
      if (cell.from < 0 && cell.inline === undefined) return;
      if (cell.row !== row) {
        row = cell.row;
        sheet.startRow(row + 1, isHidden);
      }
      putCell(cell, sheet, workbook, formats, blank);
    },
    (_, tag) => {
      isHidden = tag.includes("hidden=") && /\shidden="(1|true)"/.test(tag);
    },
    sheet.where,
  );
  sheet.merges = readMerges(bytes, end);
}

/** The merged ranges that stand behind the cells. */
function readMerges(bytes: Uint8Array, from: number): CellRange[] {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset + from, bytes.byteLength - from).toString("latin1");
  return [...text.matchAll(/<(?:\w+:)?mergeCell\s[^>]*ref="([A-Z]+\d+:[A-Z]+\d+)"/g)]
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
      if (Number.isFinite(number)) putNumber(sheet, column, number, formats[cell.style], workbook.date1904);
      else sheet.putText(column, cell.value ?? "");
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
