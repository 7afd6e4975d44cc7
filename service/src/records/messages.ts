/** Messages as the outbox shows them, with what became of them. */

import { fromStates, MESSAGE_MACHINE } from "@corbix/core/delivery";
import type { ReportedRecipient } from "@corbix/core/message";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { findRow, findRows, getRow } from "./database/find.js";
import { containing, type ListPage, type PageWish, selectPage, somebodyLike, textLike } from "./database/page.js";
import type { MessageRow, MessageState, ParcelRow, RunRow } from "./database/row-types.js";
import type { ListedMessage } from "./parcels.js";

export interface OutboxRow
  extends Omit<ListedMessage, "parcelId">,
    Pick<MessageRow, "runId" | "touchedAt" | "notBefore">,
    Pick<RunRow, "report" | "period" | "rehearsalTo">,
    Pick<ParcelRow, "label" | "attachments"> {
  readonly parcel: number;
}

export interface OutboxFilter {
  readonly person?: string | undefined;
  readonly group?: string | undefined;
  readonly file?: string | undefined;
  readonly report?: string | undefined;
  readonly period?: string | undefined;
  readonly run?: string | undefined;
  readonly state?: MessageState | undefined;
  readonly from?: string | undefined;
  readonly until?: string | undefined;
  /** Only of these reports. */
  readonly among?: readonly string[] | undefined;
}

/** Messages that meet all that is asked, troubled ones first, then those on their way, then the newest. */
export function pageOfOutbox(database: Database, filter: OutboxFilter, wish: PageWish): Promise<ListPage<OutboxRow>> {
  return selectPage<OutboxRow>(
    database,
    {
      select: `messages.id::text, messages.run_id AS "runId", runs.report, runs.period, runs.rehearsal_to AS "rehearsalTo", parcels.label, parcels.number AS parcel,
        messages.subject, messages.envelope, messages.state, messages.attempts, messages.response, messages.results, messages.identity, messages.again,
        messages.again_reason AS "againReason", messages.part, messages.size, messages.way, parcels.attachments, messages.sent_at AS "sentAt", messages.touched_at AS "touchedAt",
        messages.not_before AS "notBefore", messages.message_id AS "messageId"`,
      from: "messages JOIN runs ON runs.id = messages.run_id JOIN parcels ON parcels.id = messages.parcel_id",
      where: [
        [somebodyLike("messages.envelope"), containing(filter.person)],
        ["parcels.label ILIKE ?", containing(filter.group)],
        [
          `${textLike("parcels.attachments")} OR messages.way IS NOT NULL AND messages.text ILIKE ?`,
          containing(filter.file),
        ],
        ["runs.report = ?", filter.report],
        ["runs.report = ANY(?)", filter.among],
        ["runs.period = ?", filter.period],
        ["runs.id = ?", filter.run],
        filter.state === undefined ? ["messages.state <> ?", "held"] : ["messages.state = ?", filter.state],
        ["messages.touched_at >= ?::date", filter.from],
        ["messages.touched_at < ?::date + 1", filter.until],
      ],
      order: [
        { sql: "(messages.state IN ('unsure', 'refused', 'returned'))", type: "boolean" },
        { sql: "(messages.state IN ('queued', 'sending'))", type: "boolean" },
        { sql: "messages.touched_at", type: "timestamptz" },
        { sql: "messages.id", type: "bigint" },
      ],
      downwards: true,
    },
    wish,
  );
}

export interface AttemptRow {
  readonly messageId: string;
  readonly number: number;
  readonly worker: string | null;
  readonly startedAt: Date;
  readonly finishedAt: Date | null;
  readonly outcome: "sent" | "later" | "refused" | "unsure" | null;
  readonly stage: string | null;
  readonly response: string | null;
}

/** Every try to send some messages, in the order they were made. */
export function attemptsOf(database: Database, messages: readonly string[]): Promise<AttemptRow[]> {
  return database.select<AttemptRow>(
    `SELECT message_id::text AS "messageId", number, worker, started_at AS "startedAt", finished_at AS "finishedAt", outcome, stage, response
     FROM attempts WHERE message_id = ANY($1::bigint[]) ORDER BY id`,
    [messages],
  );
}

export interface ReportRow {
  readonly id: string;
  readonly at: Date;
  readonly facts: { readonly recipients?: readonly ReportedRecipient[] };
}

/** Reports of delivery that came back about a message. */
export function reportsAbout(database: Database, message: string): Promise<ReportRow[]> {
  return database.select<ReportRow>(
    "SELECT id::text, at, facts FROM delivery_reports WHERE message_id = $1 ORDER BY delivery_reports.id",
    [message],
  );
}

/** Files that were fetched by the links of a message. */
export function downloadsOf(database: Database, message: string): Promise<{ at: Date; path: string }[]> {
  return database.select<{ at: Date; path: string }>(
    "SELECT downloads.at, files.path FROM downloads JOIN files ON files.id = downloads.file_id WHERE downloads.message_id = $1 ORDER BY downloads.id",
    [message],
  );
}

