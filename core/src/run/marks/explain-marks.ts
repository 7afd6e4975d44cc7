/** Where each mark of a template gets its value, and what is wrong with it, for people. */
import { CorbixError, columnKey } from "../../common/index.js";
import { type Ast, compileParsedField, type Field, isPerLine, namesIn, type Scope } from "../../expression/index.js";
import type { PlacedMark } from "../../template/index.js";

export interface ExplainedMark {
  readonly where: string;
  readonly mark: string;
  /** What it is filled from, as a sentence's part. */
  readonly from: string;
  readonly problem?: { readonly what: string; readonly advice: string | undefined };
}

/** Without a scope nothing is known of columns, and nothing is checked. */
export function explainMarks(marks: readonly PlacedMark[], scope: Scope | undefined): ExplainedMark[] {
  return marks.map(({ where, source, fields }) => {
    const from = fields.length === 0 ? "the structure itself" : [...new Set(fields.flatMap(sourcesOf))].join(", ");
    const problem = scope && problemOf(fields, scope);
    return { where, mark: source, from: from === "" ? "itself" : from, ...(problem && { problem }) };
  });
}

function problemOf(fields: readonly Field[], scope: Scope): ExplainedMark["problem"] | undefined {
  for (const field of fields) {
    try {
      compileParsedField(field, scope);
    } catch (error) {
      if (!(error instanceof CorbixError)) throw error;
      return { what: error.message, advice: error.advice };
    }
  }
  return undefined;
}

const SPACES: Readonly<Record<string, string>> = {
  recipient: "the recipient list",
  period: "the period",
  run: "the run",
  group: "the group",
  groups: "all groups",
};

function sourcesOf(field: Field): string[] {
  const each = isPerLine(field.ast);
  return namesIn(field.ast).map((parts) => sourceOf(parts, field.ast, each));
}

function sourceOf(parts: readonly string[], ast: Ast, each: boolean): string {
  const [first, second] = parts;
  if (parts.length === 1)
    return columnKey(first) === "line" ? "the group's lines" : `column ${first}, which all lines of the group share`;
  if (columnKey(first) !== "line") return `${SPACES[columnKey(first)] ?? first}: ${second}`;
  if (each && ast.kind === "name") return `column ${second} of each line`;
  return each ? `column ${second} of each line` : `column ${second} over the group's lines`;
}
