/** One search over everything that has a name: reports, data, templates, people, groups, files and runs. */

import type { Calendar } from "@corbix/core/calendar";
import type { Recipient } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import type { Database } from "./database/database.js";
import { containing } from "./database/page.js";
import { isThere } from "./keeping.js";
import type { Among } from "./overview.js";

/** Of each kind so many are told: whoever looks for more narrows it. */
const EACH = 5;
/** Groups and files are looked for in so many runs, the newest. */
const RUNS = 60;

export interface FoundNames {
  readonly reports: readonly { readonly name: string; readonly title: string }[];
  readonly datasets: readonly { readonly name: string }[];
  readonly templates: readonly { readonly name: string }[];
  readonly people: readonly Pick<Recipient, "name" | "group" | "to">[];
  /** In the newest run that has them. */
  readonly groups: readonly (InRun & { readonly label: string })[];
  readonly files: readonly (InRun & { readonly path: string })[];
  readonly runs: readonly Omit<InRun, "number">[];
}

interface InRun {
  readonly run: string;
  readonly number: number;
  readonly period: string;
  readonly definition: Report;
  readonly calendar: Calendar | null;
}

/** Of reports that may be seen. */
const RECENT = `(SELECT runs.id, runs.period, runs.calendar, runs.created_at, report_versions.definition FROM runs
  JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version
  WHERE $2::text[] IS NULL OR runs.report = ANY($2) ORDER BY runs.created_at DESC LIMIT ${RUNS}) AS recent`;

export async function searchEverything(
  database: Database,
  text: string,
  among: Among | undefined,
): Promise<FoundNames> {
  const pattern = containing(text);
  const find = <Row extends object>(sql: string, names = among?.reports): Promise<Row[]> =>
    database.select<Row>(`${sql} LIMIT ${EACH}`, [pattern, names ?? null]);
  const seen = "($2::text[] IS NULL OR name = ANY($2))";
  const [reports, datasets, templates, people, groups, files, runs] = await Promise.all([
    find<{ name: string; title: string }>(
      `SELECT name, definition->>'title' AS title FROM (SELECT DISTINCT ON (name) name, definition FROM report_versions WHERE ${isThere("reports", "report_versions.name")} ORDER BY name, number DESC) AS newest
       WHERE (name ILIKE $1 OR definition->>'title' ILIKE $1) AND ${seen} ORDER BY name`,
    ),
    find<{ name: string }>(
      `SELECT name FROM datasets WHERE name ILIKE $1 AND ${seen} AND ${isThere("datasets", "datasets.name")} ORDER BY name`,
      among?.datasets,
    ),
    find<{ name: string }>(
      `SELECT DISTINCT name FROM template_versions WHERE name ILIKE $1 AND ${seen} AND ${isThere("templates", "template_versions.name")} ORDER BY name`,
      among?.templates,
    ),
    find<{ name: string; group: string; to: Recipient["to"] }>(
      `SELECT one->>'name' AS name, one->>'group' AS "group", one->'to' AS "to" FROM (SELECT recipients FROM recipient_lists ORDER BY id DESC LIMIT 1) AS newest,
         json_array_elements(newest.recipients) AS one
       WHERE $2::text[] IS NULL AND (one->>'name' ILIKE $1 OR EXISTS (SELECT 1 FROM json_array_elements(one->'to') AS address WHERE address->>'address' ILIKE $1))`,
    ),
    find<InRun & { label: string }>(
      `SELECT found.* FROM (SELECT DISTINCT ON (parcels.group_key) recent.id AS run, parcels.number, parcels.label, recent.period, recent.calendar, recent.definition FROM ${RECENT}
         JOIN parcels ON parcels.run_id = recent.id WHERE parcels.label ILIKE $1 ORDER BY parcels.group_key, recent.created_at DESC) AS found ORDER BY found.label`,
    ),
    find<InRun & { path: string }>(
      `SELECT recent.id AS run, parcels.number, files.path, recent.period, recent.calendar, recent.definition FROM ${RECENT}
         JOIN files ON files.run_id = recent.id JOIN parcels ON parcels.id = files.parcel_id WHERE files.path ILIKE $1 ORDER BY recent.created_at DESC, files.id`,
    ),
    find<Omit<InRun, "number">>(
      `SELECT recent.id AS run, recent.period, recent.calendar, recent.definition FROM ${RECENT} WHERE recent.id ILIKE $1 OR recent.period ILIKE $1 OR recent.definition->>'title' ILIKE $1 ORDER BY recent.created_at DESC`,
    ),
  ]);
  return { reports, datasets, templates, people, groups, files, runs };
}
