import { CorbixError, ERRORS, type Finding, sortFindings } from "@corbix/core/common";
import { datasetsBeside } from "@corbix/core/report";
import { type CaughtPeriod, type Plan, type PlannedParcel, planRun, withCaughtUp } from "@corbix/core/run";
import type { Group } from "@corbix/core/split";
import { type Table, takeRows } from "@corbix/core/table";
import { announce } from "../../events/events.js";
import { templateBytes } from "../../library/definitions.js";
import type { Context } from "../../process/context.js";
import { tidyMemory } from "../../process/memory.js";
import {
  addParcelLines,
  addParcels,
  addRunLines,
  addSteps,
  type EnclosedFile,
  endStep,
  getDataset,
  getEdition,
  groupsHad,
  type HandedStep,
  noteEnclosed,
  OWN_CAUGHT,
  packLines,
  type RunRow,
  readEdition,
  recipientListById,
  type Transaction,
} from "../../records/index.js";
import { type Enclosures, encloseFiles } from "../attachments.js";
import { caughtPeriods, madeUpFindings, rowsMadeUpFor } from "../catch-up.js";
import { type RowsOnce, rowsOnce } from "../delivered-before.js";
import { deliveryFindings } from "../delivery-checks.js";
import { readMaster } from "../master-rows.js";
import { asOwner, failRun, moveOwned } from "../run-moves.js";
import { factsOfRun, getRun, reportOfRun } from "../run-records.js";
import type { NextSteps } from "./next-steps.js";

/** Parcels that one step makes: enough to share what is read, few enough to spread over the workers. */
const BATCH = 8;
/** Parcels written by one statement. */
const WRITTEN_AT_ONCE = 200;

/**
 * Step one: everything that can be known before a file is made. What the definition cannot do at all fails the run. Of a small run
 * whoever planned it goes on at once; the steps of a large one are for everybody.
 */
export async function planStep(context: Context, step: HandedStep): Promise<NextSteps> {
  const run = await getRun(context, step.run);
  if (run.state !== "planning") return undefined;
  try {
    const steps = await planAndKeep(context, step, run);
    if (steps.length === 1) return steps;
    for (const name of steps) await context.queue.send({ run: run.id, step: name });
    return [];
  } catch (error) {
    if (!(error instanceof CorbixError) || ERRORS[error.code].retry) throw error;
    await failRun(context, step, error);
    return [];
  }
}

async function planAndKeep(context: Context, step: HandedStep, run: RunRow): Promise<string[]> {
  const { database } = context;
  const report = await reportOfRun(context, run);
  const facts = await factsOfRun(context, run, report);
  const others = new Map<string, Table>();
  for (const name of datasetsBeside(report))
    others.set(name, await readEdition(database, await getEdition(database, name, run.editions[name])));
  const master = await readMaster(context, run, report, facts);
  tidyMemory();
  const { settings } = await getDataset(database, report.data);
  const list = run.recipientListId === null ? undefined : await recipientListById(database, run.recipientListId);
  const edition = await getEdition(database, report.data, run.editions[report.data]);
  const rows = await rowsOnce(context, run, report, edition.columns);
  const madeUp = await rowsMadeUpFor(context, run, report);
  const known = await groupsHad(database, run.report, run.id);
  const input = {
    report,
    meanwhile: tidyMemory,
    ...(rows ? { delivered: rows.delivered } : {}),
    others,
    aliases: settings.aliases ?? [],
    recipients: list?.recipients ?? [],
    ...(known.size > 0 ? { knownGroups: known } : {}),
    templates: await templateBytes(context, run.templates),
    facts,
  };
  const { plan: own } = planRun({
    ...input,
    table: master.table,
    notRead: master.notRead,
    ...(madeUp
      ? { delivered: (table, group) => new Map([...(rows?.delivered(table, group) ?? []), ...madeUp(group)]) }
      : {}),
    ...(run.onlyGroups ? { only: run.onlyGroups } : {}),
    ...(run.onlyRows ? { onlyRows: { ...run.onlyRows, rowNumbers: new Set(run.onlyRows.rowNumbers) } } : {}),
  });
  tidyMemory();
  const caught = await caughtPeriods(context, run, input, own);
  const plan = withCaughtUp(own, caught);
  const enclosures = await encloseFiles(context, run, plan.parcels, [
    ...plan.groupNames,
    ...(list?.recipients ?? []).map((recipient) => recipient.group),
  ]);
  const findings = sortFindings([
    ...plan.findings,
    ...enclosures.findings,
    ...(await madeUpFindings(context, run, report)),
    ...(await deliveryFindings(context, report, plan.parcels, run.rehearsalTo)),
  ]);
  const kept = await keepPlan(context, step, run, { plan, caught, enclosures, findings, rows });
  await announce(database, { kind: "run", subject: run.id });
  return kept;
}

interface FoundPlan {
  readonly plan: ReturnType<typeof withCaughtUp>;
  readonly caught: readonly CaughtPeriod[];
  readonly enclosures: Enclosures;
  readonly findings: readonly Finding[];
  readonly rows: RowsOnce | undefined;
}

