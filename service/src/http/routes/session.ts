import { z } from "zod";
import { addToken, removeToken, SignIn } from "../../access/access.js";
import { noteAction } from "../../audit/audit.js";
import { monotonicMs } from "../../process/clock.js";
import type { Context } from "../../process/context.js";
import { type Route, route } from "../route.js";
import { SESSION_COOKIE, sessionToken } from "../session-cookie.js";

/** Name and password are short, and read before anybody is known. */
const SIGN_IN_LIMIT = 10_000;

/** Over a public address with TLS the cookie goes over TLS only. */
function cookieOf({ settings }: Context) {
  const secure = settings.publicUrl?.startsWith("https:") ?? false;
  return { httpOnly: true, sameSite: "strict", path: "/", secure } as const;
}

export function sessionRoutes(context: Context): Route[] {
  const signIn = new SignIn(context.database, monotonicMs, (name, what, address) =>
    noteAction(context.database, name.slice(0, 100), what, address),
  );
  return [
    route("get", "/api/health", {
      summary: "Whether the service and its database are well",
      tag: "Service",
      answer: z.object({ ok: z.boolean() }),
      isOpen: true,
      handle: async ({ context: { database } }) => {
        await database.select("SELECT 1");
        return { ok: true };
      },
    }),
    route("post", "/api/session", {
      summary: "Sign in; the answer sets the console's cookie",
      tag: "Access",
      body: z.object({ name: z.string().max(200), password: z.string().max(200) }),
      answer: z.object({ name: z.string() }),
      isOpen: true,
      limit: SIGN_IN_LIMIT,
      handle: async ({ body, request, response }) => {
        const user = await signIn.check(body.name, body.password, request.ip ?? "");
        response.cookie(SESSION_COOKIE, await addToken(context.database, user.id, "session"), cookieOf(context));
        return { name: user.name };
      },
    }),
    route("get", "/api/session", {
      summary: "Who is signed in",
      tag: "Access",
      answer: z.object({ name: z.string() }),
      handle: async ({ user }) => ({ name: user.name }),
    }),
    route("delete", "/api/session", {
      summary: "Sign out",
      tag: "Access",
      answer: z.object({ ok: z.boolean() }),
      handle: async ({ request, response }) => {
        const token = sessionToken(request);
        if (token) await removeToken(context.database, token);
        response.clearCookie(SESSION_COOKIE, cookieOf(context));
        return { ok: true };
      },
    }),
  ];
}
