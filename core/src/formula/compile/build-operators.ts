/** Operators of a formula: on values, and on references. */

import type { AstExpression } from "@borgar/fx/xlsx";
import { say } from "../../words/index.js";
import { around, type EvaluationMode, type FormulaNode, fromArea, shared, spilled } from "../areas.js";
import { BINARY, eachNumber } from "../operators.js";
import { asMatrix, CellError, isMatrix, type Scalar, spread } from "../value.js";
import { type Building, build, failing } from "./building.js";

export function buildUnary(
  operator: string,
  argument: AstExpression,
  asked: EvaluationMode,
  building: Building,
): FormulaNode {
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
  building.unsupported.push(say().formula.operator({ operator }));
  return arg;
}

export function buildBinary(
  operator: string,
  operands: readonly AstExpression[],
  asked: EvaluationMode,
  building: Building,
): FormulaNode {
  if (operator === ":" || operator === " " || operator === ",")
    return buildAreaOperation(operator, operands, asked, building);
  const calculate = BINARY[operator];
  if (!calculate) {
    building.unsupported.push(say().formula.operator({ operator }));
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
export function buildAreaOperation(
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
