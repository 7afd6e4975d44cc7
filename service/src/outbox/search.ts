/** What was sent to whom, when, with what, and what the server said. */

import { inflateRawSync } from "node:zlib";
import { CorbixError, made } from "@corbix/core/common";
import { secondsToSend } from "@corbix/core/message";
import { say } from "@corbix/core/words";
import { getIdentity, type Identity, identities } from "../mail/identities.js";
import type { Context } from "../process/context.js";
import {
  filesOfParcel,
  identityLoads,
  type MessageRow,
  maybeMessage,
  parcelById,
  triesInHour,
  wasDelivered,
} from "../records/index.js";
import { getRun, reportOfRun } from "../run/run-records.js";
import { composeMail, rawOf } from "./compose.js";

/** A message as .eml: the very bytes that were sent, or as it would go now. Throws `NOT_FOUND` or `FILE_MISSING`. */
export async function messageBytes(context: Context, id: string): Promise<Buffer> {
  const message = await getMessage(context, id);
  if (message.way !== null)
    throw new CorbixError("NOT_FOUND", say().serviceWays.noMessage(), {
      where: say().serviceOutbox.message({ id }),
      advice: say().serviceWays.seeFiles(),
    });
  if (message.html === "" && message.text === "")
    throw new CorbixError("NOT_FOUND", say().serviceOutbox.cannotShowMessageDeletedWhen(), {
      where: say().serviceOutbox.message({ id }),
      advice: say().serviceOutbox.reportSaysRetentionHowLong(),
    });
  if (message.mime) return rawOf(context, inflateRawSync(message.mime));
  const run = await getRun(context, message.runId);
  const [parcel, files] = await Promise.all([
    parcelById(context.database, message.parcelId).then((found) => made(found, "the parcel of a message")),
    filesOfParcel(context.database, message.parcelId),
  ]);
  const facts = {
    run,
    report: await reportOfRun(context, run),
    parcel,
    files,
    identity: await getIdentity(context, message.identity),
  };
  const earlier = await wasDelivered(context.database, {
    ...run,
    groupKey: message.groupKey,
    part: message.part,
    besides: message.id,
  });
  const isRepeat = earlier && (message.againReason ?? run.againReason) !== null;
  return (await composeMail(context, { ...message, datedAt: message.datedAt ?? context.now() }, { ...facts, isRepeat }))
    .raw;
}

export async function getMessage(context: Context, id: string): Promise<MessageRow> {
  const found = await maybeMessage(context.database, id);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceOutbox.cannotFindMessage({ id }), { where: "outbox" });
}

/** An identity with what waits for it, and when that will be done. */
export interface IdentityState extends Identity {
  readonly waiting: number;
  readonly sending: number;
  /** Messages of paused runs. */
  readonly held: number;
  readonly sentInHour: number;
  readonly secondsLeft: number | null;
}

/** Each identity with what waits and when it will be done. */
export async function identityStates(context: Context): Promise<IdentityState[]> {
  const [loads, tries, all] = await Promise.all([
    identityLoads(context.database),
    triesInHour(context.database, context.now()),
    identities(context),
  ]);
  return all.map((identity) => {
    const own = loads.find((one) => one.identity === identity.name);
    const sentInHour = tries.find((one) => one.identity === identity.name)?.count ?? 0;
    const waiting = (own?.waiting ?? 0) + (own?.sending ?? 0);
    return {
      ...identity,
      waiting: own?.waiting ?? 0,
      sending: own?.sending ?? 0,
      held: own?.paused ?? 0,
      sentInHour,
      secondsLeft: identity.paused ? null : Math.round(secondsToSend(waiting, identity.settings, sentInHour)),
    };
  });
}
