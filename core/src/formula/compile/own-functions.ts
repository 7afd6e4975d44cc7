/** Functions that a formula makes itself: LAMBDA, names for one, LET, and the functions that take one. */

import type { AstExpression } from "@borgar/fx/xlsx";
import { say } from "../../words/index.js";
import type { EvaluationMode, FormulaNode } from "../areas.js";
import { type EvaluationContext, type Local, Unsupported } from "../evaluation-context.js";
import { lookUpFunction } from "../functions/index.js";
import { OVER_FUNCTIONS } from "../functions/over-arrays.js";
import { CellError, CellFunction } from "../value.js";
import {
  type Arguments,
  type Building,
  build,
  type Callee,
  constant,
  type FindFunction,
  failing,
  isLambda,
  plainName,
} from "./building.js";

/** Constructs that are built here, and no functions. */
const KNOWN_CALLS = new Set(["LET", "LAMBDA", "ANCHORARRAY", "SINGLE"]);

/** Functions that call each other deeper than this lead back to themselves for ever. */
const MOST_CALLS = 400;

let calls = 0;

/** A part of a formula that gives a function: a LAMBDA, a name for one, or the name of one that is built in. */
export function functionOf(node: AstExpression, building: Building): FindFunction | undefined {
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
export function calledFunction(callee: Callee, name: string, building: Building): FindFunction | undefined {
  if (callee.type === "LambdaExpression" || callee.type === "CallExpression") return functionOf(callee, building);
  const { name: written = "" } = callee;
  if (building.locals.includes(written.toLowerCase())) return namedFunction(written, building);
  return written === "" || lookUpFunction(name) || KNOWN_CALLS.has(name) ? undefined : namedFunction(written, building);
}

/** A call of a function of one's own; a name that is none stays a name that is not known. */
export function buildOwnCall(
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
      if (!isLocal) throw new Unsupported(say().formula.functionText({ plainName: plainName(name) }));
      return CellError.of("#VALUE!");
    },
    mayBeArray: true,
  };
}

/** MAP and its relatives: the last argument is a function, those before it what it goes over. */
export function buildOver(name: string, sources: Arguments, building: Building): FormulaNode {
  const last = sources[sources.length - 1];
  const find = last ? functionOf(last, building) : undefined;
  if (!find) {
    building.unsupported.push(say().formula.functionWithoutLambda({ name }));
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
export function buildLet(sources: Arguments, asked: EvaluationMode, building: Building): FormulaNode {
  const inner = asked === "array" ? "array" : "range";
  const values: ((context: EvaluationContext) => Local)[] = [];
  let reach = building;
  for (let index = 0; index + 1 < sources.length; index += 2) {
    const [name, source] = [sources[index], sources[index + 1]];
    if (name?.type !== "ReferenceIdentifier" || name.kind !== "name" || !source) {
      building.unsupported.push(say().formula.letWithoutName());
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
