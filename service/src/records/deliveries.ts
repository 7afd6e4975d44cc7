/**
 * The ledger and what goes by it: which messages may go, the moment from which one may have gone out, and what became of it. The
 * statements are asked for every few messages, so each connection plans them once.
 */
import { fromStates, MESSAGE_MACHINE } from "@corbix/core/delivery";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { listed } from "./database/guards.js";
import type { AddressResult, FileRow, MessageRow, MessageState, ParcelRow, RunRow } from "./database/row-types.js";

/** A pause is never longer than this; what lies further ahead was written by a clock that has been set back since. */
export const LONGEST_PAUSE_SECONDS = 1_800;

/** A message without the bytes that were sent before. */
export type BareMessage = Omit<MessageRow, "mime">;
/** What of its parcel a message is made of. */
export type MessageParcel = Pick<
  ParcelRow,
  "id" | "runId" | "groupKey" | "label" | "rowsDigest" | "attachments" | "enclosed"
>;
/** What of a made file its message needs. */
export type MessageFile = Pick<
  FileRow,
  "runId" | "parcelId" | "kind" | "path" | "sha256" | "groupKey" | "rowsDigest" | "provenance"
>;

/** What of the ledger a query brings along with each message. */
export interface HadRow {
  readonly by_others: readonly string[] | null;
  readonly by_part: readonly string[] | null;
  readonly complete: boolean | null;
  readonly has_rows: boolean;
  readonly last_run: string | null;
  readonly last_at: Date | null;
}

export const HAD_COLUMNS = `had.by_others, had.by_part, had.complete, had.last_run, had.last_at,
       parcels.row_keys IS NOT NULL AND runs.rehearsal_to IS NULL AND EXISTS (SELECT 1 FROM delivered_rows AS gone WHERE gone.report = runs.report AND gone.row_key = ANY(parcels.row_keys)
         AND gone.group_key = parcels.group_key AND gone.parcel_id IS DISTINCT FROM parcels.id) AS has_rows`;

/** Joined to messages, runs and parcels. What went by a way out counts for that way alone, and for no mail. */
export const HAD_JOIN = `LEFT JOIN LATERAL (
       SELECT array_agg(address) FILTER (WHERE ledger.run_id <> runs.id) AS by_others, array_agg(address) FILTER (WHERE ledger.part = messages.part) AS by_part,
         bool_or(ledger.part = messages.part AND ledger.complete) AS complete,
         (array_agg(ledger.run_id ORDER BY ledger.written_at DESC))[1] AS last_run, max(ledger.written_at) AS last_at
       FROM ledger LEFT JOIN LATERAL unnest(ledger.addresses) AS address ON true
       WHERE runs.rehearsal_to IS NULL AND ledger.report = runs.report AND ledger.occasion = runs.occasion AND ledger.group_key = messages.group_key AND ledger.message_id IS DISTINCT FROM messages.id
         AND CASE WHEN messages.way IS NULL THEN ledger.part NOT LIKE 'way %' ELSE ledger.part = messages.part END) AS had ON true`;

export interface WaitingRow extends HadRow, BareMessage {
  readonly shared: string;
  readonly parcel: MessageParcel;
  readonly files: readonly MessageFile[];
}

/** Columns under the names that the records' models give them. */
const columns = (table: string, names: readonly string[]): string =>
  names.map((name) => `${table}.${snake(name)} AS "${name}"`).join(", ");
const object = (table: string, names: readonly string[]): string =>
  `json_build_object(${names.map((name) => `'${name}', ${table}.${snake(name)}${/^id$|Id$/.test(name) ? "::text" : ""}`).join(", ")})`;
const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

