import { dayInZone, previousPeriod } from "@corbix/core/calendar";
import { maybeSerialFromIso } from "@corbix/core/common";
import type { Context } from "../context.js";
import { getReport, planNextRun } from "../library.js";
import { startRun } from "../run/start-run.js";

/**
 * Starts the reports whose time has come. A time that was missed while the service was down is made up for once, however many
 * there were; a period that was delivered already is not run again.
 */
export async function tick(context: Context): Promise<void> {
  const now = context.now();
  const due = await context.database.select<{ report: string }>("SELECT report FROM schedules WHERE next_at <= $1", [
    now.toISOString(),
  ]);
  for (const { report: name } of due) {
    const report = (await getReport(context, name)).definition;
    // Moved on before the run is started: a time is used up once, even if starting fails.
    const [taken] = await context.database.select<{ report: string }>(
      "UPDATE schedules SET last_at = $2, next_at = NULL WHERE report = $1 AND next_at <= $2 RETURNING report",
      [name, now.toISOString()],
    );
    if (!taken) continue;
    await planNextRun(context, report, now);
    if (!report.schedule) continue;
    const day = maybeSerialFromIso(dayInZone(now, report.schedule.zone)) as number;
    if (report.period && (await isDelivered(context, name, previousPeriod(day, report.period.every).key))) {
      context.log.info({ report: name }, "the period was delivered already");
      continue;
    }
    await startRun(context, { report: name }, "schedule").catch((error: Error) =>
      context.log.error({ report: name, error: error.message }, "scheduled run not started"),
    );
  }
}

async function isDelivered(context: Context, report: string, period: string): Promise<boolean> {
  const found = await context.database.select("SELECT 1 FROM ledger WHERE report = $1 AND period = $2 LIMIT 1", [
    report,
    period,
  ]);
  return found.length > 0;
}
