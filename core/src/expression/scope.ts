/** What an expression may name, what one evaluation looks at, and what compiling makes of it. */
import type { Finding } from "../common/index.js";
import type { ColumnInfo } from "../table/index.js";
import type { FurtherLines, LineSet, LinesColumns } from "./lines.js";
import type { Value, ValueType } from "./value.js";

/** What names an expression may use, known before there is data. */
export interface Scope {
  /**
   * `row`: a bare column name is the value of the current row (preparing a table).
   * `group`: it is the value that all lines of the group share (templates, names, messages).
   */
  readonly mode: "row" | "group";
  readonly columns: readonly ColumnInfo[];
  /** Columns of further lines, by the folded name of those. */
  readonly further?: LinesColumns;
  /** Folded names of lines of which there are none, so that any column of theirs is taken as blank. */
  readonly empty?: readonly string[];
  /** Hears of further lines that are used. */
  readonly onLines?: (name: string) => void;
  /** Further lines whose columns a bare name means first: in the conditions and keys of what repeats for them. */
  readonly bare?: string;
  /** Namespaces beside `line`: `recipient`, `period`, … with the names in each; `"any"` where they are not known beforehand. */
  readonly spaces: Readonly<Record<string, readonly string[] | "any">>;
  /** Bare names beside the columns, such as the fields of a single record. */
  readonly names?: readonly string[];
}

/** What one evaluation looks at. */
export interface Env extends LineSet {
  /** Lines beside the group's own, by their folded name. */
  readonly further?: ReadonlyMap<string, FurtherLines>;
  readonly spaces: Readonly<Record<string, ReadonlyMap<string, Value>>>;
  readonly names?: ReadonlyMap<string, Value>;
  readonly locale: string;
  /** The run's own day as a serial. */
  readonly today: number;
  /** Hears of marks in running text that come out blank, with their place. */
  readonly onBlank?: (where: string, source: string) => void;
  /** Hears of what came out otherwise than it was meant, while something is filled. */
  readonly onNote?: (finding: Finding) => void;
}

export interface Expression {
  readonly source: string;
  readonly type: ValueType;
  /** The lines of which it needs a current one: it holds `line.` outside of an aggregate. */
  readonly needs: ReadonlySet<string>;
  /** Where the whole expression is one column of the current line: its index, and of which lines. */
  readonly lineColumn?: number;
  readonly lines?: string;
  /** Throws `BAD_EXPRESSION` where the values do not fit, with the place. */
  readonly evaluate: (env: Env) => Value;
}

/** Looks up a field without a format of its own and shows it as text. */
export interface TextField extends Expression {
  readonly format?: string;
  readonly show: (env: Env) => string;
}

/** A part of an expression as a function. */
export type Eval = (env: Env) => Value;

/** A part of an expression, checked. */
export interface CompiledPart {
  readonly evaluate: Eval;
  readonly type: ValueType;
  readonly needs: ReadonlySet<string>;
  readonly lineColumn?: number;
  readonly lines?: string;
}
