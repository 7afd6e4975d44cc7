/** Totals of a run's definition over all rows, and whether the groups' come to them. */
import { addsUp, Exact } from "../../common/index.js";
import { type Env, OWN_LINES } from "../../expression/index.js";
import type { Group } from "../../split/index.js";
import type { Table } from "../../table/index.js";
import type { ReportMaker } from "../report-maker.js";
import { type FurtherTable, furtherOf } from "../rows/further.js";
import { groupEnv, type RunFacts } from "../scope.js";

export interface ControlTotal {
  readonly name: string;
  /** Over all rows that were kept. */
  readonly master: string;
  /** Sum of the groups, where the total is a sum or count. */
  readonly parcels: string | undefined;
  /** Of kept rows that are in no group; 0 where the total is no sum or count. */
  readonly leftOut: string;
  readonly agrees: boolean;
}
export function totalsOf(totals: ReportMaker["totals"], env: Env): Record<string, string> {
  return Object.fromEntries(totals.map(({ name, expression }) => [name, String(expression.evaluate(env) ?? 0)]));
}
export function controlTotals(
  maker: ReportMaker,
  table: Table,
  parcels: readonly { readonly totals: Readonly<Record<string, string>> }[],
  outside: readonly number[],
  { facts, further }: { readonly facts: RunFacts; readonly further: readonly FurtherTable[] },
): ControlTotal[] {
  const over = (rows: readonly number[], some = maker.totals): Record<string, string> => {
    const group: Group = { key: "", label: "", spellings: [], rows };
    const place = { number: 0, count: parcels.length, further: furtherOf(further, group) };
    return totalsOf(some, groupEnv(table, group, place, [], facts));
  };
  const all = over(Array.from({ length: table.rowCount }, (_, row) => row));
  // A row that goes to several groups, or to all, is counted there more than once.
  const once = new Set([OWN_LINES, ...further.filter((one) => one.isExclusive).map((one) => one.name)]);
  const isSum = (adds: ReadonlySet<string> | undefined): boolean =>
    adds !== undefined && [...adds].every((lines) => once.has(lines));
  // A quotient or a greatest has no value over no rows, and none that the rest would owe.
  const rest = over(
    outside,
    maker.totals.filter(({ adds }) => isSum(adds)),
  );
  return maker.totals.map(({ name, adds }): ControlTotal => {
    if (!isSum(adds)) return { name, master: all[name], parcels: undefined, leftOut: "0", agrees: true };
    const parts = parcels.map((parcel) => parcel.totals[name]);
    const sum = parts.reduce((total, part) => total.plus(part), new Exact(0));
    return {
      name,
      master: all[name],
      parcels: sum.toString(),
      leftOut: rest[name],
      agrees: addsUp([...parts, rest[name]], all[name]),
    };
  });
}
