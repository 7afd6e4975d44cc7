/** References as they are written. */
import { parseA1Ref, parseStructRef, type RangeA1 } from "@borgar/fx/xlsx";
import type { FormulaReference, TableReference } from "./evaluation-context.js";

/** A reference within the workbook; those into other workbooks give `undefined`. */
export function referenceOf(text: string): FormulaReference | undefined {
  const parsed = parseA1Ref(text) as { workbookName?: string; sheetName?: string; range?: RangeA1 } | undefined;
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
