/** Signing in by name and password, and a second factor where there is one. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import { setPassword, type UserRow, userByName, type WayIn } from "../records/index.js";
import { derivationsUnderWay, hashPassword, isPassword, isWeaklyKept } from "./passwords.js";
import { checkCode, needsFactor } from "./second-factor.js";
import { type Counted, type Tries, tooMany } from "./tries.js";

/** Sign-ins that may be tried within a minute from one address, and for one name from all addresses together. */
const MOST_FROM = 10;
const MOST_AS = 30;
const WINDOW_SECONDS = 60;
/** Sign-ins of all kinds that wait for their password to be looked at; more are turned away. */
const MOST_WAITING = 40;

/** What is counted of sign-ins from an address. */
export function triesFrom(address: string): Counted {
  return { key: `from ${address}`, most: MOST_FROM, seconds: WINDOW_SECONDS };
}

/**
 * Throws `NOT_SIGNED_IN`; `SECOND_FACTOR_NEEDED` where the password is right and a code is asked for; `TOO_MANY_TRIES` without having
 * looked at the password.
 */
export async function checkSignIn(
  context: Context,
  tries: Tries,
  given: { readonly name: string; readonly password: string; readonly code: string | undefined },
  address: string,
): Promise<{ readonly user: UserRow; readonly way: WayIn }> {
  const { database } = context;
  const name = given.name.slice(0, 100);
  const counted = [triesFrom(address), { key: `as ${name.toLowerCase()}`, most: MOST_AS, seconds: WINDOW_SECONDS }];
  await tries.check(counted, () => noteAction(database, name, "sign-in refused: too many tries", address));
  if (derivationsUnderWay() > MOST_WAITING) throw tooMany();
  const user = await userByName(database, given.name);
  // The same work is done for an unknown name, so that time does not tell which names there are.
  const matches = await isPassword(given.password, user?.password ?? null);
  if (!user?.password || user.state !== "active" || !matches) {
    await noteAction(database, name, "sign-in failed", address);
    throw new CorbixError("NOT_SIGNED_IN", say().serviceAccess.cannotSignNamePasswordWrong(), {
      advice: say().serviceAccess.firstSignKeptSignJson(),
    });
  }
  const isAsked = await needsFactor(context, user);
  if (isAsked && given.code === undefined)
    throw new CorbixError("SECOND_FACTOR_NEEDED", say().serviceAccess.factorNeeded(), {
      where: "code",
      advice: say().serviceAccess.giveCode(),
    });
  if (isAsked) await checkCode(context, tries, user, given.code ?? "");
  await tries.forget(counted.map(({ key }) => key));
  if (isWeaklyKept(user.password)) await setPassword(database, user.id, await hashPassword(given.password));
  return { user, way: isAsked ? "code" : "password" };
}
