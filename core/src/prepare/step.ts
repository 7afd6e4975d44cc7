import { CorbixError, columnKey, type Finding, suggestName } from "../common/index.js";
import { type Env, type Scope, type Value, valueFromCell } from "../expression/index.js";
import { type Column, type ColumnInfo, type ColumnType, showRowKey, type Table } from "../table/index.js";
import { say } from "../words/index.js";

/** Rows that a step left out, by the reason. */
export interface LeftOutRows {
  readonly reason: string;
  readonly count: number;
  /** Row numbers in the origin, the first of them. */
  readonly rowNumbers: readonly number[];
}

/** So many row numbers are listed for each reason; the count is always of all. */
export const LISTED_ROWS = 100;

/** What a preparation needs from outside. */
export interface PrepareContext {
  readonly others: ReadonlyMap<string, Table>;
  readonly today: number;
  readonly locale: string;
}

/** What a step made of a table. */
export interface StepResult {
  readonly table: Table;
  readonly leftOut: readonly LeftOutRows[];
  /** Rows it made beyond those that came in, by stacking. */
  readonly made: number;
  readonly findings: readonly Finding[];
}

/** One kind of step: what columns it gives, known before there is data, and what it does to a table. */
export interface StepKind<Spec> {
  readonly columns: (
    columns: readonly ColumnInfo[],
    spec: Spec,
    others: ReadonlyMap<string, readonly ColumnInfo[]>,
  ) => ColumnInfo[];
  readonly apply: (table: Table, spec: Spec, context: PrepareContext) => StepResult;
}

export function unchanged(table: Table): StepResult {
  return { table, leftOut: [], made: 0, findings: [] };
}

export function rowScope(columns: readonly ColumnInfo[], names: readonly string[] = []): Scope {
  return { mode: "row", columns, spaces: {}, names };
}

export function rowEnv(table: Table, row: number, context: PrepareContext, names?: Env["names"]): Env {
  return {
    table,
    lines: [],
    row,
    spaces: {},
    locale: context.locale,
    today: context.today,
    ...(names ? { names } : {}),
  };
}

/** Index of a column by name. Throws `BAD_DEFINITION` with a near name. */
export function findColumn(columns: readonly ColumnInfo[], name: string, where: string): number {
  const folded = columnKey(name);
  const index = columns.findIndex((column) => columnKey(column.name) === folded);
  if (index >= 0) return index;
  const names = columns.map((column) => column.name);
  throw new CorbixError("BAD_DEFINITION", say().prepare.cannotFindColumn({ name }), {
    where,
    advice: suggestName(name, names, "columns"),
  });
}

export function findColumns<T extends ColumnInfo>(columns: readonly T[], names: readonly string[], where: string): T[] {
  return names.map((name) => columns[findColumn(columns, name, where)]);
}

/** Columns with one more. Throws `BAD_DEFINITION` where there is one of this name. */
export function withColumn<T extends ColumnInfo>(columns: readonly T[], column: T, where: string): T[] {
  if (columns.some((one) => columnKey(one.name) === columnKey(column.name))) {
    throw new CorbixError("BAD_DEFINITION", say().prepare.cannotAddColumnNameAlready({ name: column.name }), {
      where,
      advice: say().prepare.chooseAnotherName(),
    });
  }
  return [...columns, column];
}

/** Another dataset by name. Throws `BAD_DEFINITION` with a near name. */
export function findOther<T>(others: ReadonlyMap<string, T>, name: string, where: string): T {
  const found = others.get(name);
  if (found !== undefined) return found;
  throw new CorbixError("BAD_DEFINITION", say().prepare.cannotFindDataset({ name }), {
    where,
    advice: suggestName(name, [...others.keys()], "datasets"),
  });
}

/** Rows left out for one reason, if any. */
export function leftOutOf(table: Table, rows: readonly number[], reason: string): LeftOutRows[] {
  return rows.length === 0
    ? []
    : [{ reason, count: rows.length, rowNumbers: rows.slice(0, LISTED_ROWS).map((row) => table.rowNumbers[row]) }];
}

export function valueAt(column: Column, row: number): Value {
  return valueFromCell(column.values[row], column.type);
}

/** The one type of several columns, or text where they differ. */
export function commonType(columns: readonly ColumnInfo[]): ColumnType {
  const types = new Set(columns.map((column) => column.type));
  return types.size === 1 ? columns[0].type : "text";
}

export function listed(keys: readonly string[]): string {
  const shown = keys.slice(0, 5).map((key) => `"${showRowKey(key)}"`);
  return shown.join(", ") + (keys.length > 5 ? ", …" : "");
}
