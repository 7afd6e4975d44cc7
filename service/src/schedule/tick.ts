import { CorbixError } from "@corbix/core/common";
import { onceOf } from "@corbix/core/delivery";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { getReport, planNextRun } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { dueSchedules, getEdition, takeSchedule, wasReleasedFor } from "../records/index.js";
import { startRun } from "../run/start-run.js";

/**
 * Starts the reports whose time has come, as long as anything is due: the earliest period that is over and not delivered. A time
 * that was missed while the service was down is made up for once, however many there were. Groups that have theirs already are
 * skipped by the run itself, and named before it is released.
 */
export async function tick(context: Context): Promise<void> {
  const now = context.now();
  const due = await dueSchedules(context.database, now);
  for (const name of due) {
    const report = (await getReport(context, name)).definition;
    // Moved on before the run is started: a time is used up once, even if starting fails.
    if (!(await takeSchedule(context.database, name, now))) continue;
    await planNextRun(context, report, now);
    if (!report.schedule) continue;
    await startScheduled(context, name).catch(async (error: Error) => {
      const why = error instanceof CorbixError ? error.toLine() : error.message;
      context.log.warn({ report: name, error: why }, "scheduled run not started");
      await noteAction(context.database, "schedule", "report not started", name, { why });
    });
  }
}

async function startScheduled(context: Context, name: string): Promise<void> {
  const report = (await getReport(context, name)).definition;
  if (onceOf(report).kind === "edition") {
    const { number } = await getEdition(context.database, report.data);
    if (await wasReleasedFor(context.database, name, `edition ${number}`))
      throw new CorbixError("CONFLICT", say().serviceSchedule.editionDeliveredAlready({ number, data: report.data }), {
        where: name,
        advice: say().serviceSchedule.loadNewerSayReportMay(),
      });
  }
  await startRun(context, { report: name }, "schedule");
}
