import type { CompiledFormula, FormulaReference, PassOver, Site } from "./compile.js";
import { CellError, isMatrix, type Operand, type Scalar, scalarOf } from "./value.js";

/** A rectangle of cells on a sheet, 0-based, corners included. */
export interface Place {
  readonly sheet: number;
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

/** A cell with a formula: `locate` says where a reference written in it lies now. */
export interface FormulaCell {
  readonly sheet: number;
  readonly row: number;
  readonly column: number;
  readonly formula: CompiledFormula;
  readonly locate: (reference: FormulaReference) => Place | undefined;
  /** Value stored in the file, which stays where the formula cannot be evaluated. */
  readonly stored: Scalar;
}

export interface CalculatorInput {
  /** For each sheet its cells without formulas, as rows of columns; missing is blank. */
  readonly values: readonly ReadonlyMap<number, ReadonlyMap<number, Scalar>>[];
  readonly formulas: readonly FormulaCell[];
  /** Where a defined name leads, or its constant. */
  readonly name: (name: string, sheet: number) => { place: Place } | { value: Scalar } | undefined;
  readonly now: number;
  /** For each sheet the rows that are hidden, which subtotals of kinds above 100 pass over. */
  readonly hiddenRows?: readonly ReadonlySet<number>[];
}

export interface Calculated {
  readonly cell: FormulaCell;
  readonly value: Scalar;
}

export interface Calculation {
  readonly results: readonly Calculated[];
  /** Cells that could not be evaluated, with what stands in the way. */
  readonly unsupported: readonly { readonly cell: FormulaCell; readonly what: string }[];
  readonly circular: readonly FormulaCell[];
}

/** Evaluation goes so many cells deep at once; deeper chains are taken up from their lower end. */
const MAX_DEPTH = 300;

const SUBTOTALS = /\b(SUBTOTAL|AGGREGATE)\(/i;

type State = { value: Scalar; status: "new" | "busy" | "done" };

/** Raised to leave a chain that is too deep for the stack; the cell named is evaluated first and the chain tried again. */
class TooDeep {
  constructor(readonly cell: FormulaCell) {}
}

/** Evaluates all formulas, each once, whatever the order they depend on each other. */
export function calculate(input: CalculatorInput): Calculation {
  return new Calculator(input).run();
}

class Calculator {
  private readonly states = new Map<FormulaCell, State>();
  private readonly byPlace: Map<number, FormulaCell>[] = [];
  private readonly lastRow: number[] = [];
  private readonly lastColumn: number[] = [];
  private readonly circular = new Set<FormulaCell>();
  private readonly unsupported: { cell: FormulaCell; what: string }[] = [];
  private depth = 0;

  constructor(private readonly input: CalculatorInput) {
    input.values.forEach((rows, sheet) => {
      this.byPlace[sheet] = new Map();
      this.lastRow[sheet] = 0;
      this.lastColumn[sheet] = 0;
      for (const [row, columns] of rows) for (const column of columns.keys()) this.grow(sheet, row, column);
    });
    for (const cell of input.formulas) {
      this.states.set(cell, { value: null, status: "new" });
      this.byPlace[cell.sheet].set(cell.row * 16_384 + cell.column, cell);
      this.grow(cell.sheet, cell.row, cell.column);
    }
  }

  run(): Calculation {
    for (const cell of this.input.formulas) this.evaluateFromBelow(cell);
    return {
      results: this.input.formulas.map((cell) => ({ cell, value: this.states.get(cell)?.value ?? null })),
      unsupported: this.unsupported,
      circular: [...this.circular],
    };
  }

  private grow(sheet: number, row: number, column: number): void {
    if (row > this.lastRow[sheet]) this.lastRow[sheet] = row;
    if (column > this.lastColumn[sheet]) this.lastColumn[sheet] = column;
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
    const state = this.states.get(cell) as State;
    if (state.status === "done") return state.value;
    if (state.status === "busy") {
      this.circular.add(cell);
      return CellError.of("#CIRC!");
    }
    if (cell.formula.unsupported.length > 0) {
      this.unsupported.push({ cell, what: cell.formula.unsupported.join(", ") });
      state.status = "done";
      state.value = cell.stored;
      return state.value;
    }
    if (this.depth >= MAX_DEPTH) throw new TooDeep(cell);
    state.status = "busy";
    this.depth++;
    const result = scalarOf(this.implicit(cell.formula.evaluate(this.siteOf(cell))));
    this.depth--;
    state.status = "done";
    // A formula that gives a blank cell shows a nought, as stored files do.
    state.value =
      result === null ? 0 : typeof result === "number" && !Number.isFinite(result) ? CellError.of("#NUM!") : result;
    return state.value;
  }

  private implicit(operand: Operand): Operand {
    return isMatrix(operand) ? scalarOf(operand) : operand;
  }

  private siteOf(cell: FormulaCell): Site {
    return {
      row: cell.row,
      column: cell.column,
      now: this.input.now,
      read: (reference, passOver) => {
        const place = cell.locate(reference);
        return place ? this.read(place, reference.single, passOver) : CellError.of("#REF!");
      },
      locate: (reference) => cell.locate(reference) ?? { top: 0, left: 0, bottom: 0, right: 0 },
      name: (name) => {
        const found = this.input.name(name, cell.sheet);
        if (!found) return CellError.of("#NAME?");
        if ("value" in found) return found.value;
        const { place } = found;
        return this.read(place, place.top === place.bottom && place.left === place.right);
      },
    };
  }

  private read(place: Place, single: boolean, passOver?: PassOver): Operand {
    const cell = (row: number, column: number): Scalar =>
      passOver && this.isPassedOver(place.sheet, row, column, passOver) ? null : this.cell(place.sheet, row, column);
    if (single) return cell(place.top, place.left);
    // Whole rows and columns are read as far as there are cells.
    const bottom = Math.min(place.bottom, Math.max(this.lastRow[place.sheet], place.top));
    const right = Math.min(place.right, Math.max(this.lastColumn[place.sheet], place.left));
    const rows: Scalar[][] = [];
    for (let row = place.top; row <= bottom; row++) {
      const line: Scalar[] = [];
      for (let column = place.left; column <= right; column++) line.push(cell(row, column));
      rows.push(line);
    }
    return rows;
  }

  private isPassedOver(sheet: number, row: number, column: number, passOver: PassOver): boolean {
    if (passOver.hiddenRows && this.input.hiddenRows?.[sheet]?.has(row)) return true;
    const formula = this.byPlace[sheet]?.get(row * 16_384 + column);
    return formula !== undefined && SUBTOTALS.test(formula.formula.source);
  }

  private cell(sheet: number, row: number, column: number): Scalar {
    const formula = this.byPlace[sheet]?.get(row * 16_384 + column);
    if (formula) return this.value(formula);
    return this.input.values[sheet]?.get(row)?.get(column) ?? null;
  }
}
