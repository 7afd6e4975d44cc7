/** Steps that give columns: add, bring, replace, fold. */

import { CorbixError, type Finding, groupKey } from "../common/index.js";
import {
  cellFromValue,
  compileExpression,
  type Expression,
  showValue,
  typeOfValue,
  type Value,
} from "../expression/index.js";
import {
  type Cell,
  type Column,
  type ColumnInfo,
  type ColumnType,
  rowKey,
  type Table,
  takeRows,
} from "../table/index.js";
import { say } from "../words/index.js";
import type { BringStep, FoldStep, ReplaceStep } from "./schema.js";
import {
  findColumn,
  findColumns,
  findOther,
  leftOutOf,
  listed,
  type PrepareContext,
  rowEnv,
  rowScope,
  type StepKind,
  unchanged,
  valueAt,
  withColumn,
} from "./step.js";

/** Computed columns; later ones may use earlier ones. */
export const add: StepKind<Readonly<Record<string, string>>> = {
  columns: (columns, spec) =>
    Object.entries(spec).reduce<ColumnInfo[]>(
      (all, [name, source]) => {
        const { type } = compileExpression(source, rowScope(all));
        return withColumn(all, { name, type: type === "any" ? "text" : type }, `add, ${name}`);
      },
      [...columns],
    ),
  apply: (table, spec, context) => {
    let columns = [...table.columns];
    for (const [name, source] of Object.entries(spec)) {
      const sofar = { ...table, columns };
      columns = withColumn(
        columns,
        computed(sofar, name, compileExpression(source, rowScope(columns)), context),
        `add, ${name}`,
      );
    }
    return { ...unchanged(table), table: { ...table, columns } };
  },
};

function computed(table: Table, name: string, expression: Expression, context: PrepareContext): Column {
  const found = new Array<Value>(table.rowCount);
  for (let row = 0; row < table.rowCount; row++) found[row] = expression.evaluate(rowEnv(table, row, context));
  const type = expression.type === "any" ? typeOfAll(found) : expression.type;
  const toCell = (value: Value): Cell =>
    type === "text" && value !== null && typeof value !== "string"
      ? showValue(value, undefined, context.locale)
      : cellFromValue(value);
  return { name, type, values: found.map(toCell) };
}

/** What an expression whose type depends on the data gave: one kind of value, or text. */
function typeOfAll(values: readonly Value[]): ColumnType {
  let type: ColumnType | undefined;
  for (const value of values) {
    const one = typeOfValue(value);
    if (one === "any") continue;
    if (type !== undefined && type !== one) return "text";
    type = one;
  }
  return type ?? "text";
}

/** Columns of another dataset by key. */
export const bring: StepKind<BringStep> = {
  columns: (columns, spec, others) => {
    const there = findOther(others, spec.from, "bring");
    for (const [here, key] of Object.entries(spec.match)) {
      findColumn(columns, here, "bring, match");
      findColumn(there, key, say().prepare.bringMatch({ from: spec.from }));
    }
    return spec.columns.reduce<ColumnInfo[]>(
      (all, name) =>
        withColumn(
          all,
          { ...there[findColumn(there, name, say().prepare.bringColumns({ from: spec.from }))], name },
          `bring, ${name}`,
        ),
      [...columns],
    );
  },
  apply: (table, spec, context) => {
    const other = findOther(context.others, spec.from, "bring");
    const here = findColumns(table.columns, Object.keys(spec.match), "bring, match");
    const there = findColumns(other.columns, Object.values(spec.match), say().prepare.bringMatch({ from: spec.from }));
    const brought = findColumns(other.columns, spec.columns, say().prepare.bringColumns({ from: spec.from }));
    const { partners, doubles } = partnersByKey(other, there);
    const missing = new Map<string, number>();
    const lacking: number[] = [];
    const rows = new Int32Array(table.rowCount);
    for (let row = 0; row < table.rowCount; row++) {
      const key = rowKey(here, row);
      const partner = partners.get(key);
      rows[row] = partner ?? -1;
      if (partner === undefined) {
        missing.set(key, (missing.get(key) ?? 0) + 1);
        lacking.push(row);
      }
    }
    const values = (column: Column): Cell[] => Array.from(rows, (row) => (row < 0 ? null : column.values[row]));
    let columns = [...table.columns];
    brought.forEach((column, at) => {
      const name = spec.columns[at];
      columns = withColumn(columns, { ...column, name, values: values(column) }, `bring, ${name}`);
    });
    const isNeeded = spec.partner === "needed";
    const full = { ...table, columns };
    return {
      table:
        isNeeded && lacking.length > 0
          ? takeRows(
              full,
              [...rows.keys()].filter((row) => rows[row] >= 0),
            )
          : full,
      leftOut: isNeeded ? leftOutOf(table, lacking, say().prepare.withoutPartner({ from: spec.from })) : [],
      made: 0,
      findings: partnerFindings(spec, missing, doubles),
    };
  },
};

