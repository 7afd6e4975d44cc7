/** Taking messages for sending: ledger, attempt and state are written in one transaction, before a byte goes out. */
import { messageId } from "@corbix/core/message";
import type { Context } from "../context.js";
import type { MessageRow } from "../records/index.js";

interface Waiting {
  readonly id: string;
  readonly group_key: string;
  readonly part: string;
  readonly run_id: string;
  readonly report: string;
  readonly period: string;
}

type Transaction = Parameters<Parameters<Context["database"]["transaction"]>[0]>[0];

const DELIVERED_ALREADY = "delivered for this period already; say again with a reason to repeat it";

/**
 * Up to so many of an identity's waiting messages, now this process's own. What was delivered for its report, period and group
 * already is skipped; a run that is stopped or paused keeps its messages.
 */
export async function claim(context: Context, identity: string, count: number): Promise<ClaimedMessage[]> {
  const taken = await claimFirst(context, identity, count);
  return taken.length > 0 ? taken : claimAgain(context, identity, count);
}

/** A message that is this process's own, and the parcel it belongs to. */
export interface ClaimedMessage {
  readonly id: string;
  readonly parcelId: string;
  readonly runId: string;
}

const WAITING = `messages.state = 'queued' AND messages.identity = $1 AND (messages.not_before IS NULL OR messages.not_before <= $3)
  AND runs.state = 'delivering' AND NOT runs.paused`;
/** A first attempt of a delivery that somebody asked for again: it needs a new place in the ledger, and a Message-ID from that. */
const IS_AGAIN =
  "runs.rehearsal_to IS NULL AND messages.attempts = 0 AND coalesce(messages.again_reason, runs.again_reason) IS NOT NULL";
/** The period as the ledger knows it: a run over chosen rows is one of its own, and leaves the period's delivery to come. */
const PERIOD = "CASE WHEN runs.only_rows IS NULL THEN runs.period ELSE runs.period || ', rows of run ' || runs.id END";
const TAKE = `UPDATE messages SET state = 'sending', attempts = attempts + 1, worker = $4, touched_at = $3, dated_at = coalesce(dated_at, $3)`;
const ATTEMPT =
  "INSERT INTO attempts (message_id, number, worker, identity, started_at) SELECT id, attempts, $4, $1, $3 FROM taken";
const TAKEN = 'SELECT id::text, parcel_id::text AS "parcelId", run_id AS "runId" FROM taken ORDER BY id';

/** One statement, so one round trip and one transaction: ledger, attempt and state are written together or not at all. */
async function claimFirst(context: Context, identity: string, count: number): Promise<ClaimedMessage[]> {
  return context.database.select<ClaimedMessage>(
    `WITH waiting AS (
       SELECT messages.id, messages.group_key, messages.part, runs.id AS run_id, runs.report, ${PERIOD} AS period, runs.rehearsal_to IS NULL AND messages.attempts = 0 AS is_first
       FROM messages JOIN runs ON runs.id = messages.run_id
       WHERE ${WAITING} AND NOT (${IS_AGAIN}) ORDER BY messages.id LIMIT $2 FOR UPDATE OF messages SKIP LOCKED),
     written AS (
       INSERT INTO ledger (report, period, group_key, part, attempt, run_id, message_id)
       SELECT report, period, group_key, part, 1, run_id, id FROM waiting WHERE is_first ON CONFLICT DO NOTHING RETURNING message_id),
     passed AS (
       UPDATE messages SET state = 'skipped', response = $5, touched_at = $3
       WHERE id IN (SELECT id FROM waiting WHERE is_first AND id NOT IN (SELECT message_id FROM written)) RETURNING id),
     taken AS (
       ${TAKE} WHERE id IN (SELECT id FROM waiting WHERE NOT is_first OR id IN (SELECT message_id FROM written)) RETURNING id, parcel_id, run_id, attempts),
     noted AS (${ATTEMPT})
     ${TAKEN}`,
    [identity, count, context.now(), context.process, DELIVERED_ALREADY],
  );
}

async function claimAgain(context: Context, identity: string, count: number): Promise<ClaimedMessage[]> {
  const { database } = context;
  return database.transaction(async (transaction) => {
    const waiting = await database.select<Waiting>(
      `SELECT messages.id, messages.group_key, messages.part, runs.id AS run_id, runs.report, ${PERIOD} AS period
       FROM messages JOIN runs ON runs.id = messages.run_id WHERE ${WAITING} AND ${IS_AGAIN} ORDER BY messages.id LIMIT $2 FOR UPDATE OF messages SKIP LOCKED`,
      [identity, count, context.now()],
      transaction,
    );
    for (const one of waiting) await writeAgain(context, one, transaction);
    if (waiting.length === 0) return [];
    return database.select<ClaimedMessage>(
      `WITH taken AS (${TAKE} WHERE id = ANY($2) RETURNING id, parcel_id, run_id, attempts), noted AS (${ATTEMPT}) ${TAKEN}`,
      [identity, waiting.map((one) => one.id), context.now(), context.process],
      transaction,
    );
  });
}

/** The messages themselves, without the bytes that were sent before. */
export async function claimedMessages(context: Context, claimed: readonly ClaimedMessage[]): Promise<MessageRow[]> {
  return (await context.database.models.Message.findAll({
    where: { id: claimed.map((one) => one.id) },
    attributes: { exclude: ["mime"] },
    order: [["id", "ASC"]],
    raw: true,
  })) as unknown as MessageRow[];
}

/** An explicit "again" counts on from the last attempt, and is a delivery of its own. */
async function writeAgain(context: Context, one: Waiting, transaction: Transaction): Promise<void> {
  const { database, settings } = context;
  const [{ attempt }] = await database.select<{ attempt: number }>(
    `INSERT INTO ledger (report, period, group_key, part, attempt, run_id, message_id)
     VALUES ($1, $2, $3, $4, coalesce((SELECT max(attempt) FROM ledger WHERE report = $1 AND period = $2 AND group_key = $3 AND part = $4), 0) + 1, $5, $6)
     RETURNING attempt`,
    [one.report, one.period, one.group_key, one.part, one.run_id, one.id],
    transaction,
  );
  const fixed = messageId(
    { report: one.report, period: one.period, group: one.group_key, part: one.part, attempt },
    settings.mailDomain,
  );
  await database.execute("UPDATE messages SET message_id = $2 WHERE id = $1", [one.id, fixed], transaction);
}
