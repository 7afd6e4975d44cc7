/** An expression is checked against a scope and turned into a function once, then evaluated for many rows and groups. */
import { type CorbixError, cleanKey, Exact, foldName, suggestName } from "../common/index.js";
import type { ColumnInfo, Table } from "../table/index.js";
import { AGGREGATES } from "./aggregates.js";
import type { Ast } from "./ast.js";
import { type CallContext, FUNCTIONS } from "./functions.js";
import { areEqual, asNumber, asTruth, OPERATORS, OperandError } from "./operators.js";
import { expressionError, type Field, parseExpression, parseField } from "./parse.js";
import { showValue } from "./show.js";
import { typeOfValue, type Value, type ValueType, valueFromCell } from "./value.js";

/** What names an expression may use, known before there is data. */
export interface Scope {
  /**
   * `row`: a bare column name is the value of the current row (preparing a table).
   * `group`: it is the value that all lines of the group share (templates, names, messages).
   */
  readonly mode: "row" | "group";
  readonly columns: readonly ColumnInfo[];
  /** Namespaces beside `line`: `recipient`, `period`, … with the names in each; `"any"` where they are not known beforehand. */
  readonly spaces: Readonly<Record<string, readonly string[] | "any">>;
  /** Bare names beside the columns, such as the fields of a single record. */
  readonly names?: readonly string[];
}

/** What one evaluation looks at. */
export interface Env {
  readonly table: Table;
  /** Rows of the table that are the group's lines, in order. */
  readonly lines: readonly number[];
  /** The current row of the table, or -1. */
  readonly row: number;
  readonly spaces: Readonly<Record<string, ReadonlyMap<string, Value>>>;
  readonly names?: ReadonlyMap<string, Value>;
  readonly locale: string;
  /** The run's own day as a serial. */
  readonly today: number;
}

export interface Expression {
  readonly source: string;
  readonly type: ValueType;
  /** Whether it needs a current line: it holds `line.` outside of an aggregate. */
  readonly perLine: boolean;
  /** Index of the column, where the whole expression is one column of the current line. */
  readonly lineColumn?: number;
  /** Throws `BAD_EXPRESSION` where the values do not fit, with the place. */
  readonly evaluate: (env: Env) => Value;
}

/** Looks up a field without a format of its own and shows it as text. */
export interface TextField extends Expression {
  readonly format?: string;
  readonly show: (env: Env) => string;
}

type Eval = (env: Env) => Value;

interface Part {
  readonly evaluate: Eval;
  readonly type: ValueType;
  readonly perLine: boolean;
  readonly lineColumn?: number;
}

/** Compiles an expression. Throws `BAD_EXPRESSION` for an unknown name or function, with the place and a near name. */
export function compileExpression(source: string, scope: Scope): Expression {
  const part = new Compiler(source, scope).compile(parseExpression(source));
  return { source, ...part };
}

/** Compiles what stands in a mark. */
export function compileField(source: string, scope: Scope): TextField {
  return compileParsedField(parseField(source), scope);
}

export function compileParsedField(field: Field, scope: Scope): TextField {
  const part = new Compiler(field.source, scope).compile(field.ast);
  const { format } = field;
  return {
    source: field.source,
    ...part,
    ...(format === undefined ? {} : { format }),
    show: (env) => showValue(part.evaluate(env), format, env.locale),
  };
}

/** Whether an expression looks at the current line, told without a scope. */
export function isPerLine(ast: Ast): boolean {
  switch (ast.kind) {
    case "literal":
      return false;
    case "name":
      return foldName(ast.parts[0]) === "line" && ast.parts.length > 1;
    case "unary":
      return isPerLine(ast.arg);
    case "binary":
      return isPerLine(ast.left) || isPerLine(ast.right);
    case "in":
      return isPerLine(ast.arg) || ast.list.some(isPerLine);
    case "call":
      return isAggregateCall(ast) ? false : ast.args.some(isPerLine);
  }
}

