/** Numbers, logic and statistics: ECMA-376 part 1, 18.17.7. */

import { greatest, least } from "../../common/index.js";
import { MAX_COLUMNS, MAX_ROWS } from "../../spreadsheet/index.js";
import type { SubtotalFilter } from "../evaluation-context.js";
import { power } from "../operators.js";
import {
  asMatrix,
  CellError,
  cellsOf,
  compareScalars,
  isMatrix,
  type Matrix,
  numberOf,
  type Operand,
  type Scalar,
  scalarOf,
  spread,
  truthOf,
} from "../value.js";
import { STATISTICS } from "./statistics.js";
import {
  DIVISION,
  exactSum,
  type FormulaFunction,
  NA,
  NUM,
  numbers,
  ofNumbers,
  overNumbers,
  VALUE,
} from "./support/arguments.js";
import { chance } from "./support/chance.js";
import { criterion } from "./support/criteria.js";
import { roundDecimal } from "./support/round.js";

const rounding = (mode: "near" | "up" | "down"): FormulaFunction =>
  ofNumbers((value, places = 0) => roundDecimal(value, Math.trunc(places), mode));

type Areas = Parameters<FormulaFunction>[2];

/** A range of a conditional function: its cells, and how many there are, those beyond the last one used too. */
interface TestedRange {
  readonly cells: Matrix;
  readonly rows: number;
  readonly columns: number;
}

function testedRange(arg: () => Operand, area: Areas[number] | undefined): TestedRange | CellError {
  const operand = arg();
  if (operand instanceof CellError) return operand;
  const cells = asMatrix(operand);
  const place = area === undefined ? undefined : area();
  if (!place || place instanceof CellError) return { cells, rows: cells.length, columns: cells[0]?.length ?? 0 };
  return { cells, rows: place.bottom - place.top + 1, columns: place.right - place.left + 1 };
}

interface Matches {
  readonly found: readonly (readonly [row: number, column: number])[];
  /** Cells that pass beyond those that are used: they are blank. */
  readonly beyond: number;
  readonly rows: number;
  readonly columns: number;
}

/** Cells that pass all pairs of range and condition. Ranges of different sizes do not go together. */
function matching(pairs: readonly (() => Operand)[], areas: Areas): Matches | CellError {
  const tests: (TestedRange & { readonly passes: (value: Scalar) => boolean })[] = [];
  for (let index = 0; index + 1 < pairs.length; index += 2) {
    const range = testedRange(pairs[index], areas[index]);
    if (range instanceof CellError) return range;
    tests.push({ ...range, passes: criterion(scalarOf(pairs[index + 1]())) });
  }
  const [first] = tests;
  if (!first || tests.some((test) => test.rows !== first.rows || test.columns !== first.columns)) return VALUE;
  const height = Math.max(...tests.map((test) => test.cells.length));
  const width = Math.max(...tests.map((test) => test.cells[0]?.length ?? 0));
  const found: [number, number][] = [];
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++)
      if (tests.every((test) => test.passes(test.cells[row]?.[column] ?? null))) found.push([row, column]);
  const allBlank = tests.every((test) => test.passes(null));
  return {
    found,
    beyond: allBlank ? first.rows * first.columns - height * width : 0,
    rows: first.rows,
    columns: first.columns,
  };
}

/** Numbers of a range at the places that pass. */
function conditional(values: Matrix, matches: Matches | CellError, calculate: (numbers: number[]) => Scalar): Scalar {
  if (matches instanceof CellError) return matches;
  const numbers: number[] = [];
  for (const [row, column] of matches.found) {
    const value = values[row]?.[column];
    if (value instanceof CellError) return value;
    if (typeof value === "number") numbers.push(value);
  }
  return calculate(numbers);
}

/** SUMIF and AVERAGEIF: the cells to be added begin where their range does, and reach as far as the one tested. */
const ifOne =
  (calculate: (numbers: number[]) => Scalar): FormulaFunction =>
  (args, context, [area, , valuesArea]) => {
    const [range, condition] = args;
    const values = args.at(2);
    const matches = matching([range, condition], [area, () => undefined]);
    if (matches instanceof CellError) return matches;
    const place = values ? valuesArea?.() : undefined;
    if (place instanceof CellError) return place;
    const cells = place
      ? context.cells({
          ...place,
          bottom: Math.min(MAX_ROWS, place.top + matches.rows) - 1,
          right: Math.min(MAX_COLUMNS, place.left + matches.columns) - 1,
        })
      : (values ?? range)();
    return conditional(asMatrix(cells), matches, calculate);
  };

