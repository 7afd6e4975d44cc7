/** How bodies of functions get their arguments as numbers or texts. */
import type { EvaluationContext, SheetArea } from "../../evaluation-context.js";
import { CellError, cellsOf, numberOf, type Operand, type Scalar, textOf } from "../../value.js";

/**
 * Arguments come as functions, so that IF and IFERROR look only at what they need; `areas` say where an argument's
 * cells lie, for those that give cells.
 */
export type FormulaFunction = (
  args: readonly (() => Operand)[],
  context: EvaluationContext,
  areas: readonly (() => SheetArea | CellError | undefined)[],
) => Operand;

export const VALUE = CellError.of("#VALUE!");
export const NA = CellError.of("#N/A");
export const NUM = CellError.of("#NUM!");
export const DIVISION = CellError.of("#DIV/0!");

/** The numbers an aggregate counts: in ranges only numbers, given directly also what reads as one. */
export function numbers(args: readonly (() => Operand)[]): number[] | CellError {
  const found: number[] = [];
  for (const { value, direct } of cellsOf(args.map((arg) => arg()))) {
    if (value instanceof CellError) return value;
    if (typeof value === "number") found.push(value);
    else if (direct && value !== null) {
      const number = numberOf(value);
      if (number instanceof CellError) return number;
      found.push(number);
    }
  }
  return found;
}

/** Neumaier's sum: the error of each step is carried along, so that cents add up. */
export function exactSum(values: readonly number[]): number {
  let sum = 0;
  let lost = 0;
  for (const value of values) {
    const next = sum + value;
    lost += Math.abs(sum) >= Math.abs(value) ? sum - next + value : value - next + sum;
    sum = next;
  }
  return sum + lost;
}

export function overNumbers(calculate: (values: number[]) => Scalar): FormulaFunction {
  return (args) => {
    const values = numbers(args);
    return values instanceof CellError ? values : calculate(values);
  };
}

/** A function of numbers, each argument one. */
export function ofNumbers(calculate: (...values: number[]) => number | CellError): FormulaFunction {
  return (args) => {
    const values: number[] = [];
    for (const arg of args) {
      const value = numberOf(arg());
      if (value instanceof CellError) return value;
      values.push(value);
    }
    const result = calculate(...values);
    return typeof result === "number" && !Number.isFinite(result) ? NUM : result;
  };
}

/** A function of texts. */
export function ofTexts(calculate: (...values: string[]) => Scalar): FormulaFunction {
  return (args) => {
    const values: string[] = [];
    for (const arg of args) {
      const value = textOf(arg());
      if (value instanceof CellError) return value;
      values.push(value);
    }
    return calculate(...values);
  };
}
