/** A formula is parsed once and turned into a function; where its references lie is asked anew at each evaluation. */

import type { AstExpression } from "@borgar/fx/xlsx";
import { parse, tokenize } from "@borgar/fx/xlsx";
import { AREA_FUNCTIONS, lookUpFunction } from "./function-list.js";
import { BINARY, eachNumber } from "./operators.js";
import { referenceOf, tableReferenceOf } from "./references.js";
import { takes } from "./signatures.js";
import { type Place, type Site, Unsupported } from "./site.js";
import { asMatrix, CellError, type ErrorName, isMatrix, type Operand, type Scalar, scalarOf, spread } from "./value.js";

export type Evaluate = (site: Site) => Operand;
/** Where a formula leads, for what gives cells and not values: `undefined` where it gives a value this time. */
export type EvaluateArea = (site: Site) => Place | CellError | undefined;

/** How a formula's cell takes its result: as one value, or as an array over several cells. */
export type FormulaMode = "value" | "array";

export interface CompiledFormula {
  readonly source: string;
  readonly evaluate: Evaluate;
  readonly area?: EvaluateArea | undefined;
  /** Names of functions and constructs that cannot be evaluated; then the value stored in the file stays. */
  readonly unsupported: readonly string[];
}

/**
 * What is asked of a part of a formula: one `value` (of a range the cell in the formula's own row or column),
 * the `range` as it is, or an `array`, where operations too go through ranges cell by cell.
 */
type Asked = "value" | "range" | "array";

interface Node {
  readonly evaluate: Evaluate;
  readonly area?: EvaluateArea | undefined;
  /** Whether the result can be an array, as far as the text tells. */
  readonly mayBeArray: boolean;
}

interface Building {
  readonly unsupported: string[];
  /** Names of LET in reach, the number of each its place among the locals. */
  readonly locals: readonly string[];
}

const CACHE = new Map<string, CompiledFormula>();
/** Formulas kept compiled; enough for many templates. */
const CACHE_SIZE = 5000;

/** Compiles a formula as stored, without its equals sign. Never throws: what cannot be read is `unsupported`. */
export function compileFormula(source: string, mode: FormulaMode = "value"): CompiledFormula {
  const key = `${mode} ${source}`;
  const known = CACHE.get(key);
  if (known) return known;
  const unsupported: string[] = [];
  let node: Node;
  try {
    node = build(parse(tokenize(`=${source}`, { mergeRefs: true })) as AstExpression, mode, {
      unsupported,
      locals: [],
    });
  } catch {
    unsupported.push("a formula that cannot be read");
    node = failing("#NAME?");
  }
  const compiled = { source, evaluate: node.evaluate, area: node.area, unsupported };
  if (CACHE.size >= CACHE_SIZE) CACHE.clear();
  CACHE.set(key, compiled);
  return compiled;
}

function constant(value: Operand): Node {
  return { evaluate: () => value, mayBeArray: isMatrix(value) };
}

function failing(name: ErrorName): Node {
  return constant(CellError.of(name));
}

function build(node: AstExpression, asked: Asked, building: Building): Node {
  switch (node.type) {
    case "Literal":
      return constant(node.value as Scalar);
    case "ErrorLiteral":
      return failing(node.value as ErrorName);
    case "ReferenceIdentifier":
      return buildReference(node.value, node.kind, asked, building);
    case "UnaryExpression":
      return buildUnary(node.operator, node.arguments[0] as AstExpression, asked, building);
    case "BinaryExpression":
      return buildBinary(node.operator, node.arguments as AstExpression[], asked, building);
    case "CallExpression":
      return buildCall(node, asked, building);
    case "ArrayExpression": {
      const rows = node.elements.map((row) =>
        row.map((cell) => build(cell as AstExpression, "value", building).evaluate),
      );
      return {
        evaluate: (site) => rows.map((row) => row.map((cell) => cell(site) as Scalar)),
        mayBeArray: true,
      };
    }
    default:
      building.unsupported.push("the function LAMBDA");
      return failing("#NAME?");
  }
}

/** Cells at a place as they are asked for. */
function fromArea(area: EvaluateArea, asked: Asked, otherwise?: Evaluate): Node {
  const evaluate: Evaluate = (site) => {
    const place = area(site);
    if (place === undefined) return otherwise ? otherwise(site) : CellError.of("#REF!");
    if (place instanceof CellError) return place;
    if (asked === "value") return intersected(place, site);
    return asked === "array" ? site.allCells(place) : site.cells(place);
  };
  return { evaluate, area, mayBeArray: asked !== "value" || otherwise !== undefined };
}

