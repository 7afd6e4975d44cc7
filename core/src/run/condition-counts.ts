/** How many rows a condition holds for, while it is being written. */
import { CorbixError } from "../common/index.js";
import { compileExpression } from "../expression/index.js";
import { type PrepareContext, rowEnv, rowScope } from "../prepare/index.js";
import type { Cell, Table } from "../table/index.js";

export interface ConditionCount {
  /** The condition as it was asked for. */
  readonly formula: string;
  readonly holds: number;
  readonly leavesOut: number;
  /** The first rows it leaves out: their numbers in the origin, and their cells. */
  readonly rows: readonly { readonly number: number; readonly cells: readonly Cell[] }[];
  /** Why it cannot be counted, such as a name that is no column. */
  readonly trouble: string | undefined;
}

/** So many of the rows that a condition leaves out are shown. */
const SHOWN = 20;

/** Counts each condition for itself, over the same rows: what one leaves out may be left out by another as well. */
export function countConditions(
  table: Table,
  formulas: readonly string[],
  context: PrepareContext,
): readonly ConditionCount[] {
  return formulas.map((formula) => {
    try {
      return countOne(table, formula, context);
    } catch (error) {
      if (!(error instanceof CorbixError)) throw error;
      return { formula, holds: 0, leavesOut: 0, rows: [], trouble: error.message };
    }
  });
}

function countOne(table: Table, formula: string, context: PrepareContext): ConditionCount {
  const test = compileExpression(formula, rowScope(table.columns));
  const rows: { number: number; cells: Cell[] }[] = [];
  let holds = 0;
  for (let row = 0; row < table.rowCount; row++) {
    if (test.evaluate(rowEnv(table, row, context)) === true) holds++;
    else if (rows.length < SHOWN)
      rows.push({ number: table.rowNumbers[row], cells: table.columns.map(({ values }) => values[row]) });
  }
  return { formula, holds, leavesOut: table.rowCount - holds, rows, trouble: undefined };
}
