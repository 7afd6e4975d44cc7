import { addAction, type Database } from "../records/index.js";

/** Keeps what was done by whom. */
export async function noteAction(
  database: Database,
  who: string,
  what: string,
  subject: string,
  facts: object = {},
): Promise<void> {
  await addAction(database, { who, what, subject, facts });
}
