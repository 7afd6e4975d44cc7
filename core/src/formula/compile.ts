/** A formula is parsed once and turned into a function; where its references lie is asked anew at each evaluation. */
import { type AstExpression, type Identifier, parse, tokenize } from "@borgar/fx/xlsx";
import { LRUCache } from "lru-cache";
import {
  around,
  type Evaluate,
  type EvaluateArea,
  type EvaluationMode,
  type FormulaNode,
  fromArea,
  shared,
  spilled,
} from "./areas.js";
import { type EvaluationContext, type Local, Unsupported } from "./evaluation-context.js";
import { AREA_FUNCTIONS, lookUpFunction } from "./functions/index.js";
import { OVER_FUNCTIONS } from "./functions/over-arrays.js";
import { BINARY, eachNumber } from "./operators.js";
import { referenceOf, sheetsOf, tableReferenceOf } from "./references.js";
import { takes } from "./signatures.js";
import {
  asMatrix,
  CellError,
  CellFunction,
  type ErrorName,
  isMatrix,
  type Operand,
  type Scalar,
  scalarOf,
  spread,
} from "./value.js";

/** How a formula's cell takes its result: as one value, or as an array over several cells. */
export type FormulaMode = "value" | "array";

export interface CompiledFormula {
  readonly source: string;
  readonly evaluate: Evaluate;
  readonly area?: EvaluateArea | undefined;
  /** Of a formula that is a LAMBDA: the function it makes. */
  readonly makesFunction?: FindFunction | undefined;
  /** Names of functions and constructs that cannot be evaluated; then the value stored in the file stays. */
  readonly unsupported: readonly string[];
}

interface Building {
  readonly unsupported: string[];
  /** Names of LET in reach, the number of each its place among the locals. */
  readonly locals: readonly string[];
}

/** Formulas kept compiled; enough for many templates. */
const CACHE = new LRUCache<string, CompiledFormula>({ max: 5_000 });

/** Compiles a formula as stored, without its equals sign. Never throws: what cannot be read is `unsupported`. */
export function compileFormula(source: string, mode: FormulaMode = "value"): CompiledFormula {
  const key = `${mode} ${source}`;
  const known = CACHE.get(key);
  if (known) return known;
  const unsupported: string[] = [];
  let node: FormulaNode;
  let makesFunction: FindFunction | undefined;
  try {
    const tree = parse(tokenize(`=${source}`, { mergeRefs: true }));
    const building = { unsupported, locals: [] };
    node = build(tree, mode, building);
    if (isLambda(tree)) makesFunction = functionOf(tree, building);
  } catch {
    unsupported.push("a formula that cannot be read");
    node = failing("#NAME?");
  }
  const compiled = { source, evaluate: node.evaluate, area: node.area, makesFunction, unsupported };
  CACHE.set(key, compiled);
  return compiled;
}

/** Constructs that are built here, and no functions. */
const KNOWN_CALLS = new Set(["LET", "LAMBDA", "ANCHORARRAY", "SINGLE"]);

function constant(value: Operand): FormulaNode {
  return { evaluate: () => value, mayBeArray: isMatrix(value) };
}

function failing(name: ErrorName): FormulaNode {
  return constant(CellError.of(name));
}

function build(node: AstExpression, asked: EvaluationMode, building: Building): FormulaNode {
  switch (node.type) {
    case "Literal":
      return constant(node.value);
    case "ErrorLiteral":
      return constant(CellError.named(node.value));
    case "ReferenceIdentifier":
      return buildReference(node.value, node.kind, asked, building);
    case "UnaryExpression":
      return buildUnary(node.operator, node.arguments[0], asked, building);
    case "BinaryExpression":
      return buildBinary(node.operator, node.arguments, asked, building);
    case "CallExpression":
      return buildCall(node, asked, building);
    case "ArrayExpression": {
      const rows = node.elements.map((row) => row.map((cell) => build(cell, "value", building).evaluate));
      return {
        evaluate: (context) => rows.map((row) => row.map((cell) => scalarOf(cell(context)))),
        mayBeArray: true,
      };
    }
    case "LetExpression":
      return buildLet(
        [...node.declarations.flatMap(({ id, init }) => [nameNode(id.name), init]), node.body],
        asked,
        building,
      );
    case "LambdaExpression":
      // A function by itself is no value of a cell.
      return failing("#CALC!");
    default:
      building.unsupported.push("a part that cannot be read");
      return failing("#NAME?");
  }
}

