/** A formula is parsed once and turned into a function; where its references lie is asked anew at each evaluation. */

import type { AstExpression } from "@borgar/fx/xlsx";
import { parse, parseA1Ref, type RangeA1, tokenize } from "@borgar/fx/xlsx";
import { type FormulaFunction, FUNCTIONS } from "./functions.js";
import { MORE_FUNCTIONS } from "./more-functions.js";
import {
  CellError,
  compareScalars,
  type ErrorName,
  isMatrix,
  numberOf,
  type Operand,
  type Scalar,
  textOf,
} from "./value.js";

/** A reference in a formula, as written: `sheet` is undefined for the formula's own. */
export interface FormulaReference {
  readonly sheet: string | undefined;
  readonly range: RangeA1;
  /** Written as one cell: `A1`, while `A1:A1` is a range that can grow. */
  readonly single: boolean;
}

/** What SUBTOTAL does not count: cells that are subtotals themselves, and for its kinds above 100 hidden rows (18.17.7.313). */
export interface PassOver {
  readonly hiddenRows: boolean;
}

/** What a formula asks of the workbook it stands in. */
export interface Site {
  /** The cells of a reference; for subtotals without the cells they pass over, which count as blank. */
  readonly read: (reference: FormulaReference, passOver?: PassOver) => Operand;
  /** A defined name. */
  readonly name: (name: string) => Operand;
  /** Row and column of the formula's own cell, 0-based. */
  readonly row: number;
  readonly column: number;
  /** The reference's rectangle, for functions that ask where and not what. */
  readonly locate: (reference: FormulaReference) => { top: number; left: number; bottom: number; right: number };
  /** The run's own instant as a serial. */
  readonly now: number;
}

export type Evaluate = (site: Site) => Operand;

export interface CompiledFormula {
  readonly source: string;
  readonly evaluate: Evaluate;
  /** Names of functions and constructs that cannot be evaluated; then the value stored in the file stays. */
  readonly unsupported: readonly string[];
}

const CACHE = new Map<string, CompiledFormula>();
/** Formulas kept compiled; enough for many templates. */
const CACHE_SIZE = 5000;

/** Compiles a formula as stored, without its equals sign. Never throws: what cannot be read is `unsupported`. */
export function compileFormula(source: string): CompiledFormula {
  const known = CACHE.get(source);
  if (known) return known;
  const unsupported: string[] = [];
  let evaluate: Evaluate;
  try {
    evaluate = build(parse(tokenize(`=${source}`, { mergeRefs: true })) as AstExpression, unsupported);
  } catch {
    unsupported.push("a formula that cannot be read");
    evaluate = () => CellError.of("#NAME?");
  }
  const compiled = { source, evaluate, unsupported };
  if (CACHE.size >= CACHE_SIZE) CACHE.clear();
  CACHE.set(source, compiled);
  return compiled;
}

function build(node: AstExpression, unsupported: string[]): Evaluate {
  switch (node.type) {
    case "Literal": {
      const { value } = node;
      return () => value as Scalar;
    }
    case "ErrorLiteral": {
      const error = CellError.of(node.value as ErrorName);
      return () => error;
    }
    case "ReferenceIdentifier":
      return buildReference(node.value, node.kind, unsupported);
    case "UnaryExpression": {
      const arg = build(node.arguments[0] as AstExpression, unsupported);
      if (node.operator === "-") return (site) => eachNumber(arg(site), (value) => -value);
      if (node.operator === "%") return (site) => eachNumber(arg(site), (value) => value / 100);
      if (node.operator === "+") return arg;
      unsupported.push(`the operator ${node.operator}`);
      return arg;
    }
    case "BinaryExpression": {
      const operator = BINARY[node.operator];
      if (!operator) {
        unsupported.push(`the operator ${node.operator === " " ? "for intersections" : node.operator}`);
        return () => CellError.of("#VALUE!");
      }
      const left = build(node.arguments[0] as AstExpression, unsupported);
      const right = build(node.arguments[1] as AstExpression, unsupported);
      return (site) => pairwise(left(site), right(site), operator);
    }
    case "CallExpression": {
      const callee = node.callee as { type: string; name?: string };
      const name = (callee.name ?? "").toUpperCase().replace(/^_XLFN\.(_XLWS\.)?/, "");
      const spec = lookUpFunction(name);
      const args = node.arguments.map((arg) => (arg ? build(arg as AstExpression, unsupported) : () => null));
      if (!spec) {
        unsupported.push(`the function ${name || "without a name"}`);
        return () => CellError.of("#NAME?");
      }
      const references = node.arguments.map((arg) => maybeReference(arg as AstExpression | null));
      return (site) =>
        spec(
          args.map((arg) => () => arg(site)),
          site,
          references,
        );
    }
    case "ArrayExpression": {
      const rows = node.elements.map((row) => row.map((cell) => build(cell as AstExpression, unsupported)));
      return (site) => rows.map((row) => row.map((cell) => cell(site) as Scalar));
    }
    default:
      unsupported.push(node.type === "LetExpression" ? "the function LET" : "the function LAMBDA");
      return () => CellError.of("#NAME?");
  }
}

