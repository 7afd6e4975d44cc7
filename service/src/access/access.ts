import { createHash, randomBytes } from "node:crypto";
import { bothGrants, type Grants } from "@corbix/api";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import {
  type Database,
  deleteToken,
  type NewToken,
  noteTokenUse,
  saveToken,
  saveUser,
  setPassword,
  type UserRow,
  userByName,
  userOfToken,
} from "../records/index.js";
import { derivationsUnderWay, hashPassword, isPassword, isWeaklyKept } from "./passwords.js";

/** A session of the console lasts so long. */
const SESSION_DAYS = 14;
/** Sign-ins that may be tried within a window from one address, and for one name from all addresses together. */
const MAX_TRIES = 10;
const MAX_TRIES_AS = 30;
const WINDOW_MS = 60_000;
/** Beyond so many counts those whose window is over are forgotten. */
const KEPT_TRIES = 10_000;

/** Sign-ins of all kinds that wait for their password to be looked at; more are turned away. */
const MOST_WAITING = 40;

/** Somebody who calls, with what they may do by the token that they came with. */
export interface User extends UserRow {
  /** What is good for this call: of a token with roles of its own no more than those. */
  readonly grants: Grants;
  readonly token:
    | { readonly id: number; readonly kind: "session" | "client"; readonly perMinute: number | null }
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
  const { token: id, tokenName: _, tokenRoles, perMinute, kind, isUseOld, ...user } = found;
  if (isUseOld) await noteTokenUse(database, id, from);
  const grants = tokenRoles === null ? user.roles : bothGrants(user.roles, tokenRoles);
  return { ...user, grants, token: { id, kind, perMinute } };
}

/** Sign-ins that are tried are counted before they are checked: by the address they come from, and by the name they are for. */
export class SignIn {
  private readonly tries = new Map<string, { count: number; since: number }>();

  constructor(
    private readonly database: Database,
    /** Milliseconds of a clock that cannot be set. */
    private readonly now: () => number,
    /** Notes what was tried, for whoever looks after the service. */
    private readonly note: (name: string, what: string, address: string) => Promise<void>,
  ) {}

  /** Throws `NOT_SIGNED_IN`, or `TOO_MANY_TRIES` without having looked at the password. */
  async check(name: string, password: string, address: string): Promise<User> {
    const counts = [
      { key: `from ${address}`, most: MAX_TRIES },
      { key: `as ${name.toLowerCase()}`, most: MAX_TRIES_AS },
    ].map((one) => ({ ...one, count: this.count(one.key) }));
    const over = counts.find((one) => one.count > one.most);
    if (over) {
      if (over.count === over.most + 1) await this.note(name, "sign-in refused: too many tries", address);
      throw new CorbixError("TOO_MANY_TRIES", say().serviceAccess.cannotSignTooManyTries(), {
        advice: say().serviceAccess.waitMinute(),
      });
    }
    if (derivationsUnderWay() > MOST_WAITING)
      throw new CorbixError("TOO_MANY_TRIES", say().serviceAccess.cannotSignTooManyTries(), {
        advice: say().serviceAccess.waitMinute(),
      });
    const user = await userByName(this.database, name);
    // The same work is done for an unknown name, so that time does not tell which names there are.
    const matches = await isPassword(password, user?.password ?? null);
    if (user?.password && user.state === "active" && matches) {
      for (const { key } of counts) this.tries.delete(key);
      if (isWeaklyKept(user.password)) await setPassword(this.database, user.id, await hashPassword(password));
      const { password: _, ...rest } = user;
      return { ...rest, grants: user.roles, token: undefined };
    }
    await this.note(name, "sign-in failed", address);
    throw new CorbixError("NOT_SIGNED_IN", say().serviceAccess.cannotSignNamePasswordWrong(), {
      advice: say().serviceAccess.firstSignKeptSignJson(),
    });
  }

  private count(key: string): number {
    const time = this.now();
    const known = this.tries.get(key);
    const recent = known && time - known.since < WINDOW_MS ? known : { count: 0, since: time };
    recent.count++;
    this.tries.set(key, recent);
    if (this.tries.size > KEPT_TRIES)
      for (const [old, one] of this.tries) if (time - one.since >= WINDOW_MS) this.tries.delete(old);
    return recent.count;
  }
}
