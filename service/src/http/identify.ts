import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Request } from "express";
import { lacksFactor, maybeUser, type User } from "../access/access.js";
import type { Context } from "../process/context.js";
import { sessionToken } from "./session-cookie.js";

/** Whose call it is: by bearer token, or by the console's cookie, which counts only for calls from our own pages. */
export async function identify(context: Context, request: Request): Promise<User> {
  const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? "")?.[1];
  const token = bearer ?? sessionToken(request);
  const user = token ? await maybeUser(context.database, token, request.ip) : undefined;
  if (!user)
    throw new CorbixError("NOT_SIGNED_IN", say().serviceHttp.cannotAnswerWithoutSign(), {
      advice: say().serviceHttp.signSendTokenAuthorizationBearer(),
    });
  if (!bearer && request.method !== "GET" && !isOwnOrigin(request))
    throw new CorbixError("NOT_ALLOWED", say().serviceHttp.cannotTakeCallAnotherSite());
  return lacksFactor(context, user.token) ? { ...user, grants: {} } : user;
}

/** Whether a call comes from a page of ours, by what the browser says of it. */
export function isOwnOrigin(request: Request): boolean {
  const { origin, host } = request.headers;
  if (origin === undefined)
    return request.headers["sec-fetch-site"] === undefined || request.headers["sec-fetch-site"] === "same-origin";
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}
