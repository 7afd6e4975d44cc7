/** Sign-in by the office's own provider: OpenID Connect, code flow with PKCE; what somebody may do is as their groups say. */
import type { Grants, SignInProvider } from "@corbix/api";
import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { createRemoteJWKSet, jwtVerify } from "jose";
import { LRUCache } from "lru-cache";
import * as openid from "openid-client";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  addProvided,
  deleteProvider,
  endSessionsByWay,
  keptProvider,
  type ProvidedUser,
  saveProvider,
  setUserFacts,
  spendChallenge,
  tieByAddress,
  userOfProvider,
} from "../records/index.js";
import { digestOf, type User } from "./access.js";

/** Whoever goes to the provider is back within so long. */
const TRIP_MINUTES = 15;
/** What a provider says of itself is read again after so long. */
const KNOWN_MS = 10 * 60_000;
const ANSWER_SECONDS = 15;
/** Names that are tried for somebody whose own is taken. */
const MOST_NAMES = 50;
const LOGOUT_EVENT = "http://schemas.openid.net/event/backchannel-logout";

/** Under the address that the provider sends people back to. */
export const PROVIDER_BACK = "/sign-in/back";
export const PROVIDER_ENDED = "/sign-in/ended";

/** What is kept with the browser while somebody is at the provider; sealed. */
interface Trip {
  readonly state: string;
  readonly nonce: string;
  readonly verifier: string;
  readonly until: number;
}

const known = new LRUCache<string, openid.Configuration>({ max: 10, ttl: KNOWN_MS });
/** Keys of providers by their address: fetched again where one is not among them, no more than every half minute. */
const keySets = new LRUCache<string, ReturnType<typeof createRemoteJWKSet>>({ max: 10 });

export interface KeptProvider {
  readonly settings: SignInProvider;
  readonly secret: string | null;
}

export async function getProvider(context: Context): Promise<KeptProvider | undefined> {
  const kept = await keptProvider(context.database);
  if (!kept) return undefined;
  return {
    settings: kept.settings as SignInProvider,
    secret: kept.secret === null ? null : context.secrets.open(kept.secret),
  };
}

/** Throws `NOT_FOUND` where the office has none. */
export async function providerOrFail(context: Context): Promise<KeptProvider> {
  const kept = await getProvider(context);
  if (kept) return kept;
  throw new CorbixError("NOT_FOUND", say().serviceAccess.noProvider(), {
    where: "sign-in-provider",
    advice: say().serviceAccess.setProviderUp(),
  });
}

/** Keeps how the provider is reached, once it has answered. A secret that is not given stays. Throws `BAD_REQUEST` where it does not answer. */
export async function changeProvider(
  context: Context,
  settings: SignInProvider,
  secret: string | undefined,
  by: User,
): Promise<void> {
  const before = await getProvider(context);
  const kept = secret ?? before?.secret ?? null;
  known.clear();
  await configurationOf({ settings, secret: kept });
  await saveProvider(context.database, settings, kept === null ? null : context.secrets.seal(kept));
  await noteAction(context.database, by.name, "sign-in provider changed", settings.issuer, {
    before: before?.settings ?? null,
    after: settings,
    secret: secret === undefined ? "as before" : "another",
  });
}

export async function dropProvider(context: Context, by: User): Promise<void> {
  const { settings } = await providerOrFail(context);
  await deleteProvider(context.database);
  await noteAction(context.database, by.name, "sign-in provider taken out", settings.issuer, { before: settings });
}

