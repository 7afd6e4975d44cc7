/** Runs as lists and pages show them. */
import type { Report } from "@corbix/core/report";
import type { Database } from "./database.js";
import type { MessageState, ParcelRow, RunRow, RunState } from "./models.js";
import { type Page, type PageWish, selectPage } from "./page.js";

/** A run without what is large in it, and with what its report says in the version it uses. */
export interface ListedRun
  extends Pick<
    RunRow,
    | "id"
    | "report"
    | "period"
    | "state"
    | "waitingFor"
    | "editions"
    | "rehearsalTo"
    | "paused"
    | "releaseAt"
    | "error"
    | "parcelCount"
    | "startedBy"
    | "releasedBy"
    | "createdAt"
    | "releasedAt"
    | "finishedAt"
  > {
  readonly definition: Report;
}

const LISTED = `runs.id, runs.report, runs.period, runs.state, runs.waiting_for AS "waitingFor", runs.editions, runs.rehearsal_to AS "rehearsalTo", runs.paused,
  runs.release_at AS "releaseAt", runs.error, runs.parcel_count AS "parcelCount", runs.started_by AS "startedBy", runs.released_by AS "releasedBy",
  runs.created_at AS "createdAt", runs.released_at AS "releasedAt", runs.finished_at AS "finishedAt", report_versions.definition`;

export interface RunFilter {
  readonly report?: string | undefined;
  readonly period?: string | undefined;
  readonly state?: RunState | undefined;
  readonly rehearsal?: boolean | undefined;
  readonly sort: "createdAt" | "-createdAt" | "report" | "-report" | "period" | "-period";
}

const RUN_ORDER = { createdAt: "runs.created_at", report: "runs.report", period: "runs.period" } as const;

export function pageOfRuns(database: Database, filter: RunFilter, wish: PageWish): Promise<Page<ListedRun>> {
  const downwards = filter.sort.startsWith("-");
  const field = filter.sort.replace("-", "") as keyof typeof RUN_ORDER;
  return selectPage<ListedRun>(
    database,
    {
      select: LISTED,
      from: "runs JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version",
      where: [
        ["runs.report = ?", filter.report],
        ["runs.period = ?", filter.period],
        ["runs.state = ?", filter.state],
        ["(runs.rehearsal_to IS NOT NULL) = ?", filter.rehearsal],
      ],
      order: [
        { sql: RUN_ORDER[field], type: field === "createdAt" ? "timestamptz" : "text" },
        { sql: "runs.id", type: "text" },
      ],
      downwards,
    },
    wish,
  );
}

/** How many parcels and messages a run has in each state. */
export interface RunProgress {
  readonly parcels: Readonly<Partial<Record<ParcelRow["state"], number>>>;
  readonly messages: Readonly<Partial<Record<MessageState, number>>>;
}

/** Progress of several runs, in one question. */
export async function progressOf(database: Database, runs: readonly string[]): Promise<Map<string, RunProgress>> {
  const counts = await database.select<{ run: string; kind: "parcels" | "messages"; state: string; count: number }>(
    `SELECT run_id AS run, 'parcels' AS kind, state, count(*)::int AS count FROM parcels WHERE run_id = ANY($1) GROUP BY run_id, state
     UNION ALL SELECT run_id, 'messages', state, count(*)::int FROM messages WHERE run_id = ANY($1) GROUP BY run_id, state`,
    [runs],
  );
  const progress = new Map(
    runs.map((run) => [run, { parcels: {}, messages: {} } as Record<string, Record<string, number>>]),
  );
  for (const { run, kind, state, count } of counts) {
    const own = progress.get(run)?.[kind];
    if (own) own[state] = count;
  }
  return progress as unknown as Map<string, RunProgress>;
}