/** SUMIFS and its relatives: all ranges have to be of one size. */
const ifAll =
  (calculate: (numbers: number[]) => Scalar): FormulaFunction =>
  ([values, ...pairs], _, [valuesArea, ...areas]) => {
    const range = testedRange(values, valuesArea);
    if (range instanceof CellError) return range;
    const matches = matching(pairs, areas);
    if (matches instanceof CellError) return matches;
    if (range.rows !== matches.rows || range.columns !== matches.columns) return VALUE;
    return conditional(range.cells, matches, calculate);
  };

const countMatches = (matches: Matches | CellError): Scalar =>
  matches instanceof CellError ? matches : matches.found.length + matches.beyond;

const average = (values: readonly number[]): Scalar =>
  values.length === 0 ? DIVISION : exactSum(values) / values.length;

const and =
  (start: boolean, stop: boolean): FormulaFunction =>
  (args) => {
    let result = start;
    for (const { value } of cellsOf(args.map((arg) => arg()))) {
      if (value instanceof CellError) return value;
      if (value === null || typeof value === "string") continue;
      if (Boolean(value) === stop) result = stop;
    }
    return result;
  };

const tests =
  (test: (value: Scalar) => boolean): FormulaFunction =>
  ([arg]) =>
    test(scalarOf(arg()));

function percentile(values: readonly number[], share: number): Scalar {
  if (values.length === 0 || share < 0 || share > 1) return NUM;
  const sorted = [...values].sort((a, b) => a - b);
  const at = share * (sorted.length - 1);
  const low = Math.floor(at);
  return sorted[low] + (at - low) * ((sorted[low + 1] ?? sorted[low]) - sorted[low]);
}

function variance(values: readonly number[], less: 0 | 1): Scalar {
  if (values.length <= less) return DIVISION;
  const mean = exactSum(values) / values.length;
  return exactSum(values.map((value) => (value - mean) ** 2)) / (values.length - less);
}

const SUBTOTAL_KINDS = [
  "AVERAGE",
  "COUNT",
  "COUNTA",
  "MAX",
  "MIN",
  "PRODUCT",
  "STDEV",
  "STDEV.P",
  "SUM",
  "VAR",
  "VAR.P",
];

/** Kinds of AGGREGATE by number. */
const AGGREGATE_KINDS = [
  ...SUBTOTAL_KINDS,
  ...["MEDIAN", "MODE", "LARGE", "SMALL", "PERCENTILE.INC", "QUARTILE.INC", "PERCENTILE.EXC", "QUARTILE.EXC"],
];

/** Ranges without the cells that subtotals pass over. */
function passingOver(
  args: readonly (() => Operand)[],
  context: Parameters<FormulaFunction>[1],
  areas: Parameters<FormulaFunction>[2],
  passOver: SubtotalFilter,
): (() => Operand)[] {
  return args.map((arg, at) => () => {
    const place = areas[at]?.();
    return place && !(place instanceof CellError) ? context.cells(place, passOver) : arg();
  });
}

function withoutErrors(operand: Operand): Operand {
  const clean = (value: Scalar): Scalar => (value instanceof CellError ? null : value);
  return isMatrix(operand) ? operand.map((row) => row.map(clean)) : clean(operand);
}

/** The other value where the first fails, cell by cell. */
function instead(operand: Operand, other: () => Operand, fails: (value: Scalar) => boolean): Operand {
  if (!isMatrix(operand)) return fails(operand) ? other() : operand;
  if (!operand.some((row) => row.some(fails))) return operand;
  return spread([operand, other()], ([value, second]) => (fails(value) ? second : value));
}

const root = (value: Scalar): Scalar => (typeof value === "number" ? Math.sqrt(value) : value);

/** The k-th of the sorted numbers. */
const nth =
  (sign: 1 | -1): FormulaFunction =>
  ([listArg, kArg]) => {
    const values = numbers([listArg]);
    const k = numberOf(kArg());
    if (values instanceof CellError) return values;
    if (k instanceof CellError) return k;
    return values.sort((a, b) => sign * (a - b))[Math.ceil(k) - 1] ?? NUM;
  };

const even =
  (remainder: 0 | 1): FormulaFunction =>
  ([arg]) => {
    const value = numberOf(arg());
    return value instanceof CellError ? value : Math.abs(Math.trunc(value)) % 2 === remainder;
  };

