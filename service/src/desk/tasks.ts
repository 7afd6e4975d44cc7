/** What is computed in threads, so that the service answers meanwhile: all of it core, none of it with a database. */
import { readFileSync } from "node:fs";
import { CorbixError, type ErrorCode, type Finding } from "@corbix/core/common";
import {
  appendTable,
  compareEditions,
  type Drift,
  differenceFindings,
  type EditionDifference,
  findDrift,
  type PackedTable,
  type Piece,
  packTable,
  unpackColumns,
  unpackTable,
} from "@corbix/core/edition";
import { type ColumnProfile, Grid, type GridQuery } from "@corbix/core/grid";
import { deflateEntry, writeZip } from "@corbix/core/ooxml";
import { type PrepareSpec, prepareTable, type StepAccount } from "@corbix/core/prepare";
import { type RecipientList, readRecipients } from "@corbix/core/recipients";
import { type PlanInput, type TriedOut, tryOut } from "@corbix/core/run";
import { type Alias, type GroupList, listGroups } from "@corbix/core/split";
import {
  type Cell,
  type ChangedCells,
  type ColumnInfo,
  columnData,
  columnInfo,
  type LoadedTable,
  type LoadOptions,
  loadTable,
} from "@corbix/core/table";
import {
  compareWorkbooks,
  type ReplacedCell,
  replaceWords,
  sheetsApart,
  type WordRule,
  type WorkbookComparison,
} from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";

export interface LoadTask {
  readonly path: string;
  readonly where: string;
  readonly options: LoadOptions;
  /** The edition before, to compare with and to add to. */
  readonly before?: PackedTable;
  /** Key columns, where the file adds to the edition before. */
  readonly appendBy?: readonly string[];
  readonly groupColumns: readonly string[];
  /** Rows given back to be looked at. */
  readonly previewRows: number;
}

export interface LoadResult extends Pick<LoadedTable, "reading" | "headerRow" | "leftOut" | "decisions"> {
  readonly columns: readonly ColumnInfo[];
  readonly rowCount: number;
  readonly pieces: readonly Piece[];
  readonly changes: readonly ChangedCells[];
  readonly findings: readonly Finding[];
  readonly appended: { readonly added: number; readonly replaced: number } | null;
  readonly drift: Drift | null;
  readonly difference: EditionDifference | null;
  readonly preview: { readonly rowNumbers: readonly number[]; readonly rows: readonly (readonly Cell[])[] };
}

function load(task: LoadTask): LoadResult {
  const loaded = loadTable(readFileSync(task.path), task.where, task.options);
  const findings: Finding[] = [...loaded.findings];
  let { table } = loaded;
  let appended: LoadResult["appended"] = null;
  let difference: EditionDifference | null = null;
  let drift: Drift | null = null;
  if (task.before) {
    const before = unpackTable(task.before);
    drift = findDrift(before, table);
    if (task.appendBy && task.appendBy.length > 0) {
      const result = appendTable(before, table, task.appendBy, task.where);
      table = result.table;
      appended = { added: result.added, replaced: result.replaced };
      findings.push(...result.findings);
    }
    difference = compareEditions(before, table, {
      groupColumns: task.groupColumns,
      ...(task.appendBy ? { key: task.appendBy } : {}),
    });
    findings.push(...differenceFindings(difference, task.where));
  }
  const shown = Math.min(task.previewRows, table.rowCount);
  return {
    columns: table.columns.map(columnInfo),
    rowCount: table.rowCount,
    pieces: packTable(table),
    changes: loaded.changes,
    reading: loaded.reading,
    headerRow: loaded.headerRow,
    leftOut: loaded.leftOut,
    decisions: loaded.decisions,
    findings,
    appended,
    drift,
    difference,
    preview: {
      rowNumbers: table.rowNumbers.slice(0, shown),
      rows: Array.from({ length: shown }, (_, row) => table.columns.map((column) => column.values[row])),
    },
  };
}

export interface ListTask {
  readonly path: string;
  readonly where: string;
  readonly options: LoadOptions;
}

/** A recipient list, read as any table is. */
function recipients(task: ListTask): RecipientList {
  return readRecipients(loadTable(readFileSync(task.path), task.where, task.options).table, task.where);
}

export interface GroupsTask {
  readonly table: PackedTable;
  readonly before?: PackedTable;
  readonly by: readonly string[];
  readonly aliases: readonly Alias[];
  readonly recipientKeys?: readonly string[];
}

function groups(task: GroupsTask): GroupList {
  return listGroups(unpackTable(task.table), task.by, {
    aliases: task.aliases,
    ...(task.before ? { before: unpackTable(task.before) } : {}),
    ...(task.recipientKeys ? { recipientKeys: new Set(task.recipientKeys) } : {}),
  });
}

export interface CompareTask {
  readonly before: PackedTable;
  readonly after: PackedTable;
  readonly key: readonly string[];
  readonly groupColumns: readonly string[];
}

function compare(task: CompareTask): EditionDifference {
  return compareEditions(unpackTable(task.before), unpackTable(task.after), {
    groupColumns: task.groupColumns,
    ...(task.key.length > 0 ? { key: task.key } : {}),
  });
}

