/** The messages a group's people get, before a word of them is written: which parts there are, and whom each goes to. */
import { type Envelope, envelopeOf, type MessagePart, messageParts } from "../message/index.js";
import type { Recipient } from "../recipients/index.js";
import { fixedCopies, type Report } from "../report/index.js";

export interface PlannedMessage {
  readonly part: MessagePart;
  readonly envelope: Envelope;
}

function fixedAddresses(copies: Report["delivery"]["copies"]): { address: string }[] {
  return fixedCopies(copies).map((address) => ({ address }));
}

/** Copies that a report always sends go with the first. None where the report has no message, or nobody reads it. */
export function plannedMessages(report: Report, recipients: readonly Recipient[]): PlannedMessage[] {
  const { message, delivery } = report;
  if (!message) return [];
  // A page of links is one person's.
  const each = delivery.files === "link" ? "person" : message.each;
  const always = {
    copies: fixedAddresses(delivery.copies),
    blindCopies: fixedAddresses(delivery.blindCopies),
  };
  return messageParts(recipients, { each, languages: Object.keys(message.languages) }).map((part, index) => ({
    part,
    envelope: envelopeOf(part.recipients, index === 0 ? always : {}),
  }));
}
