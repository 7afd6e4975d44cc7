/** A second factor beside the password: codes of an authenticator (TOTP, RFC 6238), and recovery codes for when it is lost. */
import { randomBytes } from "node:crypto";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { Secret, TOTP } from "otpauth";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import {
  confirmTotp,
  factorsOf,
  removeFactors,
  removeTotp,
  setRecoveryCodes,
  setWay,
  useRecoveryCode,
  userByName,
  useTotpStep,
  wishTotp,
} from "../records/index.js";
import { digestOf, type User } from "./access.js";
import { isPassword } from "./passwords.js";
import type { Tries } from "./tries.js";

/** What every authenticator takes: SHA-1, six digits, half a minute (RFC 6238, 1.2 and 5.2). */
const PERIOD_SECONDS = 30;
const SECRET_BYTES = 20;
const ISSUER = "Corbix";
/** A code of the step before or after is taken too, for clocks that differ (RFC 6238, 5.2). */
const STEPS_ASIDE = 1;
const RECOVERY_CODES = 10;
/** Eighty bits each. */
const RECOVERY_BYTES = 10;
/** Wrong codes that may be given for somebody: three in a million of each are right by chance. */
const MOST_CODES = 5;
const CODE_SECONDS = 15 * 60;
/** Times that one's own password may be given again. */
const MOST_PASSWORDS = 10;

const codesOf = (user: { readonly id: number }) => `code of ${user.id}`;

/** Begins with an authenticator: the secret counts once its first code was given. */
export async function beginTotp(
  context: Context,
  user: User,
): Promise<{ readonly secret: string; readonly uri: string }> {
  const secret = Secret.fromHex(randomBytes(SECRET_BYTES).toString("hex"));
  await wishTotp(context.database, user.id, context.secrets.seal(secret.base32));
  return { secret: secret.base32, uri: authenticator(secret.base32, user.name).toString() };
}

/** The first code is given: from now on codes are asked for. Gives recovery codes where there are none yet. */
export async function finishTotp(context: Context, tries: Tries, user: User, code: string): Promise<readonly string[]> {
  const { totpWanted } = await factorsOf(context.database, user.id);
  if (totpWanted === null)
    throw new CorbixError("CONFLICT", say().serviceAccess.nothingBegun(), {
      where: "code",
      advice: say().serviceAccess.beginWithAuthenticator(),
    });
  await tries.check([{ key: codesOf(user), most: MOST_CODES, seconds: CODE_SECONDS }]);
  const step = stepOf(context, context.secrets.open(totpWanted), user.name, code);
  if (step === undefined || !(await confirmTotp(context.database, user.id, totpWanted, step))) throw wrongCode();
  await tries.forget([codesOf(user)]);
  await noteAction(context.database, user.name, "authenticator added", user.name);
  return afterNewFactor(context, user);
}

/** Sessions of before go on; this one is worth what it would be with the factor. Gives recovery codes where there are none. */
export async function afterNewFactor(context: Context, user: User): Promise<readonly string[]> {
  if (user.token?.kind === "session") await setWay(context.database, user.token.id, "code");
  const { recoveryCodes } = await factorsOf(context.database, user.id);
  return recoveryCodes > 0 ? [] : newRecoveryCodes(context, user);
}

/** Others in place of those before; told once. */
export async function newRecoveryCodes(context: Context, user: User): Promise<readonly string[]> {
  const codes = Array.from({ length: RECOVERY_CODES }, newRecoveryCode);
  await setRecoveryCodes(context.database, user.id, codes.map(digestOfRecovery));
  await noteAction(context.database, user.name, "recovery codes made", user.name, { codes: codes.length });
  return codes;
}

export async function endTotp(context: Context, user: User): Promise<void> {
  await removeTotp(context.database, user.id);
  await noteAction(context.database, user.name, "authenticator taken out", user.name);
}

