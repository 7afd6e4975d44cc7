/** Rows that somebody picked for a run of their own: to whom each would go, and whether it went out before. */
import { CorbixError, columnKey } from "@corbix/core/common";
import { onceOf } from "@corbix/core/delivery";
import { say } from "@corbix/core/words";
import { periodsOfReport } from "../library/calendars.js";
import { getReport, templateBytes } from "../library/definitions.js";
import { trialInput } from "../library/template-preview.js";
import type { Context } from "../process/context.js";
import { type EditionRow, getEdition, readEdition } from "../records/index.js";
import type { PickedRow } from "../threads/make-tasks.js";
import { deliveredContents, rowsDelivered } from "./delivered-before.js";

export interface Picks {
  readonly period: string | null;
  readonly edition: number;
  /** Number of rows that were picked. */
  readonly picked: number;
  /** The first of them. */
  readonly rows: readonly PickedRow[];
  readonly sentBefore: number;
  readonly leftOut: number;
}

/** So many picked rows are listed. */
const LISTED = 500;

/** Rows of an edition by their numbers. Throws `BAD_REQUEST` where there is none of a number. */
export async function rowsTicked(
  context: Context,
  report: string,
  number: number | undefined,
  rowNumbers: readonly number[],
): Promise<{ readonly rowNumbers: readonly number[]; readonly why: string }> {
  const { definition } = await getReport(context, report);
  const edition = await getEdition(context.database, definition.data, number);
  const known = new Set((await readEdition(context.database, edition, { columns: [] })).rowNumbers);
  const strange = rowNumbers.find((one) => !known.has(one));
  if (strange === undefined) return { rowNumbers: [...new Set(rowNumbers)], why: say().serviceRun.amongRowsTicked() };
  throw new CorbixError(
    "BAD_REQUEST",
    say().serviceRun.noRowOfNumber({ row: strange, dataset: definition.data, edition: edition.number }),
    { where: "rows", advice: say().serviceRun.tickRowsAgain() },
  );
}

/** What a run over picked rows would do with each of them. Throws as the run would. */
export async function picksOf(
  context: Context,
  name: string,
  wish: { readonly period?: string | undefined; readonly edition?: number | undefined },
  { rowNumbers, why }: { readonly rowNumbers: readonly number[]; readonly why: string },
): Promise<Picks> {
  const { definition: report } = await getReport(context, name);
  const edition = await getEdition(context.database, report.data, wish.edition);
  const period = wish.period ?? (await periodOfRows(context, name, edition, rowNumbers));
  const input = await trialInput(context, report, { period, edition: edition.number }, await templateBytes(context));
  const once = onceOf(report);
  const columns = edition.columns.map((column) => columnKey(column.name));
  const rows = await context.threads.isolated("planPicks", {
    input,
    group: undefined,
    onlyRows: { rowNumbers, why },
    gone: once.kind === "row" ? await rowsDelivered(context, report.report, once) : undefined,
    contents: {
      columns,
      days: Object.fromEntries(
        await deliveredContents(context, { report: report.report, period: input.facts.period?.key }, columns),
      ),
    },
  });
  return {
    period: input.facts.period?.key ?? null,
    edition: edition.number,
    picked: rowNumbers.length,
    rows: rows.slice(0, LISTED),
    sentBefore: rows.filter(({ before }) => before !== null).length,
    leftOut: rows.filter(({ why: reason }) => reason !== null).length,
  };
}

/** The period in which most of the picked rows lie; nothing where the report has none, or its rows do not say. */
async function periodOfRows(
  context: Context,
  name: string,
  edition: EditionRow,
  rowNumbers: readonly number[],
): Promise<string | undefined> {
  const { definition: report } = await getReport(context, name);
  const column = edition.columns.find((one) => columnKey(one.name) === columnKey(report.period?.column ?? ""));
  const periods = await periodsOfReport(context, report);
  if (!periods || !column) return undefined;
  const table = await readEdition(context.database, edition, { columns: [column.name] });
  const wanted = new Set(rowNumbers);
  const counts = new Map<string, number>();
  for (let row = 0; row < table.rowCount; row++) {
    const day = table.columns[0]?.values[row];
    if (typeof day !== "number" || !wanted.has(table.rowNumbers[row] ?? 0)) continue;
    const key = periods.maybeOf(Math.floor(day))?.key;
    if (key !== undefined) counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0];
}
