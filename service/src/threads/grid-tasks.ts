/** Tasks of the viewer's thread, which keeps open what is looked at. */
import { type PackedTable, unpackColumns, unpackTable } from "@corbix/core/edition";
import { type AskedQuery, type Choices, type ColumnProfile, Grid } from "@corbix/core/grid";
import { type PrepareSpec, prepareTable, type StepAccount } from "@corbix/core/prepare";
import { type Alias, applyAliases } from "@corbix/core/split";
import { type Cell, type ColumnInfo, columnData, columnInfo, type Table } from "@corbix/core/table";

export interface OpenTask {
  readonly key: string;
  readonly table: PackedTable;
  readonly prepare?: {
    readonly spec: PrepareSpec;
    readonly others: Readonly<Record<string, PackedTable>>;
    /** Spellings that count as one. */
    readonly aliases: readonly Alias[];
    readonly until: number;
    readonly today: number;
    readonly locale: string;
  };
}

export interface LookTask {
  readonly key: string;
  readonly query: AskedQuery;
  readonly first: number;
  readonly count: number;
}

export interface GridView {
  readonly columns: readonly ColumnInfo[];
  readonly rowNumbers: readonly number[];
  readonly rows: readonly (readonly Cell[])[];
  /** Rows that pass. */
  readonly total: number;
  /** Rows there are. */
  readonly of: number;
}

export interface ProfileTask {
  readonly key: string;
  readonly query: AskedQuery;
  readonly columns: readonly string[];
}

interface OpenGrid {
  readonly grid: Grid;
  readonly steps: readonly StepAccount[];
  query: string;
  found: Uint32Array;
}

/** Grids that are open, the least lately used first. */
const GRIDS = new Map<string, OpenGrid>();
const GRID_COUNT = 8;
const GRID_BYTES = 1_000_000_000;

export function openGrid(task: OpenTask): readonly StepAccount[] {
  const known = GRIDS.get(task.key);
  if (known) return known.steps;
  let grid: Grid;
  let steps: readonly StepAccount[] = [];
  if (task.prepare) {
    const { spec, others, aliases, until, today, locale } = task.prepare;
    const tables = new Map(Object.entries(others).map(([name, packed]) => [name, unpackTable(packed)]));
    const prepared = prepareTable(
      applyAliases(unpackTable(task.table), aliases),
      spec,
      { others: tables, today, locale },
      until,
    );
    steps = prepared.steps;
    grid = new Grid(
      prepared.table.columns.map((column) => ({ ...columnInfo(column), data: columnData(column.values) })),
      Uint32Array.from(prepared.table.rowNumbers),
    );
  } else {
    const { columns, rowNumbers } = unpackColumns(task.table);
    grid = new Grid(columns, rowNumbers);
  }
  GRIDS.set(task.key, { grid, steps, query: "", found: new Uint32Array(0) });
  const size = (): number => [...GRIDS.values()].reduce((sum, one) => sum + one.grid.size, 0);
  for (const key of [...GRIDS.keys()])
    if (key !== task.key && (GRIDS.size > GRID_COUNT || size() > GRID_BYTES)) GRIDS.delete(key);
  return steps;
}

/** A grid with the rows of a query; they are kept, so that scrolling asks for no new search. `undefined` if it is not open. */
function found(key: string, query: AskedQuery): OpenGrid | undefined {
  const open = GRIDS.get(key);
  if (!open) return undefined;
  GRIDS.delete(key);
  GRIDS.set(key, open);
  const text = JSON.stringify(query);
  if (open.query !== text) {
    open.found = open.grid.rows(query);
    open.query = text;
  }
  return open;
}

export function look(task: LookTask): GridView | undefined {
  const open = found(task.key, task.query);
  if (!open) return undefined;
  const { grid } = open;
  const rows = [...open.found.subarray(task.first, task.first + task.count)];
  return {
    columns: grid.columns.map(columnInfo),
    rowNumbers: rows.map((row) => grid.rowNumbers[row] ?? 0),
    rows: rows.map((row) => grid.cells(row)),
    total: open.found.length,
    of: grid.rowCount,
  };
}

export function profile(task: ProfileTask): readonly ColumnProfile[] | undefined {
  const open = found(task.key, task.query);
  return open && task.columns.map((column) => open.grid.profile(column, open.found));
}

export function foundRowNumbers(task: Omit<ProfileTask, "columns">): readonly number[] | undefined {
  const open = found(task.key, task.query);
  return open && [...open.found].map((row) => open.grid.rowNumbers[row] ?? 0);
}

/** Place of a row of the origin among those found: where a grid has to scroll to. */
export function placeOfRow(task: Omit<ProfileTask, "columns"> & { readonly rowNumber: number }): number | undefined {
  const open = found(task.key, task.query);
  return open?.found.findIndex((row) => open.grid.rowNumbers[row] === task.rowNumber);
}

/** What there is to choose from in columns. */
export function choices(task: {
  readonly key: string;
  readonly columns: readonly string[];
  readonly most: number;
}): readonly (readonly [string, Choices])[] | undefined {
  const open = GRIDS.get(task.key);
  return open && task.columns.map((column) => [column, open.grid.choices(column, task.most)] as const);
}

/** The rows that were found as a table of their own, the first `most` of them; or the one with a number in the origin. */
export function takeFound(
  task: Omit<ProfileTask, "columns"> & { readonly most: number; readonly rowNumber?: number | undefined },
): { readonly table: Table; readonly found: number } | undefined {
  const open = found(task.key, task.query);
  if (!open) return undefined;
  const { grid, found: all } = open;
  const { rowNumber } = task;
  const one = rowNumber === undefined ? undefined : all.findIndex((row) => grid.rowNumbers[row] === rowNumber);
  const rows =
    one === undefined ? all.subarray(0, task.most) : one < 0 ? all.subarray(0, 0) : all.subarray(one, one + 1);
  return { table: grid.table(rows), found: all.length };
}
