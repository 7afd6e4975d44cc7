import { columnKey, editDistance, type Finding, groupKey, looseKey } from "../common/index.js";
import { isoCell } from "../grid/index.js";
import { findColumn } from "../prepare/index.js";
import type { Cell, Column, Table } from "../table/index.js";
import { say } from "../words/index.js";

/** The rows that share the cleaned value of the split columns. */
export interface Group {
  /** Cleaned key: what groups, recipients and the ledger are matched by. */
  readonly key: string;
  /** The most frequent spelling, as people write it. */
  readonly label: string;
  /** Every spelling that was found, most frequent first. */
  readonly spellings: readonly string[];
  /** Rows of the table, in its order. */
  readonly rows: readonly number[];
}

export interface Split {
  /** Sorted by label. */
  readonly groups: readonly Group[];
  /** Rows whose key is blank: they belong to nobody. */
  readonly blankRows: readonly number[];
  readonly findings: readonly Finding[];
}

/** Two spellings that are one group: rows that say `from` in this column count as `to`. */
export interface Alias {
  readonly column: string;
  readonly from: string;
  readonly to: string;
}

/** How a report puts rows into groups: by columns, all into one by a name, or each row for itself, named by columns. */
export type SplitRule = string | readonly string[] | { readonly one: string } | { readonly row: readonly string[] };

/** Splits a table as a report says. */
export function splitBy(table: Table, rule: SplitRule): Split {
  if (typeof rule === "string") return splitTable(table, [rule]);
  if ("one" in rule) return allInOne(table, rule.one);
  return "row" in rule ? eachRow(table, rule.row) : splitTable(table, rule);
}

function allInOne(table: Table, name: string): Split {
  const rows = Array.from({ length: table.rowCount }, (_, row) => row);
  const groups = rows.length === 0 ? [] : [{ key: groupKey(name), label: name.trim(), spellings: [name.trim()], rows }];
  return { groups, blankRows: [], findings: [] };
}

/** Rows that are called alike could not be told apart the next time: nothing goes out before they are. */
function eachRow(table: Table, by: readonly string[]): Split {
  const { groups, blankRows, alike } = grouped(table, by, []);
  const where = say().split.splitRow({ by: by.join(", ") });
  const several = groups
    .filter(({ rows }) => rows.length > 1)
    .map(({ label, rows }) => ({
      code: "rows-called-alike",
      severity: "stop" as const,
      where,
      what: say().split.rowsCalledRowGroupEach({
        rowCount: rows.length,
        label,
        rows: rows
          .slice(0, 5)
          .map((row) => table.rowNumbers[row])
          .join(", "),
        value: rows.length > 5 ? ", …" : "",
      }),
      advice: say().split.nameRowsMoreColumnLeave(),
      count: rows.length,
    }));
  return { groups, blankRows, findings: [...alike, ...several] };
}

/** Splits a table by the cleaned value of one or several columns: each row is in one group or has a blank key. */
export function splitTable(table: Table, by: readonly string[], aliases: readonly Alias[] = []): Split {
  const { groups, blankRows, alike } = grouped(table, by, aliases);
  return {
    groups,
    blankRows,
    findings: [...alike, ...spellingFindings(groups, by), ...nearDoubles(groups).map((pair) => nearFinding(pair, by))],
  };
}

