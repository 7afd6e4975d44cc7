import { CorbixError } from "@corbix/core/common";
import { planRun } from "@corbix/core/run";
import { type Table, takeRows } from "@corbix/core/table";
import type { Context } from "../context.js";
import { templateBytes } from "../library.js";
import { getEdition, packTable, type RecipientListRow, type RunRow, readEdition } from "../records/index.js";
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

async function planAndKeep(context: Context, run: RunRow): Promise<void> {
  const { database } = context;
  const report = await reportOfRun(context, run);
  const tables = new Map<string, Table>();
  for (const [name, number] of Object.entries(run.editions))
    tables.set(name, await readEdition(database, await getEdition(database, name, number)));
  const list =
    run.recipientListId === null
      ? undefined
      : ((await database.models.RecipientList.findByPk(run.recipientListId, {
          raw: true,
        })) as unknown as RecipientListRow);
  const { plan } = planRun({
    report,
    table: tables.get(report.data) as Table,
    others: tables,
    recipients: list?.recipients ?? [],
    templates: await templateBytes(context, run.templates),
    facts: factsOfRun(context, run, report),
    ...(run.onlyGroups ? { only: run.onlyGroups } : {}),
  });
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
        totals: parcel.totals,
        lines: packTable(takeRows(plan.table, parcel.group.rows)),
        state: "planned" as const,
      })),
      { transaction, returning: true },
    );
    const columns = plan.table.columns.map(({ name, type }) => ({ name, type }));
    await database.models.Run.update(
      {
        state: created.length > 0 ? "making" : "proving",
        columns,
        plan: { rows: plan.rows, totals: plan.totals, findings: plan.findings },
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
