import { randomBytes } from "node:crypto";
import { type Calendar, dayInZone, periodsFor, takenPeriod } from "@corbix/core/calendar";
import { CorbixError, columnKey, groupKey, isoFromSerial, made, maybeSerialFromIso } from "@corbix/core/common";
import { occasionKey, onceOf } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import { datasetsAwaited, datasetsBeside, splitColumns } from "@corbix/core/report";
import { applyAliases, splitBy } from "@corbix/core/split";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { calendarsOf, forPeriods } from "../library/calendars.js";
import { checkFree, getReport, newestTemplates } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import {
  addRun,
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
  /** Key of the record that the edition holds: an occasion of its own. */
  readonly record?: string;
  /** Why groups that were delivered already get theirs again. */
  readonly again?: string | undefined;
}

/** Fixes everything a run depends on and queues its plan; `known` is what the caller has read already. Throws what is missing. */
export async function startRun(
  context: Context,
  request: RunRequest,
  by: string,
  known: { readonly version?: ReportVersionRow; readonly edition?: EditionRow } = {},
): Promise<RunRow> {
  const version = known.version ?? (await getReport(context, request.report));
  await checkFree(context, "reports", version.name);
  const report = version.definition;
  if (report.enquiry)
    throw new CorbixError("BAD_REQUEST", say().enquiry.isEnquiry({ name: version.name }), {
      where: "report",
      advice: say().enquiry.askIt({ name: version.name }),
    });
  const edition = known.edition ?? (await getEdition(context.database, report.data, request.edition));
  const others = datasetsBeside(report).filter((other) => other !== report.data);
  const editions = {
    // What a later start has to be newer than.
    ...(await maybeNewestNumbers(context.database, datasetsAwaited(report))),
    ...(await newestNumbers(context.database, others)),
    [report.data]: edition.number,
  };
  const day = dayInZone(context.now(), report.schedule?.zone ?? context.settings.zone);
  const runDate = made(maybeSerialFromIso(day), "the day");
  const recipientListId = await newestRecipientsId(context.database);
  const templates = Object.fromEntries(
    (await newestTemplates(context)).map((template) => [template.name, template.sha256]),
  );
  if (request.groups) await checkGroups(context, report, edition, request.groups);
  const id = randomBytes(4).toString("hex");
  const calendar = (await calendarsOf(context, { period: report.period, schedule: undefined })).period;
  const { isNamed, ...choice } = await periodFor(context, report, request, edition, { runDate, calendar });
  const facts = { run: id, period: choice.chosen, edition: edition.number, isPicked: request.rows !== undefined };
  const fields = {
    id,
    report: report.report,
    reportVersion: version.number,
    period: choice.chosen,
    periodChoice: isNamed ? null : choice,
    calendar: calendar ? forPeriods(calendar) : null,
    occasion: request.record === undefined ? occasionKey(onceOf(report), facts) : `record ${request.record}`,
    state: "planning" as const,
    editionId: edition.id,
    editions,
    recipientListId,
    templates,
    runDate,
    rehearsalTo: request.rehearsalTo ?? null,
    onlyGroups: request.groups?.map(groupKey) ?? null,
    againReason: request.again ?? null,
    onlyRows: request.rows ?? null,
    startedBy: by,
  };
  const run = await context.database.transaction(async (transaction) => {
    if (!(await holdReportVersion(context.database, version, transaction)))
      throw new CorbixError("CONFLICT", say().serviceRun.cannotRunRenamedPutAway({ name: version.name }), {
        where: "reports",
        advice: say().serviceRun.seeListReports(),
      });
    const made = await addRun(context.database, fields, transaction);
    await addSteps(context.database, id, [{ name: "plan" }], transaction);
    return made;
  });
  await context.queue.send({ run: run.id, step: "plan" });
  await noteAction(context.database, by, request.rehearsalTo ? "rehearsal started" : "run started", run.id, {
    report: report.report,
    period: run.period,
  });
  await announce(context.database, { kind: "run", subject: run.id });
  return run;
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
  { runDate, calendar }: { readonly runDate: number; readonly calendar: Calendar | undefined },
): Promise<PeriodChoice & { readonly isNamed: boolean }> {
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
