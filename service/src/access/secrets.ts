import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes } from "node:crypto";
import { mkdir, readFile, writeFile } from "node:fs/promises";
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
}

/** `key` as given, or the one in the data folder, which is made at the first start and readable by its owner only. */
export async function openSecrets(data: string, key: string | undefined): Promise<Secrets> {
  const secret = createHash("sha256")
    .update(key ?? (await keptKey(data)))
    .digest();
  return {
    sign: (text) => createHmac("sha256", secret).update(`link ${text}`).digest("base64url"),
    seal: (text) => {
      const vector = randomBytes(12);
      const cipher = createCipheriv("aes-256-gcm", secret, vector);
      const sealed = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
      return Buffer.concat([vector, cipher.getAuthTag(), sealed]).toString("base64");
    },
    open: (sealed) => {
      const bytes = Buffer.from(sealed, "base64");
      try {
        const cipher = createDecipheriv("aes-256-gcm", secret, bytes.subarray(0, 12));
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

/** Tells a key from others, without telling it. */
export async function keyMark(data: string, key: string | undefined): Promise<string> {
  return createHmac("sha256", key ?? (await keptKey(data)))
    .update("which key")
    .digest("hex")
    .slice(0, 16);
}

async function keptKey(data: string): Promise<string> {
  const path = join(data, "secret.key");
  const known = await readFile(path, "utf8").catch(() => undefined);
  if (known) return known.trim();
  await mkdir(data, { recursive: true });
  // Several processes may start at once: the first one's key counts.
  await writeFile(path, `${randomBytes(32).toString("base64")}\n`, { mode: 0o600, flag: "wx" }).catch(() => {});
  return (await readFile(path, "utf8")).trim();
}
