import { addActions, type Database, type NewAction } from "../records/index.js";
import { callerNow } from "./caller.js";

/** What was done by whom, to be kept with others. */
export function deed(who: string, what: string, subject: string, facts: object = {}): NewAction {
  return { who, what, subject, facts };
}

/** Keeps what was done by whom. */
export async function noteAction(
  database: Database,
  who: string,
  what: string,
  subject: string,
  facts: object = {},
): Promise<void> {
  await noteActions(database, [deed(who, what, subject, facts)]);
}

/** The same for several at once, in this order. */
export async function noteActions(database: Database, actions: readonly NewAction[]): Promise<void> {
  if (actions.length > 0) await addActions(database, actions, callerNow());
}
