import type { Database } from "./database/database.js";

/** Writes down what was done by whom. */
export async function addAction(
  database: Database,
  action: { readonly who: string; readonly what: string; readonly subject: string; readonly facts: object },
): Promise<void> {
  await database.execute("INSERT INTO actions (who, what, subject, facts) VALUES ($1, $2, $3, $4)", [
    action.who,
    action.what,
    action.subject,
    JSON.stringify(action.facts),
  ]);
}