const MESSAGE_FIELDS = Object.keys({
  id: true,
  runId: true,
  parcelId: true,
  groupKey: true,
  part: true,
  again: true,
  againReason: true,
  identity: true,
  way: true,
  carried: true,
  language: true,
  subject: true,
  html: true,
  text: true,
  envelope: true,
  messageId: true,
  state: true,
  releasedAt: true,
  attempts: true,
  response: true,
  results: true,
  notBefore: true,
  datedAt: true,
  packed: true,
  sha256: true,
  size: true,
  findings: true,
  worker: true,
  sentAt: true,
  touchedAt: true,
} satisfies Record<keyof BareMessage, true>);
const PARCEL_FIELDS = Object.keys({
  id: true,
  runId: true,
  groupKey: true,
  label: true,
  rowsDigest: true,
  attachments: true,
  enclosed: true,
} satisfies Record<keyof MessageParcel, true>);
const FILE_FIELDS = Object.keys({
  runId: true,
  parcelId: true,
  kind: true,
  path: true,
  sha256: true,
  groupKey: true,
  rowsDigest: true,
  provenance: true,
} satisfies Record<keyof MessageFile, true>);

/** One statement, asked for every few messages: it reads them with all they are made of. */
const WAITING = `SELECT ${columns("messages", MESSAGE_FIELDS)}, runs.report || ' ' || messages.group_key AS shared, ${HAD_COLUMNS},
       ${object("parcels", PARCEL_FIELDS)} AS parcel,
       (SELECT coalesce(json_agg(${object("files", FILE_FIELDS)}), '[]') FROM files WHERE files.parcel_id = messages.parcel_id) AS files
     FROM messages JOIN runs ON runs.id = messages.run_id JOIN parcels ON parcels.id = messages.parcel_id ${HAD_JOIN}
     WHERE messages.state = 'queued' AND messages.identity = $1 AND messages.released_at IS NOT NULL
       AND (messages.not_before IS NULL OR messages.not_before <= $3 OR messages.not_before > $3::timestamptz + interval '${LONGEST_PAUSE_SECONDS + 60} seconds')
       AND runs.state = 'delivering' AND NOT runs.paused AND runs.released_at IS NOT NULL AND NOT (messages.id = ANY($4::bigint[]))
       AND NOT EXISTS (SELECT 1 FROM halts WHERE ended_at IS NULL)
     ORDER BY messages.id LIMIT $2`;

/** Up to so many of an identity's messages that may go, the oldest first. */
export function waitingRows(
  database: Database,
  identity: string,
  { count, now, besides }: { readonly count: number; readonly now: Date; readonly besides: readonly string[] },
): Promise<WaitingRow[]> {
  return database.prepared<WaitingRow>("waiting messages", WAITING, [identity, count, now, besides]);
}

/** A beginning that nobody has heard of for so long will not be heard of any more. */
const FORGOTTEN_SECONDS = 30;

/** Messages that a process has as begun, besides those it is at. */
export function forgottenRows(
  database: Database,
  identity: string,
  process: string,
  atThem: readonly string[],
): Promise<BareMessage[]> {
  return database.prepared<BareMessage>(
    "forgotten messages",
    `SELECT ${columns("messages", MESSAGE_FIELDS)} FROM messages WHERE state = 'sending' AND identity = $1 AND worker = $2
       AND NOT (id = ANY($3::bigint[])) AND touched_at < now() - interval '${FORGOTTEN_SECONDS} seconds'`,
    [identity, process, atThem],
  );
}

/** A message that is about to begin, with folded addresses. */
export interface AskedMessage {
  readonly id: string;
  readonly addresses: readonly string[];
  readonly people: readonly string[];
  readonly isAgain: boolean;
  readonly datedAt: Date;
}

