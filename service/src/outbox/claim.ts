/** Taking messages for sending: ledger, attempt and state are written in one transaction, before a byte goes out. */
import { messageId } from "@corbix/core/message";
import type { Context } from "../context.js";
import type { MessageRow } from "../records/index.js";
import { ledgerPeriod } from "../run/run-records.js";

interface Waiting {
  readonly id: string;
  readonly group_key: string;
  readonly part: string;
  readonly attempts: number;
  readonly again: number;
  readonly run_id: string;
  readonly report: string;
  readonly period: string;
  readonly rehearsal_to: string | null;
  readonly again_reason: string | null;
  readonly only_rows: object | null;
}

type Transaction = Parameters<Parameters<Context["database"]["transaction"]>[0]>[0];

const DELIVERED_ALREADY = "delivered for this period already; say again with a reason to repeat it";

/**
 * Up to so many of an identity's waiting messages, now this process's own. What was delivered for its report, period and group
 * already is skipped; a run that is stopped or paused keeps its messages.
 */
export async function claim(context: Context, identity: string, count: number): Promise<MessageRow[]> {
  const { database } = context;
  const now = context.now();
  return database.transaction(async (transaction) => {
    const waiting = await database.select<Waiting>(
      `SELECT messages.id, messages.group_key, messages.part, messages.attempts, messages.again, runs.id AS run_id, runs.report, runs.period,
         runs.rehearsal_to, coalesce(messages.again_reason, runs.again_reason) AS again_reason, runs.only_rows
       FROM messages JOIN runs ON runs.id = messages.run_id
       WHERE messages.state = 'queued' AND messages.identity = $1 AND (messages.not_before IS NULL OR messages.not_before <= $3)
         AND runs.state = 'delivering' AND NOT runs.paused
       ORDER BY messages.id LIMIT $2 FOR UPDATE OF messages SKIP LOCKED`,
      [identity, count, now],
      transaction,
    );
    if (waiting.length === 0) return [];
    const isFirst = (one: Waiting): boolean => one.rehearsal_to === null && one.attempts === 0;
    const written = await writeLedger(
      context,
      waiting.filter((one) => isFirst(one) && one.again_reason === null),
      transaction,
    );
    for (const one of waiting)
      if (isFirst(one) && one.again_reason !== null) {
        await writeAgain(context, one, transaction);
        written.add(one.id);
      }
    const passed = waiting.filter((one) => isFirst(one) && !written.has(one.id)).map((one) => one.id);
    if (passed.length > 0)
      await database.execute(
        "UPDATE messages SET state = 'skipped', response = $2, touched_at = $3 WHERE id = ANY($1)",
        [passed, DELIVERED_ALREADY, now],
        transaction,
      );
    const taken = waiting.filter((one) => !passed.includes(one.id)).map((one) => one.id);
    if (taken.length === 0) return [];
    await database.execute(
      `WITH taken AS (
         UPDATE messages SET state = 'sending', attempts = attempts + 1, worker = $2, touched_at = $3, dated_at = coalesce(dated_at, $3)
         WHERE id = ANY($1) RETURNING id, attempts)
       INSERT INTO attempts (message_id, number, worker, identity, started_at) SELECT id, attempts, $2, $4, $3 FROM taken`,
      [taken, context.process, now, identity],
      transaction,
    );
    return (await database.models.Message.findAll({
      where: { id: taken },
      attributes: { exclude: ["mime"] },
      order: [["id", "ASC"]],
      transaction,
      raw: true,
    })) as unknown as MessageRow[];
  });
}

/** One row per report, period, group, part and attempt; gives the messages whose row was not there yet. */
async function writeLedger(
  context: Context,
  first: readonly Waiting[],
  transaction: Transaction,
): Promise<Set<string>> {
  if (first.length === 0) return new Set();
  const rows = first.map((one) => ({
    report: one.report,
    period: periodOf(one),
    group_key: one.group_key,
    part: one.part,
    run_id: one.run_id,
    message_id: one.id,
  }));
  const written = await context.database.select<{ message_id: string }>(
    `INSERT INTO ledger (report, period, group_key, part, attempt, run_id, message_id)
     SELECT report, period, group_key, part, 1, run_id, message_id
     FROM json_to_recordset($1) AS one (report text, period text, group_key text, part text, run_id text, message_id bigint)
     ON CONFLICT DO NOTHING RETURNING message_id`,
    [JSON.stringify(rows)],
    transaction,
  );
  return new Set(written.map((row) => row.message_id));
}

/** An explicit "again" counts on from the last attempt, and is a delivery of its own. */
async function writeAgain(context: Context, one: Waiting, transaction: Transaction): Promise<void> {
  const { database, settings } = context;
  const [{ attempt }] = await database.select<{ attempt: number }>(
    `INSERT INTO ledger (report, period, group_key, part, attempt, run_id, message_id)
     VALUES ($1, $2, $3, $4, coalesce((SELECT max(attempt) FROM ledger WHERE report = $1 AND period = $2 AND group_key = $3 AND part = $4), 0) + 1, $5, $6)
     RETURNING attempt`,
    [one.report, periodOf(one), one.group_key, one.part, one.run_id, one.id],
    transaction,
  );
  const fixed = messageId(
    { report: one.report, period: periodOf(one), group: groupOf(one), attempt },
    settings.mailDomain,
  );
  await database.execute("UPDATE messages SET message_id = $2 WHERE id = $1", [one.id, fixed], transaction);
}

function periodOf(one: Waiting): string {
  return ledgerPeriod({ id: one.run_id, period: one.period, onlyRows: one.only_rows as never });
}

/** What stands for the group in a Message-ID: messages of one group tell themselves apart by their part. */
function groupOf(one: Pick<Waiting, "group_key" | "part">): string {
  return one.part === "" ? one.group_key : `${one.group_key} / ${one.part}`;
}