function isAggregateCall(ast: Ast & { kind: "call" }): boolean {
  if (!(ast.name in AGGREGATES) || ast.args.length === 0) return false;
  return !(ast.name in FUNCTIONS) || ast.args.length === 1 || ast.where !== undefined
    ? touchesLines(ast.args[0])
    : false;
}

function touchesLines(ast: Ast): boolean {
  if (ast.kind === "name") return foldName(ast.parts[0]) === "line";
  if (ast.kind === "call") return ast.args.some(touchesLines);
  if (ast.kind === "unary") return touchesLines(ast.arg);
  if (ast.kind === "binary") return touchesLines(ast.left) || touchesLines(ast.right);
  return ast.kind === "in" && (touchesLines(ast.arg) || ast.list.some(touchesLines));
}

class Compiler {
  constructor(
    private readonly source: string,
    private readonly scope: Scope,
  ) {}

  compile(ast: Ast): Part {
    switch (ast.kind) {
      case "literal": {
        const value = typeof ast.value === "number" ? new Exact(ast.text) : ast.value;
        return { evaluate: () => value, type: typeOfValue(value), perLine: false };
      }
      case "name":
        return this.name(ast);
      case "unary":
        return this.unary(ast);
      case "binary":
        return this.binary(ast);
      case "in":
        return this.membership(ast);
      case "call":
        return this.call(ast);
    }
  }

  private unary(ast: Ast & { kind: "unary" }): Part {
    const arg = this.compile(ast.arg);
    if (ast.op !== "not") this.refuseText(arg, ast.at);
    const apply: Record<typeof ast.op, (value: Value) => Value> = {
      "-": (value) => asNumber(value).negated(),
      "%": (value) => asNumber(value).dividedBy(100),
      not: (value) => !asTruth(value),
    };
    const evaluate = this.guard(ast, (env) => apply[ast.op](arg.evaluate(env)));
    return { evaluate, type: ast.op === "not" ? "boolean" : "number", perLine: arg.perLine };
  }

  private binary(ast: Ast & { kind: "binary" }): Part {
    const left = this.compile(ast.left);
    const right = this.compile(ast.right);
    const perLine = left.perLine || right.perLine;
    if (ast.op === "and") {
      return {
        evaluate: this.guard(ast, (env) => asTruth(left.evaluate(env)) && asTruth(right.evaluate(env))),
        type: "boolean",
        perLine,
      };
    }
    if (ast.op === "or") {
      return {
        evaluate: this.guard(ast, (env) => asTruth(left.evaluate(env)) || asTruth(right.evaluate(env))),
        type: "boolean",
        perLine,
      };
    }
    if ("+-*/^".includes(ast.op)) {
      this.refuseText(left, ast.left.at);
      this.refuseText(right, ast.right.at);
    }
    const operator = OPERATORS[ast.op];
    const evaluate = this.guard(ast, (env) =>
      operator(left.evaluate(env), right.evaluate(env), (value) => showValue(value, undefined, env.locale)),
    );
    return { evaluate, type: resultType(ast.op, left.type, right.type), perLine };
  }

  private membership(ast: Ast & { kind: "in" }): Part {
    const arg = this.compile(ast.arg);
    const list = ast.list.map((item) => this.compile(item));
    return {
      evaluate: (env) => {
        const value = arg.evaluate(env);
        return list.some((item) => areEqual(value, item.evaluate(env)));
      },
      type: "boolean",
      perLine: arg.perLine || list.some((item) => item.perLine),
    };
  }

