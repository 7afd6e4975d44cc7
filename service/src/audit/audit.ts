import type { Database } from "../records/index.js";

/** Keeps what was done by whom. */
export async function noteAction(
  database: Database,
  who: string,
  what: string,
  subject: string,
  facts: object = {},
): Promise<void> {
  await database.execute("INSERT INTO actions (who, what, subject, facts) VALUES ($1, $2, $3, $4)", [
    who,
    what,
    subject,
    JSON.stringify(facts),
  ]);
}
