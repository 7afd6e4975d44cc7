/** Parcels as lists and pages show them. */
import { groupedBy } from "@corbix/core/common";
import { type GroupSince, type MeasuredGroup, MUCH } from "@corbix/core/run";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { findRow, findRows } from "./database/find.js";
import {
  type Condition,
  containing,
  countRows,
  type ListPage,
  type PageWish,
  readSort,
  selectPage,
  somebodyLike,
} from "./database/page.js";
import type { FileRow, MessageRow, MessageState, ParcelRow } from "./database/row-types.js";

/** Groups of a run with what was made for each, to be set beside another run. */
export function measuredGroups(database: Database, run: string): Promise<MeasuredGroup[]> {
  return database.select<MeasuredGroup>(
    `SELECT parcels.group_key AS key, parcels.label, parcels.row_count AS rows, parcels.totals, coalesce(sum(files.size), 0)::float8 AS bytes
     FROM parcels LEFT JOIN files ON files.parcel_id = parcels.id WHERE parcels.run_id = $1 GROUP BY parcels.id ORDER BY parcels.number`,
    [run],
  );
}

/** Keeps what each group had in the run before. */
export async function keepSince(
  database: Database,
  run: string,
  groups: ReadonlyMap<string, GroupSince>,
  transaction: Transaction,
): Promise<void> {
  const rows = [...groups].map(([key, { moved, ...since }]) => ({ key, since, moved }));
  await database.execute(
    `UPDATE parcels SET since = told.since, moved = told.moved FROM json_to_recordset($2::json) AS told(key text, since json, moved float8)
     WHERE parcels.run_id = $1 AND parcels.group_key = told.key`,
    [run, JSON.stringify(rows)],
    transaction,
  );
}

/** A parcel without what is large in it. */
export type ListedParcel = Pick<
  ParcelRow,
  | "id"
  | "number"
  | "label"
  | "groupKey"
  | "rowCount"
  | "totals"
  | "state"
  | "leftOut"
  | "error"
  | "attachments"
  | "since"
  | "moved"
>;
export type ShownParcel = Omit<ParcelRow, "lines">;

const LISTED = `parcels.id::text, parcels.number, parcels.label, parcels.group_key AS "groupKey", parcels.row_count AS "rowCount", parcels.totals, parcels.state,
  parcels.left_out AS "leftOut", parcels.error, parcels.attachments, parcels.since, parcels.moved`;

type Ascending = "number" | "label" | "rowCount" | "bytes" | "moved";

export interface ParcelFilter {
  readonly search?: string | undefined;
  readonly state?: ParcelRow["state"] | undefined;
  /** State of the newest message; `none` where there is no message. */
  readonly message?: MessageState | "none" | undefined;
  /** Beside the period before: groups that are new, that moved much, or whose files have another size. */
  readonly since?: "new" | "moved" | "resized" | undefined;
  readonly sort: Ascending | `-${Ascending}`;
}

const PARCEL_ORDER = {
  number: { sql: "parcels.number", type: "int" },
  label: { sql: "parcels.label", type: "text" },
  rowCount: { sql: "parcels.row_count", type: "int" },
  bytes: { sql: "(SELECT coalesce(sum(size), 0) FROM files WHERE files.parcel_id = parcels.id)", type: "bigint" },
  moved: { sql: "coalesce(parcels.moved, 2)", type: "float8" },
} as const;

/** Conditions over a run's parcels beside the period before. */
const sinceOf = (run: string): Readonly<Record<NonNullable<ParcelFilter["since"]>, Condition>> => ({
  new: ["parcels.since IS NULL AND (SELECT since FROM runs WHERE id = ?) IS NOT NULL", run],
  moved: ["parcels.moved >= ?", MUCH],
  resized: ["(parcels.since->>'isResized')::boolean = ?", true],
});

const FROM = "parcels";
/** Of the message; where files go by other ways alone, of the newest of those. */
const NEWEST_STATE =
  "(SELECT state FROM messages WHERE messages.parcel_id = parcels.id ORDER BY (way IS NULL) DESC, id DESC LIMIT 1)";

