/** Calls that are done once: what was answered to a key of somebody's. */
import type { Database } from "./database/database.js";

export interface KeptCall {
  /** What was asked: method, address and digest of the body. */
  readonly request: string;
  /** The process that answers or answered it. */
  readonly process: string;
  /** Missing as long as it is being done. */
  readonly status: number | null;
  readonly location: string | null;
  readonly etag: string | null;
  readonly answer: unknown;
}

/** Takes a key for a call; gives what is known of it where it was taken before. */
export async function takeKey(
  database: Database,
  user: number,
  key: string,
  call: Pick<KeptCall, "request" | "process">,
): Promise<KeptCall | undefined> {
  const taken = await database.execute(
    "INSERT INTO calls (user_id, key, request, process) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING",
    [user, key, call.request, call.process],
  );
  if (taken > 0) return undefined;
  const [known] = await database.select<KeptCall>(
    "SELECT request, process, status, location, etag, answer FROM calls WHERE user_id = $1 AND key = $2",
    [user, key],
  );
  return known;
}

export async function keepAnswer(
  database: Database,
  user: number,
  key: string,
  { status, location, etag, answer }: Pick<KeptCall, "status" | "location" | "etag" | "answer">,
): Promise<void> {
  await database.execute(
    "UPDATE calls SET status = $3, location = $4, etag = $5, answer = $6 WHERE user_id = $1 AND key = $2",
    [user, key, status, location, etag, JSON.stringify(answer)],
  );
}

/** A call that was not done may be tried again with its key. */
export async function giveBackKey(database: Database, user: number, key: string): Promise<void> {
  await database.execute("DELETE FROM calls WHERE user_id = $1 AND key = $2", [user, key]);
}

export async function forgetCalls(database: Database, now: Date, hours: number): Promise<void> {
  await database.execute("DELETE FROM calls WHERE created_at < $1::timestamptz - $2 * interval '1 hour'", [now, hours]);
}
