/** Statistics over ranges that are worked out here: shares, lines through points, tests. ECMA-376 part 1, 18.17.7. */

import { greatest } from "../../common/index.js";
import {
  areNumberRows,
  areNumbers,
  asMatrix,
  CellError,
  isMatrix,
  type Matrix,
  numberOf,
  type Operand,
  type Scalar,
  truthOf,
} from "../value.js";
import { DIVISION, exactSum, type FormulaFunction, NA, NUM, numbers, VALUE } from "./support/arguments.js";
import { determinant, inverse, solve } from "./support/matrices.js";

const sorted = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b);

/** A function of a list and a number. */
const listAnd =
  (calculate: (values: number[], given: number) => Scalar): FormulaFunction =>
  ([listArg, givenArg]) => {
    const values = numbers([listArg]);
    if (values instanceof CellError) return values;
    const given = numberOf(givenArg());
    return given instanceof CellError ? given : calculate(values, given);
  };

/** Between the ranks of a list of n, which stand at k/(n+1). */
function percentileExc(values: readonly number[], share: number): Scalar {
  const n = values.length;
  if (n === 0 || share <= 0 || share >= 1) return NUM;
  const at = share * (n + 1);
  if (at < 1 || at > n) return NUM;
  const list = sorted(values);
  const low = Math.floor(at);
  return list[low - 1] + (at - low) * ((list[low] ?? list[low - 1]) - list[low - 1]);
}

/** Where a value stands in a list, as a share cut off after so many digits. */
const percentRank =
  (kind: "inc" | "exc"): FormulaFunction =>
  ([listArg, valueArg, digitsArg]) => {
    const values = numbers([listArg]);
    if (values instanceof CellError) return values;
    const [value, digits] = [numberOf(valueArg()), digitsArg ? numberOf(digitsArg()) : 3];
    if (value instanceof CellError) return value;
    if (digits instanceof CellError) return digits;
    if (digits < 1 || values.length === 0) return NUM;
    const list = sorted(values);
    const last = list.length - 1;
    if (value < list[0] || value > list[last]) return NA;
    const below = list.filter((one) => one < value).length;
    const at = list[below] === value ? below : below - 1 + (value - list[below - 1]) / (list[below] - list[below - 1]);
    const share = kind === "inc" ? (last === 0 ? 1 : at / last) : (at + 1) / (list.length + 1);
    const scale = 10 ** Math.trunc(digits);
    return Math.floor(Number((share * scale).toPrecision(12))) / scale;
  };

/** Pairs of two ranges of one size in which both are numbers. */
function pairsOf(a: Operand, b: Operand): [number[], number[]] | CellError {
  const [left, right] = [asMatrix(a).flat(), asMatrix(b).flat()];
  if (left.length !== right.length) return NA;
  const [x, y]: [number[], number[]] = [[], []];
  for (let at = 0; at < left.length; at++) {
    const [one, other] = [left[at], right[at]];
    if (one instanceof CellError) return one;
    if (other instanceof CellError) return other;
    if (typeof one !== "number" || typeof other !== "number") continue;
    x.push(one);
    y.push(other);
  }
  return [x, y];
}

const ofPairs =
  (calculate: (x: readonly number[], y: readonly number[]) => Scalar): FormulaFunction =>
  ([a, b]) => {
    const pairs = pairsOf(a(), b());
    return pairs instanceof CellError ? pairs : pairs[0].length === 0 ? DIVISION : calculate(pairs[0], pairs[1]);
  };

const mean = (values: readonly number[]): number => exactSum(values) / values.length;

function crossSum(x: readonly number[], y: readonly number[]): number {
  const [a, b] = [mean(x), mean(y)];
  return exactSum(x.map((value, at) => (value - a) * (y[at] - b)));
}

const forecast: FormulaFunction = ([atArg, yArg, xArg]) => {
  const at = numberOf(atArg());
  if (at instanceof CellError) return at;
  const pairs = pairsOf(yArg(), xArg());
  if (pairs instanceof CellError) return pairs;
  const [y, x] = pairs;
  const spread = x.length === 0 ? 0 : crossSum(x, x);
  return spread === 0 ? DIVISION : mean(y) + (crossSum(x, y) / spread) * (at - mean(x));
};

interface Fit {
  /** The constant, then one factor for each variable, the first first. */
  readonly factors: readonly number[];
  readonly errors: readonly number[];
  readonly fitted: number;
  readonly residual: number;
  readonly freedom: number;
}

