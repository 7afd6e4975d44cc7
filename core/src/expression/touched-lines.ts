/** Which lines an expression looks at: told by its tree alone, without columns. */

import { columnKey } from "../common/index.js";
import { AGGREGATES } from "./aggregates.js";
import { type Ast, namesIn } from "./ast.js";
import { FUNCTIONS } from "./functions.js";
import { type LinesColumns, OWN_LINES } from "./lines.js";

export const NOTHING: ReadonlySet<string> = new Set();

export function isOfLines(name: string, further: readonly string[]): boolean {
  return name === OWN_LINES || further.includes(name);
}
export function partsOf(ast: Ast): readonly Ast[] {
  switch (ast.kind) {
    case "unary":
      return [ast.arg];
    case "binary":
      return [ast.left, ast.right];
    case "in":
      return [ast.arg, ...ast.list];
    case "call":
      return ast.where ? [...ast.args, ast.where] : ast.args;
    default:
      return [];
  }
}
export function isAggregateCall(ast: Ast & { kind: "call" }, further: readonly string[]): boolean {
  if (!(ast.name in AGGREGATES) || ast.args.length === 0) return false;
  return !(ast.name in FUNCTIONS) || ast.args.length === 1 || ast.where !== undefined
    ? touchedLines(ast.args[0], further).size > 0
    : false;
}
/** Names of the lines in an expression, in the order they come; those of a whole line too, as in `count(line)`. */

export function touchedLines(ast: Ast, further: readonly string[]): ReadonlySet<string> {
  const found = new Set<string>();
  const inside = new Set<string>();
  // What a function over lines inside goes over is its own affair; what its condition asks of others is not.
  const visit = (one: Ast, own: ReadonlySet<string>): void => {
    if (one.kind === "name") {
      const name = columnKey(one.parts[0]);
      if (isOfLines(name, further)) (own.has(name) ? inside : found).add(name);
    } else if (one.kind === "call" && isAggregateCall(one, further)) {
      const over = new Set([...own, ...touchedLines(one.args[0], further)]);
      for (const part of [one.args[0], ...(one.where ? [one.where] : [])]) visit(part, over);
      for (const rest of one.args.slice(1)) visit(rest, own);
    } else for (const part of partsOf(one)) visit(part, own);
  };
  visit(ast, new Set());
  return found.size > 0 ? found : inside;
}
/** The lines of which an expression needs a current one, told without a scope. */

export function neededLines(ast: Ast, further: readonly string[]): ReadonlySet<string> {
  const needed = new Set<string>();
  const visit = (one: Ast, within: ReadonlySet<string>): void => {
    if (one.kind === "name") {
      const name = columnKey(one.parts[0]);
      if (one.parts.length > 1 && !within.has(name) && isOfLines(name, further)) needed.add(name);
    } else if (one.kind === "call" && isAggregateCall(one, further)) {
      const over = new Set([...within, ...touchedLines(one.args[0], further)]);
      visit(one.args[0], over);
      if (one.where) visit(one.where, over);
      for (const rest of one.args.slice(1)) visit(rest, within);
    } else for (const part of partsOf(one)) visit(part, within);
  };
  visit(ast, NOTHING);
  return needed;
}
/** Whether an expression looks at a current line, told without a scope. `further` are the folded names of lines beside the group's own. */

export function isPerLine(ast: Ast, further: readonly string[] = []): boolean {
  return neededLines(ast, further).size > 0;
}
/** The lines that an expression adds up, where its values over parts make that over the whole: sums, counts, and sums of those; told without a scope. */

export function addedLines(ast: Ast, further: readonly string[]): ReadonlySet<string> | undefined {
  switch (ast.kind) {
    case "call":
      return (ast.name === "sum" || ast.name === "count") && isAggregateCall(ast, further)
        ? touchedLines(ast.args[0], further)
        : undefined;
    case "unary":
      return ast.op === "-" ? addedLines(ast.arg, further) : undefined;
    case "binary": {
      const left = addedLines(ast.left, further);
      if (ast.op === "*" || ast.op === "/") return ast.right.kind === "literal" ? left : undefined;
      const right = addedLines(ast.right, further);
      if ((ast.op !== "+" && ast.op !== "-") || !left || !right) return undefined;
      return new Set([...left, ...right]);
    }
    default:
      return undefined;
  }
}
/**
 * Whether an expression shows single rows of the given lines, which are told with their columns: a field of each, one out of them, or
 * the least or greatest of what is no number.
 */

export function showsRows(ast: Ast, columns: LinesColumns): boolean {
  const lines = Object.keys(columns);
  const isNumber = ([first, ...rest]: readonly string[]): boolean => {
    const name = columnKey(rest.join("."));
    return columns[columnKey(first)]?.find((column) => columnKey(column.name) === name)?.type === "number";
  };
  const isOne = (names: ReadonlySet<string>): boolean => lines.some((name) => names.has(name));
  const visit = (one: Ast): boolean => {
    if (one.kind !== "call" || one.args.length === 0) return partsOf(one).some(visit);
    const isExtreme = one.name === "min" || one.name === "max";
    const picks = ["list", "first", "last"].includes(one.name) || (isExtreme && !namesIn(one.args[0]).every(isNumber));
    return (picks && isOne(touchedLines(one.args[0], lines))) || partsOf(one).some(visit);
  };
  return isOne(neededLines(ast, lines)) || visit(ast);
}
/** Whether an expression says itself what stands where there is nothing: a choice between texts. */

export function saysInstead(ast: Ast): boolean {
  return (
    (ast.kind === "literal" && ast.value === "") ||
    (ast.kind === "call" && ["if", "choose", "coalesce"].includes(ast.name))
  );
}
