/** An edition's rows are deleted, by hand or when their time is over; what is known of it and what went out of it stays. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { type EditionRow, emptyEdition, getEdition, needsOfEdition, overdueEditions } from "../records/index.js";

/** Editions that one look empties. */
const BATCH = 50;

/** Throws `NOT_FOUND`, or `CONFLICT` for the newest and for one that runs under way need. */
export async function deleteRowsOf(context: Context, dataset: string, number: number, by: string): Promise<EditionRow> {
  const { database } = context;
  const edition = await getEdition(database, dataset, number);
  const { isNewest, runs } = await needsOfEdition(database, edition);
  const refused = (what: string, advice: string): CorbixError =>
    new CorbixError("CONFLICT", what, { where: say().place.dataset({ name: dataset }), advice });
  const words = say().serviceRecords;
  if (isNewest) throw refused(words.editionIsNewest({ number, name: dataset }), words.loadNewerFirst());
  if (runs.length > 0)
    throw refused(words.editionIsUsed({ number, runs: runs.slice(0, 5).join(", ") }), words.finishRunsFirst());
  if (await emptyEdition(database, edition.id)) await told(context, dataset, number, by, edition.rowCount);
  return getEdition(database, dataset, number);
}

/** Empties editions whose time is over by what is set for their dataset. */
export async function emptyOverdueEditions(context: Context): Promise<void> {
  for (const { id, number, dataset } of await overdueEditions(context.database, context.now(), BATCH))
    if (await emptyEdition(context.database, id)) await told(context, dataset, number, "corbix");
}

async function told(context: Context, dataset: string, number: number, by: string, rows?: number): Promise<void> {
  await noteAction(context.database, by, "edition's rows deleted", dataset, {
    edition: number,
    ...(rows === undefined ? {} : { rows }),
  });
  await announce(context.database, { kind: "dataset", subject: dataset });
}
