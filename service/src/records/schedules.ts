/** When reports run by themselves. */
import type { Database } from "./database/database.js";

export async function dueSchedules(database: Database, now: Date): Promise<string[]> {
  const due = await database.select<{ report: string }>("SELECT report FROM schedules WHERE next_at <= $1", [
    now.toISOString(),
  ]);
  return due.map((one) => one.report);
}

/** Uses a time up; false where another process has done so. */
export async function takeSchedule(database: Database, report: string, now: Date): Promise<boolean> {
  const taken = await database.select(
    "UPDATE schedules SET last_at = $2, next_at = NULL WHERE report = $1 AND next_at <= $2 RETURNING report",
    [report, now.toISOString()],
  );
  return taken.length > 0;
}

/** When a report runs by itself next; none where it has no schedule. */
export async function setNextRun(database: Database, report: string, next: Date | undefined): Promise<void> {
  await database.execute(
    "INSERT INTO schedules (report, next_at) VALUES ($1, $2) ON CONFLICT (report) DO UPDATE SET next_at = excluded.next_at",
    [report, next?.toISOString() ?? null],
  );
}
