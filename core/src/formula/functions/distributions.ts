/** Distributions under their older names, and tests of samples. ECMA-376 part 1, 18.17.7. */

import { NOWHERE } from "../evaluation-context.js";
import { asMatrix, CellError, numberOf, type Operand, type Scalar } from "../value.js";
import { MORE_FUNCTIONS } from "./from-package.js";
import { DIVISION, exactSum, type FormulaFunction, NA, NUM, ofNumbers } from "./support/arguments.js";

/** A function of plain values, which asks nothing of where it stands. */
function plainly(body: FormulaFunction, values: readonly Scalar[]): Operand {
  return body(
    values.map((value) => () => value),
    NOWHERE,
    [],
  );
}

/** What a distribution gives for plain values. */
function given(name: string, ...values: Scalar[]): number | CellError {
  const result = plainly(MORE_FUNCTIONS[name], values);
  return typeof result === "number" ? result : result instanceof CellError ? result : NUM;
}

const beyond = (below: number | CellError): number | CellError => (below instanceof CellError ? below : 1 - below);

const chiBeyond = (value: number, freedom: number): number | CellError =>
  value < 0 || freedom < 1 ? NUM : value === 0 ? 1 : beyond(given("CHISQ.DIST", value, Math.trunc(freedom), true));

function tDensity(value: number, freedom: number): number {
  const ln = (x: number): number => Number(given("GAMMALN", x));
  const scale = Math.exp(ln((freedom + 1) / 2) - ln(freedom / 2)) / Math.sqrt(freedom * Math.PI);
  return scale * (1 + value ** 2 / freedom) ** (-(freedom + 1) / 2);
}

/** The share of a t distribution beyond a value. */
function tBeyond(value: number, freedom: number): number | CellError {
  const half = given("BETA.DIST", freedom / (freedom + value ** 2), freedom / 2, 0.5, true);
  if (half instanceof CellError) return half;
  return value >= 0 ? half / 2 : 1 - half / 2;
}

const numbersOf = (operand: Operand): number[] | CellError => {
  const cells = asMatrix(operand).flat();
  const failed = cells.find((value) => value instanceof CellError);
  return failed instanceof CellError ? failed : cells.filter((value): value is number => typeof value === "number");
};

const mean = (values: readonly number[]): number => exactSum(values) / values.length;
const variance = (values: readonly number[]): number => {
  const centre = mean(values);
  return exactSum(values.map((value) => (value - centre) ** 2)) / (values.length - 1);
};

/** Whether two samples have the same mean: 1 in pairs, 2 of one variance, 3 of two. */
const tTest: FormulaFunction = ([aArg, bArg, tailsArg, kindArg]) => {
  const [tails, kind] = [numberOf(tailsArg()), numberOf(kindArg())];
  if (tails instanceof CellError) return tails;
  if (kind instanceof CellError) return kind;
  const way = Math.trunc(kind);
  const sides = Math.trunc(tails);
  if ((sides !== 1 && sides !== 2) || way < 1 || way > 3) return NUM;
  const [first, second] = [asMatrix(aArg()).flat(), asMatrix(bArg()).flat()];
  if (way === 1 && first.length !== second.length) return NA;
  const isPair = (at: number): boolean => typeof first[at] === "number" && typeof second[at] === "number";
  const [a, b] =
    way === 1
      ? [numbersOf([first.filter((_, at) => isPair(at))]), numbersOf([second.filter((_, at) => isPair(at))])]
      : [numbersOf([first]), numbersOf([second])];
  if (a instanceof CellError) return a;
  if (b instanceof CellError) return b;
  if (a.length < 2 || b.length < 2) return DIVISION;
  let value: number;
  let freedom: number;
  if (way === 1) {
    const apart = a.map((one, at) => one - b[at]);
    value = mean(apart) / Math.sqrt(variance(apart) / apart.length);
    freedom = apart.length - 1;
  } else if (way === 2) {
    freedom = a.length + b.length - 2;
    const pooled = ((a.length - 1) * variance(a) + (b.length - 1) * variance(b)) / freedom;
    value = (mean(a) - mean(b)) / Math.sqrt(pooled * (1 / a.length + 1 / b.length));
  } else {
    const [x, y] = [variance(a) / a.length, variance(b) / b.length];
    value = (mean(a) - mean(b)) / Math.sqrt(x + y);
    freedom = (x + y) ** 2 / (x ** 2 / (a.length - 1) + y ** 2 / (b.length - 1));
  }
  if (!Number.isFinite(value)) return DIVISION;
  const share = tBeyond(Math.abs(value), freedom);
  return share instanceof CellError ? share : share * sides;
};

