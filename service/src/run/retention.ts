/** What a report's runs hold is deleted when its time is over; who got what, when, and what the server said stays. */
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { getReport } from "../library/definitions.js";
import { emptyOverdueEditions } from "../library/empty-edition.js";
import type { Context } from "../process/context.js";
import {
  deleteOldQuestions,
  type Emptied,
  emptyOldLists,
  emptyRun,
  headOfTrail,
  overdueRuns,
  reportsWithRuns,
  sweepBlobs,
} from "../records/index.js";

/** What is deleted, and after how many months. */
const KINDS: readonly Emptied[] = ["files", "messages", "rows"];
/** Runs that one look empties. */
const BATCH = 50;

/** Empties everything whose time is over: runs, editions, versions of the recipient list, questions. */
export async function sweepAll(context: Context): Promise<void> {
  await sweepRetention(context);
  await emptyOverdueEditions(context);
  // Outside the database it tells of an end that was cut off there.
  const head = await headOfTrail(context.database);
  if (head) context.log.info({ entry: head.id, hash: head.hash }, "head of the trail");
  const { database, settings } = context;
  const { listMonths, questionMonths } = settings;
  const lists = listMonths === undefined ? 0 : await emptyOldLists(database, context.now(), listMonths);
  if (lists > 0) await noteAction(database, "corbix", "old recipient lists deleted", "recipients", { versions: lists });
  const questions =
    questionMonths === undefined ? 0 : await deleteOldQuestions(database, context.now(), questionMonths);
  if (questions > 0) await noteAction(database, "corbix", "old questions deleted", "questions", { questions });
}

/** Empties runs whose time is over, by the newest definition of their report. Every kind is deleted once. */
export async function sweepRetention(context: Context): Promise<void> {
  const { database } = context;
  for (const report of await reportsWithRuns(database)) {
    const found = await getReport(context, report).catch(() => undefined);
    const months = found?.definition.retention;
    if (!found || !months) continue;
    const growing = Object.entries(found.definition.files).flatMap(([name, file]) => (file.grows ? [name] : []));
    for (const kind of KINDS) {
      const limit = months[kind];
      if (limit === undefined) continue;
      const over = await overdueRuns(database, { report, kind, months: limit, now: context.now() }, BATCH);
      for (const id of over) await empty(context, id, kind, growing);
    }
  }
}

async function empty(context: Context, run: string, kind: Emptied, growing: readonly string[]): Promise<void> {
  const { database } = context;
  const deleted = await emptyRun(database, run, { kind, now: context.now(), growing });
  // Bytes that nothing refers to any more go; whatever still does keeps them.
  await sweepBlobs(database, context.store, context.now());
  await noteAction(database, "corbix", `run's ${kind} deleted`, run, kind === "files" ? { files: deleted } : {});
  await announce(database, { kind: "run", subject: run });
}