  private call(ast: Ast & { kind: "call" }): Part {
    if (isAggregateCall(ast)) return this.aggregate(ast);
    const spec = Object.hasOwn(FUNCTIONS, ast.name) ? FUNCTIONS[ast.name] : undefined;
    if (!spec) {
      if (Object.hasOwn(AGGREGATES, ast.name)) {
        throw this.error(
          ast.at,
          `Cannot use \`${ast.name}\` here: it needs \`line.\` and a column, as in ${ast.name}(line.${this.scope.columns[0]?.name ?? "fee"}).`,
        );
      }
      const known = [...new Set([...Object.keys(FUNCTIONS), ...Object.keys(AGGREGATES)])];
      throw this.error(ast.at, `Cannot find a function \`${ast.name}\`.`, suggestName(ast.name, known, "functions"));
    }
    if (ast.where) throw this.error(ast.at, `Cannot use \`where\` in \`${ast.name}\`, expected a function over lines.`);
    if (ast.args.length < spec.min || ast.args.length > spec.max) {
      const wanted =
        spec.min === spec.max
          ? `${spec.min}`
          : `${spec.min} to ${spec.max === Number.POSITIVE_INFINITY ? "any number" : spec.max}`;
      throw this.error(ast.at, `Cannot call \`${ast.name}\` with ${ast.args.length} values, expected ${wanted}.`);
    }
    const args = ast.args.map((arg) => this.compile(arg));
    const perLine = args.some((arg) => arg.perLine);
    if (ast.name === "if") {
      const [, yes, no] = args;
      const type = no && no.type !== yes.type ? "any" : yes.type;
      return { evaluate: this.conditional(ast, args), type, perLine };
    }
    const evaluate = this.guard(ast, (env) =>
      spec.call(
        args.map((arg) => arg.evaluate(env)),
        callContext(env),
      ),
    );
    return { evaluate, type: spec.type, perLine };
  }

  /** Only the branch that is taken is evaluated, so `if(n = 0, 0, a / n)` works. */
  private conditional(ast: Ast, [test, yes, no]: readonly Part[]): Eval {
    return this.guard(ast, (env) => (asTruth(test.evaluate(env)) ? yes.evaluate(env) : no ? no.evaluate(env) : null));
  }

  private aggregate(ast: Ast & { kind: "call" }): Part {
    const spec = AGGREGATES[ast.name];
    if (this.scope.mode === "row")
      throw this.error(ast.at, `Cannot use \`${ast.name}\` over lines while rows are being prepared.`);
    if (ast.args.length > 1 + spec.rest)
      throw this.error(
        ast.at,
        `Cannot call \`${ast.name}\` with ${ast.args.length} values, expected at most ${1 + spec.rest}.`,
      );
    const first = ast.args[0];
    const wholeLine = first.kind === "name" && first.parts.length === 1;
    const value: Part = wholeLine ? { evaluate: () => true, type: "boolean", perLine: true } : this.compile(first);
    const where = ast.where ? this.compile(ast.where) : undefined;
    const rest = ast.args.slice(1).map((arg) => this.compile(arg));
    const evaluate = this.guard(ast, (env) => {
      const values = function* (): Generator<Value> {
        for (const row of env.lines) {
          const at = { ...env, row };
          if (!where || asTruth(where.evaluate(at))) yield value.evaluate(at);
        }
      };
      return spec.call(
        values(),
        rest.map((arg) => arg.evaluate(env)),
        (shown) => showValue(shown, undefined, env.locale),
      );
    });
    const type = spec.type === "any" ? value.type : spec.type;
    return { evaluate, type, perLine: false };
  }

  private name(ast: Ast & { kind: "name" }): Part {
    const [first, ...rest] = ast.parts;
    const space = foldName(first);
    if (rest.length > 0 && space === "line") return this.lineColumn(rest.join("."), ast.at);
    if (rest.length > 0 && Object.hasOwn(this.scope.spaces, space))
      return this.spaceName(space, rest.join("."), ast.at);
    if (rest.length > 0) {
      const known = ["line", ...Object.keys(this.scope.spaces)];
      throw this.error(
        ast.at,
        `Cannot find \`${ast.parts.join(".")}\`.`,
        `Before the dot may stand: ${known.join(", ")}.`,
      );
    }
    const extra = this.scope.names?.find((name) => foldName(name) === space);
    if (extra !== undefined) return { evaluate: (env) => env.names?.get(space) ?? null, type: "any", perLine: false };
    const index = this.columnIndex(first, ast.at);
    const { name, type } = this.scope.columns[index];
    if (this.scope.mode === "row") return { evaluate: (env) => cellAt(env, index), type, perLine: false };
    return { evaluate: (env) => this.shared(env, index, name, ast.at), type, perLine: false };
  }