/** Arguments of a call: one that is left out is `null`. */
type Arguments = readonly (AstExpression | null)[];
/** What is called: a name, or a part that gives a function; the package's types know the name only. */
type Callee = Identifier | (AstExpression & { readonly name?: undefined });

function calleeOf(node: AstExpression & { type: "CallExpression" }): Callee {
  return node.callee;
}

function nameNode(name: string): AstExpression {
  return { type: "ReferenceIdentifier", value: name, kind: "name" };
}

function buildReference(value: string, kind: string, asked: EvaluationMode, building: Building): FormulaNode {
  if (kind === "table") {
    const reference = tableReferenceOf(value);
    if (reference) return fromArea((context) => context.locateTable(reference), asked);
    building.unsupported.push(`the table reference ${value}`);
    return failing("#REF!");
  }
  if (kind === "name") return buildName(value, asked, building);
  const deep = sheetsOf(value);
  if (deep) return overSheets(deep, building);
  const reference = referenceOf(value);
  if (!reference || reference.sheet?.includes(":")) {
    building.unsupported.push(`the reference ${value}`);
    return failing("#REF!");
  }
  return fromArea((context) => context.locate(reference) ?? CellError.of("#REF!"), asked);
}

/** `Jan:Mar!B2:B9`: the same cells of all sheets from one to another, one below the other (18.17.2.3). */
function overSheets({ from, to, rest }: { from: string; to: string; rest: string }, building: Building): FormulaNode {
  const reference = referenceOf(rest);
  if (!reference) {
    building.unsupported.push(`the reference ${from}:${to}!${rest}`);
    return failing("#REF!");
  }
  return {
    evaluate: (context) => {
      const rows: (readonly Scalar[])[] = [];
      for (const sheet of context.sheetsBetween(from, to) ?? []) {
        const place = context.locate({ ...reference, sheet });
        if (place) rows.push(...asMatrix(context.cells(place)));
      }
      return rows.length === 0 ? CellError.of("#REF!") : rows;
    },
    mayBeArray: true,
  };
}

function buildName(name: string, asked: EvaluationMode, building: Building): FormulaNode {
  const at = building.locals.lastIndexOf(name.toLowerCase());
  if (at >= 0)
    return {
      evaluate: (context) => {
        const local = context.locals[at];
        return local instanceof CellFunction ? CellError.of("#CALC!") : local;
      },
      mayBeArray: true,
    };
  const found = (context: EvaluationContext): ReturnType<EvaluationContext["name"]> => {
    const entry = context.name(name);
    if (entry && entry.formula.unsupported.length > 0) throw new Unsupported(entry.formula.unsupported.join(", "));
    return entry;
  };
  const area: EvaluateArea = (context) => {
    const entry = found(context);
    return entry?.formula.area?.(entry.context);
  };
  const value: Evaluate = (context) => {
    const entry = found(context);
    return entry ? entry.formula.evaluate(entry.context) : CellError.of("#NAME?");
  };
  return fromArea(area, asked, value);
}

function buildUnary(operator: string, argument: AstExpression, asked: EvaluationMode, building: Building): FormulaNode {
  if (operator === "#") return spilled(build(argument, "range", building), asked);
  if (operator === "@") return build(argument, "value", building);
  const arg = build(argument, asked === "array" ? "array" : "value", building);
  const each = (change: (value: number) => number): FormulaNode => ({
    evaluate: (context) => eachNumber(arg.evaluate(context), change),
    mayBeArray: arg.mayBeArray,
  });
  if (operator === "-") return each((value) => -value);
  if (operator === "%") return each((value) => value / 100);
  if (operator === "+") return { evaluate: arg.evaluate, mayBeArray: arg.mayBeArray };
  building.unsupported.push(`the operator ${operator}`);
  return arg;
}