const BEGIN = `WITH asked AS (
     SELECT id, "isAgain", "datedAt", ARRAY(SELECT json_array_elements_text(addresses)) AS addresses, ARRAY(SELECT json_array_elements_text(people)) AS people
     FROM json_to_recordset($1) AS one (id bigint, addresses json, people json, "isAgain" boolean, "datedAt" timestamptz)),
   ready AS (
     SELECT messages.id, messages.group_key, messages.part, messages.parcel_id, messages.message_id AS mail_id, runs.id AS run_id, runs.report, runs.occasion,
       runs.rehearsal_to IS NULL AS counts, parcels.label, parcels.row_keys, asked.addresses, asked."datedAt" AS dated_at
     FROM asked JOIN messages ON messages.id = asked.id JOIN runs ON runs.id = messages.run_id JOIN parcels ON parcels.id = messages.parcel_id
     WHERE messages.state IN (${listed(fromStates(MESSAGE_MACHINE, "begin"))}) AND messages.identity = $2 AND messages.released_at IS NOT NULL
       AND runs.state = 'delivering' AND NOT runs.paused AND runs.released_at IS NOT NULL
       AND NOT EXISTS (SELECT 1 FROM halts WHERE ended_at IS NULL)
       AND EXISTS (SELECT 1 FROM identities WHERE name = $2 AND holder = $3 AND held_until > now() AND NOT paused)
       AND NOT EXISTS (SELECT 1 FROM workers WHERE id = $3 AND ended_at IS NOT NULL)
       AND (runs.rehearsal_to IS NOT NULL OR asked."isAgain" OR (
         NOT EXISTS (SELECT 1 FROM ledger WHERE ledger.report = runs.report AND ledger.occasion = runs.occasion AND ledger.group_key = messages.group_key AND ledger.message_id IS DISTINCT FROM messages.id
           AND (ledger.part = messages.part AND (ledger.complete OR ledger.addresses && asked.addresses) OR ledger.run_id <> runs.id AND messages.way IS NULL AND ledger.addresses && asked.people))
         AND (parcels.row_keys IS NULL OR NOT EXISTS (SELECT 1 FROM delivered_rows AS gone WHERE gone.report = runs.report AND gone.row_key = ANY(parcels.row_keys)
           AND gone.group_key = messages.group_key AND gone.parcel_id IS DISTINCT FROM messages.parcel_id))))
     FOR UPDATE OF messages),
   more AS (
     UPDATE ledger SET addresses = ARRAY(SELECT DISTINCT unnest(ledger.addresses || ready.addresses)), complete = true FROM ready WHERE ready.counts AND ledger.message_id = ready.id RETURNING ledger.message_id),
   written AS (
     INSERT INTO ledger (report, occasion, group_key, part, attempt, run_id, message_id, addresses, complete)
     SELECT report, occasion, group_key, part, 1 + coalesce((SELECT max(attempt) FROM ledger WHERE ledger.report = ready.report AND ledger.occasion = ready.occasion
       AND ledger.group_key = ready.group_key AND ledger.part = ready.part), 0), run_id, id, addresses, true
     FROM ready WHERE counts AND id NOT IN (SELECT message_id FROM ledger WHERE message_id IN (SELECT id FROM ready)) ON CONFLICT DO NOTHING RETURNING message_id),
   taken AS (
     UPDATE messages SET state = 'sending', attempts = messages.attempts + 1, worker = $3, touched_at = now(), dated_at = coalesce(messages.dated_at, ready.dated_at)
     FROM ready WHERE messages.id = ready.id AND (NOT ready.counts OR messages.id IN (SELECT message_id FROM written UNION ALL SELECT message_id FROM more)) RETURNING messages.id, messages.attempts),
   rows_out AS (
     INSERT INTO delivered_rows (report, row_key, group_key, parcel_id, message_id)
     SELECT DISTINCT report, unnest(row_keys), group_key, parcel_id, id FROM ready WHERE counts AND row_keys IS NOT NULL AND id IN (SELECT id FROM taken) ON CONFLICT DO NOTHING),
   noted AS (INSERT INTO attempts (message_id, number, worker, identity, started_at) SELECT id, attempts, $3, $2, $4 FROM taken)
   SELECT taken.id::text, taken.attempts, ready.run_id AS run, ready.mail_id AS message, ready.report, ready.occasion, ready.group_key AS "group", ready.label, ready.part, ready.counts,
     ready.row_keys AS rows FROM taken JOIN ready ON ready.id = taken.id`;

