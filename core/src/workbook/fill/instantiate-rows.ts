/** Puts the cells of a template's sheet where they lie in the filled one, with their values. */

import { type Env, linesOf, OWN_LINES, withLine, withLines } from "../../expression/index.js";
import type { FormulaCell, FormulaReference, Scalar, SheetArea } from "../../formula/index.js";
import { columnLetters } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import type { BoundCell, BoundContent, BoundSheet } from "../template/bind.js";
import type { Instance, Path, RowInstance, SheetMap } from "./axis-map.js";
import { placeValue } from "./cell-xml.js";
import { writePlainRows } from "./plain-rows.js";
import type { AddedTexts } from "./shared-texts.js";

/** What few cells have beside a value. */
interface CellExtras {
  readonly formula?: FormulaCell | undefined;
  readonly instance?: Instance | undefined;
  /** The filled runs of rich text. */
  readonly runs?: readonly string[] | undefined;
  /** Nothing but looks: of rows without lines. */
  readonly isBlank?: boolean;
}

const PLAIN: CellExtras = {};
const BLANK: CellExtras = { isBlank: true };

/** A cell of a filled sheet on its way to being written; formulas get their value when all are known. */
export class OutputCell {
  /** All cells have one shape, which is what makes writing millions of them fast. */
  constructor(
    readonly bound: BoundCell,
    /** In the filled sheet, 0-based. */
    readonly column: number,
    readonly value: Scalar,
    readonly style: number,
    private readonly more: CellExtras = PLAIN,
  ) {}

  get formula(): FormulaCell | undefined {
    return this.more.formula;
  }

  get instance(): Instance | undefined {
    return this.more.instance;
  }

  get runs(): readonly string[] | undefined {
    return this.more.runs;
  }

  get isBlank(): boolean {
    return this.more.isBlank === true;
  }
}

export interface OutputRow {
  readonly number: number;
  readonly attributes: string;
  readonly cells: readonly OutputCell[];
  /** Many rows written already. */
  readonly written?: Uint8Array;
}

/** What placing a sheet gives, and what it asks. */
export interface PlacingSite {
  readonly env: Env;
  readonly map: SheetMap;
  readonly texts: AddedTexts | undefined;
  /** Where values go that formulas and charts look at; `undefined` where nothing does. */
  readonly values: Map<number, Map<number, Scalar>> | undefined;
  readonly hiddenRows: Set<number>;
  readonly formulas: FormulaCell[];
  readonly locate: (reference: FormulaReference, own: string, instance: Instance | undefined) => SheetArea | undefined;
  readonly note: (code: string, where: string, what: string) => void;
}

const HIDDEN = / hidden="(?:1|true)"/;
const NO_PATH: Path = [];

export function placeRows(bound: BoundSheet, site: PlacingSite): OutputRow[] {
  return new Placing(bound, site).rows();
}

class Placing {
  private readonly isWide: boolean;
  /** Lines of sub-groups across, by sub-group, for finding those that a row shares with them. */
  private readonly sets = new WeakMap<readonly number[], ReadonlySet<number>>();

  constructor(
    private readonly bound: BoundSheet,
    private readonly site: PlacingSite,
  ) {
    this.isWide = bound.sections.columns.length > 0;
  }

  rows(): OutputRow[] {
    const rows: OutputRow[] = [];
    this.site.map.rows.walk(
      this.bound.rows.map(({ row }) => row),
      (index, spot) => rows.push(this.row(index, spot)),
      (index, { start, spot }) => this.manyAtOnce(index, start, spot, rows),
    );
    return rows;
  }

  /** Rows of plain columns of the lines are written straight away. */
  private manyAtOnce(index: number, start: number, spot: RowInstance, rows: OutputRow[]): boolean {
    const { plain } = this.bound.rows[index];
    const [list] = spot.lists ?? [];
    const [name = OWN_LINES] = spot.names;
    if (
      !plain ||
      (plain.lines ?? name) !== name ||
      !list ||
      list.length === 0 ||
      spot.areas.length > 0 ||
      this.isWide ||
      this.bound.mayGrow
    )
      return false;
    const { values } = this.site;
    const see = (number: number, column: number, value: Scalar): void => {
      const known = values?.get(number);
      if (known) known.set(column, value);
      else values?.set(number, new Map([[column, value]]));
    };
    const { prefix } = this.bound.sheet;
    const set = { table: linesOf(spot.env, name).table, lines: list };
    const written = writePlainRows(plain, set, { first: start, prefix }, this.site.texts, values ? see : undefined);
    rows.push({ number: start, attributes: "", cells: [], written });
    return true;
  }

  private row(index: number, spot: RowInstance): OutputRow {
    const { attributes, cells } = this.bound.rows[index];
    const number = spot.out;
    if (spot.isVoid || HIDDEN.test(attributes)) this.site.hiddenRows.add(number);
    const values = new Map<number, Scalar>();
    this.site.values?.set(number, values);
    const placed: OutputCell[] = [];
    // Without columns that repeat or areas all cells of a row look at the same.
    const isOne = !this.isWide && spot.areas.length === 0;
    const same = isOne ? this.envOf(spot, undefined, 0) : undefined;
    const here = spot.path.length > 0 ? { rows: spot.path, columns: NO_PATH } : undefined;
    const put = (cell: BoundCell, across: RowInstance | undefined): void => {
      const column = across?.out ?? cell.cell.column;
      const env = isOne ? same : this.envOf(spot, across, cell.cell.column);
      // Without any lines the row stays as an anchor for formulas, blank and hidden.
      if (env === undefined) {
        placed.push(blank(cell, column));
        return;
      }
      const instance = across && across.path.length > 0 ? { rows: spot.path, columns: across.path } : here;
      const output = this.cell(cell, number, column, env, instance);
      if (output.value !== null && !output.formula) values.set(column, output.value);
      placed.push(output);
    };
    if (this.isWide)
      this.site.map.columns.walk(
        cells.map(({ cell }) => cell.column),
        (at, across) => put(cells[at], across),
      );
    else for (const cell of cells) put(cell, undefined);
    return { number, attributes: this.attributes(attributes, spot.isVoid), cells: placed };
  }

