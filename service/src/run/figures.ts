/** What a run comes to, group by group, as an edition of a dataset: for the summary that follows it. */
import { CorbixError, ERRORS, wordsOf } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import type { ColumnRule } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { stringify } from "csv-stringify/sync";
import { noteAction } from "../audit/audit.js";
import { takeIn } from "../intake/take-in.js";
import type { Context } from "../process/context.js";
import {
  type EditionRow,
  editionFrom,
  figureRows,
  type RunRow,
  setFiguresDone,
  takeFiguresDue,
} from "../records/index.js";
import { tell } from "../tell/notices.js";
import { checkFiguresDataset } from "./figures-checks.js";
import { labelOfPeriod } from "./period-label.js";
import { getRun, reportOfRun } from "./run-records.js";

/** Name of the file that a run's figures are kept as. */
const originOf = (run: string): string => `figures of run ${run}.csv`;

const TEXT: ColumnRule = { type: "text" };
const NUMBER: ColumnRule = { type: "number", decimal: "point" };

/** Makes the figures of runs that are due; what cannot be made is said in the log and tried again. */
export async function makeFiguresDue(context: Context): Promise<void> {
  for (const id of await takeFiguresDue(context.database)) {
    try {
      const run = await getRun(context, id);
      const { figures } = await reportOfRun(context, run);
      if (figures) await keepFigures(context, run, figures.dataset, say().serviceRun.figuresBy({ run: id }));
      await setFiguresDone(context.database, id);
    } catch (error) {
      context.log.error({ run: id, error: wordsOf(error) }, "figures not made");
      // What our own side keeps from being made is tried again; what cannot be is told.
      if (!(error instanceof CorbixError) || ERRORS[error.code].retry) continue;
      await setFiguresDone(context.database, id);
      const { report } = await getRun(context, id);
      await tell(context, {
        kind: "schedule-failed",
        report,
        run: id,
        what: say().serviceRun.figuresNotMade({ report, why: error.message }),
        ...(error.advice === undefined ? {} : { advice: error.advice }),
      });
    }
  }
}

/** A released run's figures as an edition, by a person's word. Throws `CONFLICT` for a run that was not released. */
export async function figuresByHand(
  context: Context,
  id: string,
  dataset: string | undefined,
  by: string,
): Promise<{ readonly dataset: string; readonly edition: number }> {
  const run = await getRun(context, id);
  if (run.releasedAt === null)
    throw new CorbixError("CONFLICT", say().serviceRun.noFiguresYet(), {
      where: say().place.run({ id }),
      advice: say().serviceRun.releaseFirst(),
    });
  const { figures } = await reportOfRun(context, run);
  const name = dataset ?? figures?.dataset ?? `${run.report}-figures`;
  const { number } = await keepFigures(context, run, name, by);
  return { dataset: name, edition: number };
}

/** Figures that are being kept, by the run: whoever asks meanwhile gets the same. */
const KEEPING = new Map<string, Promise<EditionRow>>();

/** A run's figures are kept once: where an edition of them is there, it is that one. */
async function keepFigures(context: Context, run: RunRow, dataset: string, by: string): Promise<EditionRow> {
  const key = `${run.id} ${dataset}`;
  const known = KEEPING.get(key) ?? keepOnce(context, run, dataset, by).finally(() => KEEPING.delete(key));
  KEEPING.set(key, known);
  return known;
}

async function keepOnce(context: Context, run: RunRow, dataset: string, by: string): Promise<EditionRow> {
  await checkFiguresDataset(context, dataset);
  const origin = originOf(run.id);
  const known = await editionFrom(context.database, dataset, origin);
  if (known) return known;
  const report = await reportOfRun(context, run);
  const { header, rows } = await tableOf(context, run, report);
  const sha256 = await context.store.put(Buffer.from(stringify([header, ...rows])));
  const totals = Object.keys(report.totals);
  const types = Object.fromEntries([
    ...["report", "run", "period", "group", "message", "said"].map((name) => [name, TEXT]),
    ...["rows", "files", "bytes", "people", ...totals].map((name) => [name, NUMBER]),
  ]);
  const edition = await takeIn(
    context,
    { dataset, file: origin, sha256, mode: "replace", rules: { types, delimiter: "comma", encoding: "UTF-8" } },
    by,
  );
  await noteAction(context.database, by, "figures kept", run.id, { dataset, edition: edition.number });
  return edition;
}

/** One line for each group, in the order of the run. */
async function tableOf(
  context: Context,
  run: RunRow,
  report: Report,
): Promise<{ readonly header: readonly string[]; readonly rows: readonly (readonly unknown[])[] }> {
  const totals = Object.keys(report.totals);
  const label = labelOfPeriod(run.period, report, run.calendar);
  const groups = await figureRows(context.database, run.id);
  return {
    header: ["report", "run", "period", "group", "rows", ...totals, "files", "bytes", "people", "message", "said"],
    rows: groups.map((one) => [
      report.title,
      run.id,
      label,
      one.label,
      one.rows,
      ...totals.map((name) => one.totals[name] ?? ""),
      one.files,
      one.bytes,
      one.people,
      one.message ?? say().serviceRun.noMessage(),
      one.said ?? "",
    ]),
  };
}
