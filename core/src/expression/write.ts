/** The text of an expression written anew from its tree, with no more brackets than it needs. */
import type { Ast } from "./ast.js";

/** How tightly things bind, as the grammar has it; a part that binds looser than its place asks for stands in brackets. */
const BINDS = {
  or: 1,
  and: 2,
  not: 3,
  compare: 4,
  "&": 5,
  sum: 6,
  product: 7,
  power: 8,
  sign: 9,
  percent: 10,
  whole: 11,
};

const LEVELS: Readonly<Record<string, number>> = {
  or: BINDS.or,
  and: BINDS.and,
  "&": BINDS["&"],
  "+": BINDS.sum,
  "-": BINDS.sum,
  "*": BINDS.product,
  "/": BINDS.product,
  "^": BINDS.power,
};

function levelOf(ast: Ast): number {
  if (ast.kind === "binary") return LEVELS[ast.op] ?? BINDS.compare;
  if (ast.kind === "in") return BINDS.compare;
  if (ast.kind !== "unary") return BINDS.whole;
  return ast.op === "not" ? BINDS.not : ast.op === "%" ? BINDS.percent : BINDS.sign;
}

/** Words of the grammar: a column of that name stands in back quotes. */
const WORDS: ReadonlySet<string> = new Set(["and", "or", "not", "in", "where", "as", "true", "false"]);

function isPlain(name: string): boolean {
  return /^[\p{L}_][\p{L}\p{M}\p{N}_]*$/u.test(name) && !WORDS.has(name.toLowerCase());
}

/** @example writeExpression(parseExpression("((a) + (b)) * 2")) //=> "(a + b) * 2" */
export function writeExpression(ast: Ast): string {
  switch (ast.kind) {
    case "literal":
      return typeof ast.value === "string" ? `"${ast.value.replaceAll('"', '""')}"` : ast.text;
    case "name":
      return ast.parts.map((part) => (isPlain(part) ? part : `\`${part}\``)).join(".");
    case "unary":
      if (ast.op === "%") return `${part(ast.arg, BINDS.percent)}%`;
      return ast.op === "not" ? `not ${part(ast.arg, BINDS.not)}` : `-${part(ast.arg, BINDS.sign)}`;
    case "binary": {
      const level = levelOf(ast);
      // Comparisons stand on neither side of each other; the others go from left to right.
      const left = part(ast.left, level === BINDS.compare ? level + 1 : level);
      return `${left} ${ast.op} ${part(ast.right, level + 1)}`;
    }
    case "in":
      return `${part(ast.arg, BINDS.compare + 1)} in (${ast.list.map(writeExpression).join(", ")})`;
    case "call": {
      const [first, ...rest] = ast.args.map(writeExpression);
      const where = ast.where ? ` where ${writeExpression(ast.where)}` : "";
      return `${ast.name}(${first === undefined ? "" : [first + where, ...rest].join(", ")})`;
    }
  }
}

function part(ast: Ast, least: number): string {
  return levelOf(ast) < least ? `(${writeExpression(ast)})` : writeExpression(ast);
}
