/** Which rows and groups of the prepared edition a run is about. */

import { CorbixError, type Finding, suggestName } from "../../common/index.js";
import { type LeftOutRows, leftOutOf } from "../../prepare/index.js";
import type { Report } from "../../report/index.js";
import type { Group } from "../../split/index.js";
import { type Table, takeRows } from "../../table/index.js";
import { say } from "../../words/index.js";
import type { PlanInput } from "./plan-input.js";

/** The rows of a search that were sent on for a run of their own. */
export function rowsFound(table: Table, { onlyRows }: PlanInput): { table: Table; leftOut: LeftOutRows[] } {
  if (!onlyRows) return { table, leftOut: [] };
  const inside: number[] = [];
  const outside: number[] = [];
  for (let row = 0; row < table.rowCount; row++)
    (onlyRows.rowNumbers.has(table.rowNumbers[row]) ? inside : outside).push(row);
  return { table: takeRows(table, inside), leftOut: leftOutOf(table, outside, onlyRows.why) };
}

/** The groups that something is due for, those that are made of them, and the rows and groups that are not. */
export interface GroupChoice {
  readonly due: readonly Group[];
  readonly chosen: readonly Group[];
  readonly notChosen: readonly Group[];
  /** Rows that have gone out before. */
  readonly goneRows: readonly number[];
  readonly leftOut: readonly LeftOutRows[];
}

/** Throws `UNKNOWN_NAME` where a chosen name is no group's. */
export function chooseGroups(
  table: Table,
  groups: readonly Group[],
  { delivered, only }: Pick<PlanInput, "delivered" | "only">,
): GroupChoice {
  const due = dueGroups(table, groups, delivered);
  const chosen = only === undefined ? due.groups : namedGroups(due.groups, only, groups);
  const isChosen = new Set(chosen);
  return {
    due: due.groups,
    chosen,
    notChosen: due.groups.filter((group) => !isChosen.has(group)),
    goneRows: due.rows,
    leftOut: due.leftOut,
  };
}

/** Groups without the rows that have gone out before; one that has no other rows is not among them. */
function dueGroups(
  table: Table,
  groups: readonly Group[],
  delivered: PlanInput["delivered"],
): { groups: readonly Group[]; leftOut: LeftOutRows[]; rows: number[] } {
  if (!delivered) return { groups, leftOut: [], rows: [] };
  const reasons = new Map<string, number[]>();
  const left = groups.flatMap((group): Group[] => {
    const gone = delivered(table, group);
    if (gone.size === 0) return [group];
    for (const [row, why] of gone) {
      const rows = reasons.get(why) ?? [];
      rows.push(row);
      reasons.set(why, rows);
    }
    const rows = group.rows.filter((row) => !gone.has(row));
    return rows.length === 0 ? [] : [{ ...group, rows }];
  });
  return {
    groups: left,
    leftOut: [...reasons].flatMap(([why, rows]) => leftOutOf(table, rows, why)),
    rows: [...reasons.values()].flat(),
  };
}

/** Formulas that compare with the group's name in a cell of the template find the rows of one spelling. */
export function missedBySelectors(groups: readonly Group[], report: Report): Finding[] {
  if (!Object.values(report.files).some((file) => Object.keys(file.cells ?? {}).length > 0)) return [];
  return groups
    .filter((group) => new Set(group.spellings.map((spelling) => spelling.toLowerCase())).size > 1)
    .map((group) => ({
      code: "selector-misses-spelling",
      severity: "warn",
      where: say().place.group({ name: group.label }),
      what: say().run.rowsWrittenWaysFormulasTemplate({
        label: group.label,
        spellingCount: group.spellings.length,
        spellings: group.spellings.map((spelling) => `"${spelling}"`).join(", "),
      }),
      advice: say().run.writeRowsAlikePreparationReplace(),
    }));
}

/** The named groups that something is due for. Throws `UNKNOWN_NAME` for a name that is no group's. */
function namedGroups(groups: readonly Group[], only: readonly string[], all: readonly Group[]): Group[] {
  const known = new Set(all.map((group) => group.key));
  const unknown = only.filter((key) => !known.has(key));
  if (unknown.length > 0)
    throw new CorbixError(
      "UNKNOWN_NAME",
      say().run.cannotFindGroup({
        value: unknown.length === 1 ? "" : "s",
        unknown: unknown.map((key) => `\`${key}\``).join(", "),
      }),
      {
        where: "groups",
        advice: suggestName(
          unknown[0],
          all.map((group) => group.label),
          "groups",
        ),
      },
    );
  const wanted = new Set(only);
  return groups.filter((group) => wanted.has(group.key));
}
