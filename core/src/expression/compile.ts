/** An expression is checked against a scope and turned into a function once, then evaluated for many rows and groups. */

import { type CorbixError, Exact, suggestName } from "../common/index.js";
import { say } from "../words/index.js";
import { AGGREGATES } from "./aggregates.js";
import type { Ast } from "./ast.js";
import { NameCompiler } from "./compile-names.js";
import { type CallContext, FUNCTIONS } from "./functions.js";
import { linesOf, withLine } from "./lines.js";
import { areEqual, asNumber, asTruth, checkedValue, OPERATORS, OperandError } from "./operators.js";
import { expressionError, type Field, parseExpression, parseField } from "./parse.js";
import type { CompiledPart, Env, Eval, Expression, Scope, TextField } from "./scope.js";
import { showValue } from "./show.js";
import { isAggregateCall, NOTHING, touchedLines } from "./touched-lines.js";
import { typeOfValue, type Value, type ValueType } from "./value.js";

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
  private readonly names: NameCompiler;

  constructor(
    private readonly source: string,
    private readonly scope: Scope,
  ) {
    this.further = Object.keys(scope.further ?? {});
    this.names = new NameCompiler(source, scope, this.further);
  }

  compile(ast: Ast): CompiledPart {
    switch (ast.kind) {
      case "literal": {
        const value = typeof ast.value === "number" ? new Exact(ast.text) : ast.value;
        return { evaluate: () => value, type: typeOfValue(value), needs: NOTHING };
      }
      case "name":
        return this.names.compile(ast);
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
          say().expression.cannotUseHereNeedsLine({ name: ast.name, column: this.scope.columns[0]?.name }),
        );
      }
      const known = [...new Set([...Object.keys(FUNCTIONS), ...Object.keys(AGGREGATES)])];
      throw this.error(
        ast.at,
        say().expression.cannotFindFunction({ name: ast.name }),
        suggestName(ast.name, known, "functions"),
      );
    }
    if (ast.where) throw this.error(ast.at, say().expression.cannotUseWhereExpectedFunction({ name: ast.name }));
    if (ast.args.length < spec.min || ast.args.length > spec.max) {
      const wanted = say().expression.to({ min: spec.min, max: spec.max });
      throw this.error(
        ast.at,
        say().expression.cannotCallValuesExpected({ name: ast.name, argCount: ast.args.length, wanted }),
      );
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
      throw this.error(ast.at, say().expression.cannotUseOverLinesWhile({ name: ast.name }));
    if (ast.args.length > 1 + spec.rest)
      throw this.error(
        ast.at,
        say().expression.cannotCallValuesExpectedMost({
          name: ast.name,
          argCount: ast.args.length,
          rest: 1 + spec.rest,
        }),
      );
    const first = ast.args[0];
    const [lines, other] = touchedLines(first, this.further);
    if (other !== undefined)
      throw this.error(
        ast.at,
        say().expression.cannotUseOverOnce({ name: ast.name, lines, other }),
        say().expression.goOverThemSayLines(),
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

  private refuseText(part: CompiledPart, at: number): void {
    if (part.type === "text")
      throw this.error(at, say().expression.cannotCalculateText(), say().expression.turnNumberNumberJoinText());
  }

  /** Gives errors of operators the place they lack. */
  private guard(ast: Ast, evaluate: Eval): Eval {
    return (env) => {
      try {
        return checkedValue(evaluate(env));
      } catch (error) {
        if (error instanceof OperandError)
          throw this.error(
            ast.at,
            say().expression.cannotCalculate({ message: error.message, rowWords: rowWords(env) }),
          );
        throw error;
      }
    };
  }

  private error(at: number, what: string, advice?: string): CorbixError {
    return expressionError(this.source, at, what, advice);
  }
}

function rowWords(env: Env): string {
  return say().expression.rowTable({ row: env.row, rowNumber: env.table.rowNumbers[env.row] });
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
