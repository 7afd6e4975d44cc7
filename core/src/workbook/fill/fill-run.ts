import type { Finding } from "../../common/index.js";
import type { Env } from "../../expression/index.js";
import {
  type BookFacts,
  CellError,
  type CompiledFormula,
  calculate,
  compileFormula,
  type FormulaCell,
  type FormulaReference,
  type Matrix,
  type Scalar,
  type SheetArea,
  type TableReference,
} from "../../formula/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import { cellName, MAX_COLUMNS, MAX_ROWS, phoneticReadings, type Workbook } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { movePivots, type StalePivot } from "../pivot/index.js";
import { sheetName } from "../sheets/sheet-name.js";
import type { BoundSheet } from "../template/bind.js";
import { locateInTable } from "../template/defined-tables.js";
import { type FormulaText, isRepeated, type Moves, moveRange } from "../template/formula-text.js";
import type { WorkbookTemplate } from "../template/template.js";
import { AxisMap, type Instance, movesAtAll, type SheetMap } from "./axis-map.js";
import { dropCalculationChain } from "./calculation-chain.js";
import { isStored } from "./cell-xml.js";
import type { ReferredScalars } from "./chart-values.js";
import type { BoundName, OwnSheet } from "./fill.js";
import { type OutputRow, placeRows } from "./instantiate-rows.js";
import { moveRelatedParts } from "./related-parts.js";
import { AddedTexts, type SharedTable } from "./shared-texts.js";
import { writeSheet } from "./write-sheet.js";
import { writeWorkbook } from "./write-workbook.js";

/** A formula that was evaluated again. */
export interface RecalculatedCell {
  readonly sheet: string;
  readonly cell: string;
  readonly formula: string;
  /** As it is shown without a format; errors by their names. */
  readonly stored: string | number | boolean | null;
  /** `null` also where it could not be evaluated; a finding says so then. */
  readonly value: string | number | boolean | null;
  readonly isSame: boolean;
}

function shownScalar(value: Scalar): string | number | boolean | null {
  return value instanceof CellError ? value.name : value;
}

/** One filling: places rows, evaluates, writes. */
export class Filling {
  readonly findings: Finding[] = [];
  /** Pivots that still show what the template does; after `parts`. */
  stalePivots: readonly StalePivot[] = [];
  private readonly maps = new Map<string, SheetMap>();
  private readonly renamed = new Map<string, string>();
  private readonly indexes = new Map<string, number>();
  private readonly values: Map<number, Map<number, Scalar>>[] = [];
  private readonly hiddenRows: Set<number>[] = [];
  private readonly formulas: FormulaCell[] = [];
  private readonly results = new Map<FormulaCell, Scalar>();
  /** All values of array formulas. */
  private readonly arrays = new Map<FormulaCell, Matrix>();
  /** By sheet the values of array formulas in other cells than their own. */
  private readonly spilled = new Map<number, Map<number, Map<number, Scalar>>>();
  private mustRecalculate = false;
  private readonly hasFormulas: boolean;
  private readonly texts: AddedTexts | undefined;

  constructor(
    private readonly template: WorkbookTemplate,
    private readonly bound: { readonly sheets: readonly BoundSheet[]; readonly names: readonly BoundName[] },
    private readonly env: Env,
    shared: SharedTable | undefined,
    /** The template with its texts filled, and sheets with lines and names of their own. */
    private readonly begun: { readonly base: OoxmlPackage; readonly own?: ReadonlyMap<number, OwnSheet> | undefined },
  ) {
    this.texts = shared && new AddedTexts(shared);
    template.workbook.sheets.forEach((info, index) => {
      this.indexes.set(info.name.toLowerCase(), index);
      this.values[index] = new Map();
      this.hiddenRows[index] = new Set();
    });
    this.hasFormulas = bound.sheets.some((one) => one.hasFormulas);
    for (const { sheet, name, sections } of bound.sheets) {
      const key = sheet.info.name.toLowerCase();
      const seen = this.envOf(sheet.index);
      this.maps.set(key, { rows: new AxisMap(sections.rows, seen), columns: new AxisMap(sections.columns, seen) });
      const given = begun.own?.get(sheet.index)?.name;
      if (given !== undefined) this.renamed.set(key, given);
      else if (sheet.info.name.includes("{{")) this.renamed.set(key, sheetName(name.fill(seen)));
    }
  }

