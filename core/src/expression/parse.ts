/** The grammar is written down in docs/expressions.md; this is its recursive descent, one function a level. */

import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";
import type { Ast, BinaryOp } from "./ast.js";

interface Token {
  readonly kind: "number" | "text" | "name" | "quoted" | "sign" | "end";
  readonly text: string;
  readonly at: number;
}

/** Deeper nesting is refused, so that a hostile expression cannot exhaust the stack. */
const MAX_DEPTH = 100;
/** So are longer chains such as 1 + 1 + 1 …: each link is a level of the tree. */
const MAX_LINKS = 1_000;
/** Longer expressions are refused. */
const MAX_LENGTH = 10_000;

const COMPARISONS = ["=", "<>", "<", "<=", ">", ">="] as const satisfies readonly BinaryOp[];

/** An expression with the number format that `as "…"` gives it. */
export interface Field {
  readonly ast: Ast;
  readonly format?: string;
  readonly source: string;
}

/** Parses an expression. Throws `BAD_EXPRESSION` with the text and the place. */
export function parseExpression(source: string): Ast {
  const parser = new Parser(source);
  const ast = parser.expression();
  parser.expectEnd();
  return ast;
}

/** Parses what stands between the braces of a mark: an expression, perhaps with `as "format"`. */
export function parseField(source: string): Field {
  const parser = new Parser(source);
  const ast = parser.expression();
  const format = parser.maybeFormat();
  parser.expectEnd();
  return { ast, source, ...(format === undefined ? {} : { format }) };
}

/** An error about an expression that shows the text and points at the place. */
export function expressionError(source: string, at: number, what: string, advice?: string): CorbixError {
  return new CorbixError("BAD_EXPRESSION", what, {
    where: say().expression.character({ value: source.length > 120 ? `${source.slice(0, 117)}…` : source, at: at + 1 }),
    ...(advice === undefined ? {} : { advice }),
  });
}

class Parser {
  private readonly tokens: readonly Token[];
  private index = 0;
  private depth = 0;
  private links = 0;

  constructor(private readonly source: string) {
    if (source.length > MAX_LENGTH) {
      throw expressionError(
        source,
        0,
        say().expression.cannotReadExpressionLongerCharacters({ maxLength: MAX_LENGTH }),
      );
    }
    this.tokens = tokenize(source);
  }

  expression(): Ast {
    if (++this.depth > MAX_DEPTH) throw this.error(say().expression.nestedDeeperLevels({ maxDepth: MAX_DEPTH }));
    const ast = this.or();
    this.depth--;
    return ast;
  }

  maybeFormat(): string | undefined {
    if (!this.takeWord("as")) return undefined;
    const token = this.take();
    if (token.kind !== "text") throw this.error(say().expression.behindStandsNumberFormatDouble(), token);
    return token.text;
  }

  expectEnd(): void {
    if (this.peek().kind !== "end") throw this.error(say().expression.somethingLeftOverBehindExpression());
  }

  private or(): Ast {
    return this.leftToRight(() => this.and(), ["or"]);
  }

  private and(): Ast {
    return this.leftToRight(() => this.not(), ["and"]);
  }

  private not(): Ast {
    const token = this.peek();
    if (!this.takeWord("not")) return this.compare();
    return { kind: "unary", op: "not", arg: this.nested(() => this.not()), at: token.at };
  }

  private compare(): Ast {
    const left = this.leftToRight(() => this.sum(), ["&"]);
    const token = this.peek();
    if (this.isWord("in") || (this.isWord("not") && this.isWord("in", 1))) {
      const negated = this.takeWord("not");
      this.take();
      this.expect("(");
      const list = this.listUntilClose();
      const ast: Ast = { kind: "in", arg: left, list, at: token.at };
      return negated ? { kind: "unary", op: "not", arg: ast, at: token.at } : ast;
    }
    const op = token.kind === "sign" ? COMPARISONS.find((one) => one === token.text) : undefined;
    if (op) {
      this.take();
      const right = this.leftToRight(() => this.sum(), ["&"]);
      return { kind: "binary", op, left, right, at: token.at };
    }
    return left;
  }

  private sum(): Ast {
    return this.leftToRight(() => this.product(), ["+", "-"]);
  }

  private product(): Ast {
    return this.leftToRight(() => this.power(), ["*", "/"]);
  }

  private power(): Ast {
    return this.leftToRight(() => this.unary(), ["^"]);
  }

  private unary(): Ast {
    const token = this.peek();
    if (this.takeSign("-")) return { kind: "unary", op: "-", arg: this.nested(() => this.unary()), at: token.at };
    if (this.takeSign("+")) return this.nested(() => this.unary());
    let ast = this.primary();
    while (this.peek().text === "%" && this.peek().kind === "sign") {
      this.link();
      ast = { kind: "unary", op: "%", arg: ast, at: this.take().at };
    }
    return ast;
  }

  private link(): void {
    if (++this.links > MAX_LINKS) throw this.error(say().expression.joinsMoreOperators({ maxLinks: MAX_LINKS }));
  }

