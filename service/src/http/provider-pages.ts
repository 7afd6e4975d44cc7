/** The way to the office's own provider of sign-ins and back: addresses that a browser is sent to, and one that the provider calls. */
import { CorbixError } from "@corbix/core/common";
import { escapeHtml } from "@corbix/core/message";
import { say } from "@corbix/core/words";
import { parse } from "cookie";
import express, { type Express, type Request, type Response } from "express";
import { beginTrip, endByProvider, finishTrip, PROVIDER_BACK, PROVIDER_ENDED } from "../access/provider.js";
import { Tries } from "../access/tries.js";
import { noteAction } from "../audit/audit.js";
import { callingFrom } from "../audit/caller.js";
import { monotonicMs } from "../process/clock.js";
import type { Context } from "../process/context.js";
import { plainPage } from "./plain-page.js";
import { cookieOf, openSession } from "./session-cookie.js";

export const PROVIDER_START = "/sign-in/provider";
const COOKIE = "corbix_trip";
const COOKIE_MS = 15 * 60_000;
const LOGOUT_LIMIT = 20_000;
/** Times a minute that somebody may come back, or the provider call, from one address: a house full of people has one. */
const MOST_FROM = 60;

/** The address under which Corbix is open in this browser. */
export function baseOf({ settings }: Context, request: Request): string {
  return settings.publicUrl ?? `${request.protocol}://${request.get("host") ?? ""}`;
}

export function serveProvider(app: Express, context: Context): void {
  // It comes back from elsewhere: such a cookie is sent along by a browser only where it is lax.
  const cookie = { ...cookieOf(context.settings), sameSite: "lax", path: "/sign-in" } as const;

  const tries = new Tries(context.database, monotonicMs);
  const count = (request: Request): Promise<void> =>
    tries.check([{ key: `provider from ${request.ip ?? ""}`, most: MOST_FROM, seconds: 60 }]);

  app.get(PROVIDER_START, (request, response) =>
    onTheWay(request, response, async () => {
      const { to, kept } = await beginTrip(context, baseOf(context, request));
      response.cookie(COOKIE, kept, { ...cookie, maxAge: COOKIE_MS });
      response.setHeader("Cache-Control", "no-store").redirect(303, to.href);
    }),
  );

  app.get(PROVIDER_BACK, (request, response) =>
    onTheWay(request, response, async () => {
      await count(request);
      const kept = parse(request.headers.cookie ?? "")[COOKIE];
      response.clearCookie(COOKIE, cookie);
      const back = new URL(baseOf(context, request) + request.originalUrl);
      const { user, hours } = await finishTrip(context, back, kept);
      await openSession(context, user, request, response, { way: "provider", days: hours / 24 });
      await noteAction(context.database, user.name, "signed in", request.ip ?? "", { way: "provider" });
      // The address holds a code: it stays nowhere. The session's cookie goes along with calls of our own pages only, so one is shown first.
      response
        .setHeader("Cache-Control", "no-store")
        .setHeader("Referrer-Policy", "no-referrer")
        .redirect(303, `${context.settings.publicUrl ?? ""}/`);
    }),
  );

  app.post(PROVIDER_ENDED, express.urlencoded({ extended: false, limit: LOGOUT_LIMIT }), (request, response, next) => {
    const { logout_token: token } = (request.body ?? {}) as { readonly logout_token?: unknown };
    callingFrom(request.ip ?? "", () =>
      count(request)
        .then(() => endByProvider(context, typeof token === "string" ? token : ""))
        .then(() => response.setHeader("Cache-Control", "no-store").status(200).end(), next),
    );
  });
}

/** What goes wrong is told as a page, with the way back. */
async function onTheWay(request: Request, response: Response, work: () => Promise<void>): Promise<void> {
  try {
    await callingFrom(request.ip ?? "", work);
  } catch (error) {
    if (!(error instanceof CorbixError) || response.headersSent) throw error;
    const words = say().serviceAccess;
    const told = [error.message, error.advice].filter(Boolean).map((text) => `<p>${escapeHtml(text ?? "")}</p>`);
    response
      .status(error.status)
      .setHeader("Cache-Control", "no-store")
      .type("html")
      .send(
        plainPage(
          escapeHtml(words.notSignedIn()),
          `${told.join("")}<p><a href="/">${escapeHtml(words.backToSignIn())}</a></p>`,
        ),
      );
  }
}
