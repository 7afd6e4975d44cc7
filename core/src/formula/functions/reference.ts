/** Functions that ask where cells lie, or lead to others. */

import { columnLetters, MAX_COLUMNS, MAX_ROWS, splitSheet } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { type EvaluationContext, type SheetArea, Unsupported } from "../evaluation-context.js";
import { readReference, tableReferenceOf } from "../references.js";
import { asMatrix, CellError, isMatrix, numberOf, type Operand, scalarOf, textOf, truthOf } from "../value.js";
import type { FormulaFunction } from "./support/arguments.js";
import { guarded } from "./support/guard.js";

const REFERENCE = CellError.of("#REF!");
const VALUE = CellError.of("#VALUE!");

/** A function that leads to cells; `undefined` where this time it gives a value, which its body in the list makes. */
export type AreaFunction = (
  args: readonly (() => Operand)[],
  context: EvaluationContext,
  areas: readonly (() => SheetArea | CellError | undefined)[],
) => SheetArea | CellError | undefined;

function located(measure: (place: Omit<SheetArea, "sheet">) => Operand): FormulaFunction {
  return (args, context, areas) => {
    if (args.length === 0)
      return measure({ top: context.row, bottom: context.row, left: context.column, right: context.column });
    const place = areas[0]();
    if (place instanceof CellError) return place;
    if (place) return measure(place);
    const matrix = asMatrix(args[0]());
    return measure({ top: 0, left: 0, bottom: matrix.length - 1, right: matrix[0].length - 1 });
  };
}

function span(from: number, to: number): number[] {
  return Array.from({ length: Math.min(to - from + 1, MAX_ROWS) }, (_, index) => from + index + 1);
}

export const REFERENCE_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  ROW: located(({ top, bottom }) => (top === bottom ? top + 1 : span(top, bottom).map((row) => [row]))),
  COLUMN: located(({ left, right }) => (left === right ? left + 1 : [span(left, right)])),
  ROWS: located((place) => place.bottom - place.top + 1),
  COLUMNS: located((place) => place.right - place.left + 1),
  AREAS: () => 1,
  ISREF: (_, __, [area]) => area?.() !== undefined,
  SHEET: ([arg], context, areas) => {
    const place = areas[0]?.();
    if (place && !(place instanceof CellError)) return place.sheet + 1;
    return arg ? (context.sheetIndex(String(scalarOf(arg()))) ?? -1) + 1 || CellError.of("#N/A") : context.sheet + 1;
  },
  SHEETS: (args, context, areas) => (args.length === 0 ? context.sheetCount : areas[0]?.() ? 1 : CellError.of("#N/A")),
  ISFORMULA: (_, context, [area]) => {
    const place = area?.();
    if (place === undefined) return VALUE;
    return place instanceof CellError ? place : context.formulaAt(place) !== undefined;
  },
  FORMULATEXT: (_, context, [area]) => {
    const place = area?.();
    if (place === undefined) return VALUE;
    if (place instanceof CellError) return place;
    const formula = context.formulaAt(place);
    return formula === undefined ? CellError.of("#N/A") : `=${formula.replace(/_xl(?:fn|pm|ws)\./gi, "")}`;
  },
  CELL: ([kindArg, cellArg], context, [, area]) => {
    const kind = textOf(kindArg());
    if (kind instanceof CellError) return kind;
    const place = area?.() ?? {
      sheet: context.sheet,
      top: context.row,
      left: context.column,
      bottom: context.row,
      right: context.column,
    };
    if (place instanceof CellError) return place;
    const value = cellArg ? scalarOf(cellArg()) : null;
    switch (kind.toLowerCase()) {
      case "address":
        return `$${columnLetters(place.left)}$${place.top + 1}`;
      case "row":
        return place.top + 1;
      case "col":
        return place.left + 1;
      case "contents":
        return value ?? 0;
      case "type":
        return value === null ? "b" : typeof value === "string" ? "l" : "v";
      default:
        // The rest tells of looks and files, which no value hangs on here.
        throw new Unsupported(say().formula.cell({ kind }));
    }
  },
  INFO: ([kindArg], context) => {
    const kind = textOf(kindArg());
    if (kind instanceof CellError) return kind;
    if (kind.toLowerCase() === "recalc") return context.book.isCalculatedByHand ? "Manual" : "Automatic";
    // The rest tells of the machine it is opened on, which no file knows.
    throw new Unsupported(say().formula.info({ kind }));
  },
  PHONETIC: ([cellArg], context) => {
    const text = textOf(scalarOf(cellArg()));
    return text instanceof CellError ? text : (context.book.readings.get(text) ?? text);
  },
  ADDRESS: ([rowArg, columnArg, kindArg, a1Arg, sheetArg]) => {
    const [row, column] = [numberOf(rowArg()), numberOf(columnArg())];
    const kind = kindArg ? numberOf(kindArg()) : 1;
    if (row instanceof CellError) return row;
    if (column instanceof CellError) return column;
    if (!(row >= 1) || !(column >= 1) || (a1Arg && truthOf(a1Arg()) === false)) return VALUE;
    const sheet = sheetArg ? textOf(sheetArg()) : "";
    if (sheet instanceof CellError) return sheet;
    const isColumnFixed = kind === 1 || kind === 3;
    const isRowFixed = kind === 1 || kind === 2;
    const quoted = /^[A-Za-z_][\w.]*$/.test(sheet) ? sheet : `'${sheet.replaceAll("'", "''")}'`;
    return `${sheet === "" ? "" : `${quoted}!`}${isColumnFixed ? "$" : ""}${columnLetters(column - 1)}${isRowFixed ? "$" : ""}${row}`;
  },
  // Their cells are found below; this stands where no cells are meant.
  OFFSET: () => VALUE,
  INDIRECT: () => REFERENCE,
};

