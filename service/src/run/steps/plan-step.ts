import { CorbixError, ERRORS, type Finding, sortFindings } from "@corbix/core/common";
import { isRecordOccasion } from "@corbix/core/delivery";
import type { Recipient } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import { datasetsBeside } from "@corbix/core/report";
import {
  type CaughtPeriod,
  type Plan,
  type PlanInput,
  type PlannedParcel,
  planRun,
  type ReportMaker,
  withCaughtUp,
} from "@corbix/core/run";
import type { Alias, Group } from "@corbix/core/split";
import { type ColumnInfo, type Table, takeRows } from "@corbix/core/table";
import { announce } from "../../events/events.js";
import { templateBytes } from "../../library/definitions.js";
import type { Context } from "../../process/context.js";
import { tidyMemory } from "../../process/memory.js";
import {
  addParcelLines,
  addParcels,
  addRunLines,
  addSteps,
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
import { deliveryFindings, readSenders, type Senders } from "../delivery-checks.js";
import { readMaster } from "../master-rows.js";
import { asOwner, failRun, moveOwned } from "../run-moves.js";
import { factsOfRun, getRun, reportOfRun } from "../run-records.js";
import type { NextSteps } from "./next-steps.js";

/** Parcels that one step makes: enough to share what is read, few enough to spread over the workers. */
const BATCH = 8;
/** Rows that are planned without a look at memory. */
const FEW_ROWS = 1_000;
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
    await context.queue.send("make", ...steps.map((name) => ({ run: run.id, step: name })));
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
  const sources = await readSources(context, run, report);
  const edition = await getEdition(database, report.data, run.editions[report.data]);
  const master = await readMaster(context, run, report, facts);
  tidyMemory();
  const found = await findPlan(context, run, sources, { facts, columns: edition.columns, ...master });
  const kept = await keepPlan(context, step, run, found);
  await announce(database, { kind: "run", subject: run.id });
  return kept;
}

/** What a report's runs are planned with besides the rows of each: one reading for those that are planned together. */
export interface PlanSources {
  readonly report: Report;
  readonly others: ReadonlyMap<string, Table>;
  readonly aliases: readonly Alias[];
  readonly recipients: readonly Recipient[];
  readonly templates: ReadonlyMap<string, Uint8Array>;
  readonly senders: Senders;
}

/** Reads them as a run has fixed them. */
export async function readSources(context: Context, run: RunRow, report: Report): Promise<PlanSources> {
  const { database } = context;
  const others = new Map<string, Table>();
  for (const name of datasetsBeside(report))
    others.set(name, await readEdition(database, await getEdition(database, name, run.editions[name])));
  const { settings } = await getDataset(database, report.data);
  const list = run.recipientListId === null ? undefined : await recipientListById(database, run.recipientListId);
  return {
    report,
    others,
    aliases: settings.aliases ?? [],
    recipients: list?.recipients ?? [],
    templates: await templateBytes(context, run.templates),
    senders: await readSenders(context, report),
  };
}

/** A run's own rows. */
export interface PlanRows extends Pick<PlanInput, "table" | "notRead" | "facts"> {
  /** Of its edition, as it was loaded. */
  readonly columns: readonly ColumnInfo[];
}