function buildBinary(
  operator: string,
  operands: readonly AstExpression[],
  asked: EvaluationMode,
  building: Building,
): FormulaNode {
  if (operator === ":" || operator === " " || operator === ",")
    return buildAreaOperation(operator, operands, asked, building);
  const calculate = BINARY[operator];
  if (!calculate) {
    building.unsupported.push(`the operator ${operator}`);
    return failing("#VALUE!");
  }
  const inner = asked === "array" ? "array" : "value";
  const left = build(operands[0], inner, building);
  const right = build(operands[1], inner, building);
  const pair = ([a, b]: readonly Scalar[]): Scalar => calculate(a, b);
  return {
    evaluate: (context) => {
      const [a, b] = [left.evaluate(context), right.evaluate(context)];
      return isMatrix(a) || isMatrix(b) ? spread([a, b], pair) : calculate(a, b);
    },
    mayBeArray: left.mayBeArray || right.mayBeArray,
  };
}

/** Operations on references: from one to the other, what both share, both together. */
function buildAreaOperation(
  operator: string,
  operands: readonly AstExpression[],
  asked: EvaluationMode,
  building: Building,
): FormulaNode {
  const [left, right] = operands.map((operand) => build(operand, "range", building));
  if (operator === ",") {
    return {
      evaluate: (context) =>
        [left, right].flatMap((node) => asMatrix(node.evaluate(context)).flatMap((row) => row.map((value) => [value]))),
      mayBeArray: true,
    };
  }
  return fromArea((context) => {
    const [a, b] = [left.area?.(context), right.area?.(context)];
    if (a instanceof CellError) return a;
    if (b instanceof CellError) return b;
    if (!a || !b || a.sheet !== b.sheet) return CellError.of("#VALUE!");
    return operator === ":" ? around(a, b) : shared(a, b);
  }, asked);
}

/** Functions that look at where their arguments lie; the others are not told. */
const ASKING_WHERE = new Set([
  ...["ISFORMULA", "FORMULATEXT", "CELL", "SHEETS", "AREAS"],
  ...["SUBTOTAL", "AGGREGATE", "ROW", "COLUMN", "ROWS", "COLUMNS", "SHEET", "ISREF", "COUNTBLANK"],
  ...["SUMIF", "AVERAGEIF", "COUNTIF", "SUMIFS", "AVERAGEIFS", "COUNTIFS", "MINIFS", "MAXIFS"],
]);
const NO_AREAS: readonly (() => undefined)[] = [];

