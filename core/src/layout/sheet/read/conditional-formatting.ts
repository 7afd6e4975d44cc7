/** Rules that change how cells look by their values: ECMA-376 part 1, 18.3.1.10 and 18.3.1.18. */
import {
  CellError,
  calculate,
  compileFormula,
  type FormulaCell,
  type Scalar,
  shiftedPlace,
} from "../../../formula/index.js";
import type { XmlElement } from "../../../ooxml/index.js";
import {
  cellValues,
  type FormatChange,
  isTrue,
  mixColors,
  resolveColor,
  type Theme,
  type Workbook,
} from "../../../spreadsheet/index.js";
import { corner, type Rule, readRules } from "./read-rules.js";
import type { PrintCell } from "./read-sheet.js";

/** What rules make of one cell. */
export interface RuledLook {
  readonly changes: readonly FormatChange[];
  readonly fill?: string | undefined;
  readonly bar?: Bar | undefined;
  readonly icon?: { readonly set: string; readonly index: number; readonly count: number } | undefined;
  readonly hidesValue?: boolean | undefined;
}

/** A bar in a cell: from where to where, as shares of its width. */
export interface Bar {
  readonly from: number;
  readonly to: number;
  readonly axis: number | undefined;
  readonly color: string;
  readonly isGradient: boolean;
  readonly border: string | undefined;
}

export type RuledCells = ReadonlyMap<number, ReadonlyMap<number, RuledLook>>;

type Cells = ReadonlyMap<number, ReadonlyMap<number, PrintCell>>;

/** The looks of all cells that rules change. `root` is the sheet without its cells. */
export function applyRules(
  workbook: Workbook,
  sheet: number,
  root: XmlElement,
  cells: Cells,
  now: number,
): { readonly looks: RuledCells; readonly unknown: readonly string[] } {
  const unknown = new Set<string>();
  const rules = readRules(workbook, root, unknown);
  if (rules.length === 0) return { looks: new Map(), unknown: [...unknown] };
  return { looks: new Ruling(workbook, sheet, rules, cells, now).looks(), unknown: [...unknown] };
}

class Ruling {
  private readonly truths = new Map<Rule, Set<string>>();
  private readonly found = new Map<number, Map<number, RuledLook>>();

  constructor(
    private readonly workbook: Workbook,
    private readonly sheet: number,
    private readonly rules: readonly Rule[],
    private readonly cells: Cells,
    private readonly now: number,
  ) {}

  looks(): RuledCells {
    this.evaluate();
    const done = new Set<string>();
    const stopped = new Set<string>();
    for (const rule of this.rules) {
      const look = this.lookOf(rule);
      for (const [row, column] of this.cellsIn(rule)) {
        const key = `${row} ${column}`;
        if (stopped.has(key)) continue;
        const made = look(row, column);
        if (!made) continue;
        done.add(key);
        this.add(row, column, made);
        if (isTrue(rule.element.attr("stopIfTrue"))) stopped.add(key);
      }
    }
    return this.found;
  }

  private add(row: number, column: number, look: RuledLook): void {
    const line = this.found.get(row) ?? new Map<number, RuledLook>();
    this.found.set(row, line);
    const known = line.get(column);
    // Of two rules that say the same thing differently the first counts.
    line.set(column, known ? { ...look, ...clean(known), changes: [...known.changes, ...look.changes] } : look);
  }

  /** Cells of a rule, as far as the sheet has any. */
  private *cellsIn(rule: Rule): Generator<[number, number]> {
    for (const range of rule.ranges) {
      for (const [row, line] of this.cells) {
        if (row < range.top || row > range.bottom) continue;
        for (const column of line.keys()) if (column >= range.left && column <= range.right) yield [row, column];
      }
    }
  }

  private numbers(rule: Rule): number[] {
    const numbers: number[] = [];
    for (const [row, column] of this.cellsIn(rule)) {
      const value = this.cells.get(row)?.get(column)?.value;
      if (typeof value === "number") numbers.push(value);
    }
    return numbers;
  }