function grouped(
  table: Table,
  by: readonly string[],
  aliases: readonly Alias[],
): { groups: Group[]; blankRows: number[]; alike: Finding[] } {
  const readers = by.map((name) => keyReader(table.columns[findColumn(table.columns, name, "split")], aliases));
  const found = new Map<string, FoundGroup>();
  const blankRows: number[] = [];
  for (let row = 0; row < table.rowCount; row++) {
    const parts = readers.map((read) => read(row));
    if (parts.some((part) => part.key === "")) {
      blankRows.push(row);
      continue;
    }
    // What the values are told apart by must not stand in them: "A / B" and "C" are not "A" and "B / C".
    const apart = parts.length === 1 ? parts[0].key : parts.map((part) => part.key).join("\u0000");
    let group = found.get(apart);
    if (!group) {
      const named = parts.some((part) => part.label !== undefined);
      group = {
        key: parts.map((part) => part.key).join(" / "),
        rows: [],
        spellings: new Map(),
        label: named ? parts.map((part) => part.label ?? part.spelling).join(" / ") : undefined,
      };
      found.set(apart, group);
    }
    group.rows.push(row);
    const spelling = parts.length === 1 ? parts[0].spelling : parts.map((part) => part.spelling).join(" / ");
    group.spellings.set(spelling, (group.spellings.get(spelling) ?? 0) + 1);
  }
  const alike = sharedKeys([...found.values()]);
  const groups = [...found]
    .map(([apart, { key, rows, spellings, label }]): Group => {
      const ordered = [...spellings].sort((a, b) => b[1] - a[1]).map(([spelling]) => spelling);
      // Groups that would be called alike have keys of their own, which no recipient has.
      const own = alike.has(key) ? apart.replaceAll("\u0000", " // ") : key;
      return { key: own, label: label ?? ordered[0], spellings: ordered, rows };
    })
    .sort((a, b) => collator.compare(a.label, b.label));
  return { groups, blankRows, alike: alikeFindings(alike, groups, by) };
}

interface FoundGroup {
  readonly key: string;
  readonly rows: number[];
  readonly spellings: Map<string, number>;
  readonly label: string | undefined;
}

/** Keys that stand for more than one group, since values of several columns hold what stands between them. */
function sharedKeys(found: readonly FoundGroup[]): ReadonlySet<string> {
  const seen = new Set<string>();
  const shared = new Set<string>();
  for (const { key } of found) (seen.has(key) ? shared : seen).add(key);
  return shared;
}

function alikeFindings(alike: ReadonlySet<string>, groups: readonly Group[], by: readonly string[]): Finding[] {
  return [...alike].map((key) => {
    const own = groups.filter((group) => group.key.replaceAll(" // ", " / ") === key);
    return {
      code: "groups-called-alike",
      severity: "stop",
      where: say().split.split({ by: by.join(", ") }),
      what: say().split.differentGroupsWouldCalledTheir({
        ownCount: own.length,
        label: own[0].label,
        by: by.join(", "),
      }),
      advice: say().split.replaceSignPreparationReplaceSplit(),
      count: own.length,
    };
  });
}

/** A table in which the cells an alias names are written as it says, so that everything later sees one group. */
export function applyAliases(table: Table, aliases: readonly Alias[]): Table {
  if (aliases.length === 0) return table;
  return {
    ...table,
    columns: table.columns.map((column) => {
      const own = aliases.filter((alias) => columnKey(alias.column) === columnKey(column.name));
      if (own.length === 0) return column;
      const targets = new Map(own.map((alias) => [groupKey(alias.from), alias.to]));
      const values = column.values.map((cell) =>
        typeof cell === "string" ? (targets.get(groupKey(cell)) ?? cell) : cell,
      );
      return { ...column, values };
    }),
  };
}

interface KeyPart {
  readonly key: string;
  readonly spelling: string;
  /** The name of the group, where an alias says it. */
  readonly label: string | undefined;
}

/** Reads the key of a row; each different value is cleaned once. */
function keyReader(column: Column, aliases: readonly Alias[]): (row: number) => KeyPart {
  const own = aliases.filter((alias) => columnKey(alias.column) === columnKey(column.name));
  const targets = new Map(own.map((alias) => [groupKey(alias.from), alias.to]));
  const labels = new Map(own.map((alias) => [groupKey(alias.to), alias.to]));
  const known = new Map<Cell, KeyPart>();
  return (row) => {
    const cell = column.values[row];
    let part = known.get(cell);
    if (part === undefined) {
      const spelling = String(isoCell(column.type, cell) ?? "");
      const plain = groupKey(spelling);
      const target = targets.get(plain);
      const key = target === undefined ? plain : groupKey(target);
      part = { key, spelling, label: labels.get(key) };
      known.set(cell, part);
    }
    return part;
  };
}