/** Whether two samples have the same variance. */
const fTest: FormulaFunction = ([aArg, bArg]) => {
  const [a, b] = [numbersOf(aArg()), numbersOf(bArg())];
  if (a instanceof CellError) return a;
  if (b instanceof CellError) return b;
  if (a.length < 2 || b.length < 2 || variance(a) === 0 || variance(b) === 0) return DIVISION;
  const below = given("F.DIST", variance(a) / variance(b), a.length - 1, b.length - 1, true);
  return below instanceof CellError ? below : 2 * Math.min(below, 1 - below);
};

/** The chance of a mean beyond that of the sample. */
const zTest: FormulaFunction = ([listArg, valueArg, spreadArg]) => {
  const values = numbersOf(listArg());
  if (values instanceof CellError) return values;
  const value = numberOf(valueArg());
  if (value instanceof CellError) return value;
  const spread = spreadArg ? numberOf(spreadArg()) : Math.sqrt(variance(values));
  if (spread instanceof CellError) return spread;
  if (values.length === 0) return NA;
  if (!(spread > 0)) return DIVISION;
  return beyond(given("NORM.S.DIST", (mean(values) - value) / (spread / Math.sqrt(values.length)), true));
};

/** How likely what was counted is beside what was expected. */
const chiTest: FormulaFunction = ([countedArg, expectedArg]) => {
  const [counted, expected] = [asMatrix(countedArg()), asMatrix(expectedArg())];
  const [rows, columns] = [counted.length, counted[0].length];
  if (rows !== expected.length || columns !== expected[0].length || rows * columns < 2) return NA;
  let sum = 0;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [o, e] = [counted[row][column], expected[row][column]];
      if (o instanceof CellError) return o;
      if (e instanceof CellError) return e;
      if (typeof o !== "number" || typeof e !== "number") continue;
      if (e === 0) return DIVISION;
      sum += (o - e) ** 2 / e;
    }
  return chiBeyond(sum, rows > 1 && columns > 1 ? (rows - 1) * (columns - 1) : rows * columns - 1);
};

export const DISTRIBUTIONS: Readonly<Record<string, FormulaFunction>> = {
  CHIDIST: ofNumbers(chiBeyond),
  "CHISQ.DIST.RT": ofNumbers(chiBeyond),
  CHIINV: MORE_FUNCTIONS["CHISQ.INV.RT"],
  FDIST: MORE_FUNCTIONS["F.DIST.RT"],
  FINV: MORE_FUNCTIONS["F.INV.RT"],
  TINV: MORE_FUNCTIONS["T.INV.2T"],
  CONFIDENCE: MORE_FUNCTIONS["CONFIDENCE.NORM"],
  POISSON: MORE_FUNCTIONS["POISSON.DIST"],
  WEIBULL: MORE_FUNCTIONS["WEIBULL.DIST"],
  "ERF.PRECISE": ([arg], context) => MORE_FUNCTIONS.ERF([arg], context, []),
  "ERFC.PRECISE": MORE_FUNCTIONS.ERFC,
  LOGNORMDIST: ofNumbers((value, middle, spread) => given("LOGNORM.DIST", value, middle, spread, true)),
  NORMSDIST: ofNumbers((value) => given("NORM.S.DIST", value, true)),
  BETADIST: ofNumbers((value, alpha, beta, low = 0, high = 1) =>
    value < low || value > high || low === high
      ? NUM
      : given("BETA.DIST", (value - low) / (high - low), alpha, beta, true),
  ),
  "T.DIST": ([valueArg, freedomArg, sumArg]) => {
    const [value, freedom, sum] = [numberOf(valueArg()), numberOf(freedomArg()), numberOf(sumArg())];
    if (value instanceof CellError) return value;
    if (freedom instanceof CellError) return freedom;
    if (sum instanceof CellError) return sum;
    const whole = Math.trunc(freedom);
    if (whole < 1) return NUM;
    return sum !== 0 ? beyond(tBeyond(value, whole)) : tDensity(value, whole);
  },
  "T.TEST": tTest,
  TTEST: tTest,
  "F.TEST": fTest,
  FTEST: fTest,
  "Z.TEST": zTest,
  ZTEST: zTest,
  "CHISQ.TEST": chiTest,
  CHITEST: chiTest,
};
