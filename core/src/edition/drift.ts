import { columnKey, editDistance, type Finding, groupKey } from "../common/index.js";
import type { Column, ColumnInfo, Table } from "../table/index.js";
import { say } from "../words/index.js";

/** What became of the columns from one edition to the next. */
export interface Drift {
  readonly added: readonly string[];
  readonly gone: readonly string[];
  /** Whether no column of the one is in the other, nor looks like one of it. */
  readonly isOtherTable: boolean;
  /** Guesses: a column that is gone and a new one that looks like it. */
  readonly renamed: readonly { readonly from: string; readonly to: string; readonly why: string }[];
  readonly retyped: readonly {
    readonly name: string;
    readonly from: ColumnInfo["type"];
    readonly to: ColumnInfo["type"];
  }[];
}

/** So many different values of a column are compared to guess that it was renamed. */
const SAMPLED = 500;

/** Compares the columns of an edition with those of the one before. */
export function findDrift(before: { readonly columns: readonly ColumnInfo[] }, after: Table): Drift {
  const [old, now] = [byName(before.columns), byName(after.columns)];
  const gone = before.columns.filter((column) => !now.has(columnKey(column.name)));
  const added = after.columns.filter((column) => !old.has(columnKey(column.name)));
  const renamed = guessRenamed(gone, added);
  const retyped = after.columns.flatMap((column) => {
    const was = old.get(columnKey(column.name));
    const isFilled = column.values.some((value) => value !== null);
    return was && isFilled && was.type !== column.type ? [{ name: column.name, from: was.type, to: column.type }] : [];
  });
  const isOtherTable = before.columns.length > 0 && gone.length === before.columns.length && renamed.length === 0;
  return { added: added.map(({ name }) => name), gone: gone.map(({ name }) => name), isOtherTable, renamed, retyped };
}

/** What drift means: a column that reports use and that is gone stops, others want a look. `used` names the reports. */
export function driftFindings(drift: Drift, used: (column: string) => readonly string[], where: string): Finding[] {
  const { renamed, retyped } = drift;
  const findings: Finding[] = [];
  if (drift.isOtherTable) {
    const list = (names: readonly string[]): string => names.slice(0, 5).join(", ") + (names.length > 5 ? ", …" : "");
    return [
      {
        code: "other-table",
        severity: "stop",
        where,
        what: say().edition.anotherTableNoneColumnsEdition({ list: list(drift.gone), list2: list(drift.added) }),
        advice: say().edition.loadRightFileSheetTable(),
      },
    ];
  }
  for (const name of drift.gone) {
    const guess = renamed.find((one) => one.from === name);
    const reports = used(name);
    findings.push({
      code: guess ? "column-renamed" : "column-missing",
      severity: reports.length > 0 ? "stop" : "warn",
      where: say().place.columnIn({ where, name }),
      what: guess
        ? say().edition.columnRenamed({ name, to: guess.to, why: guess.why, usedBy: usedBy(reports) })
        : say().edition.columnMissing({ name, usedBy: usedBy(reports) }),
      advice: guess ? say().edition.useOneName() : say().edition.loadWithColumn(),
    });
  }
  for (const name of drift.added) {
    if (renamed.some((one) => one.to === name)) continue;
    findings.push({
      code: "column-new",
      severity: "note",
      where: say().place.columnIn({ where, name }),
      what: say().edition.columnNew({ name }),
      advice: say().edition.nothingDo(),
    });
  }
  for (const { name, from, to } of retyped) {
    const reports = used(name);
    findings.push({
      code: "column-retyped",
      severity: "warn",
      where: say().place.columnIn({ where, name }),
      what: say().edition.columnNow({ name, from, to, usedBy: usedBy(reports) }),
      advice: say().edition.lookCellsIfTypeWrong(),
    });
  }
  return findings;
}

function usedBy(reports: readonly string[]): string {
  if (reports.length === 0) return "";
  return ` ${reports.join(", ")} ${reports.length === 1 ? "uses" : "use"} it.`;
}

function byName(columns: readonly ColumnInfo[]): Map<string, ColumnInfo> {
  return new Map(columns.map((column) => [columnKey(column.name), column]));
}

function guessRenamed(gone: readonly ColumnInfo[], added: readonly Column[]): Drift["renamed"] {
  const free = new Set(added);
  return gone.flatMap((column) => {
    let best: { column: Column; score: number; why: string } | undefined;
    for (const candidate of free) {
      const score = likeness(column, candidate);
      if (score.score >= 0.5 && (!best || score.score > best.score)) best = { column: candidate, ...score };
    }
    if (!best) return [];
    free.delete(best.column);
    return [{ from: column.name, to: best.column.name, why: best.why }];
  });
}

/** How much a new column looks like one that is gone: by its name, or by the values they share. */
function likeness(gone: ColumnInfo, added: Column): { score: number; why: string } {
  const [a, b] = [columnKey(gone.name), columnKey(added.name)];
  const longest = Math.max(a.length, b.length);
  const distance = editDistance(a, b, longest);
  const byName = a.includes(b) || b.includes(a) ? 0.6 : 1 - distance / longest;
  const sameType = gone.type === added.type ? 0.1 : -0.2;
  const values = hasValues(gone) ? sharedValues(gone, added) : 0;
  if (values >= 0.5) return { score: values + sameType, why: say().edition.theyHoldSameValues() };
  return { score: byName >= 0.6 ? byName + sameType : 0, why: say().edition.namesAlike() };
}

function hasValues(column: ColumnInfo): column is Column {
  return "values" in column;
}

function sharedValues(a: Column, b: Column): number {
  const [left, right] = [sample(a), sample(b)];
  if (left.size < 3 || right.size < 3) return 0;
  let shared = 0;
  for (const value of left) if (right.has(value)) shared++;
  return shared / Math.min(left.size, right.size);
}

function sample(column: Column): Set<string> {
  const found = new Set<string>();
  for (const value of column.values) {
    if (value !== null) found.add(groupKey(String(value)));
    if (found.size >= SAMPLED) break;
  }
  return found;
}
