/** Periods that a run makes up for: those that the files which grow go on without, each planned as a run of its own would be. */
import type { Period } from "../../calendar/index.js";
import { type Finding, sha256 } from "../../common/index.js";
import type { MissedPeriod } from "../rows/missed-periods.js";
import type { RunFacts } from "../scope.js";
import type { ControlTotal } from "./control-totals.js";
import { type Plan, planRun } from "./plan.js";
import type { PlanInput } from "./plan-input.js";

/** A period that is made up for, with the parcels of the groups that it was not delivered to. */
export interface CaughtPeriod {
  /** The run's, in that period. */
  readonly facts: RunFacts & { readonly period: Period };
  readonly plan: Plan;
  /** Whether nobody is left who had rows of the period and did not get them. */
  readonly isWhole: boolean;
}

/** What the proof keeps of it. */
export interface CaughtAccount {
  /** Key of the period. */
  readonly period: string;
  readonly groups: number;
  readonly rows: Plan["rows"];
  readonly totals: readonly ControlTotal[];
  readonly isWhole: boolean;
}

/**
 * A missed period as a run of its own would plan it, for the groups that miss it; nothing where the data has no rows of it.
 * `input` is of that period. `owed`: groups that miss it and get something in this run. `had`: those that have it.
 */
export function planCaughtUp(
  input: PlanInput & { readonly facts: RunFacts & { readonly period: Period } },
  { owed, had }: Pick<MissedPeriod, "owed" | "had">,
): CaughtPeriod | undefined {
  const { only: _, ...whole } = input;
  const { plan, ...of } = planRun(whole);
  if (plan.parcels.length === 0) return undefined;
  const own = plan.parcels.filter(({ group }) => owed.has(group.key));
  const rest = plan.parcels.filter(({ group }) => !owed.has(group.key));
  // Planned anew without the others: their rows are left out, and the sums say so.
  const planned = rest.length === 0 ? { plan, ...of } : planRun({ ...whole, only: own.map(({ group }) => group.key) });
  return {
    facts: input.facts,
    // Who receives is a matter of the run's own period.
    plan: { ...planned.plan, findings: planned.plan.findings.filter((one) => !planned.aboutPeople.has(one)) },
    isWhole: rest.every(({ group }) => had.has(group.key)),
  };
}

/** The run's plan with what it makes up for: in what its parcels are made of, in its accounts and in its findings. */
export function withCaughtUp(plan: Plan, caught: readonly CaughtPeriod[]): Plan & { caughtUp: CaughtAccount[] } {
  const digests = new Map<string, CaughtDigest[]>();
  for (const { facts, plan: own } of caught)
    for (const { group, rowsDigest } of own.parcels)
      digests.set(group.key, [...(digests.get(group.key) ?? []), { period: facts.period.key, rowsDigest }]);
  // Groups of those periods that have nothing in the run's own must not be named either.
  const names = [...(plan.sealedNames ?? []), ...caught.flatMap((one) => one.plan.groupNames)];
  return {
    ...plan,
    ...(plan.sealedNames ? { sealedNames: [...new Set(names)] } : {}),
    parcels: plan.parcels.map((parcel) => ({
      ...parcel,
      rowsDigest: digestWith(parcel.rowsDigest, digests.get(parcel.group.key) ?? []),
    })),
    caughtUp: caught.map(({ facts, plan: { rows, totals, parcels }, isWhole }) => ({
      period: facts.period.key,
      groups: parcels.length,
      rows,
      totals,
      isWhole,
    })),
    findings: [...plan.findings, ...caught.flatMap((one) => ownFindings(one, plan.findings))],
  };
}

export interface CaughtDigest {
  readonly period: string;
  readonly rowsDigest: string;
}

/** The digest of what a group is made of, with the periods that are made up for. */
export function digestWith(own: string, caught: readonly CaughtDigest[]): string {
  if (caught.length === 0) return own;
  return sha256([own, ...caught.map(({ period, rowsDigest }) => `${period} ${rowsDigest}`)].join("\n"));
}

/** What is found in the rows of that period and not in the run's own. */
function ownFindings({ facts, plan }: CaughtPeriod, known: readonly Finding[]): Finding[] {
  if (plan.parcels.length === 0) return [];
  return plan.findings
    .filter(
      (one) => !known.some(({ code, where, what }) => code === one.code && where === one.where && what === one.what),
    )
    .map((one) => ({ ...one, where: `${facts.period.key}: ${one.where}` }));
}
