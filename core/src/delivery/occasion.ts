/**
 * What a delivery is for, and happens once: a period, an edition, a row by its key, or a person's word. The ledger knows deliveries
 * by report, occasion, group and part.
 */

import { columnKey, groupKey } from "../common/index.js";
import type { Report } from "../report/index.js";
import type { Group } from "../split/index.js";
import type { Table } from "../table/index.js";
import { say } from "../words/index.js";

export type OnceKind = "period" | "edition" | "row" | "hand";

export interface Once {
  readonly kind: OnceKind;
  /** Of `row`: the columns whose values tell rows apart. */
  readonly per: readonly string[];
}

/** What may happen once in a report: as it says, or by its period where it has one, else by the edition. */
export function onceOf(report: Pick<Report, "once" | "period">): Once {
  const { once } = report;
  if (typeof once === "object") return { kind: "row", per: once.per };
  return { kind: once ?? (report.period ? "period" : "edition"), per: [] };
}

export interface OccasionFacts {
  readonly run: string;
  /** Key of the run's period, or its day where the report has none. */
  readonly period: string;
  /** Number of the master's edition. */
  readonly edition: number;
  /** Whether the run is over picked rows only: a delivery of its own, whose rows count. */
  readonly isPicked: boolean;
}

/**
 * The occasion as the ledger keeps it.
 * @example occasionKey({ kind: "period", per: [] }, { period: "2026-10", … }) //=> "2026-10"
 */
export function occasionKey(once: Once, { run, period, edition, isPicked }: OccasionFacts): string {
  const whole = {
    period,
    edition: say().delivery.edition({ edition }),
    row: say().delivery.rowsRun({ run }),
    hand: say().place.run({ id: run }),
  }[once.kind];
  return isPicked && once.kind !== "row" && once.kind !== "hand" ? say().delivery.ofRows({ whole, run }) : whole;
}

/** The occasion of a single record, whatever its report says of periods. */
export function recordOccasion(key: string): string {
  return `${RECORD}${key}`;
}

export function isRecordOccasion(occasion: string): boolean {
  return occasion.startsWith(RECORD);
}

const RECORD = "record ";

/** What may happen once, as a sentence. */
export function onceSentence(once: Once): string {
  switch (once.kind) {
    case "period":
      return say().delivery.eachGroupGetsOncePeriod();
    case "edition":
      return say().delivery.eachGroupGetsOnceEdition();
    case "row":
      return say().delivery.eachRowGoesOutOnce({ per: once.per.join(" and ") });
    case "hand":
      return say().delivery.goesOutWheneverPersonRuns();
  }
}

/**
 * What tells a row apart: the cleaned values of the named columns. Rows whose values are all blank have no key, and count as new.
 * @example rowKeyReader(table, ["visit_no"])(0) //=> '["v-1042"]'
 */
export function rowKeyReader(table: Table, per: readonly string[]): (row: number) => string | undefined {
  const columns = per.flatMap((name) => table.columns.filter((column) => columnKey(column.name) === columnKey(name)));
  return (row) => {
    const values = columns.map((column) => groupKey(String(column.values[row] ?? "")));
    return values.every((value) => value === "") ? undefined : JSON.stringify(values);
  };
}

/** Rows of a report that have gone out before: the day of each, by its group's key and its own with a blank between. */
export interface GoneRows {
  readonly per: readonly string[];
  readonly days: Readonly<Record<string, string>>;
}

/** Of a group's rows those that have gone out before, with the reason why they stay out. */
export function rowsGone(
  { per, days }: GoneRows,
  table: Table,
  group: Pick<Group, "key" | "rows">,
): Map<number, string> {
  const read = rowKeyReader(table, per);
  return new Map(
    group.rows.flatMap((row): [number, string][] => {
      const key = `${group.key} ${read(row)}`;
      return Object.hasOwn(days, key) ? [[row, say().delivery.deliveredAlready({ day: days[key] })]] : [];
    }),
  );
}
