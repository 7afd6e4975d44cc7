/** Whether data are newer than what a report ran with last. */
import type { Context } from "../process/context.js";
import { lastWholeRun, maybeNewestNumbers } from "../records/index.js";

/** Datasets of which no edition came since the report ran last; of a report that never ran those that have none at all. */
export async function datasetsMissing(context: Context, report: string, names: readonly string[]): Promise<string[]> {
  const newest = await maybeNewestNumbers(context.database, names);
  const before = await lastWholeRun(context.database, report);
  return names.filter((name) => (newest[name] ?? 0) <= (before?.editions[name] ?? 0));
}
