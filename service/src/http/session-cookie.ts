import { parse } from "cookie";
import type { Request, Response } from "express";
import { addToken } from "../access/access.js";
import type { Context } from "../process/context.js";
import type { Settings } from "../process/settings.js";
import { isByTls } from "../process/site.js";
import type { NewToken } from "../records/index.js";

export const SESSION_COOKIE = "corbix_session";
const AGENT_LENGTH = 300;

/** Over a public address with TLS the cookie goes over TLS only. */
export function cookieOf(settings: Pick<Settings, "publicUrl" | "tlsCertificate">) {
  return { httpOnly: true, sameSite: "strict", path: "/", secure: isByTls(settings) } as const;
}

/** Signs somebody in: a session of its own, told to the browser. */
export async function openSession(
  context: Context,
  user: { readonly id: number },
  request: Request,
  response: Response,
  opened: Pick<NewToken, "way"> & Partial<Pick<NewToken, "days">>,
): Promise<void> {
  const agent = request.get("user-agent")?.slice(0, AGENT_LENGTH) ?? null;
  const token = await addToken(context.database, user.id, "session", { from: request.ip ?? null, agent, ...opened });
  response.cookie(SESSION_COOKIE, token, cookieOf(context.settings));
}

/** The token that a browser sends along; `undefined` without a sign-in. */
export function sessionToken(request: Request): string | undefined {
  return parse(request.headers.cookie ?? "")[SESSION_COOKIE];
}
