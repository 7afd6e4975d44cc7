/** Conditions over rows as people click them, and as the definition's language writes them. */

import { word } from "../format.js";

export type Comparison =
  | "is"
  | "is-not"
  | "one-of"
  | "none-of"
  | "at-least"
  | "at-most"
  | "more-than"
  | "less-than"
  | "contains"
  | "is-blank"
  | "is-filled";

/** Comparisons in the order in which they are offered, with what they are called. */
export const COMPARISONS: readonly { readonly is: Comparison; readonly title: string }[] = [
  { is: "is", title: word("is") },
  { is: "is-not", title: "is not" },
  { is: "one-of", title: "is one of" },
  { is: "none-of", title: "is none of" },
  { is: "at-least", title: "at least" },
  { is: "at-most", title: "at most" },
  { is: "more-than", title: "more than" },
  { is: "less-than", title: "less than" },
  { is: "contains", title: word("contains") },
  { is: "is-blank", title: "is blank" },
  { is: "is-filled", title: "is filled" },
];

/** One condition: a column beside values. Values of columns of numbers and days are written as those. */
export interface Clause {
  readonly column: string;
  readonly is: Comparison;
  readonly values: readonly string[];
}

/** Several at once, all of which or one of which has to be true. */
export interface Condition {
  readonly join: "and" | "or";
  readonly clauses: readonly (Clause | Condition)[];
}

export type ColumnTypes = Readonly<Record<string, string>>;

export const isGroup = (one: Clause | Condition): one is Condition => "clauses" in one;

export function writeCondition(condition: Condition, types: ColumnTypes): string {
  return condition.clauses
    .map((one) => (isGroup(one) ? `(${writeCondition(one, types)})` : writeClause(one, types)))
    .join(` ${condition.join} `);
}

/** Each part of a condition as it is counted: single ones, and those in brackets. */
export function partsOf(condition: Condition): (Clause | Condition)[] {
  return condition.clauses.flatMap((one) => (isGroup(one) ? [one, ...partsOf(one)] : [one]));
}

/** A part of a condition as the language writes it. */
export const writePart = (one: Clause | Condition, types: ColumnTypes): string =>
  isGroup(one) ? writeCondition(one, types) : writeClause(one, types);

function writeClause({ column, is, values }: Clause, types: ColumnTypes): string {
  const name = writeName(column);
  const value = (text: string): string => writeValue(text, types[column]);
  const [first = ""] = values;
  switch (is) {
    case "is":
      return `${name} = ${value(first)}`;
    case "is-not":
      return `${name} <> ${value(first)}`;
    case "one-of":
      return `${name} in (${values.map(value).join(", ")})`;
    case "none-of":
      return `not (${name} in (${values.map(value).join(", ")}))`;
    case "at-least":
      return `${name} >= ${value(first)}`;
    case "at-most":
      return `${name} <= ${value(first)}`;
    case "more-than":
      return `${name} > ${value(first)}`;
    case "less-than":
      return `${name} < ${value(first)}`;
    case "contains":
      return `contains(${name}, ${quoted(first)})`;
    case "is-blank":
      return `${name} = ""`;
    case "is-filled":
      return `${name} <> ""`;
  }
}

const WORDS = new Set(["and", "or", "not", "in", "where", "true", "false", "null"]);

/** A column as expressions name it. */
export function writeName(column: string): string {
  const plain = column
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, "_");
  return /^[\p{L}_][\p{L}\p{N}_]*$/u.test(plain) && !WORDS.has(plain) ? plain : `\`${column}\``;
}

function quoted(text: string): string {
  return `"${text.replaceAll('"', '""')}"`;
}

function writeValue(text: string, type: string | undefined): string {
  if (type === "number" && /^-?\d+(?:\.\d+)?$/.test(text)) return text;
  const day = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if ((type === "date" || type === "datetime") && day) return `date(${day.slice(1).map(Number).join(", ")})`;
  if (type === "boolean" && (text === "true" || text === "false")) return text;
  return quoted(text);
}

/** The condition that a text writes; nothing for one that clicks cannot make. `columns` are the names as the table has them. */
export function readCondition(text: string, columns: readonly string[]): Condition | undefined {
  try {
    const reader = new Reader(tokensOf(text), columns);
    const condition = reader.either();
    return reader.isAtEnd ? (isGroup(condition) ? condition : { join: "and", clauses: [condition] }) : undefined;
  } catch {
    return undefined;
  }
}

