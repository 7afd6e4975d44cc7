/** Columns of two datasets that have the same values, so that rows of one find rows of the other. */
import { columnKey, groupKey } from "../common/index.js";
import type { Cell, Column, Table } from "../table/index.js";

export interface Partners {
  /** A column here, and the one there. */
  readonly column: string;
  readonly partner: string;
  /** Different values here, and how many of them are there too. */
  readonly values: number;
  readonly found: number;
  /** Whether each value stands there once only, so that a row finds one partner. */
  readonly isUnique: boolean;
}

/** Pairs that share fewer of their values are no partners. */
const LEAST_SHARE = 0.3;
const SHOWN = 5;

/** Pairs of columns that share most of their values, the best first; a name they share decides between equals. */
export function findPartners(table: Table, other: Table): Partners[] {
  const here = table.columns.map(valuesOf);
  const there = other.columns.map(valuesOf);
  const pairs = here.flatMap((one) =>
    there.flatMap((two): Partners[] => {
      if (one.kind !== two.kind || one.counts.size === 0) return [];
      const found = [...one.counts.keys()].filter((value) => two.counts.has(value)).length;
      if (found / one.counts.size < LEAST_SHARE) return [];
      const isUnique = [...two.counts.values()].every((count) => count === 1);
      return [{ column: one.name, partner: two.name, values: one.counts.size, found, isUnique }];
    }),
  );
  return pairs.sort((a, b) => score(b) - score(a)).slice(0, SHOWN);
}

function score({ column, partner, values, found, isUnique }: Partners): number {
  const isNamedAlike = columnKey(column) === columnKey(partner);
  // A truth value or a result is shared by everything: many different values say more.
  return found / values + Math.log10(values) / 4 + (isUnique ? 0.5 : 0) + (isNamedAlike ? 0.3 : 0);
}

function valuesOf({ name, type, values }: Column): {
  readonly name: string;
  readonly kind: string;
  readonly counts: ReadonlyMap<string, number>;
} {
  // Whatever is told of values is of all of them; each different cell is cleaned once.
  const cells = new Map<Cell, number>();
  if (type === "text" || type === "number") for (const cell of values) cells.set(cell, (cells.get(cell) ?? 0) + 1);
  const counts = new Map<string, number>();
  for (const [cell, count] of cells) {
    const key = groupKey(String(cell ?? ""));
    if (key !== "") counts.set(key, (counts.get(key) ?? 0) + count);
  }
  // Days and amounts are the same by chance; only what names something is a key.
  const isKey = type === "text" || (type === "number" && [...counts.keys()].every((key) => /^\d+$/.test(key)));
  return { name, kind: isKey ? "key" : type, counts: isKey ? counts : new Map() };
}
