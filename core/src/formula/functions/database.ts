/** Functions of a list with headings and a block of conditions: ECMA-376 part 1, 18.17.7.76 and its relatives. */

import { asMatrix, CellError, type Matrix, type Operand, type Scalar, scalarOf } from "../value.js";
import { exactSum, type FormulaFunction, NUM, VALUE } from "./support/arguments.js";
import { criterion } from "./support/criteria.js";

const folded = (value: Scalar): string =>
  String(value ?? "")
    .trim()
    .toLowerCase();

/** Position of a column by its heading or its number. */
function columnOf(table: Matrix, field: Scalar): number {
  if (typeof field === "number") return field >= 1 && field <= table[0].length ? Math.trunc(field) - 1 : -1;
  return table[0].findIndex((heading) => folded(heading) === folded(field));
}

/** Rows that pass: of each line of conditions all, of the lines any. A text asks for values that begin with it. */
function passing(table: Matrix, conditions: Matrix): Matrix | CellError {
  const [headings, ...lines] = conditions;
  const tests = lines.map((line) =>
    line.flatMap((condition, at) => {
      if (condition === null || condition === "") return [];
      const column = columnOf(table, headings[at]);
      const isPlain = typeof condition === "string" && !/^(<|>|=)/.test(condition);
      return [{ column, passes: criterion(isPlain ? beginsWith(condition) : condition) }];
    }),
  );
  if (tests.flat().some((test) => test.column < 0)) return VALUE;
  return table.slice(1).filter((row) => tests.some((line) => line.every(({ column, passes }) => passes(row[column]))));
}

/** A number is asked for as it is; a text with anything behind it. */
function beginsWith(condition: string): string {
  return condition.trim() !== "" && Number.isNaN(Number(condition)) ? `${condition}*` : condition;
}

const over =
  (calculate: (values: readonly Scalar[]) => Operand, countsRows = false): FormulaFunction =>
  ([tableArg, fieldArg, conditionsArg]) => {
    const table = asMatrix(tableArg());
    const rows = passing(table, asMatrix(conditionsArg()));
    if (rows instanceof CellError) return rows;
    const field = fieldArg ? scalarOf(fieldArg()) : null;
    if (field instanceof CellError) return field;
    if (countsRows && (field === null || field === "")) return calculate(rows.map(() => 1));
    const column = columnOf(table, field);
    return column < 0 ? VALUE : calculate(rows.map((row) => row[column]));
  };

const overNumbers = (calculate: (values: readonly number[]) => Scalar): FormulaFunction =>
  over((values) => {
    const failed = values.find((value) => value instanceof CellError);
    return failed instanceof CellError
      ? failed
      : calculate(values.filter((value): value is number => typeof value === "number"));
  });

function spreadOf(values: readonly number[], less: 0 | 1): number | CellError {
  if (values.length <= less) return CellError.of("#DIV/0!");
  const centre = exactSum(values) / values.length;
  return exactSum(values.map((value) => (value - centre) ** 2)) / (values.length - less);
}

const root = (value: number | CellError): Scalar => (value instanceof CellError ? value : Math.sqrt(value));

export const DATABASE_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  DSUM: overNumbers(exactSum),
  DCOUNT: over((values) => values.filter((value) => typeof value === "number").length, true),
  DCOUNTA: over((values) => values.filter((value) => value !== null).length, true),
  DAVERAGE: overNumbers((values) => (values.length === 0 ? CellError.of("#DIV/0!") : exactSum(values) / values.length)),
  DMAX: overNumbers((values) => values.reduce((high, value) => Math.max(high, value), values[0] ?? 0)),
  DMIN: overNumbers((values) => values.reduce((low, value) => Math.min(low, value), values[0] ?? 0)),
  DPRODUCT: overNumbers((values) => values.reduce((product, value) => product * value, values.length === 0 ? 0 : 1)),
  DGET: over((values) => (values.length === 0 ? VALUE : values.length > 1 ? NUM : (values[0] ?? 0))),
  DVAR: overNumbers((values) => spreadOf(values, 1)),
  DVARP: overNumbers((values) => spreadOf(values, 0)),
  DSTDEV: overNumbers((values) => root(spreadOf(values, 1))),
  DSTDEVP: overNumbers((values) => root(spreadOf(values, 0))),
};
