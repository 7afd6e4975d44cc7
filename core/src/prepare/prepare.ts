import { CorbixError, cleanKey, type Finding, foldName, suggestName } from "../common/index.js";
import {
  type Ast,
  cellFromValue,
  compareValues,
  compileExpression,
  type Env,
  type Expression,
  isEmpty,
  parseExpression,
  type Scope,
  type Value,
  valueFromCell,
} from "../expression/index.js";
import { type Cell, type Column, type ColumnInfo, type ColumnType, type Table, takeRows } from "../table/index.js";

/** Columns of another dataset, found by key. */
export interface BringStep {
  readonly from: string;
  /** Column here → column there. */
  readonly match: Readonly<Record<string, string>>;
  readonly columns: readonly string[];
}

/** What a report does to the table before it is split; applied in the order keep, bring, add, sort. */
export interface PrepareSpec {
  readonly keep?: string;
  readonly bring?: readonly BringStep[];
  /** New column → expression. Later ones may use earlier ones. */
  readonly add?: Readonly<Record<string, string>>;
  /** Columns to sort by; a leading `-` sorts downwards. */
  readonly sort?: readonly string[];
}

/** Rows that a filter dropped, by the part of the filter that dropped them. */
export interface LeftOutRows {
  readonly reason: string;
  readonly count: number;
  /** Row numbers in the origin, the first of them. */
  readonly rowNumbers: readonly number[];
}

export interface Prepared {
  readonly table: Table;
  readonly leftOut: readonly LeftOutRows[];
  readonly findings: readonly Finding[];
}

/** So many row numbers are listed for each reason; the count is always of all. */
export const LISTED_ROWS = 100;

/** What a preparation needs from outside. */
export interface PrepareContext {
  readonly others: ReadonlyMap<string, Table>;
  readonly today: number;
  readonly locale: string;
}

/** Prepares a table. Throws `BAD_EXPRESSION` or `BAD_DEFINITION` for what no data could make right. */
export function prepareTable(source: Table, spec: PrepareSpec, context: PrepareContext): Prepared {
  const kept = spec.keep === undefined ? { table: source, leftOut: [] } : keepRows(source, spec.keep, context);
  const findings: Finding[] = [];
  let table = kept.table;
  for (const step of spec.bring ?? []) table = bringColumns(table, step, context, findings);
  for (const [name, source] of Object.entries(spec.add ?? {})) table = addColumn(table, name, source, context);
  if (spec.sort && spec.sort.length > 0) table = sortRows(table, spec.sort);
  return { table, leftOut: kept.leftOut, findings };
}

/** The columns a preparation gives, for checking a report before there is a run. */
export function preparedColumns(
  columns: readonly ColumnInfo[],
  spec: PrepareSpec,
  others: ReadonlyMap<string, readonly ColumnInfo[]>,
): ColumnInfo[] {
  const all = [...columns];
  if (spec.keep !== undefined) compileExpression(spec.keep, rowScope(all));
  for (const step of spec.bring ?? []) {
    const there = others.get(step.from);
    if (!there) throw unknownDataset(step, [...others.keys()]);
    for (const [here, key] of Object.entries(step.match)) {
      findColumn(all, here, "match");
      findColumn(there, key, "match");
    }
    for (const name of step.columns) all.push({ name, type: there[findColumn(there, name, "columns")].type });
  }
  for (const [name, source] of Object.entries(spec.add ?? {})) {
    const { type } = compileExpression(source, rowScope(all));
    all.push({ name, type: type === "any" ? "text" : type });
  }
  for (const name of spec.sort ?? []) findColumn(all, name.replace(/^-/, ""), "sort");
  return all;
}

function rowScope(columns: readonly ColumnInfo[]): Scope {
  return { mode: "row", columns, spaces: {} };
}

function rowEnv(table: Table, row: number, context: PrepareContext): Env {
  return { table, lines: [], row, spaces: {}, locale: context.locale, today: context.today };
}

function keepRows(table: Table, keep: string, context: PrepareContext): { table: Table; leftOut: LeftOutRows[] } {
  const tests = conjuncts(parseExpression(keep)).map((ast) => ({
    ast,
    test: compileExpression(sourceOf(ast), rowScope(table.columns)),
  }));
  const kept: number[] = [];
  const reasons = new Map<string, { count: number; rowNumbers: number[] }>();
  for (let row = 0; row < table.rowCount; row++) {
    const env = rowEnv(table, row, context);
    const failed = tests.find(({ test }) => test.evaluate(env) !== true);
    if (!failed) {
      kept.push(row);
      continue;
    }
    const reason = whyDropped(failed.ast, failed.test, table, row);
    const known = reasons.get(reason) ?? { count: 0, rowNumbers: [] };
    known.count++;
    if (known.rowNumbers.length < LISTED_ROWS) known.rowNumbers.push(table.rowNumbers[row]);
    reasons.set(reason, known);
  }
  return { table: takeRows(table, kept), leftOut: [...reasons].map(([reason, rest]) => ({ reason, ...rest })) };
}

/** The parts of a filter that are joined by `and`: the first that fails is the reason. */
function conjuncts(ast: Ast): Ast[] {
  return ast.kind === "binary" && ast.op === "and" ? [...conjuncts(ast.left), ...conjuncts(ast.right)] : [ast];
}

