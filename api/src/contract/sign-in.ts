/** How somebody signs in: by password and second factor, by passkey, by the office's own provider; and how they look after that. */
import { z } from "zod";
import { count, instant, page, paging, whole } from "./common.js";
import { endpoint } from "./endpoint.js";
import { bySession, grants, ok, password } from "./people.js";

/** Read before anybody is known. */
const SMALL = 10_000;
/** What a browser tells of a passkey. */
const PASSKEY_LIMIT = 100_000;

const signedIn = z.strictObject({ name: z.string() });
const code = z
  .string()
  .trim()
  .min(6)
  .max(40)
  .describe("Six digits of the authenticator, or a recovery code, which works once.");
/** What Web Authentication calls options and responses: made and read by the browser. */
const fromBrowser = z.record(z.string(), z.unknown());
const state = z.string().max(2_000).describe("As it came with the options; good for five minutes, once.");
const toBrowser = z.strictObject({ options: fromBrowser, state: z.string() }).meta({ id: "PasskeyOptions" });

const factors = z
  .strictObject({
    hasPassword: z.boolean(),
    authenticatorSince: instant.nullable().describe("Since when codes of an authenticator are asked for."),
    recoveryCodes: count.describe("Those that are left."),
    passkeys: count,
    mayHavePasskeys: z.boolean().describe("Whether Corbix is open under an address that passkeys can be of."),
  })
  .meta({ id: "Factors" });

const passkey = z
  .strictObject({ id: whole, name: z.string(), createdAt: instant, usedAt: instant.nullable() })
  .meta({ id: "Passkey" });

/** Told once; empty where there are some of before. */
const recoveryCodes = z.array(z.string());
/** The password once more, by whoever has one. */
const again = z.strictObject({ password: password.optional() });

export const signInProvider = z.strictObject({
  title: z.string().trim().min(1).max(100).describe("What the button says: `Sign in by …`."),
  issuer: z
    .url({ protocol: /^https?$/ })
    .max(500)
    .describe("As the provider calls itself, such as https://id.lifts.example."),
  clientId: z.string().trim().min(1).max(500),
  scope: z
    .string()
    .trim()
    .regex(/(^| )openid( |$)/, "expected `openid` among the scopes, such as openid profile email groups")
    .max(500)
    .default("openid profile email"),
  groupsClaim: z
    .string()
    .trim()
    .min(1)
    .max(100)
    .default("groups")
    .describe("The claim that tells somebody's groups; of one within others the way to it, such as `access.roles`."),
  groups: z
    .array(z.strictObject({ group: z.string().trim().min(1).max(300), roles: grants }))
    .max(200)
    .default([])
    .describe("What people of each group may do. Who is of several may do all of it; who is of none does not come in."),
  trustsAddresses: z
    .boolean()
    .default(false)
    .describe(
      "Whether people who were invited here are known by their mail address, where the provider has verified it.",
    ),
  sessionHours: whole
    .min(1)
    .max(336)
    .default(12)
    .describe("How long somebody is in before they come by the provider again."),
});
export type SignInProvider = z.output<typeof signInProvider>;

const keptProvider = z
  .strictObject({
    settings: signInProvider,
    hasSecret: z.boolean(),
    back: z.url().describe("The address that the provider has to know to send people back to."),
    ended: z.url().describe("The address that the provider may tell of people who have signed out there or left."),
  })
  .meta({ id: "KeptSignInProvider" });

