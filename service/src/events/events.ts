import { type Database, notify } from "../records/index.js";

/** Something that viewers may want to know at once; they fetch what changed themselves. */
export interface ServiceEvent {
  readonly kind:
    | "run"
    | "dataset"
    | "recipients"
    | "template"
    | "report"
    | "question"
    | "letter"
    | "message"
    | "access"
    | "anything";
  /** The run's id, the dataset's name… */
  readonly subject: string;
}

export const CHANNEL = "corbix_events";

/** Tells all processes that listen on the database. */
export async function announce(database: Database, ...events: readonly ServiceEvent[]): Promise<void> {
  if (events.length > 0) await notify(database, CHANNEL, events);
}
