import { randomBytes } from "node:crypto";
import { type Calendar, dayInZone, periodsFor, takenPeriod } from "@corbix/core/calendar";
import { CorbixError, columnKey, groupKey, isoFromSerial, made, maybeSerialFromIso } from "@corbix/core/common";
import { occasionKey, onceOf, recordOccasion } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import { datasetsAwaited, datasetsBeside, splitColumns } from "@corbix/core/report";
import { applyAliases, splitBy } from "@corbix/core/split";
import { say } from "@corbix/core/words";
import { deed, noteActions } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { calendarsOf, forPeriods } from "../library/calendars.js";
import { checkFree, getReport, newestTemplates } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { traceFrom, traceNow } from "../process/trace.js";
import {
  addRuns,
  addSteps,
  type EditionRow,
  getDataset,
  getEdition,
  holdReportVersion,
  maybeNewestNumbers,
  newestNumbers,
  newestRecipientsId,
  type PeriodChoice,
  type ReportVersionRow,
  type RunRow,
  readEdition,
  type Transaction,
} from "../records/index.js";
import { keysOf } from "./known-groups.js";
import { choosePeriod } from "./open-periods.js";

export interface RunRequest {
  readonly report: string;
  /** Key of the period, such as 2026-10; without it the earliest that is over and not delivered. */
  readonly period?: string | undefined;
  /** Number of the edition; without it the newest. */
  readonly edition?: number | undefined;
  /** Address that gets all messages, each marked with who would have got it. */
  readonly rehearsalTo?: string | undefined;
  /** Groups as written; all if not given. */
  readonly groups?: readonly string[] | undefined;
  /** Only these rows of the edition, by their number in the origin: the result of a search. */
  readonly rows?: { readonly rowNumbers: readonly number[]; readonly why: string };
  /** Why groups that were delivered already get theirs again. */
  readonly again?: string | undefined;
}

/** What runs of a report that start at the same moment have in common. */
export interface StartFacts {
  readonly version: ReportVersionRow;
  /** Numbers of the newest editions of the datasets beside the report's own. */
  readonly others: Readonly<Record<string, number>>;
  readonly recipientListId: number | null;
  /** Digests of the newest templates by their names. */
  readonly templates: Readonly<Record<string, string>>;
  readonly calendar: Calendar | undefined;
  /** Serial of the day by the report's clock. */
  readonly runDate: number;
}

/** A run with all that is fixed at its start. */
export type NewRun = Pick<RunRow, "id" | "report" | "period" | "rehearsalTo" | "startedBy"> & Partial<RunRow>;

/** Fixes everything a run depends on and queues its plan. Throws what is missing. */
export async function startRun(context: Context, request: RunRequest, by: string): Promise<RunRow> {
  const facts = await startFacts(context, await getReport(context, request.report));
  const report = facts.version.definition;
  const edition = await getEdition(context.database, report.data, request.edition);
  if (request.groups) await checkGroups(context, report, edition, request.groups);
  const period = await periodFor(context, report, request, edition, facts);
  const fields = newRun(facts, request, edition, period, { who: by });
  const [run] = await context.database.transaction((transaction) =>
    addStarted(context, facts.version, [fields], transaction),
  );
  await tellStarted(context, [fields], "plan");
  return made(run, "the run that was started");
}

/** Reads what a report's runs start with. Throws where it cannot have any. */
export async function startFacts(context: Context, version: ReportVersionRow): Promise<StartFacts> {
  const { database } = context;
  await checkFree(context, "reports", version.name);
  const report = version.definition;
  if (report.enquiry)
    throw new CorbixError("BAD_REQUEST", say().enquiry.isEnquiry({ name: version.name }), {
      where: "report",
      advice: say().enquiry.askIt({ name: version.name }),
    });
  const beside = datasetsBeside(report).filter((other) => other !== report.data);
  const others = {
    // What a later start has to be newer than.
    ...(await maybeNewestNumbers(database, datasetsAwaited(report))),
    ...(await newestNumbers(database, beside)),
  };
  const day = dayInZone(context.now(), report.schedule?.zone ?? context.settings.zone);
  return {
    version,
    others,
    recipientListId: await newestRecipientsId(database),
    templates: Object.fromEntries((await newestTemplates(context)).map(({ name, sha256 }) => [name, sha256])),
    calendar: (await calendarsOf(context, { period: report.period, schedule: undefined })).period,
    runDate: made(maybeSerialFromIso(day), "the day"),
  };
}

/** The period that a run is for, and whether somebody named it. */
export interface ChosenPeriod extends PeriodChoice {
  readonly isNamed: boolean;
}