  private numberAt(row: number, column: number): number | undefined {
    const value = this.cells.get(row)?.get(column)?.value;
    return typeof value === "number" ? value : undefined;
  }

  private lookOf(rule: Rule): (row: number, column: number) => RuledLook | undefined {
    const changed: RuledLook = { changes: rule.change ? [rule.change] : [] };
    const when = (test: (row: number, column: number) => boolean) => (row: number, column: number) =>
      test(row, column) ? changed : undefined;
    switch (rule.type) {
      case "colorScale":
        return this.scale(rule);
      case "dataBar":
        return this.bars(rule);
      case "iconSet":
        return this.icons(rule);
      case "top10":
        return when(this.extremes(rule));
      case "aboveAverage":
        return when(this.aroundAverage(rule));
      case "duplicateValues":
      case "uniqueValues":
        return when(this.repeated(rule));
      default: {
        const truths = this.truths.get(rule);
        return when((row, column) => truths?.has(`${row} ${column}`) ?? false);
      }
    }
  }

  /** Rules that are formulas, all at once. */
  private evaluate(): void {
    const rules = this.rules.filter((rule) => rule.formula !== undefined);
    if (rules.length === 0) return;
    const tests: { rule: Rule; row: number; column: number; cell: FormulaCell }[] = [];
    for (const rule of rules) {
      const formula = compileFormula(rule.formula as string, "array");
      const origin = corner(rule.ranges);
      for (const [row, column] of this.cellsIn(rule))
        tests.push({ rule, row, column, cell: this.formulaAt(formula, row, column, origin) });
    }
    const results = this.calculate(tests.map((test) => test.cell));
    tests.forEach(({ rule, row, column }, at) => {
      const value = results[at];
      if (value !== true && !(typeof value === "number" && value !== 0)) return;
      const truths = this.truths.get(rule) ?? new Set<string>();
      this.truths.set(rule, truths.add(`${row} ${column}`));
    });
  }

  private formulaAt(
    formula: ReturnType<typeof compileFormula>,
    row: number,
    column: number,
    origin: { row: number; column: number },
  ): FormulaCell {
    const { sheets } = this.workbook;
    return {
      // A sheet of their own: a rule's formula is no cell that others could read.
      sheet: sheets.length,
      row,
      column,
      formula,
      stored: false,
      locate: (reference) => {
        const sheet =
          reference.sheet === undefined
            ? this.sheet
            : sheets.findIndex((one) => one.name.toLowerCase() === reference.sheet?.toLowerCase());
        return sheet < 0 ? undefined : shiftedPlace(reference, sheet, row - origin.row, column - origin.column);
      },
    };
  }

  private calculate(formulas: readonly FormulaCell[]): Scalar[] {
    const { workbook } = this;
    const values = workbook.sheets.map((info, index) =>
      index === this.sheet ? valuesOf(this.cells) : scalarsOf(workbook, info.part),
    );
    const calculation = calculate({
      values: [...values, new Map()],
      formulas,
      name: (name) => {
        const found = workbook.names.find((one) => one.name.toLowerCase() === name.toLowerCase());
        return (
          found && {
            formula: compileFormula(found.formula, "array"),
            locate: this.formulaAt(compileFormula("0"), 0, 0, { row: 0, column: 0 }).locate,
          }
        );
      },
      now: this.now,
    });
    return calculation.results.map((result) => result.value);
  }

  /** The number behind a limit of a scale: 18.3.1.11. */
  private limit(cfvo: XmlElement | undefined, sorted: readonly number[], fallback: "min" | "max"): number {
    const [low, high] = [sorted[0] ?? 0, sorted[sorted.length - 1] ?? 0];
    const type = cfvo?.attr("type") ?? fallback;
    const source = cfvo?.attr("val") ?? cfvo?.child("f")?.text ?? "0";
    if (type === "min") return low;
    if (type === "max") return high;
    if (type === "autoMin") return Math.min(0, low);
    if (type === "autoMax") return Math.max(0, high);
    const plain = Number(source);
    const value = Number.isNaN(plain) ? this.formulaValue(source) : plain;
    if (type === "percent") return low + ((high - low) * value) / 100;
    if (type === "percentile") {
      const at = (value / 100) * (sorted.length - 1);
      const below = sorted[Math.floor(at)] ?? 0;
      return below + ((sorted[Math.ceil(at)] ?? below) - below) * (at - Math.floor(at));
    }
    return value;
  }

