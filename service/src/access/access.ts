import { createHash, randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import {
  type Database,
  deleteToken,
  saveToken,
  saveUser,
  type UserRow,
  userByName,
  userOfToken,
} from "../records/index.js";

const derive = promisify(scrypt) as (password: string, salt: Buffer, length: number) => Promise<Buffer>;

/** A session of the console lasts so long. */
const SESSION_DAYS = 14;
/** Sign-ins that may be tried within a window from one address, and for one name from all addresses together. */
const MAX_TRIES = 10;
const MAX_TRIES_AS = 30;
const WINDOW_MS = 60_000;
/** Beyond so many counts those whose window is over are forgotten. */
const KEPT_TRIES = 10_000;

export type User = UserRow;

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `${salt.toString("hex")}:${(await derive(password, salt, 32)).toString("hex")}`;
}

async function isPassword(password: string, kept: string): Promise<boolean> {
  const [salt = "", hash = ""] = kept.split(":");
  return timingSafeEqual(await derive(password, Buffer.from(salt, "hex"), 32), Buffer.from(hash, "hex"));
}

/** Tokens are kept as digests, so that the database gives none away. */
function digest(token: string): string {
  return createHash("sha256").update(token).digest("hex");
}

export async function addUser(database: Database, name: string, password: string): Promise<number> {
  return saveUser(database, name, await hashPassword(password));
}

/** A new token of a user; sessions end by themselves, those of clients do not. */
export async function addToken(database: Database, userId: number, kind: "session" | "client"): Promise<string> {
  const token = randomBytes(24).toString("base64url");
  await saveToken(database, userId, { digest: digest(token), kind, days: kind === "session" ? SESSION_DAYS : null });
  return token;
}

export async function removeToken(database: Database, token: string): Promise<void> {
  await deleteToken(database, digest(token));
}

/** Whose token it is. */
export async function maybeUser(database: Database, token: string): Promise<User | undefined> {
  return userOfToken(database, digest(token));
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
    const user = await userByName(this.database, name);
    // The same work is done for an unknown name, so that time does not tell which names there are.
    const matches = await isPassword(password, user?.password ?? NOBODY);
    if (user && matches) {
      for (const { key } of counts) this.tries.delete(key);
      return { id: user.id, name: user.name };
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

const NOBODY = `${"00".repeat(16)}:${"00".repeat(32)}`;