/** A multiple of the step; a number above nought has none of a step below it. */
function byStep(value: number, step: number, whole: (count: number) => number, ofNought: number | CellError) {
  if (value === 0) return 0;
  if (step === 0) return ofNought;
  if (value > 0 && step < 0) return NUM;
  return Number((whole(roundDecimal(value / step, 9, "near")) * step).toPrecision(15));
}

function towards(value: number, step: number, way: "up" | "down" | "out" | "in"): number {
  const size = Math.abs(step);
  if (size === 0) return 0;
  const count = roundDecimal(value / size, 9, "near");
  const whole = way === "up" || way === "in" ? Math.ceil(count) : Math.floor(count);
  return whole * size;
}

/** The most frequent number, the first of several. */
function mode(values: readonly number[]): Scalar {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  const most = greatest(counts.values(), 0);
  return most < 2 ? NA : ([...counts].find(([, count]) => count === most)?.[0] ?? NA);
}

const atShare =
  (share: (given: number) => number): FormulaFunction =>
  ([listArg, shareArg]) => {
    const values = numbers([listArg]);
    const given = numberOf(shareArg());
    if (values instanceof CellError) return values;
    return given instanceof CellError ? given : percentile(values, share(given));
  };

const rank =
  (ties: "first" | "average"): FormulaFunction =>
  ([valueArg, listArg, orderArg]) => {
    const value = numberOf(valueArg());
    const order = orderArg ? numberOf(orderArg()) : 0;
    const values = numbers([listArg]);
    if (value instanceof CellError) return value;
    if (order instanceof CellError) return order;
    if (values instanceof CellError) return values;
    const same = values.filter((other) => other === value).length;
    const before = values.filter((other) => (order === 0 ? other > value : other < value)).length;
    return same === 0 ? NA : before + 1 + (ties === "average" ? (same - 1) / 2 : 0);
  };

/** As aggregates with an A count: texts are nought, truths one. */
const overAll =
  (calculate: (values: number[]) => Scalar): FormulaFunction =>
  (args) => {
    const values: number[] = [];
    for (const { value } of cellsOf(args.map((arg) => arg()))) {
      if (value instanceof CellError) return value;
      if (value !== null) values.push(typeof value === "number" ? value : value === true ? 1 : 0);
    }
    return calculate(values);
  };

