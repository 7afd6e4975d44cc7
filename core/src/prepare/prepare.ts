import { CorbixError, type Finding } from "../common/index.js";
import type { ColumnInfo, Table } from "../table/index.js";
import { say } from "../words/index.js";
import { add, bring, fold, replace } from "./columns-steps.js";
import { keep } from "./keep.js";
import { distinct, first, last, sort, stack } from "./rows-steps.js";
import { type PrepareSpec, type Step, stepsOf } from "./schema.js";
import type { LeftOutRows, PrepareContext, StepKind } from "./step.js";

/** One step as it was done. */
export interface StepAccount {
  /** `keep`, `bring`, … */
  readonly kind: string;
  /** What it does, in short: `fee = round(hours * rate, 2)`. */
  readonly what: string;
  readonly rowsIn: number;
  readonly rowsOut: number;
  readonly leftOut: readonly LeftOutRows[];
  readonly made: number;
  readonly columnsAdded: readonly string[];
  readonly columnsDropped: readonly string[];
  readonly findings: readonly Finding[];
}

export interface Prepared {
  readonly table: Table;
  readonly steps: readonly StepAccount[];
  readonly leftOut: readonly LeftOutRows[];
  /** Rows that steps made beyond those that came in. */
  readonly made: number;
  readonly findings: readonly Finding[];
}

const KINDS = { keep, add, bring, fold, stack, replace, sort, first, last, distinct } as const;

/** A step's kind with its specification; the schema sees to it that there is exactly one. */
function kindOf(step: Step): { name: keyof typeof KINDS; kind: StepKind<unknown>; spec: unknown } {
  const [[name, spec]] = Object.entries(step) as [[keyof typeof KINDS, unknown]];
  return { name, kind: KINDS[name] as StepKind<unknown>, spec };
}

/** Prepares a table, up to and with step `until`. Throws `BAD_EXPRESSION` or `BAD_DEFINITION` for what no data could make right. */
export function prepareTable(
  source: Table,
  spec: PrepareSpec,
  context: PrepareContext,
  until = Number.POSITIVE_INFINITY,
): Prepared {
  const steps: StepAccount[] = [];
  let table = source;
  for (const [at, step] of stepsOf(spec).entries()) {
    if (at > until) break;
    const { name, kind, spec: own } = kindOf(step);
    const result = atStep(at, name, () => kind.apply(table, own, context));
    const before = new Set(table.columns.map((column) => column.name));
    const after = new Set(result.table.columns.map((column) => column.name));
    steps.push({
      kind: name,
      what: describeStep(step),
      rowsIn: table.rowCount,
      rowsOut: result.table.rowCount,
      leftOut: result.leftOut,
      made: result.made,
      columnsAdded: [...after].filter((column) => !before.has(column)),
      columnsDropped: [...before].filter((column) => !after.has(column)),
      findings: result.findings,
    });
    table = result.table;
  }
  return {
    table,
    steps,
    leftOut: steps.flatMap((step) => step.leftOut),
    made: steps.reduce((sum, step) => sum + step.made, 0),
    findings: steps.flatMap((step) => step.findings),
  };
}

/** The columns a preparation gives, for checking a report before there is a run. */
export function preparedColumns(
  columns: readonly ColumnInfo[],
  spec: PrepareSpec,
  others: ReadonlyMap<string, readonly ColumnInfo[]>,
): ColumnInfo[] {
  return stepsOf(spec).reduce<ColumnInfo[]>(
    (sofar, step, at) => {
      const { name, kind, spec: own } = kindOf(step);
      return atStep(at, name, () => kind.columns(sofar, own, others));
    },
    [...columns],
  );
}

/** Errors of a step say which one it is. */
function atStep<T>(at: number, name: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof CorbixError)) throw error;
    const where = error.where?.startsWith(name) ? error.where : error.where ? `${name}, ${error.where}` : name;
    throw new CorbixError(error.code, error.message, {
      where: say().prepare.step({ at: at + 1, where }),
      ...(error.advice === undefined ? {} : { advice: error.advice }),
      cause: error,
    });
  }
}

/** A step in a few words. */
export function describeStep(step: Step): string {
  if ("keep" in step) return step.keep;
  if ("add" in step)
    return Object.entries(step.add)
      .map(([name, source]) => `${name} = ${source}`)
      .join("; ");
  if ("bring" in step) return say().prepare.from({ columns: step.bring.columns.join(", "), from: step.bring.from });
  if ("fold" in step) return `${step.fold.columns.join(", ")} into ${step.fold.into}, where ${step.fold.where}`;
  if ("stack" in step)
    return say().prepare.asAnd({
      columns: step.stack.columns.join(", "),
      name: step.stack.name,
      value: step.stack.value,
    });
  if ("replace" in step) {
    const { column, list, from } = step.replace;
    return say().prepare.values({ from, keyCount: Object.keys(list ?? {}).length, column });
  }
  if ("sort" in step) return step.sort.join(", ");
  if ("first" in step)
    return say().prepare.perBy({
      per: step.first.per.join(", "),
      by: step.first.by?.join(", "),
    });
  if ("last" in step)
    return say().prepare.perBy({
      per: step.last.per.join(", "),
      by: step.last.by?.join(", "),
    });
  return step.distinct.length === 0 ? say().prepare.wholeRows() : step.distinct.join(", ");
}