function buildReference(value: string, kind: string, unsupported: string[]): Evaluate {
  if (kind === "name") return (site) => site.name(value);
  const reference = referenceOf(value);
  if (!reference) {
    unsupported.push(kind === "table" ? `the table reference ${value}` : `the reference ${value}`);
    return () => CellError.of("#REF!");
  }
  return (site) => site.read(reference);
}

function maybeReference(node: AstExpression | null): FormulaReference | undefined {
  return node?.type === "ReferenceIdentifier" && node.kind !== "name" ? referenceOf(node.value) : undefined;
}

/** A reference within the workbook; those into other workbooks give `undefined`. */
export function referenceOf(text: string): FormulaReference | undefined {
  const parsed = parseA1Ref(text) as { workbookName?: string; sheetName?: string; range?: RangeA1 } | undefined;
  if (!parsed?.range || parsed.workbookName) return undefined;
  return { sheet: parsed.sheetName || undefined, range: parsed.range, single: !text.includes(":") };
}

type BinaryOperation = (a: Scalar, b: Scalar) => Scalar;

function arithmetic(calculate: (a: number, b: number) => number): BinaryOperation {
  return (a, b) => {
    const [x, y] = [numberOf(a), numberOf(b)];
    if (x instanceof CellError) return x;
    if (y instanceof CellError) return y;
    const result = calculate(x, y);
    return Number.isFinite(result) ? result : CellError.of("#NUM!");
  };
}

function comparison(test: (order: number) => boolean): BinaryOperation {
  return (a, b) => (a instanceof CellError ? a : b instanceof CellError ? b : test(compareScalars(a, b)));
}

/** Sums that should be nought are, as people expect of money: 0.3 - 0.1 - 0.2 is 0, not -2.8e-17. */
function nearZero(result: number, a: number, b: number): number {
  return Math.abs(result) < Math.max(Math.abs(a), Math.abs(b)) * 1e-15 ? 0 : result;
}

const BINARY: Readonly<Record<string, BinaryOperation>> = {
  "+": arithmetic((a, b) => nearZero(a + b, a, b)),
  "-": arithmetic((a, b) => nearZero(a - b, a, b)),
  "*": arithmetic((a, b) => a * b),
  "/": (a, b) =>
    numberOf(b) === 0 && !(numberOf(a) instanceof CellError)
      ? CellError.of("#DIV/0!")
      : arithmetic((x, y) => x / y)(a, b),
  "^": arithmetic((a, b) => a ** b),
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

function eachNumber(operand: Operand, change: (value: number) => number): Operand {
  const one = (value: Scalar): Scalar => {
    const number = numberOf(value);
    return number instanceof CellError ? number : change(number);
  };
  return isMatrix(operand) ? operand.map((row) => row.map(one)) : one(operand);
}

/** An operation on two values, or cell by cell where one side is a range. */
function pairwise(left: Operand, right: Operand, operation: BinaryOperation): Operand {
  if (!isMatrix(left) && !isMatrix(right)) return operation(left, right);
  const rows = Math.max(isMatrix(left) ? left.length : 1, isMatrix(right) ? right.length : 1);
  const columns = Math.max(isMatrix(left) ? left[0].length : 1, isMatrix(right) ? right[0].length : 1);
  const at = (operand: Operand, row: number, column: number): Scalar => {
    if (!isMatrix(operand)) return operand;
    const line = operand[operand.length === 1 ? 0 : row];
    return line?.[line.length === 1 ? 0 : column] ?? null;
  };
  return Array.from({ length: rows }, (_, row) =>
    Array.from({ length: columns }, (_, column) => operation(at(left, row, column), at(right, row, column))),
  );
}

function lookUpFunction(name: string): FormulaFunction | undefined {
  if (Object.hasOwn(FUNCTIONS, name)) return FUNCTIONS[name];
  return Object.hasOwn(MORE_FUNCTIONS, name) ? MORE_FUNCTIONS[name] : undefined;
}
