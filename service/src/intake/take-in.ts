import { timeOfDay } from "@corbix/core/calendar";
import { CorbixError, type Finding, hasStop, sortFindings } from "@corbix/core/common";
import { driftFindings } from "@corbix/core/edition";
import { datasetsBeside, type Report, splitColumns } from "@corbix/core/report";
import { checkAgainst } from "@corbix/core/run";
import { type ColumnInfo, type IntakeRules, type LoadOptions, mergeRules } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { datasetColumns, newestReports, templateBytes } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import {
  addEdition,
  type DatasetRow,
  type DatasetSettings,
  type EditionRow,
  getEdition,
  maybeDataset,
  nameNow,
  newestEditionOf,
  packedEdition,
  putAwayOf,
  type ReportVersionRow,
  startLater,
} from "../records/index.js";
import { startRun } from "../run/start-run.js";
import { datasetsMissing } from "../schedule/new-data.js";
import { start } from "../schedule/start.js";
import type { LoadResult } from "../threads/read-tasks.js";

/** A file that is in the store and is to become an edition. */
export interface Incoming {
  readonly dataset: string;
  /** Name of the file as it came. */
  readonly file: string;
  readonly sha256: string;
  /** Corrections for this file; together with those kept for the dataset. */
  readonly rules?: IntakeRules;
  readonly password?: string;
  readonly mode?: "replace" | "append";
  readonly key?: readonly string[];
}

export interface IntakeReading extends Omit<LoadResult, "pieces" | "changes"> {
  readonly rules: IntakeRules;
  readonly mode: "replace" | "append";
  readonly changes: readonly { readonly column: string; readonly kind: string; readonly count: number }[];
}

/** Rows of a file that are shown before it is loaded. */
const PREVIEW_ROWS = 200;

/** Reads a file as it would become an edition, and keeps nothing. */
export async function previewFile(context: Context, incoming: Incoming): Promise<IntakeReading> {
  const dataset = await datasetNow(context, incoming.dataset);
  const { result, plan } = await readFile(context, { ...incoming, dataset }, PREVIEW_ROWS);
  const { pieces: _, changes, ...rest } = result;
  return {
    ...rest,
    rules: plan.rules,
    mode: plan.mode,
    changes: changes.map(({ column, kind, rows }) => ({ column, kind, count: rows.length })),
  };
}

/** Loads of one dataset in this process, each behind the one before. */
const TURNS = new Map<string, Promise<unknown>>();
/** Where another process has added to a dataset meanwhile, the file is read against that, so often. */
const MOST_TURNS = 10;

/**
 * Makes a file the next edition of its dataset, and starts the reports that ask for it. Several files for one dataset wait their turn:
 * each adds to what the one before has left.
 */
export async function takeIn(context: Context, asked: Incoming, by: string): Promise<EditionRow> {
  const incoming = { ...asked, dataset: await datasetNow(context, asked.dataset) };
  const before = TURNS.get(incoming.dataset) ?? Promise.resolve();
  const own = before.then(() => takeInTurn(context, incoming, by));
  const ended = own.catch(() => {});
  TURNS.set(incoming.dataset, ended);
  try {
    return await own;
  } finally {
    if (TURNS.get(incoming.dataset) === ended) TURNS.delete(incoming.dataset);
  }
}

/** What comes for a dataset under a name it had before goes where it belongs. Throws `CONFLICT` for one that is archived. */
async function datasetNow({ database }: Context, name: string): Promise<string> {
  const now = (await nameNow(database, "datasets", name)) ?? name;
  const away = await putAwayOf(database, "datasets", now);
  if (away?.state !== "archived") return now;
  throw new CorbixError("CONFLICT", say().serviceIntake.cannotLoadAnythingArchived({ now }), {
    where: "datasets",
    advice: say().serviceIntake.bringBackFirst(),
  });
}

async function takeInTurn(context: Context, incoming: Incoming, by: string): Promise<EditionRow> {
  for (let turn = 1; ; turn++) {
    try {
      return await takeInOnce(context, incoming, by);
    } catch (error) {
      const isOvertaken = error instanceof CorbixError && error.code === "CONFLICT" && turn < MOST_TURNS;
      if (!isOvertaken) throw error;
    }
  }
}

async function takeInOnce(context: Context, incoming: Incoming, by: string): Promise<EditionRow> {
  const { result, plan } = await readFile(context, incoming, 0);
  const added = await addEdition(context.database, {
    dataset: incoming.dataset,
    origin: incoming.file,
    sha256: incoming.sha256,
    rowCount: result.rowCount,
    columns: result.columns,
    pieces: result.pieces,
    reading: result.reading,
    headerRow: result.headerRow,
    leftOut: result.leftOut,
    decisions: result.decisions,
    changes: result.changes,
    rules: plan.rules,
    appended: result.appended,
    findings: result.findings,
    basedOn: plan.before?.number,
    createdBy: by,
  });
  await noteAction(context.database, by, "edition loaded", incoming.dataset, {
    edition: added.number,
    rows: added.rowCount,
  });
  await announce(context.database, { kind: "dataset", subject: incoming.dataset });
  await startReports(context, incoming.dataset, added);
  return added;
}