/** A message that has begun, as the journal tells it. */
export interface BegunMessage {
  readonly id: string;
  readonly attempts: number;
  readonly run: string;
  /** Its Message-ID. */
  readonly message: string;
  readonly report: string;
  readonly occasion: string;
  readonly group: string;
  readonly label: string;
  readonly part: string;
  readonly counts: boolean;
  readonly rows: readonly string[] | null;
}

/** Begins messages in one statement: together or not at all for each. Gives those that have begun, with the number of the attempt. */
export function beginAsked(
  database: Database,
  asked: readonly AskedMessage[],
  by: { readonly identity: string; readonly process: string; readonly now: Date },
): Promise<BegunMessage[]> {
  return database.prepared<BegunMessage>("begin messages", BEGIN, [
    JSON.stringify(asked),
    by.identity,
    by.process,
    by.now,
  ]);
}

export interface Verdict {
  readonly id: string;
  readonly number: number;
  readonly state: MessageState;
  readonly response: string;
  readonly results: string;
  readonly not_before: string | null;
  readonly sent_at: string | null;
  readonly mime: string | null;
  readonly packed: string | null;
  readonly sha256: string | null;
  readonly size: number | null;
  /** Folded addresses that the ledger keeps: those taken, or that may have been. */
  readonly addresses: readonly string[];
  /** Whether nobody is left who was refused or not reached. */
  readonly complete: boolean;
  readonly outcome: string;
  readonly stage: string;
}

const SETTLE = `WITH told AS (
     SELECT * FROM json_to_recordset($1) AS one (id bigint, number int, state text, response text, results text, not_before timestamptz,
       sent_at timestamptz, mime text, packed text, sha256 text, size int, addresses json, complete boolean, outcome text, stage text)),
   theirs AS (
     SELECT id, state FROM runs WHERE id IN (SELECT run_id FROM messages WHERE id IN (SELECT id FROM told WHERE state = 'queued')) ORDER BY id FOR SHARE),
   changed AS (
     UPDATE messages SET state = CASE WHEN told.state <> 'queued' OR (SELECT state FROM theirs WHERE theirs.id = messages.run_id) = 'delivering' THEN told.state
         WHEN json_array_length(told.addresses) > 0 THEN 'sent' ELSE 'skipped' END,
       response = told.response, results = told.results::json, not_before = told.not_before,
       sent_at = coalesce(messages.sent_at, told.sent_at), mime = coalesce(decode(told.mime, 'base64'), messages.mime), packed = coalesce(told.packed, messages.packed),
       sha256 = coalesce(told.sha256, messages.sha256), size = coalesce(told.size, messages.size), touched_at = now()
     FROM told WHERE messages.id = told.id AND messages.attempts = told.number AND messages.state IN (${listed(fromStates(MESSAGE_MACHINE, "take"))}) AND messages.worker = $2 RETURNING messages.id),
   reached AS (
     UPDATE ledger SET addresses = ARRAY(SELECT json_array_elements_text(told.addresses)), complete = told.complete FROM told
     WHERE ledger.message_id = told.id AND told.id IN (SELECT id FROM changed) AND told.state <> 'unsure' AND json_array_length(told.addresses) > 0),
   due AS (SELECT id FROM told WHERE id IN (SELECT id FROM changed) AND state <> 'unsure' AND json_array_length(addresses) = 0),
   undone AS (DELETE FROM ledger WHERE message_id IN (SELECT id FROM due)),
   rows_due AS (DELETE FROM delivered_rows WHERE message_id IN (SELECT id FROM due))
   UPDATE attempts SET finished_at = $3, outcome = told.outcome, response = told.response, stage = told.stage
   FROM told WHERE attempts.message_id = told.id AND attempts.number = told.number AND attempts.worker = $2`;

/** Writes down what became of messages: state, attempt and ledger together. Only the process that began them writes. */
export async function settleVerdicts(
  database: Database,
  verdicts: readonly Verdict[],
  process: string,
  now: Date,
): Promise<void> {
  await database.prepared("settle messages", SETTLE, [JSON.stringify(verdicts), process, now]);
}

