/** An expression is checked against a scope and turned into a function once, then evaluated for many rows and groups. */
import { type CorbixError, columnKey, Exact, type Finding, groupKey, suggestName } from "../common/index.js";
import type { ColumnInfo } from "../table/index.js";
import { AGGREGATES } from "./aggregates.js";
import type { Ast } from "./ast.js";
import { type CallContext, FUNCTIONS } from "./functions.js";
import { type FurtherLines, type LineSet, type LinesColumns, linesOf, OWN_LINES, withLine } from "./lines.js";
import { areEqual, asNumber, asTruth, checkedValue, OPERATORS, OperandError } from "./operators.js";
import { expressionError, type Field, parseExpression, parseField } from "./parse.js";
import { showValue } from "./show.js";
import { isAggregateCall, isOfLines, NOTHING, touchedLines } from "./touched-lines.js";
import { typeOfValue, type Value, type ValueType, valueFromCell } from "./value.js";

/** What names an expression may use, known before there is data. */
export interface Scope {
  /**
   * `row`: a bare column name is the value of the current row (preparing a table).
   * `group`: it is the value that all lines of the group share (templates, names, messages).
   */
  readonly mode: "row" | "group";
  readonly columns: readonly ColumnInfo[];
  /** Columns of further lines, by the folded name of those. */
  readonly further?: LinesColumns;
  /** Folded names of lines of which there are none, so that any column of theirs is taken as blank. */
  readonly empty?: readonly string[];
  /** Hears of further lines that are used. */
  readonly onLines?: (name: string) => void;
  /** Further lines whose columns a bare name means first: in the conditions and keys of what repeats for them. */
  readonly bare?: string;
  /** Namespaces beside `line`: `recipient`, `period`, … with the names in each; `"any"` where they are not known beforehand. */
  readonly spaces: Readonly<Record<string, readonly string[] | "any">>;
  /** Bare names beside the columns, such as the fields of a single record. */
  readonly names?: readonly string[];
}

/** What one evaluation looks at. */
export interface Env extends LineSet {
  /** Lines beside the group's own, by their folded name. */
  readonly further?: ReadonlyMap<string, FurtherLines>;
  readonly spaces: Readonly<Record<string, ReadonlyMap<string, Value>>>;
  readonly names?: ReadonlyMap<string, Value>;
  readonly locale: string;
  /** The run's own day as a serial. */
  readonly today: number;
  /** Hears of marks in running text that come out blank, with their place. */
  readonly onBlank?: (where: string, source: string) => void;
  /** Hears of what came out otherwise than it was meant, while something is filled. */
  readonly onNote?: (finding: Finding) => void;
}

export interface Expression {
  readonly source: string;
  readonly type: ValueType;
  /** The lines of which it needs a current one: it holds `line.` outside of an aggregate. */
  readonly needs: ReadonlySet<string>;
  /** Where the whole expression is one column of the current line: its index, and of which lines. */
  readonly lineColumn?: number;
  readonly lines?: string;
  /** Throws `BAD_EXPRESSION` where the values do not fit, with the place. */
  readonly evaluate: (env: Env) => Value;
}

/** Looks up a field without a format of its own and shows it as text. */
export interface TextField extends Expression {
  readonly format?: string;
  readonly show: (env: Env) => string;
}

type Eval = (env: Env) => Value;

interface CompiledPart {
  readonly evaluate: Eval;
  readonly type: ValueType;
  readonly needs: ReadonlySet<string>;
  readonly lineColumn?: number;
  readonly lines?: string;
}

