/** Each visible sheet of a workbook as a workbook of its own: looks kept, values only. */
import type { Finding } from "../../common/index.js";
import { safeName, uniqueName } from "../../naming/index.js";
import { openWorkbook, workbookFromPackage } from "../../spreadsheet/index.js";
import { withStoredValues } from "./stored-values.js";
import { valuesOnly } from "./values-only.js";

export interface SheetFile {
  readonly sheet: string;
  /** Named after the sheet, safe for every file system, no two alike. */
  readonly file: string;
  readonly bytes: Uint8Array;
  readonly findings: readonly Finding[];
}

/** One after the other, so that a folder can be written without holding all; `today` is what TODAY gives where a formula has no value. Throws `NOT_A_WORKBOOK` or `BROKEN_PACKAGE`. */
export function* sheetsApart(bytes: Uint8Array, where: string, today: number): Generator<SheetFile> {
  const { package: opened, findings } = withStoredValues(openWorkbook(bytes, where).package, today);
  const workbook = workbookFromPackage(opened);
  const taken = new Set<string>();
  for (const sheet of workbook.sheets) {
    if (sheet.hidden || sheet.kind !== "worksheet") continue;
    const file = uniqueName(safeName(sheet.name), ".xlsx", taken);
    yield { sheet: sheet.name, file, bytes: valuesOnly(opened, [sheet.name]).toBytes(), findings };
  }
}