export const signInEndpoints = {
  signIn: endpoint("post", "/session", {
    summary: "Sign in; the answer sets the console's cookie",
    tag: "Access",
    body: z.strictObject({ name: z.string().max(200), password, code: code.optional() }),
    answer: signedIn,
    statuses: [201],
    isOpen: true,
    limit: SMALL,
  }),
  showSession: endpoint("get", "/session", { summary: "Who is signed in", tag: "Access", answer: signedIn }),
  signOut: endpoint("delete", "/session", { summary: "Sign out", tag: "Access", answer: ok }),
  showWaysIn: endpoint("get", "/session/ways", {
    summary: "How one can sign in here",
    tag: "Access",
    answer: z.strictObject({
      provider: z.strictObject({ title: z.string(), address: z.string() }).nullable(),
      passkeys: z.boolean(),
    }),
    isOpen: true,
  }),
  beginPasskeySignIn: endpoint("post", "/session/passkey/options", {
    summary: "What a browser needs to sign in by passkey",
    tag: "Access",
    answer: toBrowser,
    isOpen: true,
    limit: SMALL,
  }),
  signInByPasskey: endpoint("post", "/session/passkey", {
    summary: "Sign in by what the browser made of the options",
    tag: "Access",
    body: z.strictObject({ state, response: fromBrowser }),
    answer: signedIn,
    statuses: [201],
    isOpen: true,
    limit: PASSKEY_LIMIT,
  }),
  changePassword: endpoint("put", "/self/password", {
    summary: "Change one's password; all other sessions end",
    tag: "Access",
    body: z.strictObject({ old: password, new: password }),
    answer: ok,
    limit: SMALL,
  }),
  showFactors: endpoint("get", "/self/factors", { summary: "What one signs in with", tag: "Access", answer: factors }),
  beginAuthenticator: endpoint("post", "/self/authenticator", {
    summary: "A secret for an authenticator (TOTP, RFC 6238); it counts once its first code was given",
    tag: "Access",
    body: again,
    answer: z.strictObject({ secret: z.string(), uri: z.string().describe("What the authenticator scans.") }),
    limit: SMALL,
  }),
  addAuthenticator: endpoint("put", "/self/authenticator", {
    summary: "The first code of a new authenticator: from now on one is asked for at each sign-in",
    tag: "Access",
    body: z.strictObject({ code }),
    answer: z.strictObject({ recoveryCodes }),
    limit: SMALL,
  }),
  dropAuthenticator: endpoint("post", "/self/authenticator/off", {
    summary: "Do without the authenticator",
    tag: "Access",
    body: again,
    answer: ok,
    limit: SMALL,
  }),
  makeRecoveryCodes: endpoint("post", "/self/recovery-codes", {
    summary: "Other recovery codes in place of those before",
    tag: "Access",
    body: again,
    answer: z.strictObject({ recoveryCodes }),
    limit: SMALL,
  }),
  listPasskeys: endpoint("get", "/self/passkeys", {
    summary: "One's passkeys",
    tag: "Access",
    query: paging,
    answer: page(passkey),
  }),
  beginPasskey: endpoint("post", "/self/passkeys/options", {
    summary: "What a browser needs to make a passkey",
    tag: "Access",
    body: again,
    answer: toBrowser,
    limit: SMALL,
  }),
  addPasskey: endpoint("post", "/self/passkeys", {
    summary: "Keep the passkey that the browser made",
    tag: "Access",
    body: z.strictObject({ state, name: z.string().trim().min(1).max(100), response: fromBrowser }),
    answer: z.strictObject({ id: whole, recoveryCodes }),
    statuses: [201],
    limit: PASSKEY_LIMIT,
  }),
  dropPasskey: endpoint("post", "/self/passkeys/{id}/off", {
    summary: "Take a passkey out",
    tag: "Access",
    params: bySession,
    body: again,
    answer: ok,
    limit: SMALL,
  }),
  showProvider: endpoint("get", "/sign-in-provider", {
    summary: "The office's own provider of sign-ins",
    tag: "People",
    answer: keptProvider,
  }),
  saveProvider: endpoint("put", "/sign-in-provider", {
    summary: "Let people sign in by the office's own provider (OpenID Connect), which has to answer",
    tag: "People",
    body: z.strictObject({
      settings: signInProvider,
      secret: z.string().max(1_000).optional().describe("The client's secret; the one that is kept stays without it."),
    }),
    answer: keptProvider,
  }),
  deleteProvider: endpoint("delete", "/sign-in-provider", {
    summary: "Let nobody sign in by the provider any more; sessions go on",
    tag: "People",
    answer: ok,
  }),
};
