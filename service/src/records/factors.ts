/** Second factors, passkeys and the provider of sign-ins as they are kept, and tries as all processes count them. */
import type { Database } from "./database/database.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";
import type { UserRow } from "./users.js";

/** What somebody signs in with besides the password. Secrets are sealed, recovery codes digests. */
export interface FactorsRow {
  readonly totp: string | null;
  readonly totpWanted: string | null;
  readonly totpSince: Date | null;
  /** Recovery codes that are left. */
  readonly recoveryCodes: number;
  readonly passkeys: number;
  readonly hasPassword: boolean;
}

export function factorsOf(database: Database, user: number): Promise<FactorsRow> {
  return database.one<FactorsRow>(
    `SELECT totp, totp_wanted AS "totpWanted", totp_since AS "totpSince", cardinality(recovery_codes) AS "recoveryCodes",
       (SELECT count(*)::int FROM passkeys WHERE user_id = users.id) AS passkeys, password IS NOT NULL AS "hasPassword"
     FROM users WHERE id = $1`,
    [user],
  );
}

/** Keeps a secret that is not good before its first code was given. */
export async function wishTotp(database: Database, user: number, sealed: string): Promise<void> {
  await database.execute("UPDATE users SET totp_wanted = $2 WHERE id = $1", [user, sealed]);
}

/** The wished secret becomes the one that counts; false where another was wished meanwhile. `step`: that of the code that was given. */
export async function confirmTotp(database: Database, user: number, sealed: string, step: number): Promise<boolean> {
  const confirmed = await database.execute(
    "UPDATE users SET totp = totp_wanted, totp_wanted = NULL, totp_since = now(), totp_step = $3 WHERE id = $1 AND totp_wanted = $2",
    [user, sealed, step],
  );
  return confirmed > 0;
}

/** Uses the code of a step up; false where it was used, or a later one. */
export async function useTotpStep(database: Database, user: number, step: number): Promise<boolean> {
  const used = await database.execute(
    "UPDATE users SET totp_step = $2 WHERE id = $1 AND (totp_step IS NULL OR totp_step < $2)",
    [user, step],
  );
  return used > 0;
}

export async function removeTotp(database: Database, user: number): Promise<void> {
  await database.execute(
    "UPDATE users SET totp = NULL, totp_wanted = NULL, totp_since = NULL, totp_step = NULL WHERE id = $1",
    [user],
  );
}

export async function setRecoveryCodes(database: Database, user: number, digests: readonly string[]): Promise<void> {
  await database.execute(
    "UPDATE users SET recovery_codes = ARRAY(SELECT json_array_elements_text($2::json)) WHERE id = $1",
    [user, JSON.stringify(digests)],
  );
}

/** Uses a recovery code up; false where it is none, or was used. */
export async function useRecoveryCode(database: Database, user: number, digest: string): Promise<boolean> {
  const used = await database.execute(
    "UPDATE users SET recovery_codes = array_remove(recovery_codes, $2) WHERE id = $1 AND $2 = ANY(recovery_codes)",
    [user, digest],
  );
  return used > 0;
}

/** Everything that somebody has besides the password goes. */
export async function removeFactors(database: Database, user: number): Promise<void> {
  await database.transaction(async (transaction) => {
    await database.execute("DELETE FROM passkeys WHERE user_id = $1", [user], transaction);
    await database.execute(
      "UPDATE users SET totp = NULL, totp_wanted = NULL, totp_since = NULL, totp_step = NULL, recovery_codes = '{}' WHERE id = $1",
      [user],
      transaction,
    );
  });
}

export interface PasskeyRow {
  readonly id: number;
  readonly userId: number;
  readonly credential: string;
  readonly publicKey: Buffer;
  readonly counter: number;
  readonly transports: readonly string[];
  readonly name: string;
  readonly createdAt: Date;
  readonly usedAt: Date | null;
}

const PASSKEY = `passkeys.id, passkeys.user_id AS "userId", passkeys.credential, passkeys.public_key AS "publicKey", passkeys.counter::float8 AS counter,
  passkeys.transports, passkeys.name, passkeys.created_at AS "createdAt", passkeys.used_at AS "usedAt"`;

export function pageOfPasskeys(database: Database, user: number, wish: PageWish): Promise<ListPage<PasskeyRow>> {
  return selectPage<PasskeyRow>(
    database,
    {
      select: PASSKEY,
      from: "passkeys",
      where: [["passkeys.user_id = ?", user]],
      order: [{ sql: "passkeys.id", type: "int" }],
      downwards: true,
    },
    wish,
  );
}

export function passkeysOf(database: Database, user: number): Promise<PasskeyRow[]> {
  return database.select<PasskeyRow>(`SELECT ${PASSKEY} FROM passkeys WHERE user_id = $1 ORDER BY passkeys.id`, [user]);
}

/** A passkey with whose it is, as long as they may come in. */
export async function passkeyByCredential(
  database: Database,
  credential: string,
): Promise<(PasskeyRow & { readonly person: string }) | undefined> {
  const [found] = await database.select<PasskeyRow & { person: string }>(
    `SELECT ${PASSKEY}, users.name AS person FROM passkeys JOIN users ON users.id = passkeys.user_id WHERE credential = $1 AND users.state = 'active'`,
    [credential],
  );
  return found;
}