function partnersByKey(table: Table, key: readonly Column[]): { partners: Map<string, number>; doubles: string[] } {
  const partners = new Map<string, number>();
  const doubles = new Set<string>();
  for (let row = 0; row < table.rowCount; row++) {
    const text = rowKey(key, row);
    if (partners.has(text)) doubles.add(text);
    else partners.set(text, row);
  }
  return { partners, doubles: [...doubles] };
}

function partnerFindings(spec: BringStep, missing: ReadonlyMap<string, number>, doubles: readonly string[]): Finding[] {
  const findings: Finding[] = [];
  const where = say().prepare.bring({ from: spec.from });
  if (missing.size > 0) {
    findings.push({
      code: "no-partner",
      severity: "warn",
      where,
      what: say().prepare.keysPartner({
        missingCount: missing.size,
        from: spec.from,
        listed: listed([...missing.keys()]),
        partner: spec.partner,
      }),
      advice: say().prepare.addThemCorrectKey({ from: spec.from }),
      count: missing.size,
    });
  }
  if (doubles.length > 0) {
    findings.push({
      code: "double-partner",
      severity: "warn",
      where,
      what: say().prepare.keysStandMoreOnceFirst({
        doubleCount: doubles.length,
        from: spec.from,
        listed: listed(doubles),
      }),
      advice: say().prepare.makeKeyUnique({ from: spec.from }),
      count: doubles.length,
    });
  }
  return findings;
}

/** Values of a column replaced by a list, written here or kept as a dataset. */
export const replace: StepKind<ReplaceStep> = {
  columns: (columns, spec, others) => {
    const index = findColumn(columns, spec.column, "replace, column");
    if (spec.from !== undefined) {
      const there = findOther(others, spec.from, "replace, from");
      findColumn(there, listColumn(spec, "match"), say().prepare.replaceMatch({ from: spec.from }));
      findColumn(there, listColumn(spec, "take"), say().prepare.replaceTake({ from: spec.from }));
    } else if (spec.list === undefined) throw withoutList(spec);
    return columns.map((column, at) => (at === index ? { name: column.name, type: "text" } : column));
  },
  apply: (table, spec, context) => {
    const index = findColumn(table.columns, spec.column, "replace, column");
    const list = replacements(spec, context);
    const used = new Set<string>();
    const known = new Map<Cell, Cell>();
    const column = table.columns[index];
    const change = (cell: Cell, row: number): Cell => {
      if (known.has(cell)) return known.get(cell) ?? null;
      const value = cell === null ? null : showValue(valueAt(column, row), undefined, context.locale);
      const key = groupKey(value ?? "");
      const found = list.get(key);
      if (found !== undefined) used.add(key);
      const result = found === undefined ? value : found === "" ? null : found;
      known.set(cell, result);
      return result;
    };
    const values = column.values.map(change);
    const unused = [...list.keys()].filter((key) => !used.has(key));
    const findings: Finding[] =
      unused.length === 0 || spec.from !== undefined
        ? []
        : [
            {
              code: "replacement-unused",
              severity: "note",
              where: say().prepare.replace({ name: column.name }),
              what: say().prepare.listedValuesDoOccur({ unusedCount: unused.length, listed: listed(unused) }),
              advice: say().prepare.nothingDoUnlessTheyExpected(),
              count: unused.length,
            },
          ];
    const columns = table.columns.map(
      (one, at): Column => (at === index ? { name: one.name, type: "text", values } : one),
    );
    return { table: { ...table, columns }, leftOut: [], made: 0, findings };
  },
};

