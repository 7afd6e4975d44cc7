import { CorbixError, type Finding, foldName, sortFindings } from "@corbix/core/common";
import { type LeftOutRows, otherDatasets } from "@corbix/core/prepare";
import type { Report } from "@corbix/core/report";
import { notReadReasons, planRun, type RunFacts } from "@corbix/core/run";
import { type Table, takeRows } from "@corbix/core/table";
import type { Context } from "../context.js";
import { templateBytes } from "../library.js";
import {
  type EnclosedFile,
  getDataset,
  getEdition,
  packLines,
  type RecipientListRow,
  type RunRow,
  readEdition,
  readPeriod,
} from "../records/index.js";
import { encloseFiles } from "./enclose.js";
import { errorFacts, factsOfRun, getRun, moveRun, reportOfRun } from "./run-records.js";

/** Parcels that one job makes: enough to share what is read, few enough to spread over the workers. */
export const BATCH = 8;

/** Step one: everything that can be known before a file is made. What the definition cannot do at all fails the run. */
export async function planStep(context: Context, runId: string): Promise<void> {
  const run = await getRun(context, runId);
  if (run.state !== "planning") return;
  try {
    await planAndKeep(context, run);
  } catch (error) {
    if (!(error instanceof CorbixError)) throw error;
    await moveRun(context, runId, ["planning"], "failed", { error: errorFacts(error), finishedAt: context.now() });
  }
}

/** The edition's rows that the run can need: of a period, only pieces that hold its dates are read, and the others counted. */
async function readMaster(
  context: Context,
  run: RunRow,
  report: Report,
  facts: RunFacts,
): Promise<{ table: Table; notRead: LeftOutRows[] }> {
  const { database } = context;
  const edition = await getEdition(database, report.data, run.editions[report.data]);
  const column =
    report.period && edition.columns.find((one) => foldName(one.name) === foldName(report.period?.column ?? ""));
  if (!facts.period || !column || (column.type !== "date" && column.type !== "datetime"))
    return { table: await readEdition(database, edition), notRead: [] };
  const { table, outside, blank, rowNumbers } = await readPeriod(database, edition, column.name, facts.period);
  return { table, notRead: notReadReasons(column.name, facts.period, { outside, blank, rowNumbers }) };
}

async function planAndKeep(context: Context, run: RunRow): Promise<void> {
  const { database } = context;
  const report = await reportOfRun(context, run);
  const facts = factsOfRun(context, run, report);
  const others = new Map<string, Table>();
  for (const name of otherDatasets(report))
    others.set(name, await readEdition(database, await getEdition(database, name, run.editions[name])));
  const master = await readMaster(context, run, report, facts);
  const { settings } = await getDataset(database, report.data);
  const list =
    run.recipientListId === null
      ? undefined
      : ((await database.models.RecipientList.findByPk(run.recipientListId, {
          raw: true,
        })) as unknown as RecipientListRow);
  const { plan } = planRun({
    report,
    table: master.table,
    notRead: master.notRead,
    others,
    aliases: settings.aliases ?? [],
    recipients: list?.recipients ?? [],
    templates: await templateBytes(context, run.templates),
    facts,
    ...(run.onlyGroups ? { only: run.onlyGroups } : {}),
    ...(run.onlyRows ? { onlyRows: { ...run.onlyRows, rowNumbers: new Set(run.onlyRows.rowNumbers) } } : {}),
  });
  const found: Finding[] = [];
  const enclosed = new Map<number, EnclosedFile[]>();
  for (const parcel of plan.parcels) enclosed.set(parcel.number, await encloseFiles(context, run, parcel, found));
  const findings = sortFindings([...plan.findings, ...found]);
  const ids = await database.transaction(async (transaction) => {
    await database.execute("DELETE FROM parcels WHERE run_id = $1", [run.id], transaction);
    const created = await database.models.Parcel.bulkCreate(
      plan.parcels.map((parcel) => ({
        runId: run.id,
        number: parcel.number,
        groupKey: parcel.group.key,
        label: parcel.group.label,
        rowCount: parcel.group.rows.length,
        rowsDigest: parcel.rowsDigest,
        recipients: parcel.recipients,
        planned: parcel.files,
        attachments: parcel.attachments,
        enclosed: enclosed.get(parcel.number) ?? [],
        totals: parcel.totals,
        lines: packLines(takeRows(plan.table, parcel.group.rows)),
        state: "planned" as const,
      })),
      { transaction, returning: true },
    );
    const columns = plan.table.columns.map(({ name, type }) => ({ name, type }));
    await database.models.Run.update(
      {
        state: created.length > 0 ? "making" : "proving",
        columns,
        plan: {
          rows: plan.rows,
          steps: plan.steps,
          ...(plan.sealedNames ? { sealedNames: plan.sealedNames } : {}),
          totals: plan.totals,
          findings,
        },
        parcelCount: created.length,
        touchedAt: context.now(),
      },
      { where: { id: run.id, state: "planning" }, transaction },
    );
    return created.map((parcel) => String(parcel.get("id")));
  });
  if (ids.length === 0) await context.queue.send("prove", { run: run.id });
  for (let at = 0; at < ids.length; at += BATCH)
    await context.queue.send("make", { run: run.id, ids: ids.slice(at, at + BATCH) });
}