function buildCall(
  node: AstExpression & { type: "CallExpression" },
  asked: EvaluationMode,
  building: Building,
): FormulaNode {
  const callee = calleeOf(node);
  const name = plainName(callee.name);
  const sources: Arguments = node.arguments;
  if (name === "LET") return buildLet(sources, asked, building);
  if (name === "LAMBDA") return failing("#CALC!");
  if (Object.hasOwn(OVER_FUNCTIONS, name)) return buildOver(name, sources, building);
  const called = calledFunction(callee, name, building);
  if (called) return buildOwnCall(called, callee.name, sources, building);
  const body = lookUpFunction(name);
  const args = sources.map((source, index): FormulaNode => {
    if (!source) return constant(null);
    const taken = takes(name, index);
    const inner =
      asked === "array" || taken === "a" ? "array" : taken === "r" ? "range" : taken === "p" ? asked : "value";
    return build(source, inner, building);
  });
  if (name === "ANCHORARRAY" && args[0]) return spilled(args[0], asked);
  if (name === "SINGLE" && sources[0]) return build(sources[0], "value", building);
  if (!body) {
    building.unsupported.push(`the function ${name || "without a name"}`);
    return failing("#NAME?");
  }
  const areas = args.map((arg) => arg.area ?? (() => undefined));
  // Values that are gone through one by one where an array stands in their place.
  const lifted = args.flatMap((arg, index) => (takes(name, index) === "v" && arg.mayBeArray ? [index] : []));
  const asksWhere = ASKING_WHERE.has(name);
  const call = (context: EvaluationContext, values: ReadonlyMap<number, Scalar> | undefined): Operand =>
    body(
      values === undefined
        ? args.map((arg) => () => arg.evaluate(context))
        : args.map((arg, index) => {
            const value = values.get(index);
            return value === undefined ? () => arg.evaluate(context) : () => value;
          }),
      context,
      asksWhere ? areas.map((area) => () => area(context)) : NO_AREAS,
    );
  const evaluate: Evaluate =
    lifted.length === 0
      ? (context) => call(context, undefined)
      : (context) =>
          spread(
            lifted.map((index) => args[index].evaluate(context)),
            (values) => call(context, new Map(values.map((value, at) => [lifted[at], value]))),
          );
  const areaBody = Object.hasOwn(AREA_FUNCTIONS, name) ? AREA_FUNCTIONS[name] : undefined;
  if (!areaBody) return { evaluate, mayBeArray: true };
  const area: EvaluateArea = (context) => {
    // Values that could be arrays are looked at first: an array of places is no place.
    const known = new Map<number, Operand>();
    for (const index of lifted) {
      const value = args[index].evaluate(context);
      if (isMatrix(value) && (value.length > 1 || value[0]?.length > 1)) return undefined;
      known.set(index, scalarOf(value));
    }
    return areaBody(
      args.map((arg, index) => () => {
        const value = known.get(index);
        return value === undefined ? arg.evaluate(context) : value;
      }),
      context,
      areas.map((one) => () => one(context)),
    );
  };
  return fromArea(area, asked, evaluate);
}

/** What gives a function at an evaluation; `undefined` where it gives none. */
type FindFunction = (context: EvaluationContext) => CellFunction | undefined;

/** Functions that call each other deeper than this lead back to themselves for ever. */
const MOST_CALLS = 400;
let calls = 0;

/** A part of a formula that gives a function: a LAMBDA, a name for one, or the name of one that is built in. */
function functionOf(node: AstExpression, building: Building): FindFunction | undefined {
  if (node.type === "LambdaExpression") {
    const names = node.params.map((param) => param.name);
    return node.body ? lambda(names, node.body, building) : undefined;
  }
  if (node.type === "CallExpression" && isLambda(node)) {
    const parts: Arguments = node.arguments;
    const names = parts.slice(0, -1).flatMap((one) => (one?.type === "ReferenceIdentifier" ? [one.value] : []));
    const body = parts[parts.length - 1];
    if (!body || names.length < parts.length - 1) return undefined;
    return lambda(names, body, building);
  }
  if (node.type !== "ReferenceIdentifier" || node.kind !== "name") return undefined;
  return namedFunction(node.value, building);
}

/** `LAMBDA(…)`, written with the prefix of later functions or without. */
function isLambda(node: AstExpression): boolean {
  if (node.type !== "CallExpression") return node.type === "LambdaExpression";
  return plainName(calleeOf(node).name) === "LAMBDA";
}

function lambda(names: readonly string[], body: AstExpression, building: Building): FindFunction {
  const plain = names.map((name) => name.replace(/^\[|\]$/g, "").toLowerCase());
  const result = build(body, "range", { ...building, locals: [...building.locals, ...plain] });
  return (context) =>
    new CellFunction(plain.length, (values) => {
      if (values.length > plain.length) return CellError.of("#VALUE!");
      if (calls >= MOST_CALLS) return CellError.of("#NUM!");
      calls++;
      try {
        let inside = context;
        for (let at = 0; at < plain.length; at++) inside = inside.withLocal(values[at] ?? null);
        return result.evaluate(inside);
      } finally {
        calls--;
      }
    });
}