/** The text of an expression written anew from its tree. */
function sourceOf(ast: Ast): string {
  switch (ast.kind) {
    case "literal":
      return typeof ast.value === "string" ? `"${ast.value.replaceAll('"', '""')}"` : ast.text;
    case "name":
      return ast.parts.map((part) => (/^[\p{L}_][\p{L}\p{M}\p{N}_]*$/u.test(part) ? part : `\`${part}\``)).join(".");
    case "unary":
      return ast.op === "%" ? `(${sourceOf(ast.arg)})%` : `${ast.op} (${sourceOf(ast.arg)})`;
    case "binary":
      return `(${sourceOf(ast.left)}) ${ast.op} (${sourceOf(ast.right)})`;
    case "in":
      return `(${sourceOf(ast.arg)}) in (${ast.list.map((item) => sourceOf(item)).join(", ")})`;
    case "call":
      return `${ast.name}(${ast.args.map((arg) => sourceOf(arg)).join(", ")})`;
  }
}

/** A reason in the words of the rule: `status is "cancelled"`, `without a site`. */
function whyDropped(ast: Ast, test: Expression, table: Table, row: number): string {
  if (ast.kind === "binary" && ast.left.kind === "name" && ast.right.kind === "literal") {
    const index = findColumn(table.columns, ast.left.parts.join("."), "keep");
    const { name, values, type } = table.columns[index];
    const value = valueFromCell(values[row], type);
    if (ast.op === "<>" && ast.right.value === "") return `without ${name}`;
    if (ast.op === "<>") return `${name} is "${ast.right.text}"`;
    if (isEmpty(value)) return `without ${name}`;
    if (ast.op === "=") return `${name} is not "${ast.right.text}"`;
    return `${name} not ${ast.op} ${ast.right.text}`;
  }
  return `not ${test.source.replace(/^\((.*)\)$/, "$1")}`;
}

function bringColumns(table: Table, step: BringStep, context: PrepareContext, findings: Finding[]): Table {
  const other = context.others.get(step.from);
  if (!other) throw unknownDataset(step, [...context.others.keys()]);
  const pairs = Object.entries(step.match).map(([here, there]) => ({
    here: table.columns[findColumn(table.columns, here, "match")],
    there: other.columns[findColumn(other.columns, there, "match")],
  }));
  const brought = step.columns.map((name) => other.columns[findColumn(other.columns, name, "columns")]);
  const keyOf = (columns: readonly Column[], row: number): string =>
    columns.map((column) => cleanKey(String(column.values[row] ?? ""))).join("\u001f");
  const partners = new Map<string, number>();
  const doubles = new Set<string>();
  for (let row = 0; row < other.rowCount; row++) {
    const key = keyOf(
      pairs.map((pair) => pair.there),
      row,
    );
    if (partners.has(key)) doubles.add(key);
    else partners.set(key, row);
  }
  const missing = new Map<string, number>();
  const rows = Array.from({ length: table.rowCount }, (_, row) => {
    const key = keyOf(
      pairs.map((pair) => pair.here),
      row,
    );
    const partner = partners.get(key);
    if (partner === undefined) missing.set(key, (missing.get(key) ?? 0) + 1);
    return partner;
  });
  const where = `bring from ${step.from}`;
  if (missing.size > 0) {
    findings.push({
      code: "no-partner",
      severity: "warn",
      where,
      what: `${missing.size} keys have no partner in ${step.from}: ${listed([...missing.keys()])}. Their brought columns stay blank.`,
      advice: `Add them to ${step.from}, or correct the key.`,
      count: missing.size,
    });
  }
  if (doubles.size > 0) {
    findings.push({
      code: "double-partner",
      severity: "warn",
      where,
      what: `${doubles.size} keys stand more than once in ${step.from}: ${listed([...doubles])}. The first was taken.`,
      advice: `Make the key unique in ${step.from}.`,
      count: doubles.size,
    });
  }
  const added = brought.map((column, index) => ({
    name: step.columns[index],
    type: column.type,
    values: rows.map((row) => (row === undefined ? null : column.values[row])),
  }));
  return { ...table, columns: [...table.columns, ...added] };
}

function listed(keys: readonly string[]): string {
  const shown = keys.slice(0, 5).map((key) => `"${key.replaceAll("\u001f", " / ")}"`);
  return shown.join(", ") + (keys.length > 5 ? ", …" : "");
}

function addColumn(table: Table, name: string, source: string, context: PrepareContext): Table {
  if (table.columns.some((column) => foldName(column.name) === foldName(name))) {
    throw new CorbixError("BAD_DEFINITION", `Cannot add the column \`${name}\`: there is one of this name already.`, {
      where: `add, ${name}`,
      advice: "Choose another name.",
    });
  }
  const expression = compileExpression(source, rowScope(table.columns));
  const found: Value[] = [];
  for (let row = 0; row < table.rowCount; row++) found.push(expression.evaluate(rowEnv(table, row, context)));
  const type: ColumnType = expression.type === "any" ? "text" : expression.type;
  return { ...table, columns: [...table.columns, { name, type, values: found.map(cellFromValue) }] };
}

function sortRows(table: Table, sort: readonly string[]): Table {
  const keys = sort.map((name) => {
    const column = table.columns[findColumn(table.columns, name.replace(/^-/, ""), "sort")];
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
  return takeRows(table, Array.from({ length: table.rowCount }, (_, row) => row).sort(compare));
}

/** Index of a column by name. Throws `BAD_DEFINITION` with a near name. */
export function findColumn(columns: readonly ColumnInfo[], name: string, where: string): number {
  const folded = foldName(name);
  const index = columns.findIndex((column) => foldName(column.name) === folded);
  if (index >= 0) return index;
  const names = columns.map((column) => column.name);
  throw new CorbixError("BAD_DEFINITION", `Cannot find the column \`${name}\`.`, {
    where,
    advice: suggestName(name, names, "columns"),
  });
}

function unknownDataset(step: BringStep, known: readonly string[]): CorbixError {
  return new CorbixError("BAD_DEFINITION", `Cannot find the dataset \`${step.from}\`.`, {
    where: "bring",
    advice: suggestName(step.from, known, "datasets"),
  });
}
