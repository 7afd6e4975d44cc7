/** When reports run by themselves. */
import type { Database } from "./database/database.js";

export interface DueSchedule {
  readonly report: string;
  /** The time that has come. */
  readonly nextAt: Date;
}

export function dueSchedules(database: Database, now: Date): Promise<DueSchedule[]> {
  return database.select<DueSchedule>(
    'SELECT report, next_at AS "nextAt" FROM schedules WHERE next_at <= $1 ORDER BY next_at',
    [now.toISOString()],
  );
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

/** A report whose time has come and whose data have not. */
export interface WaitingSchedule {
  readonly report: string;
  readonly since: Date;
  /** When it is given up; never, where nothing is said. */
  readonly until: Date | null;
}

export async function waitForData(database: Database, { report, since, until }: WaitingSchedule): Promise<void> {
  await database.execute("UPDATE schedules SET waits_since = $2, waits_until = $3 WHERE report = $1", [
    report,
    since,
    until,
  ]);
}

export function waitingSchedules(database: Database): Promise<WaitingSchedule[]> {
  return database.select<WaitingSchedule>(
    "SELECT report, waits_since AS since, waits_until AS until FROM schedules WHERE waits_since IS NOT NULL ORDER BY waits_since",
  );
}

/** Ends a wait; false where another process has done so. */
export async function endWait(database: Database, report: string): Promise<boolean> {
  const ended = await database.execute(
    "UPDATE schedules SET waits_since = NULL, waits_until = NULL WHERE report = $1 AND waits_since IS NOT NULL",
    [report],
  );
  return ended > 0;
}

/** Data that came before its hour start a report at that hour; those that come meanwhile take their place. */
export async function startLater(database: Database, report: string, at: Date, edition: number): Promise<void> {
  await database.execute(
    "INSERT INTO schedules (report, data_at, data_edition) VALUES ($1, $2, $3) ON CONFLICT (report) DO UPDATE SET data_at = excluded.data_at, data_edition = excluded.data_edition",
    [report, at, edition],
  );
}

/** Takes what is to be started now, so that no other process does. */
export function takeDueData(
  database: Database,
  now: Date,
): Promise<{ readonly report: string; readonly edition: number }[]> {
  return database.select(
    `UPDATE schedules SET data_at = NULL, data_edition = NULL FROM (SELECT report AS due, data_edition AS edition FROM schedules WHERE data_at <= $1 FOR UPDATE SKIP LOCKED) AS taken
     WHERE report = taken.due RETURNING report, taken.edition`,
    [now],
  );
}