interface ReadingPlan {
  readonly rules: IntakeRules;
  readonly mode: "replace" | "append";
  readonly before: EditionRow | undefined;
}

async function readFile(
  context: Context,
  incoming: Incoming,
  previewRows: number,
): Promise<{ result: LoadResult; plan: ReadingPlan }> {
  const { dataset, settings } = await datasetFor(context, incoming.dataset);
  const before = dataset && (await newestEditionOf(context.database, dataset.id));
  const rules = mergeRules(settings.rules ?? {}, incoming.rules ?? {});
  const key = incoming.key ?? settings.key ?? [];
  const mode = incoming.mode ?? settings.mode ?? "replace";
  if (mode === "append" && key.length === 0) {
    throw new CorbixError("BAD_REQUEST", say().serviceIntake.cannotAddEditionBeforeKey(), {
      where: say().place.dataset({ name: incoming.dataset }),
      advice: say().serviceIntake.nameColumnsTellRowsApart(),
    });
  }
  const password = incoming.password ?? (settings.password ? context.secrets.open(settings.password) : undefined);
  const options: LoadOptions = { ...rules, ...(password === undefined ? {} : { password }) };
  const reports = await newestReports(context);
  const own = reports.filter((report) => report.definition.data === incoming.dataset);
  const result = await context.threads.isolated("load", {
    path: context.store.pathOf(incoming.sha256),
    sha256: incoming.sha256,
    where: incoming.file,
    options,
    groupColumns: [...new Set(own.flatMap((report) => splitColumns(report.definition)))],
    previewRows,
    ...(before ? { before: await packedEdition(context.database, before) } : {}),
    ...(mode === "append" ? { appendBy: key } : {}),
  });
  const drift = result.drift
    ? driftFindings(
        result.drift,
        await usesOf(context, incoming.dataset, before?.columns ?? [], reports),
        incoming.file,
      )
    : [];
  const findings: Finding[] = sortFindings([...drift, ...result.findings]);
  return { result: { ...result, findings }, plan: { rules, mode, before } };
}

async function datasetFor(
  context: Context,
  name: string,
): Promise<{ dataset: DatasetRow | undefined; settings: DatasetSettings }> {
  const dataset = await maybeDataset(context.database, name);
  return { dataset, settings: dataset?.settings ?? {} };
}

/** Which reports cannot do without a column: each is checked against the columns without it. */
async function usesOf(
  context: Context,
  dataset: string,
  columns: readonly ColumnInfo[],
  reports: readonly ReportVersionRow[],
): Promise<(column: string) => readonly string[]> {
  const concerned = reports
    .map((report) => report.definition)
    .filter((report) => report.data === dataset || datasetsBeside(report).includes(dataset));
  const all = await datasetColumns(context);
  const templates = await templateBytes(context);
  return (column) => {
    const rest = columns.filter((one) => one.name !== column);
    const without = new Map([...all, [dataset, rest]]);
    return concerned
      .filter((report) => {
        const own = report.data === dataset ? rest : (all.get(report.data) ?? []);
        try {
          checkAgainst(report, own, without, templates);
          return false;
        } catch (error) {
          return error instanceof CorbixError;
        }
      })
      .map((report) => report.report);
  };
}

async function startReports(context: Context, dataset: string, edition: EditionRow): Promise<void> {
  const reports = (await newestReports(context)).filter(
    ({ definition }) => definition.startOnData && startDatasets(definition).includes(dataset),
  );
  for (const { name, definition } of reports) {
    if (hasStop(edition.findings)) {
      await noteAction(context.database, "intake", "report not started: a finding stops", name, {
        dataset,
        edition: edition.number,
      });
      continue;
    }
    if (definition.startOnData === true)
      await start(context, name, "new data", () =>
        startRun(context, { report: name, edition: edition.number }, "new data"),
      );
    else await startOnAll(context, definition);
  }
}

/** Datasets whose editions start a report. */
function startDatasets({ data, startOnData }: Report): readonly string[] {
  return typeof startOnData === "boolean" ? [data] : (startOnData.all ?? [data]);
}

/** Starts a report once all of its datasets are newer than its last run, and not before its hour. */
async function startOnAll(context: Context, report: Report): Promise<void> {
  const { startOnData } = report;
  if (typeof startOnData === "boolean") return;
  if ((await datasetsMissing(context, report.report, startDatasets(report))).length > 0) return;
  const { number } = await getEdition(context.database, report.data);
  const zone = startOnData.zone ?? report.schedule?.zone ?? context.settings.zone;
  const now = context.now();
  const at = startOnData.notBefore === undefined ? now : timeOfDay(now, startOnData.notBefore, zone);
  if (at > now) await startLater(context.database, report.report, at, number);
  else
    await start(context, report.report, "new data", () =>
      startRun(context, { report: report.report, edition: number }, "new data"),
    );
}