  private envOf(sheet: number): Env {
    return this.begun.own?.get(sheet)?.env ?? this.env;
  }

  parts(): Map<string, Uint8Array | string | null> {
    const rows = this.bound.sheets.map((bound) => this.place(bound));
    this.evaluate();
    const parts = new Map<string, Uint8Array | string | null>();
    this.bound.sheets.forEach((bound, index) => {
      if (this.mustWrite(bound)) parts.set(bound.sheet.info.part, this.write(bound, rows[index]));
    });
    if (this.anyMoves || this.renamed.size > 0 || this.template.hasCharts) this.moveOthers(parts);
    if (this.anyMoves || this.spilled.size > 0)
      for (const [part, text] of dropCalculationChain(this.template.workbook)) parts.set(part, text);
    if (this.template.hasPivots) this.movePivots(parts);
    const added = this.texts?.part();
    if (added) parts.set(added.name, added.text);
    const workbookPart = writeWorkbook(this.template.workbook, this.bound.names, {
      env: this.env,
      renamed: this.renamed,
      moves: this.movesOn(""),
      anyMoves: this.anyMoves,
      mustRecalculate: this.mustRecalculate,
    });
    if (workbookPart !== undefined) parts.set(this.template.workbook.part, workbookPart);
    return parts;
  }

  /** Every formula with what is stored and what it comes to now; to be asked after `parts`. */
  recalculated(): RecalculatedCell[] {
    return this.formulas.map((cell) => {
      const value = this.results.get(cell);
      return {
        sheet: this.template.workbook.sheets[cell.sheet].name,
        cell: cellName(cell.row, cell.column),
        formula: cell.formula.source,
        stored: shownScalar(cell.stored),
        value: value === undefined ? null : shownScalar(value),
        isSame: value !== undefined && isStored(cell, value),
      };
    });
  }

  /** A sheet is written anew where it has marks, its rows move or sheets got new names, or a result is not what was stored. */
  private mustWrite(bound: BoundSheet): boolean {
    const { info, index } = bound.sheet;
    if (bound.hasMarks || movesAtAll(this.mapOf(info.name)) || this.spilled.has(index)) return true;
    // Formulas of cells, and of what stands around them: sparklines, rules and lists of other sheets' cells.
    if ((bound.hasFormulas || bound.leadsElsewhere) && (this.renamed.size > 0 || this.anyMoves)) return true;
    return this.formulas.some((cell) => cell.sheet === index && !isStored(cell, this.results.get(cell)));
  }

  private get anyMoves(): boolean {
    return [...this.maps.values()].some(movesAtAll);
  }

  private readonly mapNamed = (name: string): SheetMap | undefined => this.maps.get(name.toLowerCase());

  private mapOf(sheet: string): SheetMap {
    return this.maps.get(sheet.toLowerCase()) ?? UNMOVED;
  }

  private movesOn(sheet: string, instance?: Instance): Moves {
    return { own: sheet, map: this.mapNamed, renamed: this.renamed, instance };
  }

  /** Drawings, charts, tables and comments of all sheets. */
  private moveOthers(parts: Map<string, Uint8Array | string | null>): void {
    for (const { name, part } of this.template.workbook.sheets) {
      const around = {
        map: this.mapOf(name),
        moves: this.movesOn(name),
        values: (formula: FormulaText) => this.valuesAt(formula, name),
      };
      for (const [target, text] of moveRelatedParts(this.begun.base, part, around)) parts.set(target, text);
    }
  }

