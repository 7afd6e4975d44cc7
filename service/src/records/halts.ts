/** Halts, during which nothing leaves by itself; and what left that the database did not know of, found in the journal. */
import { fromStates, type JournalBegin, type LeftMessage, MESSAGE_MACHINE } from "@corbix/core/delivery";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { listed } from "./database/guards.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";
import type { AddressResult, MessageRow, MessageState } from "./database/row-types.js";

export type HaltWhy = "by-hand" | "restored" | "gone-back" | "other-journal" | "damaged-journal";

export interface HaltRow {
  readonly id: string;
  readonly at: Date;
  readonly why: HaltWhy;
  readonly facts: Readonly<Record<string, unknown>>;
  readonly by: string;
  readonly endedAt: Date | null;
  readonly endedBy: string | null;
  /** What who ended it said. */
  readonly words: string | null;
  /** Messages found meanwhile, by what they became; `open` are those of which a person has yet to decide. */
  readonly sent: number;
  readonly unsure: number;
  readonly open: number;
}

/** A message that the journal tells of and the database did not know as begun. */
export interface FoundRow {
  readonly id: string;
  readonly at: Date;
  readonly run: string;
  readonly report: string;
  readonly occasion: string;
  readonly label: string;
  readonly part: string;
  readonly addresses: readonly string[];
  readonly became: "sent" | "unsure";
  /** Of the message that it was found to be, if the database has it. */
  readonly message: string | null;
  /** How that message stands now. */
  readonly state: MessageState | null;
  readonly decided: "arrived" | "due" | null;
  readonly decidedBy: string | null;
}

/** Which database this is: journals say whose they are. */
export async function installationId(database: Database): Promise<string> {
  return (await database.one<{ id: string }>("SELECT id::text FROM installation")).id;
}

/** Whether nothing leaves by itself now. */
export async function isHalted(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1 FROM halts WHERE ended_at IS NULL LIMIT 1")).length > 0;
}

/** Begins a halt; where one of its kind is open already, that goes on with the newer facts. Gives its id. */
export async function addHalt(
  database: Database,
  halt: { readonly why: HaltWhy; readonly facts: object; readonly by: string; readonly at: Date },
  transaction?: Transaction,
): Promise<string> {
  const [open] = await database.select<{ id: string }>(
    "UPDATE halts SET facts = $2 WHERE id = (SELECT id FROM halts WHERE ended_at IS NULL AND why = $1 ORDER BY id DESC LIMIT 1) RETURNING id::text",
    [halt.why, JSON.stringify(halt.facts)],
    transaction,
  );
  if (open) return open.id;
  const { id } = await database.one<{ id: string }>(
    "INSERT INTO halts (at, why, facts, by) VALUES ($1, $2, $3, $4) RETURNING id::text",
    [halt.at, halt.why, JSON.stringify(halt.facts), halt.by],
    transaction,
  );
  return id;
}

/** The halt of a kind that is open, if one is. */
export async function openHalt(
  database: Database,
  why: HaltWhy,
  transaction?: Transaction,
): Promise<string | undefined> {
  const [open] = await database.select<{ id: string }>(
    "SELECT id::text AS id FROM halts WHERE ended_at IS NULL AND why = $1 ORDER BY halts.id DESC LIMIT 1",
    [why],
    transaction,
  );
  return open?.id;
}

/** Ends all halts that are open; gives their ids. */
export async function endHalts(database: Database, by: string, words: string, at: Date): Promise<string[]> {
  const ended = await database.select<{ id: string }>(
    "UPDATE halts SET ended_at = $3, ended_by = $1, words = $2 WHERE ended_at IS NULL RETURNING id::text",
    [by, words, at],
  );
  return ended.map(({ id }) => id);
}

/** How a found message counts: those without a message here wait for a person's word where nobody can know. */
const FOUND_STATE = "(SELECT state FROM messages WHERE messages.id = found_left.message_id)";
const IS_OPEN = `became = 'unsure' AND decided IS NULL AND coalesce(${FOUND_STATE}, 'unsure') = 'unsure'`;

export function pageOfHalts(
  database: Database,
  filter: { readonly open?: boolean | undefined },
  wish: PageWish,
): Promise<ListPage<HaltRow>> {
  const found = (which: string): string =>
    `(SELECT count(*)::int FROM found_left WHERE halt_id = halts.id AND ${which})`;
  return selectPage<HaltRow>(
    database,
    {
      select: `halts.id::text AS id, halts.at, why, facts, halts.by, ended_at AS "endedAt", ended_by AS "endedBy", words,
        ${found("became = 'sent'")} AS sent, ${found("became = 'unsure'")} AS unsure, ${found(IS_OPEN)} AS open`,
      from: "halts",
      where: filter.open === undefined ? [] : [["(ended_at IS NULL) = ?", filter.open]],
      order: [{ sql: "halts.id", type: "bigint" }],
      downwards: true,
    },
    wish,
  );
}