/** Of a range the cell in the formula's own row or column (18.17.2.4): no such cell is an error. */
function intersected(place: Place, site: Site): Operand {
  const { sheet, top, left, bottom, right } = place;
  const one = (row: number, column: number): Operand => {
    const cells = site.cells({ sheet, top: row, left: column, bottom: row, right: column });
    return isMatrix(cells) ? (cells[0]?.[0] ?? null) : cells;
  };
  const isRow = site.row >= top && site.row <= bottom;
  const isColumn = site.column >= left && site.column <= right;
  if (left === right) return top === bottom ? one(top, left) : isRow ? one(site.row, left) : CellError.of("#VALUE!");
  if (top === bottom) return isColumn ? one(top, site.column) : CellError.of("#VALUE!");
  return isRow && isColumn ? one(site.row, site.column) : CellError.of("#VALUE!");
}

function buildReference(value: string, kind: string, asked: Asked, building: Building): Node {
  if (kind === "table") {
    const reference = tableReferenceOf(value);
    if (reference) return fromArea((site) => site.locateTable(reference), asked);
    building.unsupported.push(`the table reference ${value}`);
    return failing("#REF!");
  }
  if (kind === "name") return buildName(value, asked, building);
  const reference = referenceOf(value);
  if (!reference || reference.sheet?.includes(":")) {
    building.unsupported.push(`the reference ${value}`);
    return failing("#REF!");
  }
  return fromArea((site) => site.locate(reference) ?? CellError.of("#REF!"), asked);
}

function buildName(name: string, asked: Asked, building: Building): Node {
  const at = building.locals.lastIndexOf(name.toLowerCase());
  if (at >= 0) return { evaluate: (site) => site.locals[at], mayBeArray: true };
  const found = (site: Site): ReturnType<Site["name"]> => {
    const entry = site.name(name);
    if (entry && entry.formula.unsupported.length > 0) throw new Unsupported(entry.formula.unsupported.join(", "));
    return entry;
  };
  const area: EvaluateArea = (site) => {
    const entry = found(site);
    return entry?.formula.area?.(entry.site);
  };
  const value: Evaluate = (site) => {
    const entry = found(site);
    return entry ? entry.formula.evaluate(entry.site) : CellError.of("#NAME?");
  };
  return fromArea(area, asked, value);
}

function buildUnary(operator: string, argument: AstExpression, asked: Asked, building: Building): Node {
  if (operator === "#") return spilled(build(argument, "range", building), asked);
  if (operator === "@") return build(argument, "value", building);
  const arg = build(argument, asked === "array" ? "array" : "value", building);
  const each = (change: (value: number) => number): Node => ({
    evaluate: (site) => eachNumber(arg.evaluate(site), change),
    mayBeArray: arg.mayBeArray,
  });
  if (operator === "-") return each((value) => -value);
  if (operator === "%") return each((value) => value / 100);
  if (operator === "+") return { evaluate: arg.evaluate, mayBeArray: arg.mayBeArray };
  building.unsupported.push(`the operator ${operator}`);
  return arg;
}

/** All cells that the array formula in a cell fills. */
function spilled(anchor: Node, asked: Asked): Node {
  return fromArea((site) => {
    const place = anchor.area?.(site);
    if (place === undefined) return CellError.of("#REF!");
    return place instanceof CellError ? place : (site.spillOf(place) ?? CellError.of("#REF!"));
  }, asked);
}

function buildBinary(operator: string, operands: readonly AstExpression[], asked: Asked, building: Building): Node {
  if (operator === ":" || operator === " " || operator === ",")
    return buildAreaOperation(operator, operands, asked, building);
  const calculate = BINARY[operator];
  if (!calculate) {
    building.unsupported.push(`the operator ${operator}`);
    return failing("#VALUE!");
  }
  const inner = asked === "array" ? "array" : "value";
  const left = build(operands[0], inner, building);
  const right = build(operands[1], inner, building);
  const pair = ([a, b]: readonly Scalar[]): Scalar => calculate(a, b);
  return {
    evaluate: (site) => {
      const [a, b] = [left.evaluate(site), right.evaluate(site)];
      return isMatrix(a) || isMatrix(b) ? spread([a, b], pair) : calculate(a, b);
    },
    mayBeArray: left.mayBeArray || right.mayBeArray,
  };
}

/** Operations on references: from one to the other, what both share, both together. */
function buildAreaOperation(
  operator: string,
  operands: readonly AstExpression[],
  asked: Asked,
  building: Building,
): Node {
  const [left, right] = operands.map((operand) => build(operand, "range", building));
  if (operator === ",") {
    return {
      evaluate: (site) =>
        [left, right].flatMap((node) => asMatrix(node.evaluate(site)).flatMap((row) => row.map((value) => [value]))),
      mayBeArray: true,
    };
  }
  return fromArea((site) => {
    const [a, b] = [left.area?.(site), right.area?.(site)];
    if (a instanceof CellError) return a;
    if (b instanceof CellError) return b;
    if (!a || !b || a.sheet !== b.sheet) return CellError.of("#VALUE!");
    return operator === ":" ? around(a, b) : shared(a, b);
  }, asked);
}

function around(a: Place, b: Place): Place {
  return {
    sheet: a.sheet,
    top: Math.min(a.top, b.top),
    left: Math.min(a.left, b.left),
    bottom: Math.max(a.bottom, b.bottom),
    right: Math.max(a.right, b.right),
  };
}

