/** Functions that give arrays. */

import {
  areNumberRows,
  asMatrix,
  CellError,
  compareScalars,
  type Matrix,
  numberOf,
  type Operand,
  type Scalar,
  scalarOf,
  textOf,
  truthOf,
} from "../value.js";
import type { FormulaFunction } from "./support/arguments.js";
import { chance } from "./support/chance.js";
import { cutByMarks } from "./support/split-text.js";

const VALUE = CellError.of("#VALUE!");
const NONE = CellError.of("#CALC!");

/** More cells are not made by one formula. */
const MAX_CELLS = 4_000_000;

function turned(matrix: Matrix): Matrix {
  return (matrix[0] ?? []).map((_, column) => matrix.map((row) => row[column]));
}

const whole = (arg: (() => Operand) | undefined, otherwise: number): number | CellError => {
  const operand = arg?.();
  if (operand === undefined || operand === null) return otherwise;
  const value = numberOf(operand);
  return value instanceof CellError ? value : Math.trunc(value);
};

const isSet = (arg: (() => Operand) | undefined): boolean => arg !== undefined && truthOf(arg()) === true;

function keyOf(value: Scalar): string {
  return value instanceof CellError ? value.name : `${typeof value}:${String(value).toLowerCase()}`;
}

/** Rows that are alike, as positions in order of their first. */
function distinctRows(rows: Matrix, onlyOnce: boolean): number[] {
  const seen = new Map<string, { first: number; count: number }>();
  rows.forEach((row, at) => {
    const key = row.map(keyOf).join("\u0000");
    const known = seen.get(key);
    if (known) known.count++;
    else seen.set(key, { first: at, count: 1 });
  });
  return [...seen.values()].filter(({ count }) => !onlyOnce || count === 1).map(({ first }) => first);
}

/** Blanks come last in either order, as spreadsheets sort. */
function compareCells(a: Scalar, b: Scalar, order: number): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
  const rank = (value: Scalar): number => (value instanceof CellError ? 1 : 0);
  const bothPlain = rank(a) + rank(b) === 0;
  return order * (bothPlain ? compareScalars(a, b) : rank(a) - rank(b));
}

function sortRows(
  rows: Matrix,
  keys: readonly { readonly cells: readonly Scalar[]; readonly order: number }[],
): Matrix {
  const positions = rows.map((_, at) => at);
  positions.sort((a, b) => {
    for (const { cells, order } of keys) {
      const compared = compareCells(cells[a], cells[b], order);
      if (compared !== 0) return compared;
    }
    return a - b;
  });
  return positions.map((at) => rows[at]);
}

function orNone(rows: Matrix): Operand {
  return rows.length === 0 || rows[0].length === 0 ? NONE : rows;
}

/** Part of a list: the first `count`, or the last for a negative one. */
function taken<T>(list: readonly T[], count: number): readonly T[] {
  return count >= 0 ? list.slice(0, count) : list.slice(count);
}

function dropped<T>(list: readonly T[], count: number): readonly T[] {
  return count >= 0 ? list.slice(count) : list.slice(0, Math.max(0, list.length + count));
}

const cutting =
  (cut: <T>(list: readonly T[], count: number) => readonly T[], all: number): FormulaFunction =>
  ([tableArg, rowsArg, columnsArg]) => {
    const table = asMatrix(tableArg());
    const [rows, columns] = [whole(rowsArg, all), whole(columnsArg, all)];
    if (rows instanceof CellError) return rows;
    if (columns instanceof CellError) return columns;
    return orNone(cut(table, rows).map((row) => cut(row, columns)));
  };

const choosing =
  (byColumns: boolean): FormulaFunction =>
  ([tableArg, ...picks]) => {
    const table = asMatrix(tableArg());
    const lines = byColumns ? turned(table) : table;
    const chosen: (readonly Scalar[])[] = [];
    for (const pick of picks.flatMap((arg) => asMatrix(arg()).flat())) {
      const at = numberOf(pick);
      if (at instanceof CellError) return at;
      const line = lines[at > 0 ? at - 1 : lines.length + at];
      if (at === 0 || !line) return VALUE;
      chosen.push(line);
    }
    return byColumns ? turned(chosen) : chosen;
  };

function stacked(args: readonly (() => Operand)[]): Matrix {
  const parts = args.map((arg) => asMatrix(arg()));
  const width = Math.max(...parts.map((part) => part[0]?.length ?? 0));
  return parts.flatMap((part) =>
    part.map((row) => Array.from({ length: width }, (_, at) => (at < row.length ? row[at] : CellError.of("#N/A")))),
  );
}

