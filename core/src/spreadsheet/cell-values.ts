import { scanCells } from "./scan-cells.js";
import type { Workbook } from "./workbook.js";

export interface CellValue {
  readonly value: string | number | boolean;
  readonly style: number;
  readonly isError: boolean;
}

/** The values of a sheet's cells as they are stored, by row and column; none where the part is missing. */
export function cellValues(workbook: Workbook, part: string): Map<number, Map<number, CellValue>> {
  const cells = new Map<number, Map<number, CellValue>>();
  if (!workbook.package.has(part)) return cells;
  scanCells(
    workbook.package.getBytes(part),
    ({ row, column, type, value, style }) => {
      if (value === undefined || value === "") return;
      const line = cells.get(row) ?? new Map<number, CellValue>();
      cells.set(row, line);
      line.set(column, { value: valueOf(workbook, type, value), style, isError: type === "e" });
    },
    undefined,
    part,
  );
  return cells;
}

function valueOf(workbook: Workbook, type: string, value: string): string | number | boolean {
  switch (type) {
    case "s":
      return workbook.sharedStrings[Number(value)] ?? "";
    case "b":
      return value === "1" || value === "true";
    case "str":
    case "inlineStr":
    case "e":
    case "d":
      return value;
    default:
      return Number(value);
  }
}