/** What a message says. */
export async function textsOfMessage(
  database: Database,
  id: string,
): Promise<{ readonly html: string; readonly text: string } | undefined> {
  const [found] = await database.select<{ html: string; text: string }>(
    "SELECT html, text FROM messages WHERE id = $1",
    [id],
  );
  return found;
}

/** Messages that could not begin say why, and when they are looked at again; they are queued as before. */
export async function setNotBegun(
  database: Database,
  id: string,
  why: string | null,
  notBefore: Date | null,
): Promise<void> {
  await database.execute(
    "UPDATE messages SET response = $2, not_before = $3, touched_at = now() WHERE id = $1 AND state = 'queued'",
    [id, why, notBefore],
  );
}

/** A message is passed over, where it may still be. */
export async function skipMessage(database: Database, id: string, why: string): Promise<void> {
  await database.execute(
    "UPDATE messages SET state = 'skipped', response = $2, touched_at = now() WHERE id = $1 AND state = ANY($3)",
    [id, why, fromStates(MESSAGE_MACHINE, "pass-over")],
  );
}

/** Leaves a run's messages out that have not gone yet: all, those of some groups, or those of all groups but some. Gives how many. */
export function leaveOut(
  database: Database,
  run: string,
  why: string,
  which: { readonly only?: readonly string[]; readonly besides?: readonly string[] } = {},
  transaction?: Transaction,
): Promise<number> {
  return database.execute(
    `UPDATE messages SET state = 'skipped', response = $2, touched_at = now() WHERE run_id = $1 AND state = ANY($3)
       AND ($4::text[] IS NULL OR group_key = ANY($4)) AND ($5::text[] IS NULL OR NOT (group_key = ANY($5)))`,
    [run, why, fromStates(MESSAGE_MACHINE, "leave-out"), which.only ?? null, which.besides ?? null],
    transaction,
  );
}

/** SQL: SHA-256 of a text. */
const digested = (sql: string): string => `encode(sha256(convert_to(${sql}, 'UTF8')), 'hex')`;

/**
 * A digest of what a run would send: each held message with its people and words, and each file by its digest, in order. Of digests
 * that can be met by two texts an approval would be worth nothing.
 */
export async function heldDigest(database: Database, run: string, transaction?: Transaction): Promise<string> {
  const each = digested(
    `json_build_array(messages.id, part, identity, subject, ${digested("html")}, ${digested("text")}, envelope::text, way, carried::text, enclosed::text,
       (SELECT json_agg(json_build_array(path, sha256) ORDER BY files.id) FROM files WHERE files.parcel_id = messages.parcel_id))::text`,
  );
  const { digest } = await database.one<{ digest: string }>(
    `SELECT ${digested(`coalesce(string_agg(${each}, '' ORDER BY messages.id), '')`)} AS digest
     FROM messages JOIN parcels ON parcels.id = messages.parcel_id WHERE messages.run_id = $1 AND messages.state = 'held'`,
    [run],
    transaction,
  );
  return digest;
}

/** Queues what runs hold. */
export async function queueHeld(database: Database, runs: readonly string[], transaction: Transaction): Promise<void> {
  await database.execute(
    "UPDATE messages SET state = 'queued', released_at = now(), touched_at = now() WHERE run_id = ANY($1) AND state = ANY($2)",
    [runs, fromStates(MESSAGE_MACHINE, "release")],
    transaction,
  );
}

/** That the same files can be put twice without harm: all ways out but those that are posted to. */
const REPEATABLE = `way IS NOT NULL AND NOT EXISTS (SELECT 1 FROM identities WHERE name = messages.identity AND settings->>'method' = 'POST')
  AND EXISTS (SELECT 1 FROM runs WHERE runs.id = messages.run_id AND runs.state = 'delivering')`;

/**
 * Messages that ended processes had begun: nobody can know whether they went out. Files on their way to where the same ones can be put
 * twice wait again. Gives the run of each.
 */
export async function loseBegun(database: Database, why: string): Promise<string[]> {
  const unsure = await database.select<{ run: string }>(
    `WITH unsure AS (
       UPDATE messages SET state = CASE WHEN ${REPEATABLE} THEN 'queued' ELSE 'unsure' END, response = $1, touched_at = now()
       WHERE state = ANY($2) AND worker IN (SELECT id FROM workers WHERE ended_at IS NOT NULL) RETURNING id, run_id, attempts),
     told AS (UPDATE attempts SET outcome = 'unsure', response = $1 FROM unsure WHERE attempts.message_id = unsure.id AND attempts.number = unsure.attempts AND attempts.finished_at IS NULL)
     SELECT run_id AS run FROM unsure`,
    [why, fromStates(MESSAGE_MACHINE, "lose")],
  );
  return unsure.map((one) => one.run);
}

export async function maybeMessage(database: Database, id: string): Promise<MessageRow | undefined> {
  return findRow(database.models.Message, { where: { id } });
}

/** A message without its bytes, locked. */
export async function lockMessage(
  database: Database,
  id: string,
  transaction: Transaction,
): Promise<Omit<MessageRow, "mime">> {
  return getRow(database.models.Message, {
    where: { id },
    besides: ["mime"],
    lock: transaction.LOCK.UPDATE,
    transaction,
  });
}