/** A run over an edition; of a single record where its key is given, which is an occasion of its own. */
export function newRun(
  { version, others, calendar, ...fixed }: StartFacts,
  request: RunRequest,
  edition: Pick<EditionRow, "id" | "number">,
  { isNamed, ...choice }: ChosenPeriod,
  by: { readonly who: string; readonly record?: string },
): NewRun {
  const report = version.definition;
  const id = randomBytes(4).toString("hex");
  const facts = { run: id, period: choice.chosen, edition: edition.number, isPicked: request.rows !== undefined };
  return {
    ...fixed,
    id,
    report: report.report,
    reportVersion: version.number,
    period: choice.chosen,
    periodChoice: isNamed ? null : choice,
    calendar: calendar ? forPeriods(calendar) : null,
    occasion: by.record === undefined ? occasionKey(onceOf(report), facts) : recordOccasion(by.record),
    state: "planning",
    editionId: edition.id,
    editions: { ...others, [report.data]: edition.number },
    rehearsalTo: request.rehearsalTo ?? null,
    onlyGroups: request.groups?.map(groupKey) ?? null,
    againReason: request.again ?? null,
    onlyRows: request.rows ?? null,
    startedBy: by.who,
    trace: traceNow() ?? traceFrom(undefined),
  };
}

/** Writes runs of a version down with their first step, unless its report was renamed or put away meanwhile. Throws `CONFLICT`. */
export async function addStarted(
  { database }: Context,
  version: ReportVersionRow,
  runs: readonly NewRun[],
  transaction: Transaction,
): Promise<RunRow[]> {
  if (!(await holdReportVersion(database, version, transaction)))
    throw new CorbixError("CONFLICT", say().serviceRun.cannotRunRenamedPutAway({ name: version.name }), {
      where: "reports",
      advice: say().serviceRun.seeListReports(),
    });
  const added = await addRuns(database, runs, transaction);
  await addSteps(
    database,
    runs.map(({ id }) => id),
    [{ name: "plan" }],
    transaction,
  );
  return added;
}

/** Queues the plans of runs that were written down, and says that they started. */
export async function tellStarted(context: Context, runs: readonly NewRun[], queue: "plan" | "record"): Promise<void> {
  await context.queue.send(queue, ...runs.map(({ id }) => ({ run: id, step: "plan" })));
  await noteActions(
    context.database,
    runs.map(({ id, report, period, rehearsalTo, startedBy }) =>
      deed(startedBy, rehearsalTo ? "rehearsal started" : "run started", id, { report, period }),
    ),
  );
  await announce(context.database, ...runs.map(({ id }) => ({ kind: "run" as const, subject: id })));
}

/** Named groups have to be there. Where the preparation makes the column that splits, the plan tells. Throws `UNKNOWN_NAME`. */
async function checkGroups(
  context: Context,
  report: Report,
  edition: EditionRow,
  names: readonly string[],
): Promise<void> {
  const by = splitColumns(report);
  const made = new Set(
    [...Object.keys(report.add ?? {}), ...(report.bring ?? []).flatMap((one) => one.columns ?? [])].map(columnKey),
  );
  const own = edition.columns.filter((column) => by.some((name) => columnKey(name) === columnKey(column.name)));
  if (own.length !== by.length || by.some((name) => made.has(columnKey(name)))) return;
  const table = await readEdition(context.database, edition, { columns: own.map((column) => column.name) });
  const { settings } = await getDataset(context.database, report.data);
  keysOf(
    names,
    splitBy(applyAliases(table, settings.aliases ?? []), report.split).groups,
    say().place.report({ name: report.report }),
  );
}

async function periodFor(
  context: Context,
  report: Report,
  request: RunRequest,
  edition: EditionRow,
  { runDate, calendar }: StartFacts,
): Promise<ChosenPeriod> {
  if (!report.period) {
    // Without a period a run is of its day; what it delivers once is said apart.
    if (request.period === undefined) return { chosen: isoFromSerial(runDate), open: [], isNamed: true };
    throw new CorbixError(
      "BAD_REQUEST",
      say().serviceRun.cannotRunReportPeriod({ report: report.report, period: request.period }),
      { where: "period", advice: say().serviceRun.leavePeriodOutAddReport() },
    );
  }
  const periods = periodsFor(report.period, calendar);
  if (request.period !== undefined) return { chosen: periods.parse(request.period).key, open: [], isNamed: true };
  try {
    return { ...(await choosePeriod(context, report, edition, runDate)), isNamed: false };
  } catch (error) {
    // A rehearsal, or one that goes again on purpose, is of the period that would be due.
    if ((request.rehearsalTo === undefined && request.again === undefined) || !(error instanceof CorbixError))
      throw error;
    return { chosen: takenPeriod(periods, report.period.take, runDate).key, open: [], isNamed: false };
  }
}
