/** References as they are written. */
import { parseA1Ref, parseStructRef, type RangeA1, stringifyA1Ref } from "@borgar/fx/xlsx";
import type { FormulaReference, TableReference } from "./evaluation-context.js";

/** A reference as it is written: of another workbook, to a sheet, to cells. */
export interface WrittenReference {
  readonly workbookName?: string;
  readonly sheetName?: string;
  readonly range?: RangeA1;
}

/** `Visits!B2:C9`; anything else gives `undefined`. The package's types are those of its other kind of reference. */
export function readReference(text: string): WrittenReference | undefined {
  return parseA1Ref(text) as WrittenReference | undefined;
}

/** A reference to cells in the words of a formula; of the formula's own sheet without a sheet's name. */
export function writeReference(range: RangeA1, sheetName = ""): string {
  return stringifyA1Ref({ sheetName, range } as Parameters<typeof stringifyA1Ref>[0]);
}

/** A reference within the workbook; those into other workbooks give `undefined`. */
export function referenceOf(text: string): FormulaReference | undefined {
  const parsed = readReference(text);
  if (!parsed?.range || parsed.workbookName) return undefined;
  return { sheet: parsed.sheetName || undefined, range: parsed.range, single: !text.includes(":") };
}

/** `Visits[Fee]`; anything else gives `undefined`. */
export function tableReferenceOf(text: string): TableReference | undefined {
  const parsed = parseStructRef(text) as
    | { workbookName?: string; table?: string; columns: string[]; sections: string[] }
    | undefined;
  if (!parsed || parsed.workbookName) return undefined;
  return { table: parsed.table || undefined, columns: parsed.columns, sections: parsed.sections };
}

/** `Jan:Mar!B2` and `'Jan 26:Mar 26'!B2`; anything else gives `undefined`. */
export function sheetsOf(text: string): { from: string; to: string; rest: string } | undefined {
  const found = /^(?:'((?:[^']|'')+?):((?:[^']|'')+)'|([^'!:]+):([^'!:]+))!(.+)$/.exec(text);
  if (!found) return undefined;
  const plain = (name: string): string => name.replaceAll("''", "'");
  return { from: plain(found[1] ?? found[3]), to: plain(found[2] ?? found[4]), rest: found[5] };
}
