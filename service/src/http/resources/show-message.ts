import type { AttemptRow, ListedMessage } from "../../records/index.js";
import { iso } from "../handler.js";

/** What is the same of a message wherever it is shown. */
export function showMessage(one: Omit<ListedMessage, "parcelId">) {
  return {
    id: one.id,
    part: one.part,
    subject: one.subject,
    envelope: one.envelope,
    messageId: one.messageId,
    identity: one.identity,
    way: one.way,
    state: one.state,
    attempts: one.attempts,
    response: one.response,
    results: one.results,
    again: one.again,
    againReason: one.againReason,
    size: one.size,
    sentAt: iso(one.sentAt),
  };
}

export function showAttempt({ startedAt, finishedAt, ...facts }: AttemptRow) {
  return { ...facts, startedAt: iso(startedAt), finishedAt: iso(finishedAt) };
}
