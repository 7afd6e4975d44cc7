/** A search for the table of a text file, as its steps take it. */
import type { Finding } from "@corbix/core/common";
import type { CellRange } from "@corbix/core/spreadsheet";
import type { IntakeRules } from "@corbix/core/table";
import { readTextFile } from "../../../src/table/formats/read-text.js";
import type { TableArea, TableSearch } from "../../../src/table/header/table-search.js";
import { LeftOut } from "../../../src/table/left-out.js";

export function searchIn(
  lines: readonly string[],
  rules: IntakeRules = {},
  more: { area?: Partial<TableArea>; range?: CellRange } = {},
) {
  const { sheet } = readTextFile(Buffer.from(`${lines.join("\n")}\n`), "file.csv", { delimiter: "comma" });
  const filled = sheet.columns.flatMap((column, at) => (column ? [at] : []));
  const findings: Finding[] = [];
  const { range } = more;
  const search: TableSearch = {
    sheet,
    rules,
    area: more.area && range && { range, names: undefined, isAsked: false, others: [], ...more.area },
    range,
    first: range?.left ?? filled[0] ?? 0,
    last: range?.right ?? filled.at(-1) ?? 0,
    findings,
    decisions: [],
    left: new LeftOut(sheet),
  };
  const told = () => findings.map(({ code, severity, what }) => `${severity} ${code}: ${what}`);
  const decided = () => search.decisions.map(({ what, chosen, why, corrected }) => ({ what, chosen, why, corrected }));
  return { search, told, decided };
}
