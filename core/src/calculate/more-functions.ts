/** Functions of trigonometry, statistics and finance whose bodies come from a package; here they get our values and errors. */
import * as formulas from "@formulajs/formulajs";
import type { FormulaFunction } from "./adapters.js";
import { CellError, type ErrorName, isMatrix, type Operand, type Scalar } from "./value.js";

const NAMES = [
  ...[
    "SIN",
    "COS",
    "TAN",
    "ASIN",
    "ACOS",
    "ATAN",
    "ATAN2",
    "SINH",
    "COSH",
    "TANH",
    "DEGREES",
    "RADIANS",
    "LOG",
    "FACT",
    "COMBIN",
    "GCD",
    "LCM",
    "QUOTIENT",
    "SUMSQ",
    "EVEN",
    "ODD",
  ],
  ...[
    "KURT",
    "SKEW",
    "CORREL",
    "PEARSON",
    "RSQ",
    "SLOPE",
    "INTERCEPT",
    "GEOMEAN",
    "HARMEAN",
    "AVEDEV",
    "DEVSQ",
    "TRIMMEAN",
    "STDEVP",
    "VARP",
    "STANDARDIZE",
    "FORECAST",
    "CONFIDENCE",
    "SUMX2MY2",
    "SUMX2PY2",
    "SUMXMY2",
    "ROMAN",
    "ARABIC",
    "BASE",
    "DECIMAL",
    "DEC2BIN",
    "BIN2DEC",
    "DEC2HEX",
    "HEX2DEC",
  ],
  ...[
    "PMT",
    "IPMT",
    "PPMT",
    "PV",
    "FV",
    "NPER",
    "RATE",
    "NPV",
    "IRR",
    "SLN",
    "SYD",
    "DB",
    "DDB",
    "EFFECT",
    "NOMINAL",
    "CUMIPMT",
    "CUMPRINC",
    "MIRR",
    "RRI",
    "PDURATION",
  ],
] as const;

const ERRORS: readonly ErrorName[] = ["#NULL!", "#DIV/0!", "#VALUE!", "#REF!", "#NAME?", "#NUM!", "#N/A"];

type Body = (...args: unknown[]) => unknown;

/** By name; a name the package does not have is left out. */
export const MORE_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = Object.fromEntries(
  NAMES.flatMap((name) => {
    const body = (formulas as unknown as Record<string, Body | undefined>)[name];
    return typeof body === "function" ? [[name, adapt(name, body)] as const] : [];
  }),
);

/** Functions of pairs: where one side is no number, both are passed over. */
const PAIRED = new Set<string>([
  "CORREL",
  "PEARSON",
  "RSQ",
  "SLOPE",
  "INTERCEPT",
  "FORECAST",
  "SUMX2MY2",
  "SUMX2PY2",
  "SUMXMY2",
]);
/** Digits above nine are written in capitals. */
const CAPITALS = new Set<string>(["BASE", "DEC2HEX"]);

function adapt(name: string, body: Body): FormulaFunction {
  return (args) => {
    const values = args.map((arg) => arg());
    const failed = values
      .flatMap((value) => (isMatrix(value) ? value.flat() : [value]))
      .find((value) => value instanceof CellError);
    if (failed !== undefined) return failed;
    // ATAN2 takes x before y in spreadsheets, the package y before x.
    const given = PAIRED.has(name) ? inPairs(values) : values.map(plain);
    const result = resultOf(body(...(name === "ATAN2" ? given.reverse() : given)));
    return CAPITALS.has(name) && typeof result === "string" ? result.toUpperCase() : result;
  };
}

/** A single row or column as a list, as the package takes them; of ranges numbers count alone. */
function plain(operand: Operand): unknown {
  return isMatrix(operand) ? operand.flat().filter((value) => typeof value === "number") : operand;
}

function inPairs(operands: readonly Operand[]): unknown[] {
  const lists = operands.filter(isMatrix).map((operand) => operand.flat());
  const isPair = (at: number): boolean => lists.every((list) => typeof list[at] === "number");
  return operands.map((operand) => (isMatrix(operand) ? operand.flat().filter((_, at) => isPair(at)) : operand));
}

function resultOf(result: unknown): Scalar {
  if (typeof result === "number") return Number.isFinite(result) ? result : CellError.of("#NUM!");
  if (typeof result === "string" || typeof result === "boolean") return result;
  const name = ERRORS.find((error) => error === (result as Error | undefined)?.message);
  return CellError.of(name ?? "#VALUE!");
}
