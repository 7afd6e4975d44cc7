/** The rows of a table's header: as corrected, as the sheet defines them, or as found. */
import { CorbixError } from "../../common/index.js";
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
      throw new CorbixError("NO_TABLE", `Cannot use row ${asked} as the header: it is blank.`, {
        where: sheet.where,
        advice: "Correct the header row of the dataset.",
      });
    const to = Math.min(at + (rules.headerLines ?? 1) - 1, sheet.rowCount - 1);
    const corrected = search.area?.isAsked ?? true;
    const why = range
      ? `the first row of the table that ${corrected ? "was asked for" : "the sheet defines"}`
      : "it was corrected";
    search.decisions.push({ what: "header", chosen: rowsText(search, at, to), why, corrected });
    return { from: at, to, why };
  }
  const found = findHeader(sheet, search.first, search.last);
  const { row } = found;
  const header =
    rules.headerLines === undefined
      ? joinHeader(sheet, row, search.first, search.last)
      : { from: row, to: Math.min(row + rules.headerLines - 1, sheet.rowCount - 1), why: "as corrected" };
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
    why: rules.names ? "it was corrected; the names were given" : "it was corrected; columns go by their letters",
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
      what: `Row ${sheet.rowNumbers[header.from]} (${namesIn(search, header.from)}) was read as the header; row ${sheet.rowNumbers[other]} (${namesIn(search, other)}) could be it too.`,
      advice: `If the other one is right, correct the header row to ${sheet.rowNumbers[other]}.`,
    });
  }
  if (found.alike.length === 0) return;
  const words = found.alike.slice(0, 3).map((column) => `"${sheet.text(found.row, column)}"`);
  search.findings.push({
    code: "header-unsure",
    severity: "warn",
    where: `${sheet.where}, row ${sheet.rowNumbers[found.row]}`,
    what: `The header reads like the rows below it (${words.join(", ")}); the file may have no header, and this may be its first row.`,
    advice: "If so, correct the header to none and name the columns.",
  });
}
