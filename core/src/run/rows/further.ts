/** Further lines of a group: rows of other datasets, or of the whole run, that its templates see beside its own. */

import type { Period } from "../../calendar/index.js";
import { columnKey, type Finding } from "../../common/index.js";
import type { FurtherLines } from "../../expression/index.js";
import {
  findColumn,
  findOther,
  type LeftOutRows,
  leftOutOf,
  type PrepareContext,
  preparedColumns,
  prepareTable,
} from "../../prepare/index.js";
import { type LinesSpec, type Report, splitColumns } from "../../report/index.js";
import { type Alias, applyAliases, type Group } from "../../split/index.js";
import { type Cell, type ColumnInfo, rowKey, type Table } from "../../table/index.js";
import { withPlace } from "../../template/index.js";
import { say } from "../../words/index.js";
import { rowsInPeriod } from "./in-period.js";

/** The folded name of the rows of all groups of the run. */
export const ALL_LINES = "all";

/** Further lines with all that every group may see of them. */
export interface FurtherTable {
  /** Folded. */
  readonly name: string;
  readonly table: Table;
  /** Rows that are in at all, in order. */
  readonly rows: readonly number[];
  readonly belongs: FurtherLines["belongs"];
  /** Whether each row belongs to one group at most. */
  readonly isExclusive: boolean;
  /** The rows of one group; of lines that belong to nobody all of them. */
  readonly rowsOf: (group: Group) => readonly number[];
}

/** Where the rows of further lines went, as the proof tells it. */
export interface FurtherAccount {
  readonly name: string;
  readonly data: string;
  readonly master: number;
  /** Rows that belong to at least one group, each counted once. */
  readonly inGroups: number;
  readonly leftOut: readonly LeftOutRows[];
}

export interface FurtherFound {
  readonly tables: readonly FurtherTable[];
  readonly accounts: readonly FurtherAccount[];
  readonly findings: readonly Finding[];
}

/** Names of lines that every group has whole, so that their rows must not leave with a group's file. Folded. */
export function unsharedLines(report: Report): string[] {
  const whole = Object.entries(report.lines).filter(([, spec]) => !spec.match && !spec.forAll);
  return [ALL_LINES, ...whole.map(([name]) => columnKey(name))];
}

/** Columns of all further lines by their folded name. Throws `BAD_DEFINITION` with the place. */
export function furtherColumns(
  report: Report,
  own: readonly ColumnInfo[],
  others: ReadonlyMap<string, readonly ColumnInfo[]>,
): Record<string, readonly ColumnInfo[]> {
  const named = Object.entries(report.lines).map(([name, spec]): [string, readonly ColumnInfo[]] => {
    const where = `lines, ${name}`;
    const source = findOther(others, spec.data, where);
    if (spec.period !== undefined) findColumn(source, spec.period, `${where}, period`);
    const columns = withPlace(where, () => preparedColumns(source, spec, others));
    for (const [here, there] of Object.entries(spec.match ?? {})) {
      findColumn(own, here, `${where}, match`);
      findColumn(columns, there, say().run.matchColumn({ where, data: spec.data }));
    }
    return [columnKey(name), columns];
  });
  return { ...Object.fromEntries(named), [ALL_LINES]: own };
}

/** Lines of a table as a group sees them. */
export function furtherLines({
  table,
  rows,
  belongs,
}: Pick<FurtherTable, "table" | "belongs"> & { readonly rows: readonly number[] }): FurtherLines {
  return { table, lines: rows, row: -1, ...(belongs ? { belongs } : {}) };
}

/** What makes rows belong to a group's own. `match` names a column of these for each column of those. */
export function belonging(
  own: Table,
  table: Table,
  match: Readonly<Record<string, string>> | undefined,
  where: string,
): FurtherLines["belongs"] {
  if (!match) return undefined;
  const pairs = Object.entries(match);
  const ownKey = pairs.map(([here]) => own.columns[findColumn(own.columns, here, where)]);
  const key = pairs.map(([, there]) => table.columns[findColumn(table.columns, there, where)]);
  return { keyOf: (row) => rowKey(key, row), ownKeyOf: (row) => rowKey(ownKey, row) };
}

export interface FurtherInput {
  readonly report: Report;
  /** The report's own table as it was loaded, and prepared. */
  readonly master: Table;
  readonly own: Table;
  /** All groups, chosen or not. */
  readonly groups: readonly Group[];
  readonly context: PrepareContext;
  readonly period: Period | undefined;
  readonly aliases: readonly Alias[];
}

/** Reads, filters and sorts all further lines of a report, and finds whose they are. */
export function findFurther(input: FurtherInput): FurtherFound {
  const found = Object.entries(input.report.lines).map(([name, spec]) => oneFurther(name, spec, input));
  const rows = input.groups.flatMap((group) => group.rows).sort((a, b) => a - b);
  const all: FurtherTable = {
    name: ALL_LINES,
    table: spelledAlike(input.own, input.groups, splitColumns(input.report)),
    rows,
    belongs: undefined,
    isExclusive: false,
    rowsOf: () => rows,
  };
  return {
    tables: [...found.map((one) => one.table), all],
    accounts: found.map((one) => one.account),
    findings: found.flatMap((one) => one.findings),
  };
}

/** Rows of all groups are there to be compared with a group's name: they are written as that is, where a group has several spellings. */
function spelledAlike(table: Table, groups: readonly Group[], by: readonly string[]): Table {
  const mixed = groups.filter((group) => group.spellings.length > 1);
  if (mixed.length === 0) return table;
  const columns = table.columns.map((column) => {
    if (!by.some((name) => columnKey(name) === columnKey(column.name))) return column;
    const values = [...column.values];
    for (const group of mixed) {
      const spelling = by.length === 1 ? group.label : mostFrequent(group.rows.map((row) => column.values[row]));
      for (const row of group.rows) if (typeof values[row] === "string") values[row] = spelling;
    }
    return { ...column, values };
  });
  return { ...table, columns };
}

