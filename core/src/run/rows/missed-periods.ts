/** Which periods a file that grows goes on without. */
import { type Period, periodsFor } from "../../calendar/index.js";
import type { RunFacts } from "../scope.js";

/** The period of a run, and the calendar that says how such periods fall. */
export type RunPeriod = Pick<RunFacts, "calendar"> & { readonly period: Period };

/** Periods between the first that a file holds and the run's own that it does not hold, in order. */
export function missedPeriods(held: readonly string[], { period, calendar }: RunPeriod): Period[] {
  const periods = periodsFor({ every: period.kind }, calendar);
  const there = new Set(held);
  const [first = period.key] = [...held].sort();
  const missing: Period[] = [];
  for (let one = periods.lastBefore(period.from); one && one.key > first; one = periods.lastBefore(one.from))
    if (!there.has(one.key)) missing.unshift(one);
  return missing;
}

/** What a growing file of a group was delivered with. */
export interface HeldPeriods {
  readonly group: string;
  readonly periods: readonly string[];
}

export interface MissedPeriod {
  readonly period: Period;
  /** Groups that go on without it, and those that have it. */
  readonly owed: ReadonlySet<string>;
  readonly had: ReadonlySet<string>;
}

/** Periods in order that growing files go on without; `due`: the groups that get something in the run, all if not given. */
export function periodsMissed(held: readonly HeldPeriods[], own: RunPeriod, due?: ReadonlySet<string>): MissedPeriod[] {
  const found = new Map<string, { readonly period: Period; readonly owed: Set<string> }>();
  for (const { group, periods } of held) {
    if (due && !due.has(group)) continue;
    for (const one of missedPeriods(periods, own)) {
      const known = found.get(one.key) ?? { period: one, owed: new Set<string>() };
      known.owed.add(group);
      found.set(one.key, known);
    }
  }
  return [...found.values()]
    .sort((a, b) => a.period.from - b.period.from)
    .map(({ period: one, owed }) => {
      const had = held.filter(({ periods }) => periods.includes(one.key)).map(({ group }) => group);
      return { period: one, owed, had: new Set(had) };
    });
}
