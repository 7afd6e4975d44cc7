/** Values of cells while formulas are evaluated: ECMA-376 part 1, 18.17.2. */

import { numberInText } from "./coercion.js";

export type ErrorName =
  | "#NULL!"
  | "#DIV/0!"
  | "#VALUE!"
  | "#REF!"
  | "#NAME?"
  | "#NUM!"
  | "#N/A"
  /** Ours: a formula that leads back to itself; written as `#REF!`. */
  | "#CIRC!"
  /** No room for an array's values, and an array without any: written as `#VALUE!`, as files do that have no richer value. */
  | "#SPILL!"
  | "#CALC!";

export const ERROR_NAMES: readonly ErrorName[] = [
  ...(["#NULL!", "#DIV/0!", "#VALUE!", "#REF!", "#NAME?", "#NUM!", "#N/A"] as const),
];

/** An error value: it travels through formulas as any other value. */
export class CellError {
  private constructor(readonly name: ErrorName) {}

  private static readonly known = new Map<string, CellError>();

  /** The error that a file names; `#VALUE!` for a name that no program gives. */
  static named(name: unknown): CellError {
    return CellError.of(ERROR_NAMES.find((one) => one === name) ?? "#VALUE!");
  }

  static of(name: ErrorName): CellError {
    let error = CellError.known.get(name);
    if (!error) {
      error = new CellError(name);
      CellError.known.set(name, error);
    }
    return error;
  }
}

export type Scalar = number | string | boolean | null | CellError;

/** Rows of cells; every row has the same length. */
export type Matrix = readonly (readonly Scalar[])[];

export type Operand = Scalar | Matrix;

export function isMatrix(operand: Operand): operand is Matrix {
  return Array.isArray(operand);
}

export function areScalars(operands: readonly Operand[]): operands is readonly Scalar[] {
  return !operands.some(isMatrix);
}

export function areNumbers(values: readonly (Scalar | undefined)[]): values is readonly number[] {
  return values.every((value) => typeof value === "number");
}

export function areNumberRows(rows: Matrix): rows is readonly (readonly number[])[] {
  return rows.every(areNumbers);
}

/** The single value of an operand; of a range its first cell. */
export function scalarOf(operand: Operand): Scalar {
  return isMatrix(operand) ? (operand[0]?.[0] ?? null) : operand;
}

export function numberOf(operand: Operand): number | CellError {
  const value = scalarOf(operand);
  if (value instanceof CellError || typeof value === "number") return value;
  if (value === null) return 0;
  if (typeof value === "boolean") return value ? 1 : 0;
  return numberInText(value) ?? CellError.of("#VALUE!");
}

export function textOf(operand: Operand): string | CellError {
  const value = scalarOf(operand);
  if (value instanceof CellError) return value;
  if (value === null) return "";
  if (typeof value === "boolean") return value ? "TRUE" : "FALSE";
  return typeof value === "number" ? numberText(value) : value;
}

/** A number as a cell in the general format shows it: up to 15 digits. */
export function numberText(value: number): string {
  return Number.isInteger(value) && Math.abs(value) < 1e15
    ? String(value)
    : String(Number(value.toPrecision(15))).toUpperCase();
}

export function truthOf(operand: Operand): boolean | CellError {
  const value = scalarOf(operand);
  if (value instanceof CellError || typeof value === "boolean") return value;
  if (value === null) return false;
  if (typeof value === "number") return value !== 0;
  if (/^true$/i.test(value)) return true;
  return /^false$/i.test(value) ? false : CellError.of("#VALUE!");
}

/** Fifteen digits decide whether two numbers are the same, so 1.1 + 2.2 is 3.3. */
export function isSameNumber(a: number, b: number): boolean {
  if (a === b) return true;
  const apart = Math.abs(a - b);
  return apart < Math.max(Math.abs(a), Math.abs(b)) * 1e-14 && a.toPrecision(15) === b.toPrecision(15);
}

/** Numbers before texts before truth values; texts without regard to case. */
export function compareScalars(a: Scalar, b: Scalar): number {
  const [x, y] = [a ?? blankLike(b), b ?? blankLike(a)];
  if (typeof x === "number" && typeof y === "number") return isSameNumber(x, y) ? 0 : x - y;
  if (typeof x === "string" && typeof y === "string") {
    const [low, high] = [x.toLowerCase(), y.toLowerCase()];
    return low < high ? -1 : low > high ? 1 : 0;
  }
  if (typeof x === "boolean" && typeof y === "boolean") return Number(x) - Number(y);
  return rank(x) - rank(y);
}

function blankLike(other: Scalar): Scalar {
  return typeof other === "string" ? "" : typeof other === "boolean" ? false : 0;
}

function rank(value: Scalar): number {
  return typeof value === "number" ? 0 : typeof value === "string" ? 1 : 2;
}

/** A function that a formula has made: what LAMBDA gives. It is handed on by names and never stands in a cell. */
export class CellFunction {
  constructor(
    readonly count: number,
    readonly call: (values: readonly Operand[]) => Operand,
  ) {}
}

/** An operand as rows of cells. */
export const asMatrix = (operand: Operand): Matrix => (isMatrix(operand) ? operand : [[operand]]);

/** The cell of an operand that is spread over a larger array: single rows, columns and values repeat. */
export function spreadCell(operand: Operand, row: number, column: number): Scalar {
  if (!isMatrix(operand)) return operand;
  const line = operand.length === 1 ? operand[0] : operand[row];
  if (line === undefined) return CellError.of("#N/A");
  return line.length === 1 ? line[0] : column < line.length ? line[column] : CellError.of("#N/A");
}

/** A function of values applied cell by cell, where any of them is an array. */
export function spread(operands: readonly Operand[], each: (values: readonly Scalar[]) => Operand): Operand {
  let rows = 1;
  let columns = 1;
  for (const operand of operands) {
    if (!isMatrix(operand)) continue;
    rows = Math.max(rows, operand.length);
    columns = Math.max(columns, operand[0]?.length ?? 1);
  }
  if (areScalars(operands)) return each(operands);
  return Array.from({ length: rows }, (_, row) =>
    Array.from({ length: columns }, (_, column) =>
      scalarOf(each(operands.map((operand) => spreadCell(operand, row, column)))),
    ),
  );
}

/** All cells of operands in reading order. */
export function* cellsOf(operands: readonly Operand[]): Generator<{ value: Scalar; direct: boolean }> {
  for (const operand of operands) {
    if (isMatrix(operand)) {
      for (const row of operand) for (const value of row) yield { value, direct: false };
    } else yield { value: operand, direct: true };
  }
}
