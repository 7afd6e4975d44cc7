/** What a run of a report would do, told before anybody starts it: who would receive, who has had theirs, and who gets nothing. */
import { dayInZone, periodLabel } from "@corbix/core/calendar";
import { type GroupOutlook, occasionKey, onceOf } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import type { RunFacts } from "@corbix/core/run";
import { periodsOfReport } from "../library/calendars.js";
import { getReport, templateBytes } from "../library/definitions.js";
import { trialInput } from "../library/template-preview.js";
import { outlookOfMessages } from "../outbox/outlook.js";
import type { Context } from "../process/context.js";
import { getEdition, type LedgerEntry, ledgerOf } from "../records/index.js";
import type { PlannedGroups } from "../threads/make-tasks.js";
import { periodsToMakeUp } from "./catch-up.js";
import { rowsDelivered } from "./delivered-before.js";
import { rowsByPeriod } from "./open-periods.js";

export interface ProspectWish {
  readonly period?: string | undefined;
  readonly edition?: number | undefined;
}

type Group = PlannedGroups["groups"][number];

/** What would become of it, as before a release. */
export type GroupProspect = Omit<Group, "messages"> & Omit<GroupOutlook, "label" | "why">;

export interface Prospect {
  readonly period: string | null;
  readonly rows: number;
  readonly leftOut: PlannedGroups["leftOut"];
  /** Labels of periods that the files which grow would make up for. */
  readonly madeUpFor: readonly string[];
  /** Whether the report has a message at all. */
  readonly sends: boolean;
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
    madeUpFor: await madeUpFor(context, report, facts, wish.edition),
    sends: report.message !== undefined,
    groups: planned.groups.map((group) => withHad(group, had.get(group.key) ?? [], context.settings.zone)),
  };
}

async function madeUpFor(
  context: Context,
  report: Report,
  facts: RunFacts,
  number: number | undefined,
): Promise<string[]> {
  const missed = facts.period ? await periodsToMakeUp(context, report, { ...facts, period: facts.period }) : [];
  if (missed.length === 0) return [];
  const edition = await getEdition(context.database, report.data, number);
  const rows = await rowsByPeriod(context, edition, report, await periodsOfReport(context, report));
  return missed.filter(({ key }) => rows.has(key)).map((one) => periodLabel(one, report.locale));
}

/** By the rule that a release goes by: what is told here is what becomes of it. */
function withHad({ messages, ...group }: Group, entries: readonly LedgerEntry[], zone: string): GroupProspect {
  const [last] = entries;
  const by = last && { run: last.run, day: dayInZone(last.at, zone) };
  const may = messages.map(({ part, envelope }) => {
    const own = entries.filter((entry) => entry.part === part);
    const had = {
      // The run that would be started is none of these.
      byOthers: new Set(entries.flatMap(({ addresses }) => addresses)),
      byPart: new Set(own.flatMap(({ addresses }) => addresses)),
      isComplete: own.some(({ complete }) => complete),
      hasRows: false,
      by,
    };
    return { envelope, results: {}, had, isAgain: false };
  });
  return { ...group, ...outlookOfMessages(may) };
}

/** Deliveries that a run of now would find; a run that a person starts as a delivery of its own finds none. */
async function ledgerFor(
  context: Context,
  report: Report,
  period: string,
  edition: number | undefined,
): Promise<ReadonlyMap<string, readonly LedgerEntry[]>> {
  const once = onceOf(report);
  if (once.kind === "hand" || once.kind === "row") return new Map();
  const { number } = await getEdition(context.database, report.data, edition);
  const occasion = occasionKey(once, { run: "", period, edition: number, isPicked: false });
  const found = new Map<string, LedgerEntry[]>();
  for (const entry of await ledgerOf(context.database, report.report, occasion))
    found.set(entry.groupKey, [...(found.get(entry.groupKey) ?? []), entry]);
  return found;
}

/** How many groups there are of each kind. */
export function countsOf(groups: readonly GroupProspect[]): Record<GroupProspect["what"] | "groups", number> {
  const counts = { groups: groups.length, go: 0, some: 0, again: 0, had: 0, none: 0 };
  for (const { what } of groups) counts[what] += 1;
  return counts;
}
