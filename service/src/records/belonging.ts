/** Which report something belongs to. */
import type { Database } from "./database/database.js";

const OWNER = {
  run: "SELECT report FROM runs WHERE id = $1",
  message: "SELECT report FROM runs JOIN messages ON messages.run_id = runs.id WHERE messages.id = $1::bigint",
  file: "SELECT report FROM runs JOIN files ON files.run_id = runs.id WHERE files.id = $1::bigint",
  question: "SELECT report FROM questions WHERE id = $1",
} as const;

/** The report that something belongs to; `undefined` where there is no such thing. */
export async function reportsOf(
  database: Database,
  kind: keyof typeof OWNER,
  id: string,
): Promise<readonly string[] | undefined> {
  const found = await database.select<{ report: string }>(OWNER[kind], [id]);
  return found.length === 0 ? undefined : found.map(({ report }) => report);
}
