/** Where each mark of a template gets its value, and what is wrong with it, for people. */

import { CorbixError, columnKey } from "../../common/index.js";
import { type Ast, compileParsedField, type Field, isPerLine, namesIn, type Scope } from "../../expression/index.js";
import type { PlacedMark } from "../../template/index.js";
import { say } from "../../words/index.js";

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
    const from = fields.length === 0 ? say().run.structureItself() : [...new Set(fields.flatMap(sourcesOf))].join(", ");
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

function ownerOf(space: string): string {
  const { run } = say();
  const owners: Readonly<Record<string, () => string>> = {
    recipient: run.ofRecipientList,
    period: run.ofPeriod,
    run: run.ofRun,
    group: run.ofGroup,
    groups: run.ofAllGroups,
  };
  return owners[columnKey(space)]?.() ?? space;
}

function sourcesOf(field: Field): string[] {
  const each = isPerLine(field.ast);
  return namesIn(field.ast).map((parts) => sourceOf(parts, field.ast, each));
}

function sourceOf(parts: readonly string[], ast: Ast, each: boolean): string {
  const [first, second] = parts;
  if (parts.length === 1) return say().run.groupSLines({ columnKey: columnKey(first), first });
  if (columnKey(first) !== "line") return `${ownerOf(first)}: ${second}`;
  if (each && ast.kind === "name") return say().run.columnEachLine({ second });
  return say().run.columnOfLines({ each, second });
}