  private movePivots(parts: Map<string, Uint8Array | string | null>): void {
    const filled = new Set(
      this.bound.sheets.filter((bound) => this.mustWrite(bound)).map((bound) => bound.sheet.info.name.toLowerCase()),
    );
    const site = {
      map: this.mapNamed,
      renamed: this.renamed,
      isFilled: (sheet: string) => filled.has(sheet.toLowerCase()),
    };
    this.stalePivots = movePivots(this.template.workbook, site, parts);
  }

  private place(bound: BoundSheet): OutputRow[] {
    const { info, index } = bound.sheet;
    return placeRows(bound, {
      env: this.envOf(index),
      map: this.mapOf(info.name),
      texts: this.texts,
      values: this.hasFormulas || this.template.hasCharts ? this.values[index] : undefined,
      hiddenRows: this.hiddenRows[index],
      formulas: this.formulas,
      locate: (reference, own, instance) => this.locate(reference, own, instance),
      note: (code, where, what) => this.note(code, where, what),
    });
  }

  private locate(reference: FormulaReference, own: string, instance: Instance | undefined): SheetArea | undefined {
    const name = reference.sheet ?? own;
    const sheet = this.indexes.get(name.toLowerCase());
    if (sheet === undefined) return undefined;
    const { range, single } = reference;
    const moved = moveRange(range, single, this.mapOf(name), name === own ? instance : undefined);
    return {
      sheet,
      top: moved.top ?? 0,
      left: moved.left ?? 0,
      bottom: moved.bottom ?? MAX_ROWS - 1,
      right: moved.right ?? MAX_COLUMNS - 1,
    };
  }

  private evaluate(): void {
    if (this.formulas.length === 0) return;
    const calculation = calculate({
      values: this.values,
      formulas: this.formulas,
      name: (name, sheet) => this.definedName(name, sheet),
      table: (reference, cell) => this.locateTable(reference, cell),
      sheetIndex: (name) => this.indexes.get(name.toLowerCase()),
      sheetNames: [...this.indexes].sort(([, a], [, b]) => a - b).map(([name]) => name),
      book: bookFacts(this.template.workbook),
      now: this.env.today,
      hiddenRows: this.hiddenRows,
    });
    for (const { cell, value, values } of calculation.results) {
      this.results.set(cell, value);
      if (values) this.keepArray(cell, values);
    }
    for (const { cell, what } of calculation.unsupported) {
      this.mustRecalculate = true;
      this.note(
        say().workbook.calculated(),
        this.cellPlace(cell),
        say().workbook.cellUsesCalculatedHereWorkbook({ what }),
        "warn",
      );
    }
    for (const cell of calculation.circular)
      this.note("circular", this.cellPlace(cell), say().workbook.formulaLeadsBackItself(), "warn");
  }

  private keepArray(cell: FormulaCell, values: Matrix): void {
    this.arrays.set(cell, values);
    const rows = this.spilled.get(cell.sheet) ?? new Map<number, Map<number, Scalar>>();
    this.spilled.set(cell.sheet, rows);
    values.forEach((line, down) => {
      const row = rows.get(cell.row + down) ?? new Map<number, Scalar>();
      rows.set(cell.row + down, row);
      line.forEach((value, across) => {
        if (down > 0 || across > 0) row.set(cell.column + across, value);
      });
    });
  }

  private locateTable(reference: TableReference, cell: FormulaCell): SheetArea | CellError {
    const { tables, workbook } = this.template;
    return locateInTable(tables, reference, cell, (sheet) => this.mapOf(workbook.sheets[sheet].name));
  }