function shared(a: Place, b: Place): Place | CellError {
  const place = {
    sheet: a.sheet,
    top: Math.max(a.top, b.top),
    left: Math.max(a.left, b.left),
    bottom: Math.min(a.bottom, b.bottom),
    right: Math.min(a.right, b.right),
  };
  return place.top > place.bottom || place.left > place.right ? CellError.of("#NULL!") : place;
}

/** Functions that look at where their arguments lie; the others are not told. */
const ASKING_WHERE = new Set([
  ...["SUBTOTAL", "AGGREGATE", "ROW", "COLUMN", "ROWS", "COLUMNS", "SHEET", "ISREF", "COUNTBLANK"],
  ...["SUMIF", "AVERAGEIF", "COUNTIF", "SUMIFS", "AVERAGEIFS", "COUNTIFS", "MINIFS", "MAXIFS"],
]);
const NO_AREAS: readonly (() => undefined)[] = [];

function buildCall(node: AstExpression & { type: "CallExpression" }, asked: Asked, building: Building): Node {
  const callee = node.callee as { type: string; name?: string };
  const name = (callee.name ?? "").toUpperCase().replace(/^_XLFN\.(_XLWS\.)?/, "");
  const sources = node.arguments as readonly (AstExpression | null)[];
  if (name === "LET") return buildLet(sources, asked, building);
  const body = lookUpFunction(name);
  const args = sources.map((source, index): Node => {
    if (!source) return constant(null);
    const taken = takes(name, index);
    const inner =
      asked === "array" || taken === "a" ? "array" : taken === "r" ? "range" : taken === "p" ? asked : "value";
    return build(source, inner, building);
  });
  if (name === "ANCHORARRAY" && args[0]) return spilled(args[0], asked);
  if (name === "SINGLE" && sources[0]) return build(sources[0], "value", building);
  if (!body) {
    building.unsupported.push(`the function ${name || "without a name"}`);
    return failing("#NAME?");
  }
  const areas = args.map((arg) => arg.area ?? (() => undefined));
  // Values that are gone through one by one where an array stands in their place.
  const lifted = args.flatMap((arg, index) => (takes(name, index) === "v" && arg.mayBeArray ? [index] : []));
  const asksWhere = ASKING_WHERE.has(name);
  const call = (site: Site, values: ReadonlyMap<number, Scalar> | undefined): Operand =>
    body(
      values === undefined
        ? args.map((arg) => () => arg.evaluate(site))
        : args.map((arg, index) => {
            const value = values.get(index);
            return value === undefined ? () => arg.evaluate(site) : () => value;
          }),
      site,
      asksWhere ? areas.map((area) => () => area(site)) : NO_AREAS,
    );
  const evaluate: Evaluate =
    lifted.length === 0
      ? (site) => call(site, undefined)
      : (site) =>
          spread(
            lifted.map((index) => args[index].evaluate(site)),
            (values) => call(site, new Map(values.map((value, at) => [lifted[at], value]))),
          );
  const areaBody = Object.hasOwn(AREA_FUNCTIONS, name) ? AREA_FUNCTIONS[name] : undefined;
  if (!areaBody) return { evaluate, mayBeArray: true };
  const area: EvaluateArea = (site) => {
    // Values that could be arrays are looked at first: an array of places is no place.
    const known = new Map<number, Operand>();
    for (const index of lifted) {
      const value = args[index].evaluate(site);
      if (isMatrix(value) && (value.length > 1 || value[0]?.length > 1)) return undefined;
      known.set(index, scalarOf(value));
    }
    return areaBody(
      args.map((arg, index) => () => {
        const value = known.get(index);
        return value === undefined ? arg.evaluate(site) : value;
      }),
      site,
      areas.map((one) => () => one(site)),
    );
  };
  return fromArea(area, asked, evaluate);
}

/** `LET(name, value, …, result)`: each value is evaluated once. */
function buildLet(sources: readonly (AstExpression | null)[], asked: Asked, building: Building): Node {
  const inner = asked === "array" ? "array" : "range";
  const values: Node[] = [];
  let reach = building;
  for (let index = 0; index + 1 < sources.length; index += 2) {
    const [name, source] = [sources[index], sources[index + 1]];
    if (name?.type !== "ReferenceIdentifier" || name.kind !== "name" || !source) {
      building.unsupported.push("a LET without a name");
      return failing("#NAME?");
    }
    values.push(build(source, inner, reach));
    reach = { ...reach, locals: [...reach.locals, name.value.toLowerCase()] };
  }
  const last = sources.length % 2 === 1 ? sources[sources.length - 1] : undefined;
  if (!last) return failing("#VALUE!");
  const result = build(last, asked, reach);
  return {
    evaluate: (site) => {
      let inside = site;
      for (const value of values) inside = inside.withLocal(value.evaluate(inside));
      return result.evaluate(inside);
    },
    mayBeArray: true,
  };
}