/** A parcel with what its release would do, one row for each of its messages that may still go. */
export interface OutlookRow extends HadRow {
  readonly label: string;
  readonly parcel_id: string;
  readonly left_out: string | null;
  readonly message_id: string | null;
  readonly envelope: MessageRow["envelope"] | null;
  readonly results: Readonly<Record<string, AddressResult>> | null;
  readonly again_reason: string | null;
}

/** Whether nothing of a parcel's group is known of before, in the ledger, by its rows or by an attempt: all of it goes as a first time. */
const IS_FIRST = `parcels.row_keys IS NULL AND NOT EXISTS (SELECT 1 FROM ledger WHERE ledger.report = runs.report AND ledger.occasion = runs.occasion AND ledger.group_key = parcels.group_key)
  AND NOT EXISTS (SELECT 1 FROM messages AS tried WHERE tried.parcel_id = parcels.id AND (tried.results::text <> '{}' OR tried.again_reason IS NOT NULL))`;

/** How many groups of a run go as a first time with how many messages, and how many have none. */
export function firstOutlook(
  database: Database,
  run: string,
): Promise<{ readonly going: number; readonly messages: number; readonly none: number }> {
  return database.one<{ going: number; messages: number; none: number }>(
    `SELECT (count(*) FILTER (WHERE due > 0))::int AS going, coalesce(sum(due), 0)::int AS messages, (count(*) FILTER (WHERE due = 0))::int AS none FROM (
       SELECT count(messages.id) AS due FROM parcels JOIN runs ON runs.id = parcels.run_id
         LEFT JOIN messages ON messages.parcel_id = parcels.id AND messages.way IS NULL AND messages.state IN ('held', 'queued')
       WHERE parcels.run_id = $1 AND ${IS_FIRST} GROUP BY parcels.id) AS first`,
    [run],
  );
}

/** Messages of the groups of which something is known of before. */
export function outlookRows(database: Database, run: string): Promise<OutlookRow[]> {
  return database.select<OutlookRow>(
    `SELECT parcels.label, parcels.id::text AS parcel_id, parcels.left_out, messages.id::text AS message_id, messages.envelope, messages.results, messages.again_reason, ${HAD_COLUMNS}
     FROM parcels JOIN runs ON runs.id = parcels.run_id LEFT JOIN messages ON messages.parcel_id = parcels.id AND messages.way IS NULL AND messages.state IN ('held', 'queued')
     ${HAD_JOIN} WHERE parcels.run_id = $1 AND NOT (${IS_FIRST}) ORDER BY parcels.number, messages.id`,
    [run],
  );
}

/** A delivery as the ledger keeps it. */
export interface LedgerEntry {
  readonly groupKey: string;
  readonly part: string;
  /** Folded. */
  readonly addresses: readonly string[];
  readonly complete: boolean;
  readonly run: string;
  readonly at: Date;
}

/** What was delivered for an occasion, the newest first. */
export function ledgerOf(database: Database, report: string, occasion: string): Promise<LedgerEntry[]> {
  return database.select<LedgerEntry>(
    `SELECT group_key AS "groupKey", part, addresses, complete, run_id AS run, written_at AS at FROM ledger WHERE report = $1 AND occasion = $2 ORDER BY written_at DESC`,
    [report, occasion],
  );
}

/** Whether another message has been delivered for an occasion, group and part. */
export async function wasDelivered(
  database: Database,
  one: {
    readonly report: string;
    readonly occasion: string;
    readonly groupKey: string;
    readonly part: string;
    readonly besides: string;
  },
  transaction?: Transaction,
): Promise<boolean> {
  const found = await database.select(
    "SELECT 1 FROM ledger WHERE report = $1 AND occasion = $2 AND group_key = $3 AND part = $4 AND message_id IS DISTINCT FROM $5 LIMIT 1",
    [one.report, one.occasion, one.groupKey, one.part, one.besides],
    transaction,
  );
  return found.length > 0;
}