  private lineColumn(name: string, at: number): Part {
    const index = this.columnIndex(name, at);
    const evaluate: Eval = (env) => {
      if (env.row < 0)
        throw this.error(
          at,
          `Cannot take \`line.${name}\` here: there is no current line.`,
          "Use sum(…), count(…) or list(…) over the lines.",
        );
      return cellAt(env, index);
    };
    return { evaluate, type: this.scope.columns[index].type, perLine: true, lineColumn: index };
  }

  private spaceName(space: string, name: string, at: number): Part {
    const known = this.scope.spaces[space];
    const folded = foldName(name);
    if (known !== "any" && !known.some((candidate) => foldName(candidate) === folded)) {
      throw this.error(at, `Cannot find \`${space}.${name}\`.`, suggestName(name, known, `names in ${space}`));
    }
    return { evaluate: (env) => env.spaces[space]?.get(folded) ?? null, type: "any", perLine: false };
  }

  private columnIndex(name: string, at: number): number {
    const folded = foldName(name);
    const index = this.scope.columns.findIndex((column) => foldName(column.name) === folded);
    if (index >= 0) return index;
    const known = [...this.scope.columns.map((column) => column.name), ...(this.scope.names ?? [])];
    throw this.error(at, `Cannot find the column \`${name}\`.`, suggestName(name, known, "columns"));
  }

  /** The value all lines share; spellings that only differ in blanks and case count as one, the most frequent is shown. */
  private shared(env: Env, index: number, name: string, at: number): Value {
    const { type } = env.table.columns[index];
    const spellings = new Map<string, { count: number; value: Value }>();
    const distinct = new Set<string>();
    for (const row of env.lines) {
      const cell = env.table.columns[index].values[row];
      const raw = String(cell ?? "");
      const known = spellings.get(raw);
      if (known) known.count++;
      else {
        spellings.set(raw, { count: 1, value: valueFromCell(cell, type) });
        distinct.add(typeof cell === "string" ? cleanKey(cell) : raw);
      }
    }
    if (distinct.size > 1) {
      const advice = `Use line.${name} in a line that repeats, or first(line.${name}), list(line.${name}), count(…), sum(…).`;
      throw this.error(
        at,
        `Cannot take one value of \`${name}\` for the group: its lines hold ${distinct.size} different ones.`,
        advice,
      );
    }
    let best: { count: number; value: Value } = { count: 0, value: null };
    for (const spelling of spellings.values()) if (spelling.count > best.count) best = spelling;
    return best.value;
  }

  private refuseText(part: Part, at: number): void {
    if (part.type === "text")
      throw this.error(at, "Cannot calculate with text.", "Turn it into a number with number(…), or join text with &.");
  }

  /** Gives errors of operators the place they lack. */
  private guard(ast: Ast, evaluate: Eval): Eval {
    return (env) => {
      try {
        return evaluate(env);
      } catch (error) {
        if (error instanceof OperandError)
          throw this.error(ast.at, `Cannot calculate: ${error.message}${placeOf(env)}.`);
        throw error;
      }
    };
  }

  private error(at: number, what: string, advice?: string): CorbixError {
    return expressionError(this.source, at, what, advice);
  }
}

function placeOf(env: Env): string {
  return env.row >= 0 ? `, in row ${env.table.rowNumbers[env.row]} of the table` : "";
}

function cellAt(env: Env, index: number): Value {
  const column = env.table.columns[index];
  return valueFromCell(column.values[env.row], column.type);
}

function callContext(env: Env): CallContext {
  return { today: env.today, show: (value, format) => showValue(value, format, env.locale) };
}

function resultType(op: string, left: ValueType, right: ValueType): ValueType {
  if (["=", "<>", "<", "<=", ">", ">="].includes(op)) return "boolean";
  if (op === "&") return "text";
  if (op === "+" || op === "-") {
    const dates = [left, right].filter((type) => type === "date" || type === "datetime");
    if (dates.length === 1) return dates[0];
    if (left === "any" || right === "any") return "any";
  }
  return "number";
}
