/** What somebody should be told. */
import type { NoticeKind } from "@corbix/api";
import type { Database } from "./database/database.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";

export interface Notice {
  readonly kind: NoticeKind;
  readonly report: string | null;
  readonly run: string | null;
  readonly what: string;
  readonly advice: string | null;
}

export interface NoticeRow extends Notice {
  readonly id: string;
  readonly at: Date;
}

export async function addNotice(database: Database, at: Date, notice: Notice): Promise<string> {
  const { id } = await database.one<{ id: string }>(
    "INSERT INTO notices (at, kind, report, run_id, what, advice) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id::text",
    [at, notice.kind, notice.report, notice.run, notice.what, notice.advice],
  );
  return id;
}

export function pageOfNotices(
  database: Database,
  filter: {
    readonly kind?: string | undefined;
    readonly report?: string | undefined;
    readonly since?: string | undefined;
    readonly among?: readonly string[] | undefined;
  },
  wish: PageWish,
): Promise<ListPage<NoticeRow>> {
  return selectPage<NoticeRow>(
    database,
    {
      select: "id::text, at, kind, report, run_id AS run, what, advice",
      from: "notices",
      where: [
        ["kind = ?", filter.kind],
        ["report = ?", filter.report],
        ["report = ANY(?)", filter.among],
        ["at >= ?::date", filter.since],
      ],
      order: [{ sql: "notices.id", type: "bigint" }],
      downwards: true,
    },
    wish,
  );
}

/** Somebody who wants to be told: of which kinds, of which reports (all without any), at once or in the morning. */
export interface WatcherRow {
  readonly name: string;
  readonly way: "mail" | "callback";
  readonly address: string;
  readonly kinds: readonly NoticeKind[];
  readonly reports: readonly string[] | null;
  /** Wall-clock time of a summary; at once without one. */
  readonly morning: string | null;
  readonly zone: string;
  /** What callbacks are signed with, sealed. */
  readonly secret: string | null;
  readonly createdBy: string;
}

const WATCHER = 'name, way, address, kinds, reports, morning, zone, secret, created_by AS "createdBy"';

export function allWatchers(database: Database): Promise<WatcherRow[]> {
  return database.select<WatcherRow>(`SELECT ${WATCHER} FROM watchers ORDER BY name`);
}

export async function saveWatcher(database: Database, row: WatcherRow): Promise<void> {
  await database.execute(
    `INSERT INTO watchers (name, way, address, kinds, reports, morning, zone, secret, created_by) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     ON CONFLICT (name) DO UPDATE SET way = excluded.way, address = excluded.address, kinds = excluded.kinds, reports = excluded.reports,
       morning = excluded.morning, zone = excluded.zone, secret = excluded.secret, created_by = excluded.created_by`,
    [
      row.name,
      row.way,
      row.address,
      JSON.stringify(row.kinds),
      row.reports === null ? null : JSON.stringify(row.reports),
      row.morning,
      row.zone,
      row.secret,
      row.createdBy,
    ],
  );
}

/** What was on its way to somebody goes with them. */
export async function removeWatcher(database: Database, name: string): Promise<boolean> {
  await database.execute("DELETE FROM tellings WHERE watcher = $1 AND told_at IS NULL", [name]);
  return (await database.execute("DELETE FROM watchers WHERE name = $1", [name])) > 0;
}

export async function addTelling(
  database: Database,
  telling: { readonly notice: string; readonly watcher: string | null; readonly address: string; readonly dueAt: Date },
): Promise<void> {
  await database.execute("INSERT INTO tellings (notice_id, watcher, address, due_at) VALUES ($1, $2, $3, $4)", [
    telling.notice,
    telling.watcher,
    telling.address,
    telling.dueAt,
  ]);
}

/** A notice on its way to somebody. */
export interface DueTelling extends Notice {
  readonly id: string;
  readonly at: Date;
  readonly watcher: string | null;
  readonly address: string;
  readonly tries: number;
}

const MOST_TRIES = 20;

/** Those that are due, each taken for two minutes so that no other process tells it too. */
export function takeTellings(database: Database, now: Date, most: number): Promise<DueTelling[]> {
  return database.select<DueTelling>(
    `UPDATE tellings SET due_at = $1::timestamptz + interval '2 minutes', tries = tellings.tries + 1
     FROM (SELECT tellings.id AS due, notices.kind, notices.report, notices.run_id, notices.what, notices.advice, notices.at FROM tellings JOIN notices ON notices.id = tellings.notice_id
       WHERE told_at IS NULL AND (notices.kind = 'halted' OR NOT EXISTS (SELECT 1 FROM halts WHERE ended_at IS NULL)) AND due_at <= $1 AND tries < ${MOST_TRIES} ORDER BY tellings.id LIMIT $2 FOR UPDATE OF tellings SKIP LOCKED) AS taken
     WHERE tellings.id = taken.due
     RETURNING tellings.id::text, taken.kind, taken.report, taken.run_id AS run, taken.what, taken.advice, taken.at, watcher, address, tries`,
    [now, most],
  );
}

export async function noteTellings(
  database: Database,
  ids: readonly string[],
  outcome: { readonly error: string } | { readonly toldAt: Date },
  again: Date,
): Promise<void> {
  const toldAt = "toldAt" in outcome ? outcome.toldAt : null;
  const error = "error" in outcome ? outcome.error : null;
  await database.execute("UPDATE tellings SET told_at = $2, error = $3, due_at = $4 WHERE id = ANY($1::bigint[])", [
    ids,
    toldAt,
    error,
    again,
  ]);
}
