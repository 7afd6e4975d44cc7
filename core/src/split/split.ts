import { bareKey, cleanKey, editDistance, type Finding } from "../common/index.js";
import { findColumn } from "../prepare/index.js";
import type { Table } from "../table/index.js";

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

/** Splits a table by the cleaned value of one or several columns: each row is in one group or has a blank key. */
export function splitTable(table: Table, by: readonly string[]): Split {
  const columns = by.map((name) => table.columns[findColumn(table.columns, name, "split")]);
  const found = new Map<string, { rows: number[]; spellings: Map<string, number> }>();
  const blankRows: number[] = [];
  for (let row = 0; row < table.rowCount; row++) {
    const parts = columns.map((column) => String(column.values[row] ?? ""));
    const keys = parts.map(cleanKey);
    if (keys.some((key) => key === "")) {
      blankRows.push(row);
      continue;
    }
    const key = keys.join(" / ");
    let group = found.get(key);
    if (!group) {
      group = { rows: [], spellings: new Map() };
      found.set(key, group);
    }
    group.rows.push(row);
    const spelling = parts.join(" / ");
    group.spellings.set(spelling, (group.spellings.get(spelling) ?? 0) + 1);
  }
  const groups = [...found]
    .map(([key, { rows, spellings }]): Group => {
      const ordered = [...spellings].sort((a, b) => b[1] - a[1]).map(([spelling]) => spelling);
      return { key, label: ordered[0], spellings: ordered, rows };
    })
    .sort((a, b) => collator.compare(a.label, b.label));
  return { groups, blankRows, findings: [...spellingFindings(groups, by), ...nearDoubles(groups, by)] };
}

const collator = new Intl.Collator("en", { numeric: true });

function spellingFindings(groups: readonly Group[], by: readonly string[]): Finding[] {
  return groups
    .filter((group) => group.spellings.length > 1)
    .map((group) => ({
      code: "several-spellings",
      severity: "note",
      where: `split by ${by.join(", ")}`,
      what: `"${group.label}" is also written ${group.spellings
        .slice(1)
        .map((spelling) => `"${spelling}"`)
        .join(", ")}; the rows were put together.`,
      advice: "Nothing to do.",
      count: group.spellings.length,
    }));
}

/** Comparing every pair is quadratic; beyond so many groups only keys with the same first letters are compared. */
const ALL_PAIRS_LIMIT = 1500;

/** Groups whose keys differ only by accents and punctuation, or by one letter. */
function nearDoubles(groups: readonly Group[], by: readonly string[]): Finding[] {
  const buckets = new Map<string, { group: Group; bare: string }[]>();
  for (const group of groups) {
    const bare = bareKey(group.key);
    const bucket = groups.length > ALL_PAIRS_LIMIT ? bare.slice(0, 3) : "";
    const known = buckets.get(bucket);
    if (known) known.push({ group, bare });
    else buckets.set(bucket, [{ group, bare }]);
  }
  const findings: Finding[] = [];
  for (const bucket of buckets.values()) {
    for (let i = 0; i < bucket.length; i++) {
      for (let j = i + 1; j < bucket.length; j++)
        if (isNear(bucket[i].bare, bucket[j].bare)) findings.push(nearFinding(bucket[i].group, bucket[j].group, by));
    }
  }
  return findings;
}

function isNear(a: string, b: string): boolean {
  if (a === b) return true;
  // Numbered names (`Dock 1`, `Dock 2`) are meant to differ.
  if (a.replace(/\d/g, "") === b.replace(/\d/g, "")) return false;
  return Math.min(a.length, b.length) >= 5 && editDistance(a, b, 1) <= 1;
}

function nearFinding(a: Group, b: Group, by: readonly string[]): Finding {
  const [more, fewer] = a.rows.length >= b.rows.length ? [a, b] : [b, a];
  return {
    code: "near-double",
    severity: "warn",
    where: `split by ${by.join(", ")}`,
    what: `"${fewer.label}" (${rows(fewer)}) and "${more.label}" (${rows(more)}) are nearly the same; they are two groups.`,
    advice: "If they are one, correct the source and load again, before anything is sent.",
    count: 2,
  };
}

function rows(group: Group): string {
  return group.rows.length === 1 ? "1 row" : `${group.rows.length} rows`;
}
