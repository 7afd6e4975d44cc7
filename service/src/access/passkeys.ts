/** Passkeys (Web Authentication): a key on somebody's own device, which it uses for this address only, and after it has made sure of them. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import {
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  generateAuthenticationOptions,
  generateRegistrationOptions,
  type RegistrationResponseJSON,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
} from "@simplewebauthn/server";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import {
  addPasskey,
  deletePasskey,
  notePasskeyUse,
  passkeyByCredential,
  passkeysOf,
  spendChallenge,
} from "../records/index.js";
import { digestOf, type User } from "./access.js";

const CHALLENGE_MINUTES = 5;
const MOST_PASSKEYS = 20;

/** Whose passkeys they are: the address under which Corbix is open in the browser. */
export interface Site {
  readonly origin: string;
  readonly host: string;
}

/** What the browser signs, as it comes back: nothing of it is kept here meanwhile. */
interface Begun {
  readonly kind: "add" | "sign in";
  readonly user: number | null;
  readonly challenge: string;
  readonly until: number;
}

/** Where passkeys can be had: under a name with TLS, or on this machine (Web Authentication 5.1, secure contexts). */
export function passkeySite(publicUrl: string | undefined, calledAs: string): Site | undefined {
  const address = publicUrl ?? `http://${calledAs}`;
  if (!URL.canParse(address)) return undefined;
  const { origin, protocol, hostname } = new URL(address);
  const isName = /[a-z]/i.test(hostname) && !hostname.includes(":");
  const isSafe = protocol === "https:" ? isName : hostname === "localhost";
  return isSafe ? { origin, host: hostname } : undefined;
}

function siteOrFail(site: Site | undefined): Site {
  if (site) return site;
  throw new CorbixError("CONFLICT", say().serviceAccess.noPasskeysHere(), {
    where: "passkeys",
    advice: say().serviceAccess.setPublicUrl(),
  });
}

function begin(context: Context, kind: Begun["kind"], user: number | null, challenge: string): string {
  const until = context.now().getTime() + CHALLENGE_MINUTES * 60_000;
  return context.secrets.seal(JSON.stringify({ kind, user, challenge, until } satisfies Begun));
}

/** What was begun. Throws `CONFLICT` where it was something else, too long ago, or is answered already. */
async function begun(context: Context, state: string, kind: Begun["kind"], user: number | null): Promise<Begun> {
  const known = readBegun(context, state);
  const now = context.now().getTime();
  const isGood = known?.kind === kind && known.user === user && known.until > now;
  if (isGood && (await spendChallenge(context.database, digestOf(known.challenge), new Date(known.until))))
    return known;
  throw new CorbixError("CONFLICT", say().serviceAccess.passkeyTooLate(), {
    where: "state",
    advice: say().serviceAccess.tryPasskeyAgain(),
  });
}

function readBegun(context: Context, state: string): Begun | undefined {
  try {
    return JSON.parse(context.secrets.open(state)) as Begun;
  } catch {
    return undefined;
  }
}

/** What a browser needs to make a passkey. */
export async function beginPasskey(context: Context, site: Site | undefined, user: User) {
  const { host } = siteOrFail(site);
  const known = await passkeysOf(context.database, user.id);
  if (known.length >= MOST_PASSKEYS)
    throw new CorbixError("CONFLICT", say().serviceAccess.tooManyPasskeys({ most: MOST_PASSKEYS }), {
      where: "passkeys",
      advice: say().serviceAccess.takeOneOut(),
    });
  const options = await generateRegistrationOptions({
    rpName: "Corbix",
    rpID: host,
    userID: new TextEncoder().encode(`corbix ${user.id}`),
    userName: user.name,
    userDisplayName: user.shownName ?? user.name,
    attestationType: "none",
    excludeCredentials: known.map(({ credential }) => ({ id: credential })),
    authenticatorSelection: { residentKey: "required", userVerification: "required" },
  });
  return { options, state: begin(context, "add", user.id, options.challenge) };
}