export async function pageOfParcels(
  database: Database,
  run: string,
  filter: ParcelFilter,
  wish: PageWish,
): Promise<ListPage<ListedParcel> & { readonly total: number }> {
  const { field, downwards } = readSort(filter.sort, PARCEL_ORDER);
  const where: Condition[] = [
    ["parcels.run_id = ?", run],
    [
      // Of a run with very many parcels its files and messages are each gone through once, not once for each parcel.
      `parcels.label ILIKE ? OR parcels.id IN (SELECT files.parcel_id FROM files WHERE files.run_id = ?1 AND files.path ILIKE ?)
       OR parcels.id IN (SELECT messages.parcel_id FROM messages WHERE messages.run_id = ?1 AND messages.envelope::text ILIKE ?2 AND ${somebodyLike("messages.envelope")})`,
      containing(filter.search),
      // As it stands in JSON: most envelopes need not be taken apart.
      [run, containing(filter.search && JSON.stringify(filter.search).slice(1, -1))],
    ],
    ["parcels.state = ?", filter.state],
    ...(filter.since === undefined ? [] : [sinceOf(run)[filter.since]]),
    [filter.message === "none" ? `coalesce(${NEWEST_STATE}, ?) = 'none'` : `${NEWEST_STATE} = ?`, filter.message],
  ];
  const [page, total] = await Promise.all([
    selectPage<ListedParcel>(
      database,
      {
        select: LISTED,
        from: FROM,
        where,
        order: [PARCEL_ORDER[field], { sql: "parcels.number", type: "int" }],
        downwards,
      },
      wish,
    ),
    countRows(database, { from: FROM, where }),
  ]);
  return { ...page, total };
}

/** A group's parcel of a period. */
export interface PeriodParcel {
  readonly id: string;
  readonly groupKey: string;
  readonly label: string;
  readonly run: string;
  readonly number: number;
  readonly at: Date;
  readonly message: MessageRow["state"] | null;
  readonly attachments: readonly string[];
}

/** What was let go, and is no rehearsal. */
const LET_GO = (run: string): string =>
  `${run}.released_at IS NOT NULL AND ${run}.rehearsal_to IS NULL AND ${run}.state IN ('delivering', 'done')`;

/** Of each group of a period the newest parcel that was let go, by the group's name. */
export async function pageOfPeriodParcels(
  database: Database,
  of: { readonly report: string; readonly period: string; readonly search: string | undefined },
  wish: PageWish,
): Promise<ListPage<PeriodParcel> & { readonly total: number }> {
  const from = "parcels JOIN runs ON runs.id = parcels.run_id";
  const where: Condition[] = [
    ["runs.report = ?", of.report],
    ["runs.period = ?", of.period],
    [`${LET_GO("runs")} AND parcels.state = ?`, "made"],
    [
      `NOT EXISTS (SELECT 1 FROM runs AS after JOIN parcels AS later ON later.run_id = after.id WHERE after.report = runs.report AND after.period = runs.period
         AND ${LET_GO("after")} AND later.state = ? AND later.group_key = parcels.group_key AND (after.created_at, later.id) > (runs.created_at, parcels.id))`,
      "made",
    ],
    [
      "parcels.label ILIKE ? OR EXISTS (SELECT 1 FROM files WHERE files.parcel_id = parcels.id AND files.path ILIKE ?)",
      containing(of.search),
    ],
  ];
  const [page, total] = await Promise.all([
    selectPage<PeriodParcel>(
      database,
      {
        select: `parcels.id::text, parcels.group_key AS "groupKey", parcels.label, parcels.run_id AS run, parcels.number, runs.released_at AS at, ${NEWEST_STATE} AS message, parcels.attachments`,
        from,
        where,
        order: [
          { sql: "parcels.label", type: "text" },
          { sql: "parcels.id", type: "bigint" },
        ],
        downwards: false,
      },
      wish,
    ),
    countRows(database, { from, where }),
  ]);
  return { ...page, total };
}

/** Rows that belong to parcels, by the parcel. */
export function byParcel<Row extends { readonly parcelId: string }>(rows: readonly Row[]): Map<string, Row[]> {
  return groupedBy(rows, (row) => row.parcelId);
}

/** A parcel whole but for its rows; `undefined` where the run has none of that number. */
export async function parcelOfRun(database: Database, run: string, number: number): Promise<ShownParcel | undefined> {
  return findRow(database.models.Parcel, { where: { runId: run, number }, besides: ["lines"] });
}

export type ListedFile = Pick<FileRow, "id" | "parcelId" | "path" | "kind" | "size" | "pages" | "sha256">;

/** The files of some parcels, in the order they were made. */
export function filesOfParcels(database: Database, parcels: readonly string[]): Promise<ListedFile[]> {
  return database.select<ListedFile>(
    'SELECT id::text, parcel_id::text AS "parcelId", path, kind, size, pages, sha256 FROM files WHERE parcel_id = ANY($1::bigint[]) ORDER BY id',
    [parcels],
  );
}

export type ListedMessage = Pick<
  MessageRow,
  | "id"
  | "parcelId"
  | "part"
  | "subject"
  | "envelope"
  | "messageId"
  | "identity"
  | "state"
  | "attempts"
  | "response"
  | "results"
  | "again"
  | "againReason"
  | "size"
  | "way"
  | "sentAt"
>;

