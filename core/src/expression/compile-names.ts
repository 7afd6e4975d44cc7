import { type CorbixError, columnKey, groupKey, suggestName } from "../common/index.js";
import type { ColumnInfo } from "../table/index.js";
import { say } from "../words/index.js";
import type { Ast } from "./ast.js";
import { type LineSet, linesOf, OWN_LINES } from "./lines.js";
import { expressionError } from "./parse.js";
import type { CompiledPart, Env, Eval, Scope } from "./scope.js";
import { isOfLines, NOTHING } from "./touched-lines.js";
import { type Value, valueFromCell } from "./value.js";

/** Finds what names mean: columns, further lines, namespaces, fields of a record. */
export class NameCompiler {
  constructor(
    private readonly source: string,
    private readonly scope: Scope,
    private readonly further: readonly string[],
  ) {}

  compile(ast: Ast & { kind: "name" }): CompiledPart {
    const [first, ...rest] = ast.parts;
    const space = columnKey(first);
    if (rest.length > 0 && isOfLines(space, this.further)) return this.lineColumn(space, rest.join("."), ast.at);
    if (rest.length > 0 && Object.hasOwn(this.scope.spaces, space))
      return this.spaceName(space, rest.join("."), ast.at);
    if (rest.length > 0) {
      const known = [OWN_LINES, ...this.further, ...Object.keys(this.scope.spaces)];
      throw this.error(
        ast.at,
        say().expression.cannotFind({ parts: ast.parts.join(".") }),
        say().expression.beforeDotMayStand({ known: known.join(", ") }),
      );
    }
    const extra = this.scope.names?.find((name) => columnKey(name) === space);
    if (extra !== undefined) return { evaluate: (env) => env.names?.get(space) ?? null, type: "any", needs: NOTHING };
    const bare = this.bareColumn(first, ast.at);
    if (bare) return bare;
    const index = this.columnIndex(this.scope.columns, first, ast.at);
    const { name, type } = this.scope.columns[index];
    if (this.scope.mode === "row") return { evaluate: (env) => cellAt(env, index), type, needs: NOTHING };
    return { evaluate: (env) => this.shared(env, index, name, ast.at), type, needs: NOTHING };
  }

  /** A bare name where further lines are looked at. One that the group's lines have too could mean either. */
  private bareColumn(name: string, at: number): CompiledPart | undefined {
    const { bare, further, columns } = this.scope;
    if (bare === undefined) return undefined;
    const folded = columnKey(name);
    const has = (list: readonly ColumnInfo[]): boolean => list.some((column) => columnKey(column.name) === folded);
    const own = further?.[bare] ?? [];
    if (!has(own)) return undefined;
    // The same rows of all groups: what a condition over lines says is of the line.
    const isSameTable = own.length === columns.length && own.every(({ name: one }, at) => one === columns[at].name);
    if (has(columns) && !isSameTable)
      throw this.error(
        at,
        say().expression.cannotTellMeantGroupS({ name, bare }),
        say().expression.writeFirstLineGroup({ bare, name }),
      );
    return this.lineColumn(bare, name, at);
  }

  private lineColumn(lines: string, name: string, at: number): CompiledPart {
    const columns = lines === OWN_LINES ? this.scope.columns : (this.scope.further?.[lines] ?? []);
    this.scope.onLines?.(lines);
    if (this.scope.empty?.includes(lines)) return { evaluate: () => null, type: "any", needs: new Set([lines]) };
    const index = this.columnIndex(columns, name, at);
    const evaluate: Eval = (env) => {
      const set = linesOf(env, lines);
      if (set.row < 0)
        throw this.error(
          at,
          say().expression.cannotTakeHereCurrentLine({ lines, name }),
          say().expression.useSumCountListOver(),
        );
      return cellAt(set, index);
    };
    return { evaluate, type: columns[index].type, needs: new Set([lines]), lineColumn: index, lines };
  }

  private spaceName(space: string, name: string, at: number): CompiledPart {
    const known = this.scope.spaces[space];
    const folded = columnKey(name);
    if (known !== "any" && !known.some((candidate) => columnKey(candidate) === folded)) {
      throw this.error(
        at,
        say().expression.cannotFindIn({ space, name }),
        suggestName(name, known, say().expression.names({ space })),
      );
    }
    return { evaluate: (env) => env.spaces[space]?.get(folded) ?? null, type: "any", needs: NOTHING };
  }

  private columnIndex(columns: readonly ColumnInfo[], name: string, at: number): number {
    const folded = columnKey(name);
    const index = columns.findIndex((column) => columnKey(column.name) === folded);
    if (index >= 0) return index;
    const known = [...columns.map((column) => column.name), ...(this.scope.names ?? [])];
    throw this.error(at, say().expression.cannotFindColumn({ name }), suggestName(name, known, "columns"));
  }

  /** The value all lines share; spellings that only differ in blanks and case count as one, the most frequent is shown. */
  private shared(env: Env, index: number, name: string, at: number): Value {
    const { type } = env.table.columns[index];
    const spellings = new Map<string, { count: number; value: Value }>();
    const distinct = new Set<string>();
    for (const row of env.lines) {
      const cell = env.table.columns[index].values[row];
      const raw = String(cell ?? "");
      const known = spellings.get(raw);
      if (known) known.count++;
      else {
        spellings.set(raw, { count: 1, value: valueFromCell(cell, type) });
        distinct.add(typeof cell === "string" ? groupKey(cell) : raw);
      }
    }
    if (distinct.size > 1) {
      const advice = say().expression.useLineLineRepeatsFirst({ name });
      throw this.error(at, say().expression.cannotTakeValueGroupLines({ name, distinctCount: distinct.size }), advice);
    }
    let best: { count: number; value: Value } = { count: 0, value: null };
    for (const spelling of spellings.values()) if (spelling.count > best.count) best = spelling;
    return best.value;
  }

  private error(at: number, what: string, advice?: string): CorbixError {
    return expressionError(this.source, at, what, advice);
  }
}

function cellAt({ table, row }: LineSet, index: number): Value {
  const column = table.columns[index];
  return valueFromCell(column.values[row], column.type);
}
