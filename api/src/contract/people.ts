/** People, their sessions and tokens, and how they come in. */
import { z } from "zod";
import { count, instant, page, paging, whole } from "./common.js";
import { endpoint } from "./endpoint.js";
import type { Role } from "./rights.js";

/** What somebody signs in with, and what stands in the trail. */
const personName = z
  .string()
  .regex(/^[\p{L}\p{N}][\p{L}\p{N}._@-]{0,99}$/u, "expected a name of letters, digits and . _ @ -, such as ann.brook");
const shownName = z.string().trim().min(1).max(200);
const address = z.email().max(320);
const language = z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, "expected a language, such as en or de-AT");
const zone = z.string().refine(isZone, "expected a time zone, such as Europe/Berlin");

function isZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat("en", { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

const scope = z.union([z.literal("all"), z.array(z.string().min(1).max(200)).min(1).max(1_000)]);
export const grants = z
  .strictObject({
    look: scope.optional(),
    prepare: scope.optional(),
    release: scope.optional(),
    operate: z.literal("all").optional(),
    ask: scope.optional(),
  } satisfies Record<Role, z.ZodType>)
  .describe(
    "By role `all`, or the reports it is for. Who may prepare or release may look too, and who may look may ask.",
  );

export const password = z.string().max(200);

const person = z
  .strictObject({
    name: personName,
    shownName: z.string(),
    address: z.string().nullable(),
    language: z.string().nullable(),
    zone: z.string().nullable(),
    roles: grants,
    state: z.enum(["invited", "active", "off"]),
    hasCodes: z.boolean().describe("Whether codes of an authenticator are asked for."),
    passkeys: count,
    provider: z.string().nullable().describe("The office's own provider, for who comes by it."),
    rolesFrom: z
      .enum(["here", "groups"])
      .describe("`groups`: as their groups at the provider say, at each sign-in anew."),
    sessions: count.describe("Sessions that are open."),
    tokens: count.describe("Tokens that are good."),
    signedInAt: instant.nullable().describe("When they signed in last."),
    createdBy: z.string().nullable(),
    createdAt: instant,
  })
  .meta({ id: "Person" });

const self = z
  .strictObject({
    name: z.string(),
    shownName: z.string(),
    address: z.string().nullable(),
    language: z.string().nullable(),
    zone: z.string().nullable(),
    roles: grants.describe("What the caller may do: of a token, what its person may do too."),
    mustAddFactor: z.boolean().describe("Whether nothing may be done before a second factor was added."),
  })
  .meta({ id: "Self" });

const invitation = z
  .strictObject({
    person,
    link: z.url().describe("Works once, and is told once."),
    isMailed: z.boolean().describe("Whether it went to the person's address."),
    mailTrouble: z.string().nullable().describe("Why it did not, where that was asked for."),
    until: instant,
  })
  .meta({ id: "Invitation" });

const session = z
  .strictObject({
    id: whole,
    isThis: z.boolean().describe("Whether it is the one that asks."),
    from: z.string().nullable().describe("The address it was opened from."),
    agent: z.string().nullable().describe("The browser, as it calls itself."),
    way: z.enum(["password", "code", "passkey", "provider"]).nullable().describe("By what it was opened."),
    createdAt: instant,
    usedAt: instant.nullable(),
    expiresAt: instant.nullable(),
  })
  .meta({ id: "SignInSession" });

const token = z
  .strictObject({
    id: whole,
    name: z.string(),
    person: z.string(),
    roles: grants.nullable().describe("What it may do at most; null for all that its person may."),
    perMinute: whole.nullable(),
    createdAt: instant,
    expiresAt: instant.nullable(),
    usedAt: instant.nullable(),
    usedFrom: z.string().nullable(),
  })
  .meta({ id: "Token" });

const told = z
  .strictObject({ token, secret: z.string().describe("Told once, and kept as a digest.") })
  .meta({ id: "ToldToken" });

const byPerson = z.strictObject({ person: personName });
export const bySession = z.strictObject({ id: z.coerce.number().int().min(1) });
const byInvitation = z.strictObject({ secret: z.string().regex(/^[\w-]{20,100}$/, "expected an invitation") });
export const ok = z.strictObject({ ok: z.boolean() });
/** Read before anybody is known. */
const SMALL = 10_000;

export const peopleEndpoints = {
  showSelf: endpoint("get", "/self", {
    summary: "Who calls, and what they may do",
    tag: "Access",
    answer: self,
  }),
  changeSelf: endpoint("put", "/self", {
    summary: "Change what one is called and how one is spoken to",
    tag: "Access",
    body: z.strictObject({
      shownName: shownName.optional(),
      language: language.nullable().optional(),
      zone: zone.nullable().optional(),
    }),
    answer: self,
  }),
  listSessions: endpoint("get", "/self/sessions", {
    summary: "Where one is signed in",
    tag: "Access",
    query: paging,
    answer: page(session),
  }),
  endSession: endpoint("delete", "/self/sessions/{id}", {
    summary: "End one of one's sessions, wherever it is",
    tag: "Access",
    params: bySession,
    answer: ok,
  }),
  endOtherSessions: endpoint("delete", "/self/sessions", {
    summary: "End all of one's sessions but this one",
    tag: "Access",
    answer: z.strictObject({ ended: count }),
  }),
  listTokens: endpoint("get", "/tokens", {
    summary: "Tokens for scripts: one's own, or everybody's for who may operate",
    tag: "Access",
    query: paging,
    answer: page(token),
  }),
  addToken: endpoint("post", "/tokens", {
    summary: "Make a token for a script, for no more than one may oneself",
    tag: "Access",
    body: z.strictObject({
      name: z.string().trim().min(1).max(100),
      roles: grants.optional(),
      days: whole.min(1).max(3_660).nullable().default(366).describe("How long it works; null for ever."),
      perMinute: whole.min(1).max(100_000).nullable().default(600),
    }),
    answer: told,
    statuses: [201],
  }),
  rotateToken: endpoint("post", "/tokens/{id}/rotate", {
    summary: "Give a token another secret; the old one ends at once, or after some hours",
    tag: "Access",
    params: bySession,
    body: z.strictObject({ keepHours: z.number().min(0).max(168).default(0) }),
    answer: told,
  }),
  revokeToken: endpoint("delete", "/tokens/{id}", {
    summary: "End a token",
    tag: "Access",
    params: bySession,
    answer: ok,
  }),
  showInvitation: endpoint("get", "/invitations/{secret}", {
    summary: "Whom an invitation is for, and until when",
    tag: "Access",
    params: byInvitation,
    answer: z.strictObject({ name: z.string(), shownName: z.string(), until: instant }),
    isOpen: true,
  }),
  acceptInvitation: endpoint("post", "/invitations/{secret}", {
    summary: "Choose a password; the invitation is used up, and one is signed in unless a second factor is asked for",
    tag: "Access",
    params: byInvitation,
    body: z.strictObject({ password }),
    answer: z.strictObject({ name: z.string(), isIn: z.boolean() }),
    statuses: [201],
    isOpen: true,
    limit: SMALL,
  }),
  listPeople: endpoint("get", "/people", {
    summary: "Everybody who may sign in, may not yet, or may no more",
    tag: "People",
    query: paging.extend({ search: z.string().max(200).optional() }),
    answer: page(person),
  }),
  showPerson: endpoint("get", "/people/{person}", {
    summary: "One person",
    tag: "People",
    params: byPerson,
    answer: person,
  }),
  invitePerson: endpoint("post", "/people", {
    summary: "Add somebody, with a link by which they come in once",
    tag: "People",
    body: z.strictObject({
      name: personName,
      shownName: shownName.optional(),
      address: address.nullable().optional(),
      language: language.nullable().optional(),
      zone: zone.nullable().optional(),
      roles: grants,
      days: whole.min(1).max(60).default(7).describe("How long the link works."),
      mail: z
        .boolean()
        .default(false)
        .describe("Whether the link goes to the address by mail; it is told all the same."),
    }),
    answer: invitation,
    statuses: [201],
  }),
  changePerson: endpoint("put", "/people/{person}", {
    summary: "Change what somebody may do, or what they are called",
    tag: "People",
    params: byPerson,
    body: z.strictObject({
      shownName: shownName.optional(),
      address: address.nullable().optional(),
      language: language.nullable().optional(),
      zone: zone.nullable().optional(),
      roles: grants.optional(),
    }),
    answer: person,
  }),
  inviteAgain: endpoint("post", "/people/{person}/invitation", {
    summary: "A new link, such as for a forgotten password; links before it end",
    tag: "People",
    params: byPerson,
    body: z.strictObject({ days: whole.min(1).max(60).default(7), mail: z.boolean().default(false) }),
    answer: invitation,
    statuses: [201],
  }),
  switchOff: endpoint("post", "/people/{person}/off", {
    summary: "Switch a leaver off: sessions, tokens and links end at once",
    tag: "People",
    params: byPerson,
    answer: person,
  }),
  switchOn: endpoint("post", "/people/{person}/on", {
    summary: "Let somebody in again who was switched off; sessions and tokens do not come back",
    tag: "People",
    params: byPerson,
    answer: person,
  }),
  endSessionsOf: endpoint("delete", "/people/{person}/sessions", {
    summary: "End all sessions of somebody",
    tag: "People",
    params: byPerson,
    answer: z.strictObject({ ended: count }),
  }),
  dropFactorsOf: endpoint("delete", "/people/{person}/factors", {
    summary: "Take out authenticator, passkeys and recovery codes of somebody who has lost them; their sessions end",
    tag: "People",
    params: byPerson,
    answer: person,
  }),
};