/** The condition of a field that may be blank: then it has no clause yet. */
export function conditionOf(text: string, columns: readonly string[]): Condition | undefined {
  return text === "" ? { join: "and", clauses: [] } : readCondition(text, columns);
}

const TOKEN = /\s*(?:("(?:[^"]|"")*")|(`[^`]*`)|(-?\d+(?:\.\d+)?)|([\p{L}_][\p{L}\p{N}_]*)|(<>|<=|>=|[=<>(),]))/uy;

function tokensOf(text: string): string[] {
  const found: string[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.trimEnd().length) {
    const match = TOKEN.exec(text);
    if (!match) throw new Error("not of this kind");
    found.push(match[0].trim());
  }
  return found;
}

const SIGNS: ReadonlyMap<string, Comparison> = new Map([
  ["=", "is"],
  ["<>", "is-not"],
  [">=", "at-least"],
  ["<=", "at-most"],
  [">", "more-than"],
  ["<", "less-than"],
]);

class Reader {
  private at = 0;

  constructor(
    private readonly tokens: readonly string[],
    private readonly columns: readonly string[],
  ) {}

  get isAtEnd(): boolean {
    return this.at === this.tokens.length;
  }

  either(): Clause | Condition {
    return this.joined("or", () => this.both());
  }

  private both(): Clause | Condition {
    return this.joined("and", () => this.one());
  }

  private joined(join: "and" | "or", part: () => Clause | Condition): Clause | Condition {
    const clauses = [part()];
    while (this.isNext(join)) {
      this.at++;
      clauses.push(part());
    }
    return clauses.length === 1 ? clauses[0] : { join, clauses };
  }

  private one(): Clause | Condition {
    if (this.isNext("(")) {
      this.take("(");
      const inside = this.either();
      this.take(")");
      return isGroup(inside) ? inside : { join: "and", clauses: [inside] };
    }
    if (this.isNext("not")) {
      this.at++;
      this.take("(");
      const inside = this.comparison();
      this.take(")");
      if (inside.is !== "one-of") throw new Error("not of this kind");
      return { ...inside, is: "none-of" };
    }
    return this.comparison();
  }

  private comparison(): Clause {
    if (this.isNext("contains") && this.tokens[this.at + 1] === "(") {
      this.at++;
      this.take("(");
      const column = this.column();
      this.take(",");
      const value = this.value();
      this.take(")");
      return { column, is: "contains", values: [value] };
    }
    const column = this.column();
    const sign = this.next();
    if (sign.toLowerCase() === "in") {
      this.take("(");
      const values = [this.value()];
      while (this.isNext(",")) {
        this.at++;
        values.push(this.value());
      }
      this.take(")");
      return { column, is: "one-of", values };
    }
    const is = SIGNS.get(sign);
    if (is === undefined) throw new Error("not of this kind");
    const value = this.value();
    if (value === "" && is === "is") return { column, is: "is-blank", values: [] };
    if (value === "" && is === "is-not") return { column, is: "is-filled", values: [] };
    return { column, is, values: [value] };
  }

  private column(): string {
    const token = this.next();
    const name = token.startsWith("`") ? token.slice(1, -1) : token;
    const found = this.columns.find((column) => writeName(column) === writeName(name) || column === name);
    if (found === undefined) throw new Error("not of this kind");
    return found;
  }

  private value(): string {
    const token = this.next();
    if (token.startsWith('"')) return token.slice(1, -1).replaceAll('""', '"');
    if (/^-?\d/.test(token)) return token;
    if (token === "true" || token === "false") return token;
    if (token.toLowerCase() !== "date") throw new Error("not of this kind");
    this.take("(");
    const parts = [this.next()];
    for (let more = 0; more < 2; more++) {
      this.take(",");
      parts.push(this.next());
    }
    this.take(")");
    return parts.map((part, at) => part.padStart(at === 0 ? 4 : 2, "0")).join("-");
  }

  private isNext(token: string): boolean {
    return this.tokens[this.at]?.toLowerCase() === token;
  }

  private take(token: string): void {
    if (!this.isNext(token)) throw new Error("not of this kind");
    this.at++;
  }

  private next(): string {
    const token = this.tokens[this.at++];
    if (token === undefined) throw new Error("not of this kind");
    return token;
  }
}
