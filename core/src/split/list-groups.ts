import { type Finding, groupKey } from "../common/index.js";
import { findColumns } from "../prepare/index.js";
import type { Table } from "../table/index.js";
import { say } from "../words/index.js";
import { type Alias, nearDoubles, splitTable } from "./split.js";

/** A group as it stands in a dataset, before any report is run. */
export interface ListedGroup {
  readonly key: string;
  readonly label: string;
  readonly count: number;
  readonly spellings: readonly string[];
  readonly isNew: boolean;
  /** Whether the recipient list has somebody for it; `null` where there is no list. */
  readonly hasRecipients: boolean | null;
}

export interface GroupList {
  readonly by: readonly string[];
  readonly groups: readonly ListedGroup[];
  /** Rows with a blank key: how many, and the first of them. */
  readonly blank: { readonly count: number; readonly rowNumbers: readonly number[] };
  /** Groups of the edition before that have no rows any more. */
  readonly gone: readonly string[];
  readonly near: readonly { readonly from: string; readonly to: string; readonly why: string }[];
  readonly findings: readonly Finding[];
}

export interface GroupSurroundings {
  readonly aliases?: readonly Alias[];
  /** The edition before. */
  readonly before?: Table;
  /** Cleaned group keys of the recipient list. */
  readonly recipientKeys?: ReadonlySet<string>;
}

/** The distinct keys of one or several columns with counts, and everything about them that wants a look. */
export function listGroups(table: Table, named: readonly string[], around: GroupSurroundings = {}): GroupList {
  const by = findColumns(table.columns, named, "groups").map((column) => column.name);
  const split = splitTable(table, by, around.aliases);
  const before = around.before ? splitTable(around.before, by, around.aliases).groups : undefined;
  const known = before && new Set(before.map((group) => group.key));
  const now = new Set(split.groups.map((group) => group.key));
  const groups = split.groups.map(
    (group): ListedGroup => ({
      key: group.key,
      label: group.label,
      count: group.rows.length,
      spellings: group.spellings,
      isNew: known !== undefined && !known.has(group.key),
      hasRecipients: around.recipientKeys ? around.recipientKeys.has(group.key) : null,
    }),
  );
  const gone = (before ?? []).filter((group) => !now.has(group.key)).map((group) => group.label);
  const blank = {
    count: split.blankRows.length,
    rowNumbers: split.blankRows.slice(0, 100).map((row) => table.rowNumbers[row]),
  };
  const where = say().split.groups({ by: by.join(", ") });
  const findings: Finding[] = [...split.findings];
  const add = (
    code: string,
    severity: Finding["severity"],
    names: readonly string[],
    what: string,
    advice: string,
  ): void => {
    if (names.length > 0)
      findings.push({ code, severity, where, what: `${what}: ${shown(names)}.`, advice, count: names.length });
  };
  if (blank.count > 0) {
    findings.push({
      code: "blank-keys",
      severity: "warn",
      where,
      what: say().split.rowNobody({
        count: blank.count,
        by: by.join(" or "),
        rowNumbers: blank.rowNumbers.slice(0, 5).join(", "),
        value: blank.count > 5 ? ", …" : "",
      }),
      advice: say().split.fillThemSourceLeaveThem(),
      count: blank.count,
      cells: { column: by[0], rows: blank.rowNumbers.slice(0, 20) },
    });
  }
  const labels = (test: (group: ListedGroup) => boolean): string[] => groups.filter(test).map((group) => group.label);
  const withoutPeople = labels((group) => group.hasRecipients === false);
  add(
    "group-without-recipient",
    "warn",
    withoutPeople,
    say().split.nobodyReceive({ plural: say().common.groups({ count: withoutPeople.length }) }),
    say().split.addThemRecipientListLeave(),
  );
  const fresh = labels((group) => group.isNew);
  add(
    "group-new",
    "note",
    fresh,
    say().split.newSinceEditionBefore({ plural: say().common.groups({ count: fresh.length }) }),
    say().split.lookWhetherTheyRightThey(),
  );
  add(
    "group-gone",
    "note",
    gone,
    say().split.rowsAnyMoreEditionBefore({ plural: say().common.groups({ count: gone.length }) }),
    say().split.lookWhetherRight(),
  );
  const near = nearDoubles(split.groups).map(({ fewer, more, why }) => ({ from: fewer.label, to: more.label, why }));
  return { by, groups, blank, gone, near, findings };
}

function shown(names: readonly string[]): string {
  return (
    names
      .slice(0, 8)
      .map((name) => `"${name}"`)
      .join(", ") + (names.length > 8 ? ", …" : "")
  );
}

/** Group keys as the recipient list writes them, cleaned. */
export function recipientKeys(recipients: readonly { readonly group: string }[]): ReadonlySet<string> {
  return new Set(recipients.map((recipient) => groupKey(recipient.group)));
}