/** Gives its number; `undefined` where it is there already. */
export async function addPasskey(
  database: Database,
  passkey: Omit<PasskeyRow, "id" | "createdAt" | "usedAt">,
): Promise<number | undefined> {
  const [added] = await database.select<{ id: number }>(
    `INSERT INTO passkeys (user_id, credential, public_key, counter, transports, name) VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT DO NOTHING RETURNING id`,
    [
      passkey.userId,
      passkey.credential,
      passkey.publicKey,
      passkey.counter,
      JSON.stringify(passkey.transports),
      passkey.name,
    ],
  );
  return added?.id;
}

export async function notePasskeyUse(database: Database, id: number, counter: number): Promise<void> {
  await database.execute("UPDATE passkeys SET counter = $2, used_at = now() WHERE id = $1", [id, counter]);
}

/** Gives the name that it had. */
export async function deletePasskey(database: Database, user: number, id: number): Promise<string | undefined> {
  const [gone] = await database.select<{ name: string }>(
    "DELETE FROM passkeys WHERE user_id = $1 AND id = $2 RETURNING name",
    [user, id],
  );
  return gone?.name;
}

/** Whether a challenge is answered for the first time; those that are over are forgotten. */
export async function spendChallenge(database: Database, digest: string, until: Date): Promise<boolean> {
  await database.execute("DELETE FROM spent_challenges WHERE until < now()");
  const spent = await database.execute(
    "INSERT INTO spent_challenges (digest, until) VALUES ($1, $2) ON CONFLICT DO NOTHING",
    [digest, until],
  );
  return spent > 0;
}

export interface ProviderRow {
  readonly settings: object;
  readonly secret: string | null;
}

export async function keptProvider(database: Database): Promise<ProviderRow | undefined> {
  const [kept] = await database.select<ProviderRow>("SELECT settings, secret FROM sign_in_provider");
  return kept;
}

export async function saveProvider(database: Database, settings: object, secret: string | null): Promise<void> {
  await database.execute(
    `INSERT INTO sign_in_provider (settings, secret) VALUES ($1, $2)
     ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, secret = excluded.secret`,
    [JSON.stringify(settings), secret],
  );
}

/** Whether there was one. */
export async function deleteProvider(database: Database): Promise<boolean> {
  return (await database.execute("DELETE FROM sign_in_provider")) > 0;
}

export interface ProvidedUser extends UserRow {
  readonly rolesFrom: "here" | "groups";
}

const PROVIDED = `id, name, shown_name AS "shownName", address, language, zone, roles, state, signed_in_at AS "signedInAt",
  created_by AS "createdBy", created_at AS "createdAt", roles_from AS "rolesFrom"`;

/** Whom a provider means. */
export async function userOfProvider(
  database: Database,
  issuer: string,
  subject: string,
): Promise<ProvidedUser | undefined> {
  const [found] = await database.select<ProvidedUser>(
    `SELECT ${PROVIDED} FROM users WHERE provider_issuer = $1 AND provider_subject = $2`,
    [issuer, subject],
  );
  return found;
}

/** Ties whoever has an address, and is the only one, to the provider's subject; whoever was tied before is not tied anew. */
export async function tieByAddress(
  database: Database,
  address: string,
  issuer: string,
  subject: string,
): Promise<ProvidedUser | undefined> {
  const [tied] = await database.select<ProvidedUser>(
    `UPDATE users SET provider_issuer = $2, provider_subject = $3, invitation = NULL, invited_until = NULL,
       state = CASE WHEN state = 'invited' THEN 'active' ELSE state END
     WHERE lower(address) = lower($1) AND provider_subject IS NULL AND state <> 'off'
       AND (SELECT count(*) FROM users other WHERE lower(other.address) = lower($1)) = 1
     RETURNING ${PROVIDED}`,
    [address, issuer, subject],
  );
  return tied;
}

/** Adds whoever comes by the provider for the first time; `undefined` where the name is taken. */
export async function addProvided(
  database: Database,
  user: Pick<UserRow, "name" | "shownName" | "address" | "roles">,
  issuer: string,
  subject: string,
): Promise<ProvidedUser | undefined> {
  const [added] = await database.select<ProvidedUser>(
    `INSERT INTO users (name, shown_name, address, roles, provider_issuer, provider_subject, roles_from, state)
     VALUES ($1, $2, $3, $4, $5, $6, 'groups', 'active') ON CONFLICT DO NOTHING RETURNING ${PROVIDED}`,
    [user.name, user.shownName, user.address, JSON.stringify(user.roles), issuer, subject],
  );
  return added;
}

/** From now on what somebody may do is said here. */
export async function rolesFromHere(database: Database, user: number): Promise<void> {
  await database.execute("UPDATE users SET roles_from = 'here' WHERE id = $1", [user]);
}

/** Counts a try within its window; gives how many there were with it. By the database's clock. */
export async function countTry(database: Database, key: string, windowSeconds: number): Promise<number> {
  const { count } = await database.one<{ count: number }>(
    `INSERT INTO tries (key, count, since) VALUES ($1, 1, now())
     ON CONFLICT (key) DO UPDATE SET
       count = CASE WHEN tries.since > now() - $2 * interval '1 second' THEN tries.count + 1 ELSE 1 END,
       since = CASE WHEN tries.since > now() - $2 * interval '1 second' THEN tries.since ELSE now() END
     RETURNING count`,
    [key, windowSeconds],
  );
  return count;
}

/** What was tried before counts no more. */
export async function forgetTries(database: Database, keys: readonly string[]): Promise<void> {
  await database.execute("DELETE FROM tries WHERE key IN (SELECT json_array_elements_text($1::json))", [
    JSON.stringify(keys),
  ]);
}

/** Counts whose window is long over. */
export async function forgetOldTries(database: Database): Promise<void> {
  await database.execute("DELETE FROM tries WHERE since < now() - interval '1 day'");
}