export function pageOfFound(
  database: Database,
  filter: { readonly halt: string; readonly open?: boolean | undefined },
  wish: PageWish,
): Promise<ListPage<FoundRow>> {
  return selectPage<FoundRow>(
    database,
    {
      select: `found_left.id::text AS id, found_left.at, run_id AS run, report, occasion, label, part, addresses, became, message_id::text AS message,
        ${FOUND_STATE} AS state, decided, decided_by AS "decidedBy"`,
      from: "found_left",
      where: [
        ["halt_id = ?::bigint", filter.halt],
        ...(filter.open === undefined ? [] : ([[`(${IS_OPEN}) = ?`, filter.open]] as const)),
      ],
      order: [{ sql: "found_left.id", type: "bigint" }],
      downwards: false,
    },
    wish,
  );
}

/** A person's word about a message of which only the journal knows: what is due again leaves the ledger. Gives whether it was open. */
export async function decideFound(
  database: Database,
  id: string,
  { as, by, at }: { readonly as: "arrived" | "due"; readonly by: string; readonly at: Date },
): Promise<boolean> {
  return database.transaction(async (transaction) => {
    const changed = await database.execute(
      "UPDATE found_left SET decided = $2, decided_by = $3, decided_at = $4 WHERE id = $1::bigint AND became = 'unsure' AND decided IS NULL AND message_id IS NULL",
      [id, as, by, at],
      transaction,
    );
    if (changed > 0 && as === "due") {
      await database.execute("DELETE FROM ledger WHERE found_id = $1::bigint", [id], transaction);
      await database.execute("DELETE FROM delivered_rows WHERE found_id = $1::bigint", [id], transaction);
    }
    return changed > 0;
  });
}

/** Only one process at a time puts journal and database together. */
const RECONCILE_LOCK = 8_320_022;

export interface JournalFileRow {
  readonly name: string;
  /** Up to here, in bytes, its lines were held against the database. */
  readonly readTo: number;
  readonly isForeign: boolean;
}

export async function lockJournalFiles(
  database: Database,
  transaction: Transaction,
): Promise<Map<string, JournalFileRow>> {
  await database.select("SELECT pg_advisory_xact_lock($1)", [RECONCILE_LOCK], transaction);
  const rows = await database.select<{ name: string; read_to: string; is_foreign: boolean }>(
    "SELECT name, read_to, foreign_since IS NOT NULL AS is_foreign FROM journal_files",
    [],
    transaction,
  );
  return new Map(
    rows.map(({ name, read_to, is_foreign }) => [name, { name, readTo: Number(read_to), isForeign: is_foreign }]),
  );
}

export async function noteJournalFile(
  database: Database,
  file: JournalFileRow,
  now: Date,
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    `INSERT INTO journal_files (name, read_to, foreign_since) VALUES ($1, $2, $3)
     ON CONFLICT (name) DO UPDATE SET read_to = excluded.read_to, foreign_since = coalesce(journal_files.foreign_since, excluded.foreign_since)`,
    [file.name, file.readTo, file.isForeign ? now : null],
    transaction,
  );
}

export async function forgetJournalFile(database: Database, name: string): Promise<void> {
  await database.execute("DELETE FROM journal_files WHERE name = $1", [name]);
}

/** Lines that are asked of in one statement. */
const AT_ONCE = 2_000;

/** Of beginnings in a journal those that the database has no attempt of. */
export async function unknownBegins(
  database: Database,
  begins: readonly JournalBegin[],
  transaction: Transaction,
): Promise<JournalBegin[]> {
  const unknown: JournalBegin[] = [];
  for (let at = 0; at < begins.length; at += AT_ONCE) {
    const some = begins.slice(at, at + AT_ONCE);
    const missing = await database.select<{ place: number }>(
      `SELECT place FROM json_to_recordset($1) AS one (place int, id bigint, run text, attempt int, process text)
       WHERE NOT EXISTS (SELECT 1 FROM messages JOIN attempts ON attempts.message_id = messages.id
         WHERE messages.id = one.id AND messages.run_id = one.run AND attempts.number = one.attempt AND attempts.worker = one.process) ORDER BY place`,
      [JSON.stringify(some.map(({ id, run, attempt, process }, place) => ({ place, id, run, attempt, process })))],
      transaction,
    );
    unknown.push(...missing.flatMap(({ place }) => some[place] ?? []));
  }
  return unknown;
}

/** The message that a line of the journal is about, in this database. */
export interface FoundMessage extends Pick<MessageRow, "id" | "state" | "results" | "envelope"> {
  readonly place: number;
}

