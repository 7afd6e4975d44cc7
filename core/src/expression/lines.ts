/** Lines of a group: its own, called `line`, and further ones of other datasets, called as the report says. */
import type { ColumnInfo, Table } from "../table/index.js";
import type { Env } from "./scope.js";

/** The group's own lines. */
export const OWN_LINES = "line";

/** Columns of lines by the folded name of those. */
export type LinesColumns = Readonly<Record<string, readonly ColumnInfo[]>>;

/** Rows of a table, one of which may be the current one. */
export interface LineSet {
  readonly table: Table;
  /** Rows of the table, in order. */
  readonly lines: readonly number[];
  /** The current row of the table, or -1. */
  readonly row: number;
}

/** Lines beside the group's own. */
export interface FurtherLines extends LineSet {
  /** What makes a line belong to the group's own: both give the same key. Without it the lines are everybody's. */
  readonly belongs?:
    | { readonly keyOf: (row: number) => string; readonly ownKeyOf: (ownRow: number) => string }
    | undefined;
}

/** The lines of a name. `name` is folded; a scope has seen to it that there are such lines. */
export function linesOf(env: Env, name: string): LineSet {
  return name === OWN_LINES ? env : (env.further?.get(name) ?? NONE);
}

const NONE: LineSet = { table: { columns: [], rowCount: 0, rowNumbers: [] }, lines: [], row: -1 };

/** The same with a current line. */
export function withLine(env: Env, name: string, row: number): Env {
  if (name === OWN_LINES) return { ...env, row };
  return { ...env, further: new Map(env.further).set(name, { ...linesOf(env, name), row }) };
}

/** The same with fewer lines; where they are the group's own, further ones are those that belong to them. */
export function withLines(env: Env, name: string, lines: readonly number[]): Env {
  if (name !== OWN_LINES)
    return { ...env, further: new Map(env.further).set(name, { ...linesOf(env, name), lines, row: -1 }) };
  if (!env.further) return { ...env, lines };
  const further = new Map([...env.further].map(([key, set]) => [key, set.belongs ? new Belonging(set, lines) : set]));
  return { ...env, lines, further };
}

/** Looked for when it is asked: most sub-groups ask for no further lines. */
class Belonging implements FurtherLines {
  readonly table: Table;
  readonly row = -1;
  readonly belongs: FurtherLines["belongs"];
  private found: readonly number[] | undefined;

  constructor(
    private readonly whole: FurtherLines,
    private readonly own: readonly number[],
  ) {
    this.table = whole.table;
    this.belongs = whole.belongs;
  }

  get lines(): readonly number[] {
    const { belongs } = this;
    if (!belongs) return this.whole.lines;
    if (!this.found) {
      const keys = new Set(this.own.map(belongs.ownKeyOf));
      this.found = this.whole.lines.filter((row) => keys.has(belongs.keyOf(row)));
    }
    return this.found;
  }
}
