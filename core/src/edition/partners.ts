/** Columns of two datasets that have the same values, so that rows of one find rows of the other. */
import { columnKey, groupKey } from "../common/index.js";
import type { Column, Table } from "../table/index.js";

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

/** Values of a column that are looked at; more tell nothing new. */
const LOOKED_AT = 20_000;
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
  const counts = new Map<string, number>();
  const end = Math.min(values.length, LOOKED_AT);
  for (let row = 0; row < end; row++) {
    const key = groupKey(String(values[row] ?? ""));
    if (key !== "") counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  // Days and amounts are the same by chance; only what names something is a key.
  const isKey = type === "text" || (type === "number" && [...counts.keys()].every((key) => /^\d+$/.test(key)));
  return { name, kind: isKey ? "key" : type, counts: isKey ? counts : new Map() };
}
