import type { signInEndpoints } from "@corbix/api";
import type { Request } from "express";
import { removeToken } from "../../access/access.js";
import {
  beginPasskey,
  beginPasskeySignIn,
  dropPasskey,
  finishPasskey,
  finishPasskeySignIn,
  passkeySite,
} from "../../access/passkeys.js";
import { changePassword } from "../../access/people.js";
import {
  changeProvider,
  dropProvider,
  getProvider,
  PROVIDER_BACK,
  PROVIDER_ENDED,
  providerOrFail,
} from "../../access/provider.js";
import {
  afterNewFactor,
  beginTotp,
  checkAgain,
  endTotp,
  finishTotp,
  newRecoveryCodes,
} from "../../access/second-factor.js";
import { checkSignIn, triesFrom } from "../../access/sign-in.js";
import { Tries } from "../../access/tries.js";
import { noteAction } from "../../audit/audit.js";
import { monotonicMs } from "../../process/clock.js";
import type { Context } from "../../process/context.js";
import { factorsOf, pageOfPasskeys } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";
import { baseOf, PROVIDER_START } from "../provider-pages.js";
import { cookieOf, openSession, SESSION_COOKIE, sessionToken } from "../session-cookie.js";

export function signInHandlers(context: Context): HandlersOf<typeof signInEndpoints> {
  const tries = new Tries(context.database, monotonicMs);
  const siteOf = (request: Request) => passkeySite(context.settings.publicUrl, request.get("host") ?? "");
  return {
    signIn: async ({ body, request, response, created }) => {
      const { user, way } = await checkSignIn(context, tries, { code: undefined, ...body }, request.ip ?? "");
      await openSession(context, user, request, response, { way });
      await noteAction(context.database, user.name, "signed in", request.ip ?? "", { way });
      created("/session");
      return { name: user.name };
    },

    showSession: async ({ user }) => ({ name: user.name }),

    signOut: async ({ request, response, user }) => {
      const token = sessionToken(request);
      if (token) await removeToken(context.database, token);
      await noteAction(context.database, user.name, "signed out", request.ip ?? "");
      response.clearCookie(SESSION_COOKIE, cookieOf(context.settings));
      return { ok: true };
    },

    showWaysIn: async ({ request }) => {
      const provider = await getProvider(context);
      return {
        provider: provider ? { title: provider.settings.title, address: PROVIDER_START } : null,
        passkeys: siteOf(request) !== undefined,
      };
    },

    beginPasskeySignIn: async ({ request }) => toBrowser(await beginPasskeySignIn(context, siteOf(request))),

    signInByPasskey: async ({ body, request, response, created }) => {
      const counted = triesFrom(request.ip ?? "");
      await tries.check([counted]);
      const user = await finishPasskeySignIn(context, siteOf(request), body);
      await tries.forget([counted.key]);
      await openSession(context, user, request, response, { way: "passkey" });
      await noteAction(context.database, user.name, "signed in", request.ip ?? "", { way: "passkey" });
      created("/session");
      return { name: user.name };
    },

    changePassword: async ({ user, body }) => {
      await checkAgain(context, tries, user, body.old, "old");
      await changePassword(context, user, body.new);
      return { ok: true };
    },

    showFactors: async ({ user, request }) => {
      const { hasPassword, totpSince, recoveryCodes, passkeys } = await factorsOf(context.database, user.id);
      const mayHavePasskeys = siteOf(request) !== undefined;
      return { hasPassword, authenticatorSince: iso(totpSince), recoveryCodes, passkeys, mayHavePasskeys };
    },

    beginAuthenticator: async ({ user, body }) => {
      await checkAgain(context, tries, user, body.password);
      return beginTotp(context, user);
    },

    addAuthenticator: async ({ user, body }) => ({
      recoveryCodes: [...(await finishTotp(context, tries, user, body.code))],
    }),

    dropAuthenticator: async ({ user, body }) => {
      await checkAgain(context, tries, user, body.password);
      await endTotp(context, user);
      return { ok: true };
    },

    makeRecoveryCodes: async ({ user, body }) => {
      await checkAgain(context, tries, user, body.password);
      return { recoveryCodes: [...(await newRecoveryCodes(context, user))] };
    },

    listPasskeys: async ({ user, query }) => {
      const { items, next } = await pageOfPasskeys(context.database, user.id, query);
      const shown = items.map(({ id, name, createdAt, usedAt }) => ({
        id,
        name,
        createdAt: iso(createdAt),
        usedAt: iso(usedAt),
      }));
      return { items: shown, next };
    },

    beginPasskey: async ({ user, body, request }) => {
      await checkAgain(context, tries, user, body.password);
      return toBrowser(await beginPasskey(context, siteOf(request), user));
    },

    addPasskey: async ({ user, body, request, created }) => {
      const id = await finishPasskey(context, siteOf(request), user, body);
      created(`/self/passkeys/${id}`);
      return { id, recoveryCodes: [...(await afterNewFactor(context, user))] };
    },

    dropPasskey: async ({ user, params, body }) => {
      await checkAgain(context, tries, user, body.password);
      await dropPasskey(context, user, params.id);
      return { ok: true };
    },

    showProvider: async ({ request }) => showProvider(context, request),

    saveProvider: async ({ user, body, request }) => {
      await changeProvider(context, body.settings, body.secret, user);
      return showProvider(context, request);
    },

    deleteProvider: async ({ user }) => {
      await dropProvider(context, user);
      return { ok: true };
    },
  };
}

function toBrowser({ options, state }: { readonly options: object; readonly state: string }) {
  return { options: { ...options }, state };
}

async function showProvider(context: Context, request: Request) {
  const { settings, secret } = await providerOrFail(context);
  const base = baseOf(context, request);
  return { settings, hasSecret: secret !== null, back: base + PROVIDER_BACK, ended: base + PROVIDER_ENDED };
}