function mostFrequent(cells: readonly Cell[]): Cell {
  const counts = new Map<Cell, number>();
  for (const cell of cells) counts.set(cell, (counts.get(cell) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

function oneFurther(name: string, spec: LinesSpec, input: FurtherInput) {
  const where = `lines, ${name}`;
  const { report, context } = input;
  const master = findOther(new Map([[report.data, input.master], ...context.others]), spec.data, where);
  // A group that is called otherwise in the report's own rows is meant in these too.
  const aliases = Object.entries(spec.match ?? {}).flatMap(([here, there]) =>
    input.aliases
      .filter((alias) => columnKey(alias.column) === columnKey(here))
      .map((alias) => ({ ...alias, column: there })),
  );
  const inPeriod = rowsInPeriod(applyAliases(master, aliases), spec.period, input.period, `${where}, period`);
  const prepared = withPlace(where, () => prepareTable(inPeriod.table, spec, context));
  const { table } = prepared;
  const rows = Array.from({ length: table.rowCount }, (_, row) => row);
  const belongs = belonging(input.own, table, spec.match, `${where}, match`);
  const findings: Finding[] = prepared.findings.map((one) => ({ ...one, where: `${where}: ${one.where}` }));
  const leftOut = [...inPeriod.leftOut, ...prepared.leftOut];
  let rowsOf: FurtherTable["rowsOf"] = () => rows;
  let inGroups = rows.length;
  let isExclusive = false;
  if (belongs) {
    const byKey = new Map<string, number[]>();
    for (const row of rows) {
      const key = belongs.keyOf(row);
      const known = byKey.get(key);
      if (known) known.push(row);
      else byKey.set(key, [row]);
    }
    rowsOf = (group) =>
      [...new Set(group.rows.map(belongs.ownKeyOf))].flatMap((key) => byKey.get(key) ?? []).sort((a, b) => a - b);
    const owners = ownersOf(input.groups, belongs.ownKeyOf);
    isExclusive = [...byKey.keys()].every((key) => (owners.get(key) ?? 0) < 2);
    const nobody = [...byKey].filter(([key]) => !owners.has(key));
    inGroups -= nobody.reduce((sum, [, some]) => sum + some.length, 0);
    leftOut.push(
      ...leftOutOf(
        table,
        nobody.flatMap(([, some]) => some),
        say().run.belongGroup(),
      ),
    );
    findings.push(
      ...whoseFindings({ where, name, spell: spellingOf(table, spec.match ?? {}) }, nobody, [...byKey], owners),
    );
  }
  return {
    table: { name: columnKey(name), table, rows, belongs, isExclusive, rowsOf },
    account: { name, data: spec.data, master: master.rowCount + prepared.made, inGroups, leftOut },
    findings,
  };
}

/** For each key how many groups have it among their rows. */
function ownersOf(groups: readonly Group[], keyOf: (row: number) => string): ReadonlyMap<string, number> {
  const owners = new Map<string, number>();
  for (const group of groups)
    for (const key of new Set(group.rows.map(keyOf))) owners.set(key, (owners.get(key) ?? 0) + 1);
  return owners;
}

type Keyed = readonly (readonly [string, readonly number[]])[];

/** The key of a row as it is written there. */
function spellingOf(table: Table, match: Readonly<Record<string, string>>): (row: number) => string {
  const columns = Object.values(match).map((there) => table.columns[findColumn(table.columns, there, "match")]);
  return (row) => columns.map((column) => String(column.values[row] ?? "").trim()).join(" / ");
}

function whoseFindings(
  { where, name, spell }: { readonly where: string; readonly name: string; readonly spell: (row: number) => string },
  nobody: Keyed,
  all: Keyed,
  owners: ReadonlyMap<string, number>,
): Finding[] {
  const rowsIn = (some: Keyed): number => some.reduce((sum, [, rows]) => sum + rows.length, 0);
  const named = (some: Keyed): string =>
    some
      .slice(0, 5)
      .map(([, [row]]) => (spell(row) === "" ? "blank" : `"${spell(row)}"`))
      .join(", ") + (some.length > 5 ? ", …" : "");
  const findings: Finding[] = [];
  if (nobody.length > 0)
    findings.push({
      code: "further-lines-of-nobody",
      severity: "warn",
      where,
      what: say().run.groupRun({
        counted: say().common.rows({ count: rowsIn(nobody) }),
        name,
        rowsIn: rowsIn(nobody),
        named: named(nobody),
      }),
      advice: say().run.seeWhetherTheirGroupsRows(),
      count: rowsIn(nobody),
    });
  const several = all.filter(([key]) => (owners.get(key) ?? 0) > 1);
  if (several.length > 0)
    findings.push({
      code: "further-lines-of-several",
      severity: "warn",
      where,
      what: say().run.severalGroupsEach({
        counted: say().common.rows({ count: rowsIn(several) }),
        name,
        rowsIn: rowsIn(several),
        named: named(several),
      }),
      advice: say().run.ifEachGroupSOnly(),
      count: rowsIn(several),
    });
  return findings;
}

/** The further lines of one group. */
export function furtherOf(tables: readonly FurtherTable[], group: Group): ReadonlyMap<string, FurtherLines> {
  return new Map(tables.map((one) => [one.name, furtherLines({ ...one, rows: one.rowsOf(group) })]));
}