  private formulaValue(source: string): number {
    const cell = this.formulaAt(compileFormula(source, "array"), 0, 0, { row: 0, column: 0 });
    const [value] = this.calculate([cell]);
    return typeof value === "number" ? value : 0;
  }

  private scale(rule: Rule): (row: number, column: number) => RuledLook | undefined {
    const scale = rule.element.child("colorScale");
    const sorted = this.numbers(rule).sort((a, b) => a - b);
    const limits = (scale?.elements("cfvo") ?? []).map((cfvo, at) =>
      this.limit(cfvo, sorted, at === 0 ? "min" : "max"),
    );
    const colors = colorsOf(scale, this.workbook.theme);
    return (row, column) => {
      const value = this.numberAt(row, column);
      if (value === undefined || limits.length < 2) return undefined;
      let part = limits.findIndex((limit, at) => at > 0 && value <= limit);
      if (part < 0) part = limits.length - 1;
      const [low, high] = [limits[part - 1], limits[part]];
      const share = high === low ? (value >= high ? 1 : 0) : Math.min(1, Math.max(0, (value - low) / (high - low)));
      return { changes: [], fill: mixColors(colors[part] ?? "FFFFFF", colors[part - 1] ?? "FFFFFF", share) };
    };
  }

  private bars(rule: Rule): (row: number, column: number) => RuledLook | undefined {
    const plain = rule.element.child("dataBar");
    const later = rule.extension?.child("dataBar");
    const sorted = this.numbers(rule).sort((a, b) => a - b);
    const [first, second] = (later ?? plain)?.elements("cfvo") ?? [];
    const [low, high] = [this.limit(first, sorted, "min"), this.limit(second, sorted, "max")];
    const color = colorsOf(plain, this.workbook.theme)[0] ?? "638EC6";
    const theme = this.workbook.theme;
    const below = resolveColor(later?.child("negativeFillColor"), theme) ?? "FF0000";
    const border = resolveColor(later?.child("borderColor"), theme);
    const isGradient = later?.attr("gradient") === undefined || isTrue(later.attr("gradient"));
    const [least, most] = later
      ? [Number(later.attr("minLength") ?? 0) / 100, Number(later.attr("maxLength") ?? 100) / 100]
      : [Number(plain?.attr("minLength") ?? 10) / 100, Number(plain?.attr("maxLength") ?? 90) / 100];
    const hidesValue = plain?.attr("showValue") !== undefined && !isTrue(plain.attr("showValue"));
    const hasAxis = later !== undefined && low < 0;
    const axis = hasAxis ? Math.min(1, -low / (Math.max(high, 0) - low || 1)) : 0;
    return (row, column) => {
      const value = this.numberAt(row, column);
      if (value === undefined) return undefined;
      const share = high === low ? 1 : Math.min(1, Math.max(0, (value - low) / (high - low)));
      const to = hasAxis ? share * most : least + share * (most - least);
      const ends = hasAxis ? { from: Math.min(axis * most, to), to: Math.max(axis * most, to) } : { from: 0, to };
      return {
        changes: [],
        hidesValue,
        bar: {
          ...ends,
          axis: hasAxis ? axis * most : undefined,
          color: hasAxis && value < 0 ? below : color,
          isGradient,
          border,
        },
      };
    };
  }

