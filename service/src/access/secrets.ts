import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes } from "node:crypto";
import { mkdir, open, readFile, rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";

/** Passwords that have to be kept: encrypted with a key that is not in the database (AES-256-GCM). */
export interface Secrets {
  readonly seal: (text: string) => string;
  /** Throws `BAD_SETTING` where the key is not the one it was sealed with. */
  readonly open: (sealed: string) => string;
  /** A signature of a text that nobody else can make (HMAC of RFC 2104 with SHA-256), fit for addresses. */
  readonly sign: (text: string) => string;
  /** The same, and behind it those that former keys have made of it: addresses that were sent go on. */
  readonly signs: (text: string) => readonly string[];
  /** Tells the key from others, without telling it. */
  readonly mark: string;
}

/** The file of the key in the data folder, readable by its owner only. */
const KEY_FILE = "secret.key";
const NEXT_FILE = "secret.key.next";

/** `key` as given, or the one in the data folder, which is made at the first start. */
export async function openSecrets(data: string, key: string | undefined): Promise<Secrets> {
  return secretsOf(key ?? (await keptKey(data)));
}

/** @param former what former keys signed with, as {@link formerOf} gave it */
export function secretsOf(key: string, former: readonly string[] = []): Secrets {
  const secret = createHash("sha256").update(key).digest();
  const signed = (by: Buffer, text: string): string =>
    createHmac("sha256", by).update(`link ${text}`).digest("base64url");
  return {
    mark: createHmac("sha256", key).update("which key").digest("hex").slice(0, 16),
    sign: (text) => signed(secret, text),
    signs: (text) => [secret, ...former.map((one) => Buffer.from(one, "base64"))].map((by) => signed(by, text)),
    seal: (text) => {
      const vector = randomBytes(12);
      const cipher = createCipheriv("aes-256-gcm", secret, vector);
      const sealed = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
      return Buffer.concat([vector, cipher.getAuthTag(), sealed]).toString("base64");
    },
    open: (sealed) => {
      const bytes = Buffer.from(sealed, "base64");
      try {
        const cipher = createDecipheriv("aes-256-gcm", secret, bytes.subarray(0, 12), { authTagLength: 16 });
        cipher.setAuthTag(bytes.subarray(12, 28));
        return Buffer.concat([cipher.update(bytes.subarray(28)), cipher.final()]).toString("utf8");
      } catch (cause) {
        throw new CorbixError("BAD_SETTING", say().serviceAccess.cannotReadKeptPasswordSealed(), {
          where: "CORBIX_SECRET_KEY",
          advice: say().serviceAccess.restoreKeySetPasswordAnew(),
          cause,
        });
      }
    },
  };
}

/** What a key signs with, to be kept sealed under the key after it. */
export function formerOf(key: string): string {
  return createHash("sha256").update(key).digest("base64");
}

/** The key that counts. */
export async function currentKey({
  data,
  secretKey,
}: {
  readonly data: string;
  readonly secretKey?: string | undefined;
}): Promise<string> {
  return secretKey ?? (await keptKey(data));
}

/** The key in the data folder, if one is there. */
export async function maybeKey(data: string): Promise<string | undefined> {
  return (await readFile(join(data, KEY_FILE), "utf8").catch(() => undefined))?.trim() || undefined;
}

/** Tells a key from others, without telling it; blank where there is none. */
export async function keyMark(data: string, key: string | undefined): Promise<string> {
  const known = key ?? (await maybeKey(data));
  return known === undefined ? "" : secretsOf(known).mark;
}

export function newKey(): string {
  return randomBytes(32).toString("base64");
}

/** Puts the key that was laid beside in the place of the one before. */
export async function replaceKey(data: string): Promise<void> {
  await rename(join(data, NEXT_FILE), join(data, KEY_FILE));
}

/** Lays the key to come beside the one that counts: whatever happens between, one of the two opens the database's secrets. */
export async function layNextKey(data: string, key: string): Promise<void> {
  const handle = await open(join(data, NEXT_FILE), "w", 0o600);
  try {
    await handle.writeFile(`${key}\n`);
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Where changing the key was broken off after the database had taken it: the one that was laid beside counts then. */
export async function adoptNextKey(data: string, mark: string): Promise<boolean> {
  const next = (await readFile(join(data, NEXT_FILE), "utf8").catch(() => undefined))?.trim();
  if (next === undefined || secretsOf(next).mark !== mark) return false;
  await replaceKey(data);
  return true;
}

async function keptKey(data: string): Promise<string> {
  const known = await maybeKey(data);
  if (known) return known;
  await mkdir(data, { recursive: true });
  // Several processes may start at once: the first one's key counts.
  await writeFile(join(data, KEY_FILE), `${newKey()}\n`, { mode: 0o600, flag: "wx" }).catch(() => {});
  return (await readFile(join(data, KEY_FILE), "utf8")).trim();
}