/** What the provider says of itself (OpenID Connect Discovery 1.0). */
async function configurationOf({ settings, secret }: KeptProvider): Promise<openid.Configuration> {
  const key = JSON.stringify([settings.issuer, settings.clientId, secret === null ? null : digestOf(secret)]);
  const found = known.get(key);
  if (found) return found;
  const issuer = new URL(settings.issuer);
  // Only on this machine is there nobody on the way who could read along.
  const isHere = ["localhost", "127.0.0.1", "[::1]"].includes(issuer.hostname);
  const options = { timeout: ANSWER_SECONDS, ...(isHere ? { execute: [openid.allowInsecureRequests] } : {}) };
  try {
    const read = await openid.discovery(issuer, settings.clientId, {}, openid.None(), options);
    const made = new openid.Configuration(read.serverMetadata(), settings.clientId, {}, clientAuth(read, secret));
    made.timeout = ANSWER_SECONDS;
    if (isHere) openid.allowInsecureRequests(made);
    known.set(key, made);
    return made;
  } catch (cause) {
    throw new CorbixError(
      "BAD_REQUEST",
      say().serviceAccess.cannotReachProvider({ issuer: settings.issuer, problem: wordsOf(cause) }),
      { where: "issuer", advice: say().serviceAccess.checkIssuer(), cause },
    );
  }
}

/** How Corbix shows who it is: by the header, as is usual (OpenID Connect Core 1.0, 9), or in the body where the provider takes nothing else. */
function clientAuth(read: openid.Configuration, secret: string | null): openid.ClientAuth {
  if (secret === null) return openid.None();
  const { token_endpoint_auth_methods_supported: methods = ["client_secret_basic"] } = read.serverMetadata();
  return methods.includes("client_secret_basic") ? openid.ClientSecretBasic(secret) : openid.ClientSecretPost(secret);
}

/** Where somebody is sent to sign in, and what their browser keeps meanwhile. `base`: the address under which Corbix is open. */
export async function beginTrip(context: Context, base: string): Promise<{ readonly to: URL; readonly kept: string }> {
  const provider = await providerOrFail(context);
  const configuration = await configurationOf(provider);
  const verifier = openid.randomPKCECodeVerifier();
  const trip: Trip = {
    state: openid.randomState(),
    nonce: openid.randomNonce(),
    verifier,
    until: context.now().getTime() + TRIP_MINUTES * 60_000,
  };
  const to = openid.buildAuthorizationUrl(configuration, {
    redirect_uri: base + PROVIDER_BACK,
    scope: provider.settings.scope,
    code_challenge: await openid.calculatePKCECodeChallenge(verifier),
    code_challenge_method: "S256",
    state: trip.state,
    nonce: trip.nonce,
  });
  return { to, kept: context.secrets.seal(JSON.stringify(trip)) };
}

/** Who comes back from the provider, and for how long they are in. Throws `NOT_SIGNED_IN` or `NOT_ALLOWED`. */
export async function finishTrip(
  context: Context,
  back: URL,
  kept: string | undefined,
): Promise<{ readonly user: ProvidedUser; readonly hours: number }> {
  const provider = await providerOrFail(context);
  const trip = kept === undefined ? undefined : readTrip(context, kept);
  if (!trip || trip.until < context.now().getTime()) throw failed(say().serviceAccess.tripIsOver());
  const configuration = await configurationOf(provider);
  const claims = await claimsOf(configuration, back, trip).catch(async (error: unknown) => {
    await noteAction(context.database, "unknown", "sign-in failed: provider", provider.settings.issuer, {
      why: wordsOf(error),
    });
    throw failed(say().serviceAccess.providerRefused({ problem: wordsOf(error) }));
  });
  const user = await userOf(context, provider.settings, claims);
  return { user, hours: provider.settings.sessionHours };
}

function readTrip(context: Context, kept: string): Trip | undefined {
  try {
    return JSON.parse(context.secrets.open(kept)) as Trip;
  } catch {
    return undefined;
  }
}

interface Claims {
  readonly sub: string;
  readonly [name: string]: unknown;
}