  private icons(rule: Rule): (row: number, column: number) => RuledLook | undefined {
    const icons = rule.element.child("iconSet");
    const set = icons?.attr("iconSet") ?? "3TrafficLights1";
    const sorted = this.numbers(rule).sort((a, b) => a - b);
    const limits = (icons?.elements("cfvo") ?? []).map((cfvo) => ({
      value: this.limit(cfvo, sorted, "min"),
      // At the limit itself, if not said otherwise.
      strict: cfvo.attr("gte") !== undefined && !isTrue(cfvo.attr("gte")),
    }));
    const count = limits.length;
    const reverse = isTrue(icons?.attr("reverse"));
    const hidesValue = icons?.attr("showValue") !== undefined && !isTrue(icons.attr("showValue"));
    return (row, column) => {
      const value = this.numberAt(row, column);
      if (value === undefined || count === 0) return undefined;
      let index = 0;
      limits.forEach((limit, at) => {
        if (at > 0 && (limit.strict ? value > limit.value : value >= limit.value)) index = at;
      });
      return { changes: [], hidesValue, icon: { set, index: reverse ? count - 1 - index : index, count } };
    };
  }

  private extremes(rule: Rule): (row: number, column: number) => boolean {
    const isBottom = isTrue(rule.element.attr("bottom"));
    const sorted = this.numbers(rule).sort((a, b) => (isBottom ? a - b : b - a));
    const rank = Number(rule.element.attr("rank") ?? 10);
    const count = isTrue(rule.element.attr("percent")) ? Math.max(1, Math.floor((sorted.length * rank) / 100)) : rank;
    const limit = sorted[Math.min(count, sorted.length) - 1];
    return (row, column) => {
      const value = this.numberAt(row, column);
      return value !== undefined && limit !== undefined && (isBottom ? value <= limit : value >= limit);
    };
  }

  private aroundAverage(rule: Rule): (row: number, column: number) => boolean {
    const numbers = this.numbers(rule);
    const mean = numbers.reduce((sum, value) => sum + value, 0) / (numbers.length || 1);
    const spread = Math.sqrt(numbers.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (numbers.length || 1));
    const isBelow = rule.element.attr("aboveAverage") !== undefined && !isTrue(rule.element.attr("aboveAverage"));
    const orEqual = isTrue(rule.element.attr("equalAverage"));
    const limit = digits(mean + (isBelow ? -1 : 1) * Number(rule.element.attr("stdDev") ?? 0) * spread);
    return (row, column) => {
      const found = this.numberAt(row, column);
      if (found === undefined) return false;
      const value = digits(found);
      return (isBelow ? value < limit : value > limit) || (orEqual && value === limit);
    };
  }

  private repeated(rule: Rule): (row: number, column: number) => boolean {
    const keyAt = (row: number, column: number): string => {
      const value = this.cells.get(row)?.get(column)?.value ?? "";
      return `${typeof value} ${String(value).toLowerCase()}`;
    };
    const counts = new Map<string, number>();
    for (const [row, column] of this.cellsIn(rule)) {
      const key = keyAt(row, column);
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    const wantsSeveral = rule.type === "duplicateValues";
    return (row, column) => {
      const value = this.cells.get(row)?.get(column)?.value ?? "";
      return value !== "" && (counts.get(keyAt(row, column)) ?? 0) > 1 === wantsSeveral;
    };
  }
}

/** A number in the fifteen digits that cells have: three times 0.1 has the mean 0.1. */
function digits(value: number): number {
  return Number(value.toPrecision(15));
}

function colorsOf(element: XmlElement | undefined, theme: Theme): string[] {
  return (element?.elements("color") ?? []).map((color) => resolveColor(color, theme) ?? "FFFFFF");
}

/** What is said, without what is left open. */
function clean(look: RuledLook): Partial<RuledLook> {
  return Object.fromEntries(Object.entries(look).filter(([, value]) => value !== undefined));
}

function valuesOf(cells: Cells): Map<number, Map<number, Scalar>> {
  return new Map(
    [...cells].map(([row, line]) => [
      row,
      new Map(
        [...line]
          .filter(([, cell]) => cell.value !== "")
          .map(([column, { value, isError }]): [number, Scalar] => [column, isError ? CellError.named(value) : value]),
      ),
    ]),
  );
}

function scalarsOf(workbook: Workbook, part: string): Map<number, Map<number, Scalar>> {
  return new Map(
    [...cellValues(workbook, part)].map(([row, line]) => [
      row,
      new Map(
        [...line].map(([column, { value, isError }]): [number, Scalar] => [
          column,
          isError ? CellError.named(value) : value,
        ]),
      ),
    ]),
  );
}
