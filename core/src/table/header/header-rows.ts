/** The rows of a table's header: as corrected, as the sheet defines them, or as found. */

import { CorbixError } from "../../common/index.js";
import { say } from "../../words/index.js";
import { type FoundHeader, findHeader, type Header, joinHeader } from "./find-header.js";
import { namesIn, rowsText, type TableSearch } from "./table-search.js";

export function findHeaderRows(search: TableSearch): Header {
  const { sheet, rules, range } = search;
  const asked = range ? range.top + 1 : rules.headerRow;
  if (sheet.headerAt !== undefined) return { from: sheet.headerAt, to: sheet.headerAt, why: "" };
  if (rules.header === "none") return noHeader(search, asked);
  if (asked !== undefined) {
    const at = sheet.rowNumbers.indexOf(asked);
    if (at < 0)
      throw new CorbixError("NO_TABLE", say().table.cannotUseRowHeaderBlank({ asked }), {
        where: sheet.where,
        advice: say().table.correctHeaderRowDataset(),
      });
    const to = Math.min(at + (rules.headerLines ?? 1) - 1, sheet.rowCount - 1);
    const corrected = search.area?.isAsked ?? true;
    const why = say().table.firstRowTable({ isRange: Boolean(range), corrected });
    search.decisions.push({ what: "header", chosen: rowsText(search, at, to), why, corrected });
    return { from: at, to, why };
  }
  const found = findHeader(sheet, search.first, search.last);
  const { row } = found;
  const header =
    rules.headerLines === undefined
      ? joinHeader(sheet, row, search.first, search.last)
      : { from: row, to: Math.min(row + rules.headerLines - 1, sheet.rowCount - 1), why: say().table.asCorrected() };
  search.decisions.push({
    what: "header",
    chosen: rowsText(search, header.from, header.to),
    why: header.why || found.why,
    corrected: rules.headerLines !== undefined,
  });
  tellDoubts(search, found, header);
  return header;
}

/** The rows begin at the first one, or where the rows of a range that was asked for begin. */
function noHeader(search: TableSearch, asked: number | undefined): Header {
  const { sheet, rules } = search;
  const at = asked === undefined ? 0 : sheet.rowNumbers.findIndex((row) => row >= asked);
  const from = at < 0 ? sheet.rowCount : at;
  search.decisions.push({
    what: "header",
    chosen: "none",
    why: say().table.correctedNamesGiven({ isNames: Boolean(rules.names) }),
    corrected: true,
  });
  return { from, to: from - 1, why: "" };
}

/** Two readings that are near each other are told both. */
function tellDoubts(search: TableSearch, found: FoundHeader, header: Header): void {
  const { sheet } = search;
  const { other } = found;
  if (other !== undefined && (other < header.from || other > header.to)) {
    search.findings.push({
      code: "header-unsure",
      severity: "warn",
      where: sheet.where,
      what: say().table.rowReadHeaderRowCould({
        rowNumber: sheet.rowNumbers[header.from],
        namesIn: namesIn(search, header.from),
        rowNumber2: sheet.rowNumbers[other],
        namesIn2: namesIn(search, other),
      }),
      advice: say().table.ifOtherRightCorrectHeader({ rowNumber: sheet.rowNumbers[other] }),
    });
  }
  if (found.alike.length === 0) return;
  const words = found.alike.slice(0, 3).map((column) => `"${sheet.text(found.row, column)}"`);
  search.findings.push({
    code: "header-unsure",
    severity: "warn",
    where: say().place.rowIn({ where: sheet.where, number: sheet.rowNumbers[found.row] }),
    what: say().table.headerReadsLikeRowsBelow({ words: words.join(", ") }),
    advice: say().table.ifSoCorrectHeaderNone(),
  });
}
