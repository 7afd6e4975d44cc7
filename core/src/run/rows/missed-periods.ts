/** Which periods a file that grows goes on without. */
import { type Period, previousPeriod } from "../../calendar/index.js";

/** Periods between the first that a file holds and the run's own that it does not hold, in order. */
export function missedPeriods(held: readonly string[], period: Period): Period[] {
  const there = new Set(held);
  const [first = period.key] = [...held].sort();
  const missing: Period[] = [];
  for (let one = previousPeriod(period.from, period.kind); one.key > first; one = previousPeriod(one.from, one.kind))
    if (!there.has(one.key)) missing.unshift(one);
  return missing;
}

/** Periods in order, each with the groups that go on without it. `held`: what the growing files of groups hold. */
export function periodsMissed(
  held: Iterable<{ readonly group: string; readonly periods: readonly string[] }>,
  period: Period,
): { readonly period: Period; readonly groups: ReadonlySet<string> }[] {
  const found = new Map<string, { readonly period: Period; readonly groups: Set<string> }>();
  for (const { group, periods } of held)
    for (const one of missedPeriods(periods, period)) {
      const known = found.get(one.key) ?? { period: one, groups: new Set<string>() };
      known.groups.add(group);
      found.set(one.key, known);
    }
  return [...found.values()].sort((a, b) => a.period.from - b.period.from);
}
