/** Who may sign in and what they may do, their sessions, tokens and invitations. Secrets are kept as digests. */
import type { Grants } from "@corbix/api";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { containing, type ListPage, type PageWish, selectPage } from "./database/page.js";

export interface UserRow {
  readonly id: number;
  readonly name: string;
  readonly shownName: string | null;
  readonly address: string | null;
  readonly language: string | null;
  readonly zone: string | null;
  readonly roles: Grants;
  readonly state: "invited" | "active" | "off";
  readonly signedInAt: Date | null;
  readonly createdBy: string | null;
  readonly createdAt: Date;
}

export interface ListedUser extends UserRow {
  readonly sessions: number;
  readonly tokens: number;
  readonly hasCodes: boolean;
  readonly passkeys: number;
  /** Of the office's own provider, for who comes by it. */
  readonly provider: string | null;
  readonly rolesFrom: "here" | "groups";
}

const USER = `users.id, users.name, users.shown_name AS "shownName", users.address, users.language, users.zone, users.roles, users.state,
  users.signed_in_at AS "signedInAt", users.created_by AS "createdBy", users.created_at AS "createdAt"`;
const GOOD = "(tokens.expires_at IS NULL OR tokens.expires_at > now())";
const counted = (kind: string): string =>
  `(SELECT count(*)::int FROM tokens WHERE tokens.user_id = users.id AND tokens.kind = '${kind}' AND ${GOOD})`;
const LISTED = `${USER}, ${counted("session")} AS sessions, ${counted("client")} AS tokens, users.totp IS NOT NULL AS "hasCodes",
  (SELECT count(*)::int FROM passkeys WHERE passkeys.user_id = users.id) AS passkeys, users.provider_issuer AS provider, users.roles_from AS "rolesFrom"`;

export async function hasUsers(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1 FROM users LIMIT 1")).length > 0;
}

/** Adds somebody who may do everything, or gives a known one another password. `password` is its derived form. */
export async function saveUser(database: Database, name: string, password: string, roles: Grants): Promise<number> {
  const { id } = await database.one<{ id: number }>(
    `INSERT INTO users (name, password, roles) VALUES ($1, $2, $3)
     ON CONFLICT (name) DO UPDATE SET password = excluded.password RETURNING id`,
    [name, password, JSON.stringify(roles)],
  );
  return id;
}

/** Somebody by their name, in whatever case it is written, with their password's derived form. */
export async function userByName(
  database: Database,
  name: string,
): Promise<(UserRow & { readonly password: string | null }) | undefined> {
  const [user] = await database.select<UserRow & { password: string | null }>(
    `SELECT ${USER}, password FROM users WHERE lower(name) = lower($1)`,
    [name],
  );
  return user;
}

export function pageOfUsers(
  database: Database,
  search: string | undefined,
  wish: PageWish,
): Promise<ListPage<ListedUser>> {
  return selectPage<ListedUser>(
    database,
    {
      select: LISTED,
      from: "users",
      where: [["users.name ILIKE ? OR users.shown_name ILIKE ? OR users.address ILIKE ?", containing(search)]],
      order: [{ sql: "users.name", type: "text" }],
      downwards: false,
    },
    wish,
  );
}

export async function listedUser(database: Database, name: string): Promise<ListedUser | undefined> {
  const [found] = await database.select<ListedUser>(`SELECT ${LISTED} FROM users WHERE lower(name) = lower($1)`, [
    name,
  ]);
  return found;
}

export async function userNames(database: Database): Promise<string[]> {
  return (await database.select<{ name: string }>("SELECT name FROM users ORDER BY name")).map(({ name }) => name);
}

export type UserFacts = Pick<UserRow, "shownName" | "address" | "language" | "zone" | "roles">;

/** Adds somebody who is invited; `undefined` where the name is taken. */
export async function addInvited(
  database: Database,
  user: UserFacts & { readonly name: string; readonly createdBy: string },
  invitation: { readonly digest: string; readonly days: number },
): Promise<Date | undefined> {
  const [added] = await database.select<{ until: Date }>(
    `INSERT INTO users (name, shown_name, address, language, zone, roles, state, created_by, invitation, invited_until)
     VALUES ($1, $2, $3, $4, $5, $6, 'invited', $7, $8, now() + $9 * interval '1 day') ON CONFLICT DO NOTHING RETURNING invited_until AS until`,
    [
      user.name,
      user.shownName,
      user.address,
      user.language,
      user.zone,
      JSON.stringify(user.roles),
      user.createdBy,
      invitation.digest,
      invitation.days,
    ],
  );
  return added?.until;
}

export async function setInvitation(
  database: Database,
  id: number,
  invitation: { readonly digest: string; readonly days: number },
): Promise<Date> {
  const { until } = await database.one<{ until: Date }>(
    "UPDATE users SET invitation = $2, invited_until = now() + $3 * interval '1 day' WHERE id = $1 RETURNING invited_until AS until",
    [id, invitation.digest, invitation.days],
  );
  return until;
}

