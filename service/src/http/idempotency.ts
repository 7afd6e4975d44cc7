import { createHash } from "node:crypto";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { giveBackKey, type KeptCall, keepAnswer, takeKey } from "../records/index.js";
import type { Call, Route } from "./handler.js";

const MAX_KEY = 200;

/**
 * Does a call once for each key of its caller's: the same call again is answered as the first time, another call with the same key is
 * refused. A call that failed may be tried again with its key. Throws `BAD_REQUEST`, `KEY_REUSED` or `CONFLICT`.
 */
export async function once(context: Context, route: Route, call: Call, work: () => Promise<unknown>): Promise<unknown> {
  const key = call.request.headers["idempotency-key"];
  if (!route.endpoint.isOnce || key === undefined) return work();
  if (typeof key !== "string" || key === "" || key.length > MAX_KEY)
    throw new CorbixError("BAD_REQUEST", say().serviceHttp.cannotUseIdempotencyKeyExpected({ maxKey: MAX_KEY }), {
      where: "Idempotency-Key",
    });
  const { database } = context;
  const { id: user } = call.user;
  const request = requestDigest(call);
  const known = await takeKey(database, user, key, { request, process: context.process });
  if (known) return answerAgain(known, request, call);
  let answer: unknown;
  try {
    answer = await work();
  } catch (error) {
    await giveBackKey(database, user, key);
    throw error;
  }
  const { response } = call;
  await keepAnswer(database, user, key, {
    status: response.statusCode,
    location: headerText(response.getHeader("Location")),
    etag: headerText(response.getHeader("ETag")),
    answer,
  });
  return answer;
}

function answerAgain(known: KeptCall, request: string, { response }: Call): unknown {
  if (known.request !== request)
    throw new CorbixError("KEY_REUSED", say().serviceHttp.cannotUseIdempotencyKeyAnother(), {
      where: "Idempotency-Key",
      advice: say().serviceHttp.giveEachCallKeyOwn(),
    });
  if (known.status === null)
    throw new CorbixError("CONFLICT", say().serviceHttp.cannotAnswerYetCallIdempotency(), {
      where: "Idempotency-Key",
      advice: say().serviceHttp.tryAgainMomentIfStays(),
    });
  response.status(known.status).setHeader("Idempotency-Replayed", "true");
  if (known.location !== null) response.setHeader("Location", known.location);
  if (known.etag !== null) response.setHeader("ETag", known.etag);
  return known.answer;
}

/** A body that is a stream has not been read yet: it is told apart by its length alone. */
function requestDigest({ request, body }: Call): string {
  const sent = body instanceof Uint8Array || typeof body === "string" ? body : JSON.stringify(body ?? null);
  return createHash("sha256")
    .update(`${request.method} ${request.originalUrl}\n${request.headers["content-length"] ?? ""}\n`)
    .update(sent)
    .digest("hex");
}

function headerText(value: string | number | readonly string[] | undefined): string | null {
  return typeof value === "string" ? value : null;
}
