/** Sending identities and ways out as they are kept, and what waits for each. A name is of one of them only. */
import type { Database } from "./database/database.js";
import { unlessTaken } from "./library.js";

export interface IdentityRow {
  readonly name: string;
  readonly settings: object;
  /** Password and key, sealed. */
  readonly secret: string | null;
  readonly paused: boolean;
  readonly restUntil: Date | null;
  readonly restWhy: string | null;
  /** By the database's clock. */
  readonly isResting: boolean | null;
}

/** By mail, or by another way out. */
export type SenderKind = "mail" | "way";

/** A rest is never longer than some minutes: one that seems so was written by a clock that has been set back since. */
export function allIdentities(database: Database, kind: SenderKind = "mail"): Promise<IdentityRow[]> {
  return database.select<IdentityRow>(
    `SELECT name, settings, secret, paused, rest_until AS "restUntil", rest_why AS "restWhy",
       rest_until > now() AND rest_until < now() + interval '10 minutes' AS "isResting" FROM identities WHERE kind = $1 ORDER BY name`,
    [kind],
  );
}

/** What has a name, if anything has. */
export async function kindOfIdentity(database: Database, name: string): Promise<SenderKind | undefined> {
  const [found] = await database.select<{ kind: SenderKind }>("SELECT kind FROM identities WHERE name = $1", [name]);
  return found?.kind;
}

/** False where somebody else has added it meanwhile. */
export async function addIdentity(
  database: Database,
  name: string,
  settings: object,
  secret: string | null,
  kind: SenderKind = "mail",
): Promise<boolean> {
  const made = await unlessTaken(() =>
    database.execute("INSERT INTO identities (name, settings, secret, kind) VALUES ($1, $2, $3, $4)", [
      name,
      JSON.stringify(settings),
      secret,
      kind,
    ]),
  );
  return made !== undefined;
}

/** False where somebody else has changed it since it was read. What it rested for is over. */
export async function replaceIdentity(
  database: Database,
  known: IdentityRow,
  settings: object,
  secret: string | null,
): Promise<boolean> {
  const changed = await database.execute(
    `UPDATE identities SET settings = $2::json, secret = $3, rest_until = NULL, rest_why = NULL, failures = 0
     WHERE name = $1 AND settings::jsonb = $4::jsonb AND secret IS NOT DISTINCT FROM $5`,
    [known.name, JSON.stringify(settings), secret, JSON.stringify(known.settings), known.secret],
  );
  return changed > 0;
}

/** Whoever resumes wants it to go on now, whatever it was resting for. */
export async function setIdentityPaused(database: Database, name: string, paused: boolean): Promise<void> {
  await database.execute(
    "UPDATE identities SET paused = $2, rest_until = NULL, rest_why = NULL, failures = 0 WHERE name = $1",
    [name, paused],
  );
}

/** Messages on their way by one identity. */
export interface IdentityLoad {
  readonly identity: string;
  readonly waiting: number;
  readonly sending: number;
  /** Of runs that are paused. */
  readonly paused: number;
}

export function identityLoads(database: Database): Promise<IdentityLoad[]> {
  return database.select<IdentityLoad>(
    `SELECT identity, count(*) FILTER (WHERE messages.state = 'queued' AND NOT runs.paused)::int AS waiting, count(*) FILTER (WHERE messages.state = 'sending')::int AS sending,
       count(*) FILTER (WHERE messages.state = 'queued' AND runs.paused)::int AS paused
     FROM messages JOIN runs ON runs.id = messages.run_id WHERE messages.state IN ('queued', 'sending') GROUP BY identity`,
  );
}

/** How many tries each identity has made in the hour before. */
export function triesInHour(
  database: Database,
  now: Date,
): Promise<{ readonly identity: string; readonly count: number }[]> {
  return database.select<{ identity: string; count: number }>(
    "SELECT identity, count(*)::int AS count FROM attempts WHERE started_at > $1::timestamptz - interval '1 hour' GROUP BY identity",
    [now],
  );
}

export function identityNames(database: Database): Promise<{ readonly name: string; readonly kind: SenderKind }[]> {
  return database.select<{ name: string; kind: SenderKind }>("SELECT name, kind FROM identities");
}

/** False where anything is on its way by it still, or held for it. */
export async function removeIdentity(database: Database, name: string): Promise<boolean> {
  const gone = await database.execute(
    `DELETE FROM identities WHERE name = $1 AND NOT EXISTS (SELECT 1 FROM messages WHERE identity = $1 AND state IN ('held', 'queued', 'sending', 'unsure'))`,
    [name],
  );
  return gone > 0;
}

/** A process becomes the one that sends for an identity, or stays it; false where another one is. */
export async function holdIdentity(
  database: Database,
  name: string,
  process: string,
  seconds: number,
): Promise<boolean> {
  const held = await database.execute(
    `UPDATE identities SET holder = $2, held_until = now() + $3 * interval '1 second' WHERE name = $1 AND (holder = $2 OR holder IS NULL OR held_until < now()
       OR held_until > now() + 2 * $3 * interval '1 second' OR holder IN (SELECT id FROM workers WHERE ended_at IS NOT NULL))`,
    [name, process, seconds],
  );
  return held > 0;
}

export async function letIdentityGo(database: Database, name: string, process: string): Promise<void> {
  await database.execute("UPDATE identities SET held_until = now() WHERE name = $1 AND holder = $2", [name, process]);
}

/** Leaves an identity's server alone for a while, each time longer, unless it is left alone already. */
export async function restIdentity(
  database: Database,
  name: string,
  why: string,
  seconds: { readonly first: number; readonly longest: number },
): Promise<void> {
  await database.execute(
    `UPDATE identities SET failures = failures + 1, rest_why = $2, rest_until = now() + least($4, $3 * power(2, least(failures, 12))) * interval '1 second'
     WHERE name = $1 AND (rest_until IS NULL OR rest_until <= now())`,
    [name, why, seconds.first, seconds.longest],
  );
}

export async function endRest(database: Database, name: string): Promise<void> {
  await database.execute("UPDATE identities SET failures = 0, rest_why = NULL, rest_until = NULL WHERE name = $1", [
    name,
  ]);
}

/** Milliseconds until an identity may send its next message, as the process before left it. */
export async function slotWaitMs(database: Database, name: string): Promise<number> {
  const { wait } = await database.one<{ wait: number }>(
    "SELECT coalesce((SELECT extract(epoch FROM (next_slot_at - now())) * 1000 FROM identities WHERE name = $1), 0)::float8 AS wait",
    [name],
  );
  return wait;
}

export async function setSlotWait(database: Database, name: string, ms: number): Promise<void> {
  await database.execute("UPDATE identities SET next_slot_at = now() + $2 * interval '1 millisecond' WHERE name = $1", [
    name,
    ms,
  ]);
}

/** How many tries one identity has made in the hour before. */
export async function triesOf(database: Database, name: string, now: Date): Promise<number> {
  const { count } = await database.one<{ count: number }>(
    "SELECT count(*)::int AS count FROM attempts WHERE identity = $1 AND started_at > $2::timestamptz - interval '1 hour'",
    [name, now],
  );
  return count;
}