/** Whom an invitation is for, as long as it is good. */
export async function userOfInvitation(
  database: Database,
  digest: string,
): Promise<(UserRow & { readonly until: Date }) | undefined> {
  const [found] = await database.select<UserRow & { until: Date }>(
    `SELECT ${USER}, invited_until AS until FROM users WHERE invitation = $1 AND invited_until > now() AND state <> 'off'`,
    [digest],
  );
  return found;
}

/** Uses an invitation up: sets the password, ends all sessions. `undefined` where somebody else has used it meanwhile. */
export async function useInvitation(
  database: Database,
  digest: string,
  password: string,
): Promise<{ readonly id: number; readonly name: string } | undefined> {
  return database.transaction(async (transaction) => {
    const [used] = await database.select<{ id: number; name: string }>(
      `UPDATE users SET password = $2, state = 'active', invitation = NULL, invited_until = NULL
       WHERE invitation = $1 AND invited_until > now() AND state <> 'off' RETURNING id, name`,
      [digest, password],
      transaction,
    );
    if (used)
      await database.execute("DELETE FROM tokens WHERE user_id = $1 AND kind = 'session'", [used.id], transaction);
    return used;
  });
}

export async function setPassword(database: Database, id: number, password: string): Promise<void> {
  await database.execute("UPDATE users SET password = $2 WHERE id = $1", [id, password]);
}

/** Changes somebody; false, and nothing changed, where nobody would be left who could let people in. */
export function setUserFacts(database: Database, id: number, facts: UserFacts): Promise<boolean> {
  return withOperatorLeft(database, async (transaction) => {
    await database.execute(
      "UPDATE users SET shown_name = $2, address = $3, language = $4, zone = $5, roles = $6 WHERE id = $1",
      [id, facts.shownName, facts.address, facts.language, facts.zone, JSON.stringify(facts.roles)],
      transaction,
    );
  });
}

/** Switches somebody off, with all that lets them in, or on again; false, and nothing changed, as above. */
export function setUserOff(database: Database, id: number, isOff: boolean): Promise<boolean> {
  return withOperatorLeft(database, async (transaction) => {
    await database.execute(
      `UPDATE users SET state = CASE WHEN $2 THEN 'off' WHEN password IS NULL AND provider_subject IS NULL THEN 'invited' ELSE 'active' END, invitation = NULL, invited_until = NULL WHERE id = $1`,
      [id, isOff],
      transaction,
    );
    if (isOff) await database.execute("DELETE FROM tokens WHERE user_id = $1", [id], transaction);
  });
}

/** Raised within a transaction to undo it. */
class NobodyLeft extends Error {}

/** Of two who would switch each other off at the same moment one is refused: each waits for the other, and counts who is left then. */
async function withOperatorLeft(
  database: Database,
  change: (transaction: Transaction) => Promise<void>,
): Promise<boolean> {
  try {
    await database.transaction(async (transaction) => {
      await database.select("SELECT pg_advisory_xact_lock(hashtext('operators'))", [], transaction);
      await change(transaction);
      const left = await database.select(
        "SELECT 1 FROM users WHERE state = 'active' AND roles->>'operate' = 'all' LIMIT 1",
        [],
        transaction,
      );
      if (left.length === 0) throw new NobodyLeft();
    });
    return true;
  } catch (error) {
    if (error instanceof NobodyLeft) return false;
    throw error;
  }
}

/** By what a session was opened. */
export type WayIn = "password" | "code" | "passkey" | "provider";

export interface NewToken {
  readonly digest: string;
  readonly kind: "session" | "client";
  /** For ever where null. */
  readonly days: number | null;
  readonly way?: WayIn | null;
  readonly name?: string | null;
  readonly roles?: Grants | null;
  readonly perMinute?: number | null;
  readonly from?: string | null;
  readonly agent?: string | null;
}

export interface TokenRow {
  readonly id: number;
  readonly userId: number;
  readonly person: string;
  readonly kind: "session" | "client";
  readonly name: string | null;
  readonly roles: Grants | null;
  readonly perMinute: number | null;
  readonly createdAt: Date;
  readonly expiresAt: Date | null;
  readonly usedAt: Date | null;
  readonly usedFrom: string | null;
  readonly openedFrom: string | null;
  readonly agent: string | null;
  readonly way: WayIn | null;
}

const TOKEN = `tokens.id, tokens.user_id AS "userId", users.name AS person, tokens.kind, tokens.name, tokens.roles, tokens.per_minute AS "perMinute",
  tokens.created_at AS "createdAt", tokens.expires_at AS "expiresAt", tokens.used_at AS "usedAt", tokens.used_from AS "usedFrom", tokens.opened_from AS "openedFrom", tokens.agent, tokens.way`;

