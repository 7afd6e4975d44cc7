/** What the builders of a formula's parts share. */
import type { AstExpression, Identifier } from "@borgar/fx/xlsx";
import type { EvaluationMode, FormulaNode } from "../areas.js";
import type { EvaluationContext } from "../evaluation-context.js";
import { CellError, type CellFunction, type ErrorName, isMatrix, type Operand } from "../value.js";

export interface Building {
  readonly unsupported: string[];
  /** Names of LET in reach, the number of each its place among the locals. */
  readonly locals: readonly string[];
  readonly build: (node: AstExpression, asked: EvaluationMode, building: Building) => FormulaNode;
}

export function constant(value: Operand): FormulaNode {
  return { evaluate: () => value, mayBeArray: isMatrix(value) };
}

export function failing(name: ErrorName): FormulaNode {
  return constant(CellError.of(name));
}

/** Arguments of a call: one that is left out is `null`. */
export type Arguments = readonly (AstExpression | null)[];

/** What is called: a name, or a part that gives a function; the package's types know the name only. */
export type Callee = Identifier | (AstExpression & { readonly name?: undefined });

export function calleeOf(node: AstExpression & { type: "CallExpression" }): Callee {
  return node.callee;
}

export function nameNode(name: string): AstExpression {
  return { type: "ReferenceIdentifier", value: name, kind: "name" };
}

/** What gives a function at an evaluation; `undefined` where it gives none. */
export type FindFunction = (context: EvaluationContext) => CellFunction | undefined;

/** `LAMBDA(…)`, written with the prefix of later functions or without. */
export function isLambda(node: AstExpression): boolean {
  if (node.type !== "CallExpression") return node.type === "LambdaExpression";
  return plainName(calleeOf(node).name) === "LAMBDA";
}

export function plainName(name: string | undefined): string {
  return (name ?? "").toUpperCase().replace(/^_XLFN\.(_XLWS\.)?/, "");
}

/** A part as a node; the builders of calls and operators ask for those of their arguments by it. */
export function build(node: AstExpression, asked: EvaluationMode, building: Building): FormulaNode {
  return building.build(node, asked, building);
}