async function claimsOf(configuration: openid.Configuration, back: URL, trip: Trip): Promise<Claims> {
  const tokens = await openid.authorizationCodeGrant(configuration, back, {
    pkceCodeVerifier: trip.verifier,
    expectedState: trip.state,
    expectedNonce: trip.nonce,
    idTokenExpected: true,
  });
  const told = tokens.claims();
  if (!told) throw new Error("no ID token");
  if (configuration.serverMetadata().userinfo_endpoint === undefined) return told;
  const more = await openid.fetchUserInfo(configuration, tokens.access_token, told.sub);
  return { ...more, ...told };
}

/** Whom the claims mean: known from before, invited here and known by the address, or new and of a group that may come in. */
async function userOf(context: Context, settings: SignInProvider, claims: Claims): Promise<ProvidedUser> {
  const { database } = context;
  const { issuer } = settings;
  const groups = groupsOf(settings, claims);
  const roles = rolesOf(settings, groups);
  const address = typeof claims.email === "string" ? claims.email : null;
  const isVerified = address !== null && claims.email_verified === true;
  const user =
    (await userOfProvider(database, issuer, claims.sub)) ??
    (settings.trustsAddresses && isVerified ? await tie(context, address, issuer, claims.sub) : undefined);
  const shownAs = user?.name ?? textOf(claims.preferred_username) ?? address ?? claims.sub;
  if (user?.state === "off")
    throw await refuse(context, shownAs, groups, say().serviceAccess.isSwitchedOff({ name: user.name }));
  if (user?.rolesFrom === "here") return user;
  if (Object.keys(roles).length === 0) {
    if (user) await changeRoles(context, user, roles, groups);
    throw await refuse(context, shownAs, groups, say().serviceAccess.noGroupMayCome());
  }
  if (user) return changeRoles(context, user, roles, groups);
  return addNew(context, { shownAs, shownName: textOf(claims.name) ?? null, address, roles }, issuer, claims.sub);
}

async function tie(context: Context, address: string, issuer: string, sub: string): Promise<ProvidedUser | undefined> {
  const tied = await tieByAddress(context.database, address, issuer, sub);
  if (tied) await noteAction(context.database, tied.name, "person known by provider", tied.name, { issuer, address });
  return tied;
}

async function changeRoles(
  context: Context,
  user: ProvidedUser,
  roles: Grants,
  groups: readonly string[],
): Promise<ProvidedUser> {
  if (JSON.stringify(sorted(roles)) === JSON.stringify(sorted(user.roles))) return user;
  const changed = { ...user, roles };
  // The last who could let people in stays, whatever a provider says.
  if (!(await setUserFacts(context.database, user.id, changed))) return user;
  await noteAction(context.database, user.name, "person changed by groups", user.name, {
    before: { roles: user.roles },
    after: { roles },
    groups,
  });
  await announce(context.database, { kind: "access", subject: user.name });
  return changed;
}

async function addNew(
  context: Context,
  facts: {
    readonly shownAs: string;
    readonly shownName: string | null;
    readonly address: string | null;
    readonly roles: Grants;
  },
  issuer: string,
  sub: string,
): Promise<ProvidedUser> {
  const plain =
    facts.shownAs
      .replace(/[^\p{L}\p{N}._@-]/gu, "-")
      .replace(/^[._@-]+/, "")
      .slice(0, 90) || "colleague";
  for (let number = 1; number <= MOST_NAMES; number++) {
    const name = number === 1 ? plain : `${plain}-${number}`;
    const { shownName, address, roles } = facts;
    const added = await addProvided(context.database, { name, shownName, address, roles }, issuer, sub);
    if (added) {
      await noteAction(context.database, name, "person came by provider", name, { issuer, address, roles });
      await announce(context.database, { kind: "access", subject: name });
      return added;
    }
    // Somebody who opened two windows has come in by the other one.
    const meanwhile = await userOfProvider(context.database, issuer, sub);
    if (meanwhile) return meanwhile;
  }
  throw failed(say().serviceAccess.nameIsTaken({ name: plain }));
}

