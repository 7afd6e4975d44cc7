/** What reports are made of: templates, definitions and the recipient list, each in versions that are never changed. */

import { CorbixError, suggestName } from "@corbix/core/common";
import { readImage } from "@corbix/core/page";
import { preparedColumns } from "@corbix/core/prepare";
import type { Report } from "@corbix/core/report";
import type { ColumnInfo } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import type { ReportVersionRow, TemplateVersionRow } from "../records/index.js";
import * as records from "../records/index.js";
import { checkDelivery } from "../run/delivery-checks.js";
import { checkFigures } from "../run/figures-checks.js";
import { checkCalendars, planNextRun } from "./calendars.js";
import { checkExpected } from "./expected.js";

/** Keeps a template as its next version; one that cannot be read is refused. The same bytes make no new version. */
export async function addTemplate(
  context: Context,
  name: string,
  bytes: Uint8Array,
  by: string,
  expected?: string,
): Promise<TemplateVersionRow> {
  if (
    !/^[\p{L}\p{N}][\p{L}\p{N} ._-]{0,100}\.(xlsx|xlsm|docx|pptx|html|md|txt|png|jpe?g|pdf|csv|ics|zip)$/u.test(name)
  ) {
    throw new CorbixError("BAD_REQUEST", say().serviceLibrary.cannotUseTemplateSName({ name }), { where: "templates" });
  }
  if (/\.(?:xls[xm]|docx|pptx)$/.test(name)) await context.threads.quick("readTemplate", { bytes, name });
  else if (!/\.(?:html|md|txt|pdf|csv|ics|zip)$/.test(name)) {
    const image = readImage(bytes);
    if (typeof image === "string")
      throw new CorbixError("BAD_REQUEST", say().serviceLibrary.cannotUsePicture({ name, image }), {
        where: "templates",
      });
  }
  const sha256 = await context.store.put(bytes);
  for (;;) {
    await checkFree(context, "templates", name);
    const newest = await records.maybeTemplate(context.database, name);
    checkExpected(expected, newest?.number, say().place.template({ name }), newest?.createdBy);
    if (newest?.sha256 === sha256) {
      await records.bringBack(context.database, "templates", name, "deleted");
      return newest;
    }
    const number = (newest?.number ?? 0) + 1;
    const version = { name, number, sha256, size: bytes.length, createdBy: by };
    const kept = await keepVersion(context, "templates", name, (transaction) =>
      records.addTemplateVersion(context.database, version, transaction),
    );
    if (!kept) continue;
    await noteAction(context.database, by, "template added", name, { version: number });
    await announce(context.database, { kind: "template", subject: name });
    return kept;
  }
}

/** The newest version of each template, by name. */
export function newestTemplates(context: Context): Promise<TemplateVersionRow[]> {
  return records.newestTemplates(context.database);
}

export async function getTemplate(context: Context, name: string): Promise<TemplateVersionRow> {
  const found = await records.maybeTemplate(context.database, name);
  if (found && !(await isDeleted(context, "templates", found.name))) return found;
  const names = (await newestTemplates(context)).map((template) => template.name);
  throw new CorbixError("NOT_FOUND", say().serviceLibrary.cannotFindTemplate({ name }), {
    where: "templates",
    advice: suggestName(name, names, "templates"),
  });
}

/** Keeps a definition as the report's next version, after checking it against the newest data and templates there are. */
export async function addReport(
  context: Context,
  source: string,
  by: string,
  expectedName?: string,
  { expected, note }: { readonly expected?: string | undefined; readonly note?: string | undefined } = {},
): Promise<ReportVersionRow> {
  const definition = await readDefinition(context, source, expectedName ?? "report");
  await checkFree(context, "reports", definition.report);
  if (expectedName !== undefined && definition.report !== expectedName) {
    throw new CorbixError(
      "BAD_DEFINITION",
      say().serviceLibrary.cannotKeepReportNameBut({ report: definition.report, expectedName }),
      { where: "report" },
    );
  }
  await checkCalendars(context, definition);
  await checkReportAgainstStore(context, definition);
  for (;;) {
    const newest = await records.maybeReport(context.database, definition.report);
    checkExpected(expected, newest?.number, say().place.report({ name: definition.report }), newest?.createdBy);
    const number = (newest?.number ?? 0) + 1;
    const version = {
      name: definition.report,
      number,
      source,
      definition,
      note: note?.trim() || null,
      createdBy: by,
    };
    const kept = await keepVersion(context, "reports", definition.report, (transaction) =>
      records.addReportVersion(context.database, version, transaction),
    );
    if (!kept) continue;
    await planNextRun(context, definition, context.now());
    await noteAction(context.database, by, "report saved", definition.report, { version: number });
    await announce(context.database, { kind: "report", subject: definition.report });
    return kept;
  }
}

/** Keeps a version unless the name was given away or put away meanwhile; one that was deleted is there again. Throws `CONFLICT`. */
function keepVersion<Row>(
  context: Context,
  kind: records.Kind,
  name: string,
  keep: (transaction: records.Transaction) => Promise<Row | undefined>,
): Promise<Row | undefined> {
  return context.database.transaction(async (transaction) => {
    await records.lockName(context.database, kind, name, transaction);
    await checkFree(context, kind, name, transaction);
    const kept = await keep(transaction);
    if (kept) await records.bringBack(context.database, kind, name, "deleted", transaction);
    return kept;
  });
}

