/** Passwords by NIST SP 800-63B: long, not one that everybody knows, no rules beyond that, and kept so that they cannot be read. */
import { randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import { CorbixError, packageOnUse } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type Common from "@zxcvbn-ts/language-common";
import pLimit from "p-limit";

/** SP 800-63B-4, 3.1.1.2: of a password that is all there is to sign in with. */
const SHORTEST = 15;
/** So many digits and signs behind a common password do not make it another. */
const MOST_APPENDED = 10;
const LONGEST = 200;
/** What the service is called is the first that is tried. */
const OWN_WORDS = ["corbix"];
/** Derived by scrypt (RFC 7914), with the costs that OWASP gives for it: 32 MiB and some fifty milliseconds each. */
const COST = { N: 2 ** 15, r: 8, p: 3 } as const;
/** What older versions derived with. */
const OLD_COST = { N: 2 ** 14, r: 8, p: 1 } as const;
const MAX_MEMORY = 64 * 1024 * 1024;
const HASH_BYTES = 32;
/** Derivations at a time, so that the service has something left for everybody else. */
const deriving = pLimit(2);

const commonPasswords = packageOnUse<typeof Common>("@zxcvbn-ts/language-common");
let common: ReadonlySet<string> | undefined;

/** Throws `BAD_REQUEST` with what is wrong. `about`: names and words that it may not be made of. */
export function checkPassword(password: string, about: readonly string[]): void {
  const plain = password.normalize("NFKC");
  const length = [...plain].length;
  if (length < SHORTEST) throw refused(say().serviceAccess.passwordTooShort({ length, shortest: SHORTEST }));
  if (length > LONGEST) throw refused(say().serviceAccess.passwordTooLong({ longest: LONGEST }));
  const folded = plain.toLowerCase();
  common ??= new Set(commonPasswords().dictionary["passwords-common"] as readonly string[]);
  const bare = folded.replace(/[\d\W_]+$/u, "");
  if (common.has(folded) || (common.has(bare) && length - [...bare].length <= MOST_APPENDED))
    throw refused(say().serviceAccess.passwordIsCommon());
  if (isRepeated(folded) || isRow(folded)) throw refused(say().serviceAccess.passwordIsPattern());
  const words = [...OWN_WORDS, ...about].map((word) => word.normalize("NFKC").toLowerCase()).filter(Boolean);
  const rest = words.reduce((left, word) => left.replaceAll(word, ""), folded);
  // A name within a long one is no harm; one that is little besides is.
  if ([...rest].length < SHORTEST / 2) throw refused(say().serviceAccess.passwordIsName());
}

function refused(what: string): CorbixError {
  return new CorbixError("BAD_REQUEST", what, { where: "password", advice: say().serviceAccess.chooseLongPassword() });
}

/** Whether a text is one short piece over and over. */
function isRepeated(text: string): boolean {
  for (let length = 1; length <= 4; length++) {
    const piece = text.slice(0, length);
    if (piece.repeat(Math.ceil(text.length / length)).startsWith(text)) return true;
  }
  return false;
}

/** Whether each sign follows the one before, up or down. */
function isRow(text: string): boolean {
  const steps = [...text].map((sign, at, all) =>
    at === 0 ? 0 : (sign.codePointAt(0) ?? 0) - (all[at - 1]?.codePointAt(0) ?? 0),
  );
  const [, first] = steps;
  return (first === 1 || first === -1) && steps.slice(1).filter((step) => step !== first).length <= 2;
}

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const hash = await derive(password, salt, COST);
  return ["scrypt", COST.N, COST.r, COST.p, salt.toString("hex"), hash.toString("hex")].join(":");
}

/** Whether a password is the one that is kept. The same work is done where nothing is kept, so that time does not tell. */
export async function isPassword(password: string, kept: string | null): Promise<boolean> {
  const { cost, salt, hash } = readKept(kept ?? NOTHING);
  const own = await derive(password, salt, cost);
  return timingSafeEqual(own, hash) && kept !== null;
}

/** Whether a kept password was derived with less than is used now. */
export function isWeaklyKept(kept: string): boolean {
  return readKept(kept).cost.N < COST.N;
}

const NOTHING = ["scrypt", COST.N, COST.r, COST.p, "00".repeat(16), "00".repeat(HASH_BYTES)].join(":");

interface Cost {
  readonly N: number;
  readonly r: number;
  readonly p: number;
}

function readKept(kept: string): { readonly cost: Cost; readonly salt: Buffer; readonly hash: Buffer } {
  const parts = kept.split(":");
  const [salt = "", hash = ""] = parts.slice(-2);
  const [N = 0, r = 0, p = 0] = parts.slice(1, -2).map(Number);
  const cost = parts.length === 2 ? OLD_COST : { N, r, p };
  return { cost, salt: Buffer.from(salt, "hex"), hash: Buffer.from(hash, "hex") };
}

function derive(password: string, salt: Buffer, cost: Cost): Promise<Buffer> {
  return deriving(
    () =>
      new Promise<Buffer>((resolve, reject) => {
        const options = { ...cost, maxmem: MAX_MEMORY };
        scrypt(password.normalize("NFKC"), salt, HASH_BYTES, options, (error, key) =>
          error ? reject(error) : resolve(key),
        );
      }),
  );
}

/** How many derivations wait or are under way. */
export function derivationsUnderWay(): number {
  return deriving.pendingCount + deriving.activeCount;
}