async function refuse(context: Context, name: string, groups: readonly string[], what: string): Promise<CorbixError> {
  await noteAction(context.database, name.slice(0, 100), "sign-in refused: provider", what, { groups });
  return new CorbixError("NOT_ALLOWED", what, { where: "groups", advice: say().serviceAccess.askColleague() });
}

/** Groups by the claim that the provider tells them in, or by its way within others with full stops between: a list, or one text. */
export function groupsOf(
  { groupsClaim }: Pick<SignInProvider, "groupsClaim">,
  claims: Readonly<Record<string, unknown>>,
): readonly string[] {
  const told = claims[groupsClaim] ?? within(claims, groupsClaim.split("."));
  if (typeof told === "string") return [told];
  return Array.isArray(told) ? told.filter((one): one is string => typeof one === "string") : [];
}

function within(value: unknown, [first, ...rest]: readonly string[]): unknown {
  if (first === undefined) return value;
  if (value === null || typeof value !== "object") return undefined;
  return within((value as Readonly<Record<string, unknown>>)[first], rest);
}

/** What all of somebody's groups let them do, together. */
export function rolesOf({ groups }: Pick<SignInProvider, "groups">, held: readonly string[]): Grants {
  const roles: Record<string, "all" | string[]> = {};
  for (const { group, roles: given } of groups) {
    if (!held.includes(group)) continue;
    for (const [role, scope] of Object.entries(given)) {
      const before = roles[role];
      if (scope === undefined || before === "all") continue;
      roles[role] = scope === "all" ? "all" : [...new Set([...(before ?? []), ...scope])];
    }
  }
  return roles;
}

function sorted(roles: Grants): object {
  return Object.fromEntries(
    Object.entries(roles)
      .sort(([one], [other]) => (one < other ? -1 : 1))
      .map(([role, scope]) => [role, Array.isArray(scope) ? [...scope].sort() : scope]),
  );
}

function textOf(claim: unknown): string | undefined {
  return typeof claim === "string" && claim.trim() !== "" ? claim.trim() : undefined;
}

function failed(what: string): CorbixError {
  return new CorbixError("NOT_SIGNED_IN", what, { advice: say().serviceAccess.tryProviderAgain() });
}

/** The provider says that somebody has left it (OpenID Connect Back-Channel Logout 1.0): their sessions end. Throws `BAD_REQUEST`. */
export async function endByProvider(context: Context, logoutToken: string): Promise<number> {
  const provider = await providerOrFail(context);
  const { settings } = provider;
  const { jwks_uri: keys } = (await configurationOf(provider)).serverMetadata();
  const refused = (cause?: unknown): CorbixError =>
    new CorbixError("BAD_REQUEST", say().serviceAccess.logoutNotGood(), { where: "logout_token", cause });
  if (keys === undefined) throw refused();
  const keySet = keySets.get(keys) ?? createRemoteJWKSet(new URL(keys));
  keySets.set(keys, keySet);
  const { payload } = await jwtVerify(logoutToken, keySet, {
    issuer: settings.issuer,
    audience: settings.clientId,
    requiredClaims: ["iat", "jti", "sub", "events"],
    maxTokenAge: `${TRIP_MINUTES} minutes`,
    currentDate: context.now(),
  }).catch((cause: unknown) => {
    throw refused(cause);
  });
  const events = payload.events as Readonly<Record<string, unknown>> | undefined;
  if (typeof events?.[LOGOUT_EVENT] !== "object" || payload.nonce !== undefined) throw refused();
  const until = new Date(context.now().getTime() + 2 * TRIP_MINUTES * 60_000);
  if (!(await spendChallenge(context.database, digestOf(`logout ${payload.jti}`), until))) throw refused();
  const user = await userOfProvider(context.database, settings.issuer, payload.sub ?? "");
  if (!user) return 0;
  const ended = await endSessionsByWay(context.database, user.id, "provider");
  await noteAction(context.database, user.name, "sessions ended by provider", user.name, { ended });
  await announce(context.database, { kind: "access", subject: user.name });
  return ended;
}
