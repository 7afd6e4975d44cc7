/** Templates looked at closely: what each mark is filled from, and a file of one group, made and forgotten. */

import { dayInZone, type Period, type Periods, periodsFor, takenPeriod } from "@corbix/core/calendar";
import { CorbixError, columnKey, made, maybeSerialFromIso } from "@corbix/core/common";
import { newestPeriod, type PackedTable } from "@corbix/core/edition";
import { attachedSize } from "@corbix/core/message";
import { datasetsBeside, type Report } from "@corbix/core/report";
import type { ExplainedMark, FileKind, RunFacts, TriedOut } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { getDataset, getEdition, newestRecipients, packedEdition } from "../records/index.js";
import { senderAddress } from "../run/run-records.js";
import { calendarsOf, forPeriods } from "./calendars.js";
import { fontFolder } from "./custom-fonts.js";
import { datasetColumns, getReport, getTemplate, newestReports, templateBytes } from "./definitions.js";
import { keepFiles } from "./temp-files.js";

/** A report's file that is made from a template. */
export interface TemplateUse {
  readonly report: string;
  readonly file: string;
  readonly title: string;
}

export async function usesOfTemplate(context: Context, template: string): Promise<TemplateUse[]> {
  return (await newestReports(context)).flatMap(({ definition }) =>
    Object.entries(definition.files)
      .filter(([, file]) => file.template === template)
      .map(([file]) => ({ report: definition.report, file, title: definition.title })),
  );
}

/** Marks with what they are filled from; with a report each is checked against what it offers. */
export async function marksOfTemplate(
  context: Context,
  name: string,
  report: string | undefined,
): Promise<readonly ExplainedMark[]> {
  const found = await getTemplate(context, name);
  const bytes = await context.store.get(found.sha256);
  if (report === undefined) return context.threads.quick("marksOf", { bytes, name, against: undefined });
  const { definition } = await getReport(context, report);
  return context.threads.quick("marksOf", {
    bytes,
    name,
    against: {
      definition,
      columns: Object.fromEntries(await datasetColumns(context)),
      recipients: (await newestRecipients(context.database))?.recipients ?? [],
    },
  });
}

export interface TryRequest {
  readonly report: string;
  readonly file: string;
  readonly group?: string | undefined;
  readonly period?: string | undefined;
  /** Of the report's dataset; the newest without one. */
  readonly edition?: number | undefined;
}

export interface Tried extends Omit<TriedOut, "files"> {
  readonly id: string;
  readonly files: readonly {
    readonly kind: FileKind;
    readonly size: number;
    readonly attachedSize: number;
    readonly pages?: number;
  }[];
  readonly period: string | null;
}

export async function tryTemplate(context: Context, request: TryRequest): Promise<Tried> {
  return tryFile(context, (await getReport(context, request.report)).definition, request);
}

/** A file of a report made for one group, and kept for a while to be looked at. */
export async function tryFile(context: Context, report: Report, request: Omit<TryRequest, "report">): Promise<Tried> {
  if (!report.files[request.file])
    throw new CorbixError("NOT_FOUND", say().serviceLibrary.cannotFindFileReport({ file: request.file }), {
      where: "file",
      advice: say().serviceLibrary.report({ keys: Object.keys(report.files).join(", ") }),
    });
  const input = await trialInput(context, report, request, await templateBytes(context));
  const { facts } = input;
  const tried = await context.threads.isolated("tryTemplate", {
    input,
    file: request.file,
    group: request.group,
    fonts: fontFolder(context.settings),
  });
  const { files, ...rest } = tried;
  const id = keepFiles(
    context,
    files.map(({ kind, bytes }) => ({ name: `trial.${kind}`, bytes })),
  );
  return {
    ...rest,
    id,
    period: facts.period?.key ?? null,
    files: files.map(({ kind, bytes, pages }) => ({
      kind,
      size: bytes.length,
      attachedSize: attachedSize(bytes.length),
      ...(pages === undefined ? {} : { pages }),
    })),
  };
}

/** What a trial plans with: the newest of everything unless it names an edition, and the given templates. */
export async function trialInput(
  context: Context,
  report: Report,
  { period, edition }: { readonly period?: string | undefined; readonly edition?: number | undefined },
  templates: ReadonlyMap<string, Uint8Array>,
) {
  const { database } = context;
  const others: Record<string, PackedTable> = {};
  for (const name of datasetsBeside(report))
    others[name] = await packedEdition(database, await getEdition(database, name));
  const { settings } = await getDataset(database, report.data);
  const table = await packedEdition(database, await getEdition(database, report.data, edition));
  return {
    report,
    table,
    others,
    aliases: settings.aliases ?? [],
    recipients: (await newestRecipients(context.database))?.recipients ?? [],
    templates: Object.fromEntries(templates),
    facts: await factsOfTrial(context, report, table, period),
  };
}

/** As a run of now would have them; without a period its own is the last that is over and has rows to be looked at. */
async function factsOfTrial(
  context: Context,
  report: Report,
  table: PackedTable,
  period: string | undefined,
): Promise<RunFacts> {
  const zone = report.schedule?.zone ?? context.settings.zone;
  const today = maybeSerialFromIso(dayInZone(context.now(), zone)) ?? 0;
  const calendar = (await calendarsOf(context, { period: report.period, schedule: undefined })).period;
  const periods = report.period && periodsFor(report.period, calendar);
  const own =
    periods && (period === undefined ? usualPeriod(table, report.period, periods, today) : periods.parse(period));
  return {
    id: "trial",
    date: today,
    sender: await senderAddress(context, report),
    locale: report.locale,
    ...(own ? { period: own } : {}),
    ...(calendar ? { calendar: forPeriods(calendar) } : {}),
  };
}

/** The period that is due; of those that are over the newest with rows. Throws `BAD_PERIOD` where there is none at all. */
function usualPeriod(table: PackedTable, rule: Report["period"], periods: Periods, today: number): Period {
  const { column, take } = made(rule, "the period of a report that has periods");
  const at = column === undefined ? -1 : table.columns.findIndex(({ name }) => columnKey(name) === columnKey(column));
  const isOver = (take ?? "over") === "over";
  const found = isOver && at >= 0 ? newestPeriod(table, at, periods, today) : undefined;
  return found ?? takenPeriod(periods, take, today);
}
