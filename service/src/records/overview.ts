import type { Calendar } from "@corbix/core/calendar";
import type { Report } from "@corbix/core/report";
import type { Database } from "./database/database.js";
import { isThere } from "./keeping.js";

export interface Counts {
  readonly datasets: number;
  readonly templates: number;
  readonly reports: number;
  readonly runs: number;
  readonly held: number;
  readonly onTheWay: number;
  readonly sent: number;
  readonly troubled: number;
  readonly letters: number;
}

/** How many of everything there are. */
export async function countEverything(database: Database, among: Among | undefined): Promise<Counts> {
  const within = (column: string, place: number): string => `($${place}::text[] IS NULL OR ${column} = ANY($${place}))`;
  const runs = `SELECT count(*)::int FROM runs WHERE ${within("report", 1)}`;
  // Without a join where everything is counted: there are very many.
  const own = "EXISTS (SELECT 1 FROM runs WHERE runs.id = messages.run_id AND runs.report = ANY($1))";
  const messages = `SELECT count(*)::int FROM messages WHERE ($1::text[] IS NULL OR ${own})`;
  return database.one<Counts>(
    `SELECT (SELECT count(*)::int FROM datasets WHERE ${isThere("datasets", "datasets.name")} AND ${within("name", 2)}) AS datasets,
       (SELECT count(DISTINCT name)::int FROM template_versions WHERE ${isThere("templates", "template_versions.name")} AND ${within("name", 3)}) AS templates,
       (SELECT count(DISTINCT name)::int FROM report_versions WHERE ${isThere("reports", "report_versions.name")} AND ${within("name", 1)}) AS reports,
       (${runs}) AS runs, (${runs} AND state = 'held') AS held,
       (${messages} AND state IN ('queued', 'sending')) AS "onTheWay", (${messages} AND state = 'sent') AS sent,
       (${messages} AND state IN ('refused', 'unsure', 'returned')) AS troubled, (SELECT count(*)::int FROM letters WHERE $1::text[] IS NULL) AS letters`,
    [among?.reports ?? null, among?.datasets ?? null, among?.templates ?? null],
  );
}

/** Names of what somebody may see. */
export interface Among {
  readonly reports: readonly string[];
  readonly datasets: readonly string[];
  readonly templates: readonly string[];
}

/** Messages of a run in one state that somebody has to look at, with what the server said last. */
export interface Trouble {
  readonly run: string;
  readonly report: string;
  readonly definition: Report;
  readonly period: string;
  readonly calendar: Calendar | null;
  readonly state: "refused" | "returned" | "unsure";
  readonly count: number;
  readonly groups: readonly string[];
  readonly response: string | null;
}

/** So many runs in trouble are told, and so many groups of each named. */
const TOLD = 12;
const NAMED = 3;

/** What did not get through in the last days, by run and state, the newest first; what went out a second time is settled. */
export function troublesOf(
  database: Database,
  days: number,
  reports: readonly string[] | undefined,
): Promise<Trouble[]> {
  return database.select<Trouble>(
    `SELECT told.run, runs.report, runs.period, runs.calendar, report_versions.definition, told.state, told.count, told.groups, told.response FROM (
       SELECT wrong.run_id AS run, wrong.state, count(*)::int AS count, max(wrong.touched_at) AS at,
         (array_agg(parcels.label ORDER BY wrong.id))[1:${NAMED}] AS groups, (array_agg(wrong.response ORDER BY wrong.id DESC))[1] AS response
       FROM messages AS wrong JOIN parcels ON parcels.id = wrong.parcel_id
       WHERE wrong.state IN ('refused', 'returned', 'unsure') AND wrong.touched_at > now() - $1 * interval '1 day'
         AND ($2::text[] IS NULL OR EXISTS (SELECT 1 FROM runs AS own WHERE own.id = wrong.run_id AND own.report = ANY($2)))
         AND NOT EXISTS (SELECT 1 FROM messages AS later WHERE later.parcel_id = wrong.parcel_id AND later.part = wrong.part AND later.again > wrong.again)
       GROUP BY wrong.run_id, wrong.state ORDER BY at DESC LIMIT ${TOLD}) AS told
     JOIN runs ON runs.id = told.run JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version
     ORDER BY told.at DESC`,
    [days, reports ?? null],
  );
}

/** Whether the database answers; throws what keeps it from that. */
export async function isAnswering(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1")).length === 1;
}