/** Least squares, by the normal equations of centred columns. */
function fitLine(
  y: readonly number[],
  columns: readonly (readonly number[])[],
  withConstant: boolean,
): Fit | CellError {
  const means = columns.map((column) => (withConstant ? mean(column) : 0));
  const centre = withConstant ? mean(y) : 0;
  const centred = columns.map((column, at) => column.map((value) => value - means[at]));
  const target = y.map((value) => value - centre);
  const dot = (a: readonly number[], b: readonly number[]): number => exactSum(a.map((value, at) => value * b[at]));
  const normal = centred.map((a) => centred.map((b) => dot(a, b)));
  const slopes = solve(
    normal,
    centred.map((column) => dot(column, target)),
  );
  const inner = inverse(normal);
  if (!slopes || !inner) return NUM;
  const constant = withConstant ? centre - exactSum(slopes.map((slope, at) => slope * means[at])) : 0;
  const estimates = y.map((_, row) => exactSum(centred.map((column, at) => column[row] * slopes[at])));
  const residual = exactSum(target.map((value, at) => (value - estimates[at]) ** 2));
  const fitted = exactSum(estimates.map((value) => value ** 2));
  const freedom = y.length - columns.length - (withConstant ? 1 : 0);
  const variance = freedom > 0 ? residual / freedom : 0;
  const errors = slopes.map((_, at) => Math.sqrt(Math.max(0, variance * inner[at][at])));
  const ofConstant =
    variance * (1 / y.length + exactSum(means.flatMap((a, i) => means.map((b, j) => a * b * inner[i][j]))));
  return {
    factors: [constant, ...slopes],
    errors: [Math.sqrt(Math.max(0, ofConstant)), ...errors],
    fitted,
    residual,
    freedom,
  };
}

/** What LINEST and its relatives are given: y, and x by columns; without x, 1, 2, 3, … */
function pointsOf(yArg: () => Operand, xArg: (() => Operand) | undefined) {
  const ys = asMatrix(yArg());
  const y: readonly Scalar[] = ys.flat();
  const given = xArg?.() ?? null;
  const xs = given === null ? undefined : asMatrix(given);
  const isColumn = ys[0].length === 1;
  const columns: Matrix =
    xs === undefined
      ? [y.map((_, at) => at + 1)]
      : xs.flat().length === y.length
        ? [xs.flat()]
        : isColumn && xs.length === y.length
          ? xs[0].map((_, column) => xs.map((row) => row[column]))
          : xs.map((row) => [...row]);
  const all = [...y, ...columns.flat()];
  const failed = all.find((value) => value instanceof CellError);
  if (failed instanceof CellError) return failed;
  if (!areNumbers(y) || !areNumberRows(columns)) return VALUE;
  if (columns.some((column) => column.length !== y.length)) return CellError.of("#REF!");
  return { y, columns, isColumn, isRow: ys.length === 1 };
}

const setOrNot = (arg: (() => Operand) | undefined, otherwise: boolean): boolean => {
  const operand = arg?.();
  return operand === undefined || operand === null ? otherwise : truthOf(operand) === true;
};

/** LINEST, and LOGEST of logarithms: factors from the last variable to the first, then the constant; with figures five rows. */
const lineFit =
  (isLog: boolean): FormulaFunction =>
  ([yArg, xArg, constantArg, figuresArg]) => {
    const points = pointsOf(yArg, xArg);
    if (points instanceof CellError) return points;
    if (isLog && points.y.some((value) => value <= 0)) return NUM;
    const fit = fitLine(isLog ? points.y.map(Math.log) : points.y, points.columns, setOrNot(constantArg, true));
    if (fit instanceof CellError) return fit;
    const shownFactors = [...fit.factors.slice(1).reverse(), fit.factors[0]];
    const first: Scalar[] = isLog ? shownFactors.map(Math.exp) : shownFactors;
    if (!setOrNot(figuresArg, false)) return [first];
    const pad = (row: Scalar[]): Scalar[] => first.map((_, at) => (at < row.length ? row[at] : NA));
    const hasConstant = setOrNot(constantArg, true);
    const variables = points.columns.length;
    return [
      first,
      [...fit.errors.slice(1).reverse(), hasConstant ? fit.errors[0] : NA],
      pad([fit.fitted / (fit.fitted + fit.residual), fit.freedom > 0 ? Math.sqrt(fit.residual / fit.freedom) : 0]),
      pad([fit.residual === 0 ? NUM : fit.fitted / variables / (fit.residual / fit.freedom), fit.freedom]),
      pad([fit.fitted, fit.residual]),
    ];
  };

