import {
  addMonths,
  dateFromSerial,
  formatValue,
  maybeSerialFromIso,
  partsFromSerial,
  serialFromParts,
} from "../common/index.js";
import type { FormulaReference, Site } from "./compile.js";
import { criterion } from "./criteria.js";
import { asMatrix, LOOKUP_FUNCTIONS } from "./lookup-functions.js";
import {
  CellError,
  cellsOf,
  compareScalars,
  numberOf,
  type Operand,
  type Scalar,
  scalarOf,
  textOf,
  truthOf,
} from "./value.js";

/** Arguments come as functions, so that IF and IFERROR look only at what they need. */
export type FormulaFunction = (
  args: readonly (() => Operand)[],
  site: Site,
  references: readonly (FormulaReference | undefined)[],
) => Operand;

const VALUE = CellError.of("#VALUE!");
const NA = CellError.of("#N/A");
const NUM = CellError.of("#NUM!");

/** The numbers an aggregate counts: in ranges only numbers, given directly also what reads as one. */
function numbers(args: readonly (() => Operand)[]): number[] | CellError {
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
function exactSum(values: readonly number[]): number {
  let sum = 0;
  let lost = 0;
  for (const value of values) {
    const next = sum + value;
    lost += Math.abs(sum) >= Math.abs(value) ? sum - next + value : value - next + sum;
    sum = next;
  }
  return sum + lost;
}

function overNumbers(calculate: (values: number[]) => Scalar): FormulaFunction {
  return (args) => {
    const values = numbers(args);
    return values instanceof CellError ? values : calculate(values);
  };
}

/** A function of numbers, each argument one. */
function ofNumbers(calculate: (...values: number[]) => number | CellError): FormulaFunction {
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
function ofTexts(calculate: (...values: string[]) => Scalar): FormulaFunction {
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

/** Rounds in decimals: 1.005 to two places is 1.01, as people reckon. */
function roundDecimal(value: number, places: number, mode: "near" | "up" | "down"): number {
  const [mantissa, exponent = "0"] = Math.abs(value).toPrecision(15).split("e");
  const scaled = Number(`${mantissa}e${Number(exponent) + places}`);
  const rounded = mode === "near" ? Math.round(scaled) : mode === "up" ? Math.ceil(scaled) : Math.floor(scaled);
  const [digits, power = "0"] = String(rounded).split("e");
  return Math.sign(value) * Number(`${digits}e${Number(power) - places}`);
}

const rounding = (mode: "near" | "up" | "down"): FormulaFunction =>
  ofNumbers((value, places = 0) => roundDecimal(value, Math.trunc(places), mode));

const dateOf = (operand: Operand): number | CellError => {
  const value = scalarOf(operand);
  const serial = typeof value === "string" ? maybeSerialFromIso(value) : undefined;
  return serial ?? numberOf(value);
};

function datePart(part: (serial: number) => number): FormulaFunction {
  return ([arg]) => {
    const serial = dateOf(arg());
    return serial instanceof CellError ? serial : serial < 0 ? NUM : part(serial);
  };
}

/** Years before 1900 count from there. */
function makeDate(year: number, month: number, day: number): number {
  return serialFromParts(year < 1900 ? year + 1900 : year, month, Math.trunc(day));
}

/** Rows (or columns) that pass all pairs of range and condition, as flat positions in the ranges. */
function matching(pairs: readonly (() => Operand)[]): number[] | CellError {
  const tests: { cells: Scalar[]; passes: (value: Scalar) => boolean }[] = [];
  for (let index = 0; index + 1 < pairs.length; index += 2) {
    tests.push({ cells: asMatrix(pairs[index]()).flat(), passes: criterion(scalarOf(pairs[index + 1]())) });
  }
  if (tests.some((test) => test.cells.length !== tests[0].cells.length)) return VALUE;
  const found: number[] = [];
  tests[0]?.cells.forEach((_, at) => {
    if (tests.every((test) => test.passes(test.cells[at] ?? null))) found.push(at);
  });
  return found;
}

function conditional(
  values: Operand,
  positions: number[] | CellError,
  calculate: (numbers: number[]) => Scalar,
): Scalar {
  if (positions instanceof CellError) return positions;
  const cells = asMatrix(values).flat();
  return calculate(positions.map((at) => cells[at]).filter((value): value is number => typeof value === "number"));
}

const average = (values: readonly number[]): Scalar =>
  values.length === 0 ? CellError.of("#DIV/0!") : exactSum(values) / values.length;

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

const located =
  (measure: (place: { top: number; left: number; bottom: number; right: number }) => number): FormulaFunction =>
  (args, site, references) => {
    if (references[0]) return measure(site.locate(references[0]));
    if (args.length === 0) return measure({ top: site.row, bottom: site.row, left: site.column, right: site.column });
    const matrix = asMatrix(args[0]());
    return measure({ top: 0, left: 0, bottom: matrix.length - 1, right: matrix[0].length - 1 });
  };

function weekday(serial: number, kind: number): number | CellError {
  const monday = (dateFromSerial(Math.floor(serial)).getUTCDay() + 6) % 7;
  if (kind === 1) return ((monday + 1) % 7) + 1;
  if (kind === 2) return monday + 1;
  return kind === 3 ? monday : NUM;
}

function percentile(values: readonly number[], share: number): Scalar {
  if (values.length === 0 || share < 0 || share > 1) return NUM;
  const sorted = [...values].sort((a, b) => a - b);
  const at = share * (sorted.length - 1);
  const low = Math.floor(at);
  return sorted[low] + (at - low) * ((sorted[low + 1] ?? sorted[low]) - sorted[low]);
}

function variance(values: readonly number[], less: 0 | 1): Scalar {
  if (values.length <= less) return CellError.of("#DIV/0!");
  const mean = exactSum(values) / values.length;
  return exactSum(values.map((value) => (value - mean) ** 2)) / (values.length - less);
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

/** Every function that can be evaluated, by its name in the file format without its future-function prefix. */
export const FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
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
  COUNTBLANK: (args) =>
    [...cellsOf(args.map((arg) => arg()))].filter(({ value }) => value === null || value === "").length,
  SUBTOTAL: ([kindArg, ...rest], site, references) => {
    const kind = numberOf(kindArg());
    const name =
      kind instanceof CellError
        ? undefined
        : ["AVERAGE", "COUNT", "COUNTA", "MAX", "MIN", "PRODUCT", "STDEV", "STDEV.P", "SUM", "VAR", "VAR.P"][
            (kind % 100) - 1
          ];
    if (!name || kind instanceof CellError) return VALUE;
    const args = rest.map((arg, at) => {
      const reference = references[at + 1];
      return reference ? () => site.read(reference, { hiddenRows: kind > 100 }) : arg;
    });
    return FUNCTIONS[name](args, site, references.slice(1));
  },
  SUMIF: ([range, condition, values = range]) => conditional(values(), matching([range, condition]), exactSum),
  COUNTIF: ([range, condition]) => {
    const found = matching([range, condition]);
    return found instanceof CellError ? found : found.length;
  },
  AVERAGEIF: ([range, condition, values = range]) => conditional(values(), matching([range, condition]), average),
  SUMIFS: ([values, ...pairs]) => conditional(values(), matching(pairs), exactSum),
  COUNTIFS: (pairs) => {
    const found = matching(pairs);
    return found instanceof CellError ? found : found.length;
  },
  AVERAGEIFS: ([values, ...pairs]) => conditional(values(), matching(pairs), average),
  MINIFS: ([values, ...pairs]) =>
    conditional(values(), matching(pairs), (found) => (found.length === 0 ? 0 : Math.min(...found))),
  MAXIFS: ([values, ...pairs]) =>
    conditional(values(), matching(pairs), (found) => (found.length === 0 ? 0 : Math.max(...found))),
  SUMPRODUCT: (args) => {
    const lists = args.map((arg) => asMatrix(arg()).flat());
    if (lists.some((list) => list.length !== lists[0].length)) return VALUE;
    const failed = lists.flat().find((value) => value instanceof CellError);
    if (failed !== undefined) return failed;
    return exactSum(
      lists[0].map((_, at) =>
        lists.reduce((product, list) => product * (typeof list[at] === "number" ? (list[at] as number) : 0), 1),
      ),
    );
  },
  IF: ([test, yes, no]) => {
    const truth = truthOf(test());
    if (truth instanceof CellError) return truth;
    return truth ? (yes ? yes() : true) : no ? no() : false;
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
  IFERROR: ([value, other]) => {
    const result = value();
    return scalarOf(result) instanceof CellError ? other() : result;
  },
  IFNA: ([value, other]) => {
    const result = value();
    return scalarOf(result) === NA ? other() : result;
  },
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
  POWER: ofNumbers((base, power) => base ** power),
  EXP: ofNumbers(Math.exp),
  LN: ofNumbers((value) => (value <= 0 ? NUM : Math.log(value))),
  LOG10: ofNumbers((value) => (value <= 0 ? NUM : Math.log10(value))),
  PI: () => Math.PI,
  MOD: ofNumbers((value, by) => (by === 0 ? CellError.of("#DIV/0!") : value - by * Math.floor(value / by))),
  CEILING: ofNumbers((value, step = 1) => (step === 0 ? 0 : roundDecimal(value / step, 0, "up") * step)),
  FLOOR: ofNumbers((value, step = 1) =>
    step === 0 ? CellError.of("#DIV/0!") : roundDecimal(value / step, 0, "down") * step,
  ),
  MROUND: ofNumbers((value, step) => (step === 0 ? 0 : roundDecimal(value / step, 0, "near") * step)),
  CONCATENATE: ofTexts((...texts) => texts.join("")),
  CONCAT: (args) => joinTexts("", args),
  TEXTJOIN: ([separatorArg, skipArg, ...rest]) => {
    const separator = textOf(separatorArg());
    const skip = truthOf(skipArg());
    return separator instanceof CellError ? separator : joinTexts(separator, rest, skip === true);
  },
  LEFT: ([textArg, countArg]) => slice(textArg, countArg, (chars, count) => chars.slice(0, count)),
  RIGHT: ([textArg, countArg]) => slice(textArg, countArg, (chars, count) => (count === 0 ? [] : chars.slice(-count))),
  MID: ([textArg, startArg, countArg]) => {
    const start = numberOf(startArg());
    if (start instanceof CellError) return start;
    return start < 1 ? VALUE : slice(textArg, countArg, (chars, count) => chars.slice(start - 1, start - 1 + count));
  },
  LEN: ofTexts((text) => text.length),
  UPPER: ofTexts((text) => text.toUpperCase()),
  LOWER: ofTexts((text) => text.toLowerCase()),
  PROPER: ofTexts((text) =>
    text
      .toLowerCase()
      .replace(/(^|[^\p{L}])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase()),
  ),
  TRIM: ofTexts((text) => text.replace(/ +/g, " ").replace(/^ | $/g, "")),
  SUBSTITUTE: ofTexts((text, old, by, which) => {
    if (old === "") return text;
    if (which === undefined) return text.replaceAll(old, by);
    const parts = text.split(old);
    const n = Number(which);
    return parts.length <= n ? text : `${parts.slice(0, n).join(old)}${by}${parts.slice(n).join(old)}`;
  }),
  REPT: ofTexts((text, count) =>
    text.length * Number(count) > 32_767 ? VALUE : text.repeat(Math.max(0, Math.trunc(Number(count)))),
  ),
  FIND: ofTexts((part, text, from = "1") => positionIn(text.indexOf(part, Number(from) - 1))),
  SEARCH: ofTexts((part, text, from = "1") =>
    positionIn(text.toLowerCase().indexOf(part.toLowerCase(), Number(from) - 1)),
  ),
  EXACT: ofTexts((a, b) => a === b),
  TEXT: ([valueArg, formatArg]) => {
    const value = scalarOf(valueArg());
    const format = textOf(formatArg());
    if (value instanceof CellError) return value;
    return format instanceof CellError ? format : formatValue(value ?? 0, format);
  },
  VALUE: ([arg]) => {
    const value = scalarOf(arg());
    return numberOf(typeof value === "string" ? value.replace(/,(?=\d{3})/g, "") : value);
  },
  DATE: ofNumbers((year, month, day) => makeDate(year, month, day)),
  TODAY: (_, site) => Math.floor(site.now),
  NOW: (_, site) => site.now,
  YEAR: datePart((serial) => partsFromSerial(serial).year),
  MONTH: datePart((serial) => partsFromSerial(serial).month),
  DAY: datePart((serial) => partsFromSerial(serial).day),
  HOUR: datePart((serial) => dateFromSerial(serial).getUTCHours()),
  MINUTE: datePart((serial) => dateFromSerial(serial).getUTCMinutes()),
  WEEKDAY: ofNumbers((serial, kind = 1) => weekday(serial, kind)),
  EDATE: ofNumbers((serial, months) => addMonths(serial, Math.trunc(months))),
  EOMONTH: ofNumbers((serial, months) => {
    const { year, month } = partsFromSerial(serial);
    return makeDate(year, month + Math.trunc(months) + 1, 0);
  }),
  DAYS: ofNumbers((end, start) => Math.floor(end) - Math.floor(start)),
  ...LOOKUP_FUNCTIONS,
  ROW: located((place) => place.top + 1),
  COLUMN: located((place) => place.left + 1),
  ROWS: located((place) => place.bottom - place.top + 1),
  COLUMNS: located((place) => place.right - place.left + 1),
  CHOOSE: ([indexArg, ...rest]) => {
    const index = numberOf(indexArg());
    return index instanceof CellError ? index : (rest[Math.trunc(index) - 1]?.() ?? VALUE);
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

function joinTexts(separator: string, args: readonly (() => Operand)[], skipBlanks = false): Scalar {
  const texts: string[] = [];
  for (const { value } of cellsOf(args.map((arg) => arg()))) {
    const text = textOf(value);
    if (text instanceof CellError) return text;
    if (!skipBlanks || text !== "") texts.push(text);
  }
  return texts.join(separator);
}

function slice(
  textArg: () => Operand,
  countArg: (() => Operand) | undefined,
  cut: (chars: readonly string[], count: number) => readonly string[],
): Scalar {
  const text = textOf(textArg());
  const count = countArg ? numberOf(countArg()) : 1;
  if (text instanceof CellError) return text;
  if (count instanceof CellError) return count;
  return count < 0 ? VALUE : cut([...text], Math.trunc(count)).join("");
}

function positionIn(index: number): Scalar {
  return index < 0 ? VALUE : index + 1;
}
