/** Who may sign in, and by which tokens. */
import type { Database } from "./database/database.js";

export interface UserRow {
  readonly id: number;
  readonly name: string;
}

export async function hasUsers(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1 FROM users LIMIT 1")).length > 0;
}

/** Adds somebody, or gives a known one another password. `password` is its derived form. */
export async function saveUser(database: Database, name: string, password: string): Promise<number> {
  const { id } = await database.one<{ id: number }>(
    "INSERT INTO users (name, password) VALUES ($1, $2) ON CONFLICT (name) DO UPDATE SET password = excluded.password RETURNING id",
    [name, password],
  );
  return id;
}

export async function userByName(
  database: Database,
  name: string,
): Promise<(UserRow & { readonly password: string }) | undefined> {
  const [user] = await database.select<UserRow & { password: string }>(
    "SELECT id, name, password FROM users WHERE name = $1",
    [name],
  );
  return user;
}

/** Keeps a token by its digest; without days it never ends. */
export async function saveToken(
  database: Database,
  user: number,
  token: { readonly digest: string; readonly kind: "session" | "client"; readonly days: number | null },
): Promise<void> {
  await database.execute(
    "INSERT INTO tokens (user_id, digest, kind, expires_at) VALUES ($1, $2, $3, now() + $4 * interval '1 day')",
    [user, token.digest, token.kind, token.days],
  );
}

export async function deleteToken(database: Database, digest: string): Promise<void> {
  await database.execute("DELETE FROM tokens WHERE digest = $1", [digest]);
}

/** Whose token it is, as long as it lasts. */
export async function userOfToken(database: Database, digest: string): Promise<UserRow | undefined> {
  const [user] = await database.select<UserRow>(
    "SELECT users.id, users.name FROM tokens JOIN users ON users.id = tokens.user_id WHERE digest = $1 AND (expires_at IS NULL OR expires_at > now())",
    [digest],
  );
  return user;
}