/** What is archived, or has another name now, is not added to under this one. Throws `CONFLICT`. */
export async function checkFree(
  context: Context,
  kind: records.Kind,
  name: string,
  transaction?: records.Transaction,
): Promise<void> {
  const now = await records.nameNow(context.database, kind, name, transaction);
  if (now !== undefined)
    throw new CorbixError("CONFLICT", say().serviceLibrary.cannotKeepAnythingCalledNow({ name, now }), {
      where: kind,
      advice: say().serviceLibrary.useNameChooseAnother(),
    });
  const away = await records.putAwayOf(context.database, kind, name, transaction);
  if (away?.state === "archived")
    throw new CorbixError("CONFLICT", say().serviceLibrary.cannotUseArchived({ name }), {
      where: kind,
      advice: say().serviceLibrary.bringBackFirst(),
    });
}

/** A definition from its text, read in a thread: whatever it holds, nobody else waits for it. Throws `BAD_DEFINITION` or `LIMIT_EXCEEDED`. */
export async function readDefinition(context: Context, source: string, where: string): Promise<Report> {
  return Object.freeze(await context.threads.quick("readDefinition", { source, where }));
}

/** Names in the definition are checked as soon as the datasets are there to check them against; with templates that are not kept yet. */
export async function checkReportAgainstStore(
  context: Context,
  report: Report,
  besides: ReadonlyMap<string, Uint8Array> = new Map(),
): Promise<void> {
  const columns = await datasetColumns(context);
  const own = columns.get(report.data);
  if (!own)
    throw new CorbixError("BAD_DEFINITION", say().serviceLibrary.cannotFindDataset({ data: report.data }), {
      where: "data",
      advice: say().serviceLibrary.loadFileFirstCorrectName({
        suggestion: suggestName(report.data, [...columns.keys()], "datasets"),
      }),
    });
  const starting = typeof report.startOnData === "boolean" ? [] : (report.startOnData.all ?? []);
  for (const [where, names] of [
    ["schedule, waitFor", report.schedule?.waitFor ?? []],
    ["startOnData, all", starting],
  ] as const)
    for (const name of names)
      if (!columns.has(name))
        throw new CorbixError("BAD_DEFINITION", say().serviceLibrary.cannotFindDataset({ data: name }), {
          where,
          advice: suggestName(name, [...columns.keys()], "datasets"),
        });
  const templates = new Map([...(await templateBytes(context)), ...besides]);
  await context.threads.quick("checkDefinition", {
    definition: report,
    columns: Object.fromEntries(columns),
    templates: Object.fromEntries(templates),
    recipients: (await records.newestRecipients(context.database))?.recipients ?? [],
  });
  await checkDelivery(context, report);
  await checkFigures(
    context,
    report,
    (await newestReports(context)).map(({ definition }) => definition),
  );
}

/** The columns that a report's preparation gives its templates. */
export async function preparedColumnsOf(context: Context, report: Report): Promise<readonly ColumnInfo[]> {
  const columns = await datasetColumns(context);
  return preparedColumns(columns.get(report.data) ?? [], report, columns);
}

/** The columns of each dataset's newest edition. */
export async function datasetColumns(context: Context): Promise<Map<string, readonly ColumnInfo[]>> {
  const newest = await records.newestColumns(context.database);
  return new Map(newest.map(({ name, columns }) => [name, columns]));
}

/** Bytes of templates by name: the newest, or the given versions. */
export async function templateBytes(
  context: Context,
  digests?: Readonly<Record<string, string>>,
): Promise<Map<string, Uint8Array>> {
  const chosen =
    digests ?? Object.fromEntries((await newestTemplates(context)).map((template) => [template.name, template.sha256]));
  const bytes = new Map<string, Uint8Array>();
  for (const [name, digest] of Object.entries(chosen)) bytes.set(name, await heldBytes(context, digest));
  return bytes;
}

async function heldBytes(context: Context, digest: string): Promise<Uint8Array> {
  const { templates } = context.caches;
  const known = templates.get(digest);
  if (known) return known;
  const bytes = await context.store.get(digest);
  templates.set(digest, bytes);
  return bytes;
}

/** The newest version of each report, by name. */
export function newestReports(context: Context): Promise<ReportVersionRow[]> {
  return records.newestReports(context.database);
}

export async function getReport(context: Context, name: string): Promise<ReportVersionRow> {
  const found = await records.maybeReport(context.database, name);
  if (found && !(await isDeleted(context, "reports", found.name))) return found;
  const names = (await newestReports(context)).map((report) => report.name);
  throw new CorbixError("NOT_FOUND", say().serviceLibrary.cannotFindReport({ name }), {
    where: "reports",
    advice: suggestName(name, names, "reports"),
  });
}

async function isDeleted(context: Context, kind: records.Kind, name: string): Promise<boolean> {
  return (await records.putAwayOf(context.database, kind, name))?.state === "deleted";
}

export function getReportVersion(context: Context, name: string, number: number): Promise<ReportVersionRow> {
  return records.reportVersion(context.database, name, number);
}