/** `R1C2:R[3]C`, brackets counted from the formula's own cell (18.17.2.3). */
function rowsAndColumns(text: string, context: EvaluationContext): SheetArea | CellError {
  const { sheet: name, rest } = splitSheet(text);
  const sheet = name === undefined ? context.sheet : context.sheetIndex(name);
  const corners = rest.split(":").map((one) => /^R(?:(\d+)|\[(-?\d+)\])?C(?:(\d+)|\[(-?\d+)\])?$/i.exec(one.trim()));
  if (sheet === undefined || corners.length > 2 || corners.some((one) => one === null)) return REFERENCE;
  const at = (fixed: string | undefined, moved: string | undefined, own: number): number =>
    fixed === undefined ? own + Number(moved ?? 0) : Number(fixed) - 1;
  const rows = corners.map((one) => at(one?.[1], one?.[2], context.row));
  const columns = corners.map((one) => at(one?.[3], one?.[4], context.column));
  const place = {
    sheet,
    top: Math.min(...rows),
    left: Math.min(...columns),
    bottom: Math.max(...rows),
    right: Math.max(...columns),
  };
  return place.top < 0 || place.left < 0 || place.bottom >= MAX_ROWS || place.right >= MAX_COLUMNS ? REFERENCE : place;
}

function shifted(place: SheetArea, by: readonly number[], height: number, width: number): SheetArea | CellError {
  const top = place.top + by[0] + (height < 0 ? height + 1 : 0);
  const left = place.left + by[1] + (width < 0 ? width + 1 : 0);
  const bottom = top + Math.abs(height) - 1;
  const right = left + Math.abs(width) - 1;
  const isInside = top >= 0 && left >= 0 && bottom < MAX_ROWS && right < MAX_COLUMNS && height !== 0 && width !== 0;
  return isInside ? { sheet: place.sheet, top, left, bottom, right } : REFERENCE;
}

const AREA_BODIES: Readonly<Record<string, AreaFunction>> = {
  OFFSET: ([, ...rest], _, [area]) => {
    const place = area();
    if (!place || place instanceof CellError) return place ?? VALUE;
    const numbers = rest.map((arg) => arg()).map((operand) => (operand === null ? undefined : numberOf(operand)));
    const failed = numbers.find((number) => number instanceof CellError);
    if (failed instanceof CellError) return failed;
    const [rows = 0, columns = 0, height, width] = numbers.map((one) => (typeof one === "number" ? one : undefined));
    return shifted(
      place,
      [Math.trunc(rows), Math.trunc(columns)],
      Math.trunc(height ?? place.bottom - place.top + 1),
      Math.trunc(width ?? place.right - place.left + 1),
    );
  },
  INDIRECT: ([textArg, a1Arg], context) => {
    const text = textOf(textArg());
    if (text instanceof CellError) return text;
    const isA1 = a1Arg === undefined ? true : truthOf(a1Arg());
    if (isA1 instanceof CellError) return isA1;
    if (!isA1) return rowsAndColumns(text, context);
    const parsed = readReference(text);
    if (!parsed?.range || parsed.workbookName) {
      const inTable = tableReferenceOf(text);
      if (inTable) return context.locateTable(inTable);
      const named = context.name(text);
      return named?.formula.area?.(named.context) ?? REFERENCE;
    }
    const sheet = parsed.sheetName ? context.sheetIndex(parsed.sheetName) : context.sheet;
    const { top, left, bottom, right } = parsed.range;
    return sheet === undefined
      ? REFERENCE
      : { sheet, top: top ?? 0, left: left ?? 0, bottom: bottom ?? MAX_ROWS - 1, right: right ?? MAX_COLUMNS - 1 };
  },
  INDEX: ([, rowArg, columnArg], _, [area]) => {
    const place = area();
    if (!place || place instanceof CellError) return place;
    let row = rowArg ? numberOf(rowArg()) : 0;
    let column = columnArg ? numberOf(columnArg()) : 0;
    if (row instanceof CellError) return row;
    if (column instanceof CellError) return column;
    const [height, width] = [place.bottom - place.top + 1, place.right - place.left + 1];
    if (!columnArg && height === 1) [row, column] = [1, row];
    else if (!columnArg && width === 1) column = 1;
    [row, column] = [Math.trunc(row), Math.trunc(column)];
    if (row < 0 || column < 0 || row > height || column > width) return REFERENCE;
    const top = row === 0 ? place.top : place.top + row - 1;
    const left = column === 0 ? place.left : place.left + column - 1;
    return {
      sheet: place.sheet,
      top,
      left,
      bottom: row === 0 ? place.bottom : top,
      right: column === 0 ? place.right : left,
    };
  },
  IF: ([test], _, [, yes, no]) => {
    const condition = test();
    const truth = isMatrix(condition) ? undefined : truthOf(condition);
    if (truth === undefined || truth instanceof CellError) return undefined;
    return truth ? yes?.() : no?.();
  },
  CHOOSE: ([indexArg], _, [, ...areas]) => {
    const index = numberOf(indexArg());
    return index instanceof CellError ? index : areas[Math.trunc(index) - 1]?.();
  },
};

/** Functions that give a place rather than a value. */
export const AREA_FUNCTIONS: Readonly<Record<string, AreaFunction>> = Object.fromEntries(
  Object.entries(AREA_BODIES).map(([name, body]) => [name, guarded(body)]),
);
