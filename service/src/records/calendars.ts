/** Named calendars. */
import type { Calendar } from "@corbix/core/calendar";
import type { Database } from "./database/database.js";
import { unlessTaken } from "./library.js";

export interface CalendarRow {
  readonly name: string;
  readonly definition: Calendar;
  readonly createdBy: string;
  readonly changedAt: Date;
}

const COLUMNS = 'name, definition, created_by AS "createdBy", changed_at AS "changedAt"';

export function allCalendars(database: Database): Promise<CalendarRow[]> {
  return database.select<CalendarRow>(`SELECT ${COLUMNS} FROM calendars ORDER BY name`);
}

export async function maybeCalendar(database: Database, name: string): Promise<CalendarRow | undefined> {
  const [found] = await database.select<CalendarRow>(`SELECT ${COLUMNS} FROM calendars WHERE name = $1`, [name]);
  return found;
}

/** False where somebody else has added it meanwhile. */
export async function addCalendar(
  database: Database,
  name: string,
  definition: Calendar,
  by: string,
): Promise<boolean> {
  const made = await unlessTaken(() =>
    database.execute("INSERT INTO calendars (name, definition, created_by) VALUES ($1, $2, $3)", [
      name,
      JSON.stringify(definition),
      by,
    ]),
  );
  return made !== undefined;
}

/** False where somebody else has changed it since it was read. */
export async function replaceCalendar(
  database: Database,
  known: CalendarRow,
  definition: Calendar,
  by: string,
): Promise<boolean> {
  const changed = await database.execute(
    "UPDATE calendars SET definition = $2::json, created_by = $3, changed_at = now() WHERE name = $1 AND definition::jsonb = $4::jsonb",
    [known.name, JSON.stringify(definition), by, JSON.stringify(known.definition)],
  );
  return changed > 0;
}

export async function removeCalendar(database: Database, name: string): Promise<void> {
  await database.execute("DELETE FROM calendars WHERE name = $1", [name]);
}