/** TREND, and GROWTH of logarithms: the line's values at other places. */
const alongLine =
  (isLog: boolean): FormulaFunction =>
  ([yArg, xArg, newArg, constantArg]) => {
    const points = pointsOf(yArg, xArg);
    if (points instanceof CellError) return points;
    if (isLog && points.y.some((value) => value <= 0)) return NUM;
    const fit = fitLine(isLog ? points.y.map(Math.log) : points.y, points.columns, setOrNot(constantArg, true));
    if (fit instanceof CellError) return fit;
    const at = (variables: readonly number[]): number => {
      const value = fit.factors[0] + exactSum(variables.map((one, index) => one * fit.factors[index + 1]));
      return isLog ? Math.exp(value) : value;
    };
    const given = newArg?.() ?? null;
    const places =
      given === null
        ? points.isColumn || !points.isRow
          ? points.y.map((_, row) => points.columns.map((column) => [column[row]]))
          : undefined
        : undefined;
    if (places) return places.map((row) => [at(row.flat())]);
    if (given === null) return [points.y.map((_, row) => at(points.columns.map((column) => column[row])))];
    const cells = asMatrix(given);
    if (!areNumberRows(cells)) return VALUE;
    if (points.columns.length === 1) return cells.map((row) => row.map((value) => at([value])));
    return points.isColumn
      ? cells.map((row) => [at(row)])
      : [cells[0].map((_, column) => at(cells.map((row) => row[column])))];
  };

const meanOfAll = (values: readonly number[]): number => exactSum(values) / values.length;

function covariance(x: readonly number[], y: readonly number[], less: 0 | 1): Scalar {
  return x.length <= less ? DIVISION : crossSum(x, y) / (x.length - less);
}

const skewP: FormulaFunction = (args) => {
  const values = numbers(args);
  if (values instanceof CellError) return values;
  const centre = meanOfAll(values);
  const spread = Math.sqrt(exactSum(values.map((value) => (value - centre) ** 2)) / values.length);
  if (values.length < 3 || spread === 0) return DIVISION;
  return exactSum(values.map((value) => ((value - centre) / spread) ** 3)) / values.length;
};

/** Values that come most often, in the order in which they come up. */
const modes: FormulaFunction = (args) => {
  const values = numbers(args);
  if (values instanceof CellError) return values;
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  const most = greatest(counts.values(), 0);
  return most < 2 ? NA : [...counts].filter(([, count]) => count === most).map(([value]) => [value]);
};

const probability: FormulaFunction = ([valuesArg, sharesArg, lowArg, highArg]) => {
  const pairs = pairsOf(valuesArg(), sharesArg());
  if (pairs instanceof CellError) return pairs;
  const low = numberOf(lowArg());
  if (low instanceof CellError) return low;
  const high = highArg ? numberOf(highArg()) : low;
  if (high instanceof CellError) return high;
  const [values, shares] = pairs;
  if (shares.some((share) => share < 0 || share > 1) || Math.abs(exactSum(shares) - 1) > 1e-9) return NUM;
  return exactSum(shares.filter((_, at) => values[at] >= low && values[at] <= high));
};

export const STATISTICS: Readonly<Record<string, FormulaFunction>> = {
  "PERCENTILE.EXC": listAnd(percentileExc),
  "QUARTILE.EXC": listAnd((values, quarter) => percentileExc(values, Math.trunc(quarter) / 4)),
  PERCENTRANK: percentRank("inc"),
  "PERCENTRANK.INC": percentRank("inc"),
  "PERCENTRANK.EXC": percentRank("exc"),
  FORECAST: forecast,
  "FORECAST.LINEAR": forecast,
  LINEST: lineFit(false),
  LOGEST: lineFit(true),
  TREND: alongLine(false),
  GROWTH: alongLine(true),
  COVAR: ofPairs((x, y) => covariance(x, y, 0)),
  "COVARIANCE.P": ofPairs((x, y) => covariance(x, y, 0)),
  "COVARIANCE.S": ofPairs((x, y) => covariance(x, y, 1)),
  STEYX: ofPairs((y, x) => {
    if (x.length < 3) return DIVISION;
    const spread = crossSum(x, x);
    return spread === 0 ? DIVISION : Math.sqrt((crossSum(y, y) - crossSum(x, y) ** 2 / spread) / (x.length - 2));
  }),
  "SKEW.P": skewP,
  "MODE.MULT": modes,
  PROB: probability,
  MDETERM: ([arg]) => {
    const matrix = numbersIn(arg());
    return matrix instanceof CellError ? matrix : determinant(matrix);
  },
  MINVERSE: ([arg]) => {
    const matrix = numbersIn(arg());
    return matrix instanceof CellError ? matrix : (inverse(matrix) ?? NUM);
  },
  MUNIT: ([arg]) => {
    const size = numberOf(arg());
    if (size instanceof CellError) return size;
    const n = Math.trunc(size);
    if (n < 1 || n > 1000) return VALUE;
    return Array.from({ length: n }, (_, row) => Array.from({ length: n }, (__, column) => (row === column ? 1 : 0)));
  },
};

/** A square of numbers. */
function numbersIn(operand: Operand): number[][] | CellError {
  const matrix = isMatrix(operand) ? operand : [[operand]];
  const failed = matrix.flat().find((value) => value instanceof CellError);
  if (failed instanceof CellError) return failed;
  if (matrix.length !== matrix[0].length || !areNumberRows(matrix)) return VALUE;
  return matrix.map((row) => [...row]);
}