/** Everything that can be known before a file is made. Throws where the definition cannot work at all. */
export async function findPlan(
  context: Context,
  run: RunRow,
  sources: PlanSources,
  { columns, ...master }: PlanRows,
): Promise<FoundPlan> {
  const { report, senders, ...fixed } = sources;
  const tidy = master.table.rowCount > FEW_ROWS ? tidyMemory : () => {};
  const rows = await rowsOnce(context, run, report, columns);
  const madeUp = await rowsMadeUpFor(context, run, report);
  // Of a single record nothing is said about groups that have none.
  const had = isRecordOccasion(run.occasion) ? undefined : await groupsHad(context.database, run.report, run.id);
  const input = {
    ...fixed,
    report,
    facts: master.facts,
    meanwhile: tidy,
    checked: (check: () => ReportMaker) => checkedMaker(context, run, columns, check),
    ...(rows ? { delivered: rows.delivered } : {}),
    ...(had && had.size > 0 ? { knownGroups: had } : {}),
    ...(had ? {} : { knownGroups: new Set<string>() }),
  };
  const { plan: own, maker } = planRun({
    ...input,
    ...master,
    ...(madeUp
      ? { delivered: (table, group) => new Map([...(rows?.delivered(table, group) ?? []), ...madeUp(group)]) }
      : {}),
    ...(run.onlyGroups ? { only: run.onlyGroups } : {}),
    ...(run.onlyRows ? { onlyRows: { ...run.onlyRows, rowNumbers: new Set(run.onlyRows.rowNumbers) } } : {}),
  });
  tidy();
  const caught = await caughtPeriods(context, run, input, own);
  const plan = withCaughtUp(own, caught);
  const enclosures = await encloseFiles(context, run, plan.parcels, [
    ...plan.groupNames,
    ...sources.recipients.map((recipient) => recipient.group),
  ]);
  const findings = sortFindings([
    ...plan.findings,
    ...enclosures.findings,
    ...(await madeUpFindings(context, run, report)),
    ...deliveryFindings(report, plan.parcels, run.rehearsalTo, senders),
  ]);
  return { plan, maker, caught, enclosures, findings, rows };
}

/** A report checked against columns that runs before had too, with the same templates and people, is the same again. */
function checkedMaker(
  { caches }: Context,
  run: RunRow,
  columns: readonly ColumnInfo[],
  check: () => ReportMaker,
): ReportMaker {
  const { report, reportVersion, templates, editions, recipientListId } = run;
  const beside = Object.entries(editions).filter(([, number]) => number >= 0);
  const key = JSON.stringify([report, reportVersion, templates, beside, recipientListId, columns]);
  const known = caches.checked.get(key);
  if (known) return known;
  const maker = check();
  caches.checked.set(key, maker);
  return maker;
}
export interface FoundPlan {
  readonly plan: ReturnType<typeof withCaughtUp>;
  readonly maker: ReportMaker;
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
          ...parcelRow(run, plan, parcel, enclosures),
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
    await addSteps(database, [run.id], steps, transaction);
    await endStep(database, step, transaction);
    await moveOwned(
      context,
      run.id,
      ids.length > 0 ? "making" : "proving",
      plannedFields({ plan, findings }),
      transaction,
    );
    return steps.map(({ name }) => name);
  });
}

/** What a run keeps of its plan. */
export function plannedFields({
  plan,
  findings,
}: Pick<FoundPlan, "plan" | "findings">): Pick<RunRow, "columns" | "plan" | "parcelCount"> {
  return {
    columns: plan.table.columns.map(({ name, type }) => ({ name, type })),
    plan: {
      rows: plan.rows,
      steps: plan.steps,
      ...(plan.sealedNames ? { sealedNames: plan.sealedNames } : {}),
      totals: plan.totals,
      ...(plan.furtherRows.length > 0 ? { furtherRows: plan.furtherRows } : {}),
      ...(plan.caughtUp.length > 0 ? { caughtUp: plan.caughtUp } : {}),
      findings,
    },
    parcelCount: plan.parcels.length,
  };
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

/** A parcel as a run keeps it before anything of it is made. */
export function parcelRow(run: RunRow, plan: Plan, parcel: PlannedParcel, { files, leftOut }: Enclosures) {
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
    enclosed: files.get(parcel.number) ?? [],
    leftOut: leftOut.get(parcel.number) ?? null,
    ways: parcel.ways,
    totals: parcel.totals,
    lines: packLines(takeRows(plan.table, parcel.group.rows)),
    state: "planned" as const,
  };
}
