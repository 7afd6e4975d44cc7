import { known, made } from "../common/index.js";
import type { CompiledFormula } from "./compile/compile.js";
import {
  type BookFacts,
  type EvaluationContext,
  type FormulaReference,
  type Local,
  type SheetArea,
  type SubtotalFilter,
  type TableReference,
  Unsupported,
} from "./evaluation-context.js";
import { asMatrix, CellError, type Matrix, type Operand, type Scalar, scalarOf } from "./value.js";

/** A cell with a formula: `locate` says where a reference written in it lies now. */
export interface FormulaCell {
  readonly sheet: number;
  readonly row: number;
  readonly column: number;
  readonly formula: CompiledFormula;
  readonly locate: (reference: FormulaReference) => SheetArea | undefined;
  /** Value stored in the file, which stays where the formula cannot be evaluated. */
  readonly stored: Scalar;
  /** An array formula: it fills so many rows and columns, or `free` as many as its result has. */
  readonly array?: { readonly rows: number; readonly columns: number } | "free" | undefined;
}

export interface CalculatorInput {
  /** For each sheet its cells without formulas, as rows of columns; missing is blank. */
  readonly values: readonly ReadonlyMap<number, ReadonlyMap<number, Scalar>>[];
  readonly formulas: readonly FormulaCell[];
  /** The formula behind a defined name, and where its references lie. */
  readonly name: (
    name: string,
    sheet: number,
  ) => { readonly formula: CompiledFormula; readonly locate: FormulaCell["locate"] } | undefined;
  /** Where the cells of a table lie; without a table's name that of the given cell. */
  readonly table?: (reference: TableReference, cell: FormulaCell) => SheetArea | CellError;
  /** Index of the sheet with this name. */
  readonly sheetIndex?: (name: string) => number | undefined;
  /** Names of the sheets in their order. */
  readonly sheetNames?: readonly string[];
  readonly book?: BookFacts;
  readonly now: number;
  /** For each sheet the rows that are hidden, which subtotals of kinds above 100 pass over. */
  readonly hiddenRows?: readonly ReadonlySet<number>[];
}

export interface Calculated {
  readonly cell: FormulaCell;
  readonly value: Scalar;
  /** Of an array formula all its values. */
  readonly values?: Matrix | undefined;
}

export interface Calculation {
  readonly results: readonly Calculated[];
  /** Cells that could not be evaluated, with what stands in the way. */
  readonly unsupported: readonly { readonly cell: FormulaCell; readonly what: string }[];
  readonly circular: readonly FormulaCell[];
}

/** Evaluation goes so many cells deep at once; deeper chains are taken up from their lower end. */
const MAX_DEPTH = 300;
/** Ranges of more cells are read once and kept for whoever asks next. */
const KEPT_RANGE = 64;
const COLUMNS = 16_384;
/** Ranges of more cells than this are taken as far as they are used. */
const MOST_CELLS = 200_000;

