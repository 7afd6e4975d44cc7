import { createHash, randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import { CorbixError } from "@corbix/core/common";
import type { Database } from "../records/index.js";

const derive = promisify(scrypt) as (password: string, salt: Buffer, length: number) => Promise<Buffer>;

/** A session of the console lasts so long. */
const SESSION_DAYS = 14;
/** Failed sign-ins that one address may make in a minute. */
const MAX_FAILURES = 10;

export interface User {
  readonly id: number;
  readonly name: string;
}

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `${salt.toString("hex")}:${(await derive(password, salt, 32)).toString("hex")}`;
}

async function isPassword(password: string, kept: string): Promise<boolean> {
  const [salt, hash] = kept.split(":").map((part) => Buffer.from(part, "hex"));
  return timingSafeEqual(await derive(password, salt, 32), hash);
}

/** Tokens are kept as digests, so that the database gives none away. */
function digest(token: string): string {
  return createHash("sha256").update(token).digest("hex");
}

export async function addUser(database: Database, name: string, password: string): Promise<number> {
  const [user] = await database.select<{ id: number }>(
    "INSERT INTO users (name, password) VALUES ($1, $2) ON CONFLICT (name) DO UPDATE SET password = excluded.password RETURNING id",
    [name, await hashPassword(password)],
  );
  return user.id;
}

/** A new token of a user; sessions end by themselves, those of clients do not. */
export async function addToken(database: Database, userId: number, kind: "session" | "client"): Promise<string> {
  const token = randomBytes(24).toString("base64url");
  await database.execute(
    "INSERT INTO tokens (user_id, digest, kind, expires_at) VALUES ($1, $2, $3, CASE WHEN $3 = 'session' THEN now() + $4 * interval '1 day' END)",
    [userId, digest(token), kind, SESSION_DAYS],
  );
  return token;
}

export async function removeToken(database: Database, token: string): Promise<void> {
  await database.execute("DELETE FROM tokens WHERE digest = $1", [digest(token)]);
}

/** Whose token it is. */
export async function maybeUser(database: Database, token: string): Promise<User | undefined> {
  const [user] = await database.select<User>(
    "SELECT users.id, users.name FROM tokens JOIN users ON users.id = tokens.user_id WHERE digest = $1 AND (expires_at IS NULL OR expires_at > now())",
    [digest(token)],
  );
  return user;
}

/** Checks name and password; too many failures from one address make it wait. */
export class SignIn {
  private readonly failures = new Map<string, { count: number; since: number }>();

  constructor(
    private readonly database: Database,
    private readonly now: () => Date,
  ) {}

  /** Throws `NOT_SIGNED_IN`. */
  async check(name: string, password: string, address: string): Promise<User> {
    const time = this.now().getTime();
    const failed = this.failures.get(address);
    const recent = failed && time - failed.since < 60_000 ? failed : { count: 0, since: time };
    if (recent.count >= MAX_FAILURES)
      throw new CorbixError("NOT_SIGNED_IN", "Cannot sign in: too many attempts.", { advice: "Wait a minute." });
    const [user] = await this.database.select<User & { password: string }>(
      "SELECT id, name, password FROM users WHERE name = $1",
      [name],
    );
    // The same work is done for an unknown name, so that time does not tell which names there are.
    const matches = await isPassword(password, user?.password ?? NOBODY);
    if (user && matches) {
      this.failures.delete(address);
      return { id: user.id, name: user.name };
    }
    this.failures.set(address, { ...recent, count: recent.count + 1 });
    throw new CorbixError("NOT_SIGNED_IN", "Cannot sign in: name or password is wrong.", {
      advice: "The first sign-in is printed by npm start.",
    });
  }
}

const NOBODY = `${"00".repeat(16)}:${"00".repeat(32)}`;
