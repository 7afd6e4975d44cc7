/** Runs as lists and pages show them. */
import { fromStates, ON_ITS_WAY, RUN_MACHINE } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { findRow, findRows, getRow } from "./database/find.js";
import { type ListPage, type PageWish, readSort, selectPage } from "./database/page.js";
import type { MessageState, ParcelRow, RunRow, RunState } from "./database/row-types.js";

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
    | "calendar"
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

const LISTED = `runs.id, runs.report, runs.period, runs.state, runs.waiting_for AS "waitingFor", runs.editions, runs.calendar, runs.rehearsal_to AS "rehearsalTo", runs.paused,
  runs.release_at AS "releaseAt", runs.error, runs.parcel_count AS "parcelCount", runs.started_by AS "startedBy", runs.released_by AS "releasedBy",
  runs.created_at AS "createdAt", runs.released_at AS "releasedAt", runs.finished_at AS "finishedAt", report_versions.definition`;

export interface RunFilter {
  readonly report?: string | undefined;
  readonly period?: string | undefined;
  readonly state?: RunState | undefined;
  readonly rehearsal?: boolean | undefined;
  /** Only of these reports. */
  readonly among?: readonly string[] | undefined;
  readonly sort: "createdAt" | "-createdAt" | "report" | "-report" | "period" | "-period";
}

const RUN_ORDER = { createdAt: "runs.created_at", report: "runs.report", period: "runs.period" } as const;