function needsOf(parts: readonly { readonly needs: ReadonlySet<string> }[]): ReadonlySet<string> {
  const some = parts.filter((part) => part.needs.size > 0);
  if (some.length === 0) return NOTHING;
  return some.length === 1 ? some[0].needs : new Set(some.flatMap((part) => [...part.needs]));
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

class Compiler {
  private readonly further: readonly string[];

  constructor(
    private readonly source: string,
    private readonly scope: Scope,
  ) {
    this.further = Object.keys(scope.further ?? {});
  }

  compile(ast: Ast): CompiledPart {
    switch (ast.kind) {
      case "literal": {
        const value = typeof ast.value === "number" ? new Exact(ast.text) : ast.value;
        return { evaluate: () => value, type: typeOfValue(value), needs: NOTHING };
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

  private unary(ast: Ast & { kind: "unary" }): CompiledPart {
    const arg = this.compile(ast.arg);
    if (ast.op !== "not") this.refuseText(arg, ast.at);
    const apply: Record<typeof ast.op, (value: Value) => Value> = {
      "-": (value) => asNumber(value).negated(),
      "%": (value) => asNumber(value).dividedBy(100),
      not: (value) => !asTruth(value),
    };
    const evaluate = this.guard(ast, (env) => apply[ast.op](arg.evaluate(env)));
    return { evaluate, type: ast.op === "not" ? "boolean" : "number", needs: arg.needs };
  }

  private binary(ast: Ast & { kind: "binary" }): CompiledPart {
    const left = this.compile(ast.left);
    const right = this.compile(ast.right);
    const needs = needsOf([left, right]);
    if (ast.op === "and") {
      return {
        evaluate: this.guard(ast, (env) => asTruth(left.evaluate(env)) && asTruth(right.evaluate(env))),
        type: "boolean",
        needs,
      };
    }
    if (ast.op === "or") {
      return {
        evaluate: this.guard(ast, (env) => asTruth(left.evaluate(env)) || asTruth(right.evaluate(env))),
        type: "boolean",
        needs,
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
    return { evaluate, type: resultType(ast.op, left.type, right.type), needs };
  }

  private membership(ast: Ast & { kind: "in" }): CompiledPart {
    const arg = this.compile(ast.arg);
    const list = ast.list.map((item) => this.compile(item));
    return {
      evaluate: (env) => {
        const value = arg.evaluate(env);
        return list.some((item) => areEqual(value, item.evaluate(env)));
      },
      type: "boolean",
      needs: needsOf([arg, ...list]),
    };
  }

  private call(ast: Ast & { kind: "call" }): CompiledPart {
    if (isAggregateCall(ast, this.further)) return this.aggregate(ast);
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
    const needs = needsOf(args);
    if (ast.name === "if") {
      const [, yes, no] = args;
      const type = no && no.type !== yes.type ? "any" : yes.type;
      return { evaluate: this.conditional(ast, args), type, needs };
    }
    const evaluate = this.guard(ast, (env) =>
      spec.call(
        args.map((arg) => arg.evaluate(env)),
        callContext(env),
      ),
    );
    return { evaluate, type: spec.type, needs };
  }

  /** Only the branch that is taken is evaluated, so `if(n = 0, 0, a / n)` works. */
  private conditional(ast: Ast, [test, yes, no]: readonly CompiledPart[]): Eval {
    return this.guard(ast, (env) => (asTruth(test.evaluate(env)) ? yes.evaluate(env) : no ? no.evaluate(env) : null));
  }

  private aggregate(ast: Ast & { kind: "call" }): CompiledPart {
    const spec = AGGREGATES[ast.name];
    if (this.scope.mode === "row")
      throw this.error(ast.at, `Cannot use \`${ast.name}\` over lines while rows are being prepared.`);
    if (ast.args.length > 1 + spec.rest)
      throw this.error(
        ast.at,
        `Cannot call \`${ast.name}\` with ${ast.args.length} values, expected at most ${1 + spec.rest}.`,
      );
    const first = ast.args[0];
    const [lines, other] = touchedLines(first, this.further);
    if (other !== undefined)
      throw this.error(
        ast.at,
        `Cannot use \`${ast.name}\` over \`${lines}.\` and \`${other}.\` at once.`,
        `Go over one of them, and say which lines of the other belong to each behind \`where\`.`,
      );
    this.scope.onLines?.(lines);
    const wholeLine = first.kind === "name" && first.parts.length === 1;
    const value: CompiledPart = wholeLine
      ? { evaluate: () => true, type: "boolean", needs: new Set([lines]) }
      : this.compile(first);
    const where = ast.where ? this.compile(ast.where) : undefined;
    const rest = ast.args.slice(1).map((arg) => this.compile(arg));
    const inner = new Set(needsOf(where ? [value, where] : [value]));
    inner.delete(lines);
    const evaluate = this.guard(ast, (env) => {
      const values = function* (): Generator<Value> {
        for (const row of linesOf(env, lines).lines) {
          const at = withLine(env, lines, row);
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
    return { evaluate, type, needs: needsOf([{ needs: inner }, ...rest]) };
  }

  private name(ast: Ast & { kind: "name" }): CompiledPart {
    const [first, ...rest] = ast.parts;
    const space = columnKey(first);
    if (rest.length > 0 && isOfLines(space, this.further)) return this.lineColumn(space, rest.join("."), ast.at);
    if (rest.length > 0 && Object.hasOwn(this.scope.spaces, space))
      return this.spaceName(space, rest.join("."), ast.at);
    if (rest.length > 0) {
      const known = [OWN_LINES, ...this.further, ...Object.keys(this.scope.spaces)];
      throw this.error(
        ast.at,
        `Cannot find \`${ast.parts.join(".")}\`.`,
        `Before the dot may stand: ${known.join(", ")}.`,
      );
    }
    const extra = this.scope.names?.find((name) => columnKey(name) === space);
    if (extra !== undefined) return { evaluate: (env) => env.names?.get(space) ?? null, type: "any", needs: NOTHING };
    const bare = this.bareColumn(first, ast.at);
    if (bare) return bare;
    const index = this.columnIndex(this.scope.columns, first, ast.at);
    const { name, type } = this.scope.columns[index];
    if (this.scope.mode === "row") return { evaluate: (env) => cellAt(env, index), type, needs: NOTHING };
    return { evaluate: (env) => this.shared(env, index, name, ast.at), type, needs: NOTHING };
  }

  /** A bare name where further lines are looked at. One that the group's lines have too could mean either. */
  private bareColumn(name: string, at: number): CompiledPart | undefined {
    const { bare, further, columns } = this.scope;
    if (bare === undefined) return undefined;
    const folded = columnKey(name);
    const has = (list: readonly ColumnInfo[]): boolean => list.some((column) => columnKey(column.name) === folded);
    const own = further?.[bare] ?? [];
    if (!has(own)) return undefined;
    // The same rows of all groups: what a condition over lines says is of the line.
    const isSameTable = own.length === columns.length && own.every(({ name: one }, at) => one === columns[at].name);
    if (has(columns) && !isSameTable)
      throw this.error(
        at,
        `Cannot tell which \`${name}\` is meant: \`${bare}\` and the group's lines both have it.`,
        `Write ${bare}.${name} for that of ${bare}, first(line.${name}) for that of the group.`,
      );
    return this.lineColumn(bare, name, at);
  }

  private lineColumn(lines: string, name: string, at: number): CompiledPart {
    const columns = lines === OWN_LINES ? this.scope.columns : (this.scope.further?.[lines] ?? []);
    this.scope.onLines?.(lines);
    if (this.scope.empty?.includes(lines)) return { evaluate: () => null, type: "any", needs: new Set([lines]) };
    const index = this.columnIndex(columns, name, at);
    const evaluate: Eval = (env) => {
      const set = linesOf(env, lines);
      if (set.row < 0)
        throw this.error(
          at,
          `Cannot take \`${lines}.${name}\` here: there is no current line.`,
          "Use sum(…), count(…) or list(…) over the lines.",
        );
      return cellAt(set, index);
    };
    return { evaluate, type: columns[index].type, needs: new Set([lines]), lineColumn: index, lines };
  }

  private spaceName(space: string, name: string, at: number): CompiledPart {
    const known = this.scope.spaces[space];
    const folded = columnKey(name);
    if (known !== "any" && !known.some((candidate) => columnKey(candidate) === folded)) {
      throw this.error(at, `Cannot find \`${space}.${name}\`.`, suggestName(name, known, `names in ${space}`));
    }
    return { evaluate: (env) => env.spaces[space]?.get(folded) ?? null, type: "any", needs: NOTHING };
  }

  private columnIndex(columns: readonly ColumnInfo[], name: string, at: number): number {
    const folded = columnKey(name);
    const index = columns.findIndex((column) => columnKey(column.name) === folded);
    if (index >= 0) return index;
    const known = [...columns.map((column) => column.name), ...(this.scope.names ?? [])];
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
        distinct.add(typeof cell === "string" ? groupKey(cell) : raw);
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

  private refuseText(part: CompiledPart, at: number): void {
    if (part.type === "text")
      throw this.error(at, "Cannot calculate with text.", "Turn it into a number with number(…), or join text with &.");
  }

  /** Gives errors of operators the place they lack. */
  private guard(ast: Ast, evaluate: Eval): Eval {
    return (env) => {
      try {
        return checkedValue(evaluate(env));
      } catch (error) {
        if (error instanceof OperandError)
          throw this.error(ast.at, `Cannot calculate: ${error.message}${rowWords(env)}.`);
        throw error;
      }
    };
  }

  private error(at: number, what: string, advice?: string): CorbixError {
    return expressionError(this.source, at, what, advice);
  }
}

function rowWords(env: Env): string {
  return env.row >= 0 ? `, in row ${env.table.rowNumbers[env.row]} of the table` : "";
}

function cellAt({ table, row }: LineSet, index: number): Value {
  const column = table.columns[index];
  return valueFromCell(column.values[row], column.type);
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
