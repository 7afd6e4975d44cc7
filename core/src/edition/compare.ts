import { columnKey, type Finding, groupKey } from "../common/index.js";
import { type Cell, type Column, rowKey, showRowKey, sumOf, type Table } from "../table/index.js";
import { say } from "../words/index.js";

/** What is different between two editions of a dataset. */
export interface EditionDifference {
  readonly rows: { readonly before: number; readonly after: number };
  /** Rows that are only in the later or only in the earlier one, and, where there is a key, those that changed. */
  readonly added: RowSample;
  readonly gone: RowSample;
  readonly changed: ChangedRows | null;
  readonly same: number;
  readonly columns: { readonly added: readonly string[]; readonly gone: readonly string[] };
  readonly groups: readonly GroupDifference[];
  /** Sums of the columns of numbers that both have. */
  readonly totals: readonly {
    readonly column: string;
    readonly before: string;
    readonly after: string;
    readonly difference: string;
  }[];
}

/** How many rows, and the numbers of the first of them in their origin. */
export interface RowSample {
  readonly count: number;
  readonly rowNumbers: readonly number[];
}

export interface ChangedRows extends RowSample {
  /** In which columns, with how many rows each. */
  readonly columns: Readonly<Record<string, number>>;
  readonly examples: readonly {
    readonly key: string;
    readonly column: string;
    readonly before: Cell;
    readonly after: Cell;
  }[];
}

/** Groups by one column: which are new, which gone. */
export interface GroupDifference {
  readonly column: string;
  readonly before: number;
  readonly after: number;
  readonly added: readonly string[];
  readonly gone: readonly string[];
}

const LISTED = 100;
const EXAMPLES = 50;

/**
 * Compares two editions. With `key` columns rows are the same by their key and may have changed; without, a row is the
 * same where all cells of the columns both have are. `groupColumns` are those reports split by.
 */
export function compareEditions(
  before: Table,
  after: Table,
  options: { readonly key?: readonly string[]; readonly groupColumns?: readonly string[] } = {},
): EditionDifference {
  const shared = after.columns.flatMap((column): [Column, Column][] => {
    const was = findByName(before, column.name);
    return was ? [[was, column]] : [];
  });
  const key = (options.key ?? []).flatMap((name) =>
    shared.filter(([, now]) => columnKey(now.name) === columnKey(name)),
  );
  const hasKey = key.length > 0 && key.length === options.key?.length;
  const compared =
    shared.length === 0
      ? nothingShared(before, after)
      : hasKey
        ? compareByKey(before, after, key, shared)
        : compareWhole(before, after, shared);
  const names = (table: Table, other: Table): string[] =>
    table.columns.filter((column) => !findByName(other, column.name)).map((column) => column.name);
  return {
    rows: { before: before.rowCount, after: after.rowCount },
    ...compared,
    columns: { added: names(after, before), gone: names(before, after) },
    groups: (options.groupColumns ?? []).flatMap((name) => compareGroups(before, after, name)),
    totals: shared
      .filter(([was, now]) => was.type === "number" && now.type === "number")
      .map(([was, now]) => {
        const [old, current] = [sumOf(was.values), sumOf(now.values)];
        return {
          column: now.name,
          before: old.toString(),
          after: current.toString(),
          difference: current.minus(old).toString(),
        };
      }),
  };
}

function findByName(table: Table, name: string): Column | undefined {
  const folded = columnKey(name);
  return table.columns.find((column) => columnKey(column.name) === folded);
}

type RowsCompared = Pick<EditionDifference, "added" | "gone" | "changed" | "same">;

/** Texts of rows: cells joined by a sign that no cell holds. */
function rowText(columns: readonly Column[], row: number): string {
  let text = "";
  for (const column of columns) text += `${column.values[row] ?? ""}\u001f`;
  return text;
}

function sampleOf(table: Table, rows: readonly number[]): RowSample {
  return { count: rows.length, rowNumbers: rows.slice(0, LISTED).map((row) => table.rowNumbers[row]) };
}

/** Tables that share no column are two tables: no row of one is a row of the other. */
function nothingShared(before: Table, after: Table): RowsCompared {
  return { added: sampleOf(after, rowsOf(after)), gone: sampleOf(before, rowsOf(before)), changed: null, same: 0 };
}

function compareWhole(before: Table, after: Table, shared: readonly [Column, Column][]): RowsCompared {
  const old = shared.map(([was]) => was);
  const now = shared.map(([, is]) => is);
  const { gone, added } = withoutEqual(
    rowsOf(before),
    rowsOf(after),
    (row) => rowText(old, row),
    (row) => rowText(now, row),
  );
  return {
    added: sampleOf(after, added),
    gone: sampleOf(before, gone),
    changed: null,
    same: after.rowCount - added.length,
  };
}

