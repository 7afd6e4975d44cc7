/** Which messages may go next, and who of theirs has had it already. Nothing is written: what begins is decided by `begin`. */
import { dayInZone } from "@corbix/core/calendar";
import { foldAddress } from "@corbix/core/recipients";
import type { Context } from "../process/context.js";
import type { FileRow, MessageRow, ParcelRow } from "../records/index.js";

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

/** A message that may go, with all it is made of, and what is known of earlier deliveries of its occasion. */
export interface WaitingMessage {
  readonly message: BareMessage;
  readonly parcel: MessageParcel;
  readonly files: readonly MessageFile[];
  /** What no two messages of one statement that begins them may share, unless they are of one run. */
  readonly shared: string;
  readonly had: Had;
}

/** What the ledger knows of a message's occasion and group besides the message itself. */
export interface Had {
  /** Folded addresses that other runs have delivered to. */
  readonly byOthers: ReadonlySet<string>;
  /** Folded addresses that the same part was delivered to. */
  readonly byPart: ReadonlySet<string>;
  /** Whether the same part was delivered to everybody it went to. */
  readonly isComplete: boolean;
  /** Whether a row of it has gone out to the group before, where rows go out once. */
  readonly hasRows: boolean;
  /** The run that did, and the day. */
  readonly by: { readonly run: string; readonly day: string } | undefined;
}

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
         AND gone.group_key = parcels.group_key AND gone.parcel_id <> parcels.id) AS has_rows`;

/** Joined to messages, runs and parcels. */
export const HAD_JOIN = `LEFT JOIN LATERAL (
       SELECT array_agg(address) FILTER (WHERE ledger.run_id <> runs.id) AS by_others, array_agg(address) FILTER (WHERE ledger.part = messages.part) AS by_part,
         bool_or(ledger.part = messages.part AND ledger.complete) AS complete,
         (array_agg(ledger.run_id ORDER BY ledger.written_at DESC))[1] AS last_run, max(ledger.written_at) AS last_at
       FROM ledger LEFT JOIN LATERAL unnest(ledger.addresses) AS address ON true
       WHERE runs.rehearsal_to IS NULL AND ledger.report = runs.report AND ledger.occasion = runs.occasion AND ledger.group_key = messages.group_key AND ledger.message_id <> messages.id) AS had ON true`;

/** `zone` decides the day on which it was had. */
export function hadOf(row: HadRow, zone: string): Had {
  return {
    byOthers: new Set(row.by_others?.filter(Boolean)),
    byPart: new Set(row.by_part?.filter(Boolean)),
    isComplete: row.complete ?? false,
    hasRows: row.has_rows,
    by: row.last_run && row.last_at ? { run: row.last_run, day: dayInZone(new Date(row.last_at), zone) } : undefined,
  };
}

interface WaitingRow extends HadRow, BareMessage {
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
     ORDER BY messages.id LIMIT $2`;

/** Up to so many of an identity's waiting messages, the oldest first, besides those this process is at already. */
export async function waitingMessages(
  context: Context,
  identity: string,
  count: number,
  besides: Iterable<string>,
): Promise<WaitingMessage[]> {
  const rows = await context.database.prepared<WaitingRow>("waiting messages", WAITING, [
    identity,
    count,
    context.now(),
    [...besides],
  ]);
  return rows.map((row) => ({
    message: row,
    parcel: row.parcel,
    files: row.files,
    shared: row.shared,
    had: hadOf(row, context.settings.zone),
  }));
}

/** A beginning that nobody has heard of for so long will not be heard of any more. */
const FORGOTTEN_SECONDS = 30;

/**
 * Messages that the database has as begun by this process, which is at none of them: the connection broke before it could say so, and
 * nothing of them went out. `atThem` has to be gathered before this is asked.
 */
export function forgottenMessages(
  context: Context,
  identity: string,
  atThem: Iterable<string>,
): Promise<readonly BareMessage[]> {
  return context.database.prepared<BareMessage>(
    "forgotten messages",
    `SELECT ${columns("messages", MESSAGE_FIELDS)} FROM messages WHERE state = 'sending' AND identity = $1 AND worker = $2
       AND NOT (id = ANY($3::bigint[])) AND touched_at < now() - interval '${FORGOTTEN_SECONDS} seconds'`,
    [identity, context.process, [...atThem]],
  );
}

/** Who is left to get a message. */
export interface Due {
  /** All addresses it goes to now, as they are written. */
  readonly addresses: readonly string[];
  /** Those of them that it is for, not copies. */
  readonly people: readonly string[];
  /** Whether somebody it goes to has had it before, so that it goes again by a person's word. */
  readonly isRepeat: boolean;
}

/**
 * Who is left: those whom no earlier try of the message has reached or been refused for, and, unless a person said again, who has
 * not had it for its occasion. Copies go along where the people get it.
 */
export function dueOf(message: Pick<MessageRow, "envelope" | "results">, had: Had, isAgain: boolean): Due {
  const { to, cc, bcc } = message.envelope;
  const done = new Set(
    Object.entries(message.results).flatMap(([address, one]) => (one.state === "later" ? [] : [foldAddress(address)])),
  );
  const left = (address: string): boolean => !done.has(foldAddress(address));
  const wasHad = (address: string): boolean =>
    had.byOthers.has(foldAddress(address)) || had.byPart.has(foldAddress(address));
  const people = unique(to.map((one) => one.address)).filter(left);
  const copies = unique([...cc, ...bcc].map((one) => one.address)).filter(
    (address) => left(address) && !people.includes(address),
  );
  if (isAgain)
    return { addresses: [...people, ...copies], people, isRepeat: [...people, ...copies].some(wasHad) || had.hasRows };
  if (had.isComplete || had.hasRows) return { addresses: [], people: [], isRepeat: false };
  const duePeople = people.filter((address) => !wasHad(address));
  const hadPart = had.byPart.size > 0;
  // A part that is new, all of whose people were reached by another one, such as in another language, is no news to copies either.
  const isNews = duePeople.length > 0 || hadPart || people.length === 0;
  const dueCopies = isNews ? copies.filter((address) => !had.byPart.has(foldAddress(address))) : [];
  return { addresses: [...duePeople, ...dueCopies], people: duePeople, isRepeat: false };
}

function unique(addresses: readonly string[]): string[] {
  return [...new Map(addresses.map((address) => [foldAddress(address), address])).values()];
}
