/** Steps that change which rows there are, or their order: stack, sort, first, last, distinct. */

import { compareValues, showValue, valueFromCell } from "../expression/index.js";
import { type Cell, type Column, type ColumnInfo, rowKey, type Table, takeRows } from "../table/index.js";
import { say } from "../words/index.js";
import type { PickStep, StackStep } from "./schema.js";
import {
  commonType,
  findColumn,
  findColumns,
  leftOutOf,
  type StepKind,
  type StepResult,
  unchanged,
  valueAt,
  withColumn,
} from "./step.js";

/** Many columns as rows: one for each of their values. */
export const stack: StepKind<StackStep> = {
  columns: (columns, spec) => {
    const stacked = findColumns(columns, spec.columns, "stack, columns");
    const rest = columns.filter((column) => !stacked.includes(column));
    const named = withColumn(rest, { name: spec.name, type: "text" }, "stack, name");
    return withColumn<ColumnInfo>(named, { name: spec.value, type: commonType(stacked) }, "stack, value");
  },
  apply: (table, spec, context) => {
    const stacked = findColumns(table.columns, spec.columns, "stack, columns");
    const type = commonType(stacked);
    const rows: number[] = [];
    const names: Cell[] = [];
    const values: Cell[] = [];
    const empty: number[] = [];
    for (let row = 0; row < table.rowCount; row++) {
      const before = rows.length;
      for (const column of stacked) {
        const cell = column.values[row];
        if (cell === null && spec.blanks === "left-out") continue;
        rows.push(row);
        names.push(column.name);
        values.push(
          type === "text" && cell !== null && column.type !== "text"
            ? showValue(valueAt(column, row), undefined, context.locale)
            : cell,
        );
      }
      if (rows.length === before) empty.push(row);
    }
    const rest: Table = { ...table, columns: table.columns.filter((column) => !stacked.includes(column)) };
    const taken = takeRows(rest, rows);
    const named = withColumn<Column>(taken.columns, { name: spec.name, type: "text", values: names }, "stack, name");
    const columns = withColumn<Column>(named, { name: spec.value, type, values }, "stack, value");
    return {
      table: { ...taken, columns },
      leftOut: leftOutOf(table, empty, say().prepare.nothingStack()),
      made: rows.length - (table.rowCount - empty.length),
      findings: [],
    };
  },
};

function sortedRows(table: Table, sort: readonly string[], where: string): number[] {
  const keys = sort.map((name) => {
    const column = table.columns[findColumn(table.columns, name.replace(/^-/, ""), where)];
    return { column, sign: name.startsWith("-") ? -1 : 1 };
  });
  const compare = (a: number, b: number): number => {
    for (const { column, sign } of keys) {
      const [x, y]: [Cell, Cell] = [column.values[a], column.values[b]];
      if (x === y) continue;
      const order =
        typeof x === "number" && typeof y === "number"
          ? x - y
          : compareValues(valueFromCell(x, column.type), valueFromCell(y, column.type));
      // Blanks stay last in both directions.
      if (order !== 0) return x === null || x === "" || y === null || y === "" ? order : sign * order;
    }
    return a - b;
  };
  return Array.from({ length: table.rowCount }, (_, row) => row).sort(compare);
}

export const sort: StepKind<readonly string[]> = {
  columns: (columns, spec) => {
    for (const name of spec) findColumn(columns, name.replace(/^-/, ""), "sort");
    return [...columns];
  },
  apply: (table, spec) => ({ ...unchanged(table), table: takeRows(table, sortedRows(table, spec, "sort")) }),
};

/** One row per key: the first, or the last, in an order. */
function pick(which: "first" | "last"): StepKind<PickStep> {
  return {
    columns: (columns, spec) => {
      findColumns(columns, spec.per, `${which}, per`);
      for (const name of spec.by ?? []) findColumn(columns, name.replace(/^-/, ""), `${which}, by`);
      return [...columns];
    },
    apply: (table, spec) => {
      const order = spec.by ? sortedRows(table, spec.by, `${which}, by`) : [...table.rowNumbers.keys()];
      if (which === "last") order.reverse();
      return keepOne(
        table,
        findColumns(table.columns, spec.per, `${which}, per`),
        order,
        say().prepare.notThePer({ which, per: spec.per.join(", ") }),
      );
    },
  };
}

export const first = pick("first");
export const last = pick("last");

/** Rows alike in some columns, or all, only once: the first of them. */
export const distinct: StepKind<readonly string[]> = {
  columns: (columns, spec) => {
    findColumns(columns, spec, "distinct");
    return [...columns];
  },
  apply: (table, spec) => {
    const by = spec.length === 0 ? table.columns : findColumns(table.columns, spec, "distinct");
    const reason = say().prepare.sameRowStandsAbove({ specCount: spec.length, spec: spec.join(", ") });
    return keepOne(table, by, [...table.rowNumbers.keys()], reason);
  },
};

/** Keeps for each key the row that comes first in an order; the table's own order stays. */
function keepOne(table: Table, by: readonly Column[], order: readonly number[], reason: string): StepResult {
  const seen = new Set<string>();
  const isKept = new Uint8Array(table.rowCount);
  for (const row of order) {
    const key = rowKey(by, row);
    if (seen.has(key)) continue;
    seen.add(key);
    isKept[row] = 1;
  }
  const rows = [...isKept.keys()];
  return {
    table: takeRows(
      table,
      rows.filter((row) => isKept[row] === 1),
    ),
    leftOut: leftOutOf(
      table,
      rows.filter((row) => isKept[row] === 0),
      reason,
    ),
    made: 0,
    findings: [],
  };
}
