/** Calls of the file format's functions. */

import type { AstExpression } from "@borgar/fx/xlsx";
import { say } from "../../words/index.js";
import {
  type Evaluate,
  type EvaluateArea,
  type EvaluationMode,
  type FormulaNode,
  fromArea,
  spilled,
} from "../areas.js";
import type { EvaluationContext } from "../evaluation-context.js";
import { lookUpFunction } from "../functions/index.js";
import { OVER_FUNCTIONS } from "../functions/over-arrays.js";
import { AREA_FUNCTIONS } from "../functions/reference.js";
import { takes } from "../signatures.js";
import { isMatrix, type Operand, type Scalar, scalarOf, spread } from "../value.js";
import { type Arguments, type Building, build, calleeOf, constant, failing, plainName } from "./building.js";
import { buildLet, buildOver, buildOwnCall, calledFunction } from "./own-functions.js";

/** Functions that look at where their arguments lie; the others are not told. */
const ASKING_WHERE = new Set([
  ...["ISFORMULA", "FORMULATEXT", "CELL", "SHEETS", "AREAS"],
  ...["SUBTOTAL", "AGGREGATE", "ROW", "COLUMN", "ROWS", "COLUMNS", "SHEET", "ISREF", "COUNTBLANK"],
  ...["SUMIF", "AVERAGEIF", "COUNTIF", "SUMIFS", "AVERAGEIFS", "COUNTIFS", "MINIFS", "MAXIFS"],
]);

const NO_AREAS: readonly (() => undefined)[] = [];

export function buildCall(
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
    building.unsupported.push(say().formula.functionNamed({ name }));
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
  return areaBody
    ? fromArea(areaOfCall(areaBody, args, lifted, areas), asked, evaluate)
    : { evaluate, mayBeArray: true };
}

/** Where a call of a function that gives places lies. */
function areaOfCall(
  body: (typeof AREA_FUNCTIONS)[string],
  args: readonly FormulaNode[],
  lifted: readonly number[],
  areas: readonly EvaluateArea[],
): EvaluateArea {
  return (context) => {
    // Values that could be arrays are looked at first: an array of places is no place.
    const known = new Map<number, Operand>();
    for (const index of lifted) {
      const value = args[index].evaluate(context);
      if (isMatrix(value) && (value.length > 1 || value[0]?.length > 1)) return undefined;
      known.set(index, scalarOf(value));
    }
    return body(
      args.map((arg, index) => () => {
        const value = known.get(index);
        return value === undefined ? arg.evaluate(context) : value;
      }),
      context,
      areas.map((one) => () => one(context)),
    );
  };
}
