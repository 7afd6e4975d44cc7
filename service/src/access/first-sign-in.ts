import { randomBytes } from "node:crypto";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { type Database, hasUsers } from "../records/index.js";
import { addToken, addUser } from "./access.js";

export interface FirstSignIn {
  readonly name: string;
  readonly password: string;
  readonly token: string;
}

/** The sign-in, and whether this start made it: only then its password is shown. */
export interface OpenedSignIn extends FirstSignIn {
  readonly isNew: boolean;
}

const NAME = "office";

/**
 * The sign-in that is there from the first start: made by chance, kept in the data folder readable by its owner only,
 * and printed when it is made.
 */
export async function firstSignIn(database: Database, data: string): Promise<OpenedSignIn> {
  const path = join(data, "sign-in.json");
  const isKnown = await hasUsers(database);
  const known = await readFile(path, "utf8").then(
    (text) => JSON.parse(text) as FirstSignIn,
    () => undefined,
  );
  if (isKnown && known) return { ...known, isNew: false };
  const password = randomBytes(12).toString("base64url");
  const id = await addUser(database, NAME, password);
  const made = { name: NAME, password, token: await addToken(database, id, "client", { name: "sign-in.json" }) };
  await mkdir(data, { recursive: true });
  await writeFile(path, `${JSON.stringify(made, null, 2)}\n`, { mode: 0o600 });
  return { ...made, isNew: true };
}