export async function runOfMessage(
  database: Database,
  id: string,
  transaction: Transaction,
): Promise<string | undefined> {
  const [owner] = await database.select<{ run: string }>(
    "SELECT run_id AS run FROM messages WHERE id = $1",
    [id],
    transaction,
  );
  return owner?.run;
}

/** A person's word that a message arrived. */
export async function setArrived(
  database: Database,
  id: string,
  words: string,
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "UPDATE messages SET state = 'sent', touched_at = now(), sent_at = coalesce(sent_at, now()), response = $2 WHERE id = $1",
    [id, words],
    transaction,
  );
}

/** Puts a message back among those that wait. What is not given stays. */
export async function requeueMessage(
  database: Database,
  id: string,
  next: {
    readonly words: string;
    readonly results: MessageRow["results"];
    readonly reason: string | null;
    readonly messageId: string | null;
    /** Where addresses were corrected. */
    readonly envelope: MessageRow["envelope"] | null;
  },
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    `UPDATE messages SET envelope = coalesce($6::json, envelope), state = 'queued', released_at = coalesce(released_at, now()), touched_at = now(), response = $2, not_before = NULL, dated_at = NULL, results = $3,
       again_reason = coalesce($4, again_reason), message_id = coalesce($5, message_id) WHERE id = $1`,
    [
      id,
      next.words,
      JSON.stringify(next.results),
      next.reason,
      next.messageId,
      next.envelope && JSON.stringify(next.envelope),
    ],
    transaction,
  );
}

/** Another message of the same parcel and part that has not come to an end. */
export async function openSibling(
  database: Database,
  { id, parcelId, part }: Pick<MessageRow, "id" | "parcelId" | "part">,
  transaction: Transaction,
): Promise<Pick<MessageRow, "id" | "state"> | undefined> {
  const [found] = await database.select<Pick<MessageRow, "id" | "state">>(
    "SELECT id::text, state FROM messages WHERE parcel_id = $1 AND part = $2 AND id <> $3 AND state IN ('held', 'queued', 'sending', 'unsure') LIMIT 1",
    [parcelId, part, id],
    transaction,
  );
  return found;
}

/** Number of the next message for a parcel and part. */
export async function nextAgain(
  database: Database,
  { parcelId, part }: Pick<MessageRow, "parcelId" | "part">,
  transaction: Transaction,
): Promise<number> {
  const { next } = await database.one<{ next: number }>(
    "SELECT coalesce(max(again), 0) + 1 AS next FROM messages WHERE parcel_id = $1 AND part = $2",
    [parcelId, part],
    transaction,
  );
  return next;
}

/** Adds a message that goes at once; gives its number. */
export async function addQueued(
  database: Database,
  message: Partial<MessageRow>,
  transaction: Transaction,
): Promise<string> {
  const created = await database.models.Message.create({ ...message, state: "held" }, { transaction });
  const id = String(created.get("id"));
  await database.execute(
    "UPDATE messages SET state = 'queued', released_at = now(), touched_at = now() WHERE id = $1",
    [id],
    transaction,
  );
  return id;
}

/** The message that a report of delivery is about, locked: of several of one delivery the one that went. */
export async function lockReported(
  database: Database,
  messageId: string,
  transaction: Transaction,
): Promise<MessageRow | undefined> {
  return findRow(database.models.Message, {
    where: { messageId },
    order: [
      ["sentAt", "DESC NULLS LAST"],
      ["id", "DESC"],
    ],
    lock: transaction.LOCK.UPDATE,
    transaction,
  });
}

/** Keeps a report of delivery; false where the same one is there already. */
export async function addDeliveryReport(
  database: Database,
  report: {
    readonly sha256: string;
    readonly message: string | null;
    readonly messageId: string | null;
    readonly facts: object;
    readonly raw: Buffer;
  },
  transaction: Transaction,
): Promise<boolean> {
  const kept = await database.select(
    "INSERT INTO delivery_reports (sha256, message_id, original_message_id, facts, raw) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING RETURNING id",
    [report.sha256, report.message, report.messageId, JSON.stringify(report.facts), report.raw],
    transaction,
  );
  return kept.length > 0;
}

export async function setReported(
  database: Database,
  id: string,
  told: Pick<MessageRow, "state" | "results" | "response">,
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "UPDATE messages SET state = $2, results = $3, response = $4, touched_at = now() WHERE id = $1",
    [id, told.state, JSON.stringify(told.results), told.response],
    transaction,
  );
}

export async function addDownload(database: Database, message: string, file: string): Promise<void> {
  await database.execute("INSERT INTO downloads (message_id, file_id) VALUES ($1, $2)", [message, file]);
}

/** What of a run's messages its proof needs. */
export async function provedMessages(
  database: Database,
  run: string,
): Promise<Pick<MessageRow, "parcelId" | "envelope" | "html" | "text">[]> {
  const only = ["parcelId", "envelope", "html", "text"] as const;
  return findRows(database.models.Message, { where: { runId: run, way: null }, only: [...only] });
}