/**
 * Writes the plan and the steps that follow, all or nothing: nobody sees a part of it, and where this process lost the step
 * meanwhile, or somebody stopped the run, nothing is written. There is nothing to be deleted: a run is planned once. Gives the steps.
 */
async function keepPlan(
  context: Context,
  step: HandedStep,
  run: RunRow,
  { plan, caught, enclosures, findings, rows }: FoundPlan,
): Promise<string[]> {
  const { database } = context;
  return asOwner(context, step, "planned", async ({ transaction }) => {
    const ids: string[] = [];
    for (let at = 0; at < plan.parcels.length; at += WRITTEN_AT_ONCE) {
      const some = plan.parcels.slice(at, at + WRITTEN_AT_ONCE);
      const made = await addParcels(
        database,
        some.map((parcel) => ({
          ...parcelRow(run, plan, parcel, enclosures.files.get(parcel.number) ?? []),
          leftOut: enclosures.leftOut.get(parcel.number) ?? null,
          rowKeys: rows ? keysOfParcel(rows, plan, caught, parcel.group) : null,
        })),
        transaction,
      );
      for (const [index, id] of made.entries()) {
        for (const { name, table } of plan.further) {
          const rows = some[index]?.further[name] ?? [];
          if (rows.length > 0)
            await addParcelLines(database, id, { period: "", name, table: takeRows(table, rows) }, transaction);
        }
        await keepCaught(database, id, some[index]?.group.key, caught, transaction);
      }
      ids.push(...made);
      tidyMemory();
    }
    for (const { name, table, rows: all, belongs } of plan.further)
      await addRunLines(
        database,
        run.id,
        { period: "", name, table: takeRows(table, all), isShared: !belongs },
        transaction,
      );
    for (const { facts, plan: other } of caught)
      for (const { name, table, rows: all, belongs } of other.further) {
        const lines = { period: facts.period.key, name, table: takeRows(table, all), isShared: !belongs };
        await addRunLines(database, run.id, lines, transaction);
      }
    await noteEnclosed(database, run.id, transaction);
    const steps =
      ids.length === 0
        ? [{ name: "prove" }]
        : Array.from({ length: Math.ceil(ids.length / BATCH) }, (_, index) => ({
            name: `make ${index + 1}`,
            ids: ids.slice(index * BATCH, (index + 1) * BATCH),
          }));
    await addSteps(database, run.id, steps, transaction);
    await endStep(database, step, transaction);
    const columns = plan.table.columns.map(({ name, type }) => ({ name, type }));
    await moveOwned(
      context,
      run.id,
      ids.length > 0 ? "making" : "proving",
      {
        columns,
        plan: {
          rows: plan.rows,
          steps: plan.steps,
          ...(plan.sealedNames ? { sealedNames: plan.sealedNames } : {}),
          totals: plan.totals,
          ...(plan.furtherRows.length > 0 ? { furtherRows: plan.furtherRows } : {}),
          ...(plan.caughtUp.length > 0 ? { caughtUp: plan.caughtUp } : {}),
          findings,
        },
        parcelCount: ids.length,
      },
      transaction,
    );
    return steps.map(({ name }) => name);
  });
}

/** The rows of a parcel, in its own period and in those that are made up for, as the records tell them apart. */
function keysOfParcel(rows: RowsOnce, plan: Plan, caught: readonly CaughtPeriod[], group: Group): string[] {
  const others = caught.flatMap(({ plan: { table, parcels } }) =>
    parcels.filter((one) => one.group.key === group.key).flatMap((one) => rows.keys(table, one.group)),
  );
  return [...new Set([...rows.keys(plan.table, group), ...others])];
}

/** A group's rows of the periods that are made up for. */
async function keepCaught(
  database: Context["database"],
  id: string,
  key: string | undefined,
  caught: readonly CaughtPeriod[],
  transaction: Transaction,
): Promise<void> {
  for (const { facts, plan } of caught) {
    const parcel = plan.parcels.find(({ group }) => group.key === key);
    if (!parcel) continue;
    const period = facts.period.key;
    const own = { period, name: OWN_CAUGHT, table: takeRows(plan.table, parcel.group.rows) };
    await addParcelLines(database, id, own, transaction);
    for (const { name, table } of plan.further) {
      const rows = parcel.further[name] ?? [];
      if (rows.length > 0)
        await addParcelLines(database, id, { period, name, table: takeRows(table, rows) }, transaction);
    }
  }
}

function parcelRow(run: RunRow, plan: Plan, parcel: PlannedParcel, enclosed: readonly EnclosedFile[]) {
  return {
    runId: run.id,
    number: parcel.number,
    groupKey: parcel.group.key,
    label: parcel.group.label,
    rowCount: parcel.group.rows.length,
    rowsDigest: parcel.rowsDigest,
    recipients: parcel.recipients,
    planned: parcel.files,
    attachments: parcel.attachments,
    enclosed,
    ways: parcel.ways,
    totals: parcel.totals,
    lines: packLines(takeRows(plan.table, parcel.group.rows)),
    state: "planned" as const,
  };
}