  private definedName(
    name: string,
    sheet: number,
  ): { formula: CompiledFormula; locate: FormulaCell["locate"] } | undefined {
    const candidates = this.bound.names.filter((entry) => entry.name.toLowerCase() === name.toLowerCase());
    const found =
      candidates.find((entry) => entry.sheet === sheet) ?? candidates.find((entry) => entry.sheet === undefined);
    if (found) {
      const own = this.template.workbook.sheets[found.sheet ?? sheet].name;
      return {
        formula: compileFormula(found.marks ? found.marks.fill(this.env) : found.formula, "array"),
        locate: (reference) => {
          const grows = isRepeated(reference, this.maps.get((reference.sheet ?? own).toLowerCase()));
          return this.locate(grows ? { ...reference, single: false } : reference, own, undefined);
        },
      };
    }
    // A table's name alone means its rows.
    const table = this.template.tables.find((one) => one.name.toLowerCase() === name.toLowerCase());
    return table && { formula: compileFormula(`${table.name}[]`, "array"), locate: () => undefined };
  }

  /** Values of the cells that a formula's references lead to, in reading order. */
  private valuesAt(formula: FormulaText, own: string): ReferredScalars | undefined {
    const found: Scalar[] = [];
    let width = 0;
    for (const piece of formula) {
      if (typeof piece === "string") continue;
      const place = this.locate(piece, own, undefined);
      if (!place) return undefined;
      const right = Math.min(place.right, place.left + MAX_CHART_VALUES);
      width ||= right - place.left + 1;
      const bottom = Math.min(place.bottom, place.top + MAX_CHART_VALUES);
      for (let row = place.top; row <= bottom; row++)
        for (let column = place.left; column <= right; column++) found.push(this.valueAt(place.sheet, row, column));
    }
    return width > 0 ? { list: found, width } : undefined;
  }

  private byPlace: Map<string, FormulaCell> | undefined;

  private valueAt(sheet: number, row: number, column: number): Scalar {
    this.byPlace ??= new Map(this.formulas.map((cell) => [`${cell.sheet} ${cell.row} ${cell.column}`, cell]));
    const formula = this.byPlace.get(`${sheet} ${row} ${column}`);
    if (formula) return this.results.get(formula) ?? null;
    return this.spilled.get(sheet)?.get(row)?.get(column) ?? this.values[sheet]?.get(row)?.get(column) ?? null;
  }

  private cellPlace(cell: FormulaCell): string {
    return say().workbook.sheetCellOf({
      name: this.template.workbook.sheets[cell.sheet].name,
      cellName: cellName(cell.row, cell.column),
    });
  }

  private note(code: string, where: string, what: string, severity: Finding["severity"] = "note"): void {
    const place = `${this.template.workbook.package.where}, ${where}`;
    if (this.findings.some((finding) => finding.code === code && finding.where === place)) return;
    this.findings.push({
      code,
      severity,
      where: place,
      what,
      advice: say().workbook.lookOnceFilledFile({ severity }),
    });
  }

  private write(bound: BoundSheet, rows: readonly OutputRow[]): string | Uint8Array {
    const { info, index } = bound.sheet;
    return writeSheet(bound, rows, {
      around: { map: this.mapOf(info.name), moves: this.movesOn(info.name), env: this.envOf(index) },
      texts: this.texts,
      spilled: this.spilled.get(index),
      result: (cell) => this.results.get(cell) ?? null,
      array: (cell) => this.arrays.get(cell),
      moves: (instance) => this.movesOn(info.name, instance),
    });
  }
}

/** Charts draw no more points than this per row or column. */
const MAX_CHART_VALUES = 32_000;

const UNMOVED: SheetMap = (() => {
  const none: Env = {
    table: { columns: [], rowCount: 0, rowNumbers: [] },
    lines: [],
    row: -1,
    spaces: {},
    locale: "en-GB",
    today: 0,
  };
  return { rows: new AxisMap([], none), columns: new AxisMap([], none) };
})();

function bookFacts(workbook: Workbook): BookFacts {
  return {
    get readings() {
      return phoneticReadings(workbook);
    },
    isCalculatedByHand: workbook.xml.child("calcPr")?.attr("calcMode") === "manual",
  };
}