/** The messages of some parcels, the oldest first. */
export function messagesOfParcels(database: Database, parcels: readonly string[]): Promise<ListedMessage[]> {
  return database.select<ListedMessage>(
    `SELECT id::text, parcel_id::text AS "parcelId", part, subject, envelope, message_id AS "messageId", identity, state, attempts, response, results, again,
       again_reason AS "againReason", size, way, sent_at AS "sentAt" FROM messages WHERE parcel_id = ANY($1::bigint[]) ORDER BY messages.id`,
    [parcels],
  );
}

/** Keys of the groups that a report has had in other runs. */
export async function groupsHad(database: Database, report: string, besides: string): Promise<Set<string>> {
  const found = await database.select<{ key: string }>(
    "SELECT DISTINCT parcels.group_key AS key FROM parcels JOIN runs ON runs.id = parcels.run_id WHERE runs.report = $1 AND runs.id <> $2",
    [report, besides],
  );
  return new Set(found.map((one) => one.key));
}

/** Keys of the groups of a report's last run that was no rehearsal and over all of them; empty where there is none. */
export async function groupsOfLastRun(database: Database, report: string): Promise<Set<string>> {
  const found = await database.select<{ key: string }>(
    `SELECT group_key AS key FROM parcels WHERE run_id = (SELECT id FROM runs WHERE report = $1 AND rehearsal_to IS NULL
       AND only_groups IS NULL AND only_rows IS NULL AND state NOT IN ('planning', 'failed') ORDER BY created_at DESC LIMIT 1)`,
    [report],
  );
  return new Set(found.map((one) => one.key));
}

/** The packed rows of a parcel; `undefined` where the run has none of that number. */
export async function linesOfParcelNumber(
  database: Database,
  run: string,
  number: number,
): Promise<Buffer | undefined> {
  const [found] = await database.select<{ lines: Buffer }>(
    "SELECT lines FROM parcels WHERE run_id = $1 AND number = $2",
    [run, number],
  );
  return found?.lines;
}

export async function fileById(database: Database, id: string): Promise<FileRow | undefined> {
  return findRow(database.models.File, { where: { id } });
}

/** Groups of a run by key and name, in order. */
export function groupsOfRun(
  database: Database,
  run: string,
): Promise<{ readonly key: string; readonly label: string }[]> {
  return database.select<{ key: string; label: string }>(
    "SELECT group_key AS key, label FROM parcels WHERE run_id = $1 ORDER BY number",
    [run],
  );
}

/** All parcels of a run without their rows, in order. */
export async function parcelsOfRun(database: Database, run: string): Promise<ShownParcel[]> {
  return findRows(database.models.Parcel, { where: { runId: run }, besides: ["lines"], order: [["number", "ASC"]] });
}

export async function parcelById(database: Database, id: string): Promise<ShownParcel | undefined> {
  return findRow(database.models.Parcel, { where: { id }, besides: ["lines"] });
}

/** A parcel with its rows. */
export async function wholeParcel(database: Database, id: string): Promise<ParcelRow | undefined> {
  return findRow(database.models.Parcel, { where: { id } });
}

/** Adds parcels; gives their ids in the same order. */
export async function addParcels(
  database: Database,
  parcels: readonly Partial<ParcelRow>[],
  transaction: Transaction,
): Promise<string[]> {
  const created = await database.models.Parcel.bulkCreate([...parcels], { transaction, returning: ["id"] });
  return created.map((parcel) => String(parcel.get("id")));
}

/** Lets the stored bytes that a run's parcels take along be known as theirs. */
export async function noteEnclosed(database: Database, run: string, transaction: Transaction): Promise<void> {
  await database.execute(
    "INSERT INTO parcel_blobs SELECT DISTINCT parcels.id, one->>'sha256' FROM parcels, json_array_elements(enclosed) AS one WHERE run_id = $1",
    [run],
    transaction,
  );
}

/** What was made for a parcel. */
export interface MadeRows {
  readonly id: string;
  readonly findings: ParcelRow["findings"];
  /** Each with the sections of what grows, by period. */
  readonly files: readonly {
    readonly row: Omit<Partial<FileRow>, "parcelId">;
    readonly sections: readonly { readonly period: string; readonly sha256: string }[];
  }[];
  readonly messages: readonly Omit<Partial<MessageRow>, "parcelId">[];
}

