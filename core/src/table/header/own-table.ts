/** The table that a sheet defines itself, as the one to be read. */

import { rangeName } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import type { Decision } from "../decision.js";
import { Kind, type RawSheet } from "../formats/raw-sheet.js";
import type { IntakeRules } from "../rules.js";
import type { DefinedTable } from "./sheet-signs.js";
import type { TableArea } from "./table-search.js";

/** The table that a sheet defines, where most of what it holds is in it; no correction says otherwise. */
export function ownTable(
  sheet: RawSheet,
  tables: readonly DefinedTable[],
  rules: IntakeRules,
): (TableArea & { decision: Decision }) | undefined {
  const isCorrected =
    rules.headerRow ?? rules.header ?? rules.firstColumn ?? rules.lastColumn ?? rules.headerLines ?? rules.end;
  const size = ({ range }: DefinedTable): number => (range.bottom - range.top) * (range.right - range.left + 1);
  const largest = tables.reduce<DefinedTable | undefined>(
    (best, one) => (best === undefined || size(one) > size(best) ? one : best),
    undefined,
  );
  if (isCorrected !== undefined || !largest || largest.range.bottom <= largest.range.top) return undefined;
  let [inside, all] = [0, 0];
  const { range } = largest;
  sheet.columns.forEach((column, at) => {
    if (!column) return;
    all += column.filled;
    if (at < range.left || at > range.right) return;
    for (let row = 0; row < sheet.rowCount; row++) {
      const number = sheet.rowNumbers[row] - 1;
      if (number >= range.top && number <= range.bottom && column.kind(row) !== Kind.blank) inside++;
    }
  });
  if (inside < all * 0.5) return undefined;
  const others = tables.filter((one) => one !== largest).map((one) => one.name);
  return {
    range,
    names: largest.names,
    isAsked: false,
    others,
    decision: {
      what: "table",
      chosen: largest.name,
      why: say().table.sheetDefines({ rangeName: rangeName(range) }),
      corrected: false,
    },
  };
}