  private attributes(attributes: string, isVoid: boolean): string {
    const narrow = this.isWide || this.bound.mayGrow ? attributes.replace(/ spans="[^"]*"/, "") : attributes;
    return isVoid ? `${narrow.replace(/ hidden="[^"]*"/, "")} hidden="1"` : narrow;
  }

  /** What a cell looks at; `undefined` where it has no line to show. */
  private envOf(down: RowInstance, across: RowInstance | undefined, column: number): Env | undefined {
    if (down.isVoid || across?.isVoid) return undefined;
    const env = across ? this.shared(down.env, across.env) : down.env;
    const own = lineOf(down, column);
    const beside = across && lineOf(across, -1);
    if (own === null || beside === null) return undefined;
    if (own !== undefined && across && across.path.length > 0 && !this.holds(across.env, own)) return undefined;
    const here = beside === undefined || beside.name === own?.name ? env : withLine(env, beside.name, beside.row);
    return own === undefined ? here : withLine(here, own.name, own.row);
  }

  /** Of each kind of lines those that a row and a column have in common. */
  private shared(down: Env, across: Env): Env {
    let env = down;
    for (const name of [OWN_LINES, ...(this.site.env.further?.keys() ?? [])]) {
      const [whole, below, beside] = [this.site.env, down, across].map((one) => linesOf(one, name).lines);
      if (beside === whole) continue;
      const lines = below === whole ? beside : below.filter((row) => this.holds(across, { name, row }));
      if (name === OWN_LINES) env = { ...env, lines };
      else env = withLines(env, name, lines);
    }
    return env;
  }

  private holds(env: Env, { name, row }: NamedLine): boolean {
    const { lines } = linesOf(env, name);
    let set = this.sets.get(lines);
    if (!set) {
      set = new Set(lines);
      this.sets.set(lines, set);
    }
    return set.has(row);
  }

  private cell(cell: BoundCell, row: number, column: number, env: Env, instance: Instance | undefined): OutputCell {
    const { content } = cell;
    const { style, coveredBy } = cell.cell;
    if (coveredBy && coveredBy.compiled.unsupported.length === 0) return blank(cell, column);
    switch (content.kind) {
      case "fixed":
        if (content.what) {
          const place = say().workbook.sheetCell({
            name: this.bound.sheet.info.name,
            columnLetters: columnLetters(column),
            row: row + 1,
          });
          this.site.note("kept-formula", place, say().workbook.cellHoldsStoredValueKept({ what: content.what }));
        }
        return new OutputCell(cell, column, content.value, style);
      case "formula": {
        const formula = this.formulaCell(content, { row, column }, cell, instance);
        this.site.formulas.push(formula);
        return new OutputCell(cell, column, null, style, { formula, instance });
      }
      case "value": {
        const placed = placeValue(content, env);
        return new OutputCell(cell, column, placed.value, placed.style);
      }
      case "text":
        return new OutputCell(cell, column, content.bound.fill(env), style);
      case "rich": {
        const runs = content.runs.map((run) => run.bound.fill(env));
        return new OutputCell(cell, column, runs.join(""), style, { runs });
      }
    }
  }

  private formulaCell(
    content: BoundContent & { kind: "formula" },
    at: { readonly row: number; readonly column: number },
    cell: BoundCell,
    instance: Instance | undefined,
  ): FormulaCell {
    const { sheet } = this.bound;
    const { array } = content;
    const { map } = this.site;
    return {
      sheet: sheet.index,
      row: at.row,
      column: at.column,
      formula: content.compiled,
      stored: content.stored,
      locate: (reference) => this.site.locate(reference, sheet.info.name, instance),
      array: !array
        ? undefined
        : array.isFree
          ? "free"
          : {
              rows: map.rows.last(array.bottom, instance?.rows) - at.row + 1,
              columns: map.columns.last(Math.max(array.right, cell.cell.column), instance?.columns) - at.column + 1,
            },
    };
  }
}

function blank(cell: BoundCell, column: number): OutputCell {
  return new OutputCell(cell, column, null, cell.cell.style, BLANK);
}

/** A line with the folded name of those it is one of. */
interface NamedLine {
  readonly name: string;
  readonly row: number;
}

/** The line that a cell shows: `undefined` outside of repeated rows, `null` where its area has no more. */
function lineOf(spot: RowInstance, column: number): NamedLine | null | undefined {
  const { lists, names, areas, index } = spot;
  if (!lists) return undefined;
  const area = areas.length === 0 ? 0 : areas.findIndex((one) => column >= one.from && column <= one.to);
  const at = area >= 0 ? area : lists.findIndex((list) => index < list.length);
  const row = lists[at]?.[index];
  return row === undefined ? null : { name: names[at], row };
}