/** Keeps what was made for parcels, all of it or nothing; one that was made already stays as it is. */
export async function keepMade(
  database: Database,
  parcels: readonly MadeRows[],
  transaction: Transaction,
): Promise<void> {
  const told = parcels.map(({ id, findings }) => ({ id, findings }));
  const changed = await database.select<{ id: string }>(
    `UPDATE parcels SET state = 'made', findings = told.findings FROM json_to_recordset($1) AS told (id bigint, findings json)
     WHERE parcels.id = told.id AND state = 'planned' RETURNING parcels.id::text`,
    [JSON.stringify(told)],
    transaction,
  );
  const now = new Set(changed.map(({ id }) => id));
  const own = parcels.filter(({ id }) => now.has(id));
  const files = own.flatMap(({ id, files }) =>
    files.map(({ row, sections }) => ({ row: { ...row, parcelId: id }, sections })),
  );
  const created = await database.models.File.bulkCreate(
    files.map(({ row }) => row),
    { transaction, returning: ["id"] },
  );
  for (const [index, { sections }] of files.entries())
    for (const { period, sha256 } of sections)
      await database.execute(
        "INSERT INTO file_sections (file_id, period, sha256) VALUES ($1, $2, $3)",
        [String(created[index]?.get("id")), period, sha256],
        transaction,
      );
  const messages = own.flatMap(({ id, messages }) => messages.map((message) => ({ ...message, parcelId: id })));
  await database.models.Message.bulkCreate(messages, { transaction, returning: false });
}

export async function failParcel(
  database: Database,
  parcel: string,
  error: NonNullable<ParcelRow["error"]>,
  transaction: Transaction,
): Promise<void> {
  await database.models.Parcel.update(
    { state: "failed", error },
    { where: { id: parcel, state: "planned" }, transaction },
  );
}

/** The files of a run, in the order they were made. */
export async function filesOfRun(database: Database, run: string): Promise<FileRow[]> {
  return findRows(database.models.File, { where: { runId: run }, order: [["id", "ASC"]] });
}

/** The files of one parcel; without those whose bytes were deleted, if so asked. */
export async function filesOfParcel(database: Database, parcel: string, isThere = false): Promise<FileRow[]> {
  return findRows(database.models.File, {
    where: { parcelId: parcel, ...(isThere ? { removedAt: null } : {}) },
    order: [["id", "ASC"]],
  });
}

const WAS_SENT = `runs.rehearsal_to IS NULL AND runs.only_rows IS NULL
  AND (messages.state = 'sent' OR (messages.id IS NULL AND runs.state = 'done'))`;

/** That a file was delivered for a period before one. `$1` is the report, `$2` the period. */
const DELIVERED = `runs.report = $1 AND runs.period < $2 AND ${WAS_SENT}`;

const FILES_WITH_SECTIONS = `files JOIN runs ON runs.id = files.run_id LEFT JOIN messages ON messages.parcel_id = files.parcel_id
       LEFT JOIN file_sections ON file_sections.file_id = files.id`;

export interface DeliveredSection {
  readonly period: string;
  /** The whole file in which it was delivered. */
  readonly sha256: string;
  /** Records from before sections were kept have none. */
  readonly section: string | null;
}

/** What a group was delivered in a growing file of a kind for periods before one, the earliest first; of each period the newest. */
export function earlierSections(
  database: Database,
  of: {
    readonly report: string;
    readonly groupKey: string;
    readonly file: string;
    readonly kind: string;
    readonly before: string;
  },
): Promise<DeliveredSection[]> {
  return database.select<DeliveredSection>(
    `SELECT DISTINCT ON (coalesce(file_sections.period, runs.period)) coalesce(file_sections.period, runs.period) AS period, files.sha256, file_sections.sha256 AS section
       FROM ${FILES_WITH_SECTIONS}
      WHERE ${DELIVERED} AND files.group_key = $3 AND files.file = $4 AND files.kind = $5
      ORDER BY coalesce(file_sections.period, runs.period), runs.period = file_sections.period DESC, runs.period DESC, runs.finished_at DESC NULLS LAST, files.id DESC`,
    [of.report, of.before, of.groupKey, of.file, of.kind],
  );
}

/** By group the periods before one that a growing file of a kind was delivered with. */
export function heldPeriods(
  database: Database,
  of: { readonly report: string; readonly file: string; readonly kind: string; readonly before: string },
): Promise<{ readonly group: string; readonly periods: readonly string[] }[]> {
  return database.select<{ group: string; periods: string[] }>(
    `SELECT files.group_key AS "group", array_agg(DISTINCT coalesce(file_sections.period, runs.period)) AS periods
       FROM ${FILES_WITH_SECTIONS} WHERE ${DELIVERED} AND files.file = $3 AND files.kind = $4 GROUP BY files.group_key`,
    [of.report, of.before, of.file, of.kind],
  );
}

/** Groups that were delivered a period in a file for a later one, with the latest of those. */
export async function groupsMadeUpFor(
  database: Database,
  of: { readonly report: string; readonly period: string },
): Promise<ReadonlyMap<string, string>> {
  const found = await database.select<{ group: string; later: string }>(
    `SELECT files.group_key AS "group", max(runs.period) AS later FROM ${FILES_WITH_SECTIONS}
      WHERE runs.report = $1 AND runs.period > $2 AND file_sections.period = $2 AND ${WAS_SENT} GROUP BY files.group_key`,
    [of.report, of.period],
  );
  return new Map(found.map(({ group, later }) => [group, later]));
}