/** Messages that lines of a journal are about, by the place of the line. */
export async function messagesOfBegins(
  database: Database,
  begins: readonly JournalBegin[],
  transaction: Transaction,
): Promise<Map<number, FoundMessage>> {
  const found = new Map<number, FoundMessage>();
  for (let first = 0; first < begins.length; first += AT_ONCE) {
    const rows = await database.select<FoundMessage>(
      `SELECT DISTINCT ON (place) place, messages.id::text, messages.state, messages.results, messages.envelope
       FROM json_to_recordset($1) AS one (place int, id bigint, run text, "group" text, part text, message text)
         JOIN messages ON messages.run_id = one.run AND messages.group_key = one."group" AND messages.part = one.part
           AND (messages.message_id = one.message OR messages.id = one.id)
       ORDER BY place, (messages.message_id = one.message) DESC, messages.id`,
      [
        JSON.stringify(
          begins
            .slice(first, first + AT_ONCE)
            .map(({ id, run, group, part, message }, at) => ({ place: first + at, id, run, group, part, message })),
        ),
      ],
      transaction,
    );
    for (const row of rows) found.set(row.place, row);
  }
  return found;
}

/** What a message becomes by what the journal tells. */
export interface LeftVerdict {
  readonly id: string;
  readonly state: "sent" | "unsure";
  readonly response: string;
  readonly results: Readonly<Record<string, AddressResult>>;
  /** Folded addresses that the ledger keeps: those reached, or that may have been. */
  readonly addresses: readonly string[];
  readonly complete: boolean;
  readonly counts: boolean;
  readonly number: number;
  readonly at: string;
}

/** Writes down what became of messages by the journal: state, attempt, ledger and rows together. */
export async function settleLeft(
  database: Database,
  verdicts: readonly LeftVerdict[],
  transaction: Transaction,
): Promise<void> {
  for (let at = 0; at < verdicts.length; at += AT_ONCE)
    await database.execute(
      `WITH told AS (
         SELECT one.*, ARRAY(SELECT json_array_elements_text(one.reached)) AS addresses, runs.report, runs.occasion, messages.group_key, messages.part, messages.run_id, messages.parcel_id, parcels.row_keys
         FROM json_to_recordset($1) AS one (id bigint, state text, response text, results json, reached json, complete boolean, counts boolean, number int, at timestamptz)
           JOIN messages ON messages.id = one.id JOIN runs ON runs.id = messages.run_id JOIN parcels ON parcels.id = messages.parcel_id),
       changed AS (
         UPDATE messages SET state = told.state, response = told.response, results = told.results, attempts = greatest(messages.attempts, told.number), not_before = NULL,
           sent_at = CASE WHEN told.state = 'sent' THEN coalesce(messages.sent_at, told.at) ELSE messages.sent_at END, dated_at = coalesce(messages.dated_at, told.at), touched_at = now()
         FROM told WHERE messages.id = told.id RETURNING messages.id),
       more AS (
         UPDATE ledger SET addresses = ARRAY(SELECT DISTINCT unnest(ledger.addresses || told.addresses)), complete = told.complete FROM told WHERE told.counts AND ledger.message_id = told.id RETURNING ledger.message_id),
       written AS (
         INSERT INTO ledger (report, occasion, group_key, part, attempt, run_id, message_id, addresses, complete, written_at)
         SELECT report, occasion, group_key, part, row_number() OVER (PARTITION BY report, occasion, group_key, part ORDER BY id) + coalesce((SELECT max(attempt) FROM ledger WHERE ledger.report = told.report
           AND ledger.occasion = told.occasion AND ledger.group_key = told.group_key AND ledger.part = told.part), 0), run_id, id, addresses, complete, at
         FROM told WHERE counts AND NOT EXISTS (SELECT 1 FROM ledger WHERE ledger.message_id = told.id))
       INSERT INTO delivered_rows (report, row_key, group_key, parcel_id, message_id, at)
       SELECT DISTINCT report, unnest(row_keys), group_key, parcel_id, id, at FROM told WHERE counts AND row_keys IS NOT NULL ON CONFLICT DO NOTHING`,
      [
        JSON.stringify(
          verdicts.slice(at, at + AT_ONCE).map(({ addresses, ...one }) => ({ ...one, reached: addresses })),
        ),
      ],
      transaction,
    );
}

/** Attempts that the database did not know of, with what became of them. */
export async function addFoundAttempts(
  database: Database,
  attempts: readonly {
    readonly message: string;
    readonly number: number;
    readonly worker: string;
    readonly identity: string | null;
    readonly startedAt: string;
    readonly finishedAt: string | null;
    readonly outcome: string | null;
    readonly stage: string | null;
    readonly response: string;
  }[],
  transaction: Transaction,
): Promise<void> {
  for (let at = 0; at < attempts.length; at += AT_ONCE)
    await database.execute(
      `INSERT INTO attempts (message_id, number, worker, identity, started_at, finished_at, outcome, stage, response)
       SELECT one.message, one.number, one.worker, messages.identity, one."startedAt", one."finishedAt", one.outcome, one.stage, one.response
       FROM json_to_recordset($1) AS one (message bigint, number int, worker text, "startedAt" timestamptz, "finishedAt" timestamptz, outcome text, stage text, response text)
         JOIN messages ON messages.id = one.message`,
      [JSON.stringify(attempts.slice(at, at + AT_ONCE))],
      transaction,
    );
}

