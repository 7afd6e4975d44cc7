import { createHash, randomBytes } from "node:crypto";
import { bothGrants, type Grants } from "@corbix/api";
import type { Context } from "../process/context.js";
import {
  type Database,
  deleteToken,
  type NewToken,
  noteTokenUse,
  saveToken,
  saveUser,
  type UserRow,
  userOfToken,
  type WayIn,
} from "../records/index.js";
import { hashPassword } from "./passwords.js";

/** A session of the console lasts so long. */
const SESSION_DAYS = 14;
/** Somebody who calls, with what they may do by the token that they came with. */
export interface User extends UserRow {
  /** What is good for this call: of a token with roles of its own no more than those. */
  readonly grants: Grants;
  readonly token:
    | {
        readonly id: number;
        readonly kind: "session" | "client";
        readonly perMinute: number | null;
        readonly way: WayIn | null;
      }
    | undefined;
}

/** Whoever may do everything. */
export const EVERYTHING: Grants = { look: "all", prepare: "all", release: "all", operate: "all" };

/** Secrets are kept as digests, so that the database gives none away. */
export function digestOf(secret: string): string {
  return createHash("sha256").update(secret).digest("hex");
}

export function newSecret(): string {
  return randomBytes(24).toString("base64url");
}

export async function addUser(
  database: Database,
  name: string,
  password: string,
  roles: Grants = EVERYTHING,
): Promise<number> {
  return saveUser(database, name, await hashPassword(password), roles);
}

/** A new token of a user; sessions end by themselves, those of clients where they say when. */
export async function addToken(
  database: Database,
  userId: number,
  kind: "session" | "client",
  facts: Partial<Omit<NewToken, "digest" | "kind">> = {},
): Promise<string> {
  const token = newSecret();
  const days = kind === "session" ? SESSION_DAYS : null;
  await saveToken(database, userId, { digest: digestOf(token), kind, days, ...facts });
  return token;
}

export async function removeToken(database: Database, token: string): Promise<void> {
  await deleteToken(database, digestOf(token));
}

/** Whose token it is, and that it was used from an address. */
export async function maybeUser(database: Database, token: string, from = ""): Promise<User | undefined> {
  const found = await userOfToken(database, digestOf(token));
  if (!found) return undefined;
  const { token: id, tokenName: _, tokenRoles, perMinute, kind, way, isUseOld, ...user } = found;
  if (isUseOld) await noteTokenUse(database, id, from);
  const grants = tokenRoles === null ? user.roles : bothGrants(user.roles, tokenRoles);
  return { ...user, grants, token: { id, kind, perMinute, way } };
}

/** Whether the office asks for a second factor, and this session has seen none: then nothing else may be done before one is added. */
export function lacksFactor({ settings }: Pick<Context, "settings">, token: User["token"]): boolean {
  return settings.secondFactor === "required" && token?.kind === "session" && token.way === "password";
}