function replacements(spec: ReplaceStep, context: PrepareContext): Map<string, string> {
  if (spec.from === undefined) {
    if (spec.list === undefined) throw withoutList(spec);
    return new Map(Object.entries(spec.list).map(([from, to]) => [groupKey(from), to]));
  }
  const other = findOther(context.others, spec.from, "replace, from");
  const [match, take] = findColumns(
    other.columns,
    [listColumn(spec, "match"), listColumn(spec, "take")],
    say().prepare.replaceFrom({ from: spec.from }),
  );
  const list = new Map<string, string>();
  for (let row = 0; row < other.rowCount; row++) {
    const key = groupKey(String(match.values[row] ?? ""));
    if (!list.has(key)) list.set(key, showValue(valueAt(take, row), undefined, context.locale));
  }
  return list;
}

function listColumn(spec: ReplaceStep, field: "match" | "take"): string {
  const name = spec[field];
  if (name !== undefined) return name;
  throw new CorbixError("BAD_DEFINITION", say().prepare.cannotReplaceMissing({ from: spec.from, field }), {
    where: say().prepare.replaceColumn({ column: spec.column }),
    advice: say().prepare.nameColumnValuesTheyStand(),
  });
}

function withoutList(spec: ReplaceStep): CorbixError {
  return new CorbixError("BAD_DEFINITION", say().prepare.cannotReplaceValuesList(), {
    where: say().prepare.replaceColumn({ column: spec.column }),
    advice: say().prepare.giveListDatasetMatchTake(),
  });
}

const FOLD_NAMES = ["value", "name"];

/** Many columns as one readable text that names those that match a condition. */
export const fold: StepKind<FoldStep> = {
  columns: (columns, spec) => {
    findColumns(columns, spec.columns, "fold, columns");
    compileExpression(spec.where, rowScope(columns, FOLD_NAMES));
    if (spec.show !== undefined) compileExpression(spec.show, rowScope(columns, FOLD_NAMES));
    return withColumn(foldLeft(columns, spec), { name: spec.into, type: "text" }, "fold, into");
  },
  apply: (table, spec, context) => {
    const folded = findColumns(table.columns, spec.columns, "fold, columns");
    const test = compileExpression(spec.where, rowScope(table.columns, FOLD_NAMES));
    const show =
      spec.show === undefined ? undefined : compileExpression(spec.show, rowScope(table.columns, FOLD_NAMES));
    const values = Array.from({ length: table.rowCount }, (_, row): Cell => {
      const parts: string[] = [];
      for (const column of folded) {
        const names = new Map<string, Value>([
          ["value", valueAt(column, row)],
          ["name", column.name],
        ]);
        const env = rowEnv(table, row, context, names);
        if (test.evaluate(env) !== true) continue;
        parts.push(show ? showValue(show.evaluate(env), undefined, context.locale) : column.name);
      }
      return parts.length === 0 ? null : parts.join(spec.separator);
    });
    const columns = withColumn(foldLeft(table.columns, spec), { name: spec.into, type: "text", values }, "fold, into");
    return { ...unchanged(table), table: { ...table, columns } };
  },
};

function foldLeft<T extends ColumnInfo>(columns: readonly T[], spec: FoldStep): T[] {
  const folded = new Set<ColumnInfo>(findColumns(columns, spec.columns, "fold, columns"));
  return columns.filter((column) => !spec.drop || !folded.has(column));
}