export interface OpenTask {
  readonly key: string;
  readonly table: PackedTable;
  readonly prepare?: {
    readonly spec: PrepareSpec;
    readonly others: Readonly<Record<string, PackedTable>>;
    readonly until: number;
    readonly today: number;
    readonly locale: string;
  };
}

export interface LookTask {
  readonly key: string;
  readonly query: GridQuery;
  readonly first: number;
  readonly count: number;
}

export interface Look {
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
  readonly query: GridQuery;
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

function openGrid(task: OpenTask): readonly StepAccount[] {
  const known = GRIDS.get(task.key);
  if (known) return known.steps;
  let grid: Grid;
  let steps: readonly StepAccount[] = [];
  if (task.prepare) {
    const { spec, others, until, today, locale } = task.prepare;
    const tables = new Map(Object.entries(others).map(([name, packed]) => [name, unpackTable(packed)]));
    const prepared = prepareTable(unpackTable(task.table), spec, { others: tables, today, locale }, until);
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
function found(key: string, query: GridQuery): OpenGrid | undefined {
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

function look(task: LookTask): Look | undefined {
  const open = found(task.key, task.query);
  if (!open) return undefined;
  const { grid } = open;
  const rows = [...open.found.subarray(task.first, task.first + task.count)];
  return {
    columns: grid.columns.map(columnInfo),
    rowNumbers: rows.map((row) => grid.rowNumbers[row]),
    rows: rows.map((row) => grid.cells(row)),
    total: open.found.length,
    of: grid.rowCount,
  };
}

function profile(task: ProfileTask): readonly ColumnProfile[] | undefined {
  const open = found(task.key, task.query);
  return open && task.columns.map((column) => open.grid.profile(column, open.found));
}

function foundRowNumbers(task: Omit<ProfileTask, "columns">): readonly number[] | undefined {
  const open = found(task.key, task.query);
  return open && [...open.found].map((row) => open.grid.rowNumbers[row]);
}

/** Place of a row of the origin among those found: where a grid has to scroll to. */
function placeOf(task: Omit<ProfileTask, "columns"> & { readonly rowNumber: number }): number | undefined {
  const open = found(task.key, task.query);
  return open?.found.findIndex((row) => open.grid.rowNumbers[row] === task.rowNumber);
}

export interface TryTask {
  readonly input: Omit<PlanInput, "table" | "others" | "templates" | "onlyRows"> & {
    readonly table: PackedTable;
    readonly others: Readonly<Record<string, PackedTable>>;
    readonly templates: Readonly<Record<string, Uint8Array>>;
  };
  readonly file: string;
  readonly group: string | undefined;
  /** Folder of fonts of one's own. */
  readonly fonts: string;
}

/** A template filled for one group, with its pages. */
function tryTemplate({ input, file, group, fonts }: TryTask): TriedOut {
  const others = new Map(Object.entries(input.others).map(([name, packed]) => [name, unpackTable(packed)]));
  const templates = new Map(Object.entries(input.templates));
  return tryOut({ ...input, table: unpackTable(input.table), others, templates }, file, group, openFonts(fonts));
}

export interface WorkbookTask {
  readonly bytes: Uint8Array;
  readonly where: string;
}

/** Each sheet as a workbook, all in one archive. */
function takeApart({ bytes, where }: WorkbookTask): { sheets: string[]; archive: Uint8Array } {
  const files = [...sheetsApart(bytes, where)];
  const archive = writeZip(files.map(({ file, bytes: content }) => deflateEntry(file, content)));
  return { sheets: files.map(({ sheet }) => sheet), archive };
}

function replaceIn(task: WorkbookTask & { readonly rule: WordRule }): {
  bytes: Uint8Array;
  cells: readonly ReplacedCell[];
} {
  const { package: changed, cells } = replaceWords(task.bytes, task.where, task.rule);
  return { bytes: changed.toBytes(), cells };
}

function compareFiles(task: { readonly first: WorkbookTask; readonly second: WorkbookTask }): WorkbookComparison {
  return compareWorkbooks(task.first, task.second);
}

export const TASKS = {
  load,
  recipients,
  groups,
  compare,
  openGrid,
  look,
  profile,
  foundRowNumbers,
  placeOf,
  tryTemplate,
  takeApart,
  replaceIn,
  compareFiles,
} as const;

export type TaskName = keyof typeof TASKS;
export type TaskInput<Name extends TaskName> = Parameters<(typeof TASKS)[Name]>[0];
export type TaskOutput<Name extends TaskName> = ReturnType<(typeof TASKS)[Name]>;

/** An error as it crosses from a thread. */
export interface ThrownError {
  readonly code: ErrorCode | undefined;
  readonly message: string;
  readonly where: string | undefined;
  readonly advice: string | undefined;
}

export function thrownError(error: unknown): ThrownError {
  if (error instanceof CorbixError)
    return { code: error.code, message: error.message, where: error.where, advice: error.advice };
  return { code: undefined, message: (error as Error)?.message ?? String(error), where: undefined, advice: undefined };
}
