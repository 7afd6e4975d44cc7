/** Where a table ends below. */
import { say } from "../../words/index.js";
import type { LeftOutReason } from "../left-out.js";
import { type Header, looksLikeHeader } from "./find-header.js";
import { isRepeat, namesIn, type TableSearch } from "./table-search.js";

/** Index of the first row behind the table, and why what follows is none of it. */
export function findEnd(search: TableSearch, header: Header): { row: number; reason: LeftOutReason } {
  const { sheet, rules, range } = search;
  const { rowNumbers } = sheet;
  const behind = (number: number): number => {
    const at = rowNumbers.findIndex((row) => row > number);
    return at < 0 ? sheet.rowCount : at;
  };
  if (range) return { row: behind(range.bottom + 1), reason: "outside" };
  const rule = rules.end ?? "found";
  if (typeof rule === "object") {
    search.decisions.push({
      what: "end",
      chosen: say().place.row({ number: rule.row }),
      why: say().table.corrected(),
      corrected: true,
    });
    return { row: behind(rule.row), reason: "outside" };
  }
  if (rule === "last-row") return { row: sheet.rowCount, reason: "outside" };
  for (let row = header.to + 2; row < sheet.rowCount; row++) {
    if (rowNumbers[row] - rowNumbers[row - 1] < 2) continue;
    if (rule === "blank-row") return { row, reason: "outside" };
    const next = nextHeader(search, row, header);
    if (next === undefined) continue;
    search.decisions.push({
      what: "end",
      chosen: say().place.row({ number: rowNumbers[row - 1] }),
      why: say().table.rowBelowBlankLineHeader({ rowNumber: rowNumbers[next] }),
      corrected: false,
    });
    search.findings.push({
      code: "several-tables",
      severity: "warn",
      where: sheet.where,
      what: say().table.anotherTableBeginsRowOnly({ rowNumber: rowNumbers[next], namesIn: namesIn(search, next) }),
      advice: say().table.ifOtherWantedCorrectHeader({ rowNumber: rowNumbers[next] }),
    });
    return { row, reason: "other table" };
  }
  return { row: sheet.rowCount, reason: "outside" };
}

/** The header of another table at a row behind a blank line, or one line below a title there. */
function nextHeader(search: TableSearch, row: number, header: Header): number | undefined {
  const { sheet } = search;
  for (let at = row; at < Math.min(row + 3, sheet.rowCount - 1); at++) {
    if (isRepeat(search, at, header)) return undefined;
    if (looksLikeHeader(sheet, at, search.first, search.last)) return at;
    if (sheet.filled(at).length > 1) return undefined;
  }
  return undefined;
}
