import {
  type Ast,
  compileExpression,
  isEmpty,
  parseExpression,
  valueFromCell,
  writeExpression,
} from "../expression/index.js";
import { type Table, takeRows } from "../table/index.js";
import { say } from "../words/index.js";
import { findColumn, LISTED_ROWS, rowEnv, rowScope, type StepKind } from "./step.js";

/** Rows that pass a condition; each of the others is left out for the part of it that failed. */
export const keep: StepKind<string> = {
  columns: (columns, source) => {
    compileExpression(source, rowScope(columns));
    return [...columns];
  },
  apply: (table, source, context) => {
    const tests = conjuncts(parseExpression(source)).map((ast) => ({
      ast,
      test: compileExpression(writeExpression(ast), rowScope(table.columns)),
    }));
    const kept: number[] = [];
    const reasons = new Map<string, { count: number; rowNumbers: number[] }>();
    for (let row = 0; row < table.rowCount; row++) {
      const env = rowEnv(table, row, context);
      const failed = tests.find(({ test }) => test.evaluate(env) !== true);
      if (!failed) {
        kept.push(row);
        continue;
      }
      const reason = whyDropped(failed.ast, table, row);
      const known = reasons.get(reason) ?? { count: 0, rowNumbers: [] };
      known.count++;
      if (known.rowNumbers.length < LISTED_ROWS) known.rowNumbers.push(table.rowNumbers[row]);
      reasons.set(reason, known);
    }
    return {
      table: kept.length === table.rowCount ? table : takeRows(table, kept),
      leftOut: [...reasons].map(([reason, rest]) => ({ reason, ...rest })),
      made: 0,
      findings: [],
    };
  },
};

/** The parts of a filter that are joined by `and`: the first that fails is the reason. */
function conjuncts(ast: Ast): Ast[] {
  return ast.kind === "binary" && ast.op === "and" ? [...conjuncts(ast.left), ...conjuncts(ast.right)] : [ast];
}

/** A reason in the words of the rule: `status is "cancelled"`, `without a site`. */
function whyDropped(ast: Ast, table: Table, row: number): string {
  if (ast.kind === "binary" && ast.left.kind === "name" && ast.right.kind === "literal") {
    const index = findColumn(table.columns, ast.left.parts.join("."), "keep");
    const { name, values, type } = table.columns[index];
    const value = valueFromCell(values[row], type);
    if (ast.op === "<>" && ast.right.value === "") return say().prepare.without({ name });
    if (ast.op === "<>") return say().prepare.is({ name, text: ast.right.text });
    if (isEmpty(value)) return say().prepare.without({ name });
    if (ast.op === "=") return say().prepare.isNot({ name, text: ast.right.text });
    return say().prepare.not({ name, op: ast.op, text: ast.right.text });
  }
  const isNegated = ast.kind === "unary" && ast.op === "not" && ast.arg.kind === "in";
  const listed = isNegated ? ast.arg : ast;
  if (listed.kind === "in" && listed.arg.kind === "name") {
    const { name, values, type } = table.columns[findColumn(table.columns, listed.arg.parts.join("."), "keep")];
    const value = valueFromCell(values[row], type);
    if (isEmpty(value)) return say().prepare.without({ name });
    const wanted = listed.list.map((one) => (one.kind === "literal" ? `"${one.text}"` : writeExpression(one)));
    return say().prepare.isOneOf({ isNegated, name, wanted: wanted.join(", "), wantedCount: wanted.length });
  }
  return say().prepare.notTrue({ writeExpression: writeExpression(ast) });
}
