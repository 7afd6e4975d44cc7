/** Which sheet of several is the table: the one whose table is the largest, not the one with most markup. */

import { CorbixError, columnKey, type Finding, suggestName } from "../../common/index.js";
import { say } from "../../words/index.js";
import type { Decision } from "../decision.js";
import type { RawSheet } from "../formats/raw-sheet.js";
import { headerCandidates } from "./score-header.js";

/** A sheet by what is known before its cells are read. */
interface Known {
  readonly name: string;
  readonly hidden: boolean;
}

/** A sheet whose cells were read. */
export interface SheetTable {
  readonly name: string;
  readonly sheet: RawSheet;
  /** Whether it shows nothing but what other cells add up to. */
  readonly isSummary: boolean;
}

/** A cell with content takes at least so many bytes of markup. */
const LEAST_BYTES = 18;
/** A table smaller than this share of the largest is not looked at. */
const SMALL = 0.1;
/** A table of at least this share of the largest is told as another reading. */
const NEAR = 0.5;
/** What a sheet without a header, or one that is a summary, counts for. */
const HEADERLESS = 0.1;

/**
 * The named sheet, or the visible one with the largest table. Sheets are read from the one with most bytes on, as long as one may
 * still hold a table that matters. Throws `NO_TABLE`.
 */
export function chooseSheet<Info extends Known, Read extends SheetTable>(
  all: readonly Info[],
  withCells: readonly Info[],
  { where, name }: { readonly where: string; readonly name: string | undefined },
  read: (info: Info) => Read,
  bytesOf: (info: Info) => number,
): { chosen: Read; decision: Decision; findings: readonly Finding[] } {
  if (name !== undefined) {
    const found = all.find((sheet) => columnKey(sheet.name) === columnKey(name));
    if (!found)
      throw new CorbixError("NO_TABLE", say().table.cannotFindSheet({ name }), {
        where,
        advice: suggestName(
          name,
          all.map((sheet) => sheet.name),
          "sheets",
        ),
      });
    const decision = { what: "sheet", chosen: found.name, why: say().table.asked(), corrected: true };
    return { chosen: read(found), decision, findings: [] };
  }
  const visible = withCells.filter((sheet) => !sheet.hidden).sort((a, b) => bytesOf(b) - bytesOf(a));
  const sized: { readonly read: Read; readonly cells: number }[] = [];
  let most = 0;
  for (const info of visible) {
    if (visible.length > 1 && bytesOf(info) / LEAST_BYTES < most * SMALL) break;
    const one = read(info);
    const cells = tableCells(one);
    sized.push({ read: one, cells });
    most = Math.max(most, cells);
  }
  sized.sort((a, b) => b.cells - a.cells);
  const [best, next] = sized.filter((one) => one.read.sheet.rowCount > 0);
  if (!best) {
    throw new CorbixError("NO_TABLE", say().table.cannotFindVisibleSheetCells(), {
      where,
      advice: say().table.nameHiddenSheetIf({ some: all.some((sheet) => sheet.hidden) }),
    });
  }
  const isNear = next !== undefined && next.cells >= best.cells * NEAR && next.cells > 0;
  return {
    chosen: best.read,
    decision: {
      what: "sheet",
      chosen: best.read.name,
      why: say().table.onlyVisibleSheetCells({ visibleCount: visible.length }),
      corrected: false,
    },
    findings: isNear
      ? [
          {
            code: "sheet-unsure",
            severity: "warn",
            where,
            what: say().table.sheetReadHoldsTableNearly({
              read: best.read.name,
              other: next.read.name,
              sameNames: sameNames(best.read.sheet, next.read.sheet),
            }),
            advice: say().table.ifOtherTableCorrectSheet({ name: next.read.name }),
          },
        ]
      : [],
  };
}

/** Cells of the table that a sheet seems to hold. */
function tableCells({ sheet, isSummary }: SheetTable): number {
  const filled = sheet.columns.reduce((sum, column) => sum + (column?.filled ?? 0), 0);
  const hasHeader = headerCandidates(sheet, 0, sheet.columns.length - 1).some((one) => !one.isBarred);
  return filled * (hasHeader ? 1 : HEADERLESS) * (isSummary ? HEADERLESS : 1);
}

function sameNames(one: RawSheet, other: RawSheet): boolean {
  const names = (sheet: RawSheet): string => {
    const best = headerCandidates(sheet, 0, sheet.columns.length - 1).find((candidate) => !candidate.isBarred);
    return best
      ? sheet
          .filled(best.row)
          .map((column) => sheet.text(best.row, column))
          .join("\n")
      : "";
  };
  return names(one) !== "" && names(one) === names(other);
}
