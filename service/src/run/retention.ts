/** What a report's runs hold is deleted when its time is over; who got what, when, and what the server said stays. */
import { noteAction } from "../actions.js";
import type { Context } from "../context.js";
import { announce } from "../events.js";
import { getReport } from "../library.js";

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
  const digests = await database.transaction(async (transaction) => {
    await database.execute(
      "UPDATE runs SET emptied = (emptied::jsonb || jsonb_build_object($2::text, $3::text))::json WHERE id = $1",
      [run, kind, context.now().toISOString()],
      transaction,
    );
    if (kind === "messages")
      await database.execute(
        "UPDATE messages SET html = '', text = '', mime = NULL WHERE run_id = $1",
        [run],
        transaction,
      );
    if (kind === "rows") await database.execute("UPDATE parcels SET lines = '' WHERE run_id = $1", [run], transaction);
    if (kind !== "files") return [];
    // Documents that grow are gone on from: they stay.
    const files = await database.select<{ sha256: string }>(
      "UPDATE files SET removed_at = $2 WHERE run_id = $1 AND removed_at IS NULL AND NOT (file = ANY($3) AND kind = 'docx') RETURNING sha256",
      [run, context.now(), growing],
      transaction,
    );
    const enclosed = await database.select<{ sha256: string }>(
      "SELECT DISTINCT one->>'sha256' AS sha256 FROM parcels, json_array_elements(enclosed) AS one WHERE run_id = $1",
      [run],
      transaction,
    );
    return [...new Set([...files, ...enclosed].map((file) => file.sha256))];
  });
  for (const digest of digests) if (!(await isUsed(context, digest))) await context.store.remove(digest);
  await noteAction(database, "corbix", `run's ${kind} deleted`, run, kind === "files" ? { files: digests.length } : {});
  await announce(database, { kind: "run", subject: run });
}

/** Whether anything that is kept still refers to stored bytes. */
async function isUsed({ database }: Context, digest: string): Promise<boolean> {
  const found = await database.select(
    `SELECT 1 FROM files WHERE sha256 = $1 AND removed_at IS NULL
     UNION ALL SELECT 1 FROM template_versions WHERE sha256 = $1 UNION ALL SELECT 1 FROM editions WHERE sha256 = $1
     UNION ALL SELECT 1 FROM recipient_lists WHERE sha256 = $1 UNION ALL SELECT 1 FROM uploads WHERE sha256 = $1
     UNION ALL SELECT 1 FROM parcels JOIN runs ON runs.id = parcels.run_id, json_array_elements(enclosed) AS one
       WHERE one->>'sha256' = $1 AND runs.emptied->>'files' IS NULL LIMIT 1`,
    [digest],
  );
  return found.length > 0;
}
