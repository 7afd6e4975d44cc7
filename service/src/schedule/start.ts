import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import { tell } from "../tell/notices.js";

/** Starts a run that nobody waits for: what stands in its way is told. */
export async function start(context: Context, name: string, by: string, begin: () => Promise<unknown>): Promise<void> {
  await begin().catch(async (error: Error) => {
    const why = error instanceof CorbixError ? error.toLine() : error.message;
    context.log.warn({ report: name, error: why }, "run not started");
    await noteAction(context.database, by, "report not started", name, { why });
    await tell(context, {
      kind: "schedule-failed",
      report: name,
      what: say().serviceSchedule.notStarted({ report: name, why }),
    });
  });
}