const SUBTOTALS = /\b(SUBTOTAL|AGGREGATE)\(/i;

type State = { value: Scalar; values?: Matrix; status: "new" | "busy" | "done" };

/** A cell that holds one of the values of an array formula. */
interface Covered {
  readonly master: FormulaCell;
  readonly down: number;
  readonly across: number;
}

/** Raised to leave a chain that is too deep for the stack; the cell named is evaluated first and the chain tried again. */
class TooDeep {
  constructor(readonly cell: FormulaCell) {}
}

/** Evaluates all formulas, each once, whatever the order they depend on each other. */
export function calculate(input: CalculatorInput): Calculation {
  return new Calculator(input).run();
}

const PLAIN_BOOK: BookFacts = { readings: new Map(), isCalculatedByHand: false };
const NO_LOCALS: readonly Local[] = [];

/** What a formula's cell asks the calculator; one for each evaluation, so it is small. */
class CellSite implements EvaluationContext {
  constructor(
    private readonly owner: Calculator,
    private readonly cell: FormulaCell,
    readonly locate: FormulaCell["locate"],
    readonly locals: readonly Local[] = NO_LOCALS,
  ) {}

  get sheet(): number {
    return this.cell.sheet;
  }

  get row(): number {
    return this.cell.row;
  }

  get column(): number {
    return this.cell.column;
  }

  get now(): number {
    return this.owner.input.now;
  }

  locateTable(reference: TableReference): SheetArea | CellError {
    return this.owner.input.table?.(reference, this.cell) ?? CellError.of("#REF!");
  }

  name(name: string): ReturnType<EvaluationContext["name"]> {
    const found = this.owner.input.name(name, this.cell.sheet);
    return found && { formula: found.formula, context: new CellSite(this.owner, this.cell, found.locate) };
  }

  cells(place: SheetArea, passOver?: SubtotalFilter): Operand {
    return this.owner.read(place, passOver);
  }

  allCells(place: SheetArea): Operand {
    return this.owner.readAll(place);
  }

  spillOf(place: SheetArea): SheetArea | undefined {
    return this.owner.spillOf(place);
  }

  sheetIndex(name: string): number | undefined {
    return this.owner.input.sheetIndex?.(name);
  }

  sheetsBetween(from: string, to: string): readonly string[] | undefined {
    const names = this.owner.input.sheetNames ?? [];
    const [a, b] = [this.sheetIndex(from), this.sheetIndex(to)];
    if (a === undefined || b === undefined) return undefined;
    return names.slice(Math.min(a, b), Math.max(a, b) + 1);
  }

  get sheetCount(): number {
    return this.owner.input.values.length;
  }

  get book(): BookFacts {
    return this.owner.input.book ?? PLAIN_BOOK;
  }

  formulaAt(place: SheetArea): string | undefined {
    return this.owner.formulaAt(place);
  }

  withLocal(value: Local): EvaluationContext {
    return new CellSite(this.owner, this.cell, this.locate, [...this.locals, value]);
  }
}

class Calculator {
  private readonly states = new Map<FormulaCell, State>();
  private readonly byPlace: Map<number, FormulaCell>[] = [];
  private readonly covered: Map<number, Covered>[] = [];
  /** Array formulas that fill as many cells as they need and are still to be evaluated, by sheet. */
  private readonly waiting: Set<FormulaCell>[] = [];
  private readonly lastRow: number[] = [];
  private readonly lastColumn: number[] = [];
  private readonly circular = new Set<FormulaCell>();
  private readonly unsupported: { cell: FormulaCell; what: string }[] = [];
  private readonly ranges = new Map<string, Matrix>();
  private depth = 0;

  constructor(readonly input: CalculatorInput) {
    input.values.forEach((rows, sheet) => {
      this.byPlace[sheet] = new Map();
      this.covered[sheet] = new Map();
      this.waiting[sheet] = new Set();
      this.lastRow[sheet] = 0;
      this.lastColumn[sheet] = 0;
      for (const [row, columns] of rows) for (const column of columns.keys()) this.grow(sheet, row, column);
    });
    for (const cell of input.formulas) {
      this.states.set(cell, { value: null, status: "new" });
      this.byPlace[cell.sheet].set(cell.row * COLUMNS + cell.column, cell);
      this.grow(cell.sheet, cell.row, cell.column);
      if (cell.array === "free") this.waiting[cell.sheet].add(cell);
      else if (cell.array) this.cover(cell, cell.array.rows, cell.array.columns);
    }
  }

  run(): Calculation {
    for (const cell of this.input.formulas) this.evaluateFromBelow(cell);
    return {
      results: this.input.formulas.map((cell) => {
        const state = this.states.get(cell);
        return { cell, value: state?.value ?? null, values: state?.values };
      }),
      unsupported: this.unsupported,
      circular: [...this.circular],
    };
  }

  private grow(sheet: number, row: number, column: number): void {
    if (row > this.lastRow[sheet]) this.lastRow[sheet] = row;
    if (column > this.lastColumn[sheet]) this.lastColumn[sheet] = column;
  }

  private cover(master: FormulaCell, rows: number, columns: number): void {
    for (let down = 0; down < rows; down++)
      for (let across = 0; across < columns; across++)
        if (down > 0 || across > 0)
          this.covered[master.sheet].set((master.row + down) * COLUMNS + master.column + across, {
            master,
            down,
            across,
          });
    this.grow(master.sheet, master.row + rows - 1, master.column + columns - 1);
  }

  private evaluateFromBelow(cell: FormulaCell): void {
    const waiting = [cell];
    while (waiting.length > 0) {
      try {
        this.depth = 0;
        this.value(waiting[waiting.length - 1]);
        waiting.pop();
      } catch (error) {
        if (!(error instanceof TooDeep)) throw error;
        for (const state of this.states.values()) if (state.status === "busy") state.status = "new";
        if (waiting.includes(error.cell)) this.breakCircle(error.cell);
        else waiting.push(error.cell);
      }
    }
  }

  /** A chain that leads back to itself has no lower end. */
  private breakCircle(cell: FormulaCell): void {
    this.circular.add(cell);
    this.states.set(cell, { value: CellError.of("#CIRC!"), status: "done" });
  }

  private value(cell: FormulaCell): Scalar {
    const state = known(this.states, cell);
    if (state.status === "done") return state.value;
    if (state.status === "busy") {
      this.circular.add(cell);
      return CellError.of("#CIRC!");
    }
    if (cell.formula.unsupported.length > 0) return this.keep(cell, state, cell.formula.unsupported.join(", "));
    if (this.depth >= MAX_DEPTH) throw new TooDeep(cell);
    state.status = "busy";
    this.depth++;
    let result: Operand;
    try {
      result = cell.formula.evaluate(new CellSite(this, cell, cell.locate));
    } catch (error) {
      if (!(error instanceof Unsupported)) throw error;
      this.depth--;
      return this.keep(cell, state, error.what);
    }
    this.depth--;
    if (this.circular.has(cell)) result = CellError.of("#CIRC!");
    state.status = "done";
    state.value = cell.array ? this.spill(cell, state, asMatrix(result)) : shown(scalarOf(result));
    return state.value;
  }

  /** What cannot be evaluated keeps what is stored. */
  private keep(cell: FormulaCell, state: State, what: string): Scalar {
    this.unsupported.push({ cell, what });
    this.waiting[cell.sheet].delete(cell);
    state.status = "done";
    state.value = cell.stored;
    return state.value;
  }

  /** Puts an array's values into the cells it takes. */
  private spill(cell: FormulaCell, state: State, result: Matrix): Scalar {
    this.waiting[cell.sheet].delete(cell);
    if (cell.array === "free") {
      const height = result.length;
      const width = result[0]?.length ?? 1;
      if (!this.isFree(cell, height, width)) return CellError.of("#SPILL!");
      this.cover(cell, height, width);
      state.values = result.map((row) => row.map(shown));
    } else {
      const { rows, columns } = made(cell.array, "the area of an array formula");
      state.values = Array.from({ length: rows }, (_, row) =>
        Array.from({ length: columns }, (__, column) => {
          const line = result.length === 1 ? result[0] : result[row];
          const value = line === undefined ? undefined : line.length === 1 ? line[0] : line[column];
          return value === undefined ? CellError.of("#N/A") : shown(value);
        }),
      );
    }
    return state.values[0]?.[0] ?? null;
  }

  private isFree(cell: FormulaCell, height: number, width: number): boolean {
    const [formulas, covered] = [this.byPlace[cell.sheet], this.covered[cell.sheet]];
    for (let row = cell.row; row < cell.row + height; row++) {
      const values = this.input.values[cell.sheet]?.get(row);
      for (let column = cell.column; column < cell.column + width; column++) {
        if (row === cell.row && column === cell.column) continue;
        const place = row * COLUMNS + column;
        if ((values?.get(column) ?? null) !== null || formulas.has(place) || covered.has(place)) return false;
      }
    }
    return true;
  }

  formulaAt({ sheet, top, left }: SheetArea): string | undefined {
    return this.byPlace[sheet]?.get(top * COLUMNS + left)?.formula.source;
  }

  spillOf({ sheet, top, left }: SheetArea): SheetArea | undefined {
    const cell = this.byPlace[sheet]?.get(top * COLUMNS + left);
    if (!cell?.array) return undefined;
    this.value(cell);
    const values = this.states.get(cell)?.values;
    return values && { sheet, top, left, bottom: top + values.length - 1, right: left + values[0].length - 1 };
  }

  read(place: SheetArea, passOver?: SubtotalFilter): Operand {
    const { sheet, top, left } = place;
    if (this.waiting[sheet]?.size > 0) this.spillBefore(place);
    const cell = (row: number, column: number): Scalar =>
      passOver && this.isPassedOver(sheet, row, column, passOver) ? null : this.cell(sheet, row, column);
    // Whole rows and columns are read as far as there are cells.
    const bottom = Math.min(place.bottom, Math.max(this.lastRow[sheet], top));
    const right = Math.min(place.right, Math.max(this.lastColumn[sheet], left));
    const isKept = passOver === undefined && (bottom - top + 1) * (right - left + 1) > KEPT_RANGE;
    const key = isKept ? `${sheet} ${top} ${left} ${bottom} ${right}` : "";
    const known = isKept ? this.ranges.get(key) : undefined;
    if (known) return known;
    const circles = this.circular.size;
    const rows: Scalar[][] = [];
    for (let row = top; row <= bottom; row++) {
      const line: Scalar[] = [];
      for (let column = left; column <= right; column++) line.push(cell(row, column));
      rows.push(line);
    }
    if (isKept && this.circular.size === circles && this.waiting[sheet].size === 0) this.ranges.set(key, rows);
    return rows;
  }

  /** Blank cells count where an operation goes through a range cell by cell; whole rows and columns end with the last cell used. */
  readAll(place: SheetArea): Operand {
    const { top, left, bottom, right } = place;
    const cells = asMatrix(this.read(place));
    const [rows, columns] = [bottom - top + 1, right - left + 1];
    if ((cells.length === rows && cells[0].length === columns) || rows * columns > MOST_CELLS) return cells;
    return Array.from({ length: rows }, (_, row) =>
      Array.from({ length: columns }, (__, column) => cells[row]?.[column] ?? null),
    );
  }

  /** Array formulas whose values may reach into a place are evaluated before it is read. */
  private spillBefore(place: SheetArea): void {
    for (const cell of [...this.waiting[place.sheet]]) {
      if (cell.row > place.bottom || cell.column > place.right) continue;
      if (this.states.get(cell)?.status === "new") this.value(cell);
    }
  }

  private isPassedOver(sheet: number, row: number, column: number, passOver: SubtotalFilter): boolean {
    if (passOver.hiddenRows && this.input.hiddenRows?.[sheet]?.has(row)) return true;
    const formula = passOver.subtotals ? this.byPlace[sheet]?.get(row * COLUMNS + column) : undefined;
    return formula !== undefined && SUBTOTALS.test(formula.formula.source);
  }

  private cell(sheet: number, row: number, column: number): Scalar {
    const place = row * COLUMNS + column;
    const formula = this.byPlace[sheet]?.get(place);
    if (formula) return this.value(formula);
    const covered = this.covered[sheet]?.get(place);
    if (covered) {
      this.value(covered.master);
      const values = this.states.get(covered.master)?.values;
      if (values) return values[covered.down]?.[covered.across] ?? null;
    }
    return this.input.values[sheet]?.get(row)?.get(column) ?? null;
  }
}

/** A formula that gives a blank cell shows a nought, as stored files do. */
function shown(value: Scalar): Scalar {
  if (value === null) return 0;
  return typeof value === "number" && !Number.isFinite(value) ? CellError.of("#NUM!") : value;
}
