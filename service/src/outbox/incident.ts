/** What must never happen, told where it happened all the same. */

import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { type BareMessage, breakOff, leaveOut } from "../records/index.js";
import { errorFacts } from "../run/run-records.js";

/** A file of another group in a message breaks off its run and is written down; anything else is none of this. */
export async function tellIncident(context: Context, message: BareMessage, error: unknown): Promise<void> {
  if (!(error instanceof CorbixError) || error.code !== "PROVENANCE_MISMATCH") return;
  await context.database.transaction(async (transaction) => {
    if (await breakOff(context.database, message.runId, errorFacts(error), transaction))
      await leaveOut(context.database, message.runId, say().serviceOutbox.runStopped(), {}, transaction);
  });
  await noteAction(context.database, "corbix", "incident: provenance mismatch", message.runId, {
    message: message.id,
    reason: error.toLine(),
  });
  await announce(context.database, { kind: "run", subject: message.runId });
}
