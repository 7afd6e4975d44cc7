import type { peopleEndpoints } from "@corbix/api";
import { lacksFactor, type User } from "../../access/access.js";
import {
  acceptInvitation,
  changePerson,
  changeSelf,
  checkOwnMatter,
  endSessions,
  endToken,
  getPerson,
  type Invited,
  invitationOf,
  inviteAgain,
  invitePerson,
  makeToken,
  ownToken,
  rotateToken,
  switchPerson,
} from "../../access/people.js";
import { grantsNow } from "../../access/rights.js";
import { dropFactors, needsFactor } from "../../access/second-factor.js";
import type { Context } from "../../process/context.js";
import { type ListedUser, pageOfUsers, type TokenRow, tokensOf, type UserRow } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";
import { openSession } from "../session-cookie.js";

export const peopleHandlers: HandlersOf<typeof peopleEndpoints> = {
  showSelf: ({ context, user }) => showSelf(context, user),

  changeSelf: async ({ context, user, body }) => {
    await changeSelf(context, user, given(body));
    return showSelf(context, { ...user, ...given(body) });
  },

  listSessions: async ({ context, user, query }) => {
    const { items, next } = await tokensOf(context.database, "session", user.id, query);
    return { items: items.map((one) => showSession(one, user)), next };
  },

  endSession: async ({ context, user, params }) => {
    await endToken(context, await ownToken(context, params.id, user, "session"), user.name);
    return { ok: true };
  },

  endOtherSessions: async ({ context, user }) => ({
    ended: await endSessions(context, user, user.token?.kind === "session" ? user.token.id : null, user.name),
  }),

  listTokens: async ({ context, user, query }) => {
    const whose = user.grants.operate === "all" ? undefined : user.id;
    const { items, next } = await tokensOf(context.database, "client", whose, query);
    return { items: items.map(showToken), next };
  },

  addToken: async ({ context, user, body, created }) => {
    const { id, secret } = await makeToken(context, user, body);
    created(`/tokens/${id}`);
    return { token: showToken(await ownToken(context, id, user, "client")), secret };
  },

  rotateToken: async ({ context, user, params, body }) => {
    const token = await ownToken(context, params.id, user, "client");
    const secret = await rotateToken(context, token, body.keepHours, user.name);
    return { token: showToken(await ownToken(context, params.id, user, "client")), secret };
  },

  revokeToken: async ({ context, user, params }) => {
    await endToken(context, await ownToken(context, params.id, user, "client"), user.name);
    return { ok: true };
  },

  showInvitation: async ({ context, params }) => {
    const { name, shownName, until } = await invitationOf(context, params.secret);
    return { name, shownName: shownName ?? name, until: iso(until) };
  },

  acceptInvitation: async ({ context, params, body, request, response, created }) => {
    const user = await acceptInvitation(context, params.secret, body.password);
    // A link stands for the password, and for nothing that is asked besides.
    const isIn = !(await needsFactor(context, user));
    if (isIn) await openSession(context, user, request, response, { way: "password" });
    created(isIn ? "/session" : "/session/ways");
    return { name: user.name, isIn };
  },

  listPeople: async ({ context, query: { search, ...wish } }) => {
    const { items, next } = await pageOfUsers(context.database, search, wish);
    return { items: items.map(showPerson), next };
  },

  showPerson: async ({ context, params }) => showPerson(await getPerson(context, params.person)),

  invitePerson: async ({ context, body, user, created }) => {
    const invited = await invitePerson(context, given(body), user);
    created(`/people/${encodeURIComponent(invited.person.name)}`);
    return showInvited(invited);
  },

  changePerson: async ({ context, params, body, user }) =>
    showPerson(await changePerson(context, params.person, given(body), user)),

  inviteAgain: async ({ context, params, body, user, created }) => {
    created(`/people/${encodeURIComponent(params.person)}`);
    return showInvited(await inviteAgain(context, params.person, body, user));
  },

  switchOff: async ({ context, params, user }) => showPerson(await switchPerson(context, params.person, true, user)),

  switchOn: async ({ context, params, user }) => showPerson(await switchPerson(context, params.person, false, user)),

  endSessionsOf: async ({ context, params, user }) => ({
    ended: await endOf(context, params.person, user),
  }),

  dropFactorsOf: async ({ context, params, user }) => {
    const person = await getPerson(context, params.person);
    checkOwnMatter(person, user);
    await dropFactors(context, person, user.name);
    await endSessions(context, person, null, user.name);
    return showPerson(await getPerson(context, params.person));
  },
};

async function endOf(context: Context, name: string, user: User): Promise<number> {
  return endSessions(context, await getPerson(context, name), null, user.name);
}

/** What was said, without what was not. */
function given<Body extends object>(body: Body): { [Key in keyof Body]: Exclude<Body[Key], undefined> } {
  return Object.fromEntries(Object.entries(body).filter(([, value]) => value !== undefined)) as {
    [Key in keyof Body]: Exclude<Body[Key], undefined>;
  };
}

async function showSelf(context: Context, user: User) {
  const { name, shownName, address, language, zone, grants } = user;
  const roles = shownRoles(await grantsNow(context, grants));
  const mustAddFactor = lacksFactor(context, user.token);
  return { name, shownName: shownName ?? name, address, language, zone, roles, mustAddFactor };
}

function shownRoles({ look, prepare, release, operate, ask }: UserRow["roles"]) {
  return {
    ...(look === undefined ? {} : { look }),
    ...(prepare === undefined ? {} : { prepare }),
    ...(release === undefined ? {} : { release }),
    ...(operate === "all" ? { operate: "all" as const } : {}),
    ...(ask === undefined ? {} : { ask }),
  };
}

function showPerson({ id: _, shownName, roles, signedInAt, createdAt, ...person }: ListedUser) {
  return {
    ...person,
    shownName: shownName ?? person.name,
    roles: shownRoles(roles),
    signedInAt: iso(signedInAt),
    createdAt: iso(createdAt),
  };
}

function showInvited({ person, link, until, mail }: Invited) {
  return { person: showPerson(person), link, until: iso(until), ...mail };
}

function showSession({ id, openedFrom, agent, way, createdAt, usedAt, expiresAt }: TokenRow, user: User) {
  return {
    id,
    isThis: user.token?.id === id,
    from: openedFrom,
    agent,
    way,
    createdAt: iso(createdAt),
    usedAt: iso(usedAt),
    expiresAt: iso(expiresAt),
  };
}

function showToken({ id, name, person, roles, perMinute, createdAt, expiresAt, usedAt, usedFrom }: TokenRow) {
  return {
    id,
    name: name ?? "",
    person,
    roles: roles === null ? null : shownRoles(roles),
    perMinute,
    createdAt: iso(createdAt),
    expiresAt: iso(expiresAt),
    usedAt: iso(usedAt),
    usedFrom,
  };
}