/** By their names in the file format, without the prefix of later functions. */
export const MATH_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  SUM: overNumbers(exactSum),
  AVERAGE: overNumbers(average),
  MIN: overNumbers((values) => values.reduce((low, value) => Math.min(low, value), values[0] ?? 0)),
  MAX: overNumbers((values) => values.reduce((high, value) => Math.max(high, value), values[0] ?? 0)),
  PRODUCT: overNumbers((values) => values.reduce((product, value) => product * value, values.length === 0 ? 0 : 1)),
  MEDIAN: overNumbers((values) => percentile(values, 0.5)),
  STDEV: overNumbers((values) => root(variance(values, 1))),
  "STDEV.S": overNumbers((values) => root(variance(values, 1))),
  "STDEV.P": overNumbers((values) => root(variance(values, 0))),
  VAR: overNumbers((values) => variance(values, 1)),
  "VAR.S": overNumbers((values) => variance(values, 1)),
  "VAR.P": overNumbers((values) => variance(values, 0)),
  LARGE: nth(-1),
  SMALL: nth(1),
  COUNT: (args) => [...cellsOf(args.map((arg) => arg()))].filter(({ value }) => typeof value === "number").length,
  COUNTA: (args) => [...cellsOf(args.map((arg) => arg()))].filter(({ value }) => value !== null).length,
  COUNTBLANK: ([arg], _, [area]) => {
    const range = testedRange(arg, area);
    if (range instanceof CellError) return 0;
    const filled = range.cells.flat().filter((value) => value !== null && value !== "").length;
    return range.rows * range.columns - filled;
  },
  SUBTOTAL: ([kindArg, ...rest], context, [, ...areas]) => {
    const kind = numberOf(kindArg());
    const name = kind instanceof CellError ? undefined : SUBTOTAL_KINDS[(kind % 100) - 1];
    if (!name || kind instanceof CellError) return VALUE;
    return MATH_FUNCTIONS[name](
      passingOver(rest, context, areas, { hiddenRows: kind > 100, subtotals: true }),
      context,
      areas,
    );
  },
  AGGREGATE: ([kindArg, optionArg, ...rest], context, [, , ...areas]) => {
    const [kind, option] = [numberOf(kindArg()), numberOf(optionArg())];
    if (kind instanceof CellError) return kind;
    if (option instanceof CellError) return option;
    const name = AGGREGATE_KINDS[Math.trunc(kind) - 1];
    const body: FormulaFunction | undefined =
      name === undefined ? undefined : (MATH_FUNCTIONS[name] ?? STATISTICS[name]);
    if (!body || option < 0 || option > 7) return VALUE;
    const skips = { hiddenRows: option % 2 === 1, subtotals: option < 4 };
    const inner = skips.hiddenRows || skips.subtotals ? passingOver(rest, context, areas, skips) : rest;
    const skipsErrors = option === 2 || option === 3 || option === 6 || option === 7;
    const args = skipsErrors
      ? inner.map((arg, at) => (at === 0 || kind < 14 ? () => withoutErrors(arg()) : arg))
      : inner;
    return body(args, context, areas);
  },
  SUMIF: ifOne(exactSum),
  AVERAGEIF: ifOne(average),
  COUNTIF: (pair, _, areas) => countMatches(matching(pair, areas)),
  SUMIFS: ifAll(exactSum),
  AVERAGEIFS: ifAll(average),
  COUNTIFS: (pairs, _, areas) => countMatches(matching(pairs, areas)),
  MINIFS: ifAll((found) => least(found, 0)),
  MAXIFS: ifAll((found) => greatest(found, 0)),
  SUMPRODUCT: (args) => {
    const lists = args.map((arg) => asMatrix(arg()).flat());
    if (lists.some((list) => list.length !== lists[0].length)) return VALUE;
    const failed = lists.flat().find((value) => value instanceof CellError);
    if (failed !== undefined) return failed;
    return exactSum(
      lists[0].map((_, at) =>
        lists.reduce((product, list) => product * (typeof list[at] === "number" ? list[at] : 0), 1),
      ),
    );
  },
  IF: ([test, yes, no]) => {
    const choose = (value: Scalar): Operand => {
      const truth = truthOf(value);
      if (truth instanceof CellError) return truth;
      return truth ? (yes ? (yes() ?? 0) : true) : no ? (no() ?? 0) : false;
    };
    const condition = test();
    if (!isMatrix(condition)) return choose(condition);
    const [whenTrue, whenFalse] = [yes ? yes() : true, no ? no() : false];
    return spread([condition, whenTrue, whenFalse], ([value, a, b]) => {
      const truth = truthOf(value);
      return truth instanceof CellError ? truth : truth ? a : b;
    });
  },
  IFS: (args) => {
    for (let index = 0; index + 1 < args.length; index += 2) {
      const truth = truthOf(args[index]());
      if (truth instanceof CellError) return truth;
      if (truth) return args[index + 1]();
    }
    return NA;
  },
  SWITCH: ([subject, ...rest]) => {
    const value = scalarOf(subject());
    for (let index = 0; index + 1 < rest.length; index += 2)
      if (compareScalars(value, scalarOf(rest[index]())) === 0) return rest[index + 1]();
    return rest.length % 2 === 1 ? rest[rest.length - 1]() : NA;
  },
  IFERROR: ([value, other]) => instead(value(), other, (result) => result instanceof CellError),
  IFNA: ([value, other]) => instead(value(), other, (result) => result === NA),
  AND: and(true, false),
  OR: and(false, true),
  NOT: ([arg]) => {
    const truth = truthOf(arg());
    return truth instanceof CellError ? truth : !truth;
  },
  TRUE: () => true,
  FALSE: () => false,
  NA: () => NA,
  ROUND: rounding("near"),
  ROUNDUP: rounding("up"),
  ROUNDDOWN: rounding("down"),
  TRUNC: rounding("down"),
  INT: ofNumbers(Math.floor),
  ABS: ofNumbers(Math.abs),
  SIGN: ofNumbers(Math.sign),
  SQRT: ofNumbers((value) => (value < 0 ? NUM : Math.sqrt(value))),
  POWER: ofNumbers(power),
  EXP: ofNumbers(Math.exp),
  LN: ofNumbers((value) => (value <= 0 ? NUM : Math.log(value))),
  LOG10: ofNumbers((value) => (value <= 0 ? NUM : Math.log10(value))),
  PI: () => Math.PI,
  MOD: ofNumbers((value, by) => (by === 0 ? DIVISION : value - by * Math.floor(value / by))),
  CEILING: ofNumbers((value, step = 1) => byStep(value, step, Math.ceil, 0)),
  FLOOR: ofNumbers((value, step = 1) => byStep(value, step, Math.floor, DIVISION)),
  MROUND: ofNumbers((value, step) =>
    value * step < 0 ? NUM : step === 0 ? 0 : roundDecimal(value / step, 0, "near") * step,
  ),
  CHOOSE: ([indexArg, ...rest]) => {
    const index = numberOf(indexArg());
    return index instanceof CellError ? index : (rest[Math.trunc(index) - 1]?.() ?? VALUE);
  },
  XOR: (args) => {
    let truths = 0;
    for (const { value } of cellsOf(args.map((arg) => arg()))) {
      if (value instanceof CellError) return value;
      if (value !== null && typeof value !== "string" && value) truths++;
    }
    return truths % 2 === 1;
  },
  "CEILING.MATH": ofNumbers((value, step = 1, mode = 0) =>
    towards(value, step, mode !== 0 && value < 0 ? "out" : "up"),
  ),
  "FLOOR.MATH": ofNumbers((value, step = 1, mode = 0) => towards(value, step, mode !== 0 && value < 0 ? "in" : "down")),
  MODE: overNumbers(mode),
  "MODE.SNGL": overNumbers(mode),
  PERCENTILE: atShare((share) => share),
  "PERCENTILE.INC": atShare((share) => share),
  QUARTILE: atShare((quarter) => Math.trunc(quarter) / 4),
  "QUARTILE.INC": atShare((quarter) => Math.trunc(quarter) / 4),
  RANK: rank("first"),
  "RANK.EQ": rank("first"),
  "RANK.AVG": rank("average"),
  STDEVA: overAll((values) => root(variance(values, 1))),
  STDEVPA: overAll((values) => root(variance(values, 0))),
  VARA: overAll((values) => variance(values, 1)),
  VARPA: overAll((values) => variance(values, 0)),
  "CEILING.PRECISE": ofNumbers((value, step = 1) => towards(value, step, "up")),
  "ISO.CEILING": ofNumbers((value, step = 1) => towards(value, step, "up")),
  "ECMA.CEILING": ofNumbers((value, step = 1) => byStep(value, step, Math.ceil, 0)),
  "FLOOR.PRECISE": ofNumbers((value, step = 1) => towards(value, step, "down")),
  AVERAGEA: overAll(average),
  MINA: overAll((values) => values.reduce((low, value) => Math.min(low, value), values[0] ?? 0)),
  MAXA: overAll((values) => values.reduce((high, value) => Math.max(high, value), values[0] ?? 0)),
  RAND: (_, context) => chance(context),
  RANDBETWEEN: ([lowArg, highArg], context) => {
    const [low, high] = [numberOf(lowArg()), numberOf(highArg())];
    if (low instanceof CellError) return low;
    if (high instanceof CellError) return high;
    return low > high ? NUM : Math.floor(chance(context) * (Math.floor(high) - Math.ceil(low) + 1)) + Math.ceil(low);
  },
  ISERR: tests((value) => value instanceof CellError && value !== NA),
  ISLOGICAL: tests((value) => typeof value === "boolean"),
  ISNONTEXT: tests((value) => typeof value !== "string"),
  ISEVEN: even(0),
  ISODD: even(1),
  "ERROR.TYPE": ([arg]) => {
    const value = scalarOf(arg());
    const order = ["#NULL!", "#DIV/0!", "#VALUE!", "#REF!", "#NAME?", "#NUM!", "#N/A"];
    return value instanceof CellError ? order.indexOf(value.name) + 1 || NA : NA;
  },
  TYPE: ([arg]) => {
    const operand = arg();
    if (isMatrix(operand)) return 64;
    if (operand instanceof CellError) return 16;
    return typeof operand === "boolean" ? 4 : typeof operand === "string" ? 2 : 1;
  },
  ISBLANK: tests((value) => value === null),
  ISNUMBER: tests((value) => typeof value === "number"),
  ISTEXT: tests((value) => typeof value === "string"),
  ISERROR: tests((value) => value instanceof CellError),
  ISNA: tests((value) => value === NA),
  N: ([arg]) => {
    const value = scalarOf(arg());
    return value instanceof CellError || typeof value === "number" ? value : value === true ? 1 : 0;
  },
};