  private nested(parse: () => Ast): Ast {
    if (++this.depth > MAX_DEPTH) throw this.error(say().expression.nestedDeeperLevels({ maxDepth: MAX_DEPTH }));
    const ast = parse();
    this.depth--;
    return ast;
  }

  private primary(): Ast {
    const token = this.take();
    if (token.kind === "number") return { kind: "literal", value: Number(token.text), text: token.text, at: token.at };
    if (token.kind === "text") return { kind: "literal", value: token.text, text: token.text, at: token.at };
    if (token.kind === "sign" && token.text === "(") {
      const ast = this.expression();
      this.expect(")");
      return ast;
    }
    if (token.kind === "quoted") return this.name(token);
    if (token.kind === "name") {
      const word = token.text.toLowerCase();
      if (word === "true" || word === "false")
        return { kind: "literal", value: word === "true", text: word, at: token.at };
      if (this.takeSign("(")) return this.call(token);
      return this.name(token);
    }
    throw this.error(say().expression.endsTooEarly({ kind: token.kind, text: token.text }), token);
  }

  private name(first: Token): Ast {
    const parts = [first.text];
    while (this.takeSign(".")) {
      const token = this.take();
      if (token.kind !== "name" && token.kind !== "quoted")
        throw this.error(say().expression.nameStandBehindDot(), token);
      parts.push(token.text);
    }
    return { kind: "name", parts, at: first.at };
  }

  private call(name: Token): Ast {
    const args: Ast[] = [];
    let where: Ast | undefined;
    if (!this.takeSign(")")) {
      do {
        args.push(this.expression());
        if (this.takeWord("where")) where = this.expression();
      } while (this.takeSign(",") || this.takeSign(";"));
      this.expect(")");
    }
    return { kind: "call", name: name.text.toLowerCase(), args, at: name.at, ...(where ? { where } : {}) };
  }

  private listUntilClose(): Ast[] {
    const list: Ast[] = [];
    do list.push(this.expression());
    while (this.takeSign(",") || this.takeSign(";"));
    this.expect(")");
    return list;
  }

  private leftToRight(next: () => Ast, ops: readonly BinaryOp[]): Ast {
    let left = next();
    for (;;) {
      const token = this.peek();
      const op = ops.find((candidate) =>
        token.kind === "sign"
          ? token.text === candidate
          : token.kind === "name" && token.text.toLowerCase() === candidate,
      );
      if (!op) return left;
      this.take();
      this.link();
      left = { kind: "binary", op, left, right: next(), at: token.at };
    }
  }

  private peek(ahead = 0): Token {
    return this.tokens[Math.min(this.index + ahead, this.tokens.length - 1)];
  }

  private take(): Token {
    const token = this.peek();
    this.index++;
    return token;
  }

  private isWord(word: string, ahead = 0): boolean {
    const token = this.peek(ahead);
    return token.kind === "name" && token.text.toLowerCase() === word;
  }

  private takeWord(word: string): boolean {
    if (!this.isWord(word)) return false;
    this.index++;
    return true;
  }

  private takeSign(sign: string): boolean {
    const token = this.peek();
    if (token.kind !== "sign" || token.text !== sign) return false;
    this.index++;
    return true;
  }

  private expect(sign: string): void {
    if (!this.takeSign(sign)) throw this.error(say().expression.missing({ sign }));
  }

  private error(what: string, token = this.peek()): CorbixError {
    return expressionError(this.source, token.at, say().expression.cannotReadExpression({ what }));
  }
}

const TOKEN =
  /\s+|(?<number>\d+(?:\.\d+)?|\.\d+)|"(?<text>(?:[^"]|"")*)"|`(?<quoted>[^`]*)`|(?<name>[\p{L}_][\p{L}\p{M}\p{N}_]*)|(?<sign><>|<=|>=|[-+*/^%&=<>(),;.])/uy;

function tokenize(source: string): Token[] {
  // Word processors turn straight quotes into curly ones while the author types; they mean the same.
  const text = source
    .replace(/[\u201c\u201d\u201e]/g, '"')
    .replace(/[\u2018\u2019]/g, "`")
    .replace(/\u00a0/g, " ");
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.length) {
    const at = TOKEN.lastIndex;
    const match = TOKEN.exec(text);
    if (!match?.groups) throw unreadable(source, at);
    const { number, text: quotedText, quoted, name, sign } = match.groups;
    if (number !== undefined) tokens.push({ kind: "number", text: number, at });
    else if (quotedText !== undefined) tokens.push({ kind: "text", text: quotedText.replaceAll('""', '"'), at });
    else if (quoted !== undefined) tokens.push({ kind: "quoted", text: quoted, at });
    else if (name !== undefined) tokens.push({ kind: "name", text: name, at });
    else if (sign !== undefined) tokens.push({ kind: "sign", text: sign, at });
  }
  tokens.push({ kind: "end", text: "", at: text.length });
  return tokens;
}

function unreadable(source: string, at: number): CorbixError {
  const char = source[at];
  const what = say().expression.quoteClosed({ char });
  return expressionError(source, at, say().expression.cannotReadExpression({ what }));
}
