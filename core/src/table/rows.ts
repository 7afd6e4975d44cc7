import { Exact, groupKey } from "../common/index.js";
import type { Cell, Column } from "./table.js";

const BETWEEN = "\u001f";

/** What tells a row apart by some columns: their cleaned values, joined by a sign that no cell holds. */
export function rowKey(columns: readonly Column[], row: number): string {
  if (columns.length === 1) return groupKey(String(columns[0].values[row] ?? ""));
  return columns.map((column) => groupKey(String(column.values[row] ?? ""))).join(BETWEEN);
}

/** A row's key as people read it. */
export function showRowKey(key: string): string {
  return key.replaceAll(BETWEEN, " / ");
}

/** The exact sum of the numbers among cells. */
export function sumOf(values: readonly Cell[]): InstanceType<typeof Exact> {
  let total = new Exact(0);
  for (const value of values) if (typeof value === "number") total = total.plus(value);
  return total;
}