function namedFunction(name: string, building: Building): FindFunction | undefined {
  const at = building.locals.lastIndexOf(name.toLowerCase());
  if (at >= 0)
    return (context) => {
      const local = context.locals[at];
      return local instanceof CellFunction ? local : undefined;
    };
  const builtIn = plainName(name.replace(/^_xleta\./i, ""));
  const body = lookUpFunction(builtIn);
  if (body)
    return (context) =>
      new CellFunction(255, (values) =>
        body(
          values.map((value) => () => value),
          context,
          values.map(() => () => undefined),
        ),
      );
  return (context) => {
    const entry = context.name(name);
    return entry?.formula.makesFunction?.(entry.context);
  };
}

/** The function that a call names, where it is none of the file format's. */
function calledFunction(callee: Callee, name: string, building: Building): FindFunction | undefined {
  if (callee.type === "LambdaExpression" || callee.type === "CallExpression") return functionOf(callee, building);
  const { name: written = "" } = callee;
  if (building.locals.includes(written.toLowerCase())) return namedFunction(written, building);
  return written === "" || lookUpFunction(name) || KNOWN_CALLS.has(name) ? undefined : namedFunction(written, building);
}

/** A call of a function of one's own; a name that is none stays a name that is not known. */
function buildOwnCall(
  find: FindFunction,
  name: string | undefined,
  sources: Arguments,
  building: Building,
): FormulaNode {
  const isLocal = name === undefined || building.locals.includes(name.toLowerCase());
  const args = sources.map((source) => (source ? build(source, "range", building) : constant(null)));
  return {
    evaluate: (context) => {
      const found = find(context);
      if (found) return found.call(args.map((arg) => arg.evaluate(context)));
      // What nobody has named may be a function of another maker's: what is stored stays.
      if (!isLocal) throw new Unsupported(`the function ${plainName(name)}`);
      return CellError.of("#VALUE!");
    },
    mayBeArray: true,
  };
}

function plainName(name: string | undefined): string {
  return (name ?? "").toUpperCase().replace(/^_XLFN\.(_XLWS\.)?/, "");
}

/** MAP and its relatives: the last argument is a function, those before it what it goes over. */
function buildOver(name: string, sources: Arguments, building: Building): FormulaNode {
  const last = sources[sources.length - 1];
  const find = last ? functionOf(last, building) : undefined;
  if (!find) {
    building.unsupported.push(`the function ${name} without a LAMBDA`);
    return failing("#VALUE!");
  }
  const args = sources.slice(0, -1).map((source) => (source ? build(source, "array", building) : constant(null)));
  return {
    evaluate: (context) => {
      const made = find(context);
      if (!made) return CellError.of("#VALUE!");
      return OVER_FUNCTIONS[name](
        args.map((arg) => arg.evaluate(context)),
        (...values) => made.call(values),
      );
    },
    mayBeArray: true,
  };
}

/** `LET(name, value, …, result)`: each value is evaluated once. */
function buildLet(sources: Arguments, asked: EvaluationMode, building: Building): FormulaNode {
  const inner = asked === "array" ? "array" : "range";
  const values: ((context: EvaluationContext) => Local)[] = [];
  let reach = building;
  for (let index = 0; index + 1 < sources.length; index += 2) {
    const [name, source] = [sources[index], sources[index + 1]];
    if (name?.type !== "ReferenceIdentifier" || name.kind !== "name" || !source) {
      building.unsupported.push("a LET without a name");
      return failing("#NAME?");
    }
    const find = isLambda(source) ? functionOf(source, reach) : undefined;
    if (find) values.push((context) => find(context) ?? CellError.of("#CALC!"));
    else values.push(build(source, inner, reach).evaluate);
    reach = { ...reach, locals: [...reach.locals, name.value.toLowerCase()] };
  }
  const last = sources.length % 2 === 1 ? sources[sources.length - 1] : undefined;
  if (!last) return failing("#VALUE!");
  const result = build(last, asked, reach);
  return {
    evaluate: (context) => {
      let inside = context;
      for (const value of values) inside = inside.withLocal(value(inside));
      return result.evaluate(inside);
    },
    mayBeArray: true,
  };
}
