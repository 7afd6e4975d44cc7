/** A formula is parsed once and turned into a function; where its references lie is asked anew at each evaluation. */

import { type AstExpression, parse, tokenize } from "@borgar/fx/xlsx";
import { LRUCache } from "lru-cache";
import { say } from "../../words/index.js";
import type { Evaluate, EvaluateArea, EvaluationMode, FormulaNode } from "../areas.js";
import { CellError, scalarOf } from "../value.js";
import { buildCall } from "./build-call.js";
import { buildBinary, buildUnary } from "./build-operators.js";
import { buildReference } from "./build-references.js";
import { type Building, build, constant, type FindFunction, failing, isLambda, nameNode } from "./building.js";
import { buildLet, functionOf } from "./own-functions.js";

/** How a formula's cell takes its result: as one value, or as an array over several cells. */
export type FormulaMode = "value" | "array";

export interface CompiledFormula {
  readonly source: string;
  readonly evaluate: Evaluate;
  readonly area?: EvaluateArea | undefined;
  /** Of a formula that is a LAMBDA: the function it makes. */
  readonly makesFunction?: FindFunction | undefined;
  /** Names of functions and constructs that cannot be evaluated; then the value stored in the file stays. */
  readonly unsupported: readonly string[];
}

/** Formulas kept compiled; enough for many templates. */
const CACHE = new LRUCache<string, CompiledFormula>({ max: 5_000 });

/** Compiles a formula as stored, without its equals sign. Never throws: what cannot be read is `unsupported`. */
export function compileFormula(source: string, mode: FormulaMode = "value"): CompiledFormula {
  const key = `${mode} ${source}`;
  const known = CACHE.get(key);
  if (known) return known;
  const unsupported: string[] = [];
  let node: FormulaNode;
  let makesFunction: FindFunction | undefined;
  try {
    const tree = parse(tokenize(`=${source}`, { mergeRefs: true }));
    const building = { unsupported, locals: [], build: buildPart };
    node = buildPart(tree, mode, building);
    if (isLambda(tree)) makesFunction = functionOf(tree, building);
  } catch {
    unsupported.push(say().formula.formulaCannotRead());
    node = failing("#NAME?");
  }
  const compiled = { source, evaluate: node.evaluate, area: node.area, makesFunction, unsupported };
  CACHE.set(key, compiled);
  return compiled;
}

function buildPart(node: AstExpression, asked: EvaluationMode, building: Building): FormulaNode {
  switch (node.type) {
    case "Literal":
      return constant(node.value);
    case "ErrorLiteral":
      return constant(CellError.named(node.value));
    case "ReferenceIdentifier":
      return buildReference(node.value, node.kind, asked, building);
    case "UnaryExpression":
      return buildUnary(node.operator, node.arguments[0], asked, building);
    case "BinaryExpression":
      return buildBinary(node.operator, node.arguments, asked, building);
    case "CallExpression":
      return buildCall(node, asked, building);
    case "ArrayExpression": {
      const rows = node.elements.map((row) => row.map((cell) => build(cell, "value", building).evaluate));
      return {
        evaluate: (context) => rows.map((row) => row.map((cell) => scalarOf(cell(context)))),
        mayBeArray: true,
      };
    }
    case "LetExpression":
      return buildLet(
        [...node.declarations.flatMap(({ id, init }) => [nameNode(id.name), init]), node.body],
        asked,
        building,
      );
    case "LambdaExpression":
      // A function by itself is no value of a cell.
      return failing("#CALC!");
    default:
      building.unsupported.push(say().formula.partCannotRead());
      return failing("#NAME?");
  }
}
