/** What a report's runs hold is deleted when its time is over; who got what, when, and what the server said stays. */
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { getReport } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { sweepBlobs } from "../records/index.js";

/** What is deleted, and after how many months. */
type Kind = "files" | "messages" | "rows";
const KINDS: readonly Kind[] = ["files", "messages", "rows"];
/** Runs that one look empties. */
const BATCH = 50;

/** Empties runs whose time is over, by the newest definition of their report. Every kind is deleted once. */
export async function sweepRetention(context: Context): Promise<void> {
  const { database } = context;
  const reports = await database.select<{ report: string }>("SELECT DISTINCT report FROM runs");
  for (const { report } of reports) {
    const found = await getReport(context, report).catch(() => undefined);
    const months = found?.definition.retention;
    if (!found || !months) continue;
    const growing = Object.entries(found.definition.files).flatMap(([name, file]) => (file.grows ? [name] : []));
    for (const kind of KINDS) {
      const limit = months[kind];
      if (limit === undefined) continue;
      const over = await database.select<{ id: string }>(
        `SELECT id FROM runs WHERE report = $1 AND state IN ('done', 'stopped', 'failed') AND finished_at < $2::timestamptz - $3 * interval '1 month'
           AND emptied->>$4 IS NULL ORDER BY finished_at LIMIT ${BATCH}`,
        [report, context.now(), limit, kind],
      );
      for (const { id } of over) await empty(context, id, kind, growing);
    }
  }
}

async function empty(context: Context, run: string, kind: Kind, growing: readonly string[]): Promise<void> {
  const { database } = context;
  const deleted = await database.transaction(async (transaction) => {
    await database.execute(
      "UPDATE runs SET emptied = (emptied::jsonb || jsonb_build_object($2::text, $3::text))::json WHERE id = $1",
      [run, kind, context.now().toISOString()],
      transaction,
    );
    if (kind === "messages")
      await database.execute(
        "UPDATE messages SET html = '', text = '', mime = NULL, packed = NULL WHERE run_id = $1",
        [run],
        transaction,
      );
    if (kind === "rows") {
      await database.execute("UPDATE parcels SET lines = '' WHERE run_id = $1", [run], transaction);
      await database.execute("UPDATE run_lines SET lines = NULL WHERE run_id = $1", [run], transaction);
      await database.execute(
        "DELETE FROM parcel_lines WHERE parcel_id IN (SELECT id FROM parcels WHERE run_id = $1)",
        [run],
        transaction,
      );
    }
    if (kind !== "files") return 0;
    // Documents that grow are gone on from: they stay.
    const files = await database.execute(
      "UPDATE files SET removed_at = $2 WHERE run_id = $1 AND removed_at IS NULL AND NOT (file = ANY($3) AND kind = 'docx')",
      [run, context.now(), growing],
      transaction,
    );
    await database.execute(
      "DELETE FROM parcel_blobs WHERE parcel_id IN (SELECT id FROM parcels WHERE run_id = $1)",
      [run],
      transaction,
    );
    return files;
  });
  // Bytes that nothing refers to any more go; whatever still does keeps them.
  await sweepBlobs(database, context.store, context.now());
  await noteAction(database, "corbix", `run's ${kind} deleted`, run, kind === "files" ? { files: deleted } : {});
  await announce(database, { kind: "run", subject: run });
}
