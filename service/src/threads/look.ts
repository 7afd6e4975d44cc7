/** Looking at editions and at the steps of a preparation, in the viewer's thread. */

import { dayInZone } from "@corbix/core/calendar";
import { maybeSerialFromIso } from "@corbix/core/common";
import type { PackedTable } from "@corbix/core/edition";
import type { ColumnProfile, GridQuery } from "@corbix/core/grid";
import { otherDatasets, type StepAccount } from "@corbix/core/prepare";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { getReport } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { type EditionRow, getEdition, packedEdition } from "../records/index.js";
import type { GridView, OpenTask } from "./grid-tasks.js";

/** What is looked at: an edition, or what a report's preparation makes of it up to a step. */
export interface GridSource {
  readonly dataset: string;
  readonly edition: number | undefined;
  readonly report?: { readonly name: string; readonly step: number };
}

export async function lookAt(
  context: Context,
  source: GridSource,
  query: GridQuery,
  first: number,
  count: number,
): Promise<GridView> {
  return withGrid(context, source, (key) => context.threads.grid("look", { key, query, first, count }));
}

export async function profileOf(
  context: Context,
  source: GridSource,
  query: GridQuery,
  columns: readonly string[],
): Promise<readonly ColumnProfile[]> {
  return withGrid(context, source, (key) => context.threads.grid("profile", { key, query, columns }));
}

/** Place of a row of the origin among those a query finds; -1 if it is not among them. */
export async function placeOf(
  context: Context,
  source: GridSource,
  query: GridQuery,
  rowNumber: number,
): Promise<number> {
  return withGrid(context, source, (key) => context.threads.grid("placeOf", { key, query, rowNumber }));
}

/** Every step of a report's preparation with rows in, rows out and reasons. */
export async function stepsOf(
  context: Context,
  report: string,
  edition: number | undefined,
): Promise<readonly StepAccount[]> {
  const { definition } = await getReport(context, report);
  const source: GridSource = {
    dataset: definition.data,
    edition,
    report: { name: report, step: Number.MAX_SAFE_INTEGER },
  };
  const row = await getEdition(context.database, source.dataset, edition);
  return context.threads.grid("openGrid", await openTask(context, source, row));
}

/** The rows a search finds, as the rows of a run. */
export async function rowsFound(
  context: Context,
  report: string,
  edition: number | undefined,
  query: GridQuery,
): Promise<{ rowNumbers: readonly number[]; why: string }> {
  const { definition } = await getReport(context, report);
  const source: GridSource = { dataset: definition.data, edition };
  const rowNumbers = await withGrid(context, source, (key) => context.threads.grid("foundRowNumbers", { key, query }));
  return { rowNumbers, why: say().serviceThreads.amongRowsFound() };
}

/** Tries the open grid first; opens it where it is not, and tries again. */
async function withGrid<T>(
  context: Context,
  source: GridSource,
  work: (key: string) => Promise<T | undefined>,
): Promise<T> {
  const edition = await getEdition(context.database, source.dataset, source.edition);
  const key = await keyOf(context, source, edition);
  const open = await work(key);
  if (open !== undefined) return open;
  await context.threads.grid("openGrid", await openTask(context, source, edition));
  const found = await work(key);
  if (found === undefined) throw new Error("the table was closed while it was looked at");
  return found;
}

async function keyOf(context: Context, source: GridSource, edition: EditionRow): Promise<string> {
  if (!source.report) return say().serviceThreads.edition({ id: edition.id });
  const version = await getReport(context, source.report.name);
  const others = await Promise.all(
    otherDatasets(version.definition).map(async (name) => (await getEdition(context.database, name)).id),
  );
  return JSON.stringify([
    edition.id,
    version.name,
    version.number,
    source.report.step,
    others,
    today(context, version.definition),
  ]);
}

function today(context: Context, report: Report): number {
  return maybeSerialFromIso(dayInZone(context.now(), report.schedule?.zone ?? context.settings.zone)) ?? 0;
}

async function openTask(context: Context, source: GridSource, edition: EditionRow): Promise<OpenTask> {
  const { database } = context;
  const key = await keyOf(context, source, edition);
  const table = await packedEdition(database, edition);
  if (!source.report) return { key, table };
  const { definition } = await getReport(context, source.report.name);
  const others: Record<string, PackedTable> = {};
  for (const name of otherDatasets(definition))
    others[name] = await packedEdition(database, await getEdition(database, name));
  const { keep, bring, add, sort, prepare } = definition;
  return {
    key,
    table,
    prepare: {
      spec: { keep, bring, add, sort, prepare },
      others,
      until: source.report.step,
      today: today(context, definition),
      locale: definition.locale,
    },
  };
}
