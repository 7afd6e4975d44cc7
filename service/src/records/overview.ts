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
export async function countEverything(database: Database): Promise<Counts> {
  return database.one<Counts>(
    `SELECT (SELECT count(*)::int FROM datasets WHERE ${isThere("datasets", "datasets.name")}) AS datasets,
       (SELECT count(DISTINCT name)::int FROM template_versions WHERE ${isThere("templates", "template_versions.name")}) AS templates,
       (SELECT count(DISTINCT name)::int FROM report_versions WHERE ${isThere("reports", "report_versions.name")}) AS reports, (SELECT count(*)::int FROM runs) AS runs, (SELECT count(*)::int FROM runs WHERE state = 'held') AS held,
       (SELECT count(*)::int FROM messages WHERE state IN ('queued', 'sending')) AS "onTheWay", (SELECT count(*)::int FROM messages WHERE state = 'sent') AS sent,
       (SELECT count(*)::int FROM messages WHERE state IN ('refused', 'unsure', 'returned')) AS troubled, (SELECT count(*)::int FROM letters) AS letters`,
  );
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
export function troublesOf(database: Database, days: number): Promise<Trouble[]> {
  return database.select<Trouble>(
    `SELECT told.run, runs.report, runs.period, runs.calendar, report_versions.definition, told.state, told.count, told.groups, told.response FROM (
       SELECT wrong.run_id AS run, wrong.state, count(*)::int AS count, max(wrong.touched_at) AS at,
         (array_agg(parcels.label ORDER BY wrong.id))[1:${NAMED}] AS groups, (array_agg(wrong.response ORDER BY wrong.id DESC))[1] AS response
       FROM messages AS wrong JOIN parcels ON parcels.id = wrong.parcel_id
       WHERE wrong.state IN ('refused', 'returned', 'unsure') AND wrong.touched_at > now() - $1 * interval '1 day'
         AND NOT EXISTS (SELECT 1 FROM messages AS later WHERE later.parcel_id = wrong.parcel_id AND later.part = wrong.part AND later.again > wrong.again)
       GROUP BY wrong.run_id, wrong.state ORDER BY at DESC LIMIT ${TOLD}) AS told
     JOIN runs ON runs.id = told.run JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version
     ORDER BY told.at DESC`,
    [days],
  );
}

/** Whether the database answers; throws what keeps it from that. */
export async function isAnswering(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1")).length === 1;
}