/** For somebody who has lost what they sign in with. */
export async function dropFactors(
  context: Context,
  person: { readonly id: number; readonly name: string },
  by: string,
): Promise<void> {
  await removeFactors(context.database, person.id);
  await noteAction(context.database, by, "second factors taken out", person.name);
}

/** Whether a second factor is asked for after the password. */
export async function needsFactor(context: Context, user: { readonly id: number }): Promise<boolean> {
  const { totp, passkeys } = await factorsOf(context.database, user.id);
  return totp !== null || passkeys > 0;
}

/** Takes a code of the authenticator or a recovery code. Throws `NOT_SIGNED_IN`, or `TOO_MANY_TRIES` without having looked. */
export async function checkCode(
  context: Context,
  tries: Tries,
  user: { readonly id: number; readonly name: string },
  code: string,
): Promise<void> {
  await tries.check([{ key: codesOf(user), most: MOST_CODES, seconds: CODE_SECONDS }], () =>
    noteAction(context.database, user.name, "sign-in refused: too many codes", user.name),
  );
  if (!(await isCode(context, user, code))) {
    await noteAction(context.database, user.name, "sign-in failed: wrong code", user.name);
    throw wrongCode();
  }
  await tries.forget([codesOf(user)]);
}

async function isCode(
  context: Context,
  user: { readonly id: number; readonly name: string },
  code: string,
): Promise<boolean> {
  const { database, secrets } = context;
  const plain = code.replace(/[\s-]/g, "").toUpperCase();
  if (!/^\d{6}$/.test(plain)) {
    const isRecovered = await useRecoveryCode(database, user.id, digestOfRecovery(plain));
    if (isRecovered) await noteAction(database, user.name, "recovery code used", user.name);
    return isRecovered;
  }
  const { totp } = await factorsOf(database, user.id);
  const step = totp === null ? undefined : stepOf(context, secrets.open(totp), user.name, plain);
  // No code counts twice (RFC 6238, 5.2).
  return step !== undefined && useTotpStep(database, user.id, step);
}

/** Shows that it is still the person who is signed in, before what they sign in with is changed. Who has no password has signed in elsewhere. */
export async function checkAgain(
  context: Context,
  tries: Tries,
  user: User,
  password: string | undefined,
  where = "password",
): Promise<void> {
  const kept = (await userByName(context.database, user.name))?.password ?? null;
  if (kept === null) return;
  if (password === undefined) throw new CorbixError("BAD_REQUEST", say().serviceAccess.passwordAgain(), { where });
  const counted = { key: `again ${user.id}`, most: MOST_PASSWORDS, seconds: 60 };
  await tries.check([counted]);
  if (await isPassword(password, kept)) return tries.forget([counted.key]);
  await noteAction(context.database, user.name, "password given again was wrong", user.name);
  throw new CorbixError("NOT_ALLOWED", say().serviceAccess.oldPasswordWrong(), { where });
}

function stepOf(context: Context, secret: string, name: string, code: string): number | undefined {
  const timestamp = context.now().getTime();
  const aside = authenticator(secret, name).validate({
    token: code.replace(/\s/g, ""),
    timestamp,
    window: STEPS_ASIDE,
  });
  return aside === null ? undefined : Math.floor(timestamp / 1000 / PERIOD_SECONDS) + aside;
}

function authenticator(secret: string, name: string): TOTP {
  return new TOTP({ issuer: ISSUER, label: name, secret: Secret.fromBase32(secret), period: PERIOD_SECONDS });
}

/** Four by four letters and digits, without those that look alike. */
function newRecoveryCode(): string {
  const text = Secret.fromHex(randomBytes(RECOVERY_BYTES).toString("hex")).base32;
  return (text.match(/.{4}/g) ?? []).join("-");
}

function digestOfRecovery(code: string): string {
  return digestOf(`recovery ${code.replaceAll("-", "")}`);
}

function wrongCode(): CorbixError {
  return new CorbixError("NOT_SIGNED_IN", say().serviceAccess.wrongCode(), {
    where: "code",
    advice: say().serviceAccess.takeNewestCode(),
  });
}