const inOneLine =
  (asRow: boolean): FormulaFunction =>
  ([tableArg, ignoreArg]) => {
    const ignore = whole(ignoreArg, 0);
    if (ignore instanceof CellError) return ignore;
    const cells = asMatrix(tableArg())
      .flat()
      .filter(
        (value) => !((ignore & 1) === 1 && value === null) && !((ignore & 2) === 2 && value instanceof CellError),
      );
    return orNone(asRow ? [cells] : cells.map((value) => [value]));
  };

/** A list in lines of so many cells. */
const wrapping =
  (byColumns: boolean): FormulaFunction =>
  ([listArg, countArg, padArg]) => {
    const list = asMatrix(listArg());
    const count = whole(countArg, 1);
    if (count instanceof CellError) return count;
    if (list.length > 1 && list[0].length > 1) return VALUE;
    if (count < 1) return CellError.of("#NUM!");
    const cells = list.flat();
    const pad = padArg ? scalarOf(padArg()) : CellError.of("#N/A");
    const lines = Array.from({ length: Math.ceil(cells.length / count) }, (_, line) =>
      Array.from({ length: count }, (__, at) => {
        const index = line * count + at;
        return index < cells.length ? cells[index] : pad;
      }),
    );
    return byColumns ? turned(lines) : lines;
  };

/** Numbers, or the first error among them. */
function numbersOr(values: readonly (number | CellError)[]): readonly number[] | CellError {
  const failed = values.find((value) => value instanceof CellError);
  return failed instanceof CellError ? failed : values.filter((value) => typeof value === "number");
}

