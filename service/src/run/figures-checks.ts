/** What can be known of a report's figures before there are any: where they go, and what they start. */
import { basename } from "node:path";
import { CorbixError } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { maybeDataset, newestEditionOf } from "../records/index.js";

/** What tells figures from files that people load. */
const ORIGIN = /^figures of run [0-9a-f]+\.csv$/;

/** Figures go into a dataset of their own: one that people load is not replaced by them. Throws `BAD_DEFINITION`. */
export async function checkFiguresDataset(context: Context, name: string): Promise<void> {
  const dataset = await maybeDataset(context.database, name);
  const newest = dataset && (await newestEditionOf(context.database, dataset.id));
  if (!newest || ORIGIN.test(basename(newest.origin))) return;
  throw new CorbixError("BAD_DEFINITION", say().serviceRun.datasetIsLoaded({ name, origin: newest.origin }), {
    where: say().serviceRun.figuresDataset(),
    advice: say().serviceRun.nameAnotherDataset({ name }),
  });
}

/** Checks a definition's figures when it is saved: a dataset of their own, and no circle of reports. Throws `BAD_DEFINITION`. */
export async function checkFigures(context: Context, report: Report, others: readonly Report[]): Promise<void> {
  if (!report.figures) return;
  await checkFiguresDataset(context, report.figures.dataset);
  const all = [...others.filter((one) => one.report !== report.report), report];
  const reached = new Set<string>();
  const wave = [report.figures.dataset];
  for (let name = wave.pop(); name !== undefined; name = wave.pop()) {
    if (reached.has(name)) continue;
    reached.add(name);
    for (const next of all)
      if (next.data === name && next.startOnData !== false && next.figures) wave.push(next.figures.dataset);
  }
  if (!reached.has(report.data) || report.startOnData === false) return;
  throw new CorbixError("BAD_DEFINITION", say().serviceRun.figuresCircle({ data: report.data }), {
    where: say().serviceRun.figuresDataset(),
    advice: say().serviceRun.breakTheCircle(),
  });
}