/** Keeps what was found in the journal, for people to read; the ledger keeps deliveries of which there is no message here. */
export async function addFound(
  database: Database,
  halt: string,
  found: readonly {
    readonly left: LeftMessage;
    readonly message: string | null;
    readonly addresses: readonly string[];
  }[],
  transaction: Transaction,
): Promise<void> {
  const rows = found.map(({ left, message, addresses }) => ({
    at: left.begin.at,
    run: left.begin.run,
    mail: left.begin.message,
    report: left.begin.report,
    occasion: left.begin.occasion,
    group: left.begin.group,
    label: left.begin.label,
    part: left.begin.part,
    counts: left.begin.counts,
    rows: left.begin.rows ?? null,
    became: left.became,
    addresses,
    message,
  }));
  for (let at = 0; at < rows.length; at += AT_ONCE)
    await database.execute(
      `WITH told AS (
         SELECT * FROM json_to_recordset($2) AS one (at timestamptz, run text, mail text, report text, occasion text, "group" text, label text, part text, counts boolean, rows json, became text, addresses json, message bigint)),
       kept AS (
         INSERT INTO found_left (halt_id, at, run_id, mail_id, report, occasion, group_key, label, part, addresses, became, message_id, counts)
         SELECT $1::bigint, at, run, mail, report, occasion, "group", label, part, ARRAY(SELECT json_array_elements_text(addresses)), became, message, counts FROM told
         ON CONFLICT (halt_id, run_id, mail_id) DO UPDATE SET became = excluded.became, addresses = excluded.addresses RETURNING *),
       alone AS (
         INSERT INTO ledger (report, occasion, group_key, part, attempt, run_id, found_id, addresses, complete, written_at)
         SELECT report, occasion, group_key, part, row_number() OVER (PARTITION BY report, occasion, group_key, part ORDER BY id) + coalesce((SELECT max(attempt) FROM ledger WHERE ledger.report = kept.report
           AND ledger.occasion = kept.occasion AND ledger.group_key = kept.group_key AND ledger.part = kept.part), 0), run_id, id, addresses, true, at
         FROM kept WHERE counts AND message_id IS NULL AND NOT EXISTS (SELECT 1 FROM ledger WHERE ledger.found_id = kept.id))
       INSERT INTO delivered_rows (report, row_key, group_key, found_id, at)
       SELECT DISTINCT kept.report, json_array_elements_text(told.rows), kept.group_key, kept.id, kept.at FROM kept JOIN told ON told.run = kept.run_id AND told.mail = kept.mail_id
       WHERE kept.counts AND kept.message_id IS NULL AND told.rows IS NOT NULL AND json_typeof(told.rows) = 'array' ON CONFLICT DO NOTHING`,
      [halt, JSON.stringify(rows.slice(at, at + AT_ONCE))],
      transaction,
    );
}

/** A message that is unsure because its process ended: what it had begun, and nobody heard the end of. */
export interface UnheardRow extends Pick<MessageRow, "id" | "results" | "envelope"> {
  readonly run: string;
  /** Its Message-ID. */
  readonly mail: string;
  readonly number: number;
  readonly worker: string;
}

export function unheardMessages(database: Database): Promise<UnheardRow[]> {
  return database.select<UnheardRow>(
    `SELECT messages.id::text, messages.run_id AS run, messages.message_id AS mail, messages.results, messages.envelope, attempts.number, attempts.worker
     FROM messages JOIN attempts ON attempts.message_id = messages.id AND attempts.number = messages.attempts
     WHERE messages.state IN (${listed(fromStates(MESSAGE_MACHINE, "decide-arrived"))}) AND attempts.finished_at IS NULL`,
  );
}

/** Attempts that are over after all. */
export async function endAttempts(
  database: Database,
  attempts: readonly {
    readonly message: string;
    readonly number: number;
    readonly at: string;
    readonly outcome: string;
    readonly stage: string;
    readonly response: string;
  }[],
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    `UPDATE attempts SET finished_at = one.at, outcome = one.outcome, stage = one.stage, response = one.response
     FROM json_to_recordset($1) AS one (message bigint, number int, at timestamptz, outcome text, stage text, response text)
     WHERE attempts.message_id = one.message AND attempts.number = one.number AND attempts.finished_at IS NULL`,
    [JSON.stringify(attempts)],
    transaction,
  );
}
