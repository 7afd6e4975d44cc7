/** What a run of a report would do, told before anybody starts it: who would receive, who has had theirs, and who gets nothing. */
import { occasionKey, onceOf } from "@corbix/core/delivery";
import { foldAddress } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import { getReport, templateBytes } from "../library/definitions.js";
import { trialInput } from "../library/template-preview.js";
import type { Context } from "../process/context.js";
import { getEdition, ledgerOf } from "../records/index.js";
import type { PlannedGroups } from "../threads/make-tasks.js";
import { rowsDelivered } from "./delivered-before.js";

export interface ProspectWish {
  readonly period?: string | undefined;
  readonly edition?: number | undefined;
}

type Group = PlannedGroups["groups"][number];

/** `go`: as a first time. `some`: only those who have not had it. `had`: everybody has had it. `none`: nobody receives. */
export interface GroupProspect extends Group {
  readonly says: "go" | "some" | "had" | "none";
  readonly day: string | undefined;
  readonly run: string | undefined;
}

export interface Prospect {
  readonly period: string | null;
  readonly rows: number;
  readonly leftOut: PlannedGroups["leftOut"];
  readonly groups: readonly GroupProspect[];
}

/** Each group with its people and the rule that names them, or the reason why there is nobody. */
export async function matchingOf(
  context: Context,
  name: string,
  period: string | undefined,
): Promise<readonly Group[]> {
  const { definition: report } = await getReport(context, name);
  const input = await trialInput(context, report, { period }, await templateBytes(context));
  return (await context.threads.isolated("planGroups", { input, group: undefined, gone: undefined })).groups;
}

/** Throws as a run of the report would: what stands in its way is known before. */
export async function prospectOf(context: Context, name: string, wish: ProspectWish): Promise<Prospect> {
  const { definition: report } = await getReport(context, name);
  const input = await trialInput(context, report, wish, await templateBytes(context));
  const { facts } = input;
  const once = onceOf(report);
  const gone = once.kind === "row" ? await rowsDelivered(context, report.report, once) : undefined;
  const planned = await context.threads.isolated("planGroups", { input, group: undefined, gone });
  const period = facts.period?.key ?? null;
  const had = await ledgerFor(context, report, period ?? "", wish.edition);
  return {
    period,
    rows: planned.rows,
    leftOut: planned.leftOut,
    groups: planned.groups.map((group) => withHad(group, had.get(group.key))),
  };
}

type Had = Awaited<ReturnType<typeof ledgerOf>>[number];

function withHad(group: Group, had: Had | undefined): GroupProspect {
  const facts = { ...group, day: had?.day, run: had?.run };
  if (group.people.length === 0) return { ...facts, says: "none" };
  if (!had) return { ...facts, says: "go" };
  const reached = new Set(had.addresses);
  const left = group.people
    .flatMap(({ to, copies, blindCopies }) => [...to, ...copies, ...blindCopies])
    .filter(({ address }) => !reached.has(foldAddress(address)));
  return { ...facts, says: left.length > 0 ? "some" : "had" };
}

/** Deliveries that a run of now would find; a run that a person starts as a delivery of its own finds none. */
async function ledgerFor(
  context: Context,
  report: Report,
  period: string,
  edition: number | undefined,
): Promise<ReadonlyMap<string, Had>> {
  const once = onceOf(report);
  if (once.kind === "hand" || once.kind === "row") return new Map();
  const { number } = await getEdition(context.database, report.data, edition);
  const occasion = occasionKey(once, { run: "", period, edition: number, isPicked: false });
  const of = { report: report.report, occasion, zone: context.settings.zone };
  return new Map((await ledgerOf(context.database, of)).map((one) => [one.groupKey, one]));
}

/** How many groups there are of each kind. */
export function countsOf(groups: readonly GroupProspect[]): Record<GroupProspect["says"] | "groups", number> {
  const counts = { groups: groups.length, go: 0, some: 0, had: 0, none: 0 };
  for (const { says } of groups) counts[says] += 1;
  return counts;
}
