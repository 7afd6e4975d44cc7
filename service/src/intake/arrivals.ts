import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { type Arrival, addArrival } from "../records/index.js";

/** Keeps what came and what became of it, so that the coordinator sees it. */
export async function noteArrival(context: Context, arrival: Arrival): Promise<void> {
  await addArrival(context.database, context.now(), arrival);
  await announce(context.database, { kind: "dataset", subject: arrival.dataset ?? "" });
}

/** An error as one line for a note to whoever sent the file. */
export function refusalText(error: unknown): string {
  if (error instanceof CorbixError) return error.toLine();
  return say().serviceIntake.somethingWentWrongService({ wordsOf: wordsOf(error) });
}