export function pageOfRuns(database: Database, filter: RunFilter, wish: PageWish): Promise<ListPage<ListedRun>> {
  const { field, downwards } = readSort(filter.sort, RUN_ORDER);
  return selectPage<ListedRun>(
    database,
    {
      select: LISTED,
      from: "runs JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version",
      where: [
        ["runs.report = ?", filter.report],
        ["runs.report = ANY(?)", filter.among],
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
  /** What goes by other ways than mail, one for each group and way. */
  readonly carried: Readonly<Partial<Record<MessageState, number>>>;
}

type Counts = Record<keyof RunProgress, Record<string, number>>;

/** Progress of several runs, in one question. */
export async function progressOf(database: Database, runs: readonly string[]): Promise<Map<string, RunProgress>> {
  const counts = await database.select<{ run: string; kind: keyof RunProgress; state: string; count: number }>(
    `SELECT run_id AS run, 'parcels' AS kind, state, count(*)::int AS count FROM parcels WHERE run_id = ANY($1) GROUP BY run_id, state
     UNION ALL SELECT run_id, CASE WHEN way IS NULL THEN 'messages' ELSE 'carried' END, state, count(*)::int FROM messages WHERE run_id = ANY($1) GROUP BY run_id, way IS NULL, state`,
    [runs],
  );
  const progress = new Map(runs.map((run): [string, Counts] => [run, { parcels: {}, messages: {}, carried: {} }]));
  for (const { run, kind, state, count } of counts) {
    const own = progress.get(run)?.[kind];
    if (own) own[state] = count;
  }
  return progress;
}

/** Runs by their ids, as far as they are there, in no order. */
export function runsById(database: Database, ids: readonly string[]): Promise<RunRow[]> {
  return findRows(database.models.Run, { where: { id: [...ids] } });
}

export async function maybeRun(database: Database, id: string): Promise<RunRow | undefined> {
  return findRow(database.models.Run, { where: { id } });
}

/** A run, locked: whoever has it first decides. */
export async function lockRun(database: Database, id: string, transaction: Transaction): Promise<RunRow> {
  return getRow(database.models.Run, { where: { id }, lock: transaction.LOCK.UPDATE, transaction });
}

/** The state of a run, locked against change, or shared with others that do not change it. */
export async function lockRunState(
  database: Database,
  id: string,
  lock: "UPDATE" | "SHARE",
  transaction: Transaction,
): Promise<RunState | undefined> {
  const [run] = await database.select<{ state: RunState }>(
    `SELECT state FROM runs WHERE id = $1 FOR ${lock}`,
    [id],
    transaction,
  );
  return run?.state;
}

export async function addRuns(
  database: Database,
  runs: readonly Partial<RunRow>[],
  transaction: Transaction,
): Promise<RunRow[]> {
  return (await database.models.Run.bulkCreate([...runs], { transaction })).map((run) => run.get({ plain: true }));
}

/** Moves a run to a state, with what else changes by that. */
export async function moveRun(
  database: Database,
  id: string,
  state: RunState,
  also: Partial<RunRow>,
  transaction: Transaction,
): Promise<void> {
  await database.models.Run.update({ ...also, state }, { where: { id }, transaction });
  await database.execute("UPDATE runs SET touched_at = now() WHERE id = $1", [id], transaction);
}

/** Moves runs that are planned from state to state until they are held, and keeps what was planned and proved of them. */
export async function moveRunsToHeld(
  database: Database,
  runs: readonly Pick<RunRow, "id" | "columns" | "plan" | "proof" | "parcelCount">[],
  transaction: Transaction,
): Promise<void> {
  const ids = runs.map(({ id }) => id);
  for (const state of ["making", "proving"])
    await database.execute("UPDATE runs SET state = $2 WHERE id = ANY($1)", [ids, state], transaction);
  await database.execute(
    `UPDATE runs SET state = 'held', columns = told.columns, plan = told.plan, proof = told.proof, parcel_count = told.count, touched_at = now()
     FROM json_to_recordset($1) AS told (id text, columns json, plan json, proof json, count int) WHERE runs.id = told.id`,
    [
      JSON.stringify(
        runs.map(({ id, columns, plan, proof, parcelCount: count }) => ({ id, columns, plan, proof, count })),
      ),
    ],
    transaction,
  );
}

export async function setReleased(
  database: Database,
  runs: readonly string[],
  { by, hasFigures }: { readonly by: string; readonly hasFigures: boolean },
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "UPDATE runs SET state = 'delivering', released_by = $2, released_at = now(), release_at = NULL, touched_at = now(), figures_due = $3 AND rehearsal_to IS NULL WHERE id = ANY($1)",
    [runs, by, hasFigures],
    transaction,
  );
}

/** Released runs whose figures are wanted by now: at once, or when nothing of them is on its way any more. */
export async function takeFiguresDue(database: Database): Promise<string[]> {
  const due = await database.select<{ id: string }>(
    `SELECT runs.id FROM runs JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version
     WHERE figures_due AND (runs.state = 'done' OR runs.state = 'delivering' AND report_versions.definition->'figures'->>'when' = 'released') ORDER BY runs.released_at`,
  );
  return due.map((one) => one.id);
}

export async function setFiguresDone(database: Database, id: string): Promise<void> {
  await database.execute("UPDATE runs SET figures_due = false WHERE id = $1", [id]);
}

/** What one group comes to in a run. */
export interface FigureRow {
  readonly label: string;
  readonly rows: number;
  readonly totals: Readonly<Record<string, string>>;
  readonly files: number;
  readonly bytes: number;
  readonly people: number;
  readonly message: MessageState | null;
  readonly said: string | null;
}

/** All groups of a run in its order, each with what became of its newest message, or else of its files on other ways. */
export function figureRows(database: Database, run: string): Promise<FigureRow[]> {
  return database.select<FigureRow>(
    `SELECT parcels.label, parcels.row_count AS rows, parcels.totals, made.files, made.bytes, newest.state AS message, coalesce(newest.response, parcels.left_out) AS said,
       CASE WHEN newest.way IS NULL THEN coalesce(json_array_length(newest.envelope->'to') + json_array_length(newest.envelope->'cc') + json_array_length(newest.envelope->'bcc'), 0) ELSE 0 END AS people
     FROM parcels
     LEFT JOIN LATERAL (SELECT count(*)::int AS files, coalesce(sum(size), 0)::float8 AS bytes FROM files WHERE files.parcel_id = parcels.id) AS made ON true
     LEFT JOIN LATERAL (SELECT state, response, envelope, way FROM messages WHERE messages.parcel_id = parcels.id ORDER BY (way IS NULL) DESC, id DESC LIMIT 1) AS newest ON true
     WHERE parcels.run_id = $1 ORDER BY parcels.number`,
    [run],
  );
}

export async function setApprovals(
  database: Database,
  id: string,
  approvals: RunRow["approvals"],
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "UPDATE runs SET approvals = $2, touched_at = now() WHERE id = $1",
    [id, JSON.stringify(approvals)],
    transaction,
  );
}

/** Sets the time at which a held run is released; false where it is not held. */
export async function setReleaseAt(database: Database, id: string, at: Date | null): Promise<boolean> {
  const changed = await database.execute(
    "UPDATE runs SET release_at = $2, touched_at = now() WHERE id = $1 AND state = 'held'",
    [id, at],
  );
  return changed > 0;
}

/** Takes the runs whose time to be released has come. */
export async function takeReleasable(database: Database, now: Date): Promise<string[]> {
  const due = await database.select<{ id: string }>(
    "UPDATE runs SET release_at = NULL WHERE state = 'held' AND release_at <= $1 RETURNING id",
    [now],
  );
  return due.map((one) => one.id);
}

export async function setStopped(database: Database, id: string, transaction: Transaction): Promise<void> {
  await database.execute(
    "UPDATE runs SET state = 'stopped', waiting_for = NULL, finished_at = now(), touched_at = now() WHERE id = $1",
    [id],
    transaction,
  );
}

/** Breaks a run off by an incident; false where it is over already. */
export async function breakOff(
  database: Database,
  id: string,
  error: NonNullable<RunRow["error"]>,
  transaction: Transaction,
): Promise<boolean> {
  const stopped = await database.execute(
    "UPDATE runs SET state = 'stopped', error = $2, finished_at = now(), touched_at = now() WHERE id = $1 AND state = ANY($3)",
    [id, JSON.stringify(error), fromStates(RUN_MACHINE, "break-off")],
    transaction,
  );
  return stopped > 0;
}

/** A run that is over delivers again. */
export async function setReopened(database: Database, id: string, transaction: Transaction): Promise<void> {
  await database.execute(
    "UPDATE runs SET state = 'delivering', finished_at = NULL, paused = false, touched_at = now() WHERE id = $1",
    [id],
    transaction,
  );
}

/** Lets a delivering run's messages wait, or go on; false where that changes nothing. */
export async function setPaused(database: Database, id: string, paused: boolean): Promise<boolean> {
  const changed = await database.execute(
    "UPDATE runs SET paused = $2, touched_at = now() WHERE id = $1 AND state = 'delivering' AND paused <> $2",
    [id, paused],
  );
  return changed > 0;
}

export async function reportNameOfRun(database: Database, id: string): Promise<string> {
  return (await database.one<{ report: string }>("SELECT report FROM runs WHERE id = $1", [id])).report;
}

/** A run that is done, with how many of its messages did not get through. */
export interface EndedRun {
  readonly id: string;
  readonly report: string;
  readonly refused: number;
}

/** Runs that have nothing on its way any more are done. */
export async function endQuietRuns(database: Database, runs: readonly string[]): Promise<EndedRun[]> {
  const states = fromStates(RUN_MACHINE, "finish");
  return database.transaction(async (transaction) => {
    // Two statements: what was queued while the run's row was waited for has to be seen.
    await database.select(
      "SELECT id FROM runs WHERE id = ANY($1) AND state = ANY($2) ORDER BY id FOR UPDATE",
      [[...runs], states],
      transaction,
    );
    return database.select<EndedRun>(
      `UPDATE runs SET state = 'done', finished_at = now() WHERE id = ANY($1) AND state = ANY($2)
         AND NOT EXISTS (SELECT 1 FROM messages WHERE run_id = runs.id AND state = ANY($3))
       RETURNING id, report, (SELECT count(*)::int FROM messages WHERE run_id = runs.id AND state IN ('refused', 'returned')) AS refused`,
      [[...runs], states, ON_ITS_WAY],
      transaction,
    );
  });
}

/** Delivering runs without a message on its way: whoever wrote the last one down could not say so any more. */
export async function quietRuns(database: Database): Promise<string[]> {
  const quiet = await database.select<{ id: string }>(
    "SELECT id FROM runs WHERE state = 'delivering' AND NOT EXISTS (SELECT 1 FROM messages WHERE run_id = runs.id AND state IN ('queued', 'sending'))",
  );
  return quiet.map((one) => one.id);
}

export async function hasWaitingRuns(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1 FROM runs WHERE state = 'waiting' LIMIT 1")).length > 0;
}

/** Lets runs that wait for the store go on; their steps count as queued anew. Gives their ids. */
export async function goOnRuns(database: Database): Promise<string[]> {
  const gone = await database.select<{ id: string }>(
    `WITH on_again AS (
       UPDATE runs SET state = waiting_for->>'state', waiting_for = NULL, touched_at = now() WHERE state = 'waiting' RETURNING id),
     queued AS (UPDATE run_steps SET queued_at = now() - interval '1 day' WHERE run_id IN (SELECT id FROM on_again) AND done_at IS NULL)
     SELECT id FROM on_again`,
  );
  return gone.map((one) => one.id);
}

/** Whether all of a report was delivered for an occasion. */
export async function wasReleasedFor(database: Database, report: string, occasion: string): Promise<boolean> {
  const done = await database.select(
    "SELECT 1 FROM runs WHERE report = $1 AND occasion = $2 AND released_at IS NOT NULL AND rehearsal_to IS NULL AND only_groups IS NULL LIMIT 1",
    [report, occasion],
  );
  return done.length > 0;
}

/** The run that one is set beside: the newest of a period before that was released over all groups, or the newest before it at all. */
/** Runs of single records say nothing of a period or an edition. */
const OF_WHOLE_EDITIONS = "occasion NOT LIKE 'record %'";

export async function runBefore(
  database: Database,
  of: Pick<RunRow, "id" | "report" | "period" | "createdAt">,
  hasPeriod: boolean,
): Promise<{ readonly id: string; readonly period: string } | undefined> {
  const [found] = await database.select<{ id: string; period: string }>(
    `SELECT id, period FROM runs WHERE report = $1 AND id <> $2 AND rehearsal_to IS NULL AND only_groups IS NULL AND only_rows IS NULL AND released_at IS NOT NULL AND ${OF_WHOLE_EDITIONS}
       AND ${hasPeriod ? "period < $3 AND $4::timestamptz IS NOT NULL ORDER BY period DESC," : "created_at < $4 AND $3 <> '' ORDER BY"} released_at DESC LIMIT 1`,
    [of.report, of.id, of.period, of.createdAt],
  );
  return found;
}

export interface WholeRun {
  readonly period: string;
  /** Earlier periods whose rows stand in its files, for everybody who had any. */
  readonly madeUpFor: readonly string[];
  readonly id: string;
  readonly state: RunState;
  readonly releasedAt: Date | null;
}

/** Runs of a report over all its groups and rows, the newest first: what became of each period. */
export function wholeRuns(database: Database, report: string): Promise<WholeRun[]> {
  return database.select<WholeRun>(
    `SELECT period, id, state, released_at AS "releasedAt",
       CASE WHEN plan IS NULL THEN ARRAY(SELECT json_array_elements_text(coalesce(period_choice->'along', '[]')))
         ELSE ARRAY(SELECT one->>'period' FROM json_array_elements(coalesce(plan->'caughtUp', '[]')) AS one WHERE (one->>'isWhole')::boolean) END AS "madeUpFor"
     FROM runs
     WHERE report = $1 AND rehearsal_to IS NULL AND only_groups IS NULL AND only_rows IS NULL AND state NOT IN ('failed') AND ${OF_WHOLE_EDITIONS} ORDER BY created_at DESC`,
    [report],
  );
}

/** The editions that a report's newest run over all groups and rows was started with; rehearsals, and what failed or was stopped, do not count. */
export async function lastWholeRun(
  database: Database,
  report: string,
): Promise<{ readonly editions: Readonly<Record<string, number>> } | undefined> {
  const [found] = await database.select<{ editions: Record<string, number> }>(
    `SELECT editions FROM runs WHERE report = $1 AND rehearsal_to IS NULL AND only_groups IS NULL AND only_rows IS NULL
       AND state NOT IN ('failed', 'stopped') AND ${OF_WHOLE_EDITIONS} ORDER BY created_at DESC LIMIT 1`,
    [report],
  );
  return found;
}

/** What of a run its messages need; nothing of it changes while it delivers. */
export type SentRun = Pick<
  RunRow,
  "id" | "report" | "reportVersion" | "period" | "rehearsalTo" | "againReason" | "onlyRows" | "templates" | "trace"
>;

/** The same of several, each with its report. */
export function sentRuns(
  database: Database,
  ids: readonly string[],
): Promise<(SentRun & { readonly definition: Report })[]> {
  return database.select<SentRun & { readonly definition: Report }>(
    `SELECT runs.id, report, report_version AS "reportVersion", period, rehearsal_to AS "rehearsalTo", again_reason AS "againReason", only_rows AS "onlyRows", templates, trace, definition
     FROM runs JOIN report_versions ON report_versions.name = report AND report_versions.number = report_version WHERE runs.id = ANY($1)`,
    [ids],
  );
}

/** What of a run is deleted when its time is over. */
export type Emptied = "files" | "messages" | "rows";

/** Names of all reports that have runs. */
export async function reportsWithRuns(database: Database): Promise<string[]> {
  return (await database.select<{ report: string }>("SELECT DISTINCT report FROM runs")).map((one) => one.report);
}

/** Runs of a report that ended so many months ago and still have something. */
export async function overdueRuns(
  database: Database,
  of: { readonly report: string; readonly kind: Emptied; readonly months: number; readonly now: Date },
  count: number,
): Promise<string[]> {
  const over = await database.select<{ id: string }>(
    `SELECT id FROM runs WHERE report = $1 AND state IN ('done', 'stopped', 'failed') AND finished_at < $2::timestamptz - $3 * interval '1 month'
       AND emptied->>$4 IS NULL ORDER BY finished_at LIMIT $5`,
    [of.report, of.now, of.months, of.kind, count],
  );
  return over.map((one) => one.id);
}

/** Deletes something of a run whole, and writes down when. Documents that grow are gone on from: they stay. Gives how many files went. */
export function emptyRun(
  database: Database,
  run: string,
  { kind, now, growing }: { readonly kind: Emptied; readonly now: Date; readonly growing: readonly string[] },
): Promise<number> {
  return database.transaction(async (transaction) => {
    const execute = (sql: string, ...more: unknown[]): Promise<number> =>
      database.execute(sql, [run, ...more], transaction);
    await execute(
      "UPDATE runs SET emptied = (emptied::jsonb || jsonb_build_object($2::text, $3::text))::json WHERE id = $1",
      kind,
      now.toISOString(),
    );
    if (kind === "messages")
      await execute("UPDATE messages SET html = '', text = '', mime = NULL, packed = NULL WHERE run_id = $1");
    if (kind === "rows") {
      await execute("UPDATE parcels SET lines = '' WHERE run_id = $1");
      await execute("UPDATE run_lines SET lines = NULL WHERE run_id = $1");
      await execute("DELETE FROM parcel_lines WHERE parcel_id IN (SELECT id FROM parcels WHERE run_id = $1)");
    }
    if (kind !== "files") return 0;
    // A copy of them in a zip file would be theirs too.
    await execute("UPDATE messages SET packed = NULL WHERE run_id = $1");
    const files = await execute(
      "UPDATE files SET removed_at = $2 WHERE run_id = $1 AND removed_at IS NULL AND NOT (file = ANY($3) AND kind IN ('docx', 'pptx'))",
      now,
      growing,
    );
    await execute("DELETE FROM parcel_blobs WHERE parcel_id IN (SELECT id FROM parcels WHERE run_id = $1)");
    return files;
  });
}