export const ARRAY_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  UNIQUE: ([tableArg, byColumnsArg, onceArg]) => {
    const table = asMatrix(tableArg());
    const byColumns = isSet(byColumnsArg);
    const lines = byColumns ? turned(table) : table;
    const found = distinctRows(lines, isSet(onceArg)).map((at) => lines[at]);
    return orNone(byColumns ? turned(found) : found);
  },
  FILTER: ([tableArg, testArg, otherwise]) => {
    const table = asMatrix(tableArg());
    const tests = asMatrix(testArg());
    const byRows = tests.length === table.length && tests[0].length === 1;
    if (!byRows && !(tests.length === 1 && tests[0].length === table[0].length)) return VALUE;
    const truths = tests.flat().map((value) => truthOf(value));
    const failed = truths.find((truth) => truth instanceof CellError);
    if (failed instanceof CellError) return failed;
    const found = byRows
      ? table.filter((_, row) => truths[row])
      : table.map((row) => row.filter((_, column) => truths[column]));
    if (found.length > 0 && found[0].length > 0) return found;
    return otherwise ? otherwise() : NONE;
  },
  SORT: ([tableArg, indexArg, orderArg, byColumnsArg]) => {
    const table = asMatrix(tableArg());
    const byColumns = isSet(byColumnsArg);
    const lines = byColumns ? turned(table) : table;
    const [index, order] = [whole(indexArg, 1), whole(orderArg, 1)];
    if (index instanceof CellError) return index;
    if (order instanceof CellError) return order;
    if (index < 1 || index > lines[0].length || Math.abs(order) !== 1) return VALUE;
    const sorted = sortRows(lines, [{ cells: lines.map((line) => line[index - 1]), order }]);
    return byColumns ? turned(sorted) : sorted;
  },
  SORTBY: ([tableArg, ...rest]) => {
    const table = asMatrix(tableArg());
    const keys: { cells: readonly Scalar[]; order: number }[] = [];
    let byColumns = false;
    for (let at = 0; at < rest.length; at += 2) {
      const list = asMatrix(rest[at]());
      const order = whole(rest[at + 1], 1);
      if (order instanceof CellError) return order;
      byColumns = list.length === 1 && table.length > 1;
      keys.push({ cells: list.flat(), order });
    }
    const lines = byColumns ? turned(table) : table;
    if (keys.some(({ cells }) => cells.length !== lines.length)) return VALUE;
    const sorted = sortRows(lines, keys);
    return byColumns ? turned(sorted) : sorted;
  },
  SEQUENCE: ([rowsArg, columnsArg, startArg, stepArg]) => {
    const [rows, columns] = [whole(rowsArg, 1), whole(columnsArg, 1)];
    const [start, step] = [startArg ? numberOf(startArg() ?? 1) : 1, stepArg ? numberOf(stepArg() ?? 1) : 1];
    const given = numbersOr([rows, columns, start, step]);
    if (given instanceof CellError) return given;
    const [height, width, first, by] = given;
    if (height < 1 || width < 1) return NONE;
    if (height * width > MAX_CELLS) return VALUE;
    return Array.from({ length: height }, (_, row) =>
      Array.from({ length: width }, (__, column) => first + by * (row * width + column)),
    );
  },
  TRANSPOSE: ([tableArg]) => turned(asMatrix(tableArg())),
  MMULT: ([leftArg, rightArg]) => {
    const [left, right] = [asMatrix(leftArg()), asMatrix(rightArg())];
    if (left[0].length !== right.length) return VALUE;
    if (!areNumberRows(left) || !areNumberRows(right)) return VALUE;
    return left.map((row) =>
      right[0].map((_, column) => row.reduce((sum, value, at) => sum + value * right[at][column], 0)),
    );
  },
  FREQUENCY: ([valuesArg, limitsArg]) => {
    const numbersOf = (operand: Operand): number[] =>
      asMatrix(operand)
        .flat()
        .filter((value): value is number => typeof value === "number");
    const limits = numbersOf(limitsArg()).sort((a, b) => a - b);
    const counts = new Array<number>(limits.length + 1).fill(0);
    for (const value of numbersOf(valuesArg())) {
      const at = limits.findIndex((limit) => value <= limit);
      counts[at < 0 ? limits.length : at]++;
    }
    return counts.map((count) => [count]);
  },
  TAKE: cutting(taken, Number.MAX_SAFE_INTEGER),
  DROP: cutting(dropped, 0),
  CHOOSECOLS: choosing(true),
  CHOOSEROWS: choosing(false),
  VSTACK: (args) => stacked(args),
  HSTACK: (args) => turned(stacked(args.map((arg) => () => turned(asMatrix(arg()))))),
  TOCOL: inOneLine(false),
  TOROW: inOneLine(true),
  WRAPROWS: wrapping(false),
  WRAPCOLS: wrapping(true),
  EXPAND: ([tableArg, rowsArg, columnsArg, padArg]) => {
    const table = asMatrix(tableArg());
    const [rows, columns] = [whole(rowsArg, table.length), whole(columnsArg, table[0].length)];
    if (rows instanceof CellError) return rows;
    if (columns instanceof CellError) return columns;
    if (rows < table.length || columns < table[0].length || rows * columns > MAX_CELLS) return VALUE;
    const pad = padArg ? scalarOf(padArg()) : CellError.of("#N/A");
    return Array.from({ length: rows }, (_, row) =>
      Array.from({ length: columns }, (__, column) => {
        const line = table[row];
        return line !== undefined && column < line.length ? line[column] : pad;
      }),
    );
  },
  RANDARRAY: ([rowsArg, columnsArg, lowArg, highArg, wholeArg], context) => {
    const [rows, columns] = [whole(rowsArg, 1), whole(columnsArg, 1)];
    const [low, high] = [lowArg ? numberOf(lowArg() ?? 0) : 0, highArg ? numberOf(highArg() ?? 1) : 1];
    const given = numbersOr([rows, columns, low, high]);
    if (given instanceof CellError) return given;
    const [height, width, from, to] = given;
    if (height < 1 || width < 1) return NONE;
    if (height * width > MAX_CELLS || from > to) return VALUE;
    const isWhole = isSet(wholeArg);
    return Array.from({ length: height }, (_, row) =>
      Array.from({ length: width }, (__, column) => {
        const share = chance(context, row * width + column);
        return isWhole
          ? Math.floor(share * (Math.floor(to) - Math.ceil(from) + 1)) + Math.ceil(from)
          : from + share * (to - from);
      }),
    );
  },
  TEXTSPLIT: ([textArg, columnArg, rowArg, skipArg, foldArg, padArg]) => {
    const text = textOf(textArg());
    if (text instanceof CellError) return text;
    const ignoresCase = foldArg ? numberOf(foldArg()) === 1 : false;
    const skips = isSet(skipArg);
    const cutAt = (source: string, arg: (() => Operand) | undefined): string[] => {
      const marks = arg
        ? asMatrix(arg())
            .flat()
            .map((mark) => String(mark ?? ""))
        : [];
      const parts = cutByMarks(
        source,
        marks.filter((mark) => mark !== ""),
        ignoresCase,
      );
      return skips ? parts.filter((part) => part !== "") : parts;
    };
    const pad = padArg ? scalarOf(padArg()) : CellError.of("#N/A");
    const lines = cutAt(text, rowArg).map((line) => cutAt(line, columnArg));
    const width = Math.max(1, ...lines.map((line) => line.length));
    return lines.length === 0
      ? NONE
      : lines.map((line) => Array.from({ length: width }, (_, at) => (at < line.length ? line[at] : pad)));
  },
};