function compareByKey(
  before: Table,
  after: Table,
  key: readonly [Column, Column][],
  shared: readonly [Column, Column][],
): RowsCompared {
  const waiting = rowsByKey(
    before,
    key.map(([was]) => was),
  );
  const arrived = rowsByKey(
    after,
    key.map(([, is]) => is),
  );
  const added: number[] = [];
  const gone: number[] = [];
  const pairs: [number, number][] = [];
  for (const [text, now] of arrived) {
    const left = leftOfKey(waiting.get(text) ?? [], now, shared);
    waiting.delete(text);
    const count = Math.min(left.gone.length, left.added.length);
    for (let at = 0; at < count; at++) pairs.push([left.gone[at], left.added[at]]);
    for (const row of left.gone.slice(count)) gone.push(row);
    for (const row of left.added.slice(count)) added.push(row);
  }
  for (const rows of waiting.values()) for (const row of rows) gone.push(row);
  for (const rows of [gone, added]) rows.sort((a, b) => a - b);
  pairs.sort(([, a], [, b]) => a - b);
  const columns: Record<string, number> = {};
  const examples: { key: string; column: string; before: Cell; after: Cell }[] = [];
  for (const [was, row] of pairs) {
    const differing = shared.filter(([old, now]) => old.values[was] !== now.values[row]);
    for (const [old, now] of differing) {
      columns[now.name] = (columns[now.name] ?? 0) + 1;
      if (examples.length < EXAMPLES)
        examples.push({
          key: showRowKey(
            rowKey(
              key.map(([, is]) => is),
              row,
            ),
          ),
          column: now.name,
          before: old.values[was],
          after: now.values[row],
        });
    }
  }
  return {
    added: sampleOf(after, added),
    gone: sampleOf(before, gone),
    changed: {
      ...sampleOf(
        after,
        pairs.map(([, row]) => row),
      ),
      columns,
      examples,
    },
    same: after.rowCount - added.length - pairs.length,
  };
}

function rowsOf(table: Table): number[] {
  return Array.from({ length: table.rowCount }, (_, row) => row);
}

function rowsByKey(table: Table, key: readonly Column[]): Map<string, number[]> {
  const found = new Map<string, number[]>();
  for (let row = 0; row < table.rowCount; row++) {
    const text = rowKey(key, row);
    const known = found.get(text);
    if (known) known.push(row);
    else found.set(text, [row]);
  }
  return found;
}

/** Rows of one key that have no equal in the other edition. */
function leftOfKey(
  old: readonly number[],
  now: readonly number[],
  shared: readonly [Column, Column][],
): { gone: readonly number[]; added: readonly number[] } {
  const [was, is] = [old[0], now[0]];
  if (old.length === 1 && now.length === 1) {
    const isSame = shared.every(([before, after]) => before.values[was] === after.values[is]);
    return isSame ? { gone: [], added: [] } : { gone: old, added: now };
  }
  return withoutEqual(
    old,
    now,
    (row) =>
      contentOf(
        shared.map(([before]) => before),
        row,
      ),
    (row) =>
      contentOf(
        shared.map(([, after]) => after),
        row,
      ),
  );
}

/** Rows of two editions without those that are equal, each of them counted once. */
function withoutEqual(
  old: readonly number[],
  now: readonly number[],
  oldText: (row: number) => string,
  nowText: (row: number) => string,
): { gone: number[]; added: number[] } {
  const waiting = new Map<string, number[]>();
  for (let at = old.length - 1; at >= 0; at--) {
    const text = oldText(old[at]);
    const known = waiting.get(text);
    if (known) known.push(old[at]);
    else waiting.set(text, [old[at]]);
  }
  const added = now.filter((row) => waiting.get(nowText(row))?.pop() === undefined);
  const gone = [...waiting.values()].flat().sort((a, b) => a - b);
  return { gone, added };
}

/** All cells of a row, told apart by type: 1 is not "1". */
function contentOf(columns: readonly Column[], row: number): string {
  return JSON.stringify(columns.map((column) => column.values[row]));
}

function compareGroups(before: Table, after: Table, name: string): GroupDifference[] {
  const [was, now] = [findByName(before, name), findByName(after, name)];
  if (!was || !now) return [];
  const [old, current] = [spellings(was), spellings(now)];
  const only = (a: Map<string, string>, b: Map<string, string>): string[] =>
    [...a].filter(([key]) => !b.has(key)).map(([, spelling]) => spelling);
  return [
    {
      column: now.name,
      before: old.size,
      after: current.size,
      added: only(current, old).sort(),
      gone: only(old, current).sort(),
    },
  ];
}

/** Cleaned keys of a column with the first spelling of each. */
function spellings(column: Column): Map<string, string> {
  const seen = new Set<Cell>();
  const found = new Map<string, string>();
  for (const value of column.values) {
    if (value === null || seen.has(value)) continue;
    seen.add(value);
    const key = groupKey(String(value));
    if (key !== "" && !found.has(key)) found.set(key, String(value));
  }
  return found;
}

/** Groups that came and went, and a number of rows that fell by more than half: worth a look before any run. */
export function differenceFindings(difference: EditionDifference, where: string): Finding[] {
  const findings: Finding[] = [];
  const names = (list: readonly string[]): string =>
    list
      .slice(0, 5)
      .map((name) => `"${name}"`)
      .join(", ") + (list.length > 5 ? ", …" : "");
  for (const group of difference.groups) {
    const add = (code: string, severity: Finding["severity"], list: readonly string[], what: string): void => {
      if (list.length === 0) return;
      findings.push({
        code,
        severity,
        where: say().place.columnIn({ where, name: group.column }),
        what: `${list.length} ${list.length === 1 ? "group" : "groups"} ${what}: ${names(list)}.`,
        advice: say().edition.lookWhetherRight(),
        count: list.length,
      });
    };
    add("group-new", "note", group.added, say().edition.didStandEditionBefore());
    add("group-gone", "note", group.gone, say().edition.editionBeforeRowsAnyMore());
  }
  const { before, after } = difference.rows;
  if (after < before / 2) {
    findings.push({
      code: "far-fewer-rows",
      severity: "warn",
      where,
      what: say().edition.rowsEditionBeforeHad({ after, before }),
      advice: say().edition.askWhetherExportWhole(),
    });
  }
  return findings;
}
