/** Each visible sheet of a workbook as a workbook of its own: looks kept, values only. */
import { safeName, uniqueName } from "../naming/index.js";
import { openWorkbook } from "../spreadsheet/index.js";
import { valuesOnly } from "./values-only.js";

export interface SheetFile {
  readonly sheet: string;
  /** Named after the sheet, safe for every file system, no two alike. */
  readonly file: string;
  readonly bytes: Uint8Array;
}

/** One after the other, so that a folder can be written without holding all. Throws `NOT_A_WORKBOOK` or `BROKEN_PACKAGE`. */
export function* sheetsApart(bytes: Uint8Array, where: string): Generator<SheetFile> {
  const workbook = openWorkbook(bytes, where);
  const taken = new Set<string>();
  for (const sheet of workbook.sheets) {
    if (sheet.hidden || sheet.kind !== "worksheet") continue;
    const file = uniqueName(safeName(sheet.name), ".xlsx", taken);
    yield { sheet: sheet.name, file, bytes: valuesOnly(workbook.package, [sheet.name]).toBytes() };
  }
}
