/** Messages as the outbox shows them, with what became of them. */
import type { ReportedRecipient } from "@corbix/core/message";
import type { Database } from "./database.js";
import type { MessageRow, MessageState, ParcelRow, RunRow } from "./models.js";
import { containing, type Page, type PageWish, selectPage, somebodyLike, textLike } from "./page.js";
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
}

/** Messages that meet all that is asked, troubled ones first, then those on their way, then the newest. */
export function pageOfOutbox(database: Database, filter: OutboxFilter, wish: PageWish): Promise<Page<OutboxRow>> {
  return selectPage<OutboxRow>(
    database,
    {
      select: `messages.id::text, messages.run_id AS "runId", runs.report, runs.period, runs.rehearsal_to AS "rehearsalTo", parcels.label, parcels.number AS parcel,
        messages.subject, messages.envelope, messages.state, messages.attempts, messages.response, messages.results, messages.identity, messages.again,
        messages.again_reason AS "againReason", messages.part, messages.size, parcels.attachments, messages.sent_at AS "sentAt", messages.touched_at AS "touchedAt",
        messages.not_before AS "notBefore", messages.message_id AS "messageId"`,
      from: "messages JOIN runs ON runs.id = messages.run_id JOIN parcels ON parcels.id = messages.parcel_id",
      where: [
        [somebodyLike("messages.envelope"), containing(filter.person)],
        ["parcels.label ILIKE ?", containing(filter.group)],
        [textLike("parcels.attachments"), containing(filter.file)],
        ["runs.report = ?", filter.report],
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