/** Keeps in the ledger who was reached by a message: where that is nobody, the delivery is due again. */
export async function keepReached(
  database: Database,
  message: string,
  addresses: readonly string[],
  transaction: Transaction,
): Promise<void> {
  if (addresses.length > 0) {
    await database.execute(
      "UPDATE ledger SET addresses = $2, complete = false WHERE message_id = $1",
      [message, addresses],
      transaction,
    );
    return;
  }
  await database.execute("DELETE FROM ledger WHERE message_id = $1", [message], transaction);
  await database.execute("DELETE FROM delivered_rows WHERE message_id = $1", [message], transaction);
}

/** Takes folded addresses out of what a message has reached: for them the delivery is due again. */
export async function takeBackReached(
  database: Database,
  message: string,
  addresses: readonly string[],
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "UPDATE ledger SET addresses = ARRAY(SELECT unnest(addresses) EXCEPT SELECT unnest($2::text[])), complete = false WHERE message_id = $1",
    [message, addresses],
    transaction,
  );
  await database.execute("DELETE FROM ledger WHERE message_id = $1 AND addresses = '{}'", [message], transaction);
  await database.execute(
    "DELETE FROM delivered_rows WHERE message_id = $1 AND NOT EXISTS (SELECT 1 FROM ledger WHERE ledger.message_id = $1)",
    [message],
    transaction,
  );
}

/** Groups that a report has delivered in other runs; only of some groups where they are named. */
export async function deliveredGroups(
  database: Database,
  report: string,
  besides: readonly string[],
  among: readonly string[] | null = null,
): Promise<Set<string>> {
  const found = await database.select<{ key: string }>(
    "SELECT DISTINCT group_key AS key FROM ledger WHERE report = $1 AND NOT (run_id = ANY($2)) AND ($3::text[] IS NULL OR group_key = ANY($3))",
    [report, besides, among],
  );
  return new Set(found.map((row) => row.key));
}

/** Rows of a report that have gone out, by group and key, with the day in a zone. */
export function deliveredRows(
  database: Database,
  report: string,
  zone: string,
): Promise<{ readonly groupKey: string; readonly rowKey: string; readonly day: string }[]> {
  return database.select<{ groupKey: string; rowKey: string; day: string }>(
    `SELECT group_key AS "groupKey", row_key AS "rowKey", to_char(max(at) AT TIME ZONE $2, 'YYYY-MM-DD') AS day FROM delivered_rows WHERE report = $1 GROUP BY group_key, row_key`,
    [report, zone],
  );
}

/** A parcel that was delivered, with its packed rows and the day. */
export interface DeliveredParcel {
  readonly id: string;
  readonly groupKey: string;
  readonly lines: Buffer;
  readonly columns: NonNullable<RunRow["columns"]>;
  readonly day: string;
}

/** Parcels of a report's period that were delivered and still have their rows, so many behind one of them. */
export function deliveredParcels(
  database: Database,
  of: { readonly report: string; readonly period: string | undefined; readonly zone: string },
  after: string,
  count: number,
): Promise<DeliveredParcel[]> {
  return database.select<DeliveredParcel>(
    `SELECT parcels.id::text, parcels.group_key AS "groupKey", parcels.lines, runs.columns, to_char(max(ledger.written_at) AT TIME ZONE $4, 'YYYY-MM-DD') AS day
     FROM ledger JOIN messages ON messages.id = ledger.message_id JOIN parcels ON parcels.id = messages.parcel_id JOIN runs ON runs.id = parcels.run_id
     WHERE ledger.report = $1 AND ($2::text IS NULL OR runs.period = $2) AND parcels.id > $3::bigint AND length(parcels.lines) > 0
     GROUP BY parcels.id, runs.id ORDER BY parcels.id LIMIT $5`,
    [of.report, of.period ?? null, after, of.zone, count],
  );
}