/** Keeps what the browser made. Throws `BAD_REQUEST` where it is not what was asked for. */
export async function finishPasskey(
  context: Context,
  site: Site | undefined,
  user: User,
  sent: { readonly state: string; readonly name: string; readonly response: object },
): Promise<number> {
  const { origin, host } = siteOrFail(site);
  const { challenge } = await begun(context, sent.state, "add", user.id);
  const { verified, registrationInfo } = await verifyRegistrationResponse({
    response: sent.response as RegistrationResponseJSON,
    expectedChallenge: challenge,
    expectedOrigin: origin,
    expectedRPID: host,
    requireUserVerification: true,
  }).catch(() => ({ verified: false, registrationInfo: undefined }));
  if (!verified || !registrationInfo) throw badPasskey("BAD_REQUEST");
  const { id: credential, publicKey, counter, transports = [] } = registrationInfo.credential;
  const id = await addPasskey(context.database, {
    userId: user.id,
    credential,
    publicKey: Buffer.from(publicKey),
    counter,
    transports,
    name: sent.name,
  });
  if (id === undefined) throw badPasskey("CONFLICT");
  await noteAction(context.database, user.name, "passkey added", sent.name);
  return id;
}

/** What a browser needs to sign in: it offers whatever passkeys it has for this address. */
export async function beginPasskeySignIn(context: Context, site: Site | undefined) {
  const { host } = siteOrFail(site);
  const options = await generateAuthenticationOptions({ rpID: host, userVerification: "required" });
  return { options, state: begin(context, "sign in", null, options.challenge) };
}

/** Who signs in. Throws `NOT_SIGNED_IN`. */
export async function finishPasskeySignIn(
  context: Context,
  site: Site | undefined,
  sent: { readonly state: string; readonly response: object },
): Promise<{ readonly id: number; readonly name: string }> {
  const { origin, host } = siteOrFail(site);
  const { challenge } = await begun(context, sent.state, "sign in", null);
  const response = sent.response as AuthenticationResponseJSON;
  const known = typeof response.id === "string" ? await passkeyByCredential(context.database, response.id) : undefined;
  if (!known) {
    await noteAction(context.database, "unknown", "sign-in failed: passkey", "passkey");
    throw badPasskey("NOT_SIGNED_IN");
  }
  const { verified, authenticationInfo } = await verifyAuthenticationResponse({
    response,
    expectedChallenge: challenge,
    expectedOrigin: origin,
    expectedRPID: host,
    requireUserVerification: true,
    credential: {
      id: known.credential,
      publicKey: new Uint8Array(known.publicKey),
      counter: known.counter,
      transports: known.transports as AuthenticatorTransport[],
    },
  }).catch(() => ({ verified: false, authenticationInfo: undefined }));
  if (!verified || !authenticationInfo) {
    await noteAction(context.database, known.person, "sign-in failed: passkey", known.name);
    throw badPasskey("NOT_SIGNED_IN");
  }
  await notePasskeyUse(context.database, known.id, authenticationInfo.newCounter);
  return { id: known.userId, name: known.person };
}

/** Throws `NOT_FOUND`. */
export async function dropPasskey(context: Context, user: User, id: number): Promise<void> {
  const name = await deletePasskey(context.database, user.id, id);
  if (name === undefined)
    throw new CorbixError("NOT_FOUND", say().serviceAccess.cannotFindPasskey({ id }), { where: "passkeys" });
  await noteAction(context.database, user.name, "passkey taken out", name);
}

function badPasskey(code: "BAD_REQUEST" | "CONFLICT" | "NOT_SIGNED_IN"): CorbixError {
  const words = say().serviceAccess;
  const what =
    code === "NOT_SIGNED_IN" ? words.passkeyUnknown() : code === "CONFLICT" ? words.passkeyThere() : words.passkeyBad();
  return new CorbixError(code, what, { where: "passkeys", advice: words.tryPasskeyAgain() });
}
