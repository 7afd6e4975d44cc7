import type { Database } from "./database.js";
import type { RecipientListRow } from "./models.js";

/** The shared list as it is now; `undefined` where nobody has given one. */
export async function newestRecipients(database: Database): Promise<RecipientListRow | undefined> {
  const found = await database.models.RecipientList.findOne({ order: [["id", "DESC"]], raw: true });
  return (found ?? undefined) as unknown as RecipientListRow | undefined;
}
