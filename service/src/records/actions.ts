import type { Database } from "./database/database.js";

/** What was done by whom. */
export interface NewAction {
  readonly who: string;
  readonly what: string;
  readonly subject: string;
  readonly facts: object;
}

/** Writes down what was done, in this order. */
export async function addActions(database: Database, actions: readonly NewAction[]): Promise<void> {
  await database.execute(
    "INSERT INTO actions (who, what, subject, facts) SELECT who, what, subject, facts FROM json_to_recordset($1) AS one (who text, what text, subject text, facts json)",
    [JSON.stringify(actions)],
  );
}
