/** Looking at editions and at the steps of a preparation, in the viewer's thread. */

import { dayInZone } from "@corbix/core/calendar";
import { maybeSerialFromIso } from "@corbix/core/common";
import type { AskedQuery, Choices, ColumnProfile } from "@corbix/core/grid";
import { otherDatasets, type StepAccount } from "@corbix/core/prepare";
import type { Report } from "@corbix/core/report";
import type { Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { getReport } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { checkFull, type EditionRow, getDataset, getEdition, packedEdition, reportVersion } from "../records/index.js";
import type { GridView, OpenTask } from "./grid-tasks.js";
import type { Threads } from "./threads.js";

/** What is looked at: an edition, or what a report's preparation makes of it up to a step. */
export interface GridSource {
  readonly dataset: string;
  readonly edition: number | undefined;
  readonly report?: {
    readonly name: string;
    readonly step: number;
    /** Fixed as they were when somebody asked: the report's version, the editions of other datasets, and the day. */
    readonly asked?: Asked;
  };
}

export interface Asked {
  readonly version: number;
  readonly editions: Readonly<Record<string, number>>;
  readonly day: number;
}

export async function lookAt(
  context: Context,
  source: GridSource,
  query: AskedQuery,
  first: number,
  count: number,
): Promise<GridView> {
  return withGrid(context, source, (key, thread) => thread("look", { key, query, first, count }));
}

export async function profileOf(
  context: Context,
  source: GridSource,
  query: AskedQuery,
  columns: readonly string[],
): Promise<readonly ColumnProfile[]> {
  return withGrid(context, source, (key, thread) => thread("profile", { key, query, columns }));
}

/** Place of a row of the origin among those a query finds; -1 if it is not among them. */
export async function placeOf(
  context: Context,
  source: GridSource,
  query: AskedQuery,
  rowNumber: number,
): Promise<number> {
  return withGrid(context, source, (key, thread) => thread("placeOf", { key, query, rowNumber }));
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
  query: AskedQuery,
): Promise<{ rowNumbers: readonly number[]; why: string }> {
  const { definition } = await getReport(context, report);
  const source: GridSource = { dataset: definition.data, edition };
  const rowNumbers = await withGrid(context, source, (key, thread) => thread("foundRowNumbers", { key, query }));
  return { rowNumbers, why: say().serviceThreads.amongRowsFound() };
}

/** Tries the open grid first; opens it where it is not, and tries again. */
async function withGrid<T>(
  context: Context,
  source: GridSource,
  work: (key: string, thread: Threads["grid"]) => Promise<T | undefined>,
): Promise<T> {
  const { grid, asking } = context.threads;
  const thread = source.report?.asked ? asking : grid;
  const edition = await getEdition(context.database, source.dataset, source.edition);
  checkFull(edition);
  const key = await keyOf(context, source, edition);
  const open = await work(key, thread);
  if (open !== undefined) return open;
  await thread("openGrid", await openTask(context, source, edition));
  const found = await work(key, thread);
  if (found === undefined) throw new Error("the table was closed while it was looked at");
  return found;
}

async function keyOf(context: Context, source: GridSource, edition: EditionRow): Promise<string> {
  if (!source.report) return JSON.stringify([edition.id, edition.rewritten]);
  const { version, others, today } = await preparing(context, source.report);
  return JSON.stringify([
    edition.id,
    edition.rewritten,
    source.report.asked ? await aliasesOf(context, version.definition) : [],
    version.name,
    version.number,
    source.report.step,
    others.map(([, { id, rewritten }]) => [id, rewritten]),
    today,
    source.report.asked !== undefined,
  ]);
}

/** Spellings of the report's dataset that count as one. */
async function aliasesOf(context: Context, { data }: Report) {
  return (await getDataset(context.database, data)).settings.aliases ?? [];
}

/** What a report's preparation needs: as it is now, or as it was when somebody asked. */
async function preparing(context: Context, { name, asked }: NonNullable<GridSource["report"]>) {
  const { database } = context;
  const version = asked ? await reportVersion(database, name, asked.version) : await getReport(context, name);
  const { definition } = version;
  const others = await Promise.all(
    otherDatasets(definition).map(
      async (other) => [other, await getEdition(database, other, asked?.editions[other])] as const,
    ),
  );
  return { version, others, today: asked?.day ?? dayOf(context, definition) };
}

/** The day of the report's zone, as a serial. */
export function dayOf(context: Context, report: Report): number {
  return maybeSerialFromIso(dayInZone(context.now(), report.schedule?.zone ?? context.settings.zone)) ?? 0;
}

async function openTask(context: Context, source: GridSource, edition: EditionRow): Promise<OpenTask> {
  const { database } = context;
  const key = await keyOf(context, source, edition);
  const table = await packedEdition(database, edition);
  if (!source.report) return { key, table };
  const { version, others, today } = await preparing(context, source.report);
  const { keep, bring, add, sort, prepare, locale } = version.definition;
  return {
    key,
    table,
    prepare: {
      spec: { keep, bring, add, sort, prepare },
      others: Object.fromEntries(
        await Promise.all(others.map(async ([name, other]) => [name, await packedEdition(database, other)] as const)),
      ),
      aliases: source.report.asked ? await aliasesOf(context, version.definition) : [],
      until: source.report.step,
      today,
      locale,
    },
  };
}

/** What there is to choose from in columns, by their names. */
export async function choicesOf(
  context: Context,
  source: GridSource,
  columns: readonly string[],
  most: number,
): Promise<ReadonlyMap<string, Choices>> {
  const found = await withGrid(context, source, (key, thread) => thread("choices", { key, columns, most }));
  return new Map(found);
}

/** The rows a query finds as a table: the first so many of them, or the one with a number in the origin. */
export async function takeFound(
  context: Context,
  source: GridSource,
  query: AskedQuery,
  wish: { readonly most: number; readonly rowNumber?: number | undefined },
): Promise<{ readonly table: Table; readonly found: number }> {
  return withGrid(context, source, (key, thread) => thread("takeFound", { key, query, ...wish }));
}
