import { CorbixError, suggestName } from "../common/index.js";
import { openWorkbook, type ScannedCell, type SheetInfo, scanCells, type Workbook } from "../spreadsheet/index.js";
import type { RawCell, RawRow, RawSheet } from "./raw-rows.js";
import type { ColumnType } from "./table.js";

/** Days between the two date systems of ECMA-376 part 1, 18.17.4.1. */
const DAYS_1904 = 1462;

/** The rows of one sheet: the named one, or the first visible one with cells. Throws `NOT_A_WORKBOOK` or `NO_TABLE`. */
export function readWorkbookSheet(bytes: Uint8Array, where: string, sheetName?: string): RawSheet {
  const workbook = openWorkbook(bytes, where);
  const sheet = chooseSheet(workbook, where, sheetName);
  const rows = readRows(workbook, sheet, where);
  return {
    where: `${where}, sheet ${sheet.name}`,
    rows,
    reading: {
      kind: "workbook",
      sheet: sheet.name,
      dates: workbook.date1904 ? "counted from 1904" : "counted from 1900",
    },
  };
}

function chooseSheet(workbook: Workbook, where: string, name: string | undefined): SheetInfo {
  const sheets = workbook.sheets.filter((sheet) => sheet.kind === "worksheet" && workbook.package.has(sheet.part));
  if (name !== undefined) {
    const found = sheets.find((sheet) => sheet.name.toLowerCase() === name.toLowerCase());
    if (found) return found;
    const names = sheets.map((sheet) => sheet.name);
    throw new CorbixError("NO_TABLE", `Cannot find the sheet \`${name}\`.`, {
      where,
      advice: suggestName(name, names, "sheets"),
    });
  }
  const visible = sheets.filter((sheet) => !sheet.hidden);
  const first = visible.find((sheet) => hasCells(workbook.package.getBytes(sheet.part))) ?? visible[0];
  if (!first) throw new CorbixError("NO_TABLE", "Cannot find a visible sheet with cells in the workbook.", { where });
  return first;
}

function hasCells(bytes: Uint8Array): boolean {
  return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).includes("<c ");
}

function readRows(workbook: Workbook, sheet: SheetInfo, where: string): RawRow[] {
  const rows: { number: number; cells: (RawCell | undefined)[]; hidden?: boolean }[] = [];
  const dates = dateTypes(workbook);
  let current: (typeof rows)[number] | undefined;
  let hidden = false;
  scanCells(
    workbook.package.getBytes(sheet.part),
    (cell) => {
      if (!current || current.number !== cell.row + 1) {
        current = { number: cell.row + 1, cells: [], ...(hidden ? { hidden } : {}) };
        rows.push(current);
      }
      current.cells[cell.column] = rawCell(cell, workbook, dates);
    },
    (_, tag) => {
      hidden = / hidden="(1|true)"/.test(tag);
    },
    `${where}, sheet ${sheet.name}`,
  );
  return rows;
}

/** For each cell format the kind of date it shows, if it shows one. */
function dateTypes(workbook: Workbook): (ColumnType | undefined)[] {
  return workbook.styles.formats.map((format) => {
    if (!format.isDate) return undefined;
    const bare = format.code.replace(/"[^"]*"|\\.|\[[^\]]*\]/g, "");
    const hasDay = /[yd]/i.test(bare) || /m/i.test(bare.replace(/h+[^a-z]*m+|m+[^a-z]*s+/gi, ""));
    return hasDay ? (/[hs]/i.test(bare) ? "datetime" : "date") : "time";
  });
}

function rawCell(
  cell: ScannedCell,
  workbook: Workbook,
  dates: readonly (ColumnType | undefined)[],
): RawCell | undefined {
  const { value } = cell;
  if (value === undefined || (value === "" && cell.type !== "str" && cell.type !== "inlineStr")) return undefined;
  switch (cell.type) {
    case "s":
      return { value: workbook.sharedStrings[Number(value)] ?? "" };
    case "str":
    case "inlineStr":
      return { value };
    case "b":
      return { value: value === "1" || value === "true" };
    case "e":
      return { value, error: true };
    case "d":
      return { value };
    default: {
      const type = dates[cell.style];
      const number = Number(value);
      if (!Number.isFinite(number)) return { value };
      if (type === undefined) return { value: number };
      return { value: workbook.date1904 && type !== "time" ? number + DAYS_1904 : number, type };
    }
  }
}
