/** Where all rows of a run went, and what keeps it from going out where they do not add up. */

import type { Finding } from "../../common/index.js";
import { type LeftOutRows, LISTED_ROWS, leftOutOf } from "../../prepare/index.js";
import { type Report, splitColumns } from "../../report/index.js";
import type { Group } from "../../split/index.js";
import type { Table } from "../../table/index.js";
import { say } from "../../words/index.js";
import type { ControlTotal } from "./control-totals.js";

/** Rows in, and where they went: `master + made = inGroups + leftOut`. */
export interface RowAccount {
  readonly master: number;
  /** Rows made by stacking columns, beyond those that came in. */
  readonly made?: number;
  readonly inGroups: number;
  readonly leftOut: readonly LeftOutRows[];
}

export function mergeReasons(entries: readonly LeftOutRows[]): LeftOutRows[] {
  const merged = new Map<string, LeftOutRows>();
  for (const entry of entries) {
    const known = merged.get(entry.reason);
    merged.set(
      entry.reason,
      known
        ? {
            ...known,
            count: known.count + entry.count,
            rowNumbers: [...known.rowNumbers, ...entry.rowNumbers].slice(0, LISTED_ROWS),
          }
        : entry,
    );
  }
  return [...merged.values()];
}

export function blankKeys(table: Table, rows: readonly number[], report: Report): LeftOutRows[] {
  return leftOutOf(table, rows, say().run.withoutColumns({ splitColumns: splitColumns(report).join(" or ") }));
}

export function unchosen(table: Table, groups: readonly Group[]): LeftOutRows[] {
  return leftOutOf(
    table,
    groups.flatMap((group) => group.rows),
    say().run.groupsChosen(),
  );
}

/** The accounts have to come out; if ever they do not, nothing is sent. */
export function accountFindings(
  rows: RowAccount,
  totals: readonly ControlTotal[],
  parcels: readonly unknown[],
  isQuiet: boolean,
): Finding[] {
  const findings: Finding[] = [];
  const leftOut = rows.leftOut.reduce((sum, entry) => sum + entry.count, 0);
  const made = rows.made ?? 0;
  if (rows.inGroups + leftOut !== rows.master + made) {
    findings.push({
      code: "rows-do-not-add-up",
      severity: "stop",
      where: "rows",
      what: say().run.rowsCameButGroupsLeft({ master: rows.master, made, inGroups: rows.inGroups, leftOut }),
      advice: say().run.doSendTellWhoeverLooks(),
    });
  }
  for (const total of totals) {
    if (total.agrees) continue;
    findings.push({
      code: "total-does-not-add-up",
      severity: "stop",
      where: say().run.total({ name: total.name }),
      what: say().run.masterButParcelsLeftOut({
        name: total.name,
        master: total.master,
        parcels: total.parcels,
        leftOut: total.leftOut,
      }),
      advice: say().run.doSendTellWhoeverLooks(),
    });
  }
  if (parcels.length === 0 && isQuiet) {
    findings.push({
      code: "nothing-to-send",
      severity: "note",
      where: "rows",
      what: say().run.nothingToSend({ leftOut }),
      advice: say().run.nothingToDoEmpty(),
    });
  } else if (parcels.length === 0) {
    findings.push({
      code: "no-groups",
      severity: "stop",
      where: "rows",
      what: say().run.rowsLeftSoNothingMake(),
      advice: say().run.lookPeriodRowsLeftOut(),
    });
  }
  return findings;
}
