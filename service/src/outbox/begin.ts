/** The moment from which a message may have gone out: ledger, attempt and state are written right before its first byte, or it does not go. */
import { fromStates, MESSAGE_MACHINE } from "@corbix/core/delivery";
import { foldAddress } from "@corbix/core/recipients";
import type { Context } from "../process/context.js";
import { listed } from "../records/index.js";

/** What is about to begin. */
export interface Beginning {
  readonly id: string;
  readonly runId: string;
  readonly shared: string;
  readonly addresses: readonly string[];
  readonly people: readonly string[];
  /** A person's word that it goes whoever has had it. */
  readonly isAgain: boolean;
  /** The date it bears. */
  readonly datedAt: Date;
}

const BEGIN = `WITH asked AS (
     SELECT id, "isAgain", "datedAt", ARRAY(SELECT json_array_elements_text(addresses)) AS addresses, ARRAY(SELECT json_array_elements_text(people)) AS people
     FROM json_to_recordset($1) AS one (id bigint, addresses json, people json, "isAgain" boolean, "datedAt" timestamptz)),
   ready AS (
     SELECT messages.id, messages.group_key, messages.part, messages.parcel_id, runs.id AS run_id, runs.report, runs.occasion, runs.rehearsal_to IS NULL AS counts,
       parcels.row_keys, asked.addresses, asked."datedAt" AS dated_at
     FROM asked JOIN messages ON messages.id = asked.id JOIN runs ON runs.id = messages.run_id JOIN parcels ON parcels.id = messages.parcel_id
     WHERE messages.state IN (${listed(fromStates(MESSAGE_MACHINE, "begin"))}) AND messages.identity = $2 AND messages.released_at IS NOT NULL
       AND runs.state = 'delivering' AND NOT runs.paused AND runs.released_at IS NOT NULL
       AND EXISTS (SELECT 1 FROM identities WHERE name = $2 AND holder = $3 AND held_until > now() AND NOT paused)
       AND NOT EXISTS (SELECT 1 FROM workers WHERE id = $3 AND ended_at IS NOT NULL)
       AND (runs.rehearsal_to IS NOT NULL OR asked."isAgain" OR (
         NOT EXISTS (SELECT 1 FROM ledger WHERE ledger.report = runs.report AND ledger.occasion = runs.occasion AND ledger.group_key = messages.group_key AND ledger.message_id <> messages.id
           AND (ledger.part = messages.part AND (ledger.complete OR ledger.addresses && asked.addresses) OR ledger.run_id <> runs.id AND ledger.addresses && asked.people))
         AND (parcels.row_keys IS NULL OR NOT EXISTS (SELECT 1 FROM delivered_rows AS gone WHERE gone.report = runs.report AND gone.row_key = ANY(parcels.row_keys)
           AND gone.group_key = messages.group_key AND gone.parcel_id <> messages.parcel_id))))
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
   SELECT id::text, attempts FROM taken`;

/**
 * Begins messages: in one statement, so together or not at all for each. It asks the database for everything that has to hold: the
 * message is queued and was released, its run delivers, this process is alive to others and holds the identity, and nobody of those
 * it goes to has had it for its occasion meanwhile. Gives those that have begun, with the number of the attempt. The message's own row
 * decides against a stop at the same moment: whoever has it first, the other sees.
 */
export async function beginMessages(
  context: Context,
  identity: string,
  asked: readonly Beginning[],
): Promise<Map<string, number>> {
  const begun = await context.database.prepared<{ id: string; attempts: number }>("begin messages", BEGIN, [
    JSON.stringify(
      asked.map(({ id, addresses, people, isAgain, datedAt }) => ({
        id,
        addresses: addresses.map(foldAddress),
        people: people.map(foldAddress),
        isAgain,
        datedAt,
      })),
    ),
    identity,
    context.process,
    context.now(),
  ]);
  return new Map(begun.map(({ id, attempts }) => [id, attempts]));
}

interface Asking {
  readonly one: Beginning;
  readonly resolve: (attempt: number | undefined) => void;
  readonly reject: (error: unknown) => void;
}

/** Gathers what is about to begin while the statement before is on its way: one round trip for several messages. */
export class Beginner {
  private asking: Asking[] = [];
  private isBusy = false;

  constructor(
    private readonly context: Context,
    private readonly identity: string,
  ) {}

  /** The number of the attempt, or `undefined` where the message may not go. Throws where the database cannot be asked. */
  begin(one: Beginning): Promise<number | undefined> {
    return new Promise((resolve, reject) => {
      this.asking.push({ one, resolve, reject });
      if (!this.isBusy) void this.askAll();
    });
  }

  private async askAll(): Promise<void> {
    this.isBusy = true;
    // What was asked for in the same moment goes together.
    await Promise.resolve();
    while (this.asking.length > 0) {
      const batch = this.takeBatch();
      try {
        const begun = await beginMessages(
          this.context,
          this.identity,
          batch.map(({ one }) => one),
        );
        for (const { one, resolve } of batch) resolve(begun.get(one.id));
      } catch (error) {
        for (const { reject } of batch) reject(error);
      }
    }
    this.isBusy = false;
  }

  /** Two runs' messages for one group go one after the other: within one statement neither would see the other. */
  private takeBatch(): Asking[] {
    const runs = new Map<string, string>();
    const batch = this.asking.filter(({ one }) => {
      const known = runs.get(one.shared);
      if (known !== undefined && known !== one.runId) return false;
      runs.set(one.shared, one.runId);
      return true;
    });
    this.asking = this.asking.filter((asking) => !batch.includes(asking));
    return batch;
  }
}