const collator = new Intl.Collator("en", { numeric: true });

function spellingFindings(groups: readonly Group[], by: readonly string[]): Finding[] {
  return groups
    .filter((group) => group.spellings.length > 1)
    .map((group) => ({
      code: "several-spellings",
      severity: "note",
      where: say().split.split({ by: by.join(", ") }),
      what: say().split.alsoWrittenRowsPutTogether({
        label: group.label,
        spellings: group.spellings
          .slice(1)
          .map((spelling) => `"${spelling}"`)
          .join(", "),
      }),
      advice: say().split.nothingDo(),
      count: group.spellings.length,
    }));
}

/** Comparing every pair is quadratic; beyond so many groups only keys with the same first letters are compared. */
const ALL_PAIRS_LIMIT = 1500;

/** Two groups that are probably one. */
export interface NearDouble {
  readonly fewer: Group;
  readonly more: Group;
  readonly why: string;
}

interface Candidate {
  readonly group: Group;
  readonly bare: string;
  readonly letters: string;
}

/** Groups whose keys differ only by accents and punctuation, or by one letter. */
export function nearDoubles(groups: readonly Group[]): NearDouble[] {
  const buckets = new Map<string, Candidate[]>();
  for (const group of groups) {
    const bare = looseKey(group.key);
    const bucket = groups.length > ALL_PAIRS_LIMIT ? bare.slice(0, 3) : "";
    const known = buckets.get(bucket);
    const candidate = { group, bare, letters: bare.replace(/\d/g, "") };
    if (known) known.push(candidate);
    else buckets.set(bucket, [candidate]);
  }
  const found: NearDouble[] = [];
  const compare = (a: Candidate, b: Candidate): void => {
    const why = whyNear(a, b);
    if (why === undefined) return;
    const [first, second] = [a.group, b.group];
    found.push(
      first.rows.length >= second.rows.length
        ? { fewer: second, more: first, why }
        : { fewer: first, more: second, why },
    );
  };
  for (const bucket of buckets.values()) {
    // Thousands of names that differ by their numbers only are near doubles only where nothing else differs either.
    const kinds = [...groupBy(bucket, (candidate) => candidate.letters).values()];
    for (const [index, kind] of kinds.entries()) {
      for (const same of groupBy(kind, (candidate) => candidate.bare).values())
        for (let i = 0; i < same.length; i++) for (let j = i + 1; j < same.length; j++) compare(same[i], same[j]);
      for (const other of kinds.slice(index + 1)) for (const one of kind) for (const two of other) compare(one, two);
    }
  }
  return found;
}

function groupBy<T>(items: readonly T[], key: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of items) {
    const known = groups.get(key(item));
    if (known) known.push(item);
    else groups.set(key(item), [item]);
  }
  return groups;
}

function whyNear(a: Candidate, b: Candidate): string | undefined {
  if (a.bare === b.bare) return say().split.theyDifferOnlyAccentsPunctuation();
  // Numbered names (`Dock 1`, `Dock 2`) are meant to differ.
  if (a.letters === b.letters || Math.min(a.bare.length, b.bare.length) < 5) return undefined;
  return editDistance(a.bare, b.bare, 1) <= 1 ? say().split.theyDifferLetter() : undefined;
}

function nearFinding({ fewer, more, why }: NearDouble, by: readonly string[]): Finding {
  return {
    code: "near-double",
    severity: "warn",
    where: say().split.split({ by: by.join(", ") }),
    what: say().split.twoGroupsButNearlySame({
      label: fewer.label,
      rows: rows(fewer),
      label2: more.label,
      rows2: rows(more),
      why,
    }),
    advice: say().split.ifTheyMergeThemDataset(),
    count: 2,
  };
}

function rows(group: Group): string {
  return group.rows.length === 1 ? "1 row" : `${group.rows.length} rows`;
}
