import { CorbixError } from "@corbix/core/common";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";

/** A file that came by itself: through the watched folder or by mail. */
export interface Arrival {
  readonly way: "folder" | "mail";
  readonly sender: string;
  readonly file: string;
  readonly dataset: string | null;
  readonly outcome: "loaded" | "refused";
  readonly edition: number | null;
  readonly message: string | null;
}

/** Keeps what came and what became of it, so that the coordinator sees it. */
export async function noteArrival(context: Context, arrival: Arrival): Promise<void> {
  await context.database.execute(
    "INSERT INTO arrivals (at, way, sender, file, dataset, outcome, edition, message) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
    [
      context.now(),
      arrival.way,
      arrival.sender,
      arrival.file,
      arrival.dataset,
      arrival.outcome,
      arrival.edition,
      arrival.message,
    ],
  );
  await announce(context.database, { kind: "dataset", subject: arrival.dataset ?? "" });
}

export async function listArrivals(context: Context, count: number): Promise<object[]> {
  return context.database.select(
    "SELECT id::int, at, way, sender, file, dataset, outcome, edition, message FROM arrivals ORDER BY id DESC LIMIT $1",
    [count],
  );
}

/** An error as one line for a note to whoever sent the file. */
export function refusalText(error: unknown): string {
  if (error instanceof CorbixError) return error.toLine();
  return `Something went wrong in the service: ${(error as Error).message}`;
}
