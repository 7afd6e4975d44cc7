import { parse } from "cookie";
import type { Request } from "express";

export const SESSION_COOKIE = "corbix_session";

/** The token that a browser sends along; `undefined` without a sign-in. */
export function sessionToken(request: Request): string | undefined {
  return parse(request.headers.cookie ?? "")[SESSION_COOKIE];
}
