import { periodsFor, timeInZone } from "@corbix/core/calendar";
import { CorbixError, made } from "@corbix/core/common";
import { bareAddress } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import { groupScope, ReportMaker, type RunFacts } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { getReportVersion, templateBytes } from "../library/definitions.js";
import { identities } from "../mail/identities.js";
import type { Context } from "../process/context.js";
import { ALWAYS } from "../process/lease/lease.js";
import { maybeRun, parcelsOfRun, type RunRow, type ShownParcel } from "../records/index.js";
import { furtherColumnsOf } from "./further-lines.js";

export async function getRun(context: Context, id: string): Promise<RunRow> {
  const found = await maybeRun(context.database, id);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceRun.cannotFindRun({ id }), {
    where: "runs",
    advice: say().serviceRun.seeListRuns(),
  });
}

/** A run's error as it is kept and shown. */
export function errorFacts(error: unknown): NonNullable<RunRow["error"]> {
  if (error instanceof CorbixError)
    return {
      code: error.code,
      message: error.message,
      ...(error.where ? { where: error.where } : {}),
      ...(error.advice ? { advice: error.advice } : {}),
    };
  return { code: "FAILED", message: error instanceof Error ? error.message : String(error) };
}

export async function reportOfRun(context: Context, run: RunRow): Promise<Report> {
  const known = context.caches.plannedRuns.get(run.id);
  if (known) return known.report;
  const report = (await getReportVersion(context, run.report, run.reportVersion)).definition;
  // Whoever does not work on runs sees a new name at once.
  if (context.lease !== ALWAYS) context.caches.plannedRuns.set(run.id, { report });
  return report;
}

/** The address that a report's messages come from, as its files and texts name it; of an identity that is not there yet the service's own. */
export async function senderAddress(context: Context, { delivery }: Report): Promise<string> {
  if (delivery.sender !== undefined) return bareAddress(delivery.sender);
  const identity = (await identities(context)).find((one) => one.name === delivery.from);
  return bareAddress(identity?.settings.from ?? context.settings.mailFrom);
}

export async function factsOfRun(context: Context, run: RunRow, report: Report): Promise<RunFacts> {
  const known = context.caches.plannedRuns.get(run.id);
  if (known?.facts) return known.facts;
  const facts = factsWith(context, run, report, await senderAddress(context, report));
  if (known) known.facts = facts;
  return facts;
}

/** The same with the address that its messages come from. */
export function factsWith(context: Context, run: RunRow, report: Report, sender: string): RunFacts {
  return {
    id: run.id,
    date: run.runDate,
    time: timeInZone(run.createdAt, report.schedule?.zone ?? context.settings.zone),
    sender,
    locale: report.locale,
    ...(report.period ? { period: periodsFor(report.period, run.calendar ?? undefined).parse(run.period) } : {}),
    ...(run.calendar ? { calendar: run.calendar } : {}),
  };
}

export async function makerOfRun(context: Context, run: RunRow, report: Report): Promise<ReportMaker> {
  const further = await furtherColumnsOf(context, run.id);
  const key = JSON.stringify([run.report, run.reportVersion, run.templates, run.columns, further]);
  const known = context.caches.makers.get(key);
  if (known) return known;
  const maker = new ReportMaker(
    report,
    groupScope(made(run.columns, "the columns of a planned run"), "any", further),
    await templateBytes(context, run.templates),
  );
  context.caches.makers.set(key, maker);
  return maker;
}

export function parcelsOf(context: Context, runId: string): Promise<ShownParcel[]> {
  return parcelsOfRun(context.database, runId);
}