/** Keeps a token by its digest; gives its number. A session counts as signing in. */
export async function saveToken(database: Database, user: number, token: NewToken): Promise<number> {
  const { id } = await database.one<{ id: number }>(
    `WITH signed AS (UPDATE users SET signed_in_at = now() WHERE id = $1 AND $3 = 'session')
     INSERT INTO tokens (user_id, digest, kind, expires_at, name, roles, per_minute, opened_from, agent, way)
     VALUES ($1, $2, $3, now() + $4 * interval '1 day', $5, $6, $7, $8, $9, $10) RETURNING id`,
    [
      user,
      token.digest,
      token.kind,
      token.days,
      token.name ?? null,
      token.roles ? JSON.stringify(token.roles) : null,
      token.perMinute ?? null,
      token.from ?? null,
      token.agent ?? null,
      token.way ?? null,
    ],
  );
  return id;
}

/** A session that has seen a second factor since is worth as much as one that began with it. */
export async function setWay(database: Database, id: number, way: WayIn): Promise<void> {
  await database.execute("UPDATE tokens SET way = $2 WHERE id = $1", [id, way]);
}

export async function deleteToken(database: Database, digest: string): Promise<void> {
  await database.execute("DELETE FROM tokens WHERE digest = $1", [digest]);
}

/** Good tokens of a kind, of one person or of all, the newest first. */
export function tokensOf(
  database: Database,
  kind: TokenRow["kind"],
  user: number | undefined,
  wish: PageWish,
): Promise<ListPage<TokenRow>> {
  return selectPage<TokenRow>(
    database,
    {
      select: TOKEN,
      from: "tokens JOIN users ON users.id = tokens.user_id",
      where: [
        [`tokens.kind = ? AND ${GOOD}`, kind],
        ["tokens.user_id = ?", user],
      ],
      order: [{ sql: "tokens.id", type: "int" }],
      downwards: true,
    },
    wish,
  );
}

export async function tokenById(database: Database, id: number): Promise<TokenRow | undefined> {
  const [found] = await database.select<TokenRow>(
    `SELECT ${TOKEN} FROM tokens JOIN users ON users.id = tokens.user_id WHERE tokens.id = $1 AND ${GOOD}`,
    [id],
  );
  return found;
}

export async function deleteTokenById(database: Database, id: number): Promise<void> {
  await database.execute("DELETE FROM tokens WHERE id = $1", [id]);
}

/** Ends a person's sessions, all of them or all but one. Gives how many. */
export async function deleteSessions(database: Database, user: number, besides: number | null): Promise<number> {
  return database.execute("DELETE FROM tokens WHERE user_id = $1 AND kind = 'session' AND id <> coalesce($2, 0)", [
    user,
    besides,
  ]);
}

/** Ends those sessions of a person that were opened in one way. Gives how many. */
export async function endSessionsByWay(database: Database, user: number, way: WayIn): Promise<number> {
  return database.execute("DELETE FROM tokens WHERE user_id = $1 AND kind = 'session' AND way = $2", [user, way]);
}

/** Gives a token another digest; the one before goes on for some hours. */
export async function replaceToken(database: Database, id: number, digest: string, keepHours: number): Promise<void> {
  await database.execute(
    `UPDATE tokens SET old_digest = CASE WHEN $3 > 0 THEN digest END, old_until = now() + $3 * interval '1 hour', digest = $2, used_at = NULL, used_from = NULL WHERE id = $1`,
    [id, digest, keepHours],
  );
}

/** Somebody with the token that they came with. */
export interface TokenUser extends UserRow {
  readonly token: number;
  readonly tokenName: string | null;
  readonly tokenRoles: Grants | null;
  readonly perMinute: number | null;
  readonly kind: TokenRow["kind"];
  readonly way: WayIn | null;
  /** Whether its use was written down a minute ago or longer. */
  readonly isUseOld: boolean;
}

/** Whose token it is, as long as it lasts and its person may come in. */
export async function userOfToken(database: Database, digest: string): Promise<TokenUser | undefined> {
  const [user] = await database.select<TokenUser>(
    `SELECT ${USER}, tokens.id AS token, tokens.name AS "tokenName", tokens.roles AS "tokenRoles", tokens.per_minute AS "perMinute", tokens.kind, tokens.way,
       tokens.used_at IS NULL OR tokens.used_at < now() - interval '1 minute' AS "isUseOld"
     FROM tokens JOIN users ON users.id = tokens.user_id
     WHERE (tokens.digest = $1 OR tokens.old_digest = $1 AND tokens.old_until > now()) AND ${GOOD} AND users.state = 'active'`,
    [digest],
  );
  return user;
}

export async function noteTokenUse(database: Database, id: number, from: string): Promise<void> {
  await database.execute("UPDATE tokens SET used_at = now(), used_from = $2 WHERE id = $1", [id, from]);
}
