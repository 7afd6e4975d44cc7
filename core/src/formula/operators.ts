/** Operators of formulas: ECMA-376 part 1, 18.17.2.2. */
import { CellError, compareScalars, isMatrix, numberOf, type Operand, type Scalar, textOf } from "./value.js";

type BinaryOperation = (a: Scalar, b: Scalar) => Scalar;

function arithmetic(calculate: (a: number, b: number) => number | CellError): BinaryOperation {
  return (a, b) => {
    const [x, y] = [numberOf(a), numberOf(b)];
    if (x instanceof CellError) return x;
    if (y instanceof CellError) return y;
    const result = calculate(x, y);
    return result instanceof CellError || Number.isFinite(result) ? result : CellError.of("#NUM!");
  };
}

/** Nought to the power of nought is no number, and to one below nought a division by it. */
export function power(base: number, exponent: number): number | CellError {
  if (base === 0 && exponent <= 0) return exponent === 0 ? CellError.of("#NUM!") : CellError.of("#DIV/0!");
  return base ** exponent;
}

function comparison(test: (order: number) => boolean): BinaryOperation {
  return (a, b) => (a instanceof CellError ? a : b instanceof CellError ? b : test(compareScalars(a, b)));
}

/** Sums that should be nought are, as people expect of money: 0.3 - 0.1 - 0.2 is 0, not -2.8e-17. */
function nearZero(result: number, a: number, b: number): number {
  return Math.abs(result) < Math.max(Math.abs(a), Math.abs(b)) * 1e-15 ? 0 : result;
}

export const BINARY: Readonly<Record<string, BinaryOperation>> = {
  "+": arithmetic((a, b) => nearZero(a + b, a, b)),
  "-": arithmetic((a, b) => nearZero(a - b, a, b)),
  "*": arithmetic((a, b) => a * b),
  "/": (a, b) => {
    const [x, y] = [numberOf(a), numberOf(b)];
    if (x instanceof CellError) return x;
    if (y instanceof CellError) return y;
    return y === 0 ? CellError.of("#DIV/0!") : x / y;
  },
  "^": arithmetic(power),
  "&": (a, b) => {
    const [x, y] = [textOf(a), textOf(b)];
    return x instanceof CellError ? x : y instanceof CellError ? y : x + y;
  },
  "=": comparison((order) => order === 0),
  "<>": comparison((order) => order !== 0),
  "<": comparison((order) => order < 0),
  "<=": comparison((order) => order <= 0),
  ">": comparison((order) => order > 0),
  ">=": comparison((order) => order >= 0),
};

export function eachNumber(operand: Operand, change: (value: number) => number): Operand {
  const one = (value: Scalar): Scalar => {
    const number = numberOf(value);
    return number instanceof CellError ? number : change(number);
  };
  return isMatrix(operand) ? operand.map((row) => row.map(one)) : one(operand);
}
